package judge

import (
	"moatline/internal/core/layout"
)

var unplaced = &Kind{
	Name:    "unplaced",
	Meaning: "a file that no pattern claims",
	Default: layout.Warn,
	Why: "What lies in no layer is judged by no rule: dependencies run through it unseen. A folder of leftovers " +
		"and helpers is where most lines are crossed first.",
	Mend: []string{
		"Give the file's folder to the layer that it serves: add the pattern under files.",
		"Move the file to where its layer lives.",
		"If it is no part of the application, leave it out: a pattern under skip.",
	},
	Before: map[string]string{"": `rings:
  - domain:
      files: src/domain/**`},
	After: map[string]string{"": `rings:
  - domain:
      files: [src/domain/**, src/calendar/**]`},
}

func init() { unplaced.find = findUnplaced }

func findUnplaced(c *Case) {
	for i, s := range c.Placement.Sites {
		if s != layout.Unplaced {
			continue
		}
		if t := c.Graph.Files[i]; t.Package == "" && len(t.Decls) == 0 && len(t.Imports) == 0 && len(t.Uses) == 0 {
			continue // an empty file, such as one that only makes a folder a package
		}
		f := &Finding{
			Kind:     unplaced.Name,
			From:     End{File: c.Graph.Files[i].Path, Line: 1, Column: 1},
			Rule:     "every source file belongs to a layer, the wiring or the tests",
			Remedy:   "Add a pattern for its folder to a layer, to wiring or to tests; or to skip, if it is no part of the application.",
			fromSite: s, toSite: s,
		}
		if d := c.Graph.Files[i].Decls; len(d) > 0 {
			f.From.Name = c.enclosing(i, []Place{{}})
		}
		f.Fingerprint = fingerprint(f)
		c.findings = append(c.findings, f)
	}
}
