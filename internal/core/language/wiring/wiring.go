// Package wiring finds the types of a tree that are named in full outside of
// code: in configuration files (XML, YAML, JSON, properties, services lists)
// and in string literals.
//
// A name counts only where it is whole: letters, digits, "_", "$" and one kind
// of separator, with something else, or nothing, on both sides.
package wiring

import (
	"path"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/language/lexis"
)

// Language is the name that configuration files go by.
const Language = "configuration"

// Is reports whether a path is a configuration file's that may name types.
func Is(p string) bool {
	base := path.Base(p)
	switch path.Ext(base) {
	case ".xml", ".yaml", ".yml", ".properties", ".config":
		return true
	case ".json":
		return base != "package-lock.json" && base != "composer.lock"
	}
	folder := path.Dir(p)
	return strings.HasSuffix(folder, "META-INF/services") && !strings.Contains(base, " ")
}

// Reader reads one configuration file after another.
type Reader struct {
	lexis.Text
	b *fact.Builder
}

// NewReader returns a reader that adds to b.
func NewReader(b *fact.Builder) *Reader { return &Reader{b: b} }

var part = func() (t [256]bool) {
	t = lexis.NameChar
	t['$'], t['.'], t['\\'], t['+'] = true, true, true, true
	return t
}()

// Read returns the facts of one configuration file: every whole name in it
// that may be the full name of a type.
func (r *Reader) Read(p string, text []byte) *fact.File {
	r.b.Reset()
	r.Reset(text)
	f := &fact.File{Path: p, Language: Language, Lines: r.Lines()}
	src := r.Src
	for i := 0; i < r.End; {
		if !part[src[i]] {
			i++
			continue
		}
		j := i
		upper := false
		dots := 0
		for part[src[j]] {
			c := src[j]
			upper = upper || c >= 'A' && c <= 'Z'
			if c == '.' || c == '\\' {
				dots++
			}
			j++
		}
		end := j
		for end > i && (src[end-1] == '.' || src[end-1] == '\\' || src[end-1] == '$' || src[end-1] == '+') {
			end-- // the end of a sentence, a line that goes on
		}
		// "-" and "/" beside a name make it a piece of something else, as in
		// paths and addresses; so does "@".
		glued := i > 0 && (src[i-1] == '-' || src[i-1] == '/' || src[i-1] == '@') || src[j] == '-' || src[j] == '/' || src[j] == '@'
		if dots > 0 && (upper || dots > 1) && !glued && lexis.FullName(src[i:end]) {
			name := src[i:end]
			if name[0] == '\\' {
				name = name[1:]
			}
			r.b.Use(name, fact.Use{Scope: -1, Local: -1, How: fact.HowWiring}, r.Place(i))
		}
		i = j
	}
	r.b.Finish(f)
	return f
}

// Index knows the types of a tree by their full names. It is read-only once
// made.
type Index struct {
	g     *graph.Graph
	names map[string][]lexis.Ref // the separators made "."
}

var separators = strings.NewReplacer(`\\`, ".", `\`, ".", "$", ".", "+", ".")

// NewIndex indexes the types of g; in languages whose functions and modules
// are wired by name, those as well. The full package names must be known.
func NewIndex(g *graph.Graph) *Index {
	x := &Index{g: g, names: make(map[string][]lexis.Ref)}
	for i, f := range g.Files {
		switch f.Language {
		case "java", "kotlin", "csharp", "visualbasic", "php", "python":
		default:
			continue
		}
		pkg := g.Packages[i]
		for d := range f.Decls {
			k := &f.Decls[d]
			if k.Name == "" || k.Flags&(fact.Local|fact.Anonymous) != 0 || k.Kind == fact.Namespace {
				continue
			}
			if !k.Kind.IsType() && !(f.Language == "python" && k.Kind == fact.Func) {
				continue
			}
			name := separators.Replace(graph.DeclName(f, pkg, int32(d)))
			if strings.IndexByte(name, '.') > 0 {
				x.names[name] = append(x.names[name], lexis.Ref{File: int32(i), Decl: int32(d)})
			}
		}
		if f.Language == "python" && strings.Contains(pkg, ".") {
			x.names[pkg] = append(x.names[pkg], lexis.Ref{File: int32(i), Decl: -1})
		}
	}
	return x
}

// Resolve adds to c the types that file i names in full, in its strings or as
// a configuration file.
func (x *Index) Resolve(i int, c *graph.Collector) {
	if len(x.names) == 0 {
		return
	}
	f := x.g.Files[i]
	for k := range f.Uses {
		u := &f.Uses[k]
		if u.How != fact.HowDynamic && u.How != fact.HowWiring {
			continue
		}
		if f.Language == "java" && u.How == fact.HowWiring {
			continue // "provides … with" of a module, resolved as a type
		}
		name := u.Name
		if strings.ContainsAny(name, `\$+`) {
			name = separators.Replace(name)
		}
		refs := x.names[name]
		if refs == nil {
			continue
		}
		ref := lexis.Nearest(x.g, i, refs)
		if int(ref.File) == i {
			continue
		}
		t := x.g.Files[ref.File]
		full := x.g.Packages[ref.File]
		if ref.Decl >= 0 {
			full = graph.DeclName(t, full, ref.Decl)
		}
		c.Add(graph.Dep{Target: graph.ToFile, File: ref.File, Decl: ref.Decl, Name: full, How: u.How}, f.PlacesOf(u))
	}
}
