// Package survey counts what each layer holds.
package survey

import (
	"sort"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/layout"
)

// Row is what one site of the tree holds.
type Row struct {
	Name      string        // the layer's name; "wiring", "tests", "unplaced"
	Layer     *layout.Layer // nil for what is no layer
	Files     int
	Lines     int
	Code      int     // lines with code
	Share     float64 // of all lines with code outside tests, 0 to 1
	Public    int     // public types
	Languages []Language
	Uses      []string // layers that its files depend on, innermost first
	UsedBy    []string // layers whose files depend on it
}

// Language is how many files a row has in one language.
type Language struct {
	Name  string
	Files int
}

// Folder is a folder with unplaced files.
type Folder struct {
	Path  string
	Files int
}

// View is the whole survey.
type View struct {
	Layers   []Row // innermost first
	Wiring   Row
	Tests    Row
	Unplaced Row
	Folders  []Folder // with unplaced files, the fullest first
	Empty    []string // layers without a file
}

// Of surveys a placed graph.
func Of(g *graph.Graph, d *layout.Declaration, p *layout.Placement) *View {
	v := &View{Wiring: Row{Name: "wiring"}, Tests: Row{Name: "tests"}, Unplaced: Row{Name: "unplaced"}}
	for _, l := range d.Layers {
		v.Layers = append(v.Layers, Row{Name: l.Name, Layer: l})
	}
	languages := make(map[*Row]map[string]int)
	folders := make(map[string]int)
	uses := make([][]bool, len(d.Layers))
	for i := range uses {
		uses[i] = make([]bool, len(d.Layers))
	}
	total := 0
	for i, f := range g.Files {
		site := p.Sites[i]
		var r *Row
		switch site {
		case layout.NotCode:
			continue
		case layout.Unplaced:
			r = &v.Unplaced
			folders[graph.Folder(f.Path)]++
		case layout.Wiring:
			r = &v.Wiring
		case layout.Tests:
			r = &v.Tests
		default:
			r = &v.Layers[site]
		}
		r.Files++
		r.Lines += f.Lines
		r.Code += f.Code
		if site != layout.Tests {
			total += f.Code
		}
		if languages[r] == nil {
			languages[r] = make(map[string]int)
		}
		languages[r][f.Language]++
		for k := range f.Decls {
			if f.Decls[k].Kind.IsType() && f.Decls[k].Flags&fact.Public != 0 && f.Decls[k].Flags&fact.Local == 0 {
				r.Public++
			}
		}
		if site < 0 {
			continue
		}
		for _, dep := range g.Deps(i) {
			if dep.Target == graph.ToFile && p.Sites[dep.File] >= 0 {
				uses[site][p.Sites[dep.File]] = true
			}
		}
	}
	for a := range uses {
		for b := range uses[a] {
			if a != b && uses[a][b] {
				v.Layers[a].Uses = append(v.Layers[a].Uses, d.Layers[b].Name)
				v.Layers[b].UsedBy = append(v.Layers[b].UsedBy, d.Layers[a].Name)
			}
		}
	}
	rows := []*Row{&v.Wiring, &v.Tests, &v.Unplaced}
	for i := range v.Layers {
		rows = append(rows, &v.Layers[i])
		if v.Layers[i].Files == 0 {
			v.Empty = append(v.Empty, v.Layers[i].Name)
		}
	}
	for _, r := range rows {
		if total > 0 && r != &v.Tests {
			r.Share = float64(r.Code) / float64(total)
		}
		for n, files := range languages[r] {
			r.Languages = append(r.Languages, Language{n, files})
		}
		sort.Slice(r.Languages, func(i, j int) bool {
			a, b := r.Languages[i], r.Languages[j]
			return a.Files > b.Files || a.Files == b.Files && a.Name < b.Name
		})
	}
	for p, n := range folders {
		v.Folders = append(v.Folders, Folder{p, n})
	}
	sort.Slice(v.Folders, func(i, j int) bool {
		a, b := v.Folders[i], v.Folders[j]
		return a.Files > b.Files || a.Files == b.Files && a.Path < b.Path
	})
	return v
}
