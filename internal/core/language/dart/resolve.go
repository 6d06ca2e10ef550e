package dart

import (
	"strings"
	"sync"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/language/lexis"
)

// Resolver resolves the names of a tree's Dart files. It is read-only once
// made, but for what it remembers of libraries' exports.
type Resolver struct {
	g        *graph.Graph
	files    map[string]int32
	packages map[string]string // folders of the packages of the tree, by name
	headOf   []int32           // for each file, the file whose part it is, or itself
	parts    map[int32][]int32 // the files of each library
	decls    []map[string]int32
	mu       sync.Mutex
	exports  map[int32]map[string]lexis.Ref
}

// NewResolver indexes the Dart files of g.
func NewResolver(g *graph.Graph) *Resolver {
	x := &Resolver{g: g, files: make(map[string]int32), packages: make(map[string]string), headOf: make([]int32, len(g.Files)),
		parts: make(map[int32][]int32), decls: make([]map[string]int32, len(g.Files)), exports: make(map[int32]map[string]lexis.Ref)}
	for i, f := range g.Files {
		switch f.Language {
		case "pubspec":
			if f.Manifest != nil && f.Manifest.Module != "" {
				if _, ok := x.packages[f.Manifest.Module]; !ok {
					x.packages[f.Manifest.Module] = graph.Folder(f.Path)
				}
			}
		case "dart":
			x.files[f.Path] = int32(i)
		}
	}
	for i, f := range g.Files {
		x.headOf[i] = int32(i)
		if f.Language != "dart" {
			continue
		}
		m := make(map[string]int32)
		for d := range f.Decls {
			if k := &f.Decls[d]; k.Outer < 0 && k.Name != "" {
				if _, ok := m[k.Name]; !ok {
					m[k.Name] = int32(d)
				}
			}
		}
		x.decls[i] = m
	}
	for i, f := range g.Files {
		if f.Language != "dart" {
			continue
		}
		for k := range f.Imports {
			if imp := &f.Imports[k]; imp.Kind == fact.ImportPart {
				if to := x.uri(i, imp.Name); to >= 0 {
					x.headOf[to] = int32(i)
					x.parts[int32(i)] = append(x.parts[int32(i)], to)
				}
			}
		}
	}
	return x
}

// uri returns the file that a URI of file i means, or -1 (19.5).
func (x *Resolver) uri(i int, u string) int32 {
	var p string
	ok := false
	switch {
	case strings.HasPrefix(u, "dart:"):
		return -1
	case strings.HasPrefix(u, "package:"):
		name, rest, _ := strings.Cut(u[len("package:"):], "/")
		folder, known := x.packages[name]
		if !known {
			return -1
		}
		p, ok = graph.Join(folder, "lib/"+rest)
	default:
		p, ok = graph.Join(graph.Folder(x.g.Files[i].Path), u)
	}
	if !ok {
		return -1
	}
	if to, ok := x.files[p]; ok {
		return to
	}
	return -1
}

// shown reports whether an import lets a name through.
func shown(imp *fact.Import, name string) bool {
	if imp.Show != nil {
		for _, s := range imp.Show {
			if s == name {
				return true
			}
		}
		return false
	}
	for _, h := range imp.Hide {
		if h == name {
			return false
		}
	}
	return true
}

// own finds what a library declares by a name, in any of its files.
func (x *Resolver) own(lib int32, name string) (lexis.Ref, bool) {
	if d, ok := x.decls[lib][name]; ok {
		return lexis.Ref{File: lib, Decl: d}, true
	}
	for _, p := range x.parts[lib] {
		if d, ok := x.decls[p][name]; ok {
			return lexis.Ref{File: p, Decl: d}, true
		}
	}
	return lexis.Ref{}, false
}

// exported finds what a library makes visible by a name: its own and what it
// passes on.
func (x *Resolver) exported(lib int32, name string, seen map[int32]bool) (lexis.Ref, bool) {
	if seen[lib] || name == "" || name[0] == '_' {
		return lexis.Ref{}, false
	}
	seen[lib] = true
	if ref, ok := x.own(lib, name); ok {
		return ref, true
	}
	f := x.g.Files[lib]
	for k := range f.Imports {
		imp := &f.Imports[k]
		if imp.Flags&fact.PassedOn == 0 || !shown(imp, name) {
			continue
		}
		if to := x.uri(int(lib), imp.Name); to >= 0 {
			if ref, ok := x.exported(to, name, seen); ok {
				return ref, true
			}
		}
	}
	return lexis.Ref{}, false
}

// lookup remembers exported.
func (x *Resolver) lookup(lib int32, name string) (lexis.Ref, bool) {
	x.mu.Lock()
	ref, ok := x.exports[lib][name]
	x.mu.Unlock()
	if ok {
		return ref, ref.File >= 0
	}
	ref, ok = x.exported(lib, name, make(map[int32]bool))
	if !ok {
		ref = lexis.Ref{File: -1}
	}
	x.mu.Lock()
	if x.exports[lib] == nil {
		x.exports[lib] = make(map[string]lexis.Ref)
	}
	x.exports[lib][name] = ref
	x.mu.Unlock()
	return ref, ok
}

// Resolve adds the dependencies of the Dart file i to c.
func (x *Resolver) Resolve(i int, c *graph.Collector) {
	f := x.g.Files[i]
	used := make([]map[lexis.Ref]bool, len(f.Imports))
	lib := x.headOf[i]
	for k := range f.Uses {
		if u := &f.Uses[k]; u.How != fact.HowDynamic {
			x.use(i, lib, u, used, c)
		}
	}
	for k := range f.Imports {
		x.importRow(i, &f.Imports[k], used[k], c)
	}
}

func (x *Resolver) emit(i int, c *graph.Collector, ref lexis.Ref, how fact.How, flags graph.DepFlags, places []fact.Place) {
	if int(ref.File) == i {
		return
	}
	t := x.g.Files[ref.File]
	name := t.Path
	if ref.Decl >= 0 {
		name += "#" + graph.DeclName(t, "", ref.Decl)
	}
	c.Add(graph.Dep{Target: graph.ToFile, File: ref.File, Decl: ref.Decl, Name: name, How: how, Flags: flags}, places)
}

// outside splits a URI into its package and what is named of it.
func outside(u string) (pkg, name string, std bool) {
	if strings.HasPrefix(u, "dart:") {
		return u, u, true
	}
	rest := strings.TrimPrefix(u, "package:")
	pkg, _, _ = strings.Cut(rest, "/")
	return pkg, strings.TrimSuffix(rest, ".dart"), false
}

func (x *Resolver) importRow(i int, imp *fact.Import, used map[lexis.Ref]bool, c *graph.Collector) {
	places := []fact.Place{imp.At}
	how, flags := fact.HowImport, graph.DepFlags(0)
	switch {
	case imp.Kind == fact.ImportPart, imp.Kind == fact.ImportPartOf:
		how = fact.HowInclude
	case imp.Flags&fact.PassedOn != 0:
		how = fact.HowReexport
	}
	to := x.uri(i, imp.Name)
	if imp.Kind == fact.ImportPartOf && to < 0 && x.headOf[i] != int32(i) {
		to = x.headOf[i] // by the library's name
	}
	if to >= 0 {
		if len(used) == 0 && !imp.Used {
			flags |= graph.Unused
		}
		// What is used of the library stands for it.
		found := false
		for ref := range used {
			if ref.File == to {
				found = true
				x.emit(i, c, ref, how, flags, places)
			}
		}
		if !found {
			x.emit(i, c, lexis.Ref{File: to, Decl: -1}, how, flags, places)
		}
		return
	}
	if !strings.Contains(imp.Name, ":") {
		c.Add(graph.Dep{Target: graph.ToUnresolved, To: imp.Name, Name: imp.Name, Decl: -1, How: how}, places)
		return
	}
	pkg, name, std := outside(imp.Name)
	if std {
		flags |= graph.Standard
	}
	c.Add(graph.Dep{Target: graph.ToOutside, To: pkg, Name: name, Decl: -1, How: how, Flags: flags}, places)
}

// inherited reports whether the type that a use stands in has a member of that
// name, its own or one of a supertype that the tree declares.
func (x *Resolver) inherited(file, decl int32, name string, depth int) bool {
	f := x.g.Files[file]
	k := &f.Decls[decl]
	for m := range k.Members {
		if k.Members[m].Name == name {
			return true
		}
	}
	if depth > 12 {
		return false
	}
	for _, u := range k.Supers {
		if ref, _, ok := x.find(int(file), x.headOf[file], f.Uses[u].Name); ok && ref.Decl >= 0 && (ref.File != file || ref.Decl != decl) {
			if x.inherited(ref.File, ref.Decl, name, depth+1) {
				return true
			}
		}
	}
	return false
}

// find resolves a name, with or without a prefix, in the scope of a library;
// via is the import of the library's file that it came through, or -1.
func (x *Resolver) find(i int, lib int32, name string) (ref lexis.Ref, via int, ok bool) {
	head, rest, qualified := strings.Cut(name, ".")
	f := x.g.Files[lib]
	if qualified {
		for k := range f.Imports {
			imp := &f.Imports[k]
			if imp.Alias != head || imp.Flags&fact.PassedOn != 0 || !shown(imp, rest) {
				continue
			}
			if to := x.uri(int(lib), imp.Name); to >= 0 {
				if ref, ok := x.lookup(to, rest); ok {
					return ref, k, true
				}
			}
		}
	}
	if ref, ok := x.own(lib, head); ok {
		return ref, -1, true
	}
	for k := range f.Imports {
		imp := &f.Imports[k]
		if imp.Alias != "" || imp.Flags&fact.PassedOn != 0 || imp.Kind != fact.ImportPackage || !shown(imp, head) {
			continue
		}
		if to := x.uri(int(lib), imp.Name); to >= 0 {
			if ref, ok := x.lookup(to, head); ok {
				return ref, k, true
			}
		}
	}
	return lexis.Ref{}, -1, false
}

func (x *Resolver) use(i int, lib int32, u *fact.Use, used []map[lexis.Ref]bool, c *graph.Collector) {
	f := x.g.Files[i]
	places := f.PlacesOf(u)
	head, rest, _ := strings.Cut(u.Name, ".")
	if u.Scope >= 0 && u.Flags&fact.Ambiguous != 0 && x.inherited(int32(i), u.Scope, head, 0) {
		return
	}
	ref, via, ok := x.find(i, lib, u.Name)
	if ok {
		if via >= 0 && int(lib) == i {
			if used[via] == nil {
				used[via] = make(map[lexis.Ref]bool)
			}
			used[via][ref] = true
		}
		how := u.How
		if how == fact.HowCall && u.Flags&fact.Call != 0 && ref.Decl >= 0 && x.g.Files[ref.File].Decls[ref.Decl].Kind == fact.Class {
			how = fact.HowConstruct
		}
		x.emit(i, c, ref, how, 0, places)
		return
	}
	// Through a prefix, what an outside library has.
	lf := x.g.Files[lib]
	for k := range lf.Imports {
		imp := &lf.Imports[k]
		if imp.Alias != head || imp.Alias == "" || rest == "" || x.uri(int(lib), imp.Name) >= 0 {
			continue
		}
		pkg, name, std := outside(imp.Name)
		flags := graph.DepFlags(0)
		if std {
			flags = graph.Standard
		}
		c.Add(graph.Dep{Target: graph.ToOutside, To: pkg, Name: name + "#" + rest, Decl: -1, How: u.How, Flags: flags}, places)
		return
	}
}
