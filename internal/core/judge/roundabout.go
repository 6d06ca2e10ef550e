package judge

import (
	"fmt"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/layout"
)

var roundabout = &Kind{
	Name:    "roundabout",
	Meaning: "a chain through unplaced code that ends where a direct dependency would be a breach",
	Default: layout.Error,
	Why: "Code that lies in no layer is judged by no rule, so a helper can lead anywhere: the domain asks the " +
		"calendar, the calendar asks the database, and the domain needs a database to be tested. The line is " +
		"crossed all the same; only nobody sees it.",
	Mend: []string{
		"Cut the chain where it leaves the helper: let it take what it needs as a parameter, or declare a port inside.",
		"Split the helper: the half that computes goes inward, the half that reads goes to the layer it reads from.",
		"Give the helper to the layer that it serves; then its own dependency is judged like any other.",
	},
	Before: map[string]string{
		"java": `// domain
boolean free = !new HarbourCalendar().closed(day);

// calendar, in no layer
boolean closed(LocalDate day) { return new ClosedDays().contains(day); }   // store`,
		"go": `// domain
free := !calendar.Closed(day)

// calendar, in no layer
func Closed(day time.Time) bool { return holidays.Load()[key(day)] } // store`,
	},
	After: map[string]string{
		"java": `// domain: says what it needs
interface OpeningDays { boolean closed(LocalDate day); }

// store: ClosedDays implements OpeningDays; the wiring hands it in`,
		"go": `// domain: says what it needs
type OpeningDays interface{ Closed(day time.Time) bool }

// store: ClosedDays has that method; the wiring hands it in`,
	},
}

func init() { roundabout.find = findRoundabout }

// step is one dependency of a chain: file from uses d.
type step struct {
	from int
	dep  *graph.Dep
}

// findRoundabout walks, for each layer, from its files through unplaced ones,
// all of them at once and nearest first, so that each unplaced file is reached
// by a shortest chain. Each place where such a chain leaves the unplaced code
// for something that the layer may not know is one finding, told once a layer.
func findRoundabout(c *Case) {
	g := c.Graph
	for n, l := range c.Declaration.Layers {
		parent := make(map[int]step)
		var queue []int
		enter := func(i int) {
			deps := g.Deps(i)
			for k := range deps {
				d := &deps[k]
				if d.Target != graph.ToFile || d.How == fact.HowProject || c.Placement.Sites[d.File] != layout.Unplaced {
					continue
				}
				if _, seen := parent[int(d.File)]; !seen {
					parent[int(d.File)] = step{i, d}
					queue = append(queue, int(d.File))
				}
			}
		}
		for i := range g.Files {
			if c.Placement.Sites[i] == layout.Site(n) {
				enter(i)
			}
		}
		for head := 0; head < len(queue); head++ {
			u := queue[head]
			c.leave(l, u, parent)
			enter(u)
		}
	}
}

// leave reports what unplaced file u uses that layer l may not know.
func (c *Case) leave(l *layout.Layer, u int, parent map[int]step) {
	g := c.Graph
	told := make(map[string]bool)
	deps := g.Deps(u)
	for k := range deps {
		d := &deps[k]
		if d.How == fact.HowProject {
			continue
		}
		f := &Finding{Kind: roundabout.Name, toSite: layout.Unplaced}
		key := ""
		switch d.Target {
		case graph.ToFile:
			to := c.layer(c.Placement.Sites[d.File])
			if to == nil {
				continue
			}
			direction := layout.Between(l, to)
			if direction.Permitted() {
				continue
			}
			t := g.Files[d.File]
			f.To = End{File: t.Path, Layer: to.Name, Name: d.Name}
			if d.Decl >= 0 {
				f.To.Line, f.To.Column = int(t.Decls[d.Decl].At.Line), int(t.Decls[d.Decl].At.Column)
			}
			f.toSite = c.Placement.Sites[d.File]
			word := map[layout.Direction]string{layout.Outward: "outward", layout.Sideways: "sideways", layout.Shortcut: "a shortcut"}[direction]
			f.Rule = fmt.Sprintf("what %s may not use directly (it would be %s), it may not reach through code in no layer", l.Name, word)
			key = t.Path
		case graph.ToOutside:
			if l.Role != layout.Domain || d.How == fact.HowImport && g.Files[u].Language == "go" && d.Flags&graph.Bare == 0 || g.Covered(int(u), d) {
				continue
			}
			tech := c.technologyOf(g.Files[u].Language, d)
			if tech == "" || !c.keepsOf(l).refuses(d.Name, d.To, tech, d.Flags&graph.Standard != 0) {
				continue
			}
			f.To = End{Package: d.To, Name: d.Name, Technology: tech}
			f.Rule = fmt.Sprintf("%s keeps out %s, and may not reach it through code in no layer", l.Name, tech)
			key = tech
		default:
			continue
		}
		if told[key] {
			continue
		}
		told[key] = true
		chain := []step{{u, d}}
		for at := u; c.Placement.Sites[at] == layout.Unplaced; {
			s := parent[at]
			chain = append([]step{s}, chain...)
			at = s.from
		}
		first := chain[0]
		f.From = End{File: g.Files[first.from].Path, Layer: l.Name}
		f.fromSite = c.Placement.Sites[first.from]
		for _, p := range g.Places(first.from, first.dep) {
			f.Places = append(f.Places, Place{int(p.Line), int(p.Column), first.dep.How})
		}
		for _, s := range chain {
			p := g.Places(s.from, s.dep)[0]
			f.Chain = append(f.Chain, fmt.Sprintf("%s:%d:%d uses %s", g.Files[s.from].Path, p.Line, p.Column, s.dep.Name))
		}
		f.Remedy = fmt.Sprintf("Cut the chain in %s, its last step: let it take %s as a parameter, or declare a port for it in %s.", g.Files[u].Path, shortName(d.Name), l.Name)
		c.finish(f, first.from)
		c.findings = append(c.findings, f)
	}
}
