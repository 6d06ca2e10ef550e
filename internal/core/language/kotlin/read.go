// Package kotlin reads and resolves Kotlin source.
//
// [Reader] follows the Kotlin language specification: lexical grammar (1.2),
// declarations (4), types (3) and, in bodies, the places where types stand; a
// name in an expression may be a type, an object, a function or a property
// and is settled when the whole tree is known.
//
// [Resolver] follows the scopes of chapters 6 and 7.4 ("Linked scopes"), with
// Java's types beside Kotlin's.
package kotlin

import (
	"path"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// Reader reads one Kotlin file after another, keeping its scratch space.
type Reader struct {
	lexis.Stream
	b        *fact.Builder
	quoted   map[int32]bool // names in backticks
	locals   lexis.Locals
	imported map[string]int32
	scope    int32
	members  []fact.Member
	marks    []int32
	joined   []byte
	depth    int
	facade   string // the class that holds what is declared outside of types
	topLevel bool
}

const deepest = 300

// NewReader returns a reader that adds to b.
func NewReader(b *fact.Builder) *Reader {
	return &Reader{b: b, quoted: make(map[int32]bool), imported: make(map[string]int32)}
}

// Read returns the facts of one Kotlin file. The text is UTF-8. Read never
// fails: damage is told in the notes, and the facts of the intact part are
// there.
func (r *Reader) Read(p string, text []byte) *fact.File {
	r.b.Reset()
	r.locals.Clear()
	clear(r.quoted)
	clear(r.imported)
	r.members, r.marks = nil, r.marks[:0]
	r.scope, r.depth, r.topLevel = -1, 0, false
	base := path.Base(p)
	base = strings.TrimSuffix(base, path.Ext(base))
	r.facade = strings.ToUpper(base[:min(1, len(base))]) + base[min(1, len(base)):] + "Kt"
	r.Begin(text, r.b.Note)
	r.scan()
	r.Close()
	f := &fact.File{Path: p, Language: "kotlin", Lines: r.Lines(), Code: r.CodeLines(), Test: testPath(p)}
	to := len(r.Tokens) - 1
	i := 0
	for i < to {
		switch {
		case r.At(i) == '@' && r.Is(i+1, "file") && r.At(i+2) == ':':
			i = r.fileAnnotation(i)
			continue
		case r.Is(i, "package"):
			f.PackageAt = r.Where(i + 1)
			name, k := r.dotted(i + 1)
			f.Package = name
			i = k
			continue
		case r.Is(i, "import") && r.At(i+1) == lexis.Name:
			i = r.importHeader(i + 1)
			continue
		case r.At(i) == ';':
			i++
			continue
		}
		break
	}
	r.declarations(i, to, false)
	if r.topLevel {
		r.b.Declare(fact.Decl{Name: r.b.Intern([]byte(r.facade)), Kind: fact.Class, Flags: fact.Static | fact.Anonymous, Outer: -1, At: fact.Place{Line: 1, Column: 1}})
	}
	r.b.Finish(f)
	return f
}

// testPath tells test files by the source sets of Gradle and Maven.
func testPath(p string) bool {
	segs := strings.Split(path.Dir(p), "/")
	for i, s := range segs {
		if i > 0 && segs[i-1] == "src" && (s == "test" || strings.HasSuffix(s, "Test") || s == "testFixtures") {
			return true
		}
	}
	return strings.HasSuffix(p, "Test.kt") || strings.HasSuffix(p, "Tests.kt")
}

var words = make(lexis.Words)

// names returns a set of words for lookup by their text.
func names(list string) map[string]bool {
	m := make(map[string]bool)
	for _, w := range strings.Fields(list) {
		m[w] = true
	}
	return m
}

func set(list string) uint16 { return words.Set(list) }

var (
	keywords  = set(`as break class continue do else false for fun if in interface is null object package return super this throw true try typealias typeof val var when while`)
	modifiers = set(`public private protected internal abstract final open sealed override lateinit tailrec operator infix inline
		external suspend data inner enum annotation companion const expect actual value vararg noinline crossinline reified out in fun`)
	// operatorNames are functions that are called without being named
	// (specification, 9 "Operator overloading").
	operatorNames = names(`plus minus times div rem mod rangeTo rangeUntil contains get set invoke unaryPlus unaryMinus not inc dec
		plusAssign minusAssign timesAssign divAssign remAssign compareTo equals iterator next hasNext getValue setValue provideDelegate
		component1 component2 component3 component4 component5`)
)

func (r *Reader) in(i int, sets uint16) bool { return r.In(i, sets) }

func (r *Reader) word(i int, w string) bool { return r.Is(i, w) && !r.quoted[int32(i)] }

func (r *Reader) ident(i int) bool { return r.At(i) == lexis.Name && !r.in(i, keywords) }

func (r *Reader) name(i int) string { return r.b.Intern(r.Bytes(i)) }

// dotted reads a dotted name at token i and returns the index behind it.
func (r *Reader) dotted(i int) (string, int) {
	r.joined = r.joined[:0]
	for r.At(i) == lexis.Name {
		r.joined = append(r.joined, r.Bytes(i)...)
		i++
		if r.At(i) != '.' || r.At(i+1) != lexis.Name {
			break
		}
		r.joined = append(r.joined, '.')
		i++
	}
	return r.b.Intern(r.joined), i
}

func (r *Reader) fileAnnotation(i int) int {
	k := i + 3
	if r.At(k) != '[' && r.At(k) != lexis.Name {
		return k
	}
	if r.At(k) == '[' {
		r.code(k+1, r.Pair(k))
		return r.Pair(k) + 1
	}
	name, stop := r.dotted(k)
	r.b.Use([]byte(name), fact.Use{Scope: -1, Local: -1, How: fact.HowMarker}, r.Where(k))
	if r.At(stop) == '(' {
		if name == "JvmName" || name == "kotlin.jvm.JvmName" {
			if b := r.Bytes(stop + 1); r.At(stop+1) == lexis.String && len(b) > 2 {
				r.facade = string(b[1 : len(b)-1])
			}
		}
		r.code(stop+1, r.Pair(stop))
		stop = r.Pair(stop) + 1
	}
	return stop
}

// importHeader reads an import at the token behind its keyword (6.3).
func (r *Reader) importHeader(i int) int {
	imp := fact.Import{Kind: fact.ImportType, At: r.Where(i)}
	name, k := r.dotted(i)
	imp.Name = name
	local := name[strings.LastIndexByte(name, '.')+1:]
	switch {
	case r.At(k) == '.' && r.At(k+1) == '*':
		imp.Kind = fact.ImportWildcard
		k += 2
	case r.word(k, "as") && r.At(k+1) == lexis.Name:
		imp.Alias = r.name(k + 1)
		local = imp.Alias
		k += 2
	}
	imp.Used = operatorNames[local]
	n := r.b.Import(imp)
	if imp.Kind == fact.ImportType {
		r.imported[local] = n
	}
	return k
}

// use records a name and marks the import that its head comes through.
func (r *Reader) use(name []byte, head string, at int, how fact.How, flags fact.UseFlags) int32 {
	if n, ok := r.imported[head]; ok {
		r.b.MarkUsed(n)
	}
	return r.b.Use(name, fact.Use{Scope: r.scope, Local: -1, How: how, Flags: flags}, r.Where(at))
}

// modifiersAt reads the modifiers and annotations at token i and returns the
// index behind them; the markers are added to marks.
func (r *Reader) modifiersAt(i int) (flags fact.Flags, stop int) {
	for {
		switch {
		case r.At(i) == '@' && (r.At(i+1) == lexis.Name || r.At(i+1) == '['):
			i = r.annotation(i)
			continue
		case r.in(i, modifiers) && !(r.word(i, "fun") && !r.word(i+1, "interface")) && r.modifierHere(i):
			switch string(r.Bytes(i)) {
			case "private":
				flags |= fact.Private
			case "protected", "internal":
				flags |= fact.Protected
			case "abstract", "sealed":
				flags |= fact.Abstract
			case "companion":
				flags |= fact.Companion
			case "data":
				flags |= fact.Default
			case "enum":
				flags |= fact.Static
			case "annotation":
				flags |= fact.Extension
			}
			i++
			continue
		}
		if flags&(fact.Private|fact.Protected) == 0 {
			flags |= fact.Public
		}
		return flags, i
	}
}

// modifierHere tells a modifier from a name: a declaration follows it.
func (r *Reader) modifierHere(i int) bool {
	k := i + 1
	for r.in(k, modifiers) && !r.word(k, "fun") {
		k++
	}
	return r.At(k) == '@' || r.word(k, "class") || r.word(k, "interface") || r.word(k, "object") || r.word(k, "fun") || r.word(k, "val") ||
		r.word(k, "var") || r.word(k, "typealias") || r.word(k, "constructor") || r.word(k, "set") || r.word(k, "get") ||
		r.At(k) == lexis.Name && (r.At(k+1) == ':' || r.At(k+1) == ',' || r.At(k+1) == '>')
}

// annotation reads an annotation at token i (4.5) and returns the index behind
// it.
func (r *Reader) annotation(i int) int {
	k := i + 1
	if r.At(k) == lexis.Name && r.At(k+1) == ':' && r.At(k+2) != ':' { // a target
		k += 2
	}
	list := r.At(k) == '['
	end := k + 1
	if list {
		end = r.Pair(k)
		k++
	}
	for {
		if r.At(k) != lexis.Name {
			break
		}
		head := string(r.Bytes(k))
		name, stop := r.dotted(k)
		r.marks = append(r.marks, r.use([]byte(name), head, k, fact.HowMarker, 0))
		k = stop
		if r.At(k) == '<' {
			if n, ok := r.skipArguments(k, 0); ok {
				r.types(k, n, nil)
				k = n
			}
		}
		if r.At(k) == '(' && r.Touches(k-1) {
			marks := append([]int32(nil), r.marks...)
			r.code(k+1, r.Pair(k))
			r.marks = append(r.marks[:0], marks...)
			k = r.Pair(k) + 1
		}
		if !list || k >= end {
			break
		}
	}
	if list {
		return end + 1
	}
	return k
}
