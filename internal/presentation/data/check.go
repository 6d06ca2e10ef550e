package data

import (
	"encoding/json"
	"io"

	"moatline/internal/core/judge"
	"moatline/internal/core/layout"
)

// Unread is a file that could not be read.
type Unread struct {
	Path string `json:"path"`
	Why  string `json:"why"`
}

type checkResult struct {
	Application string        `json:"application"`
	Layers      []checkLayer  `json:"layers"`
	Findings    []checkEntry  `json:"findings"`
	Unread      []Unread      `json:"unread"`
	Totals      checkTotals   `json:"totals"`
	Waivers     []checkWaiver `json:"waivers,omitempty"`
}

type checkLayer struct {
	Name  string `json:"name"`
	Ring  int    `json:"ring"` // 1 is the innermost; 0 for what lies on no ring
	Role  string `json:"role"`
	Files int    `json:"files"`
	Lines int    `json:"lines"`
}

type checkEnd struct {
	File       string `json:"file,omitempty"`
	Package    string `json:"package,omitempty"`
	Line       int    `json:"line,omitempty"`
	Column     int    `json:"column,omitempty"`
	Layer      string `json:"layer,omitempty"`
	Technology string `json:"technology,omitempty"`
	Name       string `json:"name,omitempty"`
}

type checkPlace struct {
	Line   int    `json:"line"`
	Column int    `json:"column"`
	How    string `json:"how"`
}

type checkCover struct {
	By      string `json:"by"`
	Because string `json:"because"`
	Who     string `json:"who,omitempty"`
	Until   string `json:"until,omitempty"`
}

type checkEntry struct {
	Kind        string       `json:"kind"`
	Verdict     string       `json:"verdict"`
	From        checkEnd     `json:"from"`
	To          *checkEnd    `json:"to,omitempty"`
	How         string       `json:"how,omitempty"`
	Places      []checkPlace `json:"places"`
	Chain       []string     `json:"chain"`
	Rule        string       `json:"rule"`
	Because     string       `json:"because,omitempty"`
	Remedy      string       `json:"remedy"`
	Unused      bool         `json:"unused,omitempty"`
	TypesOnly   bool         `json:"types-only,omitempty"`
	Fingerprint string       `json:"fingerprint"`
	CoveredBy   *checkCover  `json:"covered-by,omitempty"`
}

type checkTotals struct {
	Error        int `json:"error"`
	Warn         int `json:"warn"`
	Note         int `json:"note"`
	Off          int `json:"off"`
	Covered      int `json:"covered"`
	Files        int `json:"files"`
	Dependencies int `json:"dependencies"`
	Crossings    int `json:"crossings"`
}

type checkWaiver struct {
	Breach string `json:"breach"`
	Until  string `json:"until"`
	State  string `json:"state"` // expired or idle
}

// CheckInput is what the JSON of a check is made of.
type CheckInput struct {
	Judgement   *judge.Judgement
	Declaration *layout.Declaration
	Unread      []Unread
}

// CheckJSON writes the judgement as one JSON object; see
// docs/schema/check.schema.json.
func CheckJSON(w io.Writer, in CheckInput) error {
	j := in.Judgement
	out := checkResult{
		Application: in.Declaration.Application, Findings: []checkEntry{}, Unread: in.Unread,
		Totals: checkTotals{j.Totals.Error, j.Totals.Warn, j.Totals.Note, j.Totals.Off, j.Totals.Covered, j.Read.Files, j.Read.Dependencies, j.Read.Crossings},
	}
	if out.Unread == nil {
		out.Unread = []Unread{}
	}
	for _, l := range j.Layers {
		out.Layers = append(out.Layers, checkLayer{l.Layer.Name, l.Layer.Ring + 1, string(l.Layer.Role), l.Files, l.Lines})
	}
	for _, extra := range []struct {
		name string
		c    judge.LayerCount
	}{{"wiring", j.Wiring}, {"tests", j.Tests}, {"", j.Unplaced}} {
		if extra.c.Files > 0 {
			out.Layers = append(out.Layers, checkLayer{Name: extra.name, Files: extra.c.Files, Lines: extra.c.Lines})
		}
	}
	for _, f := range j.Findings {
		out.Findings = append(out.Findings, entry(f))
	}
	for _, wv := range j.Expired {
		out.Waivers = append(out.Waivers, checkWaiver{wv.Text, wv.Until.Format("2006-01-02"), "expired"})
	}
	for _, wv := range j.Idle {
		out.Waivers = append(out.Waivers, checkWaiver{wv.Text, wv.Until.Format("2006-01-02"), "idle"})
	}
	return writeJSON(w, out)
}

// FindingJSON writes one finding, as it stands in the JSON of a check.
func FindingJSON(w io.Writer, f *judge.Finding) error { return writeJSON(w, entry(f)) }

func writeJSON(w io.Writer, v any) error {
	enc := json.NewEncoder(w)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	return enc.Encode(v)
}

func entry(f *judge.Finding) checkEntry {
	e := checkEntry{
		Kind: f.Kind, Verdict: string(f.Verdict), From: end(f.From), Places: []checkPlace{}, Chain: []string{},
		Rule: f.Rule, Because: f.Because, Remedy: f.Remedy, Unused: f.Unused, TypesOnly: f.TypesOnly, Fingerprint: f.Fingerprint,
	}
	e.Chain = append(e.Chain, f.Chain...)
	if f.To != (judge.End{}) {
		to := end(f.To)
		e.To = &to
	}
	for _, p := range f.Places {
		e.Places = append(e.Places, checkPlace{p.Line, p.Column, p.How.String()})
	}
	if len(f.Places) > 0 {
		e.How = f.Places[0].How.String()
	}
	if c := f.CoveredBy; c != nil {
		e.CoveredBy = &checkCover{c.By, c.Because, c.Who, c.Until}
	}
	return e
}

func end(e judge.End) checkEnd {
	return checkEnd{File: e.File, Package: e.Package, Line: e.Line, Column: e.Column, Layer: e.Layer, Technology: e.Technology, Name: e.Name}
}
