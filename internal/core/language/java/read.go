// Package java reads and resolves Java source.
//
// [Read] is a tolerant scanner-parser for the whole language as of Java SE 21
// (with the Java Language Specification, JLS, as its source): every comment,
// literal and escape form is known, and as much of the grammar as is needed to
// tell, for each name, whether it can be a type. It follows declarations
// exactly (JLS 7 to 9) and expressions loosely: an expression is a flat run of
// tokens in which names followed by a name, by type arguments, by empty
// brackets, by "::" or by ".class" are types, and a name before a "." may be
// a type unless a local variable of that name is in scope (JLS 6.5.2).
//
// [Resolver] then resolves the names by the scope rules of JLS 6.3 to 6.5
// against the whole tree.
package java

import (
	"bytes"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/source"
)

// deepest is how far brackets may nest before the reader passes over what is
// inside. Compilers give up far earlier.
const deepest = 1500

// symbol is a name of the file at hand, with what it stands for at this point.
type symbol struct {
	start, n  int32 // in src
	hash      uint32
	locals    int32 // local variables and parameters of this name in scope
	types     int32 // type parameters and local classes of this name in scope
	localDecl int32 // the innermost local class of this name, or -1
	imported  int32 // the single import that brings the name in, or -1
	fields    int32 // first of the fields of this name in reader.fields, or -1
	last      int32 // the last use of the name alone, or -1
}

type field struct{ decl, next int32 }

type undo struct {
	sym  int32
	kind uint8 // 0 a variable, 1 a type
	old  int32 // localDecl before
}

// Reader reads one Java file after another, keeping its scratch space.
type Reader struct {
	scanner
	b *fact.Builder

	symbols []symbol
	table   []int32
	fields  []field
	undos   []undo
	heads   []int32 // for each use, the symbol of its first segment

	scope    int32 // innermost enclosing declaration
	depth    int
	noArgs   int // up to this offset no "<" opens type arguments
	members  []fact.Member
	sig      []int32 // types of the signature being read; nil where there is none
	sigSpace []int32
	marks    []int32 // markers of the declaration being read
	bean     string  // the name that a marker gives the bean that the type is

	segs   []seg // of the name being read
	joined []byte
	lambda []seg

	pkg      string
	pkgAt    fact.Place
	manifest *fact.Manifest
	padded   []byte
}

type seg struct{ start, stop int }

// NewReader returns a reader that adds to b.
func NewReader(b *fact.Builder) *Reader {
	return &Reader{b: b, table: make([]int32, 1024), sigSpace: make([]int32, 0, 256)}
}

// Read returns the facts of one Java file. The text is UTF-8 without a byte
// order mark, its lines end in "\n" or "\r\n". Read never fails: damage is told
// in the notes, and the facts of the intact part are there.
func (r *Reader) Read(path string, text []byte) *fact.File {
	if plainEscapes(text) {
		if f := r.read(path, text, nil, true); f != nil {
			return f
		}
	}
	translated, escapes := translate(text)
	return r.read(path, translated, escapes, false)
}

// read reads a text whose unicode escapes are replaced or, where raw, taken to
// be harmless; nil tells that one of them is not.
func (r *Reader) read(path string, src []byte, escapes []escape, raw bool) *fact.File {
	end := len(src)
	if !padded(src) {
		if cap(r.padded) < end+padding {
			r.padded = make([]byte, 0, end+end/4+padding)
		}
		src = append(append(r.padded[:0], src...), zeros[:]...)
	}
	src = src[:end+padding]

	r.b.Reset()
	r.scanner = scanner{src: src, end: end, escapes: escapes, literals: r.literals[:0], note: r.b.Note}
	r.line = 1
	r.wide = !source.ASCII(src[:end])
	r.symbols = r.symbols[:0]
	if len(r.table) > 4096 {
		r.table = make([]int32, 1024) // a large file came before
	}
	clear(r.table)
	r.fields = r.fields[:0]
	r.undos = r.undos[:0]
	r.heads = r.heads[:0]
	r.members = r.members[:0]
	r.sig = nil
	r.marks = r.marks[:0]
	r.scope = -1
	r.depth = 0
	r.bean = ""
	r.noArgs = -1
	r.pkg, r.pkgAt, r.manifest = "", fact.Place{}, nil

	r.next()
	r.unit()
	if raw && r.escaped {
		return nil
	}
	r.dropFields()
	for _, l := range r.literals {
		stop := l.at + 1 + bytes.IndexByte(r.src[l.at+1:], '"')
		r.b.Use(r.src[l.at+1:stop], fact.Use{Scope: -1, Local: -1, How: fact.HowDynamic}, r.place(l.line, l.begin, l.at))
	}

	f := &fact.File{
		Path: path, Language: "java", Package: r.pkg, PackageAt: r.pkgAt,
		Test:  testFolder(path),
		Lines: lineCount(r.line, src[:end]), Code: r.codeLines, Manifest: r.manifest,
	}
	r.b.Finish(f)
	return f
}

var zeros [padding]byte

// padded reports whether zero bytes stand behind the text already, in the
// room that its slice has left. Nothing is written there: it is the caller's.
func padded(text []byte) bool {
	if cap(text)-len(text) < padding {
		return false
	}
	return [padding]byte(text[len(text):len(text)+padding]) == zeros
}

// testFolder tells the source folders of tests by the convention of the
// build tools: src/test/java, src/integrationTest/java and the like.
func testFolder(path string) bool {
	for rest := "/" + path; ; {
		_, after, ok := strings.Cut(rest, "/src/")
		if !ok {
			return false
		}
		set, _, more := strings.Cut(after, "/")
		set = strings.ToLower(set)
		if more && (strings.HasPrefix(set, "test") || strings.HasSuffix(set, "test")) {
			return true
		}
		rest = "/" + after
	}
}

func lineCount(line int32, src []byte) int {
	if len(src) == 0 || src[len(src)-1] == '\n' {
		return int(line) - 1
	}
	return int(line)
}

// sym returns the index of the symbol for the name at src[start:stop].
func (r *Reader) sym(start, stop int) int32 {
	n := stop - start
	w := wordAt(r.src, start, n)
	h := (w ^ uint64(n)) * 0x9E3779B97F4A7C15
	if n > 8 {
		for i := start + 8; i < stop; i += 8 {
			h = (h ^ h>>31 ^ wordAt(r.src, i, stop-i)) * 0xD6E8FEB86659FD93
		}
	}
	h32 := uint32(h >> 32)
	mask := uint32(len(r.table) - 1)
	i := h32 & mask
	for {
		k := r.table[i]
		if k == 0 {
			break
		}
		s := &r.symbols[k-1]
		if s.hash == h32 && int(s.n) == n && bytes.Equal(r.src[s.start:s.start+s.n], r.src[start:stop]) {
			return k - 1
		}
		i = (i + 1) & mask
	}
	r.symbols = append(r.symbols, symbol{start: int32(start), n: int32(n), hash: h32, localDecl: -1, imported: -1, fields: -1, last: -1})
	k := int32(len(r.symbols))
	r.table[i] = k
	if len(r.symbols)*2 > len(r.table) {
		r.table = make([]int32, 2*len(r.table))
		mask = uint32(len(r.table) - 1)
		for n := range r.symbols {
			i := r.symbols[n].hash & mask
			for r.table[i] != 0 {
				i = (i + 1) & mask
			}
			r.table[i] = int32(n + 1)
		}
	}
	return k - 1
}

// variable brings a local variable or parameter into scope.
func (r *Reader) variable(start, stop int) {
	s := r.sym(start, stop)
	r.symbols[s].locals++
	r.undos = append(r.undos, undo{sym: s})
}

// typeName brings a type parameter (decl -1) or a local class into scope.
func (r *Reader) typeName(start, stop int, decl int32) {
	s := r.sym(start, stop)
	r.undos = append(r.undos, undo{s, 1, r.symbols[s].localDecl})
	r.symbols[s].types++
	r.symbols[s].localDecl = decl
}

// leave ends the scopes that began since the undo list had the given length.
func (r *Reader) leave(mark int) {
	for i := len(r.undos) - 1; i >= mark; i-- {
		u := r.undos[i]
		if u.kind == 0 {
			r.symbols[u.sym].locals--
		} else {
			r.symbols[u.sym].types--
			r.symbols[u.sym].localDecl = u.old
		}
	}
	r.undos = r.undos[:mark]
}

// declareField notes that the current type has a field of this name.
func (r *Reader) declareField(start, stop int) {
	s := &r.symbols[r.sym(start, stop)]
	r.fields = append(r.fields, field{r.scope, s.fields})
	s.fields = int32(len(r.fields) - 1)
}

// dropFields takes away the ambiguous names whose first segment is a field
// that an enclosing type of this file declares: fields may be declared behind
// their use, so this can be told only at the end.
func (r *Reader) dropFields() {
	for i := range r.heads {
		u, _ := r.b.UseAt(int32(i))
		if u.Flags&fact.Ambiguous == 0 {
			continue
		}
		for f := r.symbols[r.heads[i]].fields; f >= 0; f = r.fields[f].next {
			if r.encloses(r.fields[f].decl, u.Scope) {
				r.b.Drop(int32(i))
				break
			}
		}
	}
}

func (r *Reader) encloses(decl, scope int32) bool {
	for ; scope >= 0; scope = r.b.Decl(scope).Outer {
		if scope == decl {
			return true
		}
	}
	return decl < 0 && scope < 0
}

// emit records a use of the name made of the first n segments read. It returns
// the use's index, or -1 where the name is known to be declared in this file's
// bodies or to be a variable.
func (r *Reader) emit(n int, how fact.How, flags fact.UseFlags, at spot) int32 {
	head := r.segs[0]
	s := r.sym(head.start, head.stop)
	sym := &r.symbols[s]
	if flags&fact.Ambiguous != 0 && sym.locals > 0 {
		return -1
	}
	u := fact.Use{Scope: r.scope, Local: -1, How: how, Flags: flags}
	if sym.types > 0 {
		if sym.localDecl < 0 || n > 1 || how != fact.HowInherit && how != fact.HowConstruct {
			return -1
		}
		u.Local = sym.localDecl
		u.Flags |= fact.InFile
	} else if sym.imported >= 0 {
		r.b.MarkUsed(sym.imported)
	}
	place := r.place(at.line, at.begin, at.at)
	if n == 1 {
		// Most uses repeat the last one of that name.
		if l := sym.last; l >= 0 && r.b.Repeat(l, &u, place) {
			return l
		}
	}
	last := r.segs[n-1]
	name := r.src[head.start:last.stop]
	length := n - 1
	for _, g := range r.segs[:n] {
		length += g.stop - g.start
	}
	if length != len(name) { // white space, comments or type arguments between the segments
		r.joined = r.joined[:0]
		for i, g := range r.segs[:n] {
			if i > 0 {
				r.joined = append(r.joined, '.')
			}
			r.joined = append(r.joined, r.src[g.start:g.stop]...)
		}
		name = r.joined
	}
	i := r.b.Use(name, u, place)
	if int(i) == len(r.heads) {
		r.heads = append(r.heads, s)
	}
	if n == 1 {
		sym.last = i
	}
	return i
}

// text returns the current token's text.
func (r *Reader) text() []byte { return r.src[r.start:r.stop] }

// word reports whether the current token is the contextual keyword w.
func (r *Reader) word(w string) bool { return r.tok == tIdent && string(r.text()) == w }

// deeper enters a bracket and reports whether there is room for it; if not,
// everything up to its end is passed over. Each true must be met by shallower.
func (r *Reader) deeper() bool {
	if r.depth < deepest {
		r.depth++
		return true
	}
	r.b.Note(r.here(), "nested too deeply to be read")
	r.skipBrackets()
	return false
}

func (r *Reader) shallower() { r.depth-- }

// skipBrackets passes over the brackets that open at the current token.
func (r *Reader) skipBrackets() {
	depth := 0
	for r.tok != tEOF {
		switch r.tok {
		case '(', '[', '{':
			depth++
		case ')', ']', '}':
			depth--
		}
		r.next()
		if depth <= 0 {
			return
		}
	}
}
