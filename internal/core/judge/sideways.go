package judge

import (
	"fmt"

	"moatline/internal/core/graph"
	"moatline/internal/core/layout"
)

var sideways = &Kind{
	Name:    "sideways",
	Meaning: "a dependency to a neighbour on the same ring",
	Default: layout.Error,
	Why: "Neighbours on one ring are there to be exchanged one by one: a second front end, another database. " +
		"As soon as one knows the other, they can only be exchanged together, and business decisions start to " +
		"hide in the traffic between them.",
	Mend: []string{
		"Let both speak to the layer inside: what the two have in common is a rule or a type that belongs there.",
		"Declare a port inside; one neighbour implements it, the other receives it from the wiring.",
		"If the two really are one thing, declare one layer for both.",
	},
	Before: map[string]string{
		"java": `// desk (presentation)
import store.TideTable;

class TideScreen {
    String show(TideTable table) { return table.select("SELECT …").toString(); }
}`,
		"go": `// desk (presentation)
import "quayside/store"

func (s Screen) Tides(t *store.TideTable) string { return t.Select("…") }`,
	},
	After: map[string]string{
		"java": `// booking (business logic)
interface Tides { List<Tide> on(LocalDate day); }

// desk (presentation); store implements Tides, the wiring hands it in
class TideScreen {
    String show(Tides tides) { return tides.on(today).toString(); }
}`,
		"go": `// booking (business logic)
type Tides interface{ On(day time.Time) []domain.Tide }

// desk (presentation); store implements Tides, the wiring hands it in
func (s Screen) Tides(t booking.Tides) string { return format(t.On(s.day)) }`,
	},
}

func init() {
	sideways.find = func(c *Case) { c.crossings(c.findSideways) }
}

func (c *Case) findSideways(from, to layout.Site, _ int, d *graph.Dep) *Finding {
	a, b := c.layer(from), c.layer(to)
	if a == nil || b == nil || layout.Between(a, b) != layout.Sideways {
		return nil
	}
	return &Finding{
		Kind:   sideways.Name,
		Rule:   fmt.Sprintf("%s and %s share ring %d and must not know each other; %s", a.Name, b.Name, a.Ring+1, c.mayKnow(a)),
		Remedy: fmt.Sprintf("Ask the layer inside instead: declare there what %s needs of %s, let %s implement it, and hand it in from the wiring.", a.Name, shortName(d.Name), b.Name),
	}
}
