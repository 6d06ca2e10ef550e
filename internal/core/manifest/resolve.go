package manifest

import (
	"path"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
)

// Resolver finds the modules of a tree and resolves what its build files
// require. It is read-only once made.
type Resolver struct {
	g       *graph.Graph
	names   map[string]int32 // the manifest of each module, by format and name
	full    []string         // for each file, its module's full name
	folders map[string]int32 // the Gradle script of each folder
	gradles []build          // Gradle builds, by their settings file
}

// kinds are the formats whose files make a module, with the words for it.
var kinds = map[string]string{
	"maven": "maven", "go.mod": "go", "java": "java module", "gradle": "gradle", "classpath": "Eclipse project", "msbuild": ".NET project",
	"package.json": "npm package", "composer.json": "Composer package", "pubspec": "Dart package", "pyproject": "Python package", "setup.cfg": "Python package",
}

// NewResolver indexes the build files of g and records its modules.
func NewResolver(g *graph.Graph) *Resolver {
	x := &Resolver{g: g, names: make(map[string]int32), full: make([]string, len(g.Files)), folders: make(map[string]int32)}
	var modules []graph.Module
	for i, f := range g.Files {
		if f.Manifest == nil {
			continue
		}
		if f.Language == "gradle" {
			x.gradleScript(i)
		}
	}
	for i, f := range g.Files {
		if f.Manifest == nil {
			continue
		}
		name, kind := f.Manifest.Module, kinds[f.Language]
		switch f.Language {
		case "maven":
			name = x.interpolate(i, name)
		case "gradle":
			name = x.gradleName(i)
		case "msbuild":
			if path.Ext(f.Path) != ".csproj" && path.Ext(f.Path) != ".vbproj" {
				kind = ""
			}
		case "package.json":
			if name == "" && len(f.Manifest.Requires) > 0 {
				name = path.Base("/" + graph.Folder(f.Path))
			}
		}
		if name == "" || kind == "" || name == "/" {
			continue
		}
		x.full[i] = name
		if _, taken := x.names[f.Language+" "+name]; !taken {
			x.names[f.Language+" "+name] = int32(i)
		}
		modules = append(modules, graph.Module{Name: name, Kind: kind, Folder: graph.Folder(f.Path), File: int32(i)})
	}
	g.SetModules(modules)
	for m := range g.Modules {
		x.listed(int32(m))
	}
	return x
}

// listed gives the files that a project names one by one, and that lie outside
// of every project's folder, to that project.
func (x *Resolver) listed(m int32) {
	f := x.g.Files[x.g.Modules[m].File]
	for _, l := range f.Manifest.Lists {
		if !strings.HasPrefix(l.Name, "../") || strings.Contains(l.Name, "*") {
			continue
		}
		if p, ok := graph.Join(graph.Folder(f.Path), l.Name); ok {
			if k := x.g.Find(p); k >= 0 && x.g.ModuleOf[k] < 0 {
				x.g.ModuleOf[k] = m
			}
		}
	}
}

// Resolve adds what the build file i requires to c.
func (x *Resolver) Resolve(i int, c *graph.Collector) {
	f := x.g.Files[i]
	if f.Manifest == nil {
		return
	}
	switch f.Language {
	case "maven":
		if p := f.Manifest.Parent; p != nil {
			if to := x.parent(i); to >= 0 {
				x.inside(c, i, to, p.At)
			} else {
				x.outside(c, p.Name, p.At)
			}
		}
		for k := range f.Manifest.Requires {
			q := &f.Manifest.Requires[k]
			x.named(c, i, "maven", x.interpolate(i, q.Name), q.At)
		}
	case "go.mod":
		for k := range f.Manifest.Requires {
			q := &f.Manifest.Requires[k]
			if to := x.goModule(i, q.Name); to >= 0 {
				x.inside(c, i, to, q.At)
			} else {
				x.outside(c, q.Name, q.At)
			}
		}
	case "go.work":
		for k := range f.Manifest.Holds {
			x.below(c, i, f.Manifest.Holds[k].Name, "go.mod", f.Manifest.Holds[k].At)
		}
	case "msbuild", "packages.config", "sln":
		x.dotnet(i, c)
	case "gradle":
		x.gradle(i, c)
	case "classpath":
		for k := range f.Manifest.Requires {
			q := &f.Manifest.Requires[k]
			if q.Scope == "project" {
				x.named(c, i, "classpath", q.Name, q.At)
			} else {
				x.outside(c, q.Name, q.At)
			}
		}
	case "package.json", "composer.json", "pyproject", "setup.cfg":
		for k := range f.Manifest.Requires {
			q := &f.Manifest.Requires[k]
			if f.Language == "composer.json" && !strings.Contains(q.Name, "/") {
				continue // php itself and its extensions
			}
			x.named(c, i, f.Language, q.Name, q.At)
		}
		for k := range f.Manifest.Holds { // workspaces
			x.workspaces(c, i, &f.Manifest.Holds[k])
		}
	case "tsconfig":
		for k := range f.Manifest.Requires {
			q := &f.Manifest.Requires[k]
			if !strings.HasPrefix(q.Name, ".") {
				x.outside(c, q.Name, q.At)
				continue
			}
			if p, ok := graph.Join(graph.Folder(f.Path), q.Name); ok {
				for _, try := range []string{p, p + ".json", strings.TrimPrefix(p+"/tsconfig.json", "/")} {
					if to := x.g.Find(try); to >= 0 {
						x.inside(c, i, to, q.At)
						break
					}
				}
			}
		}
	case "pubspec":
		for k := range f.Manifest.Requires {
			q := &f.Manifest.Requires[k]
			if q.Path == "" || !x.below(c, i, q.Path, "pubspec.yaml", q.At) {
				x.named(c, i, "pubspec", q.Name, q.At)
			}
		}
		for k := range f.Manifest.Holds {
			x.below(c, i, f.Manifest.Holds[k].Name, "pubspec.yaml", f.Manifest.Holds[k].At)
		}
	}
}

func (x *Resolver) outside(c *graph.Collector, name string, at fact.Place) {
	c.AddAt(graph.Dep{Target: graph.ToOutside, To: name, Decl: -1, Name: name, How: fact.HowProject}, at)
}

func (x *Resolver) inside(c *graph.Collector, from, to int, at fact.Place) {
	if from == to {
		return
	}
	name := x.full[to]
	if name == "" {
		name = x.g.Files[to].Path
	}
	c.AddAt(graph.Dep{Target: graph.ToFile, File: int32(to), Decl: -1, Name: name, How: fact.HowProject}, at)
}

// named adds a requirement by a module's name: of the tree or outside.
func (x *Resolver) named(c *graph.Collector, i int, format, name string, at fact.Place) {
	if to, ok := x.names[format+" "+name]; ok {
		x.inside(c, i, int(to), at)
		return
	}
	x.outside(c, name, at)
}

// workspaces adds the packages that a pattern of package.json's workspaces
// names: "*" stands for one folder, "**" for any.
func (x *Resolver) workspaces(c *graph.Collector, i int, q *fact.Requirement) {
	folder := graph.Folder(x.g.Files[i].Path)
	pattern := strings.TrimSuffix(strings.TrimPrefix(q.Name, "./"), "/")
	for n, f := range x.g.Files {
		if f.Language != "package.json" || n == i {
			continue
		}
		at := graph.Folder(f.Path)
		rel, ok := at, true
		if folder != "" {
			rel, ok = strings.CutPrefix(at, folder+"/")
		}
		before, deep := strings.CutSuffix(pattern, "/**")
		match, _ := path.Match(pattern, rel)
		if ok && (match || deep && strings.HasPrefix(rel, before+"/")) {
			x.inside(c, i, n, q.At)
		}
	}
}

// below adds the build file of a folder that file i names, if it is there.
func (x *Resolver) below(c *graph.Collector, i int, folder, file string, at fact.Place) bool {
	dir, ok := graph.Join(graph.Folder(x.g.Files[i].Path), folder)
	if !ok {
		return false
	}
	to := x.g.Find(strings.TrimPrefix(dir+"/"+file, "/"))
	if to < 0 {
		return false
	}
	x.inside(c, i, to, at)
	return true
}

// goModule returns the go.mod of the tree that a requirement of file i means:
// the one that a replace directive names, or the one of that module.
func (x *Resolver) goModule(i int, name string) int {
	f := x.g.Files[i]
	for _, r := range f.Manifest.Replaces {
		if r.Old != name {
			continue
		}
		if strings.HasPrefix(r.New, ".") {
			if dir, ok := graph.Join(graph.Folder(f.Path), r.New); ok {
				return x.g.Find(strings.TrimPrefix(dir+"/go.mod", "/"))
			}
			return -1
		}
		name = r.New
	}
	if to, ok := x.names["go.mod "+name]; ok {
		return int(to)
	}
	return -1
}

// parent returns the pom.xml of the tree that is file i's parent, or -1: where
// relativePath says, by default one folder up (Maven POM reference,
// "Inheritance"), or else the module of that name.
func (x *Resolver) parent(i int) int {
	f := x.g.Files[i]
	p := f.Manifest.Parent
	if p == nil {
		return -1
	}
	if p.Path != "-" {
		rel := p.Path
		if rel == "" {
			rel = "../pom.xml"
		}
		if !strings.HasSuffix(rel, ".xml") {
			rel = path.Join(rel, "pom.xml")
		}
		if to, ok := graph.Join(graph.Folder(f.Path), rel); ok {
			if k := x.g.Find(to); k >= 0 && k != i && x.g.Files[k].Manifest != nil {
				m := x.g.Files[k].Manifest
				if _, artifact, _ := strings.Cut(p.Name, ":"); artifact == m.Module[strings.LastIndexByte(m.Module, ':')+1:] {
					return k
				}
			}
		}
	}
	if to, ok := x.names["maven "+p.Name]; ok && int(to) != i {
		return int(to)
	}
	return -1
}

// interpolate replaces ${…} in a name by the properties of file i and its
// parents. What is not known stays as it is written.
func (x *Resolver) interpolate(i int, name string) string {
	const most = 20
	for n := 0; n < most && strings.Contains(name, "${"); n++ {
		from := strings.Index(name, "${")
		to := strings.IndexByte(name[from:], '}')
		if to < 0 {
			return name
		}
		value, ok := x.property(i, name[from+2:from+to], 0)
		if !ok || len(value) > 1000 {
			return name
		}
		name = name[:from] + value + name[from+to+1:]
	}
	return name
}

func (x *Resolver) property(i int, key string, depth int) (string, bool) {
	m := x.g.Files[i].Manifest
	if m == nil || depth > 20 {
		return "", false
	}
	group, artifact, _ := strings.Cut(m.Module, ":")
	switch key {
	case "project.groupId", "pom.groupId", "groupId":
		return group, group != "" && !strings.Contains(group, "${")
	case "project.artifactId", "pom.artifactId", "artifactId":
		return artifact, artifact != ""
	case "project.version", "pom.version", "version":
		return m.Version, m.Version != ""
	case "project.parent.groupId":
		if m.Parent != nil {
			g, _, _ := strings.Cut(m.Parent.Name, ":")
			return g, true
		}
		return "", false
	case "project.parent.version":
		if m.Parent != nil {
			return m.Parent.Version, true
		}
		return "", false
	}
	if v, ok := m.Properties[key]; ok {
		return v, true
	}
	if p := x.parent(i); p >= 0 {
		return x.property(p, key, depth+1)
	}
	return "", false
}
