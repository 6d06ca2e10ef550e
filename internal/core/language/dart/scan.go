package dart

import (
	"bytes"

	"moatline/internal/core/language/lexis"
)

// Tokens of Dart beside the common ones.
const (
	tArrow    lexis.Kind = lexis.Own + iota // =>
	tSelect                                 // ?. and .. and ?..
	tOperator                               // == and the like
	tDots                                   // ...
)

// scan cuts a Dart file into tokens (Dart Programming Language Specification,
// clause 20, "Reference").
func (r *Reader) scan() {
	i := 0
	if bytes.HasPrefix(r.Src, []byte("#!")) {
		i = r.LineEnd(0)
	}
	r.tokens(i, r.End, 0)
}

// tokens scans up to end or, inside an interpolation, to the "}" that closes
// it, and returns its offset.
func (r *Reader) tokens(i, end, within int) int {
	src := r.Src
	depth := 0
	for i < end {
		c := src[i]
		switch {
		case c <= ' ':
			i++
		case c == '/' && src[i+1] == '/':
			i = min(r.LineEnd(i), end)
		case c == '/' && src[i+1] == '*':
			i = r.NestedComment(i, end)
		case c == '"' || c == '\'':
			i = r.text(i, i, end, within)
		case c == 'r' && (src[i+1] == '"' || src[i+1] == '\''):
			i = r.text(i, i+1, end, within)
		case lexis.Digit(c) || c == '.' && lexis.Digit(src[i+1]):
			j := r.NumberEnd(i)
			r.Add(lexis.Number, i, j)
			i = j
		case nameChar[c]:
			j := i
			for nameChar[src[j]] {
				j++
			}
			r.AddWord(i, j, words.Of(src[i:j]))
			i = j
		case c == '{':
			depth++
			r.Add(c, i, i+1)
			i++
		case c == '}':
			if depth == 0 && within > 0 {
				return i
			}
			depth--
			r.Add(c, i, i+1)
			i++
		default:
			kind, n := c, 1
			d := src[i+1]
			switch {
			case c == '=' && d == '>':
				kind, n = tArrow, 2
			case c == '.' && d == '.' && src[i+2] == '.':
				kind, n = tDots, 3
			case c == '.' && d == '.', c == '?' && d == '.':
				kind, n = tSelect, 2
				if src[i+2] == '.' {
					n = 3
				}
			case d == '=' && bytes.IndexByte([]byte("=!<+-*/%&|^~"), c) >= 0, c == '&' && d == '&', c == '|' && d == '|', c == '?' && d == '?', c == '>' && d == '=':
				kind, n = tOperator, 2
			}
			r.Add(kind, i, i+n)
			i += n
		}
	}
	return end
}

var nameChar = func() (t [256]bool) {
	t = lexis.NameChar
	t['$'] = true
	return t
}()

// text scans a string whose quote is at i (clause 17.7); the code of its
// interpolations is scanned as such.
func (r *Reader) text(from, i, end, within int) int {
	raw := from < i
	quote := r.Src[i]
	multi := r.Src[i+1] == quote && r.Src[i+2] == quote
	i++
	if multi {
		i += 2
	}
	holes := false
	for i < end {
		c := r.Src[i]
		switch {
		case c == '\\' && !raw:
			i += 2
		case c == quote && (!multi || r.Src[i+1] == quote && r.Src[i+2] == quote):
			if multi {
				i += 2
			}
			i++
			if holes {
				r.Add(lexis.String, i-1, i)
			} else {
				r.Add(lexis.String, from, i)
			}
			return i
		case c == '\n' && !multi:
			r.Note(from, "string without its closing quote")
			r.Add(lexis.String, from, i)
			return i
		case c == '$' && !raw && r.Src[i+1] == '{' && within < 100:
			if !holes {
				r.Add(lexis.String, from, from+1)
				holes = true
			}
			r.Add('(', i, i+2)
			i = r.tokens(i+2, end, within+1)
			r.Add(')', min(i, end), min(i+1, end))
			i++
		case c == '$' && !raw && lexis.NameChar[r.Src[i+1]]:
			if !holes {
				r.Add(lexis.String, from, from+1)
				holes = true
			}
			j := r.NameEnd(i + 1)
			r.Add('(', i, i+1)
			r.Add(lexis.Name, i+1, j)
			r.Add(')', j, j)
			i = j
		default:
			i++
		}
	}
	r.Note(from, "string without its closing quotes")
	r.Add(lexis.String, from, end)
	return end
}
