// Package text shows results to people in a terminal or a log.
package text

import (
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/jedib0t/go-pretty/v6/text"
)

// Style says how text may look.
type Style struct {
	Width int
	Color bool
}

// Roles of text. Colour never says anything that the words do not.
var (
	bad   = text.Colors{text.FgRed, text.Bold}
	warn  = text.Colors{text.FgYellow}
	good  = text.Colors{text.FgGreen, text.Bold}
	title = text.Colors{text.Bold}
	faint = text.Colors{text.Faint}
)

func (s Style) paint(c text.Colors, t string) string {
	if !s.Color || t == "" {
		return t
	}
	return c.EscapeSeq() + t + text.Reset.EscapeSeq()
}

// Clean makes text from a tree harmless: control characters, which could
// drive a terminal, and invisible direction marks become visible, and so do
// bytes that are no text. Line feeds and tabs stay.
func Clean(t string) string {
	plain := true
	for i := 0; i < len(t); i++ {
		if c := t[i]; c < ' ' && c != '\n' && c != '\t' || c >= 0x7F {
			plain = false
			break
		}
	}
	if plain {
		return t
	}
	var b strings.Builder
	for i := 0; i < len(t); {
		r, n := utf8.DecodeRuneInString(t[i:])
		switch {
		case r == utf8.RuneError && n == 1:
			b.WriteString(`\x` + strconv.FormatUint(uint64(t[i]), 16))
		case r == '\n' || r == '\t':
			b.WriteRune(r)
		case unicode.IsControl(r), r >= 0x202A && r <= 0x202E, r >= 0x2066 && r <= 0x2069, r == 0x200E, r == 0x200F, r == 0xFEFF:
			b.WriteString(strings.Trim(strconv.QuoteRuneToASCII(r), "'"))
		default:
			b.WriteString(t[i : i+n])
		}
		i += n
	}
	return b.String()
}

// Line is Clean for text that must stay on one line.
func Line(t string) string {
	return strings.NewReplacer("\n", `\n`, "\t", `\t`).Replace(Clean(t))
}

// number writes n with commas between thousands.
func number(n int) string {
	s := strconv.Itoa(n)
	for i := len(s) - 3; i > 0 && s[i-1] != '-'; i -= 3 {
		s = s[:i] + "," + s[i:]
	}
	return s
}

// count writes a number with its noun.
func count(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return number(n) + " " + many
}

// wrap breaks t into lines of at most width characters, all but the first
// indented.
func wrap(t string, width, indent int) string {
	width = max(20, width-indent)
	var lines []string
	line, n := "", 0
	for _, w := range strings.Fields(t) {
		l := utf8.RuneCountInString(w)
		if n > 0 && n+1+l > width {
			lines = append(lines, line)
			line, n = "", 0
		}
		if n > 0 {
			line += " "
			n++
		}
		line += w
		n += l
	}
	lines = append(lines, line)
	return strings.Join(lines, "\n"+strings.Repeat(" ", indent))
}

// pad fills t with blanks to n characters.
func pad(t string, n int) string {
	if l := utf8.RuneCountInString(t); l < n {
		return t + strings.Repeat(" ", n-l)
	}
	return t
}

// padLeft fills t with blanks in front.
func padLeft(t string, n int) string {
	if l := utf8.RuneCountInString(t); l < n {
		return strings.Repeat(" ", n-l) + t
	}
	return t
}

// Heading marks a line as one.
func Heading(s Style, t string) string { return s.paint(title, t) }

// Prompt shows a command as it is typed.
func Prompt(s Style, t string) string { return s.paint(faint, "$ "+t) }
