package python

import (
	"bytes"

	"moatline/internal/core/language/lexis"
)

// Tokens of Python beside the common ones.
const (
	tNewline lexis.Kind = lexis.Own + iota // the end of a logical line
	tArrow                                 // ->
	tCompare                               // == != <= >=
	tAugment                               // += and the like
	tWalrus                                // :=
)

// line is a logical line: its tokens up to the one that ends it, and how far
// it is indented.
type line struct {
	from, to int32
	indent   int32
}

// scan cuts a Python file into tokens and logical lines (The Python Language
// Reference, "Lexical analysis").
func (r *Reader) scan() {
	r.lines = r.lines[:0]
	i := 0
	for i < r.End {
		// The indentation of the line (reference, 2.1.8).
		indent, j := int32(0), i
	count:
		for {
			switch r.Src[j] {
			case ' ':
				indent++
			case '\t':
				indent = indent/8*8 + 8
			case '\f':
				indent = 0
			default:
				break count
			}
			j++
		}
		from := len(r.Tokens)
		i = r.scanLine(j, r.End, true, 0)
		if len(r.Tokens) > from {
			r.Add(tNewline, min(i, r.End), min(i, r.End))
			r.lines = append(r.lines, line{int32(from), int32(len(r.Tokens) - 1), indent})
		}
		i++
	}
}

// scanLine scans from i to the end of the logical line, which it returns, or
// to end. newlines tells whether a line end outside brackets ends it.
func (r *Reader) scanLine(i, end int, newlines bool, within int) int {
	src := r.Src
	depth := 0
	for i < end {
		c := src[i]
		switch {
		case c == '\n':
			if depth == 0 && newlines {
				return i
			}
			i++
		case c <= ' ':
			i++
		case c == '#':
			i = min(r.LineEnd(i), end)
		case c == '\\':
			if src[i+1] == '\r' {
				i++
			}
			i += 2 // the line goes on
		case c == '"' || c == '\'':
			i = r.text(i, i, end, within)
		case lexis.Digit(c) || c == '.' && lexis.Digit(src[i+1]):
			j := r.NumberEnd(i)
			if src[j] == '.' && !lexis.NameChar[src[j+1]] {
				j++
			}
			r.Add(lexis.Number, i, j)
			i = j
		case lexis.NameChar[c]:
			j := r.NameEnd(i)
			if (src[j] == '"' || src[j] == '\'') && j-i <= 3 && prefix(src[i:j]) {
				i = r.text(i, j, end, within)
				continue
			}
			r.Add(lexis.Name, i, j)
			i = j
		default:
			kind, n := c, 1
			d := src[i+1]
			switch {
			case c == '-' && d == '>':
				kind, n = tArrow, 2
			case c == ':' && d == '=':
				kind, n = tWalrus, 2
			case d == '=' && (c == '=' || c == '!' || c == '<' || c == '>'):
				kind, n = tCompare, 2
			case d == '=' && bytes.IndexByte([]byte("+-*/%&|^@"), c) >= 0:
				kind, n = tAugment, 2
			case (c == '*' || c == '/' || c == '<' || c == '>') && d == c:
				n = 2
				if src[i+2] == '=' {
					kind, n = tAugment, 3
				}
			}
			switch c {
			case '(', '[', '{':
				depth++
			case ')', ']', '}':
				if depth > 0 {
					depth--
				}
			}
			r.Add(kind, i, i+n)
			i += n
		}
	}
	return end
}

// prefix tells the letters that may stand before a string (reference, 2.4.1;
// PEP 750 for t).
func prefix(b []byte) bool {
	for _, c := range b {
		switch c | 0x20 {
		case 'r', 'b', 'u', 'f', 't':
		default:
			return false
		}
	}
	return true
}

// text scans the string literal whose prefix begins at from and whose quote is
// at i. The code in the holes of a formatted one is scanned as such.
func (r *Reader) text(from, i, end, within int) int {
	src := r.Src
	formatted := false
	for _, c := range src[from:i] {
		if c|0x20 == 'f' || c|0x20 == 't' {
			formatted = true
		}
	}
	quote := src[i]
	triple := src[i+1] == quote && src[i+2] == quote
	j := i + 1
	if triple {
		j = i + 3
	}
	holes := false
	for j < end {
		c := src[j]
		switch {
		case c == '\\':
			j += 2
			continue
		case c == quote && (!triple || src[j+1] == quote && src[j+2] == quote):
			if triple {
				j += 2
			}
			j++
			if holes {
				r.Add(lexis.String, j-1, j)
			} else {
				r.Add(lexis.String, from, j)
			}
			return j
		case c == '\n' && !triple:
			r.Note(from, "string without its closing quote")
			r.Add(lexis.String, from, j)
			return j
		case formatted && c == '{' && src[j+1] == '{':
			j++
		case formatted && c == '{':
			stop := r.holeEnd(j, end, quote, triple)
			if stop < 0 {
				break
			}
			if !holes {
				r.Add(lexis.String, from, from+1)
				holes = true
			}
			if within < 8 {
				r.Add('(', j, j+1)
				r.scanLine(j+1, stop, false, within+1)
				r.Add(')', stop, stop+1)
			}
			j = stop
		}
		j++
	}
	r.Note(from, "string without its closing quotes")
	r.Add(lexis.String, from, end)
	return end
}

// holeEnd returns the offset of the brace that closes the one at i, or -1.
func (r *Reader) holeEnd(i, end int, quote byte, triple bool) int {
	depth, quotes := 0, 0
	if !triple {
		end = min(end, i+4000) // holes are short; a search to the end of a long line for each is not
	}
	for j := i; j < end; j++ {
		switch c := r.Src[j]; c {
		case '{':
			depth++
		case '}':
			if depth--; depth == 0 {
				return j
			}
		case '\n':
			if !triple {
				return -1
			}
		case '"', '\'':
			if c == quote && (!triple || r.Src[j+1] == quote && r.Src[j+2] == quote) {
				// Since Python 3.12 the holes may use the same quote.
				rest := r.Ahead(j+1, 4000, end)
				k := bytes.IndexByte(rest, quote)
				if quotes++; k < 0 || bytes.IndexByte(rest, '}') < 0 || triple || quotes > 8 {
					return -1
				}
				j += k + 1
				continue
			}
			for j++; j < end && r.Src[j] != c && r.Src[j] != '\n'; j++ {
				if r.Src[j] == '\\' {
					j++
				}
			}
		}
	}
	return -1
}
