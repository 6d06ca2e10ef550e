package judge

import (
	"fmt"
	"sort"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/layout"
	"moatline/internal/core/technology"
)

var foreign = &Kind{
	Name:      "foreign",
	Meaning:   "use of a technology or package that the layer keeps out",
	Default:   layout.Error,
	Elsewhere: layout.Warn,
	Why: "A technology comes with its own life: versions, licences, a vendor, a way of thinking. The layer that " +
		"names it lives that life, too: it cannot be tested without it, and to replace it means to change what has " +
		"nothing to do with it. A rule about berths that catches a database error is a rule about a database.",
	Mend: []string{
		"Declare a port inside that says what is needed in the layer's own words; an adapter outside uses the technology.",
		"For an error or constant of the technology: declare one's own inside, and let the adapter translate.",
		"Move the code that speaks to the technology outward; often it is half of a function.",
		"If the layer may know it, say so: admits, with the package or technology.",
	},
	Before: map[string]string{
		"java": `// domain
import java.sql.SQLException;

interface Berths {
    Berth find(BerthId id) throws SQLException;
}`,
		"go": `// domain
import "database/sql"

func (p Plan) Free(id BerthID) (bool, error) {
	b, err := p.berths.Find(id)
	if err == sql.ErrNoRows {
		return true, nil
	}
	return b.Free, err
}`,
	},
	After: map[string]string{
		"java": `// domain: its own words
interface Berths {
    Optional<Berth> find(BerthId id);
}

// store: the adapter translates
public Optional<Berth> find(BerthId id) {
    try { … } catch (SQLException e) { throw new StoreException(e); }
}`,
		"go": `// domain: its own error
var ErrNoBerth = errors.New("no such berth")

if errors.Is(err, ErrNoBerth) {
	return true, nil
}

// store: the adapter translates
if err == sql.ErrNoRows {
	return domain.Berth{}, domain.ErrNoBerth
}`,
	},
}

var marker = &Kind{
	Name:      "marker",
	Meaning:   "an annotation or struct tag of a kept-out technology on a type of the layer",
	Default:   layout.Error,
	Elsewhere: layout.Warn,
	Why: "A marker looks harmless: it runs nothing. But it makes the type say how it is stored, sent or wired, so " +
		"that a change of column or field name changes the inside; and whoever reads the type needs to know the " +
		"technology to know what the type means.",
	Mend: []string{
		"Keep the mapping outside: a type of the adapter's own (a row, a message) with the markers, mapped at the border.",
		"Where the technology allows it, write the mapping in its own file or code instead of on the type.",
		"If the layer may carry such markers, say so: admits, with the technology; or verdicts: marker.",
	},
	Before: map[string]string{
		"java": `// domain
@Entity
public class Berth {
    @Id @Column(name = "berth_no") private int number;
}`,
		"go": "// domain\ntype Berth struct {\n\tNumber int `db:\"berth_no\"`\n}",
	},
	After: map[string]string{
		"java": `// domain
public class Berth {
    private final BerthId id;
}

// store: its own row carries the markers
@Entity
class BerthRow {
    @Id @Column(name = "berth_no") int number;
}`,
		"go": "// domain\ntype Berth struct{ ID BerthID }\n\n// store: its own row carries the tags\ntype berthRow struct {\n\tNumber int `db:\"berth_no\"`\n}",
	},
}

func init() {
	foreign.find = findForeign
	marker.find = func(*Case) {} // found together with foreign: they share each thing's places
}

// defaults says what a layer keeps out by its role, unless it says itself.
var defaults = map[layout.Role][]string{
	layout.Domain:        layout.TechnologyNames,
	layout.BusinessLogic: {"web", "remote", "user interface", "database", "messaging"},
	layout.Presentation:  {"database"},
	layout.DataAccess:    {"web", "user interface"},
}

// keeps is what one layer keeps out.
type keeps struct {
	everything bool
	out, in    map[string]bool // technologies kept out and admitted
	outPkgs    []func(string) bool
	inPkgs     []func(string) bool
	declared   bool // the layer says so itself
}

func (c *Case) keepsOf(l *layout.Layer) *keeps {
	if k := c.keeps[l]; k != nil {
		return k
	}
	k := &keeps{out: make(map[string]bool), in: make(map[string]bool), declared: len(l.KeepsOut) > 0}
	list := l.KeepsOut
	if !k.declared {
		list = defaults[l.Role]
	}
	known := func(w string) bool {
		_, declared := c.Declaration.Technologies[w]
		for _, n := range layout.TechnologyNames {
			declared = declared || n == w
		}
		return declared
	}
	for _, w := range list {
		switch {
		case w == "everything":
			k.everything = true
		case known(w):
			k.out[w] = true
		default:
			k.outPkgs = append(k.outPkgs, layout.PackageMatcher(w))
		}
	}
	for _, w := range l.Admits {
		if known(w) {
			k.in[w] = true
		} else {
			k.inPkgs = append(k.inPkgs, layout.PackageMatcher(w))
		}
	}
	if c.keeps == nil {
		c.keeps = make(map[*layout.Layer]*keeps)
	}
	c.keeps[l] = k
	return k
}

func anyMatches(list []func(string) bool, names ...string) bool {
	for _, m := range list {
		for _, n := range names {
			if m(n) {
				return true
			}
		}
	}
	return false
}

// refuses reports whether a layer keeps an outside thing out. tech is "" for
// what no catalogue knows; standard tells the language's own library, of which
// the part that is no technology is always allowed.
func (k *keeps) refuses(name, pkg, tech string, standard bool) bool {
	if anyMatches(k.inPkgs, name, pkg) || k.in[tech] {
		return false
	}
	if anyMatches(k.outPkgs, name, pkg) || k.out[tech] {
		return true
	}
	if !k.everything || tech == technology.Neutral {
		return false
	}
	return tech != "" || !standard
}

// technologyOf returns the technology of an outside dependency: what the
// declaration says, else the catalogue.
func (c *Case) technologyOf(language string, d *graph.Dep) string {
	key := language + " " + d.Name
	tech, ok := c.known[key]
	if !ok {
		tech = c.lookUp(language, d)
		if c.known == nil {
			c.known = make(map[string]string)
		}
		c.known[key] = tech
	}
	return tech
}

func (c *Case) lookUp(language string, d *graph.Dep) string {
	var names []string
	for n := range c.Declaration.Technologies {
		names = append(names, n)
	}
	sort.Strings(names)
	for _, n := range names {
		for _, p := range c.Declaration.Technologies[n] {
			if m := layout.PackageMatcher(p); m(d.Name) || m(d.To) {
				return n
			}
		}
	}
	return technology.Of(language, d.Name)
}

// foreignThing gathers what a file does with one outside thing.
type foreignThing struct {
	dep     *graph.Dep
	tech    string
	imports []Place
	markers []Place
	others  []Place
	unused  bool
}

func findForeign(c *Case) {
	for i, f := range c.Graph.Files {
		site := c.Placement.Sites[i]
		if site < 0 {
			continue
		}
		k := c.keepsOf(c.layer(site))
		if !k.everything && len(k.out) == 0 && len(k.outPkgs) == 0 {
			continue
		}
		var order []string
		var things map[string]*foreignThing
		deps := c.Graph.Deps(i)
		for n := range deps {
			d := &deps[n]
			if d.Target != graph.ToOutside || d.How == fact.HowProject {
				continue
			}
			if f.Language == "go" && d.How == fact.HowImport && d.Flags&graph.Bare == 0 || c.Graph.Covered(i, d) {
				continue // the names used from it tell which part of it is used
			}
			tech := c.technologyOf(f.Language, d)
			if !k.refuses(d.Name, d.To, tech, d.Flags&graph.Standard != 0) {
				continue
			}
			t := things[d.Name]
			if t == nil {
				t = &foreignThing{dep: d, tech: tech, unused: true}
				if things == nil {
					things = make(map[string]*foreignThing)
				}
				things[d.Name] = t
				order = append(order, d.Name)
			}
			t.unused = t.unused && d.Flags&graph.Unused != 0
			for _, p := range c.Graph.Places(i, d) {
				at := Place{int(p.Line), int(p.Column), d.How}
				switch d.How {
				case fact.HowImport:
					t.imports = append(t.imports, at)
				case fact.HowMarker:
					t.markers = append(t.markers, at)
				default:
					t.others = append(t.others, at)
				}
			}
		}
		for _, name := range order {
			t := things[name]
			switch {
			case len(t.markers) == 0:
				c.addForeign(foreign, i, t, append(t.imports, t.others...))
			case len(t.others) == 0:
				c.addForeign(marker, i, t, append(t.imports, t.markers...))
			default:
				c.addForeign(marker, i, t, t.markers)
				c.addForeign(foreign, i, t, append(t.imports, t.others...))
			}
		}
	}
}

func (c *Case) addForeign(kind *Kind, i int, t *foreignThing, places []Place) {
	site := c.Placement.Sites[i]
	l := c.layer(site)
	what := t.tech
	if what == "" {
		what = t.dep.To + ", which no catalogue knows"
	}
	rule := fmt.Sprintf("%s keeps out %s", ring(l), what)
	if !c.keepsOf(l).declared {
		rule += fmt.Sprintf(", as every %s layer does unless declared", l.Role)
	}
	f := &Finding{
		Kind:     kind.Name,
		From:     End{File: c.Graph.Files[i].Path, Layer: l.Name},
		To:       End{Package: t.dep.To, Name: t.dep.Name, Technology: t.tech},
		Places:   places,
		Rule:     rule,
		Remedy:   remedyForeign(kind, l, t),
		Unused:   t.unused,
		fromSite: site, toSite: layout.Unplaced,
	}
	c.finish(f, i)
	c.findings = append(c.findings, f)
}

func remedyForeign(kind *Kind, l *layout.Layer, t *foreignThing) string {
	name := shortName(t.dep.Name)
	switch {
	case kind == marker:
		return fmt.Sprintf("Take the marker off, and let a type of the adapter's own carry it; map between the two at the border of %s.", l.Name)
	case sentinel(name):
		return fmt.Sprintf("Declare an error of %s's own, and let the adapter translate %s into it.", l.Name, name)
	}
	return fmt.Sprintf("Declare a port in %s for what it needs of %s, and let an adapter outside use it; or admit it, if %s may know it.", l.Name, name, l.Name)
}

// sentinel tells errors and exceptions by their names.
func sentinel(name string) bool {
	return strings.HasSuffix(name, "Exception") || strings.HasSuffix(name, "Error") ||
		strings.HasPrefix(name, "Err") && len(name) > 3 && name[3] >= 'A' && name[3] <= 'Z'
}
