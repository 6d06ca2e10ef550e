package views

import (
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/language/lexis"
)

// Resolver resolves what pages of Java web applications name: beans by their
// names, and other pages. Types are resolved by the languages' own resolvers.
type Resolver struct {
	g     *graph.Graph
	beans map[string][]lexis.Ref
}

// NewResolver indexes the beans of g: the classes whose annotation gives them
// a name.
func NewResolver(g *graph.Graph) *Resolver {
	x := &Resolver{g: g, beans: make(map[string][]lexis.Ref)}
	for i, f := range g.Files {
		if f.Language != "java" {
			continue
		}
		for d := range f.Decls {
			if k := &f.Decls[d]; k.Kind.IsType() && k.Value != "" {
				x.beans[k.Value] = append(x.beans[k.Value], lexis.Ref{File: int32(i), Decl: int32(d)})
			}
		}
	}
	return x
}

// Resolve adds the beans and pages that file i names to c.
func (x *Resolver) Resolve(i int, c *graph.Collector) {
	f := x.g.Files[i]
	if f.Language == "jsf" {
		for k := range f.Uses {
			u := &f.Uses[k]
			refs := x.beans[u.Name]
			if refs == nil {
				continue
			}
			ref := lexis.Nearest(x.g, i, refs)
			t := x.g.Files[ref.File]
			c.Add(graph.Dep{Target: graph.ToFile, File: ref.File, Decl: ref.Decl, Name: graph.DeclName(t, t.Package, ref.Decl), How: u.How}, f.PlacesOf(u))
		}
	}
	for k := range f.Imports {
		imp := &f.Imports[k]
		if imp.Kind != fact.ImportInclude {
			continue
		}
		if to := x.page(i, imp.Name); to >= 0 && to != i {
			c.AddAt(graph.Dep{Target: graph.ToFile, File: int32(to), Decl: -1, Name: x.g.Files[to].Path, How: fact.HowInclude}, imp.At)
		}
	}
}

// page returns the page that a path of file i means: from its folder or, with
// "/" before it, from the root of the web application, which is a folder above.
func (x *Resolver) page(i int, p string) int {
	p, _, _ = strings.Cut(p, "?")
	folder := graph.Folder(x.g.Files[i].Path)
	if !strings.HasPrefix(p, "/") {
		if to, ok := graph.Join(folder, p); ok {
			return x.g.Find(to)
		}
		return -1
	}
	for ; ; folder = graph.Folder(folder) {
		if to, ok := graph.Join(folder, p[1:]); ok {
			if k := x.g.Find(to); k >= 0 {
				return k
			}
		}
		if folder == "" {
			return -1
		}
	}
}
