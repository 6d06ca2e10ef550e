package text

import (
	"fmt"
	"io"
	"strings"

	"github.com/goccy/go-yaml"

	"moatline/internal/core/draft"
	"moatline/internal/core/layout"
)

// Draft writes a proposal as a declaration, the evidence for every guess
// beside it as a comment.
func Draft(w io.Writer, d *draft.Proposal) error {
	p := &printer{w: w}
	p.line("# The layers of this application, proposed from %s by \"moatline draft\".", count(d.Sources, "source file", "source files"))
	p.line("# Every guess has its evidence beside it: keep what is right, change what is not.")
	p.line("")
	name := d.Application
	if name == "" {
		name = "my application"
	}
	p.line("application: %s", quoteYAML(name))
	p.line("")
	p.line("# Shape: %s (%s).", d.Shape, Line(d.ShapeEvidence))
	p.line("# A layer may depend on itself and on the rings listed before its own.")
	p.line("rings:                                    # innermost first")
	for _, ring := range d.Rings {
		for i, l := range ring {
			lead := "  - "
			if i > 0 {
				lead = "    "
			}
			comment := ""
			switch {
			case l.Files > 0:
				comment = fmt.Sprintf("   # %s, confidence %s", count(l.Files, "file", "files"), l.Confidence)
			default:
				comment = "   # nothing found: a sketch until it has files"
			}
			p.line("%s%s:%s", lead, l.Role, comment)
			p.patterns("      ", "files", l.Patterns)
			if l.Role == layout.DataAccess && d.Shape == draft.Classic {
				p.line("      only-for: business logic")
			}
		}
	}
	if len(d.Wiring) > 0 {
		p.line("")
		p.patterns("", "wiring", d.Wiring)
	}
	if len(d.Unplaced) > 0 {
		p.line("")
		p.line("# Nothing tells where these belong; give each to a layer, or to skip:")
		const most = 30
		for i, u := range d.Unplaced {
			if i == most {
				p.line("#   and %d more; see: moatline layers", len(d.Unplaced)-most)
				break
			}
			p.line("#   %s   %s", Line(u.Text), count(u.Files, "file", "files"))
		}
	}
	return p.err
}

func (p *printer) patterns(indent, key string, list []draft.Pattern) {
	if len(list) == 0 {
		return
	}
	p.line("%s%s:", indent, key)
	width := 0
	for _, x := range list {
		width = max(width, len([]rune(quoteYAML(x.Text))))
	}
	for _, x := range list {
		line := indent + "  - " + pad(quoteYAML(x.Text), min(width, 60))
		if x.Evidence != "" {
			line += "   # " + count(x.Files, "file", "files") + ": " + Line(x.Evidence)
		} else {
			line += "   # " + count(x.Files, "file", "files")
		}
		p.line("%s", line)
	}
}

// quoteYAML writes a text as a YAML scalar on one line.
func quoteYAML(t string) string {
	t = Line(t)
	b, err := yaml.Marshal(t)
	if err != nil || strings.Count(string(b), "\n") > 1 {
		return `"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`).Replace(t) + `"`
	}
	out := strings.TrimSuffix(string(b), "\n")
	if strings.ContainsAny(out[:1], "*&!|>%@`") {
		return `"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`).Replace(t) + `"`
	}
	return out
}

// DraftSummary says on a few lines what a written proposal holds and what to
// do with it.
func DraftSummary(w io.Writer, file string, d *draft.Proposal, s Style, folder string) error {
	p := &printer{w: w, s: s}
	p.line("%s", s.paint(title, "Wrote "+Line(file)))
	p.line("")
	p.line("Shape: %s (%s)", d.Shape, wrap(Line(d.ShapeEvidence), s.Width, 4))
	placed := 0
	for i, ring := range d.Rings {
		for k, l := range ring {
			mark := ""
			if k == 0 {
				mark = fmt.Sprintf("ring %d", i+1)
			}
			what := "nothing found: a sketch"
			if l.Files > 0 {
				what = fmt.Sprintf("%s, confidence %s", count(l.Files, "file", "files"), l.Confidence)
			}
			placed += l.Files
			p.line("  %s  %s  %s", pad(mark, 6), s.paint(title, pad(string(l.Role), 14)), what)
		}
	}
	left := 0
	for _, u := range d.Unplaced {
		left += u.Files
	}
	if left > 0 {
		p.line("  %s  %s  %s", pad("", 6), pad("unplaced", 14), s.paint(warn, count(left, "file", "files")+" that nothing tells about"))
	}
	p.line("")
	p.line("Open it, correct what it guessed wrong, then: moatline check%s", folder)
	return p.err
}
