package php

import (
	_ "embed"
	"path"
	"strings"
	"sync"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/language/lexis"
)

//go:embed platform.txt
var platformText string

// platform maps what PHP itself declares, in lower case, to its extension.
var platform = sync.OnceValue(func() map[string]string {
	m := make(map[string]string)
	for _, line := range strings.Split(platformText, "\n") {
		words := strings.Fields(line)
		if len(words) < 3 || words[0] == "#" {
			continue
		}
		prefix := ""
		if words[0] == "function" {
			prefix = "function "
		}
		for _, w := range words[2:] {
			m[prefix+strings.ToLower(w)] = words[1]
		}
	}
	return m
})

// Resolver resolves the names of a tree's PHP files. It is read-only once made.
type Resolver struct {
	g         *graph.Graph
	classes   map[string][]lexis.Ref // by full name in lower case
	functions map[string][]lexis.Ref
	constants map[string][]lexis.Ref // the namespace in lower case
	roads     []road
	packages  []autoload // namespace prefixes of outside packages, from Composer's lock files
}

type autoload struct{ prefix, name string }

// road is where Composer looks for the classes of a namespace prefix.
type road struct {
	prefix, folder string
	whole          bool // the prefix is a part of the path, too (PSR-0)
}

// autoloaded returns the one of several declarations of a class that Composer's
// autoload maps lead to (PSR-4, PSR-0), or false where they lead to none.
func (x *Resolver) autoloaded(full string, refs []lexis.Ref) (lexis.Ref, bool) {
	for _, r := range x.roads {
		rest := full
		if r.prefix != "" {
			if !strings.EqualFold(full[:min(len(full), len(r.prefix))], r.prefix) {
				continue
			}
			if !r.whole {
				rest = strings.TrimPrefix(full[len(r.prefix):], `\`)
			}
		}
		rest = strings.ReplaceAll(rest, `\`, "/")
		if r.whole {
			rest = strings.ReplaceAll(rest, "_", "/")
		}
		p := strings.TrimPrefix(r.folder+"/"+rest+".php", "/")
		for _, ref := range refs {
			if x.g.Files[ref.File].Path == p {
				return ref, true
			}
		}
	}
	return lexis.Ref{}, false
}

// NewResolver indexes the PHP files of g.
func NewResolver(g *graph.Graph) *Resolver {
	x := &Resolver{g: g, classes: make(map[string][]lexis.Ref), functions: make(map[string][]lexis.Ref), constants: make(map[string][]lexis.Ref)}
	for i, f := range g.Files {
		if f.Language == "composer.json" && f.Manifest != nil {
			for _, m := range f.Manifest.Maps {
				for _, to := range m.To {
					if p, ok := graph.Join(graph.Folder(f.Path), to); ok && (m.Kind == "psr-4" || m.Kind == "psr-0") {
						x.roads = append(x.roads, road{strings.Trim(m.From, `\`), p, m.Kind == "psr-0"})
					}
				}
			}
		}
		if f.Language == "composer.lock" && f.Manifest != nil {
			for _, m := range f.Manifest.Maps {
				x.packages = append(x.packages, autoload{strings.Trim(m.From, `\`), m.To[0]})
			}
		}
		if f.Language != "php" {
			continue
		}
		for d := range f.Decls {
			k := &f.Decls[d]
			if k.Name == "" || k.Kind == fact.Namespace {
				continue
			}
			ref := lexis.Ref{File: int32(i), Decl: int32(d)}
			full := graph.DeclName(f, "", int32(d))
			switch {
			case k.Kind.IsType():
				key := strings.ToLower(full)
				x.classes[key] = append(x.classes[key], ref)
			case k.Kind == fact.Func:
				key := strings.ToLower(full)
				x.functions[key] = append(x.functions[key], ref)
			case k.Kind == fact.Const:
				key := constantKey(full)
				x.constants[key] = append(x.constants[key], ref)
			}
		}
	}
	return x
}

// constantKey is a constant's full name with its namespace in lower case.
func constantKey(full string) string {
	n := strings.LastIndexByte(full, '\\') + 1
	return strings.ToLower(full[:n]) + full[n:]
}

// env is what one file sees.
type env struct {
	x       *Resolver
	file    int
	f       *fact.File
	aliases map[int32]map[string]string // for each namespace, full names by kind and local name
}

// Resolve adds the dependencies of the PHP file i to c.
func (x *Resolver) Resolve(i int, c *graph.Collector) {
	e := &env{x: x, file: i, f: x.g.Files[i], aliases: make(map[int32]map[string]string)}
	for k := range e.f.Imports {
		imp := &e.f.Imports[k]
		m := e.aliases[imp.Within-1]
		if m == nil {
			m = make(map[string]string)
			e.aliases[imp.Within-1] = m
		}
		local := imp.Alias
		if local == "" {
			local = imp.Name[strings.LastIndexByte(imp.Name, '\\')+1:]
		}
		switch imp.Kind {
		case fact.ImportType:
			m[strings.ToLower(local)] = imp.Name
		case fact.ImportFunction:
			m["function "+strings.ToLower(local)] = imp.Name
		case fact.ImportConstant:
			m["const "+local] = imp.Name
		}
	}
	for k := range e.f.Imports {
		e.importRow(&e.f.Imports[k], c)
	}
	for k := range e.f.Uses {
		u := &e.f.Uses[k]
		switch {
		case u.How == fact.HowDynamic:
		case u.Flags&fact.Call != 0:
			e.function(u, c)
		case u.Flags&fact.Value != 0:
			e.constant(u, c)
		default:
			e.class(u, c)
		}
	}
}

// namespace returns the declaration and name of the namespace around a scope.
func (e *env) namespace(scope int32) (int32, string) {
	for ; scope >= 0; scope = e.f.Decls[scope].Outer {
		if e.f.Decls[scope].Kind == fact.Namespace {
			return scope, e.f.Decls[scope].Name
		}
	}
	return -1, ""
}

func inside(space, name string) string {
	if space == "" {
		return name
	}
	return space + `\` + name
}

// qualify applies the rules that hold for names of every kind; whole reports
// whether the name is settled by them.
func (e *env) qualify(name string, scope int32) (full string, space int32, ns string, whole bool) {
	space, ns = e.namespace(scope)
	if strings.HasPrefix(name, `\`) {
		return name[1:], space, ns, true
	}
	head, rest, qualified := strings.Cut(name, `\`)
	if !qualified {
		return name, space, ns, false
	}
	if strings.EqualFold(head, "namespace") {
		return inside(ns, rest), space, ns, true
	}
	if full, ok := e.aliases[space][strings.ToLower(head)]; ok {
		return full + `\` + rest, space, ns, true
	}
	return inside(ns, name), space, ns, true
}

func (e *env) class(u *fact.Use, c *graph.Collector) {
	full, space, ns, whole := e.qualify(u.Name, u.Scope)
	if !whole {
		if alias, ok := e.aliases[space][strings.ToLower(full)]; ok {
			full = alias
		} else {
			full = inside(ns, full)
		}
	}
	e.emit(c, e.x.classes[strings.ToLower(full)], full, "", u.How, 0, e.f.PlacesOf(u))
}

func (e *env) function(u *fact.Use, c *graph.Collector) {
	full, space, ns, whole := e.qualify(u.Name, u.Scope)
	if !whole {
		if alias, ok := e.aliases[space]["function "+strings.ToLower(full)]; ok {
			full = alias
		} else if name := inside(ns, full); ns != "" && e.x.functions[strings.ToLower(name)] != nil {
			full = name
		}
	}
	low := strings.ToLower(full)
	if refs := e.x.functions[low]; refs != nil {
		e.emit(c, refs, full, "", u.How, 0, e.f.PlacesOf(u))
	} else if ext, ok := platform()["function "+low]; ok {
		e.outside(c, ext, low, u.How, graph.Standard, e.f.PlacesOf(u))
	}
}

func (e *env) constant(u *fact.Use, c *graph.Collector) {
	if strings.HasPrefix(u.Name, "$") {
		e.outside(c, "core", u.Name, u.How, graph.Standard, e.f.PlacesOf(u))
		return
	}
	full, space, ns, whole := e.qualify(u.Name, u.Scope)
	if !whole {
		if alias, ok := e.aliases[space]["const "+full]; ok {
			full = alias
		} else if name := inside(ns, full); ns != "" && e.x.constants[constantKey(name)] != nil {
			full = name
		}
	}
	if refs := e.x.constants[constantKey(full)]; refs != nil {
		e.emit(c, refs, full, "", u.How, 0, e.f.PlacesOf(u))
	}
}

// emit adds a dependency on what refs declare, or on what lies outside.
func (e *env) emit(c *graph.Collector, refs []lexis.Ref, full, prefix string, how fact.How, flags graph.DepFlags, places []fact.Place) {
	if len(refs) > 0 {
		ref := lexis.Nearest(e.x.g, e.file, refs)
		if len(refs) > 1 && int(ref.File) != e.file && prefix == "" {
			if to, ok := e.x.autoloaded(full, refs); ok {
				ref = to
			}
		}
		if int(ref.File) != e.file {
			t := e.x.g.Files[ref.File]
			c.Add(graph.Dep{Target: graph.ToFile, File: ref.File, Decl: ref.Decl, Name: graph.DeclName(t, "", ref.Decl), How: how, Flags: flags}, places)
		}
		return
	}
	if ext, ok := platform()[prefix+strings.ToLower(full)]; ok {
		e.outside(c, ext, full, how, flags|graph.Standard, places)
		return
	}
	if !strings.Contains(full, `\`) {
		c.Add(graph.Dep{Target: graph.ToUnresolved, To: full, Name: full, Decl: -1, How: how, Flags: flags}, places)
		return
	}
	e.outside(c, e.x.packageOf(full), full, how, flags, places)
}

func (e *env) outside(c *graph.Collector, pkg, name string, how fact.How, flags graph.DepFlags, places []fact.Place) {
	c.Add(graph.Dep{Target: graph.ToOutside, To: pkg, Name: name, Decl: -1, How: how, Flags: flags}, places)
}

// packageOf returns the Composer package of a full name by the lock file's
// autoload prefixes, else its vendor namespace.
func (x *Resolver) packageOf(full string) string {
	best := autoload{}
	for _, p := range x.packages {
		if len(p.prefix) > len(best.prefix) && len(full) > len(p.prefix) && full[len(p.prefix)] == '\\' && strings.EqualFold(full[:len(p.prefix)], p.prefix) {
			best = p
		}
	}
	if best.name != "" {
		return best.name
	}
	vendor, _, _ := strings.Cut(full, `\`)
	return vendor
}

// importRow adds the dependencies of a use statement or an include.
func (e *env) importRow(imp *fact.Import, c *graph.Collector) {
	places := []fact.Place{imp.At}
	flags := graph.DepFlags(0)
	if !imp.Used {
		flags = graph.Unused
	}
	switch imp.Kind {
	case fact.ImportInclude:
		if to := e.x.included(e.file, imp.Name); to >= 0 && to != e.file {
			c.Add(graph.Dep{Target: graph.ToFile, File: int32(to), Decl: -1, Name: e.x.g.Files[to].Path, How: fact.HowInclude}, places)
		} else if to < 0 {
			c.Add(graph.Dep{Target: graph.ToUnresolved, To: imp.Name, Name: imp.Name, Decl: -1, How: fact.HowInclude}, places)
		}
	case fact.ImportFunction:
		if refs := e.x.functions[strings.ToLower(imp.Name)]; refs != nil || strings.Contains(imp.Name, `\`) {
			e.emit(c, refs, imp.Name, "function ", fact.HowImport, flags, places)
		}
	case fact.ImportConstant:
		if refs := e.x.constants[constantKey(imp.Name)]; refs != nil || strings.Contains(imp.Name, `\`) {
			e.emit(c, refs, imp.Name, "const ", fact.HowImport, flags, places)
		}
	default:
		refs := e.x.classes[strings.ToLower(imp.Name)]
		if refs == nil && e.x.isNamespace(imp.Name) {
			return // a namespace by its short name: what is used of it counts
		}
		e.emit(c, refs, imp.Name, "", fact.HowImport, flags, places)
	}
}

// isNamespace reports whether the tree has a namespace of that name.
func (x *Resolver) isNamespace(name string) bool {
	for _, f := range x.g.Files {
		if f.Language == "php" && (strings.EqualFold(f.Package, name) || len(f.Package) > len(name) && f.Package[len(name)] == '\\' && strings.EqualFold(f.Package[:len(name)], name)) {
			return true
		}
	}
	return false
}

// included returns the file that an include of file i pulls in, or -1. A path
// that begins with "/" is from the tree's root; any other is looked for beside
// the file and then in the folders above it, as the include path of an
// application that starts there would (manual, "include").
func (x *Resolver) included(i int, p string) int {
	p, ok := x.expand(p, 0, i)
	if !ok {
		return -1
	}
	if strings.HasPrefix(p, "/") {
		return x.g.Find(strings.TrimPrefix(path.Clean(p), "/"))
	}
	for folder := graph.Folder(x.g.Files[i].Path); ; folder = graph.Folder(folder) {
		if to, ok := graph.Join(folder, p); ok {
			if k := x.g.Find(to); k >= 0 {
				return k
			}
		}
		if folder == "" {
			return -1
		}
	}
}

// expand replaces {NAME} by the text of the constant of that name.
func (x *Resolver) expand(p string, depth, from int) (string, bool) {
	for strings.Contains(p, "{") {
		a := strings.IndexByte(p, '{')
		b := strings.IndexByte(p[a:], '}')
		if b < 0 || depth > 8 || len(p) > 2000 {
			return "", false
		}
		refs := x.constants[constantKey(p[a+1:a+b])]
		if len(refs) == 0 {
			return "", false
		}
		value := ""
		for _, r := range append([]lexis.Ref{lexis.Nearest(x.g, from, refs)}, refs...) {
			if v := x.g.Files[r.File].Decls[r.Decl].Value; v != "" {
				if v, ok := x.expand(v, depth+1, int(r.File)); ok {
					value = v
					break
				}
			}
		}
		if value == "" {
			return "", false
		}
		p = p[:a] + value + p[a+b+1:]
	}
	return p, true
}
