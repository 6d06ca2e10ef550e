package php

import (
	"bytes"

	"moatline/internal/core/language/lexis"
)

// Tokens of PHP beside the common ones.
const (
	tVariable lexis.Kind = lexis.Own + iota // $name
	tArrow                                  // -> and ?->
	tDouble                                 // ::
	tFat                                    // =>
	tDots                                   // ...
	tAttr                                   // #[
	tBreak                                  // ?> or <?: one piece of code ends, another begins
)

// scan cuts a PHP file into tokens (PHP language specification, lexical
// structure). Text outside <?php … ?> is passed over.
func (r *Reader) scan() {
	i := r.html(0)
	r.code0(i, r.End, 0)
}

// html returns the offset behind the next opening tag at or behind i.
func (r *Reader) html(i int) int {
	for {
		n := r.Find(i, "<?")
		if n < 0 {
			return r.End
		}
		rest := r.Src[n+2:]
		switch {
		case lexis.EqualFold(rest[:3], "php") && !lexis.NameChar[rest[3]]:
			return n + 5
		case rest[0] == '=':
			return n + 3
		case rest[0] == ' ' || rest[0] == '\n' || rest[0] == '\t' || rest[0] == '\r':
			return n + 2
		}
		i = n + 2 // <?xml and the like
	}
}

// code0 scans code from i up to end; within is how deep in strings it lies.
func (r *Reader) code0(i, end, within int) {
	src := r.Src
	for i < end {
		c := src[i]
		switch {
		case c <= ' ':
			i++
		case c == '$' && (lexis.NameChar[src[i+1]] && !lexis.Digit(src[i+1])):
			j := r.NameEnd(i + 1)
			r.Add(tVariable, i, j)
			i = j
		case lexis.Digit(c) || c == '.' && lexis.Digit(src[i+1]):
			j := r.NumberEnd(i)
			r.Add(lexis.Number, i, j)
			i = j
		case lexis.NameChar[c] || c == '\\' && lexis.NameChar[src[i+1]]:
			j := i
			if c == '\\' {
				j++
			}
			for {
				j = r.NameEnd(j)
				if src[j] == '\\' && lexis.NameChar[src[j+1]] {
					j++
					continue
				}
				break
			}
			r.Add(lexis.Name, i, j)
			if j-i == 15 && lexis.EqualFold(src[i:j], "__halt_compiler") {
				return
			}
			i = j
		case c == '#' && src[i+1] == '[':
			r.Add(tAttr, i, i+1)
			r.Add('[', i+1, i+2)
			i += 2
		case c == '#' || c == '/' && src[i+1] == '/':
			stop := min(r.LineEnd(i), end)
			if n := bytes.Index(src[i:stop], []byte("?>")); n >= 0 {
				stop = i + n
			}
			i = stop
		case c == '/' && src[i+1] == '*':
			stop := r.Find(i+2, "*/")
			if stop < 0 {
				r.Note(i, "comment without its end")
				return
			}
			if src[i+2] == '*' {
				r.docs = append(r.docs, doc{int32(i), int32(stop), int32(len(r.Tokens))})
			}
			i = stop + 2
		case c == '?' && src[i+1] == '>':
			r.Add(tBreak, i, i+2)
			i = r.html(i + 2)
		case c == '\'':
			i = r.single(i, end)
		case c == '"' || c == '`':
			i = r.double(i+1, end, c, within)
		case c == '<' && src[i+1] == '<' && src[i+2] == '<':
			if j := r.heredoc(i, end, within); j > i {
				i = j
			} else {
				r.Add('<', i, i+1)
				i += 3
			}
		case c == ':' && src[i+1] == ':':
			r.Add(tDouble, i, i+2)
			i += 2
		case c == '-' && src[i+1] == '>':
			r.Add(tArrow, i, i+2)
			i += 2
		case c == '?' && src[i+1] == '-' && src[i+2] == '>':
			r.Add(tArrow, i, i+3)
			i += 3
		case c == '=' && src[i+1] == '>':
			r.Add(tFat, i, i+2)
			i += 2
		case c == '.' && src[i+1] == '.' && src[i+2] == '.':
			r.Add(tDots, i, i+3)
			i += 3
		case c == '=' && src[i+1] == '=':
			r.Add('<', i, i+2) // a comparison, no assignment
			i += 2
			if src[i] == '=' {
				i++
			}
		default:
			r.Add(c, i, i+1)
			i++
		}
	}
}

// single scans a string in single quotes.
func (r *Reader) single(i, end int) int {
	j := i + 1
	for j < end && r.Src[j] != '\'' {
		if r.Src[j] == '\\' {
			j++
		}
		j++
	}
	if j >= end {
		r.Note(i, "string without its closing quote")
		j = end - 1
	}
	r.Add(lexis.String, i, j+1)
	return j + 1
}

// double scans the content of a string in double quotes or backticks from i on
// and returns the offset behind its end. The code in {$…} and ${…} is scanned
// as such.
func (r *Reader) double(i, end int, quote byte, within int) int {
	from := i - 1
	holes := false
	for i < end {
		switch c := r.Src[i]; {
		case c == '\\':
			i += 2
		case c == quote:
			if holes {
				r.Add(lexis.String, i, i+1)
			} else {
				r.Add(lexis.String, from, i+1)
			}
			return i + 1
		case c == '{' && r.Src[i+1] == '$' || c == '$' && r.Src[i+1] == '{':
			if !holes {
				r.Add(lexis.String, from, from+1)
				holes = true
			}
			i = r.hole(i, end, within)
		default:
			i++
		}
	}
	r.Note(from, "string without its closing quote")
	r.Add(lexis.String, from, min(i, end))
	return end
}

// hole scans the code of an interpolation that opens at i.
func (r *Reader) hole(i, end, within int) int {
	open := i
	if r.Src[i] == '$' {
		open++
	}
	depth, j := 0, open
	for j < end {
		switch r.Src[j] {
		case '{':
			depth++
		case '}':
			depth--
		case '\'', '"':
			quote := r.Src[j]
			for j++; j < end && r.Src[j] != quote; j++ {
				if r.Src[j] == '\\' {
					j++
				}
			}
		}
		j++
		if depth == 0 {
			break
		}
	}
	j = min(j, end)
	if within < 20 {
		r.Add('(', open, open+1)
		from := open + 1
		if open > i { // ${name}: a variable
			from = min(r.NameEnd(from), j-1)
		}
		r.code0(from, j-1, within+1)
		r.Add(')', j-1, j)
	}
	return j
}

// heredoc scans a here-document or now-document that begins at i; it returns i
// where none does.
func (r *Reader) heredoc(i, end, within int) int {
	src := r.Src
	j := i + 3
	for src[j] == ' ' || src[j] == '\t' {
		j++
	}
	quote := byte(0)
	if src[j] == '\'' || src[j] == '"' {
		quote = src[j]
		j++
	}
	k := r.NameEnd(j)
	if k == j || lexis.Digit(src[j]) {
		return i
	}
	label := src[j:k]
	if quote != 0 {
		if src[k] != quote {
			return i
		}
		k++
	}
	if src[k] == '\r' {
		k++
	}
	if src[k] != '\n' {
		return i
	}
	// The label at the start of a line, behind white space, ends it.
	body := k + 1
	for line := body; line < end; line = r.LineEnd(line) + 1 {
		p := line
		for src[p] == ' ' || src[p] == '\t' {
			p++
		}
		if bytes.HasPrefix(src[p:end], label) && !lexis.NameChar[src[p+len(label)]] {
			if quote != '\'' {
				r.Add(lexis.String, i, body)
				for at := body; at < line; {
					if c := src[at]; c == '\\' {
						at++
					} else if c == '{' && src[at+1] == '$' || c == '$' && src[at+1] == '{' {
						at = r.hole(at, line, within)
						continue
					}
					at++
				}
			}
			r.Add(lexis.String, p, p+len(label))
			return p + len(label)
		}
	}
	r.Note(i, "here-document without its end")
	r.Add(lexis.String, i, end)
	return end
}
