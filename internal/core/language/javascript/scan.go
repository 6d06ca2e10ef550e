package javascript

import (
	"bytes"

	"moatline/internal/core/language/lexis"
)

// Tokens of JavaScript beside the common ones.
const (
	tArrow    lexis.Kind = lexis.Own + iota // =>
	tDots                                   // ...
	tOptional                               // ?.
	tRegex
	tOperator // ++, == and the like
	tElement  // the "<" of a JSX element
)

// deepest is how far templates and elements may nest before their code is
// passed over.
const deepest = 300

// scan cuts code between two offsets into tokens (ECMAScript 2025, clause 12,
// and the JSX specification). Whether "/" begins a regular expression, and "<"
// an element, is told by the token before.
func (r *Reader) scan(i, end int) {
	r.objects = r.objects[:0]
	r.code(i, end, 0)
}

// code scans up to end or, inside a template or an element, to the "}" that
// closes the hole, and returns its offset.
func (r *Reader) code(i, end, within int) int {
	src := r.Src
	base := len(r.objects)
	first := len(r.Tokens)
	for i < end {
		c := src[i]
		switch {
		case c <= ' ':
			i++
		case c == '/' && src[i+1] == '/':
			r.directive(i, min(r.LineEnd(i), end))
			i = min(r.LineEnd(i), end)
		case c == '/' && src[i+1] == '*':
			stop := r.Find(i+2, "*/")
			if stop < 0 || stop >= end {
				r.Note(i, "comment without its end")
				return end
			}
			i = stop + 2
		case c == '"' || c == '\'':
			i = r.quoted(i, end)
		case c == '`':
			i = r.template(i, end, within)
		case lexis.Digit(c) || c == '.' && lexis.Digit(src[i+1]):
			j := r.NumberEnd(i)
			if src[j] == '.' && !nameStart(src[j+1]) && src[j+1] != '.' {
				j++
			}
			r.Add(lexis.Number, i, j)
			i = j
		case nameStart(c) || c == '#' && nameStart(src[i+1]) || c == '\\' && src[i+1] == 'u':
			j := i + 1
			for nameChar[src[j]] || src[j] == '\\' && src[j+1] == 'u' {
				j++
			}
			r.Add(lexis.Name, i, j)
			i = j
		case c == '{':
			r.objects = append(r.objects, r.operand(first) && !r.afterArrow())
			r.Add(c, i, i+1)
			i++
		case c == '}':
			if len(r.objects) > base {
				r.object = r.objects[len(r.objects)-1]
				r.objects = r.objects[:len(r.objects)-1]
			} else if within > 0 {
				return i
			}
			r.Add(c, i, i+1)
			i++
		case c == '/' && r.operand(first):
			i = r.regex(i, end)
		case c == '<' && r.jsx && r.operand(first) && r.elementStart(i):
			i = r.element(i, end, within)
		case c == '=' && src[i+1] == '>':
			r.Add(tArrow, i, i+2)
			i += 2
		case c == '.' && src[i+1] == '.' && src[i+2] == '.':
			r.Add(tDots, i, i+3)
			i += 3
		case c == '?' && src[i+1] == '.' && !lexis.Digit(src[i+2]):
			r.Add(tOptional, i, i+2)
			i += 2
		case (c == '+' || c == '-') && src[i+1] == c:
			r.Add(tOperator, i, i+2)
			i += 2
		case c == '=' && src[i+1] == '=' || c == '!' && src[i+1] == '=' || (c == '<' || c == '>') && src[i+1] == '=':
			n := 2
			if src[i+2] == '=' {
				n = 3
			}
			r.Add('+', i, i+n)
			i += n
		default:
			r.Add(c, i, i+1)
			i++
		}
	}
	return end
}

func nameStart(c byte) bool { return nameChar[c] && !lexis.Digit(c) }

var nameChar = func() (t [256]bool) {
	t = lexis.NameChar
	t['$'] = true
	return t
}()

// operand reports whether an operand may begin here: a regular expression, an
// element, an object. first is the first token of this stretch of code.
func (r *Reader) operand(first int) bool {
	n := len(r.Tokens) - 1
	if n < first {
		return true
	}
	switch r.Tokens[n].Kind {
	case lexis.Number, lexis.String, tRegex, ']', tOperator:
		return false
	case ')':
		return r.afterCondition(n)
	case '}':
		return !r.object
	case lexis.Name:
		if n > first && (r.Tokens[n-1].Kind == '.' || r.Tokens[n-1].Kind == tOptional) {
			return false
		}
		switch string(r.Bytes(n)) {
		case "return", "typeof", "case", "in", "of", "delete", "void", "throw", "new", "instanceof", "else", "do", "yield", "await", "default", "extends":
			return true
		}
		return false
	}
	return true
}

func (r *Reader) afterArrow() bool {
	n := len(r.Tokens) - 1
	if n < 0 {
		return true
	}
	switch r.Tokens[n].Kind {
	case tArrow, ';', '{', '}', ')':
		return true
	case ':':
		return false
	case lexis.Name:
		return r.Is(n, "else") || r.Is(n, "do") || r.Is(n, "extends")
	}
	return false
}

// afterCondition reports whether the ")" at token n closes the condition of a
// statement, behind which an operand may begin.
func (r *Reader) afterCondition(n int) bool {
	depth := 0
	const far = 4000 // conditions are short
	for k := n; k >= 0 && n-k < far; k-- {
		switch r.Tokens[k].Kind {
		case ')':
			depth++
		case '(':
			if depth--; depth == 0 {
				switch string(r.Bytes(k - 1)) {
				case "if", "while", "for", "with":
					return r.At(k-2) != '.'
				}
				return false
			}
		}
	}
	return false
}

func (r *Reader) quoted(i, end int) int {
	j := i + 1
	for j < end && r.Src[j] != r.Src[i] && r.Src[j] != '\n' {
		if r.Src[j] == '\\' {
			if r.Src[j+1] == '\r' {
				j++
			}
			j++
		}
		j++
	}
	if j >= end || r.Src[j] == '\n' {
		r.Note(i, "string without its closing quote")
		j = min(j, end)
		r.Add(lexis.String, i, j)
		return j
	}
	r.Add(lexis.String, i, j+1)
	return j + 1
}

// template scans a template literal (clause 12.9.6); the code of its holes
// stands between brackets.
func (r *Reader) template(i, end, within int) int {
	from := i
	holes := false
	for i++; i < end; i++ {
		switch r.Src[i] {
		case '\\':
			i++
		case '`':
			if holes {
				r.Add(lexis.String, i, i+1)
			} else {
				r.Add(lexis.String, from, i+1)
			}
			return i + 1
		case '$':
			if r.Src[i+1] != '{' || within > deepest {
				continue
			}
			if !holes {
				r.Add(lexis.String, from, from+1)
				holes = true
			}
			r.Add('(', i, i+2)
			i = r.code(i+2, end, within+1)
			r.Add(')', min(i, end), min(i+1, end))
		}
	}
	r.Note(from, "template without its end")
	if !holes {
		r.Add(lexis.String, from, end)
	}
	return end
}

// regex scans a regular-expression literal (clause 12.9.5). Where none ends on
// this line it is a division after all.
func (r *Reader) regex(i, end int) int {
	class := false
	for j := i + 1; j < end; j++ {
		switch r.Src[j] {
		case '\n':
			r.Add('/', i, i+1)
			return i + 1
		case '\\':
			j++
		case '[':
			class = true
		case ']':
			class = false
		case '/':
			if class {
				continue
			}
			for j++; nameChar[r.Src[j]]; j++ {
			}
			r.Add(tRegex, i, j)
			return j
		}
	}
	r.Add('/', i, i+1)
	return i + 1
}

// elementStart tells an element from type parameters, which in .tsx files are
// written with a comma or a bound.
func (r *Reader) elementStart(i int) bool {
	src := r.Src
	j := i + 1
	if src[j] == '>' {
		return true
	}
	if !nameStart(src[j]) {
		return false
	}
	for nameChar[src[j]] || src[j] == '-' || src[j] == '.' || src[j] == ':' {
		j++
	}
	for src[j] == ' ' || src[j] == '\n' || src[j] == '\r' || src[j] == '\t' {
		j++
	}
	if src[j] == ',' || src[j] == '=' && !nameChar[src[j-1]] && src[j-1] != ' ' {
		return false
	}
	return !(bytes.HasPrefix(src[j:], []byte("extends")) && !nameChar[src[j+7]] && src[j+7] != '=' && src[j+7] != '/' && src[j+7] != '>')
}

// element scans a JSX element that begins at i and returns the offset behind
// it. Its name and the code in it become tokens.
func (r *Reader) element(i, end, within int) int {
	if within > deepest {
		r.Add('<', i, i+1)
		return i + 1
	}
	src := r.Src
	depth := 0
	for i < end {
		// At a tag.
		if src[i+1] == '/' {
			j := bytes.IndexByte(src[i:end], '>')
			if j < 0 {
				return end
			}
			i += j + 1
			depth--
		} else {
			var closed bool
			i, closed = r.tag(i, end, within)
			if !closed {
				depth++
			}
		}
		if depth <= 0 {
			break
		}
		// Children: text, code, elements.
	children:
		for i < end {
			switch src[i] {
			case '<':
				break children
			case '{':
				r.Add('(', i, i+1)
				i = r.code(i+1, end, within+1)
				r.Add(')', min(i, end), min(i+1, end))
			}
			i++
		}
	}
	r.Add(lexis.String, min(i, end), min(i, end)) // an operand stands here
	return i
}

// tag scans an opening tag at i; closed tells that it has no children.
func (r *Reader) tag(i, end, within int) (stop int, closed bool) {
	src := r.Src
	r.Add(tElement, i, i+1)
	i++
	if nameStart(src[i]) {
		j := i
		for nameChar[src[j]] || src[j] == '-' || src[j] == ':' {
			j++
		}
		if c := src[i]; c >= 'A' && c <= 'Z' || c == '_' || c == '$' || src[j] == '.' {
			r.Add(lexis.Name, i, j)
			for src[j] == '.' {
				r.Add('.', j, j+1)
				k := j + 1
				for nameChar[src[k]] {
					k++
				}
				r.Add(lexis.Name, j+1, k)
				j = k
			}
		}
		i = j
	}
	for i < end {
		switch src[i] {
		case '>':
			return i + 1, false
		case '/':
			if src[i+1] == '>' {
				return i + 2, true
			}
			if src[i+1] == '/' {
				i = r.LineEnd(i)
			} else if src[i+1] == '*' {
				if n := r.Find(i, "*/"); n >= 0 {
					i = n + 1
				}
			}
		case '"', '\'':
			n := bytes.IndexByte(src[i+1:end], src[i])
			if n < 0 {
				return end, true
			}
			i += n + 1
		case '{':
			r.Add('(', i, i+1)
			i = r.code(i+1, end, within+1)
			r.Add(')', min(i, end), min(i+1, end))
		case '<':
			if n := bytes.IndexByte(src[i:end], '>'); n >= 0 && src[i-1] != '=' {
				i += n // type arguments
			} else if src[i-1] == '=' {
				i = r.element(i, end, within+1) - 1
			}
		}
		i++
	}
	return end, true
}

// directive reads the comment /// <reference path="…" /> (TypeScript handbook,
// "Triple-Slash Directives").
func (r *Reader) directive(i, end int) {
	if end-i < 15 || r.Src[i+2] != '/' {
		return
	}
	line := r.Src[i:end]
	if !bytes.Contains(line, []byte("<reference")) {
		return
	}
	for _, key := range []string{"path", "types"} {
		n := bytes.Index(line, []byte(key+"="))
		if n < 0 || n+len(key)+2 >= len(line) {
			continue
		}
		q := line[n+len(key)+1]
		rest := line[n+len(key)+2:]
		if m := bytes.IndexByte(rest, q); m >= 0 && (q == '"' || q == '\'') {
			r.references = append(r.references, reference{string(rest[:m]), key == "types", i + n + len(key) + 2})
		}
	}
}
