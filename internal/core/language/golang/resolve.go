package golang

import (
	"sort"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
)

// Resolver resolves the names of a tree's Go files. It is read-only once made.
type Resolver struct {
	g       *graph.Graph
	modules []module // longest path first
	works   []module // go.work files; their folders and replacements count
	folders map[string]*folder
	bySufx  map[string][]string // last element of a folder's path to folders, for trees without a go.mod
	constraints
}

// module is a go.mod of the tree.
type module struct {
	path     string
	folder   string
	manifest *fact.Manifest
}

// folder is a folder with Go files: its packages by name, and the one that an
// import of the folder means.
type folder struct {
	path     string // from the root
	imported string // import path
	packages map[string]*pack
	main     *pack
}

type pack struct {
	name  string
	files int
	decls map[string][]declared
}

type declared struct{ file, decl int32 }

// NewResolver indexes the Go files of g and sets their full package names.
func NewResolver(g *graph.Graph) *Resolver {
	x := &Resolver{g: g, folders: make(map[string]*folder), bySufx: make(map[string][]string)}
	for _, f := range g.Files {
		if f.Language == "go.mod" && f.Manifest != nil && f.Manifest.Module != "" {
			x.modules = append(x.modules, module{f.Manifest.Module, graph.Folder(f.Path), f.Manifest})
		}
		if f.Language == "go.work" && f.Manifest != nil && len(f.Manifest.Replaces) > 0 {
			x.works = append(x.works, module{"", graph.Folder(f.Path), f.Manifest})
		}
	}
	sort.SliceStable(x.modules, func(i, j int) bool { return len(x.modules[i].path) > len(x.modules[j].path) })
	for i, f := range g.Files {
		if f.Language != "go" || f.Package == "" {
			continue
		}
		dir := graph.Folder(f.Path)
		d := x.folders[dir]
		if d == nil {
			d = &folder{path: dir, packages: make(map[string]*pack), imported: x.importPath(dir)}
			x.folders[dir] = d
			last := dir[strings.LastIndexByte(dir, '/')+1:]
			x.bySufx[last] = append(x.bySufx[last], dir)
		}
		p := d.packages[f.Package]
		if p == nil {
			p = &pack{name: f.Package, decls: make(map[string][]declared)}
			d.packages[f.Package] = p
		}
		p.files++
		g.Packages[i] = d.imported
		if f.Test && strings.HasSuffix(f.Package, "_test") {
			g.Packages[i] += "_test"
		}
		for k := range f.Decls {
			if n := f.Decls[k].Name; f.Decls[k].Kind != fact.Method && n != "_" && n != "init" {
				p.decls[n] = append(p.decls[n], declared{int32(i), int32(k)})
			}
		}
	}
	for _, d := range x.folders {
		for _, p := range d.packages {
			if strings.HasSuffix(p.name, "_test") {
				continue
			}
			// Files that no build takes ("//go:build ignore") are most often
			// of package main, beside the package proper.
			if m := d.main; m == nil || m.name == "main" && p.name != "main" ||
				(m.name == "main") == (p.name == "main") && (p.files > m.files || p.files == m.files && p.name < m.name) {
				d.main = p
			}
		}
	}
	return x
}

// moduleOf returns the module whose folder holds dir most closely, or nil.
func (x *Resolver) moduleOf(dir string) *module {
	var best *module
	for i := range x.modules {
		m := &x.modules[i]
		if within(dir, m.folder) && (best == nil || len(m.folder) > len(best.folder)) {
			best = m
		}
	}
	return best
}

func within(p, folder string) bool {
	return folder == "" || p == folder || strings.HasPrefix(p, folder) && p[len(folder)] == '/'
}

// importPath returns the path by which a folder is imported. The standard
// library's own module adds nothing to its folders' paths.
func (x *Resolver) importPath(dir string) string {
	m := x.moduleOf(dir)
	if m == nil {
		return dir
	}
	rel := strings.TrimPrefix(strings.TrimPrefix(dir, m.folder), "/")
	switch {
	case m.path == "std" && rel != "":
		return rel
	case rel == "":
		return m.path
	}
	return m.path + "/" + rel
}

// locate returns the folder of the tree that an import path means to a file in
// dir, or nil: replaced modules first, then the modules of the tree by longest
// prefix (Go Modules Reference, "Resolving a package to a module").
func (x *Resolver) locate(path, dir string) *folder {
	if path == "C" || path == "unsafe" {
		return nil // built into the compiler, whatever documents them
	}
	// A workspace's replacements come before a module's own.
	for i := range x.works {
		if within(dir, x.works[i].folder) {
			if f := x.replaced(&x.works[i], path); f != nil {
				return f
			}
		}
	}
	own := x.moduleOf(dir)
	if own != nil {
		if f := x.replaced(own, path); f != nil {
			return f
		}
		if own.path == "std" {
			if f := x.folders[strings.TrimPrefix(own.folder+"/"+path, "/")]; f != nil {
				return f
			}
		}
	}
	for i := range x.modules {
		m := &x.modules[i]
		if m.path == "std" {
			// Only for code that lives beside it: the standard library's tree.
			if first, _, _ := strings.Cut(path, "/"); !strings.Contains(first, ".") {
				if f := x.folders[strings.TrimPrefix(m.folder+"/"+path, "/")]; f != nil {
					return f
				}
			}
			continue
		}
		if !hasPathPrefix(path, m.path) {
			continue
		}
		dir := strings.TrimPrefix(m.folder+strings.TrimPrefix(path, m.path), "/")
		if f := x.folders[dir]; f != nil {
			return f
		}
	}
	if own == nil && strings.Contains(path, "/") {
		// No go.mod in sight, as in a part of a tree: the folder whose whole
		// path ends the import path.
		var best *folder
		for _, dir := range x.bySufx[path[strings.LastIndexByte(path, '/')+1:]] {
			if strings.HasSuffix(path, "/"+dir) && (best == nil || len(dir) > len(best.path)) {
				best = x.folders[dir]
			}
		}
		return best
	}
	return nil
}

// replaced returns the folder that a replace directive of m gives an import
// path, or nil.
func (x *Resolver) replaced(m *module, path string) *folder {
	for _, r := range m.manifest.Replaces {
		if !hasPathPrefix(path, r.Old) || !strings.HasPrefix(r.New, ".") {
			continue
		}
		if to, ok := graph.Join(m.folder, r.New); ok {
			if to, ok = graph.Join(to, strings.TrimPrefix(path, r.Old)); ok {
				if f := x.folders[to]; f != nil {
					return f
				}
			}
		}
	}
	return nil
}

func hasPathPrefix(path, prefix string) bool {
	return path == prefix || strings.HasPrefix(path, prefix) && path[len(prefix)] == '/'
}

// outside returns the module that an import path outside the tree belongs to.
func (x *Resolver) outside(path, dir string) (to string, std bool) {
	first, _, _ := strings.Cut(path, "/")
	if !strings.Contains(first, ".") {
		return path, path != "C"
	}
	best := ""
	if own := x.moduleOf(dir); own != nil {
		for _, q := range own.manifest.Requires {
			if hasPathPrefix(path, q.Name) && len(q.Name) > len(best) {
				best = q.Name
			}
		}
	}
	if best != "" {
		return best, false
	}
	// No requirement tells: the host, and the two elements that hosts of
	// source code take for a repository.
	parts := strings.SplitN(path, "/", 4)
	if len(parts) > 3 {
		return strings.Join(parts[:3], "/"), false
	}
	return path, false
}

// imported is one import of the file at hand.
type imported struct {
	imp    *fact.Import
	folder *folder // in the tree, or nil
	to     string  // outside
	std    bool
	named  bool // something of it is named
}

// Resolve adds the dependencies of the Go file i to c.
func (x *Resolver) Resolve(i int, c *graph.Collector) {
	f := x.g.Files[i]
	dir := graph.Folder(f.Path)
	imports := make([]imported, len(f.Imports))
	qualifiers := make(map[string]*imported, len(f.Imports))
	var dots []*imported
	for k := range f.Imports {
		m := &imports[k]
		m.imp = &f.Imports[k]
		if m.folder = x.locate(m.imp.Name, dir); m.folder == nil || m.folder.main == nil {
			m.folder = nil
			m.to, m.std = x.outside(m.imp.Name, dir)
		}
		switch m.imp.Alias {
		case "_":
		case ".":
			dots = append(dots, m)
		case "":
			name := guessName(m.imp.Name)
			if m.folder != nil {
				name = m.folder.main.name
			}
			qualifiers[name] = m
		default:
			qualifiers[m.imp.Alias] = m
		}
	}
	own := x.folders[dir]
	if own == nil {
		return
	}
	for k := range f.Uses {
		u := &f.Uses[k]
		if u.Flags&fact.Tag != 0 {
			c.Add(graph.Dep{Target: graph.ToOutside, To: "tag:" + u.Name, Name: "tag:" + u.Name, Decl: -1, How: u.How}, f.PlacesOf(u))
			continue
		}
		if u.Flags&fact.Key != 0 && !x.keyIsValue(u, own, f, qualifiers) {
			continue
		}
		q, name, qualified := strings.Cut(u.Name, ".")
		if !qualified {
			x.unqualified(i, own, u, u.Name, dots, c)
			continue
		}
		m := qualifiers[q]
		if m == nil {
			// A variable of another file of the package, or an outside
			// package whose name its path does not tell.
			if x.unqualified(i, own, u, q, dots, c) {
				continue
			}
			if m = byContent(imports, q); m == nil {
				continue
			}
		}
		m.named = true
		x.member(i, m, name, u, c)
	}
	for k := range imports {
		m := &imports[k]
		d := graph.Dep{Name: m.imp.Name, Decl: -1, How: fact.HowImport}
		if m.folder != nil {
			d.Target, d.To = graph.ToPackage, m.folder.path
		} else {
			d.Target, d.To = graph.ToOutside, m.to
			if m.std {
				d.Flags |= graph.Standard
			}
		}
		if !m.named {
			d.Flags |= graph.Bare
		}
		c.AddAt(d, m.imp.At)
	}
}

// byContent finds the outside import whose path has q as a part, for packages
// whose name is not their path's last element.
func byContent(imports []imported, q string) *imported {
	for k := range imports {
		m := &imports[k]
		if m.folder == nil && m.imp.Alias == "" && strings.Contains(strings.ToLower(m.imp.Name), strings.ToLower(q)) {
			return m
		}
	}
	return nil
}

// member adds the dependency on a name of an imported package.
func (x *Resolver) member(i int, m *imported, name string, u *fact.Use, c *graph.Collector) {
	places := x.g.Files[i].PlacesOf(u)
	full := m.imp.Name + "." + name
	if m.folder == nil {
		d := graph.Dep{Target: graph.ToOutside, To: m.to, Name: full, Decl: -1, How: u.How}
		if m.std {
			d.Flags = graph.Standard
		}
		c.Add(d, places)
		return
	}
	if !x.declaredIn(i, m.folder.main.decls[name], full, u.How, places, c) {
		// Code that is generated when the tree is built declares it.
		c.Add(graph.Dep{Target: graph.ToPackage, To: m.folder.path, Name: full, Decl: -1, How: u.How}, places)
	}
}

// declaredIn adds a dependency on each file that declares the name and can be
// built together with file i.
func (x *Resolver) declaredIn(i int, decls []declared, full string, how fact.How, places []fact.Place, c *graph.Collector) bool {
	f := x.g.Files[i]
	some := false
	for _, d := range decls {
		t := x.g.Files[d.file]
		if int(d.file) == i {
			some = true
			continue
		}
		if t.Test && !f.Test {
			continue
		}
		if len(decls) > 1 && !x.together(f.Constraint, t.Constraint) {
			continue
		}
		some = true
		c.Add(graph.Dep{Target: graph.ToFile, File: d.file, Decl: d.decl, Name: full, How: how}, places)
	}
	return some
}

// unqualified adds the dependency on a name that another file of the package,
// or a dot import, declares.
func (x *Resolver) unqualified(i int, own *folder, u *fact.Use, name string, dots []*imported, c *graph.Collector) bool {
	f := x.g.Files[i]
	places := f.PlacesOf(u)
	if p := own.packages[f.Package]; p != nil {
		if ds := p.decls[name]; len(ds) > 0 {
			return x.declaredIn(i, ds, x.g.Packages[i]+"."+name, u.How, places, c)
		}
	}
	for _, m := range dots {
		if m.folder == nil {
			continue
		}
		if ds := m.folder.main.decls[name]; len(ds) > 0 {
			m.named = true
			return x.declaredIn(i, ds, m.imp.Name+"."+name, u.How, places, c)
		}
	}
	return false
}

// keyIsValue decides whether the key of a composite literal is a value: it is
// a field name if the literal's type is a struct.
func (x *Resolver) keyIsValue(u *fact.Use, own *folder, f *fact.File, qualifiers map[string]*imported) bool {
	q, name, qualified := strings.Cut(u.Of, ".")
	var decls []declared
	if qualified {
		m := qualifiers[q]
		if m == nil || m.folder == nil {
			return false
		}
		decls = m.folder.main.decls[name]
	} else if p := own.packages[f.Package]; p != nil {
		decls = p.decls[u.Of]
	}
	for _, d := range decls {
		if x.g.Files[d.file].Decls[d.decl].Kind == fact.NamedType {
			return true
		}
	}
	return false
}
