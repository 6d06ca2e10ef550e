package manifest

import (
	"path"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
)

// dotnet resolves what a project, a list of packages or a solution names.
func (x *Resolver) dotnet(i int, c *graph.Collector) {
	f := x.g.Files[i]
	folder := graph.Folder(f.Path)
	for k := range f.Manifest.Requires {
		q := &f.Manifest.Requires[k]
		if q.Scope == "project" {
			if p, ok := graph.Join(folder, q.Name); ok {
				if to := x.g.Find(p); to >= 0 {
					x.inside(c, i, to, q.At)
					continue
				}
			}
			c.AddAt(graph.Dep{Target: graph.ToUnresolved, To: q.Name, Name: q.Name, Decl: -1, How: fact.HowProject}, q.At)
			continue
		}
		// A project of the tree may be referred to as the assembly it makes.
		if to, ok := x.names["msbuild "+q.Name]; ok && q.Scope == "assembly" {
			x.inside(c, i, int(to), q.At)
			continue
		}
		d := graph.Dep{Target: graph.ToOutside, To: q.Name, Name: q.Name, Decl: -1, How: fact.HowProject}
		if q.Scope == "assembly" && (q.Name == "System" || strings.HasPrefix(q.Name, "System.") || q.Name == "mscorlib") {
			d.Flags |= graph.Standard
		}
		c.AddAt(d, q.At)
	}
	for k := range f.Manifest.Holds {
		q := &f.Manifest.Holds[k]
		if p, ok := graph.Join(folder, q.Name); ok {
			if to := x.g.Find(p); to >= 0 {
				x.inside(c, i, to, q.At)
			}
		}
	}
}

// build is a Gradle build: the folder of its settings and where its projects
// lie, by their paths.
type build struct {
	folder   string
	projects map[string]string // ":core:api" to a folder
}

// gradleScript notes a Gradle script; a settings script makes a build.
func (x *Resolver) gradleScript(i int) {
	f := x.g.Files[i]
	folder := graph.Folder(f.Path)
	base := path.Base(f.Path)
	if !strings.HasPrefix(base, "settings.") {
		if strings.HasPrefix(base, "build.") {
			x.folders[folder] = int32(i)
		} else if _, ok := x.folders[folder]; !ok && strings.TrimSuffix(strings.TrimSuffix(base, ".kts"), ".gradle") == path.Base("/"+folder) {
			x.folders[folder] = int32(i)
		}
		return
	}
	b := build{folder, map[string]string{"": folder, ":": folder}}
	for _, h := range f.Manifest.Holds {
		if h.Scope == "includeBuild" {
			continue
		}
		name := strings.Trim(h.Name, ":")
		at := strings.ReplaceAll(name, ":", "/")
		if h.Scope == "includeFlat" {
			at = "../" + at
		}
		if p, ok := graph.Join(folder, at); ok {
			b.projects[":"+name] = p
		}
	}
	for _, m := range f.Manifest.Maps {
		if p, ok := graph.Join(folder, m.To[0]); ok && m.Kind == "projectDir" {
			b.projects[":"+strings.Trim(m.From, ":")] = p
		}
	}
	x.gradles = append(x.gradles, b)
}

// buildOf returns the Gradle build that a folder belongs to, or nil.
func (x *Resolver) buildOf(folder string) *build {
	var best *build
	for n := range x.gradles { // one that lists it, wherever it lies
		for name, at := range x.gradles[n].projects {
			if at == folder && name != "" && name != ":" {
				return &x.gradles[n]
			}
		}
	}
	for n := range x.gradles {
		b := &x.gradles[n]
		if (b.folder == "" || folder == b.folder || strings.HasPrefix(folder, b.folder+"/")) && (best == nil || len(b.folder) > len(best.folder)) {
			best = b
		}
	}
	return best
}

// gradleName returns the name of the project whose script file i is, or "".
func (x *Resolver) gradleName(i int) string {
	folder := graph.Folder(x.g.Files[i].Path)
	if x.folders[folder] != int32(i) {
		return ""
	}
	if b := x.buildOf(folder); b != nil {
		for name, at := range b.projects {
			if at == folder && name != "" && name != ":" {
				return name[1:]
			}
		}
		if folder == b.folder {
			if k := x.settings(folder); k >= 0 && x.g.Files[k].Manifest.Module != "" {
				return x.g.Files[k].Manifest.Module
			}
		}
	}
	return path.Base("/" + folder)
}

func (x *Resolver) settings(folder string) int {
	for _, name := range []string{"settings.gradle", "settings.gradle.kts"} {
		if k := x.g.Find(strings.TrimPrefix(folder+"/"+name, "/")); k >= 0 {
			return k
		}
	}
	return -1
}

// gradle resolves what a Gradle script requires.
func (x *Resolver) gradle(i int, c *graph.Collector) {
	f := x.g.Files[i]
	folder := graph.Folder(f.Path)
	b := x.buildOf(folder)
	if strings.HasPrefix(path.Base(f.Path), "settings.") {
		for k := range f.Manifest.Holds {
			q := &f.Manifest.Holds[k]
			if at, ok := b.projects[":"+strings.Trim(q.Name, ":")]; ok {
				if to, ok := x.folders[at]; ok {
					x.inside(c, i, int(to), q.At)
				}
			}
		}
		return
	}
	for k := range f.Manifest.Requires {
		q := &f.Manifest.Requires[k]
		switch {
		case strings.HasPrefix(q.Scope, "project"):
			if b != nil {
				if at, ok := b.projects[":"+strings.Trim(q.Name, ":")]; ok {
					if to, ok := x.folders[at]; ok {
						x.inside(c, i, int(to), q.At)
						continue
					}
				}
			}
			c.AddAt(graph.Dep{Target: graph.ToUnresolved, To: q.Name, Name: q.Name, Decl: -1, How: fact.HowProject}, q.At)
		case q.Path == "libs":
			x.outside(c, x.catalogued(b, q.Name), q.At)
		default:
			x.outside(c, q.Name, q.At)
		}
	}
}

// catalogued returns the coordinate that an alias of the version catalogue
// stands for; what no catalogue has stays "libs.…".
func (x *Resolver) catalogued(b *build, alias string) string {
	folder := ""
	if b != nil {
		folder = b.folder
	}
	if k := x.g.Find(strings.TrimPrefix(folder+"/gradle/libs.versions.toml", "/")); k >= 0 && x.g.Files[k].Manifest != nil {
		for _, m := range x.g.Files[k].Manifest.Managed {
			if strings.EqualFold(m.Path, alias) {
				return m.Name
			}
		}
	}
	return "libs." + alias
}

// Requirements returns the names of the outside modules that the module of
// file i requires, Maven's and Gradle's coordinates among them, its parents'
// included; nil where no build file tells.
func (x *Resolver) Requirements(i int) []string {
	m := x.g.ModuleOf[i]
	if m < 0 {
		return nil
	}
	var out []string
	at := int(x.g.Modules[m].File)
	for depth := 0; at >= 0 && depth < 10; depth++ {
		f := x.g.Files[at]
		if f.Manifest == nil {
			break
		}
		for k := range f.Manifest.Requires {
			q := &f.Manifest.Requires[k]
			switch f.Language {
			case "maven":
				out = append(out, x.interpolate(at, q.Name))
			case "gradle":
				name := q.Name
				if q.Path == "libs" {
					name = x.catalogued(x.buildOf(graph.Folder(f.Path)), q.Name)
				}
				if strings.Contains(name, ":") && !strings.HasPrefix(q.Scope, "project") {
					out = append(out, name)
				}
			default:
				out = append(out, q.Name)
			}
		}
		if f.Language == "msbuild" {
			out = append(out, x.shared(graph.Folder(f.Path))...)
		}
		if f.Language != "maven" {
			break
		}
		at = x.parent(at)
	}
	return out
}

// shared returns the packages that a .NET project gets from the files beside
// and above it: packages.config, Directory.Build.props.
func (x *Resolver) shared(folder string) (out []string) {
	add := func(p string) {
		if k := x.g.Find(strings.TrimPrefix(p, "/")); k >= 0 && x.g.Files[k].Manifest != nil {
			for _, q := range x.g.Files[k].Manifest.Requires {
				out = append(out, q.Name)
			}
		}
	}
	add(folder + "/packages.config")
	for ; ; folder = graph.Folder(folder) {
		add(folder + "/Directory.Build.props")
		if folder == "" {
			return out
		}
	}
}
