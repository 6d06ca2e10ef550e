package judge

import (
	"moatline/internal/core/graph"
	"moatline/internal/core/layout"
)

var backdoor = &Kind{
	Name:    "backdoor",
	Meaning: "code that depends on wiring, or production code that depends on test code",
	Default: layout.Error,
	Why: "The wiring knows every part, so whoever knows the wiring can reach every part: one such dependency " +
		"and all the lines are drawn in vain. Code that leans on test code breaks when a test is tidied, and " +
		"carries test doubles into production.",
	Mend: []string{
		"Take what is needed as a parameter: the wiring hands it in, nobody fetches it.",
		"Move a helper that both wiring and others need into the layer that owns it.",
		"Move test data that production needs out of the tests.",
	},
	Before: map[string]string{
		"java": `// booking (business logic)
Clock clock = Main.registry().clock();`,
		"go": `// booking (business logic)
clock := main.Registry().Clock()`,
	},
	After: map[string]string{
		"java": `// booking (business logic)
Booking(Clock clock) { this.clock = clock; }   // handed in by Main`,
		"go": `// booking (business logic)
func New(clock Clock) *Booking { return &Booking{clock} } // handed in by main`,
	},
}

func init() {
	backdoor.find = func(c *Case) { c.crossings(c.findBackdoor) }
}

func (c *Case) findBackdoor(from, to layout.Site, _ int, d *graph.Dep) *Finding {
	switch {
	case from == layout.Tests:
		return nil
	case to == layout.Wiring:
		return &Finding{
			Kind:   backdoor.Name,
			Rule:   "wiring may know all and is known by none",
			Remedy: "Take " + shortName(d.Name) + " as a parameter and let the wiring hand it in, or move it out of the wiring to the layer that owns it.",
		}
	case to == layout.Tests:
		return &Finding{
			Kind:   backdoor.Name,
			Rule:   "production code must not depend on test code",
			Remedy: "Move " + shortName(d.Name) + " out of the tests, or take it out of production.",
		}
	}
	return nil
}
