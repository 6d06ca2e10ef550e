// Package graph holds a whole tree: its files, its modules and every
// dependency between them, each with its places.
//
// A graph is what linking makes of facts. It is read-only once made.
package graph

import (
	"path"
	"sort"
	"strings"

	"moatline/internal/core/fact"
)

// Target tells what the far end of a dependency is.
type Target uint8

// The far ends of dependencies.
const (
	ToFile       Target = iota // the file of the tree that declares what is used
	ToPackage                  // a folder of the tree: a package is named and no type of it
	ToOutside                  // a package or module that no file of the tree declares
	ToUnresolved               // nothing known: To is what the source says
	targets
)

var targetNames = [targets]string{"file", "package", "outside", "unresolved"}

// String returns the word for t in every output.
func (t Target) String() string { return targetNames[t] }

// DepFlags qualify a dependency.
type DepFlags uint8

// Qualifications of a dependency.
const (
	Unused   DepFlags = 1 << iota // an import that nothing in its file uses
	Bare                          // a package is imported and nothing of it is named
	Standard                      // the language's standard library
	TypeOnly                      // nothing of it is left when the program runs
)

// Dep is one thing that one file uses in one way.
type Dep struct {
	Name   string // the full name of what is used
	To     string // the folder, outside package or unresolved text; empty for files
	File   int32  // for ToFile: index into Graph.Files
	Decl   int32  // for ToFile: index into that file's Decls, or -1
	First  int32  // index of the first place in the using file's places
	Count  int32  // number of places
	Target Target
	How    fact.How
	Flags  DepFlags
}

// Module is a build unit with a manifest.
type Module struct {
	Name   string // as its manifest names it
	Kind   string // "go", "maven", "java module"
	Folder string // slash path from the root; "" is the root
	File   int32  // the manifest, an index into Graph.Files
}

// Graph is a tree's files and everything between them.
type Graph struct {
	Files    []*fact.File
	deps     [][]Dep
	places   [][]fact.Place
	Modules  []Module
	ModuleOf []int32  // for each file, the innermost module that holds it, or -1
	Packages []string // for each file, its full package name: a Go import path, a Java package
}

// New returns a graph of files without dependencies. Files must be sorted by
// path.
func New(files []*fact.File) *Graph {
	g := &Graph{
		Files:    files,
		deps:     make([][]Dep, len(files)),
		places:   make([][]fact.Place, len(files)),
		ModuleOf: make([]int32, len(files)),
		Packages: make([]string, len(files)),
	}
	for i, f := range files {
		g.Packages[i] = f.Package
		g.ModuleOf[i] = -1
	}
	return g
}

// Deps returns the dependencies of file i in the order of their first places.
func (g *Graph) Deps(i int) []Dep { return g.deps[i] }

// Places returns the places of a dependency of file i.
func (g *Graph) Places(i int, d *Dep) []fact.Place {
	return g.places[i][d.First : d.First+d.Count : d.First+d.Count]
}

// Find returns the index of the file with the given path, or -1.
func (g *Graph) Find(p string) int {
	i := sort.Search(len(g.Files), func(i int) bool { return g.Files[i].Path >= p })
	if i < len(g.Files) && g.Files[i].Path == p {
		return i
	}
	return -1
}

// SetModules records the modules and finds, for each file, the one whose
// folder holds it most closely.
func (g *Graph) SetModules(modules []Module) {
	sort.Slice(modules, func(i, j int) bool {
		if modules[i].Folder != modules[j].Folder {
			return modules[i].Folder < modules[j].Folder
		}
		return modules[i].File < modules[j].File
	})
	g.Modules = modules
	byFolder := make(map[string]int32, len(modules))
	for i := len(modules) - 1; i >= 0; i-- {
		byFolder[modules[i].Folder] = int32(i)
	}
	memo := make(map[string]int32)
	var of func(folder string) int32
	of = func(folder string) int32 {
		if m, ok := memo[folder]; ok {
			return m
		}
		m, ok := byFolder[folder]
		if !ok {
			m = -1
			if folder != "" {
				m = of(Folder(folder))
			}
		}
		memo[folder] = m
		return m
	}
	for i, f := range g.Files {
		g.ModuleOf[i] = of(Folder(f.Path))
	}
}

// Folder returns the folder part of a slash path; the root is "".
func Folder(p string) string {
	i := strings.LastIndexByte(p, '/')
	if i < 0 {
		return ""
	}
	return p[:i]
}

// Join joins slash paths and keeps "" for the root; ok is false where the
// result lies outside the tree.
func Join(folder, rel string) (joined string, ok bool) {
	p := path.Join(folder, rel)
	if p == "." {
		return "", true
	}
	if p == ".." || strings.HasPrefix(p, "../") || strings.HasPrefix(p, "/") {
		return "", false
	}
	return p, true
}

// DeclName returns the full name of declaration d of file f, whose full
// package name is pkg: the package, then the enclosing types.
func DeclName(f *fact.File, pkg string, d int32) string {
	name := f.Decls[d].Name
	if f.Decls[d].Kind == fact.Namespace {
		return name
	}
	for o := f.Decls[d].Outer; o >= 0; o = f.Decls[o].Outer {
		if f.Decls[o].Kind == fact.Namespace {
			if f.Decls[o].Name == "" {
				return name
			}
			return f.Decls[o].Name + Separator(f.Language) + name
		}
		name = f.Decls[o].Name + "." + name
	}
	if pkg != "" {
		name = pkg + "." + name
	}
	return name
}

// Covered reports whether a dependency of file i is the import of an outside
// package as a whole of which the file names something as well: what it names
// tells more.
func (g *Graph) Covered(i int, d *Dep) bool {
	if d.How != fact.HowImport || d.Target != ToOutside || d.Name != d.To {
		return false
	}
	for n := range g.deps[i] {
		if o := &g.deps[i][n]; o.Target == ToOutside && o.To == d.To && o.How != fact.HowImport && o.Name != d.Name {
			return true
		}
	}
	return false
}

// Separator returns what stands between the parts of a full name in a language.
func Separator(language string) string {
	if language == "php" {
		return `\`
	}
	return "."
}

// ToText returns the far end of a dependency as outputs show it: the path of
// the file, the folder, the outside package or the unresolved text.
func (g *Graph) ToText(d *Dep) string {
	if d.Target == ToFile {
		return g.Files[d.File].Path
	}
	if d.Target == ToPackage && d.To == "" {
		return "." // the root
	}
	return d.To
}
