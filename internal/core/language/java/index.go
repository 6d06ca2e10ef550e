package java

import (
	"strings"
	"sync"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/language/lexis"
)

// Resolver resolves the names of a tree's Java files. It is made once from all
// files and is then read-only; each worker resolves through an env of its own.
type Resolver struct {
	g        *graph.Graph
	types    []typeInfo
	first    []int32 // for each file, the id of its first declaration's type; -1 for other languages
	packages map[string]*pkg
	heads    map[string]bool // first segments of package names
	nested   map[memberKey]int32
	modules  map[string]int32 // the file of each named module
	envs     sync.Pool
}

// typeInfo is a declared type. Its id is its index in Resolver.types.
type typeInfo struct {
	file, decl int32
	outer      int32 // id, or -1
	name       string
	supers     []int32 // ids of the supertypes that the tree declares
	state      uint8   // of supers: 0 unknown, 1 being resolved, 2 known
	holds      bool    // it or a supertype declares member types
}

type memberKey struct {
	outer int32
	name  string
}

type pkg struct {
	name   string
	folder string
	types  map[string]int32
	more   map[string][]int32 // further declarations of the same name elsewhere in the tree
}

// NewResolver indexes the Java files of g.
func NewResolver(g *graph.Graph) *Resolver {
	x := &Resolver{
		g: g, first: make([]int32, len(g.Files)),
		packages: make(map[string]*pkg), heads: make(map[string]bool), nested: make(map[memberKey]int32), modules: make(map[string]int32),
	}
	total := 0
	for i, f := range g.Files {
		x.first[i] = -1
		if shares(f.Language) {
			total += len(f.Decls)
		}
	}
	x.types = make([]typeInfo, 0, total)
	var last *pkg
	for i, f := range g.Files {
		if !shares(f.Language) {
			continue
		}
		if f.Manifest != nil {
			x.modules[f.Manifest.Module] = int32(i)
		}
		base := int32(len(x.types))
		x.first[i] = base
		p := last
		if p == nil || p.name != f.Package {
			p = x.packages[f.Package]
			if p == nil {
				p = &pkg{name: f.Package, folder: graph.Folder(f.Path), types: make(map[string]int32)}
				x.packages[f.Package] = p
				head, _, _ := strings.Cut(f.Package, ".")
				x.heads[head] = true
			}
			last = p
		}
		for d := range f.Decls {
			decl := &f.Decls[d]
			t := typeInfo{file: int32(i), decl: int32(d), outer: -1}
			id := base + int32(d)
			switch {
			case !decl.Kind.IsType() || decl.Outer < 0 && decl.Flags&fact.Local != 0: // a function of Kotlin, which Java reaches through its file's class
			case decl.Outer >= 0:
				t.outer = base + decl.Outer
				if decl.Flags&fact.Local == 0 {
					t.name = x.types[t.outer].name + "." + decl.Name
					key := memberKey{t.outer, decl.Name}
					if _, ok := x.nested[key]; !ok {
						x.nested[key] = id
					}
					x.types[t.outer].holds = true
				}
			default:
				t.name = decl.Name
				if p.name != "" {
					t.name = p.name + "." + decl.Name
				}
				if _, ok := p.types[decl.Name]; !ok {
					p.types[decl.Name] = id
				} else {
					if p.more == nil {
						p.more = make(map[string][]int32)
					}
					p.more[decl.Name] = append(p.more[decl.Name], id)
				}
			}
			x.types = append(x.types, t)
		}
	}
	x.envs.New = func() any { return x.newEnv() }
	e := x.newEnv()
	for i, f := range g.Files {
		if x.first[i] < 0 {
			continue
		}
		e.open(i)
		for d := range f.Decls {
			e.resolveSupers(x.first[i] + int32(d))
		}
	}
	return x
}

// shares reports whether files of a language declare types that Java sees.
func shares(language string) bool {
	return language == "java" || language == "kotlin" || language == "jsp"
}

// inPackage returns the type that a file sees under a simple name in a
// package, or -1. Where several files of the tree declare it, the one nearest
// to the using file counts: the copy of the same source root or module.
func (x *Resolver) inPackage(p *pkg, name string, file int) int32 {
	id, ok := p.types[name]
	if !ok {
		return -1
	}
	more := p.more[name]
	if len(more) == 0 {
		return id
	}
	from := x.g.Files[file].Path
	best := lexis.SharedFolders(from, x.g.Files[x.types[id].file].Path)
	for _, m := range more {
		if n := lexis.SharedFolders(from, x.g.Files[x.types[m].file].Path); n > best {
			id, best = m, n
		}
	}
	return id
}

// resolveSupers resolves the supertypes of a type and, before them, those of
// the types they are looked up through.
func (e *env) resolveSupers(id int32) {
	x := e.x
	t := &x.types[id]
	if t.state != 0 {
		return
	}
	t.state = 1
	f := x.g.Files[t.file]
	decl := &f.Decls[t.decl]
	if len(decl.Supers) > 0 {
		if t.outer >= 0 {
			e.resolveSupers(t.outer)
		}
		from := e.file
		e.open(int(t.file))
		for _, u := range decl.Supers {
			use := &f.Uses[u]
			s := int32(-1)
			if use.Flags&fact.InFile != 0 {
				s = x.first[t.file] + use.Local
			} else {
				s = e.typeOf(use)
			}
			if s >= 0 && s != id {
				e.resolveSupers(s)
				e.open(int(t.file)) // resolving s may have opened its file
				t.supers = append(t.supers, s)
				if x.types[s].holds {
					t.holds = true
				}
			}
		}
		if from >= 0 {
			e.open(from)
		}
	}
	t.state = 2
}

// member returns the member type of t with the given name, declared or
// inherited (JLS 17 §8.5), as seen from the open file, or -1.
func (e *env) member(t int32, name string, depth int) int32 {
	x := e.x
	ti := &x.types[t]
	if !ti.holds || depth > 100 {
		return -1
	}
	if id, ok := x.nested[memberKey{t, name}]; ok {
		return id
	}
	for _, s := range ti.supers {
		if id := e.member(s, name, depth+1); id >= 0 && e.accessible(id) {
			return id
		}
	}
	return -1
}

// accessible reports whether a member type is inherited into the open file:
// private ones are not, and those without a modifier stay in their package.
func (e *env) accessible(id int32) bool {
	ti := &e.x.types[id]
	if int(ti.file) == e.file {
		return true
	}
	f := e.x.g.Files[ti.file]
	flags := f.Decls[ti.decl].Flags
	if flags&fact.Private != 0 {
		return false
	}
	return flags&(fact.Public|fact.Protected) != 0 || f.Package == e.f.Package
}

// hasField reports whether a type inherits or declares a field of that name.
func (e *env) hasField(t int32, name string, depth int) bool {
	x := e.x
	ti := &x.types[t]
	for i := range x.g.Files[ti.file].Decls[ti.decl].Members {
		m := &x.g.Files[ti.file].Decls[ti.decl].Members[i]
		if m.Kind == fact.Field && m.Name == name && (m.Flags&fact.Private == 0 || int(ti.file) == e.file) {
			return true
		}
	}
	if depth > 100 {
		return false
	}
	for _, s := range ti.supers {
		if e.hasField(s, name, depth+1) {
			return true
		}
	}
	return false
}
