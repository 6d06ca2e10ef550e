package judge

import (
	"fmt"
	"strings"

	"moatline/internal/core/graph"
	"moatline/internal/core/layout"
)

var shortcut = &Kind{
	Name:    "shortcut",
	Meaning: "an inward dependency on a layer that is only for others",
	Default: layout.Error,
	Why: "A layer that is only for others is guarded by them: they check the rights, open the transaction, apply " +
		"the rules. Whoever goes past them gets none of that, and the same rule is soon written a second time, " +
		"a little differently.",
	Mend: []string{
		"Ask the layer in between: call its operation, or add the one that is missing.",
		"If reading past it is accepted for good, say so: a house rule for this crossing, with the reason.",
	},
	Before: map[string]string{
		"java": `// desk (presentation)
class DuesScreen {
    DuesScreen(DuesTable table) { … }   // data access is only for business logic
    void cancel(int id) { table.delete(id); }
}`,
		"go": `// desk (presentation)
func (s Screen) Cancel(id int) error { return s.duesTable.Delete(id) }`,
	},
	After: map[string]string{
		"java": `// desk (presentation)
class DuesScreen {
    DuesScreen(DuesService dues) { … }
    void cancel(int id) { dues.cancel(id); }
}`,
		"go": `// desk (presentation)
func (s Screen) Cancel(id int) error { return s.dues.Cancel(id) }`,
	},
}

func init() {
	shortcut.find = func(c *Case) { c.crossings(c.findShortcut) }
}

func (c *Case) findShortcut(from, to layout.Site, _ int, d *graph.Dep) *Finding {
	a, b := c.layer(from), c.layer(to)
	if a == nil || b == nil || layout.Between(a, b) != layout.Shortcut {
		return nil
	}
	owners := strings.Join(b.OnlyFor, ", ")
	return &Finding{
		Kind:   shortcut.Name,
		Rule:   fmt.Sprintf("%s is only for %s; %s goes past it", b.Name, owners, a.Name),
		Remedy: fmt.Sprintf("Ask %s for what %s gives, or add the operation there.", owners, shortName(d.Name)),
	}
}
