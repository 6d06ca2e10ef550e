// Package lexis is the ground that the readers stand on: a text with its
// lines, its tokens in a row, the brackets that belong together and the names
// that are in scope.
//
// A reader cuts its text into tokens once and then walks over them; looking
// ahead costs nothing, and no nesting of brackets, however deep, needs a deep
// stack to be passed over.
package lexis

import (
	"bytes"
	"sort"
	"unicode/utf8"

	"moatline/internal/core/fact"
	"moatline/internal/core/source"
)

// Padding is how many zero bytes follow the text in Text.Src.
const Padding = 16

// Text is the text of one file: UTF-8 without a byte order mark.
type Text struct {
	Src  []byte // the text, followed by Padding zero bytes
	End  int    // length of the text
	line []int32
	wide bool // not plain ASCII
	near int  // the line that was asked for last

	space []byte
}

// Reset makes text the one that is read.
func (t *Text) Reset(text []byte) {
	t.End = len(text)
	t.space = append(t.space[:0], text...)
	for range Padding {
		t.space = append(t.space, 0)
	}
	t.Src = t.space[:t.End+Padding]
	const keep = 8 << 20 // one very large file must not hold its memory to the end
	if cap(t.space) > keep {
		t.space = nil
	}
	t.wide = !source.ASCII(text)
	t.near = 0
	t.line = append(t.line[:0], 0)
	for at := 0; ; {
		n := bytes.IndexByte(text[at:], '\n')
		if n < 0 {
			break
		}
		at += n + 1
		t.line = append(t.line, int32(at))
	}
}

// Lines returns how many lines the text has.
func (t *Text) Lines() int {
	n := len(t.line)
	if int(t.line[n-1]) == t.End {
		n--
	}
	return n
}

// LineOf returns the index, from 0, of the line that offset at lies in.
func (t *Text) LineOf(at int) int {
	// Most questions come in the order of the text.
	n := t.near
	if int(t.line[n]) <= at {
		for range 8 {
			if n+1 == len(t.line) || int(t.line[n+1]) > at {
				t.near = n
				return n
			}
			n++
		}
	}
	n = sort.Search(len(t.line), func(i int) bool { return int(t.line[i]) > at }) - 1
	t.near = n
	return n
}

// Place returns the place of offset at; columns count characters.
func (t *Text) Place(at int) fact.Place {
	n := t.LineOf(at)
	begin := int(t.line[n])
	col := at - begin
	if t.wide {
		col = utf8.RuneCount(t.Src[begin:at])
	}
	return fact.Place{Line: uint32(n + 1), Column: uint32(col + 1)}
}
