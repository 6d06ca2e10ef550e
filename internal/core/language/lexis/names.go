package lexis

// FullName reports whether the content of a string literal may be the full
// name of a type: two or more names with one kind of separator between them,
// and nothing else. The separators are those of the languages: "." and "\",
// the latter also written twice.
func FullName(b []byte) bool {
	if len(b) < 3 || len(b) > 300 {
		return false
	}
	if b[0] == '\\' {
		b = b[1:]
		if len(b) > 0 && b[0] == '\\' {
			b = b[1:]
		}
	}
	sep := byte(0)
	start := true
	for i := 0; i < len(b); i++ {
		c := b[i]
		switch {
		case c == '.' || c == '\\':
			if start || sep != 0 && c != sep {
				return false
			}
			if c == '\\' && i+1 < len(b) && b[i+1] == '\\' {
				i++
			}
			sep, start = c, true
		case start && Digit(c):
			return false
		case NameChar[c] || c == '$' || c == '+' && !start:
			start = false
		default:
			return false
		}
	}
	return sep != 0 && !start
}
