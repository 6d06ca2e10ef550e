// Package csharp reads C# source.
//
// [Reader] knows the whole lexical structure up to C# 13 (C# language
// specification, clause 6, with raw and interpolated strings) and follows
// declarations exactly (clauses 14 to 20, 23). In bodies it tells types from
// values by what stands around a name (clause 6.2.5 for "<", 12.9.7 for
// casts); a name before a "." may be either and is settled when the whole tree
// is known. Names are resolved by package dotnet.
package csharp

import (
	"path"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// Reader reads one C# file after another, keeping its scratch space.
type Reader struct {
	lexis.Stream
	b        *fact.Builder
	locals   lexis.Locals
	typeOf   map[string]string // the written types of local variables, by their names
	verbatim map[int32]bool    // names written with "@": no keywords
	branches []branch
	depth0   int
	suppress int
	scope    int32
	static   bool // the file has "using static"
	nesting  int
	joined   []byte
	key      []byte
	marks    []int32
	members  []fact.Member
	blocks   []block
}

// NewReader returns a reader that adds to b.
func NewReader(b *fact.Builder) *Reader {
	return &Reader{b: b, verbatim: make(map[int32]bool), typeOf: make(map[string]string)}
}

// deepest is how far bodies and brackets may nest before the reader passes
// over what is inside.
const deepest = 400

// Read returns the facts of one C# file. The text is UTF-8. Read never fails:
// damage is told in the notes, and the facts of the intact part are there.
func (r *Reader) Read(p string, text []byte) *fact.File {
	r.b.Reset()
	r.locals.Clear()
	clear(r.verbatim)
	clear(r.typeOf)
	r.marks = r.marks[:0]
	r.scope, r.static, r.nesting = -1, false, 0
	r.Begin(text, r.b.Note)
	r.scan()
	r.Close()
	f := &fact.File{Path: p, Language: "csharp", Lines: r.Lines(), Code: r.CodeLines(), Test: testPath(p)}
	r.declarations(0, len(r.Tokens)-1, fact.Namespace)
	for i := 0; i < r.b.NumDecls(); i++ {
		if d := r.b.Decl(int32(i)); d.Kind == fact.Namespace {
			f.Package, f.PackageAt = d.Name, d.At
			break
		}
	}
	r.b.Finish(f)
	return f
}

// testPath tells test files by the conventions of .NET projects: a folder
// whose name ends in Test or Tests.
func testPath(p string) bool {
	for _, seg := range strings.Split(path.Dir(p), "/") {
		low := strings.ToLower(seg)
		if strings.HasSuffix(seg, ".Tests") || strings.HasSuffix(seg, ".Test") || strings.HasSuffix(seg, "Tests") || low == "test" || strings.HasSuffix(low, ".unittests") {
			return true
		}
	}
	return false
}

// Words. Those in keywords can be no name; the contextual ones can.
var keywords, predefined, modifiers = set(`abstract as base bool break byte case catch char checked class const continue decimal
	default delegate do double else enum event explicit extern false finally fixed float for foreach goto if implicit in int
	interface internal is lock long namespace new null object operator out override params private protected public readonly
	ref return sbyte sealed short sizeof stackalloc static string struct switch this throw true try typeof uint ulong
	unchecked unsafe ushort using virtual void volatile while`),
	set(`bool byte char decimal double float int long object sbyte short string uint ulong ushort void`),
	set(`abstract async const extern file fixed internal new override partial private protected public readonly ref required
	sealed static unsafe virtual volatile event implicit explicit scoped`)

var words = make(lexis.Words)

func set(list string) uint16 { return words.Set(list) }

// word reports whether token i is the keyword w, and no name written with "@".
func (r *Reader) word(i int, w string) bool { return r.Is(i, w) && !r.verbatim[int32(i)] }

func (r *Reader) in(i int, sets uint16) bool { return r.In(i, sets) }

// ident reports whether token i is a name and no keyword.
func (r *Reader) ident(i int) bool { return r.At(i) == lexis.Name && !r.in(i, keywords) }

func (r *Reader) text1(i int) string { return r.b.Intern(r.Bytes(i)) }

// end returns the index behind the statement or member that goes on at token
// i: behind its ";" or its block.
func (r *Reader) past(i, to int) int {
	for i < to {
		switch r.At(i) {
		case ';':
			return i + 1
		case '{':
			return r.Pair(i) + 1
		case '}':
			return i
		}
		i = max(i, r.Pair(i)) + 1
	}
	return to
}

// declarations reads namespaces, types and, inside a type, members between two
// tokens. inside is the kind of what holds them.
func (r *Reader) declarations(i, to int, inside fact.DeclKind) {
	for i < to {
		before := i
		i = r.declaration(i, to, inside)
		if i <= before {
			i = before + 1
		}
	}
}

func (r *Reader) declaration(i, to int, inside fact.DeclKind) int {
	switch r.At(i) {
	case ';', '}', ')', ']', ',':
		return i + 1
	}
	if inside == fact.Namespace {
		switch {
		case r.word(i, "using") && r.At(i+1) != '(' && !r.usingStatement(i):
			return r.using(i, to, 0)
		case r.word(i, "global") && r.word(i+1, "using"):
			return r.using(i+1, to, fact.Global)
		case r.word(i, "extern") && r.Is(i+1, "alias"):
			return r.past(i, to)
		case r.word(i, "namespace"):
			return r.namespace(i, to)
		}
	}
	start := i
	r.marks = r.marks[:0]
	i = r.attributes(i)
	flags := fact.Flags(0)
	for r.in(i, modifiers) && !r.word(i, "event") && !r.word(i, "implicit") && !r.word(i, "explicit") {
		if r.contextual(i) {
			break
		}
		switch string(r.Bytes(i)) {
		case "public":
			flags |= fact.Public
		case "protected", "internal":
			flags |= fact.Protected
		case "private":
			flags |= fact.Private
		case "static", "const":
			flags |= fact.Static
		case "abstract":
			flags |= fact.Abstract
		case "sealed":
			flags |= fact.Final
		case "partial":
			flags |= fact.Partial
		}
		i++
	}
	switch {
	case r.word(i, "class"), r.word(i, "struct"), r.word(i, "interface"), r.word(i, "enum"):
		return r.typeDecl(i, i+1, to, flags)
	case r.Is(i, "record") && r.ident(i+1) && (r.At(i+2) == '(' || r.At(i+2) == '{' || r.At(i+2) == ':' || r.At(i+2) == ';' || r.At(i+2) == '<'):
		return r.typeDecl(i, i+1, to, flags)
	case r.Is(i, "record") && (r.word(i+1, "class") || r.word(i+1, "struct")):
		return r.typeDecl(i, i+2, to, flags)
	case r.word(i, "delegate") && r.At(i+1) != '*' && r.At(i+1) != '(' && r.At(i+1) != '{':
		return r.delegate(i, to, flags)
	}
	if inside == fact.Namespace {
		if i > start && (r.word(i, "namespace") || r.word(i, "using") || r.At(i) == lexis.EOF || r.Is(i, "global")) {
			return i // behind the attributes of the assembly
		}
		if r.topLevel(start, i) {
			// Top-level statements (specification, 7.1.3).
			stop := r.past(i, to)
			for r.word(stop, "else") || r.word(stop, "catch") || r.word(stop, "finally") || r.At(stop) == ';' || r.At(stop) == ')' || r.At(stop) == ',' || r.At(stop) == '.' {
				stop = r.past(stop+1, to)
			}
			r.code(i, stop)
			return stop
		}
		return i
	}
	return r.member(i, to, flags, inside)
}

// contextual tells modifiers that are names where they stand.
func (r *Reader) contextual(i int) bool {
	switch string(r.Bytes(i)) {
	case "async", "partial", "required", "file", "scoped":
		k := r.At(i + 1)
		return k != lexis.Name && k != '(' || r.At(i+1) == '(' && !r.Is(i, "async") || r.At(i+1) == lexis.Name && (r.At(i+2) == ';' || r.At(i+2) == '=') && !r.in(i+1, keywords)
	case "ref":
		return !(r.word(i+1, "struct") || r.Is(i+1, "partial") || r.At(i+1) == lexis.Name)
	}
	return false
}

// topLevel reports whether a statement outside all types may begin at token i.
func (r *Reader) topLevel(start, i int) bool {
	return r.scope < 0 && start == i && r.At(i) != lexis.EOF || r.scope < 0 && r.At(i) == lexis.Name
}

// usingStatement tells "using var x = …;" and "using Type x = …;" in top-level
// statements from a directive.
func (r *Reader) usingStatement(i int) bool {
	if r.Is(i+1, "var") && r.ident(i+2) {
		return true
	}
	if r.word(i+1, "static") || r.Is(i+1, "unsafe") {
		return false
	}
	k, ok := r.skipType(i + 1)
	return ok && r.ident(k) && r.At(k+1) == '='
}

// using reads a using directive at token i (clause 14.5).
func (r *Reader) using(i, to int, flags fact.ImportFlags) int {
	imp := fact.Import{Kind: fact.ImportWildcard, Flags: flags, Within: r.scope + 1}
	k := i + 1
	for r.word(k, "static") || r.word(k, "unsafe") {
		if r.word(k, "static") {
			imp.Kind = fact.ImportStaticWildcard
			r.static = true
		}
		k++
	}
	if r.At(k) == lexis.Name && r.At(k+1) == '=' {
		imp.Kind, imp.Alias = fact.ImportType, r.text1(k)
		k += 2
	}
	imp.At = r.Where(k)
	stop, ok := r.skipType(k)
	if !ok {
		return r.past(i, to)
	}
	if r.At(k) == lexis.Name && !r.in(k, predefined) {
		imp.Name = r.b.Intern(r.full(k, stop))
		r.b.Import(imp)
		r.arguments(k, stop, fact.HowType, nil)
	}
	return r.past(stop, to)
}

// namespace reads a namespace declaration at token i (clause 14.3).
func (r *Reader) namespace(i, to int) int {
	k := i + 1
	stop, ok := r.skipType(k)
	if !ok {
		return i + 1
	}
	name := string(r.full(k, stop))
	if r.scope >= 0 {
		name = r.b.Decl(r.scope).Name + "." + name
	}
	d := r.b.Declare(fact.Decl{Name: r.b.Intern([]byte(name)), Kind: fact.Namespace, Outer: r.scope, At: r.Where(k)})
	outer := r.scope
	r.scope = d
	defer func() { r.scope = outer }()
	switch r.At(stop) {
	case '{':
		end := r.Pair(stop)
		if r.nesting < deepest {
			r.nesting++
			r.declarations(stop+1, end, fact.Namespace)
			r.nesting--
		}
		return end + 1
	case ';': // to the end of the file
		r.declarations(stop+1, to, fact.Namespace)
		return to
	}
	return stop
}

// attributes reads attribute sections at token i (clause 22.3) and returns the
// index behind them; the markers are added to marks.
func (r *Reader) attributes(i int) int {
	for r.At(i) == '[' {
		end := r.Pair(i)
		if end <= i {
			return i
		}
		k := i + 1
		if r.At(k) == lexis.Name && r.At(k+1) == ':' { // a target
			k += 2
		}
		for k < end {
			stop, ok := r.skipType(k)
			if !ok {
				break
			}
			if u := r.emit(k, stop, fact.HowMarker, 0); u >= 0 {
				r.marks = append(r.marks, u)
			}
			r.arguments(k, stop, fact.HowType, nil)
			k = stop
			if r.At(k) == '(' {
				close := r.Pair(k)
				marks := append([]int32(nil), r.marks...)
				r.code(k+1, close)
				r.marks = append(r.marks[:0], marks...)
				k = max(close, k) + 1
			}
			for k < end && r.At(k) != ',' {
				k++
			}
			k++
		}
		i = end + 1
	}
	return i
}
