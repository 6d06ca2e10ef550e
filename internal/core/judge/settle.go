package judge

import (
	"moatline/internal/core/layout"
)

// settle gives every finding its verdict and applies what covers it: a waiver
// beats a house rule beats a layer's verdict beats the declaration's beats the
// kind's own.
func (c *Case) settle(j *Judgement) {
	d := c.Declaration
	used := make(map[*layout.Waiver]bool)
	for _, f := range c.findings {
		f.Verdict = c.verdict(f)
		for k := range d.Waivers {
			w := &d.Waivers[k]
			if !covers(w, f) {
				continue
			}
			used[w] = true
			if w.Expired(c.Today) {
				continue
			}
			f.CoveredBy = &Cover{By: "waiver", Because: w.Because, Who: w.By, Until: w.Until.Format("2006-01-02")}
			break
		}
		if f.Verdict == layout.Off {
			j.OffBy[f.Kind]++
			continue
		}
		j.Findings = append(j.Findings, f)
	}
	for k := range d.Waivers {
		w := &d.Waivers[k]
		switch {
		case !used[w]:
			j.Idle = append(j.Idle, w)
		case w.Expired(c.Today):
			j.Expired = append(j.Expired, w)
		}
	}
}

func (c *Case) verdict(f *Finding) layout.Verdict {
	for k := range c.Declaration.HouseRules {
		r := &c.Declaration.HouseRules[k]
		if r.From == f.From.Layer && r.To == f.To.Layer && (r.Kind == "" || r.Kind == f.Kind) {
			f.Because = r.Because
			return r.Verdict
		}
	}
	names := []string{f.Kind}
	if f.Kind == marker.Name {
		names = append(names, foreign.Name) // unless set, it follows foreign
	}
	l := c.layer(f.fromSite)
	for _, n := range names {
		if l != nil {
			if v, ok := l.Verdicts[n]; ok {
				return v
			}
		}
		if v, ok := c.Declaration.Verdicts[n]; ok {
			return v
		}
	}
	k := Lookup(f.Kind)
	if k.Elsewhere != "" && (l == nil || l.Role != layout.Domain) {
		return k.Elsewhere
	}
	return k.Default
}

// covers reports whether a waiver is about a finding.
func covers(w *layout.Waiver, f *Finding) bool {
	if w.Fingerprint != "" {
		return w.Fingerprint == f.Fingerprint
	}
	if w.From == nil || w.To == nil {
		return false
	}
	return side(w.From, f.From) && (side(w.To, f.To) || f.To == End{} && w.To.Text == "**")
}

func side(p *layout.Pattern, e End) bool {
	return e.File != "" && p.Match(e.File) || e.Package != "" && (p.Match(e.Package) || p.Match(e.Package+"/")) || e.Name != "" && p.Match(e.Name)
}
