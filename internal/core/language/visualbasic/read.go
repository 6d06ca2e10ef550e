// Package visualbasic reads Visual Basic source.
//
// [Reader] follows The Visual Basic Language Specification 11.0: lexical
// grammar (chapter 2), namespaces and imports (6), types and members (7 to 9),
// and in bodies the places where types stand (As, Of, New, GetType, TypeOf,
// CType and its like); a name in an expression may be a type, a namespace or a
// member of a module and is settled when the whole tree is known. Names are
// resolved by package dotnet, without regard to case.
package visualbasic

import (
	"path"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// frame is an open namespace or type.
type frame struct {
	scope   int32 // around it
	locals  int
	members []fact.Member // of the type around it
	supers  []int32
	kind    fact.DeclKind
}

// Reader reads one Visual Basic file after another, keeping its scratch space.
type Reader struct {
	lexis.Stream
	b       *fact.Builder
	locals  lexis.Locals
	escaped map[int32]bool
	frames  []frame
	members []fact.Member
	supers  []int32
	marks   []int32
	scope   int32
	lambdas int // bodies of lambdas that are open
	method  int // mark of the locals where the body that is open began, or -1
	lower   []byte
	name    []byte
	depth   int
}

// NewReader returns a reader that adds to b.
func NewReader(b *fact.Builder) *Reader { return &Reader{b: b, escaped: make(map[int32]bool)} }

// Read returns the facts of one Visual Basic file. The text is UTF-8. Read
// never fails: damage is told in the notes, and the facts of the intact part
// are there.
func (r *Reader) Read(p string, text []byte) *fact.File {
	r.b.Reset()
	r.locals.Clear()
	clear(r.escaped)
	r.frames, r.members, r.supers, r.marks = r.frames[:0], nil, nil, r.marks[:0]
	r.scope, r.method, r.depth, r.lambdas = -1, -1, 0, 0
	r.Begin(text, r.b.Note)
	r.scan()
	r.Close()
	f := &fact.File{Path: p, Language: "visualbasic", Lines: r.Lines(), Test: testPath(p)}
	f.Code = r.codeLines()
	for i := 0; i < len(r.Tokens)-1; {
		to := i
		for r.At(to) != tEnd && r.At(to) != lexis.EOF {
			to++
		}
		r.statement(i, to)
		i = to + 1
	}
	for len(r.frames) > 0 {
		r.pop()
	}
	for i := 0; i < r.b.NumDecls(); i++ {
		if d := r.b.Decl(int32(i)); d.Kind == fact.Namespace {
			f.Package, f.PackageAt = strings.TrimPrefix(d.Name, "Global."), d.At
			break
		}
	}
	r.b.Finish(f)
	return f
}

func (r *Reader) codeLines() int {
	n, last := 0, -1
	for i := range r.Tokens {
		if k := r.Tokens[i].Kind; k == tEnd || k == lexis.EOF {
			continue
		}
		if l := r.LineOf(int(r.Tokens[i].Start)); l != last {
			n++
			last = l
		}
	}
	return n
}

func testPath(p string) bool {
	for _, seg := range strings.Split(path.Dir(p), "/") {
		if strings.HasSuffix(seg, ".Tests") || strings.HasSuffix(seg, ".Test") || strings.HasSuffix(seg, "Tests") || strings.EqualFold(seg, "test") {
			return true
		}
	}
	return false
}

var words = make(lexis.Words)

func set(list string) uint16 { return words.Set(list) }

var (
	modifiers = set(`public private protected friend shared shadows mustinherit notinheritable partial mustoverride overridable
		overrides notoverridable overloads readonly writeonly withevents default const dim static async iterator narrowing widening custom`)
	predefined = set(`boolean byte char date decimal double integer long object sbyte short single string uinteger ulong ushort`)
	keywords   = set(`addhandler addressof alias and andalso as boolean byref byte byval call case catch cbool cbyte cchar cdate
		cdbl cdec char cint class clng cobj const continue csbyte cshort csng cstr ctype cuint culng cushort date decimal declare
		default delegate dim directcast do double each else elseif end enum erase error event exit false finally for friend
		function get gettype getxmlnamespace global gosub goto handles if implements imports in inherits integer interface is
		isnot let lib like long loop me mod module mustinherit mustoverride mybase myclass namespace narrowing new next not
		nothing notinheritable notoverridable object of on operator option optional or orelse overloads overridable overrides
		paramarray partial private property protected public raiseevent readonly redim rem removehandler resume return sbyte
		select set shadows shared short single static step stop string structure sub synclock then throw to true try trycast
		typeof uinteger ulong ushort using variant wend when while widening with withevents writeonly xor nameof await yield`)
)

func (r *Reader) low(i int) string {
	b := r.Bytes(i)
	r.lower = r.lower[:0]
	for _, c := range b {
		if c >= 'A' && c <= 'Z' {
			c += 'a' - 'A'
		}
		r.lower = append(r.lower, c)
	}
	return string(r.lower)
}

// word reports whether token i is the keyword w, in lower case.
func (r *Reader) word(i int, w string) bool { return r.IsFold(i, w) && !r.escaped[int32(i)] }

func (r *Reader) in(i int, sets uint16) bool { return r.In(i, sets) }

func (r *Reader) ident(i int) bool { return r.At(i) == lexis.Name && !r.in(i, keywords) }

func (r *Reader) push(kind fact.DeclKind, scope int32) {
	r.frames = append(r.frames, frame{r.scope, r.locals.Mark(), r.members, r.supers, kind})
	r.members, r.supers = nil, nil
	r.scope = scope
}

func (r *Reader) pop() {
	n := len(r.frames) - 1
	f := r.frames[n]
	r.frames = r.frames[:n]
	d := r.b.Decl(r.scope)
	if f.kind != fact.Namespace {
		d.Members = r.b.Members(r.members)
		d.Supers = r.b.Ints(r.supers)
	}
	r.members, r.supers = f.members, f.supers
	r.locals.Leave(f.locals)
	r.scope = f.scope
	r.method = -1
}

// inType reports whether members of a type are declared here.
func (r *Reader) inType() bool {
	n := len(r.frames)
	return n > 0 && r.frames[n-1].kind != fact.Namespace && r.method < 0
}

// statement reads the statement between two tokens.
func (r *Reader) statement(i, to int) {
	r.marks = r.marks[:0]
	i = r.attributes(i, to)
	flags := fact.Flags(0)
	start := i
	if r.method < 0 {
		for i < to && r.in(i, modifiers) {
			switch r.low(i) {
			case "public":
				flags |= fact.Public
			case "private", "dim":
				flags |= fact.Private
			case "protected", "friend":
				flags |= fact.Protected
			case "shared", "const":
				flags |= fact.Static
			case "mustinherit", "mustoverride":
				flags |= fact.Abstract
			case "notinheritable":
				flags |= fact.Final
			case "partial":
				flags |= fact.Partial
			}
			i++
		}
	}
	if i >= to {
		return
	}
	switch {
	case r.word(i, "imports"):
		r.imports(i+1, to)
		return
	case r.word(i, "option"):
		return
	case r.word(i, "namespace"):
		r.namespace(i+1, to)
		return
	case r.word(i, "end"):
		r.ends(i+1, to)
		return
	case r.word(i, "get") && i+1 == to && r.method < 0:
		r.method = r.locals.Mark()
		return
	case (r.word(i, "set") || r.word(i, "addhandler") || r.word(i, "removehandler") || r.word(i, "raiseevent")) && r.method < 0 && (i+1 == to || r.At(i+1) == '('):
		r.method = r.locals.Mark()
		r.locals.Declare("value")
		if r.At(i+1) == '(' {
			r.parameters(i+2, r.Pair(i+1), nil)
		}
		return
	}
	if r.method < 0 && r.typeDecl(i, to, flags) {
		return
	}
	if r.inType() || r.method < 0 && len(r.frames) == 0 {
		if r.member(i, to, flags, start) {
			return
		}
	}
	r.body(i, to)
}

// ends closes what "End X" ends.
func (r *Reader) ends(i, to int) {
	switch {
	case r.word(i, "class"), r.word(i, "structure"), r.word(i, "interface"), r.word(i, "module"), r.word(i, "enum"):
		for len(r.frames) > 0 {
			kind := r.frames[len(r.frames)-1].kind
			if kind == fact.Namespace {
				return
			}
			r.pop()
			return
		}
	case r.word(i, "namespace"):
		for len(r.frames) > 0 {
			namespace := r.frames[len(r.frames)-1].kind == fact.Namespace
			r.pop()
			if namespace {
				return
			}
		}
	case r.word(i, "sub"), r.word(i, "function"), r.word(i, "operator"), r.word(i, "get"), r.word(i, "set"),
		r.word(i, "addhandler"), r.word(i, "removehandler"), r.word(i, "raiseevent"):
		if r.lambdas > 0 {
			r.lambdas--
			return
		}
		if r.method >= 0 {
			r.locals.Leave(r.method)
			r.method = -1
		}
	}
}

// imports reads an Imports statement (6.3).
func (r *Reader) imports(i, to int) {
	for i < to {
		if r.At(i) == '<' { // an XML namespace
			for i < to && r.At(i) != ',' {
				i++
			}
			i++
			continue
		}
		imp := fact.Import{Kind: fact.ImportWildcard, At: r.Where(i)}
		if r.At(i) == lexis.Name && r.At(i+1) == '=' {
			imp.Kind, imp.Alias = fact.ImportType, r.b.Intern(r.Bytes(i))
			i += 2
			imp.At = r.Where(i)
		}
		stop := r.typeEnd(i, to)
		if stop == i {
			return
		}
		imp.Name = r.b.Intern(r.full(i, stop))
		r.b.Import(imp)
		r.arguments(i, stop, nil)
		i = stop
		if r.At(i) != ',' {
			return
		}
		i++
	}
}

func (r *Reader) namespace(i, to int) {
	stop := r.typeEnd(i, to)
	name := string(r.full(i, stop))
	if r.scope >= 0 && !strings.HasPrefix(strings.ToLower(name), "global.") {
		name = r.b.Decl(r.scope).Name + "." + name
	}
	if len(name) > 7 && strings.EqualFold(name[:7], "global.") {
		name = "Global." + name[7:]
	}
	d := r.b.Declare(fact.Decl{Name: r.b.Intern([]byte(name)), Kind: fact.Namespace, Outer: r.scope, At: r.Where(i)})
	r.push(fact.Namespace, d)
}

// typeDecl reads the first statement of a type (7), if it is one.
func (r *Reader) typeDecl(i, to int, flags fact.Flags) bool {
	d := fact.Decl{Flags: flags, Outer: r.scope}
	switch {
	case r.word(i, "class"):
		d.Kind = fact.Class
	case r.word(i, "structure"):
		d.Kind = fact.Struct
	case r.word(i, "interface"):
		d.Kind = fact.Interface
		d.Flags |= fact.Abstract
	case r.word(i, "module"):
		d.Kind = fact.Class
		d.Flags |= fact.Static | fact.Companion // its members need no qualifier
	case r.word(i, "enum"):
		d.Kind = fact.Enum
	case r.word(i, "delegate") && (r.word(i+1, "sub") || r.word(i+1, "function")):
		d.Kind = fact.NamedType
		i++
	default:
		return false
	}
	if r.At(i+1) != lexis.Name {
		return false
	}
	d.Name, d.At = r.b.Intern(r.Bytes(i+1)), r.Where(i+1)
	if d.Flags&(fact.Public|fact.Private|fact.Protected) == 0 && (r.scope < 0 || r.b.Decl(r.scope).Kind == fact.Namespace) {
		d.Flags |= fact.Protected // Friend
	}
	d.Markers = r.b.Ints(r.marks)
	r.marks = r.marks[:0]
	mark := r.locals.Mark()
	k := i + 2
	if r.At(k) == '(' && r.word(k+1, "of") {
		d.Arity = uint8(r.typeParameters(k))
		k = r.Pair(k) + 1
	}
	self := r.b.Declare(d)
	if d.Kind == fact.NamedType {
		var sig []int32
		inner := r.locals.Mark()
		if r.At(k) == '(' {
			r.parameters(k+1, r.Pair(k), &sig)
			k = r.Pair(k) + 1
		}
		r.as(k, to, &sig)
		r.locals.Leave(inner)
		r.b.Decl(self).Members = r.b.Members([]fact.Member{{Name: "Invoke", Kind: fact.MethodMember, Flags: fact.Public | fact.Abstract, At: d.At, Uses: r.b.Ints(sig)}})
		r.locals.Leave(mark)
		return true
	}
	r.push(d.Kind, self)
	r.frames[len(r.frames)-1].locals = mark
	return true
}

// typeParameters reads "(Of In T As {A, B}, U)" at token i (13.1).
func (r *Reader) typeParameters(i int) (n int) {
	end := r.Pair(i)
	for k := i + 2; k < end; k++ {
		for r.word(k, "in") || r.word(k, "out") {
			k++
		}
		if r.At(k) == lexis.Name {
			r.locals.Declare("<" + r.low(k))
			n++
		}
		for k < end && r.At(k) != ',' {
			if r.word(k, "as") {
				stop := k + 1
				for stop < end && r.At(stop) != ',' {
					stop = max(stop, r.Pair(stop)) + 1
				}
				for t := k + 1; t < stop; t++ {
					if r.ident(t) {
						e := r.typeEnd(t, stop)
						r.typeRef(t, e, fact.HowType, nil)
						t = max(t, e-1)
					}
				}
				k = stop
				continue
			}
			k = max(k, r.Pair(k)) + 1
		}
	}
	return n
}
