// Package judge holds a graph against a declaration and tells what it does
// not permit.
//
// Each kind of breach is a [Kind]: a small value with its name, its meaning,
// its default verdict and a function that finds it, in a file of its own. A
// kind sees the whole case and adds findings; verdicts, house rules, waivers
// and the ledger are applied afterwards, in one place, for all kinds alike.
package judge

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"sort"
	"strings"
	"time"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/layout"
)

// Kind is one kind of breach.
type Kind struct {
	Name      string
	Meaning   string         // one line
	Default   layout.Verdict // unless the declaration says otherwise
	Elsewhere layout.Verdict // the same outside the domain, where it differs
	Why       string         // why it hurts, a paragraph
	Mend      []string       // the usual remedies, the best first
	Before    map[string]string
	After     map[string]string // a small example by language, before and after
	find      func(c *Case)
}

// Kinds lists the kinds that this version judges, the gravest first.
func Kinds() []*Kind {
	return []*Kind{outward, sideways, shortcut, foreign, marker, roundabout, backdoor, unplaced}
}

// Lookup returns the kind of that name, or nil.
func Lookup(name string) *Kind {
	for _, k := range Kinds() {
		if k.Name == name {
			return k
		}
	}
	return nil
}

// Case is what is judged.
type Case struct {
	Graph       *graph.Graph
	Declaration *layout.Declaration
	Placement   *layout.Placement
	Today       time.Time

	findings []*Finding
	contents map[string][]int // source files by folder
	keeps    map[*layout.Layer]*keeps
	known    map[string]string // technologies of outside things by language and name
}

// End is one end of a finding.
type End struct {
	File    string // slash path; empty for packages and outside
	Package string // a folder of the tree or an outside package
	Line    int    // 0 where there is none
	Column  int
	Layer   string // a layer's name, "wiring", "tests" or ""
	Name    string // full name of the type or declaration

	Technology string // of an outside thing, where it has one
}

// Place is one place of a finding.
type Place struct {
	Line, Column int
	How          fact.How
}

// Cover says why a finding does not count, or counts less.
type Cover struct {
	By      string // "waiver"
	Because string
	Who     string
	Until   string // year-month-day
}

// Finding is one thing that the declaration does not permit: one file and one
// thing that it uses.
type Finding struct {
	Kind        string
	Verdict     layout.Verdict
	From, To    End
	Places      []Place // in the order of the text; the first is From's
	Chain       []string
	Rule        string // the rule that it breaks
	Because     string // the reason of the house rule that set the verdict
	Remedy      string
	Fingerprint string // survives lines moving
	Unused      bool   // nothing uses the import: deleting it is the whole remedy
	TypesOnly   bool   // nothing of it is left when the program runs
	CoveredBy   *Cover
	fromSite    layout.Site
	toSite      layout.Site
}

// Counts says how many findings have each verdict; covered ones apart.
type Counts struct {
	Error, Warn, Note, Off, Covered int
}

// LayerCount is what a layer holds.
type LayerCount struct {
	Layer        *layout.Layer
	Files, Lines int
}

// Judgement is the outcome.
type Judgement struct {
	Findings []*Finding // not those with verdict off
	Totals   Counts
	Layers   []LayerCount // innermost first
	Wiring   LayerCount
	Tests    LayerCount
	Unplaced LayerCount
	Expired  []*layout.Waiver // waivers whose end has passed
	Idle     []*layout.Waiver // waivers that cover nothing
	OffBy    map[string]int   // findings not judged, by kind
	Inside   Inside
	Read     Read
}

// Inside is the verdict on the layers whose independence matters most: those
// with the role of the domain or, where none has it, the innermost ring.
type Inside struct {
	Layers   []*layout.Layer
	Files    int // that they hold
	Breaches int // findings from them, that nothing covers
	In       int // files that have those
	Covered  int // findings from them that something covers
}

// Read says what was judged.
type Read struct {
	Files        int // source files
	Dependencies int
	Crossings    int // dependencies between files of different layers
}

// Judge finds everything that the declaration does not permit.
func Judge(c *Case) *Judgement {
	j := &Judgement{OffBy: make(map[string]int)}
	for _, k := range Kinds() {
		k.find(c)
	}
	c.settle(j)
	sort.SliceStable(j.Findings, func(a, b int) bool { return less(j.Findings[a], j.Findings[b]) })
	c.count(j)
	c.inside(j)
	return j
}

// inside fills in the verdict on the domain.
func (c *Case) inside(j *Judgement) {
	in := &j.Inside
	for _, l := range c.Declaration.Layers {
		if l.Role == layout.Domain {
			in.Layers = append(in.Layers, l)
		}
	}
	if len(in.Layers) == 0 && len(c.Declaration.Rings) > 0 {
		in.Layers = c.Declaration.Rings[0]
	}
	inner := make(map[string]bool)
	for _, l := range in.Layers {
		inner[l.Name] = true
	}
	for _, k := range j.Layers {
		if inner[k.Layer.Name] {
			in.Files += k.Files
		}
	}
	files := make(map[string]bool)
	for _, f := range j.Findings {
		switch {
		case !inner[f.From.Layer]:
		case f.CoveredBy != nil:
			in.Covered++
		default:
			in.Breaches++
			files[f.From.File] = true
		}
	}
	in.In = len(files)
}

func less(a, b *Finding) bool {
	if a.From.File != b.From.File {
		return a.From.File < b.From.File
	}
	if a.From.Line != b.From.Line {
		return a.From.Line < b.From.Line
	}
	if a.From.Column != b.From.Column {
		return a.From.Column < b.From.Column
	}
	if a.Kind != b.Kind {
		return a.Kind < b.Kind
	}
	if a.To.Name != b.To.Name {
		return a.To.Name < b.To.Name
	}
	return a.To.File < b.To.File
}

// count fills in what each site holds and the totals.
func (c *Case) count(j *Judgement) {
	for _, l := range c.Declaration.Layers {
		j.Layers = append(j.Layers, LayerCount{Layer: l})
	}
	for i, f := range c.Graph.Files {
		var to *LayerCount
		switch s := c.Placement.Sites[i]; s {
		case layout.NotCode:
			continue
		case layout.Unplaced:
			to = &j.Unplaced
		case layout.Wiring:
			to = &j.Wiring
		case layout.Tests:
			to = &j.Tests
		default:
			to = &j.Layers[s]
		}
		to.Files++
		to.Lines += f.Lines
		j.Read.Files++
		deps := c.Graph.Deps(i)
		j.Read.Dependencies += len(deps)
		for k := range deps {
			d := &deps[k]
			if d.Target != graph.ToFile || d.How == fact.HowProject {
				continue
			}
			if a, b := c.Placement.Sites[i], c.Placement.Sites[d.File]; a >= 0 && b >= 0 && a != b {
				j.Read.Crossings++
			}
		}
	}
	for _, f := range j.Findings {
		switch {
		case f.CoveredBy != nil:
			j.Totals.Covered++
		case f.Verdict == layout.Error:
			j.Totals.Error++
		case f.Verdict == layout.Warn:
			j.Totals.Warn++
		default:
			j.Totals.Note++
		}
	}
	for _, n := range j.OffBy {
		j.Totals.Off += n
	}
}

// layer returns the layer of a site, or nil.
func (c *Case) layer(s layout.Site) *layout.Layer {
	if s < 0 {
		return nil
	}
	return c.Declaration.Layers[s]
}

// crossing judges one dependency: it returns the finding to make of it, with
// its rule and remedy, or nil.
type crossing func(from, to layout.Site, file int, d *graph.Dep) *Finding

// crossings applies f to every dependency between files of different sites,
// and to imports of whole packages all of whose files lie where f objects. The
// dependencies of one file on one thing become one finding.
func (c *Case) crossings(f crossing) {
	g := c.Graph
	for i := range g.Files {
		from := c.Placement.Sites[i]
		if from == layout.NotCode {
			continue
		}
		deps := g.Deps(i)
		var made map[string]*Finding
		for k := range deps {
			d := &deps[k]
			if d.How == fact.HowProject {
				continue
			}
			var found *Finding
			switch d.Target {
			case graph.ToFile:
				to := c.Placement.Sites[d.File]
				if to == from || to == layout.NotCode {
					continue
				}
				if found = f(from, to, i, d); found == nil {
					continue
				}
				found.toSite = to
				t := g.Files[d.File]
				found.To = End{File: t.Path, Layer: c.Declaration.SiteName(to), Name: d.Name}
				if d.Decl >= 0 {
					found.To.Line, found.To.Column = int(t.Decls[d.Decl].At.Line), int(t.Decls[d.Decl].At.Column)
				}
			case graph.ToPackage:
				if d.Flags&graph.Bare == 0 {
					continue // the names used from it are told one by one
				}
				if found = c.wholePackage(f, from, i, d); found == nil {
					continue
				}
				found.To = End{Package: d.To, Layer: c.Declaration.SiteName(found.toSite), Name: d.Name}
			default:
				continue
			}
			key := found.Kind + "\x00" + found.To.File + "\x00" + found.To.Package + "\x00" + found.To.Name
			if old := made[key]; old != nil {
				old.add(g, i, d)
				continue
			}
			found.fromSite = from
			found.From = End{File: g.Files[i].Path, Layer: c.Declaration.SiteName(from)}
			found.add(g, i, d)
			if made == nil {
				made = make(map[string]*Finding)
			}
			made[key] = found
			c.findings = append(c.findings, found)
		}
		for _, found := range made {
			c.finish(found, i)
		}
	}
}

// add adds the places of one more dependency on the same thing.
func (f *Finding) add(g *graph.Graph, i int, d *graph.Dep) {
	f.Unused = d.Flags&graph.Unused != 0 && (len(f.Places) == 0 || f.Unused)
	f.TypesOnly = d.Flags&graph.TypeOnly != 0 && (len(f.Places) == 0 || f.TypesOnly)
	for _, p := range g.Places(i, d) {
		f.Places = append(f.Places, Place{int(p.Line), int(p.Column), d.How})
	}
}

// finish sorts the places and fills in what follows from them.
func (c *Case) finish(f *Finding, i int) {
	sort.SliceStable(f.Places, func(a, b int) bool {
		p, q := f.Places[a], f.Places[b]
		if p.Line != q.Line {
			return p.Line < q.Line
		}
		return p.Column < q.Column
	})
	f.From.Line, f.From.Column = f.Places[0].Line, f.Places[0].Column
	f.From.Name = c.enclosing(i, f.Places)
	if f.Unused {
		f.Remedy = "Nothing in the file uses this import: delete it."
	}
	f.Fingerprint = fingerprint(f)
}

// enclosing names the type or declaration in which the first place that is no
// import lies, or else the file's first type.
func (c *Case) enclosing(i int, places []Place) string {
	file := c.Graph.Files[i]
	at := fact.Place{Line: uint32(places[0].Line), Column: uint32(places[0].Column)}
	for _, p := range places {
		if p.How != fact.HowImport {
			at = fact.Place{Line: uint32(p.Line), Column: uint32(p.Column)}
			break
		}
	}
	best := int32(-1)
	for k := range file.Decls {
		d := &file.Decls[k]
		inType := d.Outer >= 0 && file.Decls[d.Outer].Kind != fact.Namespace
		if d.Flags&fact.Local != 0 || d.Kind == fact.Namespace || inType {
			continue
		}
		if best < 0 || !at.Before(d.At) {
			best = int32(k)
		}
	}
	if best < 0 {
		return ""
	}
	name := graph.DeclName(file, c.Graph.Packages[i], best)
	if r := file.Decls[best].Receiver; r != "" {
		name = strings.TrimSuffix(name, file.Decls[best].Name) + r + "." + file.Decls[best].Name
	}
	return name
}

// wholePackage judges an import of a package of which nothing is named: it is
// a breach only if all of the package's files lie where it must not point.
func (c *Case) wholePackage(f crossing, from layout.Site, i int, d *graph.Dep) *Finding {
	if c.contents == nil {
		c.contents = make(map[string][]int)
		for k, file := range c.Graph.Files {
			if c.Placement.Sites[k] != layout.NotCode {
				folder := graph.Folder(file.Path)
				c.contents[folder] = append(c.contents[folder], k)
			}
		}
	}
	var first *Finding
	for _, k := range c.contents[d.To] {
		to := c.Placement.Sites[k]
		if to == layout.Tests && c.Graph.Files[k].Test {
			continue // a test file beside the package is no part of it
		}
		if to == from {
			return nil
		}
		found := f(from, to, i, d)
		if found == nil {
			return nil
		}
		if first == nil {
			first = found
			first.toSite = to
		}
	}
	return first
}

// fingerprint identifies a finding by what it is about: its kind, the using
// file and the thing used; lines, columns and the file that declares the
// thing may change.
func fingerprint(f *Finding) string {
	thing := f.To.Name
	if thing == "" {
		thing = f.To.Package
	}
	sum := sha256.Sum256([]byte(f.Kind + "\x00" + f.From.File + "\x00" + thing))
	return hex.EncodeToString(sum[:6])
}

// ring words a layer with its ring, counted from the inside.
func ring(l *layout.Layer) string { return fmt.Sprintf("%s (ring %d)", l.Name, l.Ring+1) }

// mayKnow words which layers a layer may depend on.
func (c *Case) mayKnow(from *layout.Layer) string {
	var names []string
	for _, l := range c.Declaration.Layers {
		if l != from && layout.Between(from, l).Permitted() {
			names = append(names, l.Name)
		}
	}
	if len(names) == 0 {
		return from.Name + " may know itself alone"
	}
	return from.Name + " may know " + strings.Join(names, ", ")
}
