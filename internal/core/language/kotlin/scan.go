package kotlin

import (
	"bytes"

	"moatline/internal/core/language/lexis"
)

// Tokens of Kotlin beside the common ones.
const (
	tArrow    lexis.Kind = lexis.Own + iota // ->
	tColons                                 // ::
	tSafe                                   // ?.
	tElvis                                  // ?:
	tOperator                               // == and the like
	tBangs                                  // !!
	tRange                                  // ..
)

// scan cuts a Kotlin file into tokens (Kotlin language specification, chapter
// 1.2).
func (r *Reader) scan() {
	i := 0
	if bytes.HasPrefix(r.Src, []byte("#!")) {
		i = r.LineEnd(0)
	}
	r.tokens(i, r.End, 0)
}

// tokens scans up to end or, inside a template, to the "}" that closes the
// hole, and returns its offset.
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
		case c == '"':
			i = r.text(i, end, within)
		case c == '\'':
			j := i + 1
			for j < end && src[j] != '\'' && src[j] != '\n' {
				if src[j] == '\\' {
					j++
				}
				j++
			}
			j = min(j+1, end)
			r.Add(lexis.Number, i, j)
			i = j
		case c == '`':
			n := bytes.IndexByte(r.Ahead(i+1, 500, end), '`')
			if n <= 0 {
				i++
				continue
			}
			r.Add(lexis.Name, i+1, i+1+n)
			r.quoted[int32(len(r.Tokens)-1)] = true
			i += n + 2
		case lexis.Digit(c) || c == '.' && lexis.Digit(src[i+1]) && src[i-min(i, 1)] != '.':
			j := i
			hex := c == '0' && (src[i+1]|0x20 == 'x' || src[i+1]|0x20 == 'b')
			for lexis.NameChar[src[j]] || src[j] == '.' && lexis.Digit(src[j+1]) {
				ch := src[j]
				j++
				if !hex && ch|0x20 == 'e' && (src[j] == '+' || src[j] == '-') {
					j++
				}
			}
			r.Add(lexis.Number, i, j)
			i = j
		case lexis.NameChar[c]:
			j := r.NameEnd(i)
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
			case c == '-' && d == '>':
				kind, n = tArrow, 2
			case c == ':' && d == ':':
				kind, n = tColons, 2
			case c == '?' && d == '.':
				kind, n = tSafe, 2
			case c == '?' && d == ':' && src[i+2] != ':':
				kind, n = tElvis, 2
			case c == '!' && d == '!':
				kind, n = tBangs, 2
			case c == '.' && d == '.':
				kind, n = tRange, 2
				if src[i+2] == '<' {
					n = 3
				}
			case c == '+' && d == '+' || c == '-' && d == '-':
				kind, n = tBangs, 2
			case c == '=' && d == '=' || c == '!' && d == '=':
				kind, n = tOperator, 2
				if src[i+2] == '=' {
					n = 3
				}
			case d == '=' && bytes.IndexByte([]byte("+-*/%<"), c) >= 0 || c == '&' && d == '&' || c == '|' && d == '|' || c == '>' && d == '=':
				kind, n = tOperator, 2
			}
			r.Add(kind, i, i+n)
			i += n
		}
	}
	return end
}

// text scans a string, whose templates hold code (1.2.6, 8.2).
func (r *Reader) text(i, end, within int) int {
	from := i
	raw := r.Src[i+1] == '"' && r.Src[i+2] == '"'
	i++
	if raw {
		i += 2
	}
	holes := false
	close := func(to int) int {
		if holes {
			r.Add(lexis.String, to-1, to)
		} else {
			r.Add(lexis.String, from, to)
		}
		return to
	}
	for i < end {
		c := r.Src[i]
		switch {
		case c == '\\' && !raw:
			i += 2
		case c == '"' && !raw:
			return close(i + 1)
		case c == '"' && r.Src[i+1] == '"' && r.Src[i+2] == '"':
			i += 3
			for r.Src[i] == '"' {
				i++
			}
			return close(i)
		case c == '\n' && !raw:
			r.Note(from, "string without its closing quote")
			return close(i)
		case c == '$' && r.Src[i+1] == '{' && within < 100:
			if !holes {
				r.Add(lexis.String, from, from+1)
				holes = true
			}
			r.Add('(', i, i+2)
			i = r.tokens(i+2, end, within+1)
			r.Add(')', min(i, end), min(i+1, end))
			i++
		case c == '$' && lexis.NameChar[r.Src[i+1]] && !lexis.Digit(r.Src[i+1]):
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
	return close(end)
}
