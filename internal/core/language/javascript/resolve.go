package javascript

import (
	"path"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/language/lexis"
)

// Resolver resolves the imports of a tree's JavaScript and TypeScript files.
// It is read-only once made.
type Resolver struct {
	g       *graph.Graph
	files   map[string]int32       // every file of the tree by its path
	folders map[string]bool        // folders with source files
	exports []map[string][]int32   // for each file, its exports by name: index into File.Exports
	decls   []map[string]int32     // for each file, its own declarations
	brings  []map[string]int32     // for each file, its imports by local name
	passed  []map[string][]int32   // for each file, what it passes on by name; "*" for all
	globals map[string][]lexis.Ref // what files that are no modules declare
	ambient map[string]lexis.Ref   // outside modules that a file of the tree declares
	configs map[string]*config     // by folder
	modules map[string]int32       // package.json files by the package's name
	nearest map[string]int32       // by folder, the package.json in it
}

// IsSource reports whether a language is one of this package's.
func IsSource(language string) bool {
	switch language {
	case "javascript", "typescript", "vue", "svelte":
		return true
	}
	return false
}

// NewResolver indexes the files of g.
func NewResolver(g *graph.Graph) *Resolver {
	n := len(g.Files)
	x := &Resolver{
		g: g, files: make(map[string]int32), folders: make(map[string]bool), globals: make(map[string][]lexis.Ref), ambient: make(map[string]lexis.Ref),
		exports: make([]map[string][]int32, n), decls: make([]map[string]int32, n), brings: make([]map[string]int32, n), passed: make([]map[string][]int32, n),
		modules: make(map[string]int32), nearest: make(map[string]int32),
	}
	any := false
	for i, f := range g.Files {
		switch {
		case f.Language == "package.json" && f.Manifest != nil:
			x.nearest[graph.Folder(f.Path)] = int32(i)
			if f.Manifest.Module != "" {
				if old, ok := x.modules[f.Manifest.Module]; !ok || len(f.Path) < len(g.Files[old].Path) {
					x.modules[f.Manifest.Module] = int32(i)
				}
			}
		case IsSource(f.Language):
			any = true
			x.files[f.Path] = int32(i)
			for folder := graph.Folder(f.Path); folder != "" && !x.folders[folder]; folder = graph.Folder(folder) {
				x.folders[folder] = true
			}
			x.index(i, f)
		}
	}
	if any {
		x.readConfigs()
	}
	return x
}

// index notes what a file declares, brings in and passes on.
func (x *Resolver) index(i int, f *fact.File) {
	decls := make(map[string]int32)
	for d := range f.Decls {
		k := &f.Decls[d]
		if k.Kind == fact.Namespace {
			continue
		}
		if k.Outer >= 0 || k.Flags&fact.Local != 0 || k.Name == "" {
			continue
		}
		// A type and a value of one name are one thing to those who import it.
		if old, ok := decls[k.Name]; !ok || !f.Decls[old].Kind.IsType() && k.Kind.IsType() || f.Decls[old].Flags&fact.Public == 0 && k.Flags&fact.Public != 0 {
			decls[k.Name] = int32(d)
		}
	}
	x.decls[i] = decls
	if len(f.Exports) > 0 {
		m := make(map[string][]int32)
		for e := range f.Exports {
			m[f.Exports[e].Name] = append(m[f.Exports[e].Name], int32(e))
		}
		x.exports[i] = m
	}
	module := len(f.Exports) > 0
	for k := range f.Imports {
		imp := &f.Imports[k]
		if imp.Kind == fact.ImportInclude || imp.Flags&fact.OnDemand != 0 {
			continue
		}
		module = true
		name := imp.Alias
		if imp.Flags&fact.PassedOn != 0 {
			if imp.Member == "*" {
				name = "*"
			}
			if x.passed[i] == nil {
				x.passed[i] = make(map[string][]int32)
			}
			x.passed[i][name] = append(x.passed[i][name], int32(k))
		} else if name != "" {
			if x.brings[i] == nil {
				x.brings[i] = make(map[string]int32)
			}
			x.brings[i][name] = int32(k)
		}
	}
	if !module && f.Language == "typescript" {
		for d := range f.Decls {
			if k := &f.Decls[d]; k.Kind == fact.Namespace && x.ambient[k.Name] == (lexis.Ref{}) {
				x.ambient[k.Name] = lexis.Ref{File: int32(i), Decl: int32(d)}
			}
		}
		for name, d := range decls {
			x.globals[name] = append(x.globals[name], lexis.Ref{File: int32(i), Decl: d})
		}
	}
}

// exported finds what a module means by a name that it exports: the file and
// declaration, or the file alone.
func (x *Resolver) exported(m int32, name string, depth int) (lexis.Ref, bool) {
	if depth > 40 {
		return lexis.Ref{}, false
	}
	f := x.g.Files[m]
	if d, ok := x.decls[m][name]; ok && f.Decls[d].Flags&fact.Public != 0 && name != "default" {
		return lexis.Ref{File: m, Decl: d}, true
	}
	for _, e := range x.exports[m][name] {
		local := f.Exports[e].Local
		if d, ok := x.decls[m][local]; ok {
			return lexis.Ref{File: m, Decl: d}, true
		}
		if k, ok := x.brings[m][local]; ok {
			return x.brought(m, &f.Imports[k], depth+1)
		}
		return lexis.Ref{File: m, Decl: -1}, true
	}
	for _, k := range x.passed[m][name] {
		if name == "*" {
			break
		}
		return x.brought(m, &f.Imports[k], depth+1)
	}
	if name == "default" {
		for _, e := range x.exports[m]["="] {
			if d, ok := x.decls[m][f.Exports[e].Local]; ok {
				return lexis.Ref{File: m, Decl: d}, true
			}
		}
		return lexis.Ref{}, false // export * does not pass on the default
	}
	for _, k := range x.passed[m]["*"] {
		if to := x.module(int(m), f.Imports[k].Name); to >= 0 && to != m {
			if ref, ok := x.exported(to, name, depth+1); ok {
				return ref, true
			}
		}
	}
	if x.exports[m] == nil && len(x.exports[m]) == 0 {
		if d, ok := x.decls[m][name]; ok { // a CommonJS module, or a script
			return lexis.Ref{File: m, Decl: d}, true
		}
	}
	return lexis.Ref{}, false
}

// brought finds what an import of file i brings in. A module that does not say
// what it exports under that name stands for it.
func (x *Resolver) brought(i int32, imp *fact.Import, depth int) (lexis.Ref, bool) {
	to := x.module(int(i), imp.Name)
	if to < 0 {
		return lexis.Ref{}, false
	}
	if imp.Kind == fact.ImportMember && imp.Member != "*" {
		if ref, ok := x.exported(to, imp.Member, depth); ok {
			return ref, true
		}
	}
	return lexis.Ref{File: to, Decl: -1}, true
}

// Resolve adds the dependencies of file i to c.
func (x *Resolver) Resolve(i int, c *graph.Collector) {
	f := x.g.Files[i]
	hits := make(map[int32]map[lexis.Ref]bool) // what is used through each import
	for k := range f.Uses {
		if u := &f.Uses[k]; u.How != fact.HowDynamic {
			x.use(i, u, c, hits)
		}
	}
	for k := range f.Imports {
		x.importRow(i, &f.Imports[k], c, hits[int32(k)])
	}
}

func (x *Resolver) emit(i int, c *graph.Collector, ref lexis.Ref, how fact.How, flags graph.DepFlags, places []fact.Place) {
	if int(ref.File) == i {
		return
	}
	t := x.g.Files[ref.File]
	name := moduleName(t.Path)
	if ref.Decl >= 0 {
		name += "#" + graph.DeclName(t, "", ref.Decl)
	}
	c.Add(graph.Dep{Target: graph.ToFile, File: ref.File, Decl: ref.Decl, Name: name, How: how, Flags: flags}, places)
}

// moduleName is a file's path without its extension.
func moduleName(p string) string {
	for _, e := range []string{".d.ts", ".d.mts", ".d.cts"} {
		if s, ok := strings.CutSuffix(p, e); ok {
			return s
		}
	}
	return strings.TrimSuffix(p, path.Ext(p))
}

func (x *Resolver) importRow(i int, imp *fact.Import, c *graph.Collector, used map[lexis.Ref]bool) {
	places := []fact.Place{imp.At}
	how, flags := fact.HowImport, graph.DepFlags(0)
	switch {
	case imp.Kind == fact.ImportInclude:
		how = fact.HowInclude
	case imp.Flags&fact.OnDemand != 0:
		how = fact.HowDynamic
	case imp.Flags&fact.PassedOn != 0:
		how = fact.HowReexport
	}
	if !imp.Used {
		flags |= graph.Unused
	}
	if imp.Flags&fact.TypeOnly != 0 {
		flags |= graph.TypeOnly
	}
	if imp.Kind == fact.ImportInclude {
		if p, ok := graph.Join(graph.Folder(x.g.Files[i].Path), imp.Name); ok {
			if to, ok := x.files[p]; ok {
				x.emit(i, c, lexis.Ref{File: to, Decl: -1}, how, flags, places)
			}
		}
		return
	}
	to := x.module(i, imp.Name)
	if to >= 0 {
		ref := lexis.Ref{File: to, Decl: -1}
		if imp.Kind == fact.ImportMember && imp.Member != "*" {
			if t, ok := x.exported(to, imp.Member, 0); ok {
				if t.File == to {
					ref = t
				} else {
					x.emit(i, c, t, how, flags, places) // passed on: who declares it
				}
			}
		}
		// What is used of a module as a whole stands for it.
		found := false
		for u := range used {
			if ref.Decl < 0 && u.File == to && u.Decl >= 0 {
				found = true
				x.emit(i, c, u, how, flags, places)
			}
		}
		if !found {
			x.emit(i, c, ref, how, flags, places)
		}
		return
	}
	if ref, ok := x.ambient[imp.Name]; ok {
		x.emit(i, c, ref, how, flags|graph.TypeOnly, places)
	}
	pkg := packageName(imp.Name)
	switch {
	case asset(imp.Name):
	case pkg == "":
		c.Add(graph.Dep{Target: graph.ToUnresolved, To: imp.Name, Name: imp.Name, Decl: -1, How: how, Flags: flags}, places)
	default:
		name := strings.TrimPrefix(imp.Name, "node:")
		if builtin(pkg) {
			pkg = "node:" + strings.TrimPrefix(pkg, "node:")
			flags |= graph.Standard
		}
		if imp.Kind == fact.ImportMember && imp.Member != "*" && imp.Member != "default" {
			name += "#" + imp.Member
		}
		c.Add(graph.Dep{Target: graph.ToOutside, To: pkg, Name: name, Decl: -1, How: how, Flags: flags}, places)
	}
}

// asset tells files that are no code: styles, data, pictures.
func asset(spec string) bool {
	spec, _, _ = strings.Cut(spec, "?")
	switch path.Ext(spec) {
	case ".css", ".scss", ".sass", ".less", ".styl", ".json", ".json5", ".svg", ".png", ".jpg", ".jpeg", ".gif", ".webp", ".ico",
		".html", ".md", ".mdx", ".txt", ".graphql", ".gql", ".woff", ".woff2", ".ttf", ".wasm", ".node", ".yaml", ".yml", ".mp3", ".mp4":
		return strings.Contains(spec, "/")
	}
	return false
}

// packageName returns the npm package that a bare specifier names: with its
// scope and without the path below it; "" for what is none.
func packageName(spec string) string {
	if spec == "" || spec[0] == '.' || spec[0] == '/' || spec[0] == '#' || strings.Contains(spec, "\\") {
		return ""
	}
	if n := strings.IndexByte(spec, ':'); n >= 0 && !strings.HasPrefix(spec, "node:") {
		return spec[:n+1] // virtual modules of a bundler, URLs
	}
	segs := strings.SplitN(spec, "/", 3)
	if segs[0][0] == '@' {
		if len(segs) < 2 || len(segs[0]) == 1 {
			return ""
		}
		return segs[0] + "/" + segs[1]
	}
	if segs[0] == "~" {
		return ""
	}
	return segs[0]
}

// builtins are Node.js's own modules (module.builtinModules).
var builtins = map[string]bool{}

func init() {
	for _, w := range strings.Fields(`assert async_hooks buffer child_process cluster console constants crypto dgram
		diagnostics_channel dns domain events fs http http2 https inspector module net os path perf_hooks process punycode
		querystring readline repl stream string_decoder sys timers tls trace_events tty url util v8 vm wasi worker_threads zlib
		test sqlite sea`) {
		builtins[w] = true
	}
}

func builtin(pkg string) bool {
	if name, ok := strings.CutPrefix(pkg, "node:"); ok {
		return builtins[name]
	}
	return builtins[pkg] && pkg != "test" && pkg != "sqlite" && pkg != "sea"
}

// use resolves a dotted name whose head an import brings in.
func (x *Resolver) use(i int, u *fact.Use, c *graph.Collector, hits map[int32]map[lexis.Ref]bool) {
	f := x.g.Files[i]
	places := f.PlacesOf(u)
	head, rest, _ := strings.Cut(u.Name, ".")
	if u.Flags&fact.Ambiguous != 0 {
		if refs := x.globals[head]; len(refs) > 0 && x.decls[i][head] == 0 {
			if _, own := x.decls[i][head]; !own {
				x.emit(i, c, lexis.Nearest(x.g, i, refs), u.How, 0, places)
			}
		}
		return
	}
	k, ok := x.brings[i][head]
	if !ok {
		return
	}
	imp := &f.Imports[k]
	flags := graph.DepFlags(0)
	if imp.Flags&fact.TypeOnly != 0 {
		flags = graph.TypeOnly
	}
	to := x.module(i, imp.Name)
	if to < 0 {
		pkg := packageName(imp.Name)
		if pkg == "" || asset(imp.Name) {
			return
		}
		name := strings.TrimPrefix(imp.Name, "node:")
		if builtin(pkg) {
			pkg = "node:" + strings.TrimPrefix(pkg, "node:")
			flags |= graph.Standard
		}
		switch {
		case imp.Kind == fact.ImportMember && imp.Member != "default":
			name += "#" + imp.Member
		case rest != "":
			seg, _, _ := strings.Cut(rest, ".")
			name += "#" + seg
		}
		c.Add(graph.Dep{Target: graph.ToOutside, To: pkg, Name: name, Decl: -1, How: u.How, Flags: flags}, places)
		return
	}
	ref, ok := lexis.Ref{File: to, Decl: -1}, true
	if imp.Kind == fact.ImportMember && imp.Member != "*" {
		if ref, ok = x.exported(to, imp.Member, 0); !ok {
			ref = lexis.Ref{File: to, Decl: -1}
		}
	}
	for rest != "" && ref.Decl < 0 { // members of a namespace import
		seg, tail, _ := strings.Cut(rest, ".")
		next, ok := x.exported(ref.File, seg, 0)
		if !ok {
			break
		}
		ref, rest = next, tail
	}
	how := u.How
	if ref.Decl >= 0 && how == fact.HowCall {
		if k := x.g.Files[ref.File].Decls[ref.Decl].Kind; k == fact.Interface || k == fact.Alias {
			how = fact.HowType
		}
	}
	if hits[k] == nil {
		hits[k] = make(map[lexis.Ref]bool)
	}
	hits[k][ref] = true
	x.emit(i, c, ref, how, flags, places)
}
