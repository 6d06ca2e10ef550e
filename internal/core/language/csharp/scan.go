package csharp

import (
	"bytes"

	"moatline/internal/core/language/lexis"
)

// Tokens of C# beside the common ones.
const (
	tArrow    lexis.Kind = lexis.Own + iota // =>
	tColons                                 // ::
	tOperator                               // == and the like: an operand follows
	tStep                                   // ++ and --
	tCoalesce                               // ??
)

// branch is an open #if: how deep braces were before it and after the branch
// that came first.
type branch struct{ before, after int }

// scan cuts a C# file into tokens (C# language specification, clause 6).
// Every branch of a conditional counts; where they open or close the same
// braces, those of the first count.
func (r *Reader) scan() {
	r.depth0, r.suppress = 0, 0
	r.branches = r.branches[:0]
	r.tokens(0, r.End, 0)
}

func (r *Reader) tokens(i, end, within int) {
	src := r.Src
	for i < end {
		c := src[i]
		switch {
		case c <= ' ':
			i++
		case c == '/' && src[i+1] == '/':
			i = min(r.LineEnd(i), end)
		case c == '/' && src[i+1] == '*':
			stop := r.Find(i+2, "*/")
			if stop < 0 || stop >= end {
				r.Note(i, "comment without its end")
				return
			}
			i = stop + 2
		case c == '#' && within == 0:
			stop := r.LineEnd(i)
			r.directive(i+1, stop)
			i = stop
		case lexis.Digit(c) || c == '.' && lexis.Digit(src[i+1]):
			j := r.NumberEnd(i)
			r.Add(lexis.Number, i, j)
			i = j
		case lexis.NameChar[c]:
			j := r.NameEnd(i)
			r.AddWord(i, j, words.Of(src[i:j]))
			i = j
		case c == '@' && lexis.NameChar[src[i+1]]:
			j := r.NameEnd(i + 1)
			r.Add(lexis.Name, i+1, j)
			r.verbatim[int32(len(r.Tokens)-1)] = true
			i = j
		case c == '"' || (c == '@' || c == '$') && r.stringStart(i):
			i = r.text(i, end, within)
		case c == '\'':
			j := i + 1
			for j < end && src[j] != '\'' && src[j] != '\n' {
				if src[j] == '\\' {
					j++
				}
				j++
			}
			if j < end && src[j] == '\'' {
				j++
			}
			j = min(j, end)
			r.Add(lexis.Number, i, j)
			i = j
		case c == '{':
			r.Add(c, i, i+1)
			r.depth0++
			i++
		case c == '}':
			if n := len(r.branches); r.suppress > 0 && n > 0 && r.depth0 <= r.branches[n-1].before {
				r.suppress--
			} else {
				r.Add(c, i, i+1)
			}
			r.depth0--
			i++
		default:
			kind, n := c, 1
			d := src[i+1]
			switch {
			case c == ':' && d == ':':
				kind, n = tColons, 2
			case c == '=' && d == '>':
				kind, n = tArrow, 2
			case c == '-' && d == '>':
				kind, n = '.', 2
			case c == '?' && d == '.':
				if !lexis.Digit(src[i+2]) {
					kind, n = '.', 2
				}
			case c == '?' && d == '?':
				kind, n = tCoalesce, 2
			case c == '+' && d == '+' || c == '-' && d == '-':
				kind, n = tStep, 2
			case d == '=' && bytes.IndexByte([]byte("=!<+-*/%&|^"), c) >= 0, c == '>' && d == '=' && src[i+2] != '>',
				c == '&' && d == '&', c == '|' && d == '|', c == '<' && d == '<':
				kind, n = tOperator, 2
			}
			r.Add(kind, i, i+n)
			i += n
		}
	}
}

// stringStart reports whether a string literal begins at i, where "@" or "$" is.
func (r *Reader) stringStart(i int) bool {
	for r.Src[i] == '@' || r.Src[i] == '$' {
		i++
	}
	return r.Src[i] == '"'
}

// directive reads a preprocessing directive behind its "#" (clause 6.5).
func (r *Reader) directive(i, stop int) {
	word := bytes.TrimLeft(r.Src[i:stop], " \t")
	switch {
	case bytes.HasPrefix(word, []byte("if")):
		r.branches = append(r.branches, branch{r.depth0, r.depth0})
	case bytes.HasPrefix(word, []byte("el")):
		n := len(r.branches)
		if n == 0 {
			return
		}
		b := &r.branches[n-1]
		if r.depth0 != b.before {
			b.after = r.depth0
		}
		for ; r.depth0 > b.before; r.depth0-- {
			r.Add('}', i, i)
		}
		r.suppress = max(0, b.before-b.after)
		r.depth0 = b.before
	case bytes.HasPrefix(word, []byte("endif")):
		n := len(r.branches)
		if n == 0 {
			return
		}
		b := r.branches[n-1]
		if r.depth0 == b.before && b.after < b.before {
			r.depth0 = b.after
		}
		r.branches = r.branches[:n-1]
		r.suppress = 0
	}
}

// text scans a string literal that begins at i: regular, verbatim, raw, with
// or without code in it (clauses 6.4.5.6 and 12.8.3; "Raw string literals").
func (r *Reader) text(i, end, within int) int {
	src := r.Src
	from := i
	dollars, verbatim := 0, false
	for ; src[i] == '@' || src[i] == '$'; i++ {
		if src[i] == '$' {
			dollars++
		} else {
			verbatim = true
		}
	}
	quotes := 0
	for src[i+quotes] == '"' && quotes < end-i {
		quotes++
	}
	if quotes >= 3 && !verbatim {
		return r.raw(from, i, end, quotes, dollars, within)
	}
	holes := false
	for i++; i < end; i++ {
		switch c := src[i]; {
		case c == '\\' && !verbatim:
			i++
		case c == '"' && verbatim && src[i+1] == '"':
			i++
		case c == '"':
			if holes {
				r.Add(lexis.String, i, i+1)
			} else {
				r.Add(lexis.String, from, i+1)
			}
			return i + 1
		case c == '\n' && !verbatim && dollars == 0:
			r.Note(from, "string without its closing quote")
			r.Add(lexis.String, from, i)
			return i
		case c == '\n' && !verbatim && !holes:
			r.Note(from, "string without its closing quote")
			r.Add(lexis.String, from, i)
			return i
		case c == '{' && dollars > 0:
			if src[i+1] == '{' {
				i++
				continue
			}
			i = r.hole(from, i, end, 1, within, &holes)
		}
	}
	r.Note(from, "string without its closing quote")
	r.Add(lexis.String, from, min(i, end))
	return min(i, end)
}

// hole scans the code of an interpolation that opens at i with n braces, and
// returns the offset of its last closing brace.
func (r *Reader) hole(from, i, end, n, within int, holes *bool) int {
	stop := r.holeEnd(i+n, end)
	if stop < 0 || within > 20 {
		return i
	}
	if !*holes {
		r.Add(lexis.String, from, from+1)
		*holes = true
	}
	r.Add('(', i, i+n)
	r.tokens(i+n, stop, within+1)
	r.Add(')', stop, stop+1)
	return stop + n - 1
}

// holeEnd returns the offset of the brace that ends the hole at i, or -1.
func (r *Reader) holeEnd(i, end int) int {
	depth := 0
	src := r.Src
	for j := i; j < end; j++ {
		switch c := src[j]; c {
		case '{', '(', '[':
			depth++
		case ')', ']':
			depth--
		case '}':
			if depth <= 0 {
				return j
			}
			depth--
		case '"':
			verbatim := j > i && src[j-1] == '@'
			for j++; j < end && src[j] != '"'; j++ {
				if src[j] == '\\' && !verbatim {
					j++
				}
			}
		case '\'':
			if src[j+1] == '\\' {
				j += 3
			} else if src[j+2] == '\'' {
				j += 2
			}
		case ':':
			if depth == 0 && src[j+1] != ':' && src[j-1] != ':' { // a format follows
				k := bytes.IndexByte(src[j:end], '}')
				if k < 0 {
					return -1
				}
				return j + k
			}
		}
	}
	return -1
}

// raw scans a raw string literal whose quotes begin at i.
func (r *Reader) raw(from, i, end, quotes, dollars, within int) int {
	src := r.Src
	holes := false
	for j := i + quotes; j < end; j++ {
		switch src[j] {
		case '"':
			n := 0
			for src[j+n] == '"' {
				n++
			}
			if n >= quotes {
				if holes {
					r.Add(lexis.String, j, j+n)
				} else {
					r.Add(lexis.String, from, j+n)
				}
				return j + n
			}
			j += n - 1
		case '{':
			n := 0
			for src[j+n] == '{' {
				n++
			}
			if dollars > 0 && n >= dollars {
				j = r.hole(from, j+n-dollars, end, dollars, within, &holes)
			} else {
				j += n - 1
			}
		}
	}
	r.Note(from, "raw string without its closing quotes")
	r.Add(lexis.String, from, end)
	return end
}
