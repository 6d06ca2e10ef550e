package draft

import (
	"fmt"
	"sort"
	"strings"
	"unicode"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/layout"
)

// commonFolder is the folder that all paths lie under. What it is called says
// nothing about any of them.
func commonFolder(paths []string) string {
	if len(paths) == 0 {
		return ""
	}
	common := paths[0]
	for _, p := range paths[1:] {
		for common != "" && p != common && !strings.HasPrefix(p, common+"/") {
			common = graph.Folder(common)
		}
	}
	return common
}

// byName scores a folder by the words in its path, the deepest first.
func (d *folder) byName(common, root string) {
	rest := strings.Trim(strings.TrimPrefix(d.path, common), "/")
	if len(d.path) == len(common) {
		return
	}
	if d.pkg != "" && (d.path == d.pkg || strings.HasSuffix(d.path, "/"+d.pkg)) {
		// Above the packages only the module's folder tells anything: the
		// names of source roots are the build tool's.
		above := strings.Trim(strings.TrimPrefix(strings.TrimSuffix(d.path, d.pkg), common), "/")
		var kept []string
		for _, seg := range strings.Split(above, "/") {
			switch seg {
			case "", "src", "main", "java", "source", "sources":
			default:
				kept = append(kept, seg)
			}
		}
		inside := strings.Trim(strings.TrimPrefix(d.pkg+"/", root+"/"), "/")
		rest = strings.Trim(strings.Join(kept, "/")+"/"+inside, "/")
	}
	if rest == "" {
		return
	}
	segs := strings.Split(rest, "/")
	weight := 3.0
	for i := len(segs) - 1; i >= 0 && weight > 0.4; i-- {
		hit := false
		for _, w := range words(segs[i]) {
			for _, r := range roles {
				if signsOf[r].words[w] {
					d.add(r, weight, "folder name "+segs[i])
					hit = true
				}
			}
		}
		if hit {
			weight /= 2.5
		} else {
			weight *= 0.9
		}
	}
}

// rootPackages returns the package, as a folder, that nearly all Java files lie
// under: like a common folder, it tells nothing apart.
func rootPackages(g *graph.Graph, of []*folder) string {
	count := make(map[string]int)
	total := 0
	for i, f := range g.Files {
		if of[i] == nil || f.Language != "java" {
			continue
		}
		total++
		for p := f.Package; p != ""; {
			count[p]++
			dot := strings.LastIndexByte(p, '.')
			if dot < 0 {
				break
			}
			p = p[:dot]
		}
	}
	best := ""
	for p, n := range count {
		if n*10 >= total*9 && (len(p) > len(best) || len(p) == len(best) && p < best) {
			best = p
		}
	}
	return strings.ReplaceAll(best, ".", "/")
}

// byNeighbours decides folders whose names tell nothing from who uses them:
// business logic is what data access implements, or what the presentation
// calls and what uses the domain or data access in turn, if it touches no
// technology of its own and the domain does not use it.
func byNeighbours(g *graph.Graph, of []*folder) {
	called, implemented := make(map[*folder]int), make(map[*folder]int)
	outer, between := make(map[*folder]bool), make(map[*folder]bool)
	for i := range g.Files {
		if of[i] == nil {
			continue
		}
		for _, dep := range g.Deps(i) {
			if dep.Target == graph.ToOutside {
				for _, r := range []layout.Role{layout.Presentation, layout.DataAccess} {
					if signsOf[r].packages[dep.To] {
						outer[of[i]] = true
					}
				}
			}
			if dep.Target != graph.ToFile || of[dep.File] == nil || of[dep.File] == of[i] {
				continue
			}
			if r := of[dep.File].role; r == layout.Domain || r == layout.DataAccess {
				between[of[i]] = true
			}
			switch {
			case of[i].role == layout.Presentation && dep.How != fact.HowInherit:
				called[of[dep.File]]++
			case of[i].role == layout.DataAccess && dep.How == fact.HowInherit:
				implemented[of[dep.File]]++
			}
			if of[i].role == layout.Domain {
				outer[of[dep.File]] = true // what the domain uses is no business of the services
			}
		}
	}
	for d := range called {
		implemented[d] += 0
	}
	for d, n := range implemented {
		if d.role != layout.NoRole || outer[d] || n == 0 && !(called[d] > 0 && between[d]) {
			continue
		}
		var why []string
		if called[d] > 0 && between[d] {
			why = append(why, "presentation uses it")
		}
		if n > 0 {
			why = append(why, "data access implements its interfaces")
		}
		d.role, d.sure = layout.BusinessLogic, 0.6
		d.why[layout.BusinessLogic] = append(d.why[layout.BusinessLogic], why...)
	}
}

// demoteWiring takes the role of wiring from folders that others use: what
// puts the parts together is known by none, whatever it is called. One user is
// taken for a mistake.
func demoteWiring(g *graph.Graph, of []*folder) {
	users := make(map[*folder]map[int]bool)
	for i := range g.Files {
		if of[i] == nil {
			continue
		}
		for _, dep := range g.Deps(i) {
			if dep.Target != graph.ToFile || of[dep.File] == nil || of[dep.File].role != wiring || of[i].role == wiring {
				continue
			}
			if users[of[dep.File]] == nil {
				users[of[dep.File]] = make(map[int]bool)
			}
			users[of[dep.File]][i] = true
		}
	}
	for d, by := range users {
		if len(by) > 1 {
			d.role, d.sure = layout.NoRole, 0
		}
	}
}

// words splits a name at its punctuation and capitals.
func words(name string) []string {
	var out []string
	var b strings.Builder
	flush := func() {
		if b.Len() > 0 {
			out = append(out, strings.ToLower(b.String()))
			b.Reset()
		}
	}
	last := rune(0)
	for _, r := range name {
		switch {
		case !unicode.IsLetter(r) && !unicode.IsDigit(r):
			flush()
		case unicode.IsUpper(r) && unicode.IsLower(last):
			flush()
			b.WriteRune(r)
		default:
			b.WriteRune(r)
		}
		last = r
	}
	flush()
	return out
}

func (d *folder) add(r layout.Role, weight float64, why string) {
	d.score[r] += weight
	for _, w := range d.why[r] {
		if w == why {
			return
		}
	}
	d.why[r] = append(d.why[r], why)
}

// byContent scores folders by their types' names and markers and by the
// outside packages that their files use.
func byContent(g *graph.Graph, of []*folder) {
	seen := make(map[*folder]map[layout.Role]map[string]int)
	note := func(d *folder, r layout.Role, what string) {
		if seen[d] == nil {
			seen[d] = make(map[layout.Role]map[string]int)
		}
		if seen[d][r] == nil {
			seen[d][r] = make(map[string]int)
		}
		seen[d][r][what]++
	}
	for i, f := range g.Files {
		d := of[i]
		if d == nil {
			continue
		}
		for _, r := range roles {
			s := signsOf[r]
			for k := range f.Decls {
				decl := &f.Decls[k]
				if decl.Outer >= 0 || !decl.Kind.IsType() {
					continue
				}
				for e := range s.endings {
					if strings.HasSuffix(decl.Name, e) {
						note(d, r, "types named …"+e)
						break
					}
				}
				for _, u := range decl.Markers {
					name := f.Uses[u].Name
					if s.markers[name[strings.LastIndexByte(name, '.')+1:]] {
						note(d, r, "marker "+name)
					}
				}
			}
			used := ""
			for _, dep := range g.Deps(i) {
				if dep.Target != graph.ToOutside {
					continue
				}
				for pkg := range s.packages {
					if (dep.To == pkg || strings.HasPrefix(dep.To, pkg) && strings.ContainsRune("./", rune(dep.To[len(pkg)]))) && (used == "" || pkg < used) {
						used = pkg
					}
				}
			}
			if used != "" {
				note(d, r, "use of "+used)
			}
		}
	}
	for d, byRole := range seen {
		for r, whats := range byRole {
			var list []string
			for what := range whats {
				list = append(list, what)
			}
			sort.Strings(list)
			for _, what := range list {
				share := float64(whats[what]) / float64(d.files)
				if share > 1 {
					share = 1
				}
				if share >= 0.2 {
					d.add(r, 2*share, fmt.Sprintf("%s (%d of %d)", what, min(whats[what], d.files), d.files))
				}
			}
		}
	}
}

// decide takes the role with the highest score if it stands out.
func (d *folder) decide() {
	best, second := layout.NoRole, 0.0
	top := 0.0
	for _, r := range roles {
		switch s := d.score[r]; {
		case s > top:
			best, second, top = r, top, s
		case s > second:
			second = s
		}
	}
	if top < 0.8 || top-second < 0.3 {
		return
	}
	d.role = best
	d.sure = (top - second) * min(1, top/3)
}
