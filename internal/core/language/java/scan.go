package java

import (
	"bytes"
	"encoding/binary"
	"sort"
	"unicode/utf8"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// kind is the kind of a token. A punctuation character stands for itself.
type kind uint8

const (
	tEOF     kind = 0
	tIdent   kind = 1
	tLiteral kind = 2
	tArrow   kind = 3 // ->
	tColons  kind = 4 // ::
	tDots    kind = 5 // ...
)

// Keywords (JLS 17 §3.9). The contextual ones (record, sealed, permits, var,
// yield, module, …) are identifiers here and told apart by where they stand.
const (
	kAbstract kind = 128 + iota
	kAssert
	kBreak
	kCase
	kCatch
	kClass
	kConst
	kContinue
	kDefault
	kDo
	kElse
	kEnum
	kExtends
	kFinal
	kFinally
	kFor
	kGoto
	kIf
	kImplements
	kImport
	kInstanceof
	kInterface
	kNative
	kNew
	kPackage
	kPrimitive // boolean byte char double float int long short void
	kPrivate
	kProtected
	kPublic
	kReturn
	kStatic
	kStrictfp
	kSuper
	kSwitch
	kSynchronized
	kThis
	kThrow
	kThrows
	kTransient
	kTry
	kVolatile
	kWhile
	kWord // true false null
)

var keywords = map[string]kind{
	"abstract": kAbstract, "assert": kAssert, "boolean": kPrimitive, "break": kBreak, "byte": kPrimitive,
	"case": kCase, "catch": kCatch, "char": kPrimitive, "class": kClass, "const": kConst,
	"continue": kContinue, "default": kDefault, "do": kDo, "double": kPrimitive, "else": kElse,
	"enum": kEnum, "extends": kExtends, "false": kWord, "final": kFinal, "finally": kFinally,
	"float": kPrimitive, "for": kFor, "goto": kGoto, "if": kIf, "implements": kImplements,
	"import": kImport, "instanceof": kInstanceof, "int": kPrimitive, "interface": kInterface,
	"long": kPrimitive, "native": kNative, "new": kNew, "null": kWord, "package": kPackage,
	"private": kPrivate, "protected": kProtected, "public": kPublic, "return": kReturn,
	"short": kPrimitive, "static": kStatic, "strictfp": kStrictfp, "super": kSuper, "switch": kSwitch,
	"synchronized": kSynchronized, "this": kThis, "throw": kThrow, "throws": kThrows,
	"transient": kTransient, "true": kWord, "try": kTry, "void": kPrimitive, "volatile": kVolatile,
	"while": kWhile,
}

// Keywords are found by their first eight bytes in a small open table.
type keyword struct {
	word uint64
	text string
	kind kind
}

const keywordBits = 9

var keywordTable = func() (t [1 << keywordBits]keyword) {
	for text, k := range keywords {
		w := wordAt([]byte(text+"\x00\x00\x00\x00\x00\x00\x00\x00"), 0, len(text))
		i := keywordSlot(w)
		for t[i].text != "" {
			i = (i + 1) % len(t)
		}
		t[i] = keyword{w, text, k}
	}
	return t
}()

func keywordSlot(w uint64) int { return int((w * 0x9E3779B97F4A7C15) >> (64 - keywordBits)) }

// wordAt returns the first eight bytes of the name at src[at:at+n], padded
// with zeros. At least eight bytes follow every name (see padding).
func wordAt(src []byte, at, n int) uint64 {
	w := binary.LittleEndian.Uint64(src[at : at+8])
	if n < 8 {
		w &= 1<<(8*uint(n)) - 1
	}
	return w
}

// Character classes.
const (
	cOther uint8 = iota // stands for itself
	cSpace
	cNewline
	cLetter
	cDigit
	cNul
	cQuote
	cApostrophe
	cSlash
	cDot
	cMinus
	cColon
)

var classes = func() (t [256]uint8) {
	for c := 0; c < 33; c++ {
		t[c] = cSpace
	}
	t[0] = cNul
	t['\n'] = cNewline
	for c := 'a'; c <= 'z'; c++ {
		t[c], t[c-32] = cLetter, cLetter
	}
	for c := '0'; c <= '9'; c++ {
		t[c] = cDigit
	}
	for c := 0x80; c < 0x100; c++ {
		t[c] = cLetter // any character beyond ASCII can only be part of a name here
	}
	t['_'], t['$'] = cLetter, cLetter
	t['"'], t['\''], t['/'], t['.'], t['-'], t[':'] = cQuote, cApostrophe, cSlash, cDot, cMinus, cColon
	return t
}()

// nameChar tells the bytes that may continue a name.
var nameChar = func() (t [256]bool) {
	for c := range t {
		t[c] = classes[c] == cLetter || classes[c] == cDigit
	}
	return t
}()

// padding is how many zero bytes must follow the text.
const padding = 16

// cursor is the scanner's place and current token; copying it back rewinds.
type cursor struct {
	pos       int // behind the token
	lineStart int // offset of the first byte of pos's line
	line      int32
	tok       kind
	start     int // of the token
	stop      int
	tokLine   int32
	tokBegin  int // offset of the first byte of the token's line
}

// scanner finds the tokens of Java text (JLS 17 §3). Comments and white space
// are passed over. It reports damage through note and goes on.
type scanner struct {
	cursor
	src       []byte // text and padding
	end       int    // length of the text
	lastCode  int32  // last line that is known to hold code
	codeLines int    // how many lines hold code
	wide      bool   // the text is not plain ASCII
	escapes   []escape
	escaped   bool   // a unicode escape stands outside literals and comments
	literals  []spot // of the strings that may be the full name of a type
	note      func(at fact.Place, text string)
}

// escape is a unicode escape that was replaced before scanning: at offset `at`
// of the text that is scanned, `extra` characters of the original are missing.
type escape struct{ at, extra int }

// place returns the position of offset at, whose line begins at begin.
func (s *scanner) place(line int32, begin, at int) fact.Place {
	col := at - begin
	if s.wide {
		col = utf8.RuneCount(s.src[begin:at])
	}
	if len(s.escapes) > 0 {
		first := sort.Search(len(s.escapes), func(i int) bool { return s.escapes[i].at >= begin })
		for _, e := range s.escapes[first:] {
			if e.at >= at {
				break
			}
			col += e.extra
		}
	}
	return fact.Place{Line: uint32(line), Column: uint32(col + 1)}
}

// spot is where a token begins; its place, which counts characters, is worked
// out only when it is wanted.
type spot struct {
	line  int32
	begin int // offset of the line
	at    int
}

func (s *scanner) spot() spot { return spot{s.tokLine, s.tokBegin, s.start} }

// here is the place of the current token.
func (s *scanner) here() fact.Place { return s.place(s.tokLine, s.tokBegin, s.start) }

// next moves to the next token.
func (s *scanner) next() {
	src := s.src
	i := s.pos
	for {
		c := src[i]
		switch classes[c] {
		case cSpace:
			i++
			for binary.LittleEndian.Uint64(src[i:i+8]) == 0x2020202020202020 {
				i += 8
			}
			continue
		case cNewline:
			i++
			s.line++
			s.lineStart = i
			for binary.LittleEndian.Uint64(src[i:i+8]) == 0x2020202020202020 {
				i += 8
			}
			continue
		case cNul:
			if i < s.end {
				i++ // a stray NUL byte is as good as white space
				continue
			}
			s.begin(i)
			s.tok, s.stop, s.pos = tEOF, i, i
			return
		case cSlash:
			if src[i+1] == '/' {
				n := bytes.IndexByte(src[i:s.end], '\n')
				if n < 0 {
					i = s.end
				} else {
					i += n
				}
				continue
			}
			if src[i+1] == '*' {
				i = s.blockComment(i)
				continue
			}
			s.single(i)
			return
		case cLetter:
			s.begin(i)
			j := i + 1
			for nameChar[src[j]] {
				j++
			}
			s.stop, s.pos, s.tok = j, j, tIdent
			if n := j - i; c >= 'a' && n >= 2 && n <= 12 && c <= 'w' {
				w := wordAt(src, i, n)
				for k := keywordSlot(w); keywordTable[k].text != ""; k = (k + 1) % len(keywordTable) {
					if keywordTable[k].word == w && len(keywordTable[k].text) == n && (n <= 8 || keywordTable[k].text == string(src[i:j])) {
						s.tok = keywordTable[k].kind
						break
					}
				}
			}
			return
		case cDigit:
			s.number(i)
			return
		case cQuote:
			s.quoted(i)
			return
		case cApostrophe:
			s.begin(i)
			j := i + 1
			for j < s.end && src[j] != '\'' && src[j] != '\n' {
				if src[j] == '\\' && src[j+1] != '\n' {
					j++
				}
				j++
			}
			s.literalEnd(j, '\'', "character literal without its closing quote")
			return
		case cDot:
			if classes[src[i+1]] == cDigit {
				s.number(i)
				return
			}
			if src[i+1] == '.' && src[i+2] == '.' {
				s.begin(i)
				s.tok, s.stop, s.pos = tDots, i+3, i+3
				return
			}
			s.single(i)
			return
		case cMinus:
			if src[i+1] == '>' {
				s.begin(i)
				s.tok, s.stop, s.pos = tArrow, i+2, i+2
				return
			}
			s.single(i)
			return
		case cColon:
			if src[i+1] == ':' {
				s.begin(i)
				s.tok, s.stop, s.pos = tColons, i+2, i+2
				return
			}
			s.single(i)
			return
		default:
			s.single(i)
			return
		}
	}
}

func (s *scanner) begin(i int) {
	s.start = i
	s.tokLine, s.tokBegin = s.line, s.lineStart
	if s.line > s.lastCode && i < s.end {
		s.lastCode = s.line
		s.codeLines++
	}
}

func (s *scanner) single(i int) {
	s.begin(i)
	if s.src[i] == '\\' && s.src[i+1] == 'u' {
		s.escaped = true
	}
	s.tok, s.stop, s.pos = kind(s.src[i]), i+1, i+1
}

// blockComment returns the offset behind the comment that begins at i.
func (s *scanner) blockComment(i int) int {
	from := i
	j := i + 2
	for {
		n := bytes.IndexByte(s.src[j:s.end], '/')
		if n < 0 {
			s.note(s.place(s.line, s.lineStart, from), "comment without its end")
			j = s.end
			break
		}
		j += n + 1
		if s.src[j-2] == '*' && j-2 >= from+2 {
			break
		}
	}
	if n := bytes.Count(s.src[from:j], newline); n > 0 {
		s.line += int32(n)
		s.lineStart = from + bytes.LastIndexByte(s.src[from:j], '\n') + 1
	}
	return j
}

var newline = []byte{'\n'}

// number scans a numeric literal (JLS 17 §3.10.1, §3.10.2).
func (s *scanner) number(i int) {
	s.begin(i)
	src := s.src
	hex := src[i] == '0' && (src[i+1] == 'x' || src[i+1] == 'X')
	j := i + 1
	for nameChar[src[j]] || src[j] == '.' && classes[src[j+1]] != cLetter && src[j+1] != '.' ||
		src[j] == '.' && exponentOrSuffix(src[j+1]) {
		c := src[j]
		j++
		if !hex && (c == 'e' || c == 'E') || hex && (c == 'p' || c == 'P') {
			if src[j] == '+' || src[j] == '-' {
				j++
			}
		}
	}
	s.tok, s.stop, s.pos = tLiteral, j, j
}

// exponentOrSuffix tells the letters that may follow the point of "1.".
func exponentOrSuffix(c byte) bool {
	switch c {
	case 'e', 'E', 'f', 'F', 'd', 'D', 'p', 'P':
		return true
	}
	return false
}

// quoted scans a string literal or a text block (JLS 17 §3.10.5, §3.10.6).
func (s *scanner) quoted(i int) {
	s.begin(i)
	src := s.src
	if src[i+1] == '"' && src[i+2] == '"' {
		j := i + 3
		for j < s.end {
			switch src[j] {
			case '\\':
				if src[j+1] == '\n' {
					j++
					continue
				}
				j += 2
				continue
			case '\n':
				s.line++
				s.lineStart = j + 1
			case '"':
				if src[j+1] == '"' && src[j+2] == '"' {
					s.tok, s.stop, s.pos = tLiteral, j+3, j+3
					return
				}
			}
			j++
		}
		s.note(s.here(), "text block without its closing quotes")
		j = min(j, s.end)
		s.tok, s.stop, s.pos = tLiteral, j, j
		return
	}
	j := i + 1
	for j < s.end && src[j] != '"' && src[j] != '\n' {
		if src[j] == '\\' && src[j+1] != '\n' {
			j++
		}
		j++
	}
	s.literalEnd(j, '"', "string without its closing quote")
}

// literalEnd ends the literal whose closing quote is expected at j. A literal
// without one ends with its line.
func (s *scanner) literalEnd(j int, quote byte, damage string) {
	j = min(j, s.end)
	if s.src[j] == quote {
		if quote == '"' && lexis.FullName(s.src[s.start+1:j]) {
			// A token may be looked at more than once.
			if n := len(s.literals); n == 0 || s.literals[n-1].at < s.start {
				s.literals = append(s.literals, s.spot())
			}
		}
		j++
	} else {
		s.note(s.here(), damage)
	}
	s.tok, s.stop, s.pos = tLiteral, j, j
}
