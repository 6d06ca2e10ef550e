package php

import (
	"path"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// include reads an include or require expression at token i. What it pulls in
// is an import where its path folds to a constant; the constants of the
// program that take part stand in it as {NAME}.
func (r *Reader) include(i int) {
	at := i + 1
	if p := r.folded(at, ';'); p != "" {
		k := at
		for r.At(k) == '(' {
			k++
		}
		r.b.Import(fact.Import{Name: p, Kind: fact.ImportInclude, Used: true, Within: r.space + 1, At: r.Where(k)})
	}
}

// folded returns the text that the expression at token i is, or "" where it is
// not constant: strings, __DIR__, dirname(…), constants, joined by "." up to
// the closing token. Folders of the tree begin with "/".
func (r *Reader) folded(i int, close lexis.Kind) string {
	s, k, ok := r.fold(i, 0)
	if !ok {
		return ""
	}
	switch r.At(k) {
	case close, ';', tBreak, ')', ',', lexis.EOF:
		return s
	}
	if r.At(k) == lexis.Name { // "or die()"
		return s
	}
	return ""
}

func (r *Reader) fold(i, depth int) (s string, k int, ok bool) {
	if depth > 20 {
		return "", i, false
	}
	for {
		var part string
		part, i, ok = r.foldOne(i, depth)
		if !ok {
			return "", i, false
		}
		s += part
		if len(s) > 2000 {
			return "", i, false
		}
		if r.At(i) != '.' {
			return s, i, true
		}
		i++
	}
}

func (r *Reader) foldOne(i, depth int) (string, int, bool) {
	switch r.At(i) {
	case '(':
		s, k, ok := r.fold(i+1, depth+1)
		if !ok || r.At(k) != ')' {
			return "", i, false
		}
		return s, k + 1, true
	case lexis.String:
		b := r.Bytes(i)
		if len(b) < 2 || b[0] != '\'' && b[0] != '"' || b[len(b)-1] != b[0] {
			return "", i, false
		}
		s := string(b[1 : len(b)-1])
		if strings.ContainsAny(s, "${}") {
			return "", i, false
		}
		return strings.ReplaceAll(s, `\\`, `\`), i + 1, true
	case lexis.Name:
		next := r.At(i + 1)
		switch string(r.low(r.Bytes(i))) {
		case "__dir__":
			return r.folder, i + 1, true
		case "__file__":
			return "/" + r.path, i + 1, true
		case "directory_separator", `\directory_separator`:
			return "/", i + 1, true
		case "dirname", `\dirname`:
			if next != '(' {
				return "", i, false
			}
			s, k, ok := r.fold(i+2, depth+1)
			if !ok {
				return "", i, false
			}
			up := 1
			if r.At(k) == ',' && r.At(k+1) == lexis.Number && len(r.Bytes(k+1)) == 1 {
				up = int(r.Bytes(k + 1)[0] - '0')
				k += 2
			}
			if r.At(k) != ')' {
				return "", i, false
			}
			for range up {
				if strings.HasPrefix(s, "{") && !strings.Contains(s, "/") {
					s += "/.."
				} else {
					s = path.Dir(strings.TrimSuffix(s, "/"))
				}
			}
			return s, k + 1, true
		case "realpath", `\realpath`:
			if next != '(' {
				return "", i, false
			}
			s, k, ok := r.fold(i+2, depth+1)
			if !ok || r.At(k) != ')' {
				return "", i, false
			}
			return s, k + 1, true
		}
		if next == '(' || next == tDouble || r.keyword(i) {
			return "", i, false
		}
		return "{" + strings.TrimPrefix(string(r.Bytes(i)), `\`) + "}", i + 1, true
	}
	return "", i, false
}

// readDocs reads the documentation comments: a marker written as "@Name" whose
// first part an import brings in, as mapping libraries read them, and which
// imports only the comments use.
func (r *Reader) readDocs() {
	if r.b.NumImports() == 0 {
		return
	}
	for _, d := range r.docs {
		stop := int(d.stop)
		for i := int(d.start); i < stop; i++ {
			if !lexis.NameChar[r.Src[i]] || lexis.NameChar[r.Src[i-1]] || r.Src[i-1] == '$' {
				continue
			}
			j := i
			for j < stop && (lexis.NameChar[r.Src[j]] || r.Src[j] == '\\' && lexis.NameChar[r.Src[j+1]]) {
				j++
			}
			name := r.Src[i:j]
			head := name
			if n := strings.IndexByte(string(name), '\\'); n >= 0 {
				head = name[:n]
			}
			if n, ok := r.aliases[string(r.low(head))]; ok {
				r.b.MarkUsed(n)
				if r.Src[i-1] == '@' && name[0] >= 'A' && name[0] <= 'Z' {
					r.b.Use(name, fact.Use{Scope: r.space, Local: -1, How: fact.HowMarker}, r.Place(i))
				}
			}
			i = j
		}
	}
}
