package manifest

import (
	"sort"
	"strings"

	"moatline/internal/core/fact"
)

// readPackageJSON reads package.json (npm documentation, "package.json";
// Node.js, "Modules: Packages").
func readPackageJSON(text []byte, note note) *fact.Manifest {
	d := newDocument(text)
	m := &fact.Manifest{Properties: make(map[string]string)}
	v, err := d.readJSON()
	if err != nil {
		note(fact.Place{Line: 1, Column: 1}, "no JSON: "+err.Error())
	}
	if v == nil {
		return m
	}
	m.Module, m.Version = v.get("name").str(), v.get("version").str()
	for _, key := range []string{"main", "module", "types", "typings", "source", "svelte"} {
		if s := v.get(key).str(); s != "" {
			m.Properties[key] = s
		}
	}
	for _, section := range []struct{ key, scope string }{
		{"dependencies", ""}, {"devDependencies", "dev"}, {"peerDependencies", "peer"}, {"optionalDependencies", "optional"},
	} {
		list := v.get(section.key)
		if list == nil {
			continue
		}
		for i := range list.keys {
			m.Requires = append(m.Requires, fact.Requirement{
				Name: list.keys[i].text, Version: list.list[i].str(), Scope: section.scope,
				Optional: section.scope == "optional", At: d.place(list.keys[i].at),
			})
		}
	}
	work := v.get("workspaces")
	if p := work.get("packages"); p != nil {
		work = p
	}
	if work != nil && work.kind == '[' {
		for _, w := range work.list {
			m.Holds = append(m.Holds, fact.Requirement{Name: w.str(), At: d.place(w.at)})
		}
	}
	switch e := v.get("exports"); {
	case e == nil:
	case e.kind == '"' || e.kind == '[' || len(e.keys) > 0 && !strings.HasPrefix(e.keys[0].text, "."):
		m.Maps = append(m.Maps, fact.Mapping{Kind: "exports", From: ".", To: e.leaves()})
	default:
		for i := range e.keys {
			m.Maps = append(m.Maps, fact.Mapping{Kind: "exports", From: e.keys[i].text, To: e.list[i].leaves()})
		}
	}
	if e := v.get("imports"); e != nil {
		for i := range e.keys {
			m.Maps = append(m.Maps, fact.Mapping{Kind: "imports", From: e.keys[i].text, To: e.list[i].leaves()})
		}
	}
	return m
}

// readTSConfig reads tsconfig.json and jsconfig.json (TSConfig reference).
func readTSConfig(text []byte, note note) *fact.Manifest {
	d := newDocument(text)
	m := &fact.Manifest{Properties: make(map[string]string)}
	v, err := d.readJSON()
	if err != nil {
		note(fact.Place{Line: 1, Column: 1}, "no JSON: "+err.Error())
	}
	if v == nil {
		return m
	}
	if e := v.get("extends"); e != nil {
		for _, s := range e.leaves() {
			m.Requires = append(m.Requires, fact.Requirement{Name: s, Scope: "extends", At: d.place(e.at)})
		}
	}
	if refs := v.get("references"); refs != nil {
		for _, r := range refs.list {
			if p := r.get("path"); p.str() != "" {
				m.Requires = append(m.Requires, fact.Requirement{Name: p.str(), Scope: "references", At: d.place(p.at)})
			}
		}
	}
	options := v.get("compilerOptions")
	if s := options.get("baseUrl").str(); s != "" {
		m.Properties["baseUrl"] = s
	}
	if paths := options.get("paths"); paths != nil {
		for i := range paths.keys {
			m.Maps = append(m.Maps, fact.Mapping{Kind: "paths", From: paths.keys[i].text, To: paths.list[i].leaves()})
		}
	}
	if dirs := options.get("rootDirs"); dirs != nil {
		m.Maps = append(m.Maps, fact.Mapping{Kind: "rootDirs", To: dirs.leaves()})
	}
	// Exact names come before patterns, longer patterns before shorter ones.
	sort.SliceStable(m.Maps, func(a, b int) bool {
		x, y := m.Maps[a].From, m.Maps[b].From
		if sx, sy := strings.Contains(x, "*"), strings.Contains(y, "*"); sx != sy {
			return sy
		}
		return len(x) > len(y)
	})
	return m
}
