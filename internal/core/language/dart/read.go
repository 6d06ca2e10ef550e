// Package dart reads and resolves Dart source.
//
// [Reader] follows the Dart Programming Language Specification: directives
// (clause 19), declarations (clauses 8 to 13) and, in bodies, every name that
// no local declaration explains.
//
// [Resolver] follows clause 19's scopes: a library is a file with its parts,
// sees what its imports export, show and hide, and its own declarations first.
package dart

import (
	"path"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// block is an open brace: of a type's body, a namespace of members, or code.
type block struct {
	end   int
	mark  int
	scope int32
	typ   bool
	from  int // of members
}

// Reader reads one Dart file after another, keeping its scratch space.
type Reader struct {
	lexis.Stream
	b        *fact.Builder
	locals   lexis.Locals
	prefixes map[string][]int32 // imports by prefix
	blocks   []block
	members  []fact.Member
	marks    []int32
	scope    int32
	joined   []byte
}

// NewReader returns a reader that adds to b.
func NewReader(b *fact.Builder) *Reader {
	return &Reader{b: b, prefixes: make(map[string][]int32)}
}

// Read returns the facts of one Dart file. The text is UTF-8. Read never
// fails: damage is told in the notes, and the facts of the intact part are
// there.
func (r *Reader) Read(p string, text []byte) *fact.File {
	r.b.Reset()
	r.locals.Clear()
	clear(r.prefixes)
	r.blocks, r.members, r.marks = r.blocks[:0], r.members[:0], r.marks[:0]
	r.scope = -1
	r.Begin(text, r.b.Note)
	r.scan()
	r.Close()
	f := &fact.File{Path: p, Language: "dart", Lines: r.Lines(), Code: r.CodeLines(), Test: testPath(p)}
	i := r.directives()
	to := len(r.Tokens) - 1
	for i < to {
		for len(r.blocks) > 0 && i >= r.blocks[len(r.blocks)-1].end {
			r.pop()
		}
		n := len(r.blocks)
		if n == 0 || r.blocks[n-1].typ {
			i = max(r.declaration(i, to), i+1)
		} else {
			i = max(r.code(i), i+1)
		}
	}
	for len(r.blocks) > 0 {
		r.pop()
	}
	r.b.Finish(f)
	return f
}

// testPath tells test files by pub's conventions.
func testPath(p string) bool {
	for _, s := range strings.Split(path.Dir(p), "/") {
		if s == "test" || s == "integration_test" || s == "test_driver" {
			return true
		}
	}
	return strings.HasSuffix(p, "_test.dart")
}

var words = make(lexis.Words)

func set(list string) uint16 { return words.Set(list) }

var (
	keywords = set(`assert break case catch class const continue default do else enum extends false final finally for if in is new null
		rethrow return super switch this throw true try var void while with abstract as covariant deferred dynamic export extension
		external factory implements import late mixin operator part required static typedef await yield async sync on show hide sealed base interface when`)
	// builtin are the keywords that may be names all the same.
	soft = set(`abstract as covariant deferred dynamic export extension external factory implements import late mixin operator part required
		static typedef await yield async sync on show hide sealed base interface when`)
)

func (r *Reader) word(i int, w string) bool { return r.Is(i, w) }

func (r *Reader) in(i int, sets uint16) bool { return r.In(i, sets) }

func (r *Reader) ident(i int) bool {
	return r.At(i) == lexis.Name && (!r.in(i, keywords) || r.in(i, soft))
}

func (r *Reader) name(i int) string { return r.b.Intern(r.Bytes(i)) }

func (r *Reader) pop() {
	n := len(r.blocks) - 1
	b := r.blocks[n]
	r.blocks = r.blocks[:n]
	if b.typ {
		r.b.Decl(r.scope).Members = r.b.Members(r.members[b.from:])
		r.members = r.members[:b.from]
		r.scope = b.scope
	}
	r.locals.Leave(b.mark)
}

// uri returns the content of the string at token i.
func (r *Reader) uri(i int) string {
	b := r.Bytes(i)
	if r.At(i) != lexis.String || len(b) < 2 {
		return ""
	}
	return string(b[1 : len(b)-1])
}

// directives reads the directives that the file begins with (19.1 to 19.5) and
// returns the index behind them.
func (r *Reader) directives() int {
	i := 0
	for {
		for r.At(i) == '@' {
			k := i + 2
			for r.At(k) == '.' {
				k += 2
			}
			if r.At(k) == '(' {
				k = r.Pair(k) + 1
			}
			if !r.word(k, "library") && !r.word(k, "import") && !r.word(k, "export") && !r.word(k, "part") && r.At(k) != '@' {
				return i
			}
			i = k
		}
		imp := fact.Import{Kind: fact.ImportPackage, At: r.Where(i + 1)}
		switch {
		case r.word(i, "library") && (r.At(i+1) == lexis.Name || r.At(i+1) == ';'):
			for r.At(i) != ';' && r.At(i) != lexis.EOF {
				i++
			}
			i++
			continue
		case r.word(i, "part") && r.word(i+1, "of"):
			imp.Kind, imp.Used, imp.At = fact.ImportPartOf, true, r.Where(i+2)
			imp.Name = r.uri(i + 2)
			i += 2
			if imp.Name == "" {
				for r.At(i) == lexis.Name || r.At(i) == '.' {
					imp.Name += string(r.Bytes(i))
					i++
				}
				imp.Member = "library"
			}
			r.b.Import(imp)
		case r.word(i, "part") && r.At(i+1) == lexis.String:
			imp.Kind, imp.Name, imp.Used = fact.ImportPart, r.uri(i+1), true
			r.b.Import(imp)
			i += 2
		case (r.word(i, "import") || r.word(i, "export")) && r.At(i+1) == lexis.String:
			if r.word(i, "export") {
				imp.Flags, imp.Used = fact.PassedOn, true
			}
			imp.Name = r.uri(i + 1)
			i += 2
			var others []fact.Import
			for r.word(i, "if") && r.At(i+1) == '(' { // a configurable import
				k := r.Pair(i+1) + 1
				if u := r.uri(k); u != "" {
					o := imp
					o.Name, o.At, o.Used = u, r.Where(k), true
					others = append(others, o)
				}
				i = k + 1
			}
			if r.word(i, "deferred") {
				imp.Flags |= fact.OnDemand
				i++
			}
			if r.word(i, "as") && r.At(i+1) == lexis.Name {
				imp.Alias = r.name(i + 1)
				i += 2
			}
			for r.word(i, "show") || r.word(i, "hide") {
				list := &imp.Hide
				if r.word(i, "show") {
					list = &imp.Show
				}
				for i++; r.At(i) == lexis.Name; i += 2 {
					*list = append(*list, r.name(i))
					if r.At(i+1) != ',' {
						i++
						break
					}
				}
			}
			n := r.b.Import(imp)
			if imp.Alias != "" {
				r.prefixes[imp.Alias] = append(r.prefixes[imp.Alias], n)
			}
			for _, o := range others {
				o.Alias, o.Show, o.Hide = imp.Alias, imp.Show, imp.Hide
				r.b.Import(o)
			}
		default:
			return i
		}
		for r.At(i) != ';' && r.At(i) != lexis.EOF && !r.NewLine(i) {
			i++
		}
		if r.At(i) == ';' {
			i++
		}
	}
}

// skipType returns the index behind the type at token i (clause 20.2), and
// whether one stands there.
func (r *Reader) skipType(i, depth int) (int, bool) {
	if depth > 24 {
		return i, false
	}
	switch {
	case r.At(i) == '(': // a record
		end := r.Pair(i)
		if end <= i {
			return i, false
		}
		i = end + 1
	case r.word(i, "Function"):
		i++
	case r.ident(i) || r.word(i, "void"):
		i++
		if r.At(i) == '.' && r.ident(i+1) {
			i += 2
		}
	default:
		return i, false
	}
	if r.At(i) == '<' {
		stop, ok := r.skipArguments(i, depth)
		if !ok {
			return i, false
		}
		i = stop
	}
	for {
		switch {
		case r.At(i) == '?' && !r.operandAfter(i):
			i++
			continue
		case r.word(i, "Function") && (r.At(i+1) == '(' || r.At(i+1) == '<'):
			k := i + 1
			if r.At(k) == '<' {
				for n := 0; n < 200 && r.At(k) != '('; n++ {
					k++
				}
			}
			i = r.Pair(k) + 1
			continue
		}
		return i, true
	}
}

// skipArguments returns the index behind the type arguments whose "<" is at i.
func (r *Reader) skipArguments(i, depth int) (int, bool) {
	for i++; ; {
		if r.word(i, "extends") {
			i++
		}
		stop, ok := r.skipType(i, depth+1)
		if !ok {
			return i, false
		}
		if r.word(stop, "extends") {
			if stop, ok = r.skipType(stop+1, depth+1); !ok {
				return i, false
			}
		}
		if r.ident(stop) { // the name of a record's field
			stop++
		}
		if r.At(stop) == '>' {
			return stop + 1, true
		}
		if r.At(stop) != ',' {
			return i, false
		}
		i = stop + 1
	}
}

// operandAfter tells "a ? b : c" from "Type? name".
func (r *Reader) operandAfter(i int) bool {
	k := i + 1
	if r.ident(k) {
		switch r.At(k + 1) {
		case '=', ';', ',', ')', ']', '{', '}':
			return false
		}
		return !(r.word(k+1, "in") || r.At(k+1) == tArrow || r.At(k+1) == '(' && !r.word(k, "get"))
	}
	return r.At(k) != '>' && r.At(k) != ',' && r.At(k) != ')' && r.At(k) != ']' && r.At(k) != ';' && r.At(k) != '=' && !r.word(k, "Function")
}

// types records the types that are named between two tokens.
func (r *Reader) types(i, stop int, how fact.How, sig *[]int32) int32 {
	first := int32(-1)
	for i < stop {
		if !r.ident(i) || r.word(i, "extends") || r.word(i, "Function") || r.word(i, "dynamic") {
			i++
			continue
		}
		k := i + 1
		if r.At(k) == '.' && r.ident(k+1) {
			k += 2
		}
		if u := r.emit(i, k, how, 0); u >= 0 {
			if first < 0 {
				first = u
			}
			if sig != nil {
				*sig = append(*sig, u)
			}
		}
		how = fact.HowType
		i = k
	}
	return first
}

// emit records the name between two tokens and returns its use, or -1 where a
// local declaration explains it.
func (r *Reader) emit(i, k int, how fact.How, flags fact.UseFlags) int32 {
	head := r.Bytes(i)
	if r.locals.Has(head) {
		return -1
	}
	for _, n := range r.prefixes[string(head)] {
		r.b.MarkUsed(n)
	}
	r.joined = r.joined[:0]
	for t := i; t < k; t += 2 {
		if t > i {
			r.joined = append(r.joined, '.')
		}
		r.joined = append(r.joined, r.Bytes(t)...)
	}
	return r.b.Use(r.joined, fact.Use{Scope: r.scope, Local: -1, How: how, Flags: flags}, r.Where(i))
}
