// Package dotnet resolves the names of C# and Visual Basic files, which see
// each other's types.
//
// C#'s rules are those of the C# language specification, clause 7.8 (namespace
// and type names) and 12.8.4 (simple names, with the "Color Color" case of
// 12.8.7.2); Visual Basic's those of its language specification, chapter 4.7,
// without regard to case.
package dotnet

import (
	_ "embed"
	"path"
	"strconv"
	"strings"
	"sync"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/language/lexis"
)

//go:embed platform.txt
var platformText string

// platform maps the simple names of the class library's types to the
// namespaces that have one of that name.
var platform = sync.OnceValue(func() map[string][]string {
	m := make(map[string][]string)
	for _, line := range strings.Split(platformText, "\n") {
		if line == "" || line[0] == '#' {
			continue
		}
		words := strings.Fields(line)
		for _, w := range words[1:] {
			m[w] = append(m[w], words[0])
		}
	}
	return m
})

// Resolver resolves the names of a tree's C# and Visual Basic files. It is
// read-only once made.
type Resolver struct {
	g       *graph.Graph
	types   []typeInfo
	first   []int32            // for each file, the id of its first declaration; -1 for other languages
	names   map[string][]int32 // types by full name, nested ones behind their outer type, with "`1" for arity
	fold    map[string][]int32 // the same in lower case
	spaces  map[string]bool    // namespaces of the tree and all above them
	foldSp  map[string]string  // the same by their name in lower case
	bySpace map[string][]int32 // top types of each namespace
	byFold  map[string][]int32 // the same, the namespace in lower case
	globals map[int32][]global // imports that hold for all files of a project, by module
	roots   map[int32]string   // root namespaces of Visual Basic projects, by module
	extend  map[string][]int32 // types with an extension method, by the method's name
	envs    sync.Pool
}

type typeInfo struct {
	file, decl int32
	outer      int32  // id, or -1
	name       string // full, with arity
	space      string
	supers     []int32
	state      uint8
	members    map[string]int32 // by name, index into Members; in lower case for Visual Basic
}

// global is an import of one file that holds for others.
type global struct {
	imp  *fact.Import
	file int32
}

// IsSource reports whether a language is one of this package's: C#, Visual
// Basic, and the views that name their types.
func IsSource(language string) bool {
	switch language {
	case "csharp", "visualbasic", "razor", "xaml":
		return true
	}
	return false
}

func arity(name string, n uint8) string {
	if n == 0 {
		return name
	}
	return name + "`" + strconv.Itoa(int(n))
}

// NewResolver indexes the C# and Visual Basic files of g. The modules of g
// must be known.
func NewResolver(g *graph.Graph) *Resolver {
	x := &Resolver{
		g: g, first: make([]int32, len(g.Files)), names: make(map[string][]int32), fold: make(map[string][]int32),
		spaces: make(map[string]bool), foldSp: make(map[string]string), bySpace: make(map[string][]int32), byFold: make(map[string][]int32),
		globals: make(map[int32][]global), extend: make(map[string][]int32), roots: make(map[int32]string),
	}
	for i, f := range g.Files {
		if f.Manifest == nil || f.Language != "msbuild" {
			continue
		}
		m := x.moduleAt(int32(i))
		if root := f.Manifest.Properties["RootNamespace"]; root != "" && path.Ext(f.Path) == ".vbproj" {
			x.roots[m] = root
		} else if path.Ext(f.Path) == ".vbproj" && m >= 0 {
			x.roots[m] = strings.TrimSuffix(path.Base(f.Path), ".vbproj")
		}
		for k := range f.Manifest.Managed {
			u := &f.Manifest.Managed[k]
			imp := &fact.Import{Name: u.Name, Kind: fact.ImportWildcard, Flags: fact.Global, Used: true, At: u.At}
			if u.Scope == "using static" {
				imp.Kind = fact.ImportStaticWildcard
			}
			if u.Path != "" {
				imp.Kind, imp.Alias = fact.ImportType, u.Path
			}
			if m >= 0 {
				x.globals[m] = append(x.globals[m], global{imp, int32(i)})
				continue
			}
			// Directory.Build.props holds for every project below it.
			folder := graph.Folder(f.Path)
			for n := range g.Modules {
				if in := g.Modules[n].Folder; folder == "" || in == folder || strings.HasPrefix(in, folder+"/") {
					x.globals[int32(n)] = append(x.globals[int32(n)], global{imp, int32(i)})
				}
			}
		}
	}
	for i, f := range g.Files {
		x.first[i] = -1
		if !IsSource(f.Language) {
			continue
		}
		m := g.ModuleOf[i]
		root := ""
		if f.Language == "visualbasic" {
			root = x.roots[m]
			if root != "" {
				g.Packages[i] = inside(root, f.Package)
			}
		}
		for k := range f.Imports {
			if f.Imports[k].Flags&fact.Global != 0 {
				x.globals[m] = append(x.globals[m], global{&f.Imports[k], int32(i)})
			}
		}
		base := int32(len(x.types))
		x.first[i] = base
		if root != "" {
			x.addSpace(root)
		}
		for d := range f.Decls {
			k := &f.Decls[d]
			t := typeInfo{file: int32(i), decl: int32(d), outer: -1}
			id := base + int32(d)
			if k.Outer >= 0 {
				t.outer = base + k.Outer
			}
			switch {
			case k.Kind == fact.Namespace:
				t.name = inside(root, k.Name)
				if global, ok := strings.CutPrefix(k.Name, "Global."); ok && f.Language == "visualbasic" {
					t.name = global
				}
				t.space = t.name
				x.addSpace(t.name)
			case t.outer >= 0 && f.Decls[k.Outer].Kind == fact.Namespace:
				t.space = x.types[t.outer].name
				t.name = inside(t.space, arity(k.Name, k.Arity))
			case t.outer >= 0:
				t.space = x.types[t.outer].space
				t.name = x.types[t.outer].name + "." + arity(k.Name, k.Arity)
			default:
				t.space = root
				t.name = inside(root, arity(k.Name, k.Arity))
			}
			x.types = append(x.types, t)
			if k.Kind == fact.Namespace || k.Name == "" || !k.Kind.IsType() {
				continue
			}
			x.names[t.name] = append(x.names[t.name], id)
			x.fold[strings.ToLower(t.name)] = append(x.fold[strings.ToLower(t.name)], id)
			if k.Outer < 0 || f.Decls[k.Outer].Kind == fact.Namespace {
				x.bySpace[t.space] = append(x.bySpace[t.space], id)
				x.byFold[strings.ToLower(t.space)] = append(x.byFold[strings.ToLower(t.space)], id)
			}
		}
	}
	x.envs.New = func() any { return &env{x: x, file: -1} }
	e := &env{x: x, file: -1}
	for id := range x.types {
		t := &x.types[id]
		f := g.Files[t.file]
		k := &f.Decls[t.decl]
		if len(k.Members) > 0 {
			t.members = make(map[string]int32, len(k.Members))
			for n := range k.Members {
				name := k.Members[n].Name
				if f.Language == "visualbasic" {
					name = strings.ToLower(name)
				}
				if k.Members[n].Flags&fact.Extension != 0 {
					x.extend[k.Members[n].Name] = append(x.extend[k.Members[n].Name], int32(id))
				}
				if k.Members[n].Kind != fact.Constructor {
					if _, ok := t.members[name]; !ok {
						t.members[name] = int32(n)
					}
				}
			}
		}
	}
	for id := range x.types {
		e.resolveSupers(int32(id), 0)
	}
	return x
}

// moduleAt returns the module whose manifest file i is, or -1.
func (x *Resolver) moduleAt(i int32) int32 {
	for m := range x.g.Modules {
		if x.g.Modules[m].File == i {
			return int32(m)
		}
	}
	return -1
}

func inside(space, name string) string {
	switch {
	case space == "":
		return name
	case name == "":
		return space
	}
	return space + "." + name
}

func (x *Resolver) addSpace(name string) {
	for name != "" && !x.spaces[name] {
		x.spaces[name] = true
		x.foldSp[strings.ToLower(name)] = name
		n := strings.LastIndexByte(name, '.')
		if n < 0 {
			return
		}
		name = name[:n]
	}
}

// pick returns the one of several declarations of a type that a file means:
// the nearest and, of a partial type, the part in the file named after it.
func (x *Resolver) pick(file int, ids []int32) int32 {
	if len(ids) == 1 {
		return ids[0]
	}
	best, score := ids[0], -100
	from := x.g.Files[file].Path
	for _, id := range ids {
		t := &x.types[id]
		p := x.g.Files[t.file].Path
		s := min(lexis.SharedFolders(from, p), 1000) * 8
		base := path.Base(p)
		name := x.g.Files[t.file].Decls[t.decl].Name
		switch {
		case int(t.file) == file:
			s += 100000
		case strings.EqualFold(strings.TrimSuffix(base, path.Ext(base)), name):
			s += 4
		case !strings.Contains(base, ".Designer.") && !strings.Contains(base, ".g."):
			s += 2
		}
		if len(x.g.Files[t.file].Decls[t.decl].Supers) > 0 {
			s++
		}
		if lexis.Hidden(p) {
			s -= 8
		}
		if s > score {
			best, score = id, s
		}
	}
	return best
}

// parts returns all declarations of the type that id is one of.
func (x *Resolver) parts(id int32) []int32 {
	t := &x.types[id]
	if x.g.Files[t.file].Decls[t.decl].Flags&fact.Partial == 0 {
		return nil
	}
	return x.names[t.name]
}
