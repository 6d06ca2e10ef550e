package data

import (
	"encoding/csv"
	"fmt"
	"io"
	"strconv"
	"strings"

	"moatline/internal/core/graph"
	"moatline/internal/core/layout"
	"moatline/internal/core/survey"
)

// FilesCSV lists every source file: file,layer,role,language,lines. The layer
// is wiring, tests, or empty where no layer claims the file.
func FilesCSV(w io.Writer, g *graph.Graph, d *layout.Declaration, p *layout.Placement) error {
	out := csv.NewWriter(w)
	if err := out.Write([]string{"file", "layer", "role", "language", "lines"}); err != nil {
		return err
	}
	for i, f := range g.Files {
		if p.Sites[i] == layout.NotCode {
			continue
		}
		layer, role := d.SiteName(p.Sites[i]), ""
		if s := p.Sites[i]; s >= 0 {
			role = string(d.Layers[s].Role)
		}
		if err := out.Write([]string{f.Path, layer, role, f.Language, strconv.Itoa(f.Lines)}); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

func rows(v *survey.View) []survey.Row {
	out := append([]survey.Row(nil), v.Layers...)
	for _, r := range []survey.Row{v.Wiring, v.Tests, v.Unplaced} {
		if r.Files > 0 {
			out = append(out, r)
		}
	}
	return out
}

// LayersCSV writes a row for each layer, innermost first, then for wiring,
// tests and unplaced files where there are any.
func LayersCSV(w io.Writer, v *survey.View) error {
	out := csv.NewWriter(w)
	_ = out.Write([]string{"layer", "ring", "role", "files", "lines", "code", "share", "public-types", "languages", "uses", "used-by"})
	for _, r := range rows(v) {
		ring, role := "", ""
		if r.Layer != nil {
			ring, role = strconv.Itoa(r.Layer.Ring+1), string(r.Layer.Role)
		}
		var langs []string
		for _, l := range r.Languages {
			langs = append(langs, fmt.Sprintf("%s %d", l.Name, l.Files))
		}
		_ = out.Write([]string{r.Name, ring, role, strconv.Itoa(r.Files), strconv.Itoa(r.Lines), strconv.Itoa(r.Code),
			strconv.FormatFloat(r.Share, 'f', 4, 64), strconv.Itoa(r.Public), strings.Join(langs, "; "),
			strings.Join(r.Uses, "; "), strings.Join(r.UsedBy, "; ")})
	}
	out.Flush()
	return out.Error()
}

type layerEntry struct {
	Name      string         `json:"name"`
	Ring      int            `json:"ring"`
	Role      string         `json:"role"`
	Files     int            `json:"files"`
	Lines     int            `json:"lines"`
	Code      int            `json:"code"`
	Share     float64        `json:"share"`
	Public    int            `json:"public-types"`
	Languages map[string]int `json:"languages"`
	Uses      []string       `json:"uses"`
	UsedBy    []string       `json:"used-by"`
	AnswersTo string         `json:"answers-to,omitempty"`
}

type folderEntry struct {
	Folder string `json:"folder"`
	Files  int    `json:"files"`
}

// LayersJSON writes the survey as one object.
func LayersJSON(w io.Writer, application string, v *survey.View) error {
	out := struct {
		Application string        `json:"application"`
		Layers      []layerEntry  `json:"layers"`
		Unplaced    []folderEntry `json:"unplaced"`
	}{application, []layerEntry{}, []folderEntry{}}
	for _, r := range rows(v) {
		e := layerEntry{Name: r.Name, Files: r.Files, Lines: r.Lines, Code: r.Code, Share: float64(int(r.Share*10000+0.5)) / 10000,
			Public: r.Public, Languages: map[string]int{}, Uses: append([]string{}, r.Uses...), UsedBy: append([]string{}, r.UsedBy...)}
		if r.Layer != nil {
			e.Ring, e.Role, e.AnswersTo = r.Layer.Ring+1, string(r.Layer.Role), r.Layer.AnswersTo
		}
		for _, l := range r.Languages {
			e.Languages[l.Name] = l.Files
		}
		out.Layers = append(out.Layers, e)
	}
	for _, f := range v.Folders {
		out.Unplaced = append(out.Unplaced, folderEntry{f.Path, f.Files})
	}
	return writeJSON(w, out)
}
