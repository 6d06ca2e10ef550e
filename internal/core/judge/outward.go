package judge

import (
	"fmt"
	"path"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/layout"
)

var outward = &Kind{
	Name:    "outward",
	Meaning: "a dependency to a layer on an outer ring",
	Default: layout.Error,
	Why: "What lies inside is meant to outlive what lies outside: the rules of berths and dues stay when the " +
		"database or the front end is replaced. Once an inner layer names something outer, every change out there " +
		"can force a change in here, the inner code cannot be built or tested on its own, and the next outward " +
		"dependency looks normal.",
	Mend: []string{
		"Declare a port: an interface in the inner layer that says what it needs, in its own words. The outer layer implements it, and the wiring hands it in.",
		"Move the type inward, if it is a rule of the business that only ended up outside.",
		"Map at the border: the outer layer turns its rows or requests into types of the inner layer before it calls inward.",
		"Split the file, if one half of it belongs outside.",
	},
	Before: map[string]string{
		"java": `// domain
import store.BerthRow;

class Berth {
    Berth(BerthRow row) { this.depth = row.depthCm / 100.0; }
}`,
		"go": `// domain
import "quayside/store"

func NewBerth(r store.BerthRow) Berth {
	return Berth{Depth: float64(r.DepthCM) / 100}
}`,
	},
	After: map[string]string{
		"java": `// domain: knows nothing of rows
class Berth {
    Berth(double depth) { this.depth = depth; }
}

// store: maps at the border
Berth toBerth(BerthRow row) { return new Berth(row.depthCm / 100.0); }`,
		"go": `// domain: knows nothing of rows
func NewBerth(depth float64) Berth { return Berth{Depth: depth} }

// store: maps at the border
func toBerth(r BerthRow) domain.Berth {
	return domain.NewBerth(float64(r.DepthCM) / 100)
}`,
	},
}

func init() {
	outward.find = func(c *Case) { c.crossings(c.findOutward) }
}

func (c *Case) findOutward(from, to layout.Site, file int, d *graph.Dep) *Finding {
	a, b := c.layer(from), c.layer(to)
	if a == nil || b == nil || layout.Between(a, b) != layout.Outward {
		return nil
	}
	return &Finding{
		Kind:   outward.Name,
		Rule:   fmt.Sprintf("%s must not depend outward on %s; %s", ring(a), ring(b), c.mayKnow(a)),
		Remedy: remedyOutward(a, b, d),
	}
}

// remedyOutward words the first thing to try, by the way in which the thing is
// used.
func remedyOutward(a, b *layout.Layer, d *graph.Dep) string {
	name := shortName(d.Name)
	switch d.How {
	case fact.HowInherit:
		return fmt.Sprintf("Turn it round: let %s implement an interface that %s declares, instead of building on %s.", b.Name, a.Name, name)
	case fact.HowConstruct, fact.HowCall:
		return fmt.Sprintf("Declare a port in %s for what it needs of %s, implement it in %s, and hand it in from the wiring.", a.Name, name, b.Name)
	case fact.HowMarker:
		return fmt.Sprintf("Take the marker off; let %s keep what it says beside the type.", b.Name)
	}
	return fmt.Sprintf("Map at the border: let %s turn %s into a type of %s before it calls inward; or move %s inward if it belongs there.", b.Name, name, a.Name, name)
}

// shortName is the last segment of a full name.
func shortName(name string) string {
	if n := strings.LastIndexAny(name, "#\\/"); n >= 0 {
		name = name[n+1:]
		if n > 0 && path.Ext(name) == ".dart" {
			return name // a file, not a name
		}
	}
	return name[strings.LastIndexByte(name, '.')+1:]
}
