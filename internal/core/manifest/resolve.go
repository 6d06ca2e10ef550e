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
	g     *graph.Graph
	names map[string]int32 // the manifest of each module, by format and name
	full  []string         // for each file, its module's full name
}

// NewResolver indexes the build files of g and records its modules.
func NewResolver(g *graph.Graph) *Resolver {
	x := &Resolver{g: g, names: make(map[string]int32), full: make([]string, len(g.Files))}
	var modules []graph.Module
	for i, f := range g.Files {
		if f.Manifest == nil {
			continue
		}
		name, kind := f.Manifest.Module, ""
		switch f.Language {
		case "maven":
			kind, name = "maven", x.interpolate(i, name)
		case "go.mod":
			kind = "go"
		case "java":
			kind = "java module"
		default:
			continue
		}
		if name == "" {
			continue
		}
		x.full[i] = name
		if _, taken := x.names[f.Language+" "+name]; !taken {
			x.names[f.Language+" "+name] = int32(i)
		}
		modules = append(modules, graph.Module{Name: name, Kind: kind, Folder: graph.Folder(f.Path), File: int32(i)})
	}
	g.SetModules(modules)
	return x
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
				c.AddAt(graph.Dep{Target: graph.ToFile, File: int32(to), Decl: -1, Name: x.full[to], How: fact.HowProject}, p.At)
			} else {
				c.AddAt(graph.Dep{Target: graph.ToOutside, To: p.Name, Decl: -1, Name: p.Name, How: fact.HowProject}, p.At)
			}
		}
		for k := range f.Manifest.Requires {
			q := &f.Manifest.Requires[k]
			name := x.interpolate(i, q.Name)
			d := graph.Dep{Target: graph.ToOutside, To: name, Decl: -1, Name: name, How: fact.HowProject}
			if to, ok := x.names["maven "+name]; ok {
				d.Target, d.File, d.To = graph.ToFile, to, ""
			}
			c.AddAt(d, q.At)
		}
	case "go.mod":
		for k := range f.Manifest.Requires {
			q := &f.Manifest.Requires[k]
			d := graph.Dep{Target: graph.ToOutside, To: q.Name, Decl: -1, Name: q.Name, How: fact.HowProject}
			if to := x.goModule(i, q.Name); to >= 0 {
				d.Target, d.File, d.To = graph.ToFile, int32(to), ""
			}
			c.AddAt(d, q.At)
		}
	case "go.work":
		for k := range f.Manifest.Holds {
			q := &f.Manifest.Holds[k]
			if dir, ok := graph.Join(graph.Folder(f.Path), q.Name); ok {
				if to := x.g.Find(strings.TrimPrefix(dir+"/go.mod", "/")); to >= 0 {
					c.AddAt(graph.Dep{Target: graph.ToFile, File: int32(to), Decl: -1, Name: x.full[to], How: fact.HowProject}, q.At)
				}
			}
		}
	}
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
