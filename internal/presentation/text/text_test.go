package text

import (
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
)

func TestClean(t *testing.T) {
	for in, want := range map[string]string{
		"plain":          "plain",
		"a\x1b[31mb":     `a\x1b[31mb`,
		"tab\tline\n":    "tab\tline\n",
		"ünï ⚓":          "ünï ⚓",
		"bad \xff":       `bad \xff`,
		"\u202eright":    `\u202eright`,
		"\u0085\u200e":   `\u0085\u200e`,
		"del\x7f and \r": `del\x7f and \r`,
	} {
		assert.Equal(t, want, Clean(in))
	}
	assert.Equal(t, `a\nb\tc`, Line("a\nb\tc"))
}

func TestWrap(t *testing.T) {
	text := "Map at the border: let the store turn the row into a type of the domain before it calls inward."
	for _, width := range []int{40, 60, 200} {
		for i, l := range strings.Split(wrap(text, width, 8), "\n") {
			if i > 0 {
				assert.True(t, strings.HasPrefix(l, "        "))
				assert.LessOrEqual(t, utf8.RuneCountInString(l), width)
			}
		}
		assert.Equal(t, strings.Fields(text), strings.Fields(wrap(text, width, 8)))
	}
	assert.Equal(t, "", wrap("", 80, 2))
	assert.Equal(t, "1,234,567", number(1234567))
	assert.Equal(t, "12", number(12))
	assert.Equal(t, "-1,234", number(-1234))
	assert.Equal(t, "1 file", count(1, "file", "files"))
	assert.Equal(t, "0 files", count(0, "file", "files"))
	assert.Equal(t, "ü   ", pad("ü", 4))
	assert.Equal(t, "   ü", padLeft("ü", 4))
}

func TestQuoteYAML(t *testing.T) {
	for in, want := range map[string]string{
		"src/**": "src/**", "**/x": `"**/x"`, "*": `"*"`, "@Mark": `"@Mark"`, "a: b": `"a: b"`, "true": `"true"`, "": `""`, "#x": `"#x"`,
	} {
		assert.Equal(t, want, quoteYAML(in), in)
	}
}
