package declaration

import (
	"fmt"
	"sort"
	"strings"
)

// Problem is one thing that is wrong with a declaration file.
type Problem struct {
	File         string
	Line, Column int
	Source       string // the offending line
	Message      string // what is wrong
	Hint         string // what was expected, and the nearest right word
	Warning      bool   // the declaration can be used all the same
}

// String shows the problem over several lines: the place and the message, the
// line itself with a mark under the column, what to write.
func (p Problem) String() string {
	var b strings.Builder
	kind := "error"
	if p.Warning {
		kind = "warning"
	}
	if p.Line > 0 {
		fmt.Fprintf(&b, "%s:%d:%d: %s: %s\n", p.File, p.Line, p.Column, kind, p.Message)
	} else {
		fmt.Fprintf(&b, "%s: %s: %s\n", p.File, kind, p.Message)
	}
	if src, col := shorten(p.Source, p.Column); src != "" {
		fmt.Fprintf(&b, "    %s\n    %s^\n", src, strings.Repeat(" ", col-1))
	}
	for _, l := range wrapped(p.Hint, 100) {
		fmt.Fprintf(&b, "    %s\n", l)
	}
	return b.String()
}

// wrapped breaks a text into lines of at most width characters.
func wrapped(text string, width int) []string {
	var lines []string
	line := ""
	for _, w := range strings.Fields(text) {
		if line != "" && len(line)+1+len(w) > width {
			lines = append(lines, line)
			line = ""
		}
		if line != "" {
			line += " "
		}
		line += w
	}
	if line != "" {
		lines = append(lines, line)
	}
	return lines
}

// shorten cuts a long line to the part around the column and makes tabs and
// control characters harmless.
func shorten(line string, column int) (string, int) {
	const width = 100
	runes := []rune(strings.TrimRight(line, "\r\n"))
	for i, r := range runes {
		if r == '\t' {
			runes[i] = ' '
		} else if r < ' ' || r == 0x7F || r >= 0x80 && r < 0xA0 {
			runes[i] = '·'
		}
	}
	column = max(1, min(column, len(runes)+1))
	if len(runes) > width {
		from := max(0, column-1-width/2)
		to := min(len(runes), from+width)
		runes = runes[from:to]
		column -= from
	}
	return string(runes), column
}

// Problems is a list of problems; as an error it shows all of them.
type Problems []Problem

func (ps Problems) Error() string {
	var b strings.Builder
	for i, p := range ps {
		if i > 0 {
			b.WriteByte('\n')
		}
		b.WriteString(p.String())
	}
	return strings.TrimRight(b.String(), "\n")
}

// Errors reports whether any of the problems keeps the declaration from use.
func (ps Problems) Errors() bool {
	for _, p := range ps {
		if !p.Warning {
			return true
		}
	}
	return false
}

func (ps Problems) sort() {
	sort.SliceStable(ps, func(i, j int) bool {
		if ps[i].Line != ps[j].Line {
			return ps[i].Line < ps[j].Line
		}
		return ps[i].Column < ps[j].Column
	})
}
