package java

import (
	"bytes"
	"unicode/utf16"
	"unicode/utf8"
)

// translate replaces unicode escapes (JLS 17 §3.3: a backslash that an even
// number of backslashes precedes, one or more u, four hexadecimal digits) and
// returns the text to scan with what is missing from it, for the columns. An
// escaped line terminator becomes a space: the line that a reader of the file
// sees does not end there.
func translate(src []byte) ([]byte, []escape) {
	if !bytes.Contains(src, []byte(`\u`)) {
		return src, nil
	}
	at := bytes.IndexByte(src, '\\')
	out := make([]byte, 0, len(src)+padding)
	var escapes []escape
	last := 0
	for i := at; i < len(src); i++ {
		if src[i] != '\\' {
			n := bytes.IndexByte(src[i:], '\\')
			if n < 0 {
				break
			}
			i += n
		}
		if i+1 >= len(src) {
			break
		}
		if src[i+1] != 'u' {
			i++ // an escaped backslash or any other escape: the next character is not one's start
			continue
		}
		r, n := escapedRune(src[i:])
		if n == 0 {
			continue
		}
		chars := n
		if utf16.IsSurrogate(r) {
			low, m := escapedRune(src[i+n:])
			if full := utf16.DecodeRune(r, low); m > 0 && full != utf8.RuneError {
				r, n, chars = full, n+m, n+m
			} else {
				r = 'x' // half a character: only ever inside a literal
			}
		}
		if r == '\n' || r == '\r' {
			r = ' '
		}
		out = append(out, src[last:i]...)
		escapes = append(escapes, escape{len(out), chars - 1})
		out = utf8.AppendRune(out, r)
		i += n - 1
		last = i + 1
	}
	return append(out, src[last:]...), escapes
}

// escapedRune decodes the escape at the start of b; n is 0 where there is none.
func escapedRune(b []byte) (r rune, n int) {
	if len(b) < 6 || b[0] != '\\' || b[1] != 'u' {
		return 0, 0
	}
	n = 2
	for n < len(b) && b[n] == 'u' {
		n++
	}
	if n+4 > len(b) {
		return 0, 0
	}
	for _, c := range b[n : n+4] {
		switch {
		case c >= '0' && c <= '9':
			r = r<<4 | rune(c-'0')
		case c >= 'a' && c <= 'f':
			r = r<<4 | rune(c-'a'+10)
		case c >= 'A' && c <= 'F':
			r = r<<4 | rune(c-'A'+10)
		default:
			return 0, 0
		}
	}
	return r, n + 4
}
