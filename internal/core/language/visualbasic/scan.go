package visualbasic

import (
	"bytes"

	"moatline/internal/core/language/lexis"
)

// Tokens of Visual Basic beside the common ones.
const (
	tEnd lexis.Kind = lexis.Own + iota // the end of a statement
	tOperator
)

// scan cuts a Visual Basic file into tokens (The Visual Basic Language
// Specification 11.0, chapter 2). Both branches of a conditional count.
func (r *Reader) scan() { r.code(0, r.End, 0) }

func (r *Reader) code(i, end, within int) {
	src := r.Src
	fresh := true // nothing of this line was seen yet
	for i < end {
		c := src[i]
		switch {
		case c == '\n':
			if !r.goesOn(i + 1) {
				r.finish(i)
			}
			fresh = true
			i++
			continue
		case c <= ' ':
			i++
			continue
		case c == '\'' || c == 0xE2 && bytes.HasPrefix(src[i:], []byte("\u2018")) || c == 0xE2 && bytes.HasPrefix(src[i:], []byte("\u2019")):
			i = min(r.LineEnd(i), end)
			continue
		case c == '_' && !lexis.NameChar[src[i+1]] && (i == 0 || !lexis.NameChar[src[i-1]]):
			// A line that ends in "_" goes on (2.1.2).
			j := i + 1
			for src[j] == ' ' || src[j] == '\t' || src[j] == '\r' {
				j++
			}
			if src[j] == '\'' { // a comment may follow
				j = min(r.LineEnd(j), end)
			}
			if src[j] == '\n' {
				i = j + 1
				continue
			}
			r.Add(lexis.Name, i, i+1)
			i++
		case c == '#' && fresh && within == 0 && !lexis.Digit(src[i+1]):
			i = min(r.LineEnd(i), end) // a directive
			continue
		case c == '#':
			if j := bytes.IndexByte(r.Ahead(i+1, 40, end), '#'); j >= 0 { // a date (2.4.6)
				r.Add(lexis.Number, i, i+j+2)
				i += j + 2
			} else {
				r.Add(tOperator, i, i+1)
				i++
			}
		case c == '"', c == '$' && src[i+1] == '"':
			i = r.text(i, end, within)
		case c == '&' && (src[i+1]|0x20 == 'h' || src[i+1]|0x20 == 'o' || src[i+1]|0x20 == 'b') && lexis.NameChar[src[i+2]]:
			j := r.NameEnd(i + 1)
			r.Add(lexis.Number, i, j)
			i = j
		case lexis.Digit(c) || c == '.' && lexis.Digit(src[i+1]):
			j := r.NumberEnd(i)
			r.Add(lexis.Number, i, j)
			i = j
		case c == '[' && lexis.NameChar[src[i+1]]: // a name that may be a keyword (2.2)
			j := r.NameEnd(i + 1)
			r.Add(lexis.Name, i+1, j)
			r.escaped[int32(len(r.Tokens)-1)] = true
			if src[j] == ']' {
				j++
			}
			i = j
		case lexis.NameChar[c]:
			j := r.NameEnd(i)
			if lexis.EqualFold(src[i:j], "rem") && r.statementStart() {
				i = min(r.LineEnd(i), end)
				continue
			}
			r.AddWord(i, j, r.wordOf(src[i:j]))
			// A type character (2.2.1).
			switch src[j] {
			case '$', '%', '@':
				j++
			case '!', '&', '#':
				if !lexis.NameChar[src[j+1]] && src[j+1] != '"' && src[j+1] != ' ' {
					j++
				}
			}
			i = j
		case c == ':' && src[i+1] != '=':
			r.finish(i)
			i++
		case c == '<' && r.xmlStart(i):
			i = r.xml(i, end, within)
		case c == '{' || c == '}' || c == '(' || c == ')' || c == ',' || c == '.' || c == '<' && src[i+1] != '=' && src[i+1] != '>' && src[i+1] != '<' || c == '>' && src[i+1] != '=' || c == '=' || c == '?' || c == '!':
			r.Add(c, i, i+1)
			i++
		default:
			n := 1
			if d := src[i+1]; d == '=' || (c == '<' || c == '>') && (d == '>' || d == '<') {
				n = 2
			}
			r.Add(tOperator, i, i+n)
			i += n
		}
		fresh = false
	}
	if within == 0 {
		r.finish(end)
	}
}

// wordOf returns the sets of words that a name is in, whatever its case.
func (r *Reader) wordOf(b []byte) uint16 {
	var low [16]byte
	if len(b) > len(low) {
		return 0
	}
	for i, c := range b {
		if c >= 'A' && c <= 'Z' {
			c += 'a' - 'A'
		}
		low[i] = c
	}
	return words[string(low[:len(b)])]
}

// finish ends a statement, if one has begun.
func (r *Reader) finish(i int) {
	if n := len(r.Tokens); n > 0 && r.Tokens[n-1].Kind != tEnd {
		r.Add(tEnd, i, i)
	}
}

func (r *Reader) statementStart() bool {
	n := len(r.Tokens)
	return n == 0 || r.Tokens[n-1].Kind == tEnd
}

// goesOn reports whether a statement goes on at the next line, offset i,
// without a sign of its own (2.1.2, implicit line continuation).
func (r *Reader) goesOn(i int) bool {
	n := len(r.Tokens) - 1
	if n < 0 {
		return false
	}
	switch r.Tokens[n].Kind {
	case ',', '(', '{', tOperator, '=', '.', '!':
		return true
	case '<':
		return true
	case '>':
		return r.attributeEnd(n)
	case lexis.Name:
		switch string(bytes.ToLower(r.Bytes(n))) {
		case "and", "andalso", "or", "orelse", "xor", "mod", "is", "isnot", "like", "of", "from", "in", "select", "where", "let", "aggregate", "join", "as", "with":
			if r.escaped[int32(n)] || n > 0 && r.Tokens[n-1].Kind == '.' {
				return false
			}
			return !lexis.EqualFold(r.Bytes(n), "with") || n > 0 && r.Tokens[n-1].Kind == lexis.Name && lexis.EqualFold(r.Bytes(n-1), "new")
		}
	}
	// A closing bracket or a member on the next line.
	for r.Src[i] == ' ' || r.Src[i] == '\t' || r.Src[i] == '\r' {
		i++
	}
	switch r.Src[i] {
	case ')', '}':
		return true
	case '.':
		return lexis.NameChar[r.Src[i+1]] && !r.inWith(n)
	}
	return false
}

// inWith is where ".Member" begins a statement of its own: a line before it
// that opens a block cannot go on.
func (r *Reader) inWith(n int) bool {
	for k := n; k >= 0 && r.Tokens[k].Kind != tEnd; k-- {
		if k == 0 || r.Tokens[k-1].Kind == tEnd {
			return lexis.EqualFold(r.Bytes(k), "with") || r.Tokens[k].Kind == '.'
		}
	}
	return false
}

// attributeEnd reports whether the ">" at token n closes an attribute block,
// behind which the declaration may stand on the next line.
func (r *Reader) attributeEnd(n int) bool {
	depth := 0
	for k := n; k >= 0 && r.Tokens[k].Kind != tEnd; k-- {
		switch r.Tokens[k].Kind {
		case '>':
			depth++
		case '<':
			if depth--; depth == 0 && (k == 0 || r.Tokens[k-1].Kind == tEnd || r.Tokens[k-1].Kind == '>') {
				return true
			}
		}
	}
	return false
}

// text scans a string or character literal, with or without code in it (2.4.4,
// 2.4.5).
func (r *Reader) text(i, end, within int) int {
	from := i
	formatted := r.Src[i] == '$'
	if formatted {
		i++
	}
	holes := false
	for i++; i < end; i++ {
		switch r.Src[i] {
		case '"':
			if r.Src[i+1] == '"' {
				i++
				continue
			}
			i++
			if r.Src[i]|0x20 == 'c' && !lexis.NameChar[r.Src[i+1]] {
				i++
			}
			if holes {
				r.Add(lexis.String, i-1, i)
			} else {
				r.Add(lexis.String, from, i)
			}
			return i
		case '\n':
			if !formatted {
				r.Note(from, "string without its closing quote")
				r.Add(lexis.String, from, i)
				return i
			}
		case '{':
			if !formatted || within > 20 {
				continue
			}
			if r.Src[i+1] == '{' {
				i++
				continue
			}
			stop := bytes.IndexByte(r.Src[i:min(i+4000, end)], '}')
			if stop < 0 {
				continue
			}
			if !holes {
				r.Add(lexis.String, from, from+1)
				holes = true
			}
			r.Add('(', i, i+1)
			// A format may follow.
			code := i + stop
			if n := bytes.IndexByte(r.Src[i:code], ':'); n > 0 && r.Src[i+n+1] != '=' && bytes.IndexByte(r.Src[i:i+n], '(') < 0 {
				code = i + n
			}
			r.code(i+1, code, within+1)
			r.Add(')', i+stop, i+stop+1)
			i += stop
		}
	}
	r.Note(from, "string without its closing quote")
	r.Add(lexis.String, from, end)
	return end
}

// xmlStart tells an XML literal (11.23) from a comparison and an attribute: an
// operand is expected, and a name or "!--" follows.
func (r *Reader) xmlStart(i int) bool {
	n := len(r.Tokens) - 1
	if n < 0 {
		return false
	}
	c := r.Src[i+1]
	if !(c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c == '!' || c == '?' && r.Src[i+2] == 'x') {
		return false
	}
	switch r.Tokens[n].Kind {
	case '=', tOperator:
		return true
	case '(', ',':
		// An attribute on a parameter has a name and a type behind it.
		ahead := r.Ahead(i, 2000, r.End)
		gt := bytes.IndexByte(ahead, '>')
		if gt < 0 {
			return true
		}
		rest := bytes.TrimLeft(ahead[gt+1:], " \t")
		for _, w := range []string{"byval ", "byref ", "optional ", "paramarray "} {
			if len(rest) > len(w) && lexis.EqualFold(rest[:len(w)], w) {
				return false
			}
		}
		return !bytes.Contains(bytes.ToLower(rest), []byte(" as "))
	case lexis.Name:
		return lexis.EqualFold(r.Bytes(n), "return") || lexis.EqualFold(r.Bytes(n), "in")
	}
	return false
}

// xml scans an XML literal; the code in its <%= … %> holes is scanned as such.
func (r *Reader) xml(i, end, within int) int {
	from := i
	depth := 0
	r.Add(lexis.String, i, i+1)
	for i < end {
		switch {
		case bytes.HasPrefix(r.Src[i:end], []byte("<%=")):
			stop := r.Find(i, "%>")
			if stop < 0 || stop >= end {
				return end
			}
			if within < 20 {
				r.Add('(', i, i+1)
				r.code(i+3, stop, within+1)
				r.Add(')', stop, stop+1)
			}
			i = stop + 2
			continue
		case bytes.HasPrefix(r.Src[i:end], []byte("<!--")):
			stop := r.Find(i, "-->")
			if stop < 0 {
				return end
			}
			i = stop + 3
		case bytes.HasPrefix(r.Src[i:end], []byte("<![CDATA[")):
			stop := r.Find(i, "]]>")
			if stop < 0 {
				return end
			}
			i = stop + 3
		case r.Src[i] == '<' && r.Src[i+1] == '?':
			stop := r.Find(i, "?>")
			if stop < 0 {
				return end
			}
			i = stop + 2
			for r.Src[i] == ' ' || r.Src[i] == '\n' || r.Src[i] == '\r' || r.Src[i] == '\t' {
				i++
			}
			continue
		case r.Src[i] == '<' && r.Src[i+1] == '/':
			n := bytes.IndexByte(r.Src[i:end], '>')
			if n < 0 {
				return end
			}
			i += n + 1
			depth--
		case r.Src[i] == '<':
			// A tag, whose attributes may hold code.
			depth++
			for i++; i < end && r.Src[i] != '>'; i++ {
				if r.Src[i] == '"' {
					n := bytes.IndexByte(r.Src[i+1:end], '"')
					if n < 0 {
						return end
					}
					i += n + 1
				} else if bytes.HasPrefix(r.Src[i:end], []byte("<%=")) {
					stop := r.Find(i, "%>")
					if stop < 0 || stop >= end {
						return end
					}
					if within < 20 {
						r.Add('(', i, i+1)
						r.code(i+3, stop, within+1)
						r.Add(')', stop, stop+1)
					}
					i = stop + 1
				}
			}
			if r.Src[i-1] == '/' {
				depth--
			}
			i++
		default:
			i++
		}
		if depth <= 0 {
			return i
		}
	}
	r.Note(from, "XML without its end")
	return end
}
