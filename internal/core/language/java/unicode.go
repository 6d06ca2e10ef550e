package java

import (
	"bytes"
	"unicode/utf16"
	"unicode/utf8"
)

// plainEscapes reports whether the unicode escapes of a text (JLS 17 §3.3)
// leave its tokens as they are: none stands for an ASCII character, which
// could be a quote, a line end or the end of a comment. Such escapes can stay
// as they are in literals and comments; in names they cannot, and the scanner
// finds those (see scanner.escaped).
func plainEscapes(src []byte) bool {
	for i := 0; ; {
		n := bytes.IndexByte(src[i:], '\\')
		if n < 0 || i+n+1 >= len(src) {
			return true
		}
		i += n
		if src[i+1] != 'u' {
			i += 2 // an escaped backslash or any other escape: what follows is not one's start
			continue
		}
		r, size := escapedRune(src[i:])
		if size == 0 {
			i += 2
			continue
		}
		if r < utf8.RuneSelf {
			return false
		}
		i += size
	}
}

// translate replaces unicode escapes (JLS 17 §3.3: a backslash that an even
// number of backslashes precedes, one or more u, four hexadecimal digits) and
// returns the text to scan with what is missing from it, for the columns. An
// escaped line terminator becomes a space: the line that a reader of the file
// sees does not end there.
func translate(src []byte) ([]byte, []escape) {
	out := make([]byte, 0, len(src)+padding)
	var escapes []escape
	last := 0
	for i := 0; i+1 < len(src); i++ {
		if src[i] != '\\' {
			continue
		}
		if src[i+1] != 'u' {
			i++
			continue
		}
		r, n := escapedRune(src[i:])
		if n == 0 {
			continue
		}
		if utf16.IsSurrogate(r) {
			low, m := escapedRune(src[i+n:])
			if full := utf16.DecodeRune(r, low); m > 0 && full != utf8.RuneError {
				r, n = full, n+m
			} else {
				r = 'x' // half a character: only ever inside a literal
			}
		}
		if r == '\n' || r == '\r' {
			r = ' '
		}
		out = append(out, src[last:i]...)
		escapes = append(escapes, escape{len(out), n - 1})
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
