// Package draft proposes a declaration for a tree from what is there: the
// names of folders and types, the outside packages that the code uses, and the
// direction in which its dependencies already run. Every guess comes with its
// evidence.
package draft

import (
	_ "embed"
	"fmt"
	"sort"
	"strings"
	"unicode"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/layout"
)

//go:embed signs.txt
var signsText string

// roles in the order of signs.txt; wiring is none of the four.
const wiring layout.Role = "wiring"

var roles = []layout.Role{layout.Presentation, layout.BusinessLogic, layout.Domain, layout.DataAccess, wiring}

type signs struct {
	words, endings, packages, markers map[string]bool
}

var signsOf = func() map[layout.Role]signs {
	out := make(map[layout.Role]signs)
	for _, line := range strings.Split(signsText, "\n") {
		if line == "" || line[0] == '#' {
			continue
		}
		cols := strings.Split(line, "|")
		set := func(i int) map[string]bool {
			m := make(map[string]bool)
			for _, w := range strings.Fields(cols[i]) {
				m[w] = true
			}
			return m
		}
		out[layout.Role(strings.TrimSpace(cols[0]))] = signs{set(1), set(2), set(3), set(4)}
	}
	return out
}()

// Shape is the order of the rings.
type Shape string

// The two shapes.
const (
	Classic Shape = "classic"        // domain, data access, business logic, presentation
	Centred Shape = "domain-centred" // domain, business logic, then presentation and data access on one ring
)

// Pattern is one proposed pattern.
type Pattern struct {
	Text     string
	Files    int
	Evidence string
}

// Layer is one proposed layer.
type Layer struct {
	Role       layout.Role
	Patterns   []Pattern
	Files      int
	Confidence string // high, medium, low; empty where the layer has no file
}

// Proposal is a proposed declaration.
type Proposal struct {
	Application   string
	Shape         Shape
	ShapeEvidence string
	Rings         [][]Layer // innermost first
	Wiring        []Pattern
	Unplaced      []Pattern // folders that nothing tells about
	Sources       int       // source files, tests aside
}

// folder is what one folder with source files shows.
type folder struct {
	path  string
	files int
	score map[layout.Role]float64
	why   map[layout.Role][]string
	role  layout.Role
	sure  float64
}

// Propose makes a proposal. shape "" leaves the shape to the evidence.
func Propose(g *graph.Graph, isSource func(language string) bool, shape Shape) *Proposal {
	p := &Proposal{Application: application(g)}
	folders := make(map[string]*folder)
	of := make([]*folder, len(g.Files))
	for i, f := range g.Files {
		if !isSource(f.Language) || f.Test || len(f.Decls) == 0 {
			continue
		}
		p.Sources++
		dir := graph.Folder(f.Path)
		d := folders[dir]
		if d == nil {
			d = &folder{path: dir, score: map[layout.Role]float64{}, why: map[layout.Role][]string{}}
			folders[dir] = d
		}
		d.files++
		of[i] = d
	}
	roots := rootPackages(g, of)
	var paths []string
	for dir := range folders {
		paths = append(paths, dir)
	}
	sort.Strings(paths)
	common := commonFolder(paths)
	for _, dir := range paths {
		folders[dir].byName(common, roots)
	}
	byContent(g, of)
	for _, dir := range paths {
		folders[dir].decide()
	}
	byNeighbours(g, of)
	p.decideShape(g, of, shape)
	p.patterns(paths, folders)
	return p
}

// application names the application: after its module, or its root package.
func application(g *graph.Graph) string {
	for _, m := range g.Modules {
		if m.Folder == "" {
			name := m.Name[strings.LastIndexAny(m.Name, ":/")+1:]
			return strings.TrimSuffix(strings.TrimSuffix(name, "-parent"), "-root")
		}
	}
	return ""
}

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
	rest = strings.Trim(strings.Replace("/"+rest+"/", "/src/main/java/", "/", 1), "/")
	rest = strings.Trim(strings.Replace("/"+rest+"/", "/"+root+"/", "/", 1), "/")
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
// what the presentation calls, or data access implements, and what touches no
// technology of its own, is business logic.
func byNeighbours(g *graph.Graph, of []*folder) {
	called, implemented := make(map[*folder]int), make(map[*folder]int)
	outer := make(map[*folder]bool)
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
		if d.role != layout.NoRole || outer[d] || n+called[d] == 0 {
			continue
		}
		var why []string
		if called[d] > 0 {
			why = append(why, "presentation uses it")
		}
		if n > 0 {
			why = append(why, "data access implements its interfaces")
		}
		d.role, d.sure = layout.BusinessLogic, 0.6
		d.why[layout.BusinessLogic] = append(d.why[layout.BusinessLogic], why...)
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
						note(d, r, "type names ending in "+e)
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
					d.add(r, 2*share, fmt.Sprintf("%s (%d of %d files)", what, min(whats[what], d.files), d.files))
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

// decideShape looks at which way the dependencies between data access and the
// inside already run.
func (p *Proposal) decideShape(g *graph.Graph, of []*folder, shape Shape) {
	out, in := 0, 0
	for i := range g.Files {
		if of[i] == nil {
			continue
		}
		for _, dep := range g.Deps(i) {
			if dep.Target != graph.ToFile || of[dep.File] == nil {
				continue
			}
			a, b := of[i].role, of[dep.File].role
			switch {
			case a == layout.BusinessLogic && b == layout.DataAccess:
				out++
			case a == layout.DataAccess && b == layout.BusinessLogic:
				in++
			}
		}
	}
	p.Shape = Centred
	switch {
	case out == 0 && in == 0:
		p.ShapeEvidence = "no dependency runs between business logic and data access yet"
	case out > in:
		p.Shape = Classic
		p.ShapeEvidence = fmt.Sprintf("%d dependencies run from business logic to data access, %d back", out, in)
	default:
		p.ShapeEvidence = fmt.Sprintf("%d dependencies run from data access to business logic, %d back", in, out)
	}
	if shape != "" && shape != p.Shape {
		p.ShapeEvidence = "as asked for; the code: " + p.ShapeEvidence
		p.Shape = shape
	}
}

// patterns makes as few patterns as say the same, and puts them on rings.
func (p *Proposal) patterns(paths []string, folders map[string]*folder) {
	made := make(map[layout.Role][]Pattern)
	var walk func(dir string)
	walk = func(dir string) {
		role, uniform, files := layout.NoRole, true, 0
		first := true
		var under []string
		for _, q := range paths {
			if q == dir || dir == "" || strings.HasPrefix(q, dir+"/") {
				f := folders[q]
				under = append(under, q)
				files += f.files
				if first {
					role, first = f.role, false
				} else if f.role != role {
					uniform = false
				}
			}
		}
		if uniform && (dir != "" || len(under) == 1) {
			text := dir + "/**"
			if dir == "" {
				text = "**"
			}
			made[role] = append(made[role], Pattern{text, files, evidence(under, folders, role)})
			return
		}
		if f := folders[dir]; f != nil {
			text := "*"
			if dir != "" {
				text = dir + "/*"
			}
			made[f.role] = append(made[f.role], Pattern{text, f.files, evidence([]string{dir}, folders, f.role)})
		}
		done := make(map[string]bool)
		for _, q := range under {
			rest := strings.TrimPrefix(strings.TrimPrefix(q, dir), "/")
			if q == dir || rest == "" {
				continue
			}
			child, _, _ := strings.Cut(rest, "/")
			if dir != "" {
				child = dir + "/" + child
			}
			if !done[child] {
				done[child] = true
				walk(child)
			}
		}
	}
	if len(paths) > 0 {
		walk("")
	}
	order := [][]layout.Role{{layout.Domain}, {layout.BusinessLogic}, {layout.Presentation, layout.DataAccess}}
	if p.Shape == Classic {
		order = [][]layout.Role{{layout.Domain}, {layout.DataAccess}, {layout.BusinessLogic}, {layout.Presentation}}
	}
	for _, ring := range order {
		var layers []Layer
		for _, r := range ring {
			l := Layer{Role: r, Patterns: made[r]}
			sure, n := 0.0, 0
			for _, q := range paths {
				if folders[q].role == r {
					l.Files += folders[q].files
					sure += folders[q].sure * float64(folders[q].files)
					n += folders[q].files
				}
			}
			if n > 0 {
				switch mean := sure / float64(n); {
				case mean >= 2:
					l.Confidence = "high"
				case mean >= 0.9:
					l.Confidence = "medium"
				default:
					l.Confidence = "low"
				}
			}
			layers = append(layers, l)
		}
		p.Rings = append(p.Rings, layers)
	}
	p.Wiring = made[wiring]
	p.Unplaced = made[layout.NoRole]
}

// evidence joins what speaks for a role in several folders.
func evidence(dirs []string, folders map[string]*folder, r layout.Role) string {
	var out []string
	seen := make(map[string]bool)
	for _, d := range dirs {
		for _, w := range folders[d].why[r] {
			if !seen[w] && len(out) < 3 {
				seen[w] = true
				out = append(out, w)
			}
		}
	}
	return strings.Join(out, ", ")
}
