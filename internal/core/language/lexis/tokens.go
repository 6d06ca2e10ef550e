package lexis

import (
	"bytes"
	"strings"

	"moatline/internal/core/fact"
)

// Kind is the kind of a token. A punctuation character stands for itself.
type Kind = uint8

// The kinds of tokens that every language has. Those from 128 on are the
// languages' own.
const (
	EOF    Kind = 0
	Name   Kind = 1
	Number Kind = 2
	String Kind = 3 // one without code in it, or a piece of one that has
	Own    Kind = 128
)

// Token is one token of a text: Src[Start:Stop].
type Token struct {
	Start, Stop int32
	Word        uint16 // the sets of words that a name is in, as a language numbers them
	Kind        Kind
}

// Words tells which sets a word is in: one bit for each set.
type Words map[string]uint16

// Set adds a set of words, separated by white space, and returns its bit.
func (w Words) Set(words string) uint16 {
	bit := uint16(1)
	for _, b := range w {
		for bit <= b {
			bit <<= 1
		}
	}
	for _, word := range strings.Fields(words) {
		w[word] |= bit
	}
	return bit
}

// Stream is the tokens of a text and a place in them. The last token is EOF,
// and stands for all that would come behind it.
type Stream struct {
	Text
	Tokens []Token
	I      int     // the current token
	pair   []int32 // for each bracket, the one that it belongs to, or -1
	stack  []int32
	notes  func(at fact.Place, text string)
}

// Begin makes text the one that is cut into tokens; notes are told to note.
func (s *Stream) Begin(text []byte, note func(at fact.Place, text string)) {
	s.Reset(text)
	const keep = 1 << 20
	if cap(s.Tokens) > keep {
		s.Tokens, s.pair = nil, nil
	}
	s.Tokens = s.Tokens[:0]
	s.I = 0
	s.notes = note
}

// Add adds a token.
func (s *Stream) Add(kind Kind, start, stop int) {
	s.Tokens = append(s.Tokens, Token{Start: int32(start), Stop: int32(stop), Kind: kind})
}

// AddWord adds a name with the sets of words that it is in.
func (s *Stream) AddWord(start, stop int, word uint16) {
	s.Tokens = append(s.Tokens, Token{int32(start), int32(stop), word, Name})
}

// In reports whether token i is a name in one of the given sets of words.
func (s *Stream) In(i int, sets uint16) bool {
	return i >= 0 && i < len(s.Tokens) && s.Tokens[i].Word&sets != 0
}

// Of returns the sets that a word is in. Words of languages are short and begin
// with a small letter; nothing else is looked up.
func (w Words) Of(b []byte) uint16 {
	if len(b) > 14 || b[0] < 'a' || b[0] > 'z' {
		return 0
	}
	return w[string(b)]
}

// Note tells of damage at an offset.
func (s *Stream) Note(at int, text string) { s.notes(s.Place(min(at, s.End)), text) }

// NestedComment returns the offset behind the "/*" comment at i, in languages
// where these nest.
func (s *Stream) NestedComment(i, end int) int {
	depth := 0
	for j := i; j < end-1; j++ {
		switch {
		case s.Src[j] == '/' && s.Src[j+1] == '*':
			depth++
			j++
		case s.Src[j] == '*' && s.Src[j+1] == '/':
			depth--
			j++
			if depth == 0 {
				return j + 1
			}
		}
	}
	s.Note(i, "comment without its end")
	return end
}

// Close adds the last token and finds the brackets that belong together. A
// closing bracket without its own opening one belongs to none; where an outer
// bracket closes, those left open inside it end there too.
func (s *Stream) Close() {
	s.Add(EOF, s.End, s.End)
	n := len(s.Tokens)
	if cap(s.pair) < n {
		s.pair = make([]int32, n+n/4)
	}
	s.pair = s.pair[:n]
	s.stack = s.stack[:0]
	var open [3]int // how many of each sort are open: round, square, curly
	for i := range s.Tokens {
		s.pair[i] = -1
		sort := 0
		switch s.Tokens[i].Kind {
		case '[', ']':
			sort = 1
		case '{', '}':
			sort = 2
		case '(', ')':
		default:
			continue
		}
		switch s.Tokens[i].Kind {
		case '(', '[', '{':
			s.stack = append(s.stack, int32(i))
			open[sort]++
		default:
			if open[sort] == 0 {
				continue // closes nothing
			}
			want := s.Tokens[i].Kind
			for len(s.stack) > 0 {
				top := s.stack[len(s.stack)-1]
				k := s.Tokens[top].Kind
				closes := k == '(' && want == ')' || k == '[' && want == ']' || k == '{' && want == '}'
				if !closes && k == '{' && want != '}' {
					break // a stray ")" does not end a block
				}
				s.stack = s.stack[:len(s.stack)-1]
				open[sortOf(k)]--
				s.pair[top] = int32(i)
				if closes {
					s.pair[i] = top
					break
				}
			}
		}
	}
	last := int32(n - 1)
	for k, i := range s.stack {
		if k == 0 {
			s.Note(int(s.Tokens[i].Start), "bracket without its end")
		}
		s.pair[i] = last
	}
}

func sortOf(k Kind) int {
	switch k {
	case '[':
		return 1
	case '{':
		return 2
	}
	return 0
}

// Pair returns the index of the bracket that belongs to the one at i; for one
// that nothing closes, of the token where its damage ends. It is i itself
// where token i is no bracket or closes nothing.
func (s *Stream) Pair(i int) int {
	if p := s.pair[i]; p >= 0 {
		return int(p)
	}
	return i
}

// At returns the kind of token i; EOF beyond both ends.
func (s *Stream) At(i int) Kind {
	if i < 0 || i >= len(s.Tokens) {
		return EOF
	}
	return s.Tokens[i].Kind
}

// Peek returns the kind of the token n places on.
func (s *Stream) Peek(n int) Kind { return s.At(s.I + n) }

// Bytes returns the text of token i.
func (s *Stream) Bytes(i int) []byte {
	if i < 0 || i >= len(s.Tokens) {
		return nil
	}
	t := s.Tokens[i]
	return s.Src[t.Start:t.Stop]
}

// Is reports whether token i is the name w.
func (s *Stream) Is(i int, w string) bool {
	return s.At(i) == Name && string(s.Bytes(i)) == w
}

// IsFold is Is without regard to the case of ASCII letters; w is in lower case.
func (s *Stream) IsFold(i int, w string) bool {
	return s.At(i) == Name && EqualFold(s.Bytes(i), w)
}

// EqualFold compares ASCII letters without regard to their case; w is in lower
// case.
func EqualFold(b []byte, w string) bool {
	if len(b) != len(w) {
		return false
	}
	for i, c := range b {
		if c >= 'A' && c <= 'Z' {
			c += 'a' - 'A'
		}
		if c != w[i] {
			return false
		}
	}
	return true
}

// Where returns the place of token i.
func (s *Stream) Where(i int) fact.Place {
	return s.Place(int(s.Tokens[min(max(i, 0), len(s.Tokens)-1)].Start))
}

// Touches reports whether nothing stands between token i and the one behind.
func (s *Stream) Touches(i int) bool {
	return i+1 < len(s.Tokens) && s.Tokens[i].Stop == s.Tokens[i+1].Start
}

// NewLine reports whether token i is the first of its line.
func (s *Stream) NewLine(i int) bool {
	if i <= 0 || i >= len(s.Tokens) {
		return true
	}
	from, to := s.Tokens[i-1].Stop, s.Tokens[i].Start
	return from < to && bytes.IndexByte(s.Src[from:to], '\n') >= 0
}

// CodeLines returns how many lines a token begins on.
func (s *Stream) CodeLines() int {
	n, last := 0, -1
	line := 0
	for i := range s.Tokens {
		if s.Tokens[i].Kind == EOF {
			break
		}
		at := int(s.Tokens[i].Start)
		for line+1 < len(s.line) && int(s.line[line+1]) <= at {
			line++
		}
		if line != last {
			n++
			last = line
		}
	}
	return n
}

// NameChar tells the bytes that may continue a name in most languages:
// letters, digits, "_" and all beyond ASCII.
var NameChar = func() (t [256]bool) {
	for c := range t {
		t[c] = c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || c == '_' || c >= 0x80
	}
	return t
}()

// NameEnd returns the offset behind the name that begins at i.
func (t *Text) NameEnd(i int) int {
	for NameChar[t.Src[i]] {
		i++
	}
	return i
}

// Digit tells the decimal digits.
func Digit(c byte) bool { return c >= '0' && c <= '9' }

// NumberEnd returns the offset behind the number that begins at i: digits,
// letters and "_", a point before a digit, and the sign of an exponent.
func (t *Text) NumberEnd(i int) int {
	hex := t.Src[i] == '0' && (t.Src[i+1]|0x20 == 'x' || t.Src[i+1]|0x20 == 'b' || t.Src[i+1]|0x20 == 'o')
	j := i
	for NameChar[t.Src[j]] || t.Src[j] == '.' && Digit(t.Src[j+1]) {
		c := t.Src[j]
		j++
		if !hex && c|0x20 == 'e' && (t.Src[j] == '+' || t.Src[j] == '-') && Digit(t.Src[j+1]) {
			j++
		}
	}
	return j
}

// LineEnd returns the offset of the line end at or behind i, or the text's end.
func (t *Text) LineEnd(i int) int {
	if i >= t.End {
		return t.End
	}
	n := bytes.IndexByte(t.Src[i:t.End], '\n')
	if n < 0 {
		return t.End
	}
	return i + n
}

// Ahead returns the text from i on up to the end of its line, end, or n bytes,
// whichever comes first: to look for what must be near, however long the line.
func (t *Text) Ahead(i, n, end int) []byte {
	end = min(i+n, end, t.End)
	if i >= end {
		return nil
	}
	b := t.Src[i:end]
	if k := bytes.IndexByte(b, '\n'); k >= 0 {
		b = b[:k]
	}
	return b
}

// Find returns the offset of the first what at or behind i, or -1.
func (t *Text) Find(i int, what string) int {
	if i > t.End {
		return -1
	}
	n := bytes.Index(t.Src[i:t.End], []byte(what))
	if n < 0 {
		return -1
	}
	return i + n
}
