package layout

import (
	"fmt"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
)

// Site is where a file lies: the index of its layer, or one of the constants.
type Site int16

// Sites that are no layer.
const (
	Unplaced Site = -1
	Wiring   Site = -2
	Tests    Site = -3
	NotCode  Site = -4 // a build file: it belongs to a module, not to a layer
)

// SiteName names a site: a layer's name, "wiring", "tests", or "" for what no
// layer claims.
func (d *Declaration) SiteName(s Site) string {
	switch s {
	case Wiring:
		return "wiring"
	case Tests:
		return "tests"
	case Unplaced, NotCode:
		return ""
	}
	return d.Layers[s].Name
}

// Conflict is a file that two layers claim.
type Conflict struct {
	File          string
	First, Second *Pattern
	FirstLayer    string
	SecondLayer   string
}

func (c Conflict) Error() string {
	return fmt.Sprintf("%s is claimed twice: by %s (%s) and by %s (%s)",
		c.File, c.FirstLayer, c.First.Text, c.SecondLayer, c.Second.Text)
}

// Placement says where every file of a graph lies.
type Placement struct {
	Sites     []Site // for each file of the graph
	Conflicts []Conflict
	Unmatched []*Pattern // patterns that match nothing
}

// Place finds the site of every source file: tests are asked first, then
// wiring, then the layers. isSource tells source files from build files.
func Place(d *Declaration, g *graph.Graph, isSource func(language string) bool) *Placement {
	p := &Placement{Sites: make([]Site, len(g.Files))}
	hit := make(map[*Pattern]bool)
	c := newClaims(d, g)
	for i, f := range g.Files {
		if !isSource(f.Language) {
			p.Sites[i] = NotCode
			continue
		}
		p.Sites[i] = Unplaced
		if m, ok := Matches(d.Tests, f.Path); ok {
			hit[m] = true
			p.Sites[i] = Tests
			continue
		}
		if f.Test {
			p.Sites[i] = Tests
			continue
		}
		if m, ok := Matches(d.Wiring, f.Path); ok {
			hit[m] = true
			p.Sites[i] = Wiring
			continue
		}
		var by *Pattern
		for n, l := range d.Layers {
			m := c.claims(l, i)
			if m == nil {
				continue
			}
			hit[m] = true
			if x, ok := Matches(l.Except, f.Path); ok {
				hit[x] = true
				continue
			}
			if by != nil {
				p.Conflicts = append(p.Conflicts, Conflict{f.Path, by, m, d.Layers[p.Sites[i]].Name, l.Name})
				continue
			}
			by = m
			p.Sites[i] = Site(n)
		}
		if by == nil && isView(f.Language) {
			p.Sites[i] = screens(d)
		}
	}
	each := func(list []Pattern) {
		for k := range list {
			if !hit[&list[k]] {
				p.Unmatched = append(p.Unmatched, &list[k])
			}
		}
	}
	for _, l := range d.Layers {
		// Several patterns of one layer may match the same file, and only
		// the first was noted.
		for _, list := range [][]Pattern{l.Files, l.Packages, l.Modules, l.Marked, l.Except} {
			for k := range list {
				if !hit[&list[k]] && c.matchesAny(l, &list[k], p) {
					hit[&list[k]] = true
				}
			}
			each(list)
		}
	}
	for _, list := range [][]Pattern{d.Wiring, d.Tests} {
		for k := range list {
			if !hit[&list[k]] {
				for _, f := range g.Files {
					if list[k].Match(f.Path) { // a file that only configures counts here
						hit[&list[k]] = true
						break
					}
				}
			}
		}
		each(list)
	}
	return p
}

// isView tells the languages that only screens are written in.
func isView(language string) bool {
	switch language {
	case "jsp", "jsf", "razor", "xaml":
		return true
	}
	return false
}

// screens returns the site of view files that no pattern claims: the layer of
// presentation, where there is one and no other.
func screens(d *Declaration) Site {
	found := Unplaced
	for n, l := range d.Layers {
		if l.Role == Presentation {
			if found != Unplaced {
				return Unplaced
			}
			found = Site(n)
		}
	}
	return found
}

// claims finds the pattern by which a layer claims a file.
type claims struct {
	g       *graph.Graph
	modules map[*Pattern]map[string]bool // folders of the modules that a pattern names
	marks   map[int][]string             // lazily: names of markers and base types of a file's types
}

func newClaims(d *Declaration, g *graph.Graph) *claims {
	c := &claims{g: g, modules: make(map[*Pattern]map[string]bool), marks: make(map[int][]string)}
	for _, l := range d.Layers {
		for k := range l.Modules {
			folders := make(map[string]bool)
			for _, m := range g.Modules {
				if l.Modules[k].Match(m.Name) {
					folders[m.Folder] = true
				}
			}
			c.modules[&l.Modules[k]] = folders
		}
	}
	return c
}

func (c *claims) claims(l *Layer, i int) *Pattern {
	f := c.g.Files[i]
	if m, ok := Matches(l.Files, f.Path); ok {
		return m
	}
	if m, ok := Matches(l.Packages, c.g.Packages[i]); ok && c.g.Packages[i] != "" {
		return m
	}
	for k := range l.Modules {
		if c.inModule(&l.Modules[k], f.Path) {
			return &l.Modules[k]
		}
	}
	if len(l.Marked) > 0 {
		for _, name := range c.marksOf(i) {
			for k := range l.Marked {
				if l.Marked[k].Match(name) {
					return &l.Marked[k]
				}
			}
		}
	}
	return nil
}

// inModule reports whether a file lies in a module that the pattern names,
// and not in a module nested deeper that it does not name.
func (c *claims) inModule(p *Pattern, file string) bool {
	folders := c.modules[p]
	if len(folders) == 0 {
		return false
	}
	for dir := graph.Folder(file); ; dir = graph.Folder(dir) {
		if folders[dir] {
			return true
		}
		if dir == "" {
			return false
		}
	}
}

func (c *claims) matchesAny(l *Layer, p *Pattern, placed *Placement) bool {
	for i, f := range c.g.Files {
		if placed.Sites[i] == NotCode {
			continue
		}
		one := Layer{}
		switch {
		case contains(l.Files, p):
			if p.Match(f.Path) {
				return true
			}
		case contains(l.Except, p):
			if p.Match(f.Path) && c.claims(l, i) != nil {
				return true
			}
		case contains(l.Packages, p):
			one.Packages = []Pattern{*p}
			if c.claims(&one, i) != nil {
				return true
			}
		case contains(l.Modules, p):
			if c.inModule(p, f.Path) {
				return true
			}
		case contains(l.Marked, p):
			one.Marked = []Pattern{*p}
			if c.claims(&one, i) != nil {
				return true
			}
		}
	}
	return false
}

func contains(list []Pattern, p *Pattern) bool {
	for k := range list {
		if &list[k] == p {
			return true
		}
	}
	return false
}

// marksOf returns the full names of the annotations on the types of file i
// and of their base types, direct and inherited.
func (c *claims) marksOf(i int) []string {
	if names, ok := c.marks[i]; ok {
		return names
	}
	c.marks[i] = nil // a cycle of supertypes ends here
	var names []string
	f := c.g.Files[i]
	for k := range f.Decls {
		d := &f.Decls[k]
		if d.Flags&fact.Local != 0 || !d.Kind.IsType() {
			continue
		}
		for _, u := range d.Markers {
			for _, dep := range c.resolved(i, &f.Uses[u]) {
				names = append(names, dep.Name)
			}
		}
		for _, u := range d.Supers {
			for _, dep := range c.resolved(i, &f.Uses[u]) {
				names = append(names, dep.Name)
				if dep.Target == graph.ToFile {
					names = append(names, c.marksOf(int(dep.File))...)
				}
			}
		}
	}
	c.marks[i] = names
	return names
}

// resolved returns the dependencies that a use became, by its first place.
func (c *claims) resolved(i int, u *fact.Use) []*graph.Dep {
	var out []*graph.Dep
	f := c.g.Files[i]
	if u.Count == 0 {
		return nil
	}
	at := f.Places[u.First]
	deps := c.g.Deps(i)
	for k := range deps {
		if deps[k].How != u.How {
			continue
		}
		for _, p := range c.g.Places(i, &deps[k]) {
			if p == at {
				out = append(out, &deps[k])
				break
			}
		}
	}
	return out
}

// MarkMatcher matches the full name of an annotation, attribute or base type
// against a pattern that is a simple or full name, with or without the sign.
func MarkMatcher(pattern string) func(string) bool {
	pattern = strings.TrimPrefix(strings.Trim(pattern, "[]"), "@")
	full := strings.ContainsAny(pattern, "./")
	return func(name string) bool {
		if full {
			return name == pattern || dotted(name) == dotted(pattern)
		}
		return name[strings.LastIndexAny(name, "./")+1:] == pattern
	}
}
