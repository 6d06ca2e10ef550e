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
	pkg   string // for Java: the package, as a path
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
			d = &folder{path: dir, pkg: javaPath(f), score: map[layout.Role]float64{}, why: map[layout.Role][]string{}}
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
	demoteWiring(g, of)
	byNeighbours(g, of)
	p.decideShape(g, of, shape)
	p.patterns(paths, folders)
	return p
}

// application names the application: after its module, or its root package.
func application(g *graph.Graph) string {
	for _, m := range g.Modules {
		if m.Folder == "" {
			full := m.Name
			if i := strings.LastIndexByte(full, '/'); i > 0 && len(full) > i+2 && full[i+1] == 'v' && strings.Trim(full[i+2:], "0123456789") == "" {
				full = full[:i] // a major version is no name
			}
			name := full[strings.LastIndexAny(full, ":/")+1:]
			return strings.TrimSuffix(strings.TrimSuffix(name, "-parent"), "-root")
		}
	}
	return ""
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
			if !seen[w] && len(out) < 2 {
				seen[w] = true
				out = append(out, w)
			}
		}
	}
	return strings.Join(out, ", ")
}

func javaPath(f *fact.File) string {
	if f.Language != "java" {
		return ""
	}
	return strings.ReplaceAll(f.Package, ".", "/")
}
