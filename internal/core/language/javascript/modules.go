package javascript

import (
	"path"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
)

// config is what a tsconfig or jsconfig says of resolution, its bases included.
type config struct {
	base  string // the folder that baseUrl names; "" with set false for none
	set   bool
	paths []fact.Mapping
	from  string // the folder that paths are counted from
	roots []string
}

// readConfigs reads the configuration that holds for each folder: the
// tsconfig.json or jsconfig.json in it, else another there that has paths.
func (x *Resolver) readConfigs() {
	x.configs = make(map[string]*config)
	for i, f := range x.g.Files {
		if f.Language != "tsconfig" || f.Manifest == nil {
			continue
		}
		folder := graph.Folder(f.Path)
		base := path.Base(f.Path)
		plain := base == "tsconfig.json" || base == "jsconfig.json"
		if old := x.configs[folder]; old != nil && !plain && (old.set || old.paths != nil) {
			continue
		}
		c := x.config(i, 0)
		if old := x.configs[folder]; old == nil || plain && (c.set || c.paths != nil) || !old.set && old.paths == nil {
			x.configs[folder] = c
		}
	}
}

// config reads file i with what it extends and, for a solution that only
// refers to other projects, theirs in the same folder.
func (x *Resolver) config(i, depth int) *config {
	f := x.g.Files[i]
	c := &config{}
	folder := graph.Folder(f.Path)
	if f.Manifest == nil || depth > 10 {
		return c
	}
	for _, q := range f.Manifest.Requires {
		if q.Scope != "extends" || !strings.HasPrefix(q.Name, ".") {
			continue
		}
		p, ok := graph.Join(folder, q.Name)
		if !ok {
			continue
		}
		k := x.g.Find(p)
		if k < 0 {
			k = x.g.Find(p + ".json")
		}
		if k < 0 {
			k = x.g.Find(p + "/tsconfig.json")
		}
		if k >= 0 && k != i {
			*c = *x.config(k, depth+1)
		}
	}
	if s, ok := f.Manifest.Properties["baseUrl"]; ok {
		if p, ok := graph.Join(folder, s); ok {
			c.base, c.set = p, true
		}
	}
	for _, m := range f.Manifest.Maps {
		switch m.Kind {
		case "paths":
			if c.from != folder || len(c.paths) == 0 || &c.paths[0] != &f.Manifest.Maps[0] {
				c.paths, c.from = f.Manifest.Maps, folder
				if c.set {
					c.from = c.base
				}
			}
		case "rootDirs":
			for _, d := range m.To {
				if p, ok := graph.Join(folder, d); ok {
					c.roots = append(c.roots, p)
				}
			}
		}
	}
	if c.paths == nil && !c.set {
		for _, q := range f.Manifest.Requires {
			if q.Scope == "references" {
				if p, ok := graph.Join(folder, q.Name); ok {
					if k := x.g.Find(p); k >= 0 && k != i && graph.Folder(p) == folder {
						if other := x.config(k, depth+1); other.paths != nil || other.set {
							return other
						}
					}
				}
			}
		}
	}
	return c
}

// configOf returns the configuration that holds for a folder, or nil.
func (x *Resolver) configOf(folder string) *config {
	for {
		if c, ok := x.configs[folder]; ok {
			return c
		}
		if folder == "" {
			return nil
		}
		folder = graph.Folder(folder)
	}
}

// module returns the file that a module specifier of file i means, or -1.
func (x *Resolver) module(i int, spec string) int32 {
	from := graph.Folder(x.g.Files[i].Path)
	spec, _, _ = strings.Cut(spec, "?") // a bundler's query
	switch {
	case spec == "":
		return -1
	case spec == "." || spec == ".." || strings.HasPrefix(spec, "./") || strings.HasPrefix(spec, "../"):
		p, ok := graph.Join(from, spec)
		if !ok {
			return -1
		}
		if to := x.fileOrFolder(p, strings.HasSuffix(spec, "/") || spec == "." || spec == ".."); to >= 0 {
			return to
		}
		if c := x.configOf(from); c != nil {
			for _, r := range c.roots { // rootDirs: folders that are one when it runs
				rel, below := strings.CutPrefix(p+"/", r+"/")
				if !below {
					continue
				}
				for _, other := range c.roots {
					if q, ok := graph.Join(other, rel); ok {
						if to := x.fileOrFolder(q, false); to >= 0 {
							return to
						}
					}
				}
			}
		}
		return -1
	case spec[0] == '#':
		for folder := from; ; folder = graph.Folder(folder) {
			if m, ok := x.nearest[folder]; ok {
				return x.mapped(m, "imports", spec)
			}
			if folder == "" {
				return -1
			}
		}
	case spec[0] == '/':
		return -1
	}
	if c := x.configOf(from); c != nil {
		for _, m := range c.paths {
			if m.Kind != "paths" {
				continue
			}
			star, ok := match(m.From, spec)
			if !ok {
				continue
			}
			for _, t := range m.To {
				if p, ok := graph.Join(c.from, strings.Replace(t, "*", star, 1)); ok {
					if to := x.fileOrFolder(p, false); to >= 0 {
						return to
					}
				}
			}
		}
		if c.set {
			if p, ok := graph.Join(c.base, spec); ok {
				if to := x.fileOrFolder(p, false); to >= 0 {
					return to
				}
			}
		}
	}
	// A package of the tree: a workspace, or the file's own.
	if name := packageName(spec); name != "" {
		if m, ok := x.modules[name]; ok {
			return x.entry(m, strings.TrimPrefix(spec[len(name):], "/"))
		}
	}
	// The aliases that bundlers give the source folder, where nothing says so.
	if rest, ok := strings.CutPrefix(spec, "@/"); ok {
		return x.sourceAlias(from, rest)
	}
	if rest, ok := strings.CutPrefix(spec, "~/"); ok {
		return x.sourceAlias(from, rest)
	}
	if rest, ok := strings.CutPrefix(spec, "$lib"); ok && (rest == "" || rest[0] == '/') {
		return x.sourceAlias(from, "lib"+rest)
	}
	return -1
}

// sourceAlias looks for a path in the source folder of the package that a
// folder belongs to.
func (x *Resolver) sourceAlias(folder, rest string) int32 {
	for ; ; folder = graph.Folder(folder) {
		if _, ok := x.nearest[folder]; ok || folder == "" {
			for _, src := range []string{"src", "app", ""} {
				if p, ok := graph.Join(folder, path.Join(src, rest)); ok {
					if to := x.fileOrFolder(p, false); to >= 0 {
						return to
					}
				}
			}
			return -1
		}
	}
}

// match matches a specifier with a pattern that may have one "*".
func match(pattern, spec string) (star string, ok bool) {
	before, after, has := strings.Cut(pattern, "*")
	if !has {
		return "", pattern == spec
	}
	if len(spec) < len(before)+len(after) || !strings.HasPrefix(spec, before) || !strings.HasSuffix(spec, after) {
		return "", false
	}
	return spec[len(before) : len(spec)-len(after)], true
}

// mapped looks a key up in the exports or imports of a package.json.
func (x *Resolver) mapped(m int32, kind, key string) int32 {
	f := x.g.Files[m]
	folder := graph.Folder(f.Path)
	best, star := -1, ""
	for k := range f.Manifest.Maps {
		e := &f.Manifest.Maps[k]
		if e.Kind != kind {
			continue
		}
		s, ok := match(e.From, key)
		if strings.HasSuffix(e.From, "/") && strings.HasPrefix(key, e.From) {
			s, ok = key[len(e.From):], true
		}
		if ok && (best < 0 || len(e.From) > len(f.Manifest.Maps[best].From)) {
			best, star = k, s
		}
	}
	if best < 0 {
		return -1
	}
	for _, t := range f.Manifest.Maps[best].To {
		if strings.HasSuffix(t, "/") {
			t += star
		}
		if to := x.built(folder, strings.ReplaceAll(t, "*", star)); to >= 0 {
			return to
		}
	}
	return -1
}

// entry returns the file that a package of the tree offers under a subpath.
func (x *Resolver) entry(m int32, sub string) int32 {
	f := x.g.Files[m]
	folder := graph.Folder(f.Path)
	key := "."
	if sub != "" {
		key = "./" + sub
	}
	if to := x.mapped(m, "exports", key); to >= 0 {
		return to
	}
	if sub == "" {
		for _, p := range []string{"source", "types", "typings", "svelte", "module", "main"} {
			if t := f.Manifest.Properties[p]; t != "" {
				if to := x.built(folder, t); to >= 0 {
					return to
				}
			}
		}
		sub = "index"
	}
	for _, src := range []string{"", "src", "lib"} {
		if p, ok := graph.Join(folder, path.Join(src, sub)); ok {
			if to := x.fileOrFolder(p, false); to >= 0 {
				return to
			}
		}
	}
	return -1
}

// built returns the source of a file that a package.json names: itself or,
// where it is made by the build and not in the tree, what it is made from.
func (x *Resolver) built(folder, t string) int32 {
	p, ok := graph.Join(folder, t)
	if !ok {
		return -1
	}
	if to := x.fileOrFolder(p, false); to >= 0 {
		return to
	}
	rel := strings.TrimPrefix(strings.TrimPrefix(p, folder), "/")
	segs := strings.Split(rel, "/")
	for n := 1; n < len(segs); n++ { // dist/esm/x.js is made from src/x.ts
		for _, src := range []string{"src", "lib", ""} {
			if q, ok := graph.Join(folder, path.Join(src, strings.Join(segs[n:], "/"))); ok {
				if to := x.fileOrFolder(q, false); to >= 0 {
					return to
				}
			}
		}
	}
	return -1
}

// extensions are tried in this order behind a name without one.
var extensions = []string{".ts", ".tsx", ".d.ts", ".mts", ".cts", ".js", ".jsx", ".mjs", ".cjs", ".vue", ".svelte", ".d.mts", ".d.cts"}

// rewrites are the source extensions that an output extension may stand for
// (TypeScript handbook, "File extension substitution").
var rewrites = map[string][]string{
	".js": {".ts", ".tsx", ".d.ts"}, ".jsx": {".tsx", ".d.ts"}, ".mjs": {".mts", ".d.mts"}, ".cjs": {".cts", ".d.cts"},
}

// fileOrFolder returns the file that a path without or with its extension
// means, or the index file of the folder, or -1.
func (x *Resolver) fileOrFolder(p string, folderFirst bool) int32 {
	if !folderFirst {
		ext := path.Ext(p)
		for _, e := range rewrites[ext] {
			if to, ok := x.files[p[:len(p)-len(ext)]+e]; ok {
				return to
			}
		}
		if to, ok := x.files[p]; ok {
			return to
		}
		for _, e := range extensions {
			if to, ok := x.files[p+e]; ok {
				return to
			}
		}
	}
	if m, ok := x.nearest[p]; ok && p != "" {
		for _, key := range []string{"types", "typings", "module", "main"} {
			if t := x.g.Files[m].Manifest.Properties[key]; t != "" {
				if q, ok := graph.Join(p, t); ok && q != p {
					if to := x.fileOrFolder(q, false); to >= 0 {
						return to
					}
				}
			}
		}
	}
	if x.folders[p] || p == "" {
		for _, e := range extensions {
			if to, ok := x.files[strings.TrimPrefix(p+"/index"+e, "/")]; ok {
				return to
			}
		}
	}
	return -1
}
