package text

import (
	"io"

	"moatline/internal/core/layout"
)

// Sketch says what is declared for a tree that has no source file yet.
func Sketch(w io.Writer, d *layout.Declaration, s Style) error {
	p := &printer{w: w, s: s}
	name := d.Application
	if name == "" {
		name = "The application"
	}
	p.line("%s", s.paint(title, Line(name)))
	p.line("")
	p.line("%s", s.paint(warn, "A sketch: the tree has no source file that Moat Line reads, so nothing was judged."))
	p.line("")
	p.line("Declared, innermost first:")
	for i, ring := range d.Rings {
		for k, l := range ring {
			mark := ""
			if k == 0 {
				mark = "ring " + number(i+1)
			}
			p.line("  %s  %s", pad(mark, 7), Line(l.Name))
		}
	}
	return p.err
}
