package python

import (
	_ "embed"
	"path"
	"sort"
	"strings"
	"sync"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/language/lexis"
)

//go:embed platform.txt
var platformText string

// standard are the top modules of the standard library.
var standard = sync.OnceValue(func() map[string]bool {
	m := make(map[string]bool)
	for _, line := range strings.Split(platformText, "\n") {
		if line != "" && line[0] != '#' {
			m[line] = true
		}
	}
	return m
})

// otherwise are the distributions, met often, whose module has another name.
var otherwise = map[string]string{
	"pyyaml": "yaml", "beautifulsoup4": "bs4", "pillow": "pil", "opencv_python": "cv2", "scikit_learn": "sklearn", "python_dateutil": "dateutil",
	"python_dotenv": "dotenv", "pyjwt": "jwt", "psycopg2_binary": "psycopg2", "mysqlclient": "mysqldb", "pycryptodome": "crypto", "attrs": "attr",
	"pyserial": "serial", "gitpython": "git", "python_docx": "docx", "pyopenssl": "openssl", "python_ldap": "ldap", "protobuf": "google",
	"djangorestframework": "rest_framework", "python_magic": "magic", "msgpack_python": "msgpack", "setuptools": "pkg_resources",
}

// Resolver resolves the imports of a tree's Python files. It is read-only once
// made.
type Resolver struct {
	g       *graph.Graph
	modules map[string]int32 // by path without its extension, packages by their folder
	folders map[string]bool  // folders with Python files at any depth
	roots   []string         // source roots that hold for all files, the innermost first
	decls   []map[string]int32
	brings  []map[string][]int32 // for each file, its imports by local name
	stars   [][]int32
	dists   map[string]string // distributions that manifests require, by the module's likely name
}

// NewResolver indexes the Python files of g.
func NewResolver(g *graph.Graph) *Resolver {
	x := &Resolver{
		g: g, modules: make(map[string]int32), folders: make(map[string]bool), dists: make(map[string]string),
		decls: make([]map[string]int32, len(g.Files)), brings: make([]map[string][]int32, len(g.Files)), stars: make([][]int32, len(g.Files)),
	}
	roots := map[string]bool{"": true}
	for i, f := range g.Files {
		switch f.Language {
		case "python":
		case "pyproject", "setup.cfg":
			folder := graph.Folder(f.Path)
			for _, sub := range []string{"", "src", "lib", "python"} {
				if to, ok := graph.Join(folder, sub); ok {
					roots[to] = true
				}
			}
			if f.Manifest != nil {
				for _, q := range f.Manifest.Requires {
					dist := strings.NewReplacer("-", "_", ".", "_").Replace(strings.ToLower(q.Name))
					x.dists[dist] = q.Name
					if module, ok := otherwise[dist]; ok {
						x.dists[module] = q.Name
					}
				}
			}
			continue
		default:
			continue
		}
		name := strings.TrimSuffix(f.Path, path.Ext(f.Path))
		if base := path.Base(name); base == "__init__" {
			name = graph.Folder(f.Path)
		}
		// A stub stands for its module only where that is not in the tree.
		if old, ok := x.modules[name]; !ok || path.Ext(g.Files[old].Path) == ".pyi" || name == graph.Folder(f.Path) {
			if path.Ext(f.Path) != ".pyi" || !ok {
				x.modules[name] = int32(i)
			}
		}
		for folder := graph.Folder(f.Path); folder != "" && !x.folders[folder]; folder = graph.Folder(folder) {
			x.folders[folder] = true
		}
		decls := make(map[string]int32, len(f.Decls))
		for d := range f.Decls {
			if f.Decls[d].Outer < 0 && f.Decls[d].Flags&fact.Local == 0 {
				if _, ok := decls[f.Decls[d].Name]; !ok || f.Decls[d].Kind.IsType() {
					decls[f.Decls[d].Name] = int32(d)
				}
			}
		}
		x.decls[i] = decls
		brings := make(map[string][]int32)
		for k := range f.Imports {
			imp := &f.Imports[k]
			switch {
			case imp.Flags&fact.OnDemand != 0:
			case imp.Member == "*":
				x.stars[i] = append(x.stars[i], int32(k))
			default:
				local := local(imp)
				brings[local] = append(brings[local], int32(k))
			}
		}
		x.brings[i] = brings
	}
	// The folder above the outermost package is where its imports begin.
	for _, f := range g.Files {
		if f.Language == "python" && path.Base(f.Path) == "__init__.py" {
			if up := graph.Folder(graph.Folder(f.Path)); graph.Folder(f.Path) != "" && !x.isPackage(up) {
				roots[up] = true
			}
		}
	}
	for r := range roots {
		x.roots = append(x.roots, r)
	}
	sort.Slice(x.roots, func(a, b int) bool {
		if na, nb := strings.Count(x.roots[a], "/"), strings.Count(x.roots[b], "/"); na != nb {
			return na < nb
		}
		return x.roots[a] < x.roots[b]
	})
	for i, f := range g.Files {
		if f.Language == "python" {
			g.Packages[i] = x.moduleName(i)
		}
	}
	return x
}

func local(imp *fact.Import) string {
	if imp.Alias != "" {
		return imp.Alias
	}
	if imp.Kind == fact.ImportMember {
		return imp.Member
	}
	head, _, _ := strings.Cut(imp.Name, ".")
	return head
}

// isPackage reports whether a folder has an __init__ file.
func (x *Resolver) isPackage(folder string) bool {
	if folder == "" {
		return false
	}
	m, ok := x.modules[folder]
	return ok && strings.HasPrefix(path.Base(x.g.Files[m].Path), "__init__.")
}

// top returns the folder that the imports of file i begin in: the one above
// its outermost package, or its own.
func (x *Resolver) top(i int) string {
	folder := graph.Folder(x.g.Files[i].Path)
	for x.isPackage(folder) {
		folder = graph.Folder(folder)
	}
	return folder
}

// moduleName returns the full name of the module that file i is: its path from
// the innermost source root above it.
func (x *Resolver) moduleName(i int) string {
	p := x.g.Files[i].Path
	p = strings.TrimSuffix(p, path.Ext(p))
	if path.Base(p) == "__init__" {
		p = graph.Folder(p)
	}
	best := ""
	inPackage := x.isPackage(graph.Folder(x.g.Files[i].Path))
	if inPackage {
		best = x.top(i)
	} else {
		for _, r := range x.roots {
			if r != "" && strings.HasPrefix(p, r+"/") && len(r) > len(best) {
				best = r
			}
		}
	}
	return strings.ReplaceAll(strings.TrimPrefix(strings.TrimPrefix(p, best), "/"), "/", ".")
}

// target is what a dotted name reaches: a module, and what of it.
type target struct {
	file int32  // -1 for none
	decl int32  // -1 for the module itself
	dir  string // a folder without a file of its own, where file is -1
	ok   bool
}

// module finds the module of a full dotted name from a root folder.
func (x *Resolver) module(root, name string) target {
	p := strings.ReplaceAll(name, ".", "/")
	if root != "" {
		p = root + "/" + p
		if name == "" {
			p = root
		}
	}
	if m, ok := x.modules[p]; ok {
		return target{file: m, decl: -1, ok: true}
	}
	if x.folders[p] {
		return target{file: -1, decl: -1, dir: p, ok: true}
	}
	return target{}
}

// find resolves the module name of an import of file i. A relative one is
// counted from its package (reference, 5.7); an absolute one is looked for
// where the file's own package begins, in the folders above, and in the roots
// of the tree.
func (x *Resolver) find(i int, name string) target {
	if strings.HasPrefix(name, ".") {
		folder := graph.Folder(x.g.Files[i].Path)
		rest := name[1:]
		for strings.HasPrefix(rest, ".") {
			if folder == "" {
				return target{}
			}
			folder, rest = graph.Folder(folder), rest[1:]
		}
		if folder == "" && rest == "" {
			return target{}
		}
		return x.module(folder, rest)
	}
	top := x.top(i)
	head, _, _ := strings.Cut(name, ".")
	plain := func(root string) target {
		t := x.module(root, name)
		if t.ok && t.file < 0 && !x.namespaced(root, head) {
			return target{}
		}
		return t
	}
	if t := plain(top); t.ok {
		return t
	}
	if standard()[head] {
		return target{}
	}
	best := target{}
	for folder := top; folder != ""; {
		folder = graph.Folder(folder)
		if t := plain(folder); t.ok && (!best.ok || best.file < 0 && t.file >= 0) {
			best = t
			if t.file >= 0 {
				return t
			}
		}
	}
	near := -1
	for _, r := range x.roots {
		t := plain(r)
		if !t.ok || best.file >= 0 && best.ok && t.file < 0 {
			continue
		}
		n := lexis.SharedFolders(x.g.Files[i].Path, r+"/")
		if !best.ok || best.file < 0 && t.file >= 0 || n > near && (t.file >= 0) == (best.file >= 0) {
			best, near = t, n
		}
	}
	return best
}

// namespaced reports whether a folder may be a namespace package: one without
// an __init__ file that is no mere folder of the project.
func (x *Resolver) namespaced(root, head string) bool {
	p := head
	if root != "" {
		p = root + "/" + head
	}
	return x.folders[p]
}

// declared finds what a name means in the module that file m is: what it
// declares or, through its imports, what others do. A submodule is one, too.
func (x *Resolver) declared(m int32, name string, depth int) (target, bool) {
	if d, ok := x.decls[m][name]; ok {
		return target{file: m, decl: d, ok: true}, true
	}
	if depth > 20 {
		return target{}, false
	}
	f := x.g.Files[m]
	for _, k := range x.passedOn(m, name) {
		if t := x.brought(int(m), &f.Imports[k], depth+1); t.ok {
			return t, true
		}
	}
	if path.Base(strings.TrimSuffix(f.Path, path.Ext(f.Path))) == "__init__" {
		if t := x.module(graph.Folder(f.Path), name); t.ok && t.file >= 0 {
			return t, true
		}
	}
	for _, k := range x.stars[m] {
		if s := x.find(int(m), f.Imports[k].Name); s.ok && s.file >= 0 && s.file != m {
			if t, ok := x.declared(s.file, name, depth+1); ok && t.decl >= 0 {
				return t, true
			}
		}
	}
	return target{}, false
}

// passedOn returns the imports by which the module that file m is has a name
// that others see.
func (x *Resolver) passedOn(m int32, name string) (list []int32) {
	for _, k := range x.brings[m][name] {
		if x.g.Files[m].Imports[k].Flags&fact.Inner == 0 {
			list = append(list, k)
		}
	}
	return list
}

// brought resolves what an import of file i binds its local name to.
func (x *Resolver) brought(i int, imp *fact.Import, depth int) target {
	if imp.Kind != fact.ImportMember {
		name := imp.Name
		if imp.Alias == "" {
			name, _, _ = strings.Cut(name, ".")
		}
		return x.find(i, name)
	}
	m := x.find(i, imp.Name)
	if !m.ok {
		return target{}
	}
	if m.file < 0 {
		return x.module(m.dir, imp.Member)
	}
	if int(m.file) == i {
		// A package's own file that names one of its modules.
		return x.module(graph.Folder(x.g.Files[i].Path), imp.Member)
	}
	if t, ok := x.declared(m.file, imp.Member, depth); ok {
		return t
	}
	return target{file: m.file, decl: -1, ok: true}
}

// Resolve adds the dependencies of the Python file i to c.
func (x *Resolver) Resolve(i int, c *graph.Collector) {
	f := x.g.Files[i]
	hits := make(hits)
	for k := range f.Uses {
		if u := &f.Uses[k]; u.How != fact.HowDynamic {
			x.use(i, u, c, hits)
		}
	}
	for k := range f.Imports {
		x.importRow(i, int32(k), c, hits)
	}
}

// hits are what is used through the imports of a file: for each, declarations
// of files.
type hits map[int32]map[lexis.Ref]bool

func (h hits) add(imp int32, t target) {
	if t.file < 0 || t.decl < 0 {
		return
	}
	if h[imp] == nil {
		h[imp] = make(map[lexis.Ref]bool)
	}
	h[imp][lexis.Ref{File: t.file, Decl: t.decl}] = true
}

// emitModule adds the import of a module: of what is used of it or, where that
// is nothing, of the module itself.
func (x *Resolver) emitModule(i int, imp int32, c *graph.Collector, t target, how fact.How, flags graph.DepFlags, places []fact.Place, hits hits) {
	found := false
	for ref := range hits[imp] {
		if ref.File == t.file && t.decl < 0 {
			x.emit(i, c, target{file: ref.File, decl: ref.Decl}, how, flags, places)
			found = true
		}
	}
	if !found {
		x.emit(i, c, t, how, flags, places)
	}
}

func (x *Resolver) emit(i int, c *graph.Collector, t target, how fact.How, flags graph.DepFlags, places []fact.Place) {
	switch {
	case t.file < 0:
		c.Add(graph.Dep{Target: graph.ToPackage, To: t.dir, Name: strings.ReplaceAll(t.dir, "/", "."), Decl: -1, How: how, Flags: flags}, places)
	case int(t.file) != i:
		name := x.g.Packages[t.file]
		if t.decl >= 0 {
			name = graph.DeclName(x.g.Files[t.file], name, t.decl)
		}
		c.Add(graph.Dep{Target: graph.ToFile, File: t.file, Decl: t.decl, Name: name, How: how, Flags: flags}, places)
	}
}

func (x *Resolver) outside(c *graph.Collector, name string, how fact.How, flags graph.DepFlags, places []fact.Place) {
	head, _, _ := strings.Cut(name, ".")
	to := head
	if d, ok := x.dists[strings.ToLower(head)]; ok {
		to = d
	}
	if standard()[head] {
		to = head
		flags |= graph.Standard
	}
	c.Add(graph.Dep{Target: graph.ToOutside, To: to, Name: name, Decl: -1, How: how, Flags: flags}, places)
}

func (x *Resolver) importRow(i int, index int32, c *graph.Collector, hits hits) {
	imp := &x.g.Files[i].Imports[index]
	places := []fact.Place{imp.At}
	how, flags := fact.HowImport, graph.DepFlags(0)
	if imp.Flags&fact.OnDemand != 0 {
		how = fact.HowDynamic
	}
	if !imp.Used {
		flags |= graph.Unused
	}
	if imp.Flags&fact.TypeOnly != 0 {
		flags |= graph.TypeOnly
	}
	m := x.find(i, imp.Name)
	if !m.ok {
		name := imp.Name
		if strings.HasPrefix(name, ".") {
			// The module of a package may be compiled code, or made later.
			c.Add(graph.Dep{Target: graph.ToUnresolved, To: name, Name: strings.TrimSuffix(name, ".") + "." + imp.Member, Decl: -1, How: how, Flags: flags}, places)
			return
		}
		if imp.Member != "" && imp.Member != "*" {
			name += "." + imp.Member
		}
		x.outside(c, name, how, flags, places)
		return
	}
	if imp.Kind != fact.ImportMember || imp.Member == "*" {
		x.emitModule(i, index, c, m, how, flags, places, hits)
		return
	}
	if m.file < 0 {
		if t := x.module(m.dir, imp.Member); t.ok {
			m = t
		}
		x.emitModule(i, index, c, m, how, flags, places, hits)
		return
	}
	if int(m.file) == i {
		if t := x.module(graph.Folder(x.g.Files[i].Path), imp.Member); t.ok {
			x.emitModule(i, index, c, t, how, flags, places, hits)
		}
		return
	}
	t, ok := x.declared(m.file, imp.Member, 0)
	switch {
	case !ok:
		x.emitModule(i, index, c, m, how, flags, places, hits)
	case t.file == m.file:
		x.emitModule(i, index, c, t, how, flags, places, hits)
	case t.file >= 0 && t.decl < 0 && graph.Folder(x.g.Files[m.file].Path) == graph.Folder(x.g.Files[t.file].Path) && x.passedOn(m.file, imp.Member) == nil,
		t.decl < 0 && x.passedOn(m.file, imp.Member) == nil:
		x.emitModule(i, index, c, t, how, flags, places, hits) // a module of the package
	default:
		// Passed on: the file that is named, and the one that declares it.
		x.emitModule(i, index, c, m, how, flags, places, hits)
		x.emitModule(i, index, c, t, how, flags, places, hits)
	}
}

// use resolves a dotted name whose head an import brings in.
func (x *Resolver) use(i int, u *fact.Use, c *graph.Collector, hits hits) {
	f := x.g.Files[i]
	places := f.PlacesOf(u)
	head, rest, _ := strings.Cut(u.Name, ".")
	if u.Flags&fact.Ambiguous != 0 && x.brings[i][head] == nil {
		for _, k := range x.stars[i] {
			if m := x.find(i, f.Imports[k].Name); m.ok && m.file >= 0 {
				if t, ok := x.declared(m.file, head, 0); ok {
					hits.add(k, x.follow(i, t, rest, u, c, 0, places))
					return
				}
			}
		}
		return
	}
	for _, k := range x.brings[i][head] {
		imp := &f.Imports[k]
		full, rest := imp.Name, rest
		if imp.Kind == fact.ImportMember {
			full += "." + imp.Member
		} else if imp.Alias == "" {
			// "import a.b" binds a; what is meant is in the use.
			full = head
			if u.Name != imp.Name && !strings.HasPrefix(u.Name, imp.Name+".") && len(x.brings[i][head]) > 1 {
				continue // another import of the same package names it
			}
		}
		t := x.brought(i, imp, 0)
		if !t.ok {
			if !strings.HasPrefix(full, ".") {
				if rest != "" {
					full += "." + rest
				}
				x.outside(c, full, u.How, 0, places)
			}
			continue
		}
		flags := graph.DepFlags(0)
		if imp.Flags&fact.TypeOnly != 0 {
			flags = graph.TypeOnly
		}
		hits.add(k, x.follow(i, t, rest, u, c, flags, places))
	}
}

// follow goes from a target along a dotted rest: submodules and what modules
// declare. What it reaches last in the tree is what is used.
func (x *Resolver) follow(i int, t target, rest string, u *fact.Use, c *graph.Collector, flags graph.DepFlags, places []fact.Place) target {
	for rest != "" && t.decl < 0 {
		seg, tail, _ := strings.Cut(rest, ".")
		var next target
		ok := false
		if t.file >= 0 {
			next, ok = x.declared(t.file, seg, 0)
		} else if next = x.module(t.dir, seg); next.ok {
			ok = true
		}
		if !ok {
			break
		}
		t, rest = next, tail
	}
	if t.file < 0 {
		return t // the import's own row says it
	}
	how := u.How
	if how == fact.HowCall && u.Flags&fact.Call != 0 && t.decl >= 0 && rest == "" && x.g.Files[t.file].Decls[t.decl].Kind == fact.Class {
		how = fact.HowConstruct
	}
	x.emit(i, c, t, how, flags, places)
	return t
}
