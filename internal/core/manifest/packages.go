package manifest

import (
	"bytes"
	"errors"
	"regexp"
	"sort"
	"strings"

	"github.com/goccy/go-yaml"
	"github.com/pelletier/go-toml/v2"

	"moatline/internal/core/fact"
)

func sortRequirements(list []fact.Requirement) {
	sort.Slice(list, func(i, j int) bool {
		if list[i].At != list[j].At {
			return list[i].At.Before(list[j].At)
		}
		return list[i].Name < list[j].Name
	})
}

func tomlNote(err error, note note) {
	at := fact.Place{Line: 1, Column: 1}
	var de *toml.DecodeError
	if errors.As(err, &de) {
		row, col := de.Position()
		at = fact.Place{Line: uint32(row), Column: uint32(col)}
	}
	note(at, "no TOML: "+err.Error())
}

// readComposer reads composer.json (Composer documentation, "The composer.json
// schema").
func readComposer(text []byte, note note) *fact.Manifest {
	d := newDocument(text)
	m := &fact.Manifest{}
	v, err := d.readJSON()
	if err != nil {
		note(fact.Place{Line: 1, Column: 1}, "no JSON: "+err.Error())
	}
	if v == nil {
		return m
	}
	m.Module = v.get("name").str()
	for _, section := range []struct{ key, scope string }{{"require", ""}, {"require-dev", "dev"}} {
		list := v.get(section.key)
		if list == nil {
			continue
		}
		for i := range list.keys {
			m.Requires = append(m.Requires, fact.Requirement{Name: list.keys[i].text, Version: list.list[i].str(), Scope: section.scope, At: d.place(list.keys[i].at)})
		}
	}
	for _, section := range []string{"autoload", "autoload-dev"} {
		m.Maps = append(m.Maps, autoloads(v.get(section))...)
	}
	return m
}

func autoloads(v *value) (out []fact.Mapping) {
	for _, kind := range []string{"psr-4", "psr-0"} {
		list := v.get(kind)
		if list == nil {
			continue
		}
		for i := range list.keys {
			out = append(out, fact.Mapping{Kind: kind, From: list.keys[i].text, To: list.list[i].leaves()})
		}
	}
	for _, kind := range []string{"classmap", "files"} {
		if list := v.get(kind); list != nil {
			out = append(out, fact.Mapping{Kind: kind, To: list.leaves()})
		}
	}
	return out
}

// readComposerLock reads composer.lock: which package has which namespaces.
func readComposerLock(text []byte, note note) *fact.Manifest {
	d := newDocument(text)
	m := &fact.Manifest{}
	v, err := d.readJSON()
	if err != nil {
		note(fact.Place{Line: 1, Column: 1}, "no JSON: "+err.Error())
	}
	for _, section := range []string{"packages", "packages-dev"} {
		list := v.get(section)
		if list == nil {
			continue
		}
		for _, p := range list.list {
			name := p.get("name").str()
			for _, a := range autoloads(p.get("autoload")) {
				if a.From != "" {
					m.Maps = append(m.Maps, fact.Mapping{Kind: "package", From: a.From, To: []string{name}})
				}
			}
		}
	}
	return m
}

// readPubspec reads pubspec.yaml (dart.dev, "The pubspec file").
func readPubspec(text []byte, note note) *fact.Manifest {
	m := &fact.Manifest{}
	var c struct {
		Name         string         `yaml:"name"`
		Version      any            `yaml:"version"`
		Dependencies map[string]any `yaml:"dependencies"`
		Dev          map[string]any `yaml:"dev_dependencies"`
		Overrides    map[string]any `yaml:"dependency_overrides"`
		Workspace    []string       `yaml:"workspace"`
	}
	if err := safeYAML(text, &c); err != nil {
		note(fact.Place{Line: 1, Column: 1}, "no YAML: "+firstLine(err.Error()))
	}
	doc := newDocument(text)
	m.Module = c.Name
	for _, section := range []struct {
		list  map[string]any
		scope string
	}{{c.Dependencies, ""}, {c.Dev, "dev"}, {c.Overrides, "override"}} {
		for name, v := range section.list {
			q := fact.Requirement{Name: name, Scope: section.scope, At: doc.keyAt(name)}
			switch v := v.(type) {
			case string:
				q.Version = v
			case map[string]any:
				q.Path, _ = v["path"].(string)
			}
			m.Requires = append(m.Requires, q)
		}
	}
	sortRequirements(m.Requires)
	for _, w := range c.Workspace {
		m.Holds = append(m.Holds, fact.Requirement{Name: w, At: doc.keyAt(w)})
	}
	return m
}

// safeYAML decodes YAML; a library that gives up on odd input gives an error.
func safeYAML(text []byte, to any) (err error) {
	defer func() {
		if p := recover(); p != nil {
			err = errors.New("it cannot be read")
		}
	}()
	return yaml.Unmarshal(text, to)
}

func firstLine(s string) string {
	s, _, _ = strings.Cut(s, "\n")
	return s
}

var requirement = regexp.MustCompile(`^\s*([A-Za-z0-9][A-Za-z0-9._-]*)`)

// readPyproject reads pyproject.toml (Python Packaging User Guide,
// "pyproject.toml specification") with Poetry's table.
func readPyproject(text []byte, note note) *fact.Manifest {
	m := &fact.Manifest{}
	var c struct {
		Project struct {
			Name         string
			Dependencies []string
			Optional     map[string][]string `toml:"optional-dependencies"`
		}
		Groups map[string][]any `toml:"dependency-groups"`
		Tool   struct {
			Poetry struct {
				Name         string
				Dependencies map[string]any
				Dev          map[string]any `toml:"dev-dependencies"`
				Group        map[string]struct{ Dependencies map[string]any }
			}
		}
	}
	if err := toml.Unmarshal(text, &c); err != nil {
		tomlNote(err, note)
		return m
	}
	doc := newDocument(text)
	m.Module = c.Project.Name
	if m.Module == "" {
		m.Module = c.Tool.Poetry.Name
	}
	add := func(spec, scope string) {
		if x := requirement.FindStringSubmatch(spec); x != nil && x[1] != "python" {
			m.Requires = append(m.Requires, fact.Requirement{Name: x[1], Scope: scope, At: doc.keyAt(x[1])})
		}
	}
	for _, d := range c.Project.Dependencies {
		add(d, "")
	}
	for _, list := range c.Project.Optional {
		for _, d := range list {
			add(d, "optional")
		}
	}
	for _, list := range c.Groups {
		for _, d := range list {
			if s, ok := d.(string); ok {
				add(s, "dev")
			}
		}
	}
	for d := range c.Tool.Poetry.Dependencies {
		add(d, "")
	}
	for d := range c.Tool.Poetry.Dev {
		add(d, "dev")
	}
	for _, g := range c.Tool.Poetry.Group {
		for d := range g.Dependencies {
			add(d, "dev")
		}
	}
	sortRequirements(m.Requires)
	return m
}

var (
	cfgSection = regexp.MustCompile(`^\[([^\]]+)\]`)
	cfgKey     = regexp.MustCompile(`^([A-Za-z_.-]+)\s*[=:]\s*(.*)$`)
)

// readSetupCfg reads setup.cfg (setuptools, "Configuring setuptools using
// setup.cfg files").
func readSetupCfg(text []byte, _ note) *fact.Manifest {
	m := &fact.Manifest{}
	section, key := "", ""
	for n, raw := range bytes.Split(text, []byte("\n")) {
		l := strings.TrimRight(string(raw), "\r \t")
		if l == "" || l[0] == '#' || l[0] == ';' {
			continue
		}
		value := ""
		switch {
		case cfgSection.MatchString(l):
			section, key = cfgSection.FindStringSubmatch(l)[1], ""
			continue
		case l[0] != ' ' && l[0] != '\t' && cfgKey.MatchString(l):
			x := cfgKey.FindStringSubmatch(l)
			key, value = x[1], x[2]
		default:
			value = strings.TrimSpace(l)
		}
		if value == "" {
			continue
		}
		at := fact.Place{Line: uint32(n + 1), Column: uint32(strings.Index(l, value) + 1)}
		switch {
		case section == "metadata" && key == "name":
			m.Module = value
		case section == "options" && key == "install_requires":
			if x := requirement.FindStringSubmatch(value); x != nil {
				m.Requires = append(m.Requires, fact.Requirement{Name: x[1], At: at})
			}
		case section == "options.extras_require":
			if x := requirement.FindStringSubmatch(value); x != nil {
				m.Requires = append(m.Requires, fact.Requirement{Name: x[1], Scope: "optional", At: at})
			}
		}
	}
	return m
}
