package lexis

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
)

// Columns count characters, in whatever order places are asked for.
func TestPlace(t *testing.T) {
	var x Text
	x.Reset([]byte("a\nbé漢c\n\nd"))
	for at, want := range map[int]fact.Place{
		0: {Line: 1, Column: 1}, 1: {Line: 1, Column: 2}, 2: {Line: 2, Column: 1}, 3: {Line: 2, Column: 2},
		5: {Line: 2, Column: 3}, 8: {Line: 2, Column: 4}, 10: {Line: 3, Column: 1}, 11: {Line: 4, Column: 1}, 12: {Line: 4, Column: 2},
	} {
		assert.Equal(t, want, x.Place(at), "offset %d", at)
	}
	assert.Equal(t, fact.Place{Line: 4, Column: 1}, x.Place(11))
	assert.Equal(t, fact.Place{Line: 1, Column: 1}, x.Place(0), "back to the start")
	assert.Equal(t, 4, x.Lines())
	for text, lines := range map[string]int{"": 0, "a": 1, "a\n": 1, "a\nb": 2, "\n\n": 2} {
		x.Reset([]byte(text))
		assert.Equal(t, lines, x.Lines(), "%q", text)
	}
	x.Reset([]byte(strings.Repeat("x\n", 100)))
	for _, line := range []int{0, 99, 50, 51, 60, 3} {
		assert.Equal(t, line, x.LineOf(2*line+1))
	}
}

// stream cuts a text into single characters.
func stream(text string) *Stream {
	s := new(Stream)
	s.Begin([]byte(text), func(fact.Place, string) {})
	for i := range text {
		if text[i] > ' ' {
			s.Add(text[i], i, i+1)
		}
	}
	s.Close()
	return s
}

// Each bracket belongs to another, in damaged text as well.
func TestPair(t *testing.T) {
	for _, c := range []struct {
		text string
		at   int
		want int
	}{
		{"(a)", 0, 2},
		{"(a)", 2, 0},
		{"(a)", 1, 1},
		{"([{}])", 0, 5},
		{"([{}])", 1, 4},
		{"([{}])", 2, 3},
		{"{(a}", 0, 3},
		{"{(a}", 1, 3}, // the outer bracket ends it
		{"{a)}", 0, 3},
		{"{a)}", 2, 2}, // closes nothing
		{"(a", 0, 2},   // the end of the text
		{"}{", 0, 0},
		{"{[(}", 1, 3},
		{"({)}", 1, 3},
	} {
		assert.Equal(t, c.want, stream(c.text).Pair(c.at), "%s at %d", c.text, c.at)
	}
}

func TestTokens(t *testing.T) {
	s := stream("a b\n c")
	assert.Equal(t, EOF, s.At(3))
	assert.Equal(t, EOF, s.At(-1))
	assert.Equal(t, EOF, s.At(99))
	assert.Nil(t, s.Bytes(99))
	assert.True(t, s.NewLine(0))
	assert.False(t, s.NewLine(1))
	assert.True(t, s.NewLine(2))
	assert.False(t, s.Touches(0))
	assert.Equal(t, 2, s.CodeLines())
	assert.Equal(t, fact.Place{Line: 2, Column: 2}, s.Where(2))
	assert.Equal(t, "a b", string(s.Ahead(0, 99, 99)), "not beyond the line")
	assert.Equal(t, "a", string(s.Ahead(0, 1, 99)))
	assert.Empty(t, s.Ahead(50, 1, 99))
}

func TestNumberEnd(t *testing.T) {
	for text, want := range map[string]string{
		"12;": "12", "1.5e-3+2": "1.5e-3", "0x1e+2": "0x1e", "1..2": "1", "1.x": "1", "1_000L)": "1_000L", "0b101": "0b101", "1e5-2": "1e5", "3.": "3",
	} {
		var x Text
		x.Reset([]byte(text))
		assert.Equal(t, want, text[:x.NumberEnd(0)], text)
	}
}

// A full name has parts with one kind of separator between them.
func TestFullName(t *testing.T) {
	for text, want := range map[string]bool{
		"a.B": true, "a.b.C": true, `A\B`: true, `A\\B`: true, `\A\B`: true, "a.B$C": true, "a.B+C": true, "a.é": true,
		"": false, "a": false, "a.": false, ".a": false, "a..b": false, `a.b\c`: false, "a b.c": false, "a.b c": false, "1.2": false,
		"a.2b": false, "a-b.c": false, "a/b.c": false, "http://a.b": false, strings.Repeat("a.", 200) + "b": false,
	} {
		assert.Equal(t, want, FullName([]byte(text)), text)
	}
}

func TestLocals(t *testing.T) {
	var l Locals
	l.Clear()
	outer := l.Mark()
	l.Declare("berth")
	inner := l.Mark()
	l.Declare("berth")
	l.Declare("tide")
	assert.True(t, l.Has([]byte("tide")))
	l.Leave(inner)
	assert.False(t, l.Has([]byte("tide")))
	assert.True(t, l.Has([]byte("berth")), "the outer one stays")
	l.Leave(outer)
	assert.False(t, l.Has([]byte("berth")))
}

func TestWords(t *testing.T) {
	w := make(Words)
	first, second := w.Set("class new"), w.Set("new old")
	assert.NotEqual(t, first, second)
	assert.Equal(t, first|second, w.Of([]byte("new")))
	assert.Equal(t, second, w.Of([]byte("old")))
	assert.Zero(t, w.Of([]byte("New")))
	assert.Zero(t, w.Of([]byte("berth")))
}

// Of several declarations of a name the one that shares most folders counts,
// and a copy in a hidden folder last of all.
func TestNearest(t *testing.T) {
	g := graph.New([]*fact.File{{Path: ".old/a/B"}, {Path: "a/B"}, {Path: "a/b/B"}, {Path: "a/b/c/User"}, {Path: "c/B"}, {Path: "c/User"}})
	refs := []Ref{{File: 0}, {File: 1}, {File: 2}, {File: 4}}
	assert.Equal(t, int32(2), Nearest(g, 3, refs).File)
	assert.Equal(t, int32(4), Nearest(g, 5, refs).File)
	assert.Equal(t, int32(1), Nearest(g, 5, refs[:2]).File)
	assert.Equal(t, int32(0), Nearest(g, 5, refs[:1]).File)
	assert.Equal(t, 2, SharedFolders("a/b/c", "a/b/d"))
	assert.True(t, Hidden("a/.git/b"))
	assert.False(t, Hidden("a.b/c"))
}
