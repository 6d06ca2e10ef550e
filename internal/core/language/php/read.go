// Package php reads and resolves PHP source.
//
// [Reader] knows the whole lexical structure up to PHP 8.4 (php.net, "Basic
// syntax", "Strings", "Comments"; PHP language specification, lexical
// structure) and as much of the grammar as tells what each name is: a class, a
// function or a constant. Variables wear a sign, so nothing else can be one.
//
// [Resolver] follows "Using namespaces: Name resolution rules" of the manual.
package php

import (
	"bytes"
	"path"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// doc is a documentation comment: src[start:stop], before a token.
type doc struct{ start, stop, token int32 }

// frame is a stretch of tokens with a body: a namespace, a type, a function.
type frame struct {
	end   int   // index of the token that ends it
	scope int32 // the scope around it
	typ   bool  // its tokens are members of a type
	marks int   // of members
}

// Reader reads one PHP file after another, keeping its scratch space.
type Reader struct {
	lexis.Stream
	b       *fact.Builder
	docs    []doc
	frames  []frame
	scope   int32
	space   int32 // the namespace declaration that holds, or -1
	aliases map[string]int32
	members []fact.Member
	marks   []int32
	lower   []byte
	depth   int
	folder  string
	path    string
}

// NewReader returns a reader that adds to b.
func NewReader(b *fact.Builder) *Reader {
	return &Reader{b: b, aliases: make(map[string]int32)}
}

// Read returns the facts of one PHP file. The text is UTF-8. Read never fails:
// damage is told in the notes, and the facts of the intact part are there.
func (r *Reader) Read(p string, text []byte) *fact.File {
	r.b.Reset()
	r.docs, r.frames, r.members, r.marks = r.docs[:0], r.frames[:0], r.members[:0], r.marks[:0]
	r.scope, r.space, r.depth = -1, -1, 0
	r.path, r.folder = p, "/"+strings.TrimPrefix(path.Dir("/"+p), "/")
	clear(r.aliases)
	r.Begin(text, r.b.Note)
	r.scan()
	r.Close()
	f := &fact.File{Path: p, Language: "php", Lines: r.Lines(), Code: r.CodeLines(), Test: testPath(p)}
	r.walk(0, len(r.Tokens)-1)
	for len(r.frames) > 0 {
		r.pop()
	}
	r.readDocs()
	for i := 0; i < r.b.NumDecls(); i++ {
		if d := r.b.Decl(int32(i)); d.Kind == fact.Namespace && d.Name != "" {
			f.Package, f.PackageAt = d.Name, d.At
			break
		}
	}
	r.b.Finish(f)
	return f
}

// testPath tells test files by PHPUnit's conventions: a folder tests or Tests,
// a class file that ends in Test.
func testPath(p string) bool {
	for _, seg := range strings.Split(path.Dir(p), "/") {
		if seg == "tests" || seg == "Tests" {
			return true
		}
	}
	return strings.HasSuffix(p, "Test.php") || strings.HasSuffix(p, "TestCase.php")
}

// keywords are the words that are never a class, function or constant.
var keywords = map[string]bool{}

func init() {
	for _, w := range strings.Fields(`abstract and array as break callable case catch class clone const continue declare
		default do echo else elseif empty enddeclare endfor endforeach endif endswitch endwhile eval exit die extends final
		finally fn for foreach function global goto if implements include include_once instanceof insteadof interface isset
		list match namespace new or print private protected public readonly require require_once return static switch throw
		trait try unset use var while xor yield self parent true false null from
		__class__ __dir__ __file__ __function__ __line__ __method__ __namespace__ __trait__ __property__ __halt_compiler`) {
		keywords[w] = true
	}
}

// scalars are the words that stand for types and are no class.
var scalars = map[string]bool{
	"int": true, "float": true, "bool": true, "string": true, "array": true, "object": true, "mixed": true, "void": true,
	"never": true, "iterable": true, "callable": true, "null": true, "false": true, "true": true, "self": true, "static": true, "parent": true,
}

// casts are the words that stand in the brackets of a cast.
var casts = map[string]bool{
	"int": true, "integer": true, "float": true, "double": true, "real": true, "string": true, "bool": true, "boolean": true,
	"array": true, "object": true, "unset": true, "binary": true,
}

func (r *Reader) low(b []byte) []byte {
	r.lower = append(r.lower[:0], b...)
	for i, c := range r.lower {
		if c >= 'A' && c <= 'Z' {
			r.lower[i] = c + 'a' - 'A'
		}
	}
	return r.lower
}

func (r *Reader) keyword(i int) bool { return keywords[string(r.low(r.Bytes(i)))] }

// use records a name at token i.
func (r *Reader) use(i int, how fact.How, flags fact.UseFlags) int32 {
	name := r.Bytes(i)
	r.mark(name, flags)
	return r.b.Use(name, fact.Use{Scope: r.scope, Local: -1, How: how, Flags: flags}, r.Where(i))
}

// mark notes which import a name comes through.
func (r *Reader) mark(name []byte, flags fact.UseFlags) {
	if name[0] == '\\' {
		return
	}
	head, _, qualified := bytes.Cut(name, []byte{'\\'})
	kind := ""
	if !qualified && flags&fact.Call != 0 {
		kind = "function "
	} else if !qualified && flags&fact.Value != 0 {
		kind = "const " + string(head)
	}
	if kind == "" || flags&fact.Call != 0 {
		kind += string(r.low(head))
	}
	if n, ok := r.aliases[kind]; ok {
		r.b.MarkUsed(n)
	}
}

// class records token i as the name of a class, if it can be one.
func (r *Reader) class(i int, how fact.How) int32 {
	if r.At(i) != lexis.Name || scalars[string(r.low(r.Bytes(i)))] {
		return -1
	}
	return r.use(i, how, 0)
}

// types records the type that begins at token i and returns the index behind
// it: names with "?", "|", "&" and brackets around them.
func (r *Reader) types(i int, sig *[]int32) int {
	for {
		switch r.At(i) {
		case '?', '|', '(', ')':
			if r.At(i) == ')' && r.Pair(i) == i {
				return i
			}
		case '&':
			if k := r.At(i + 1); k == tVariable || k == tDots || k == '&' {
				return i
			}
		case lexis.Name:
			if u := r.class(i, fact.HowType); u >= 0 && sig != nil {
				*sig = append(*sig, u)
			}
			if k := r.At(i + 1); k != '|' && k != '&' && k != ')' {
				return i + 1
			}
		default:
			return i
		}
		i++
	}
}

// walk reads the tokens from one index up to another.
func (r *Reader) walk(from, to int) {
	base := len(r.frames)
	r.I = from
	for {
		for len(r.frames) > base && r.I >= r.frames[len(r.frames)-1].end {
			r.pop()
		}
		if r.I >= to {
			break
		}
		before := r.I
		if n := len(r.frames); n > base && r.frames[n-1].typ && r.member() {
			// done
		} else {
			r.token()
		}
		if r.I <= before {
			r.I = before + 1
		}
	}
	for len(r.frames) > base {
		r.pop()
	}
}

func (r *Reader) push(f frame) {
	f.marks = len(r.members)
	r.frames = append(r.frames, f)
}

func (r *Reader) pop() {
	f := r.frames[len(r.frames)-1]
	r.frames = r.frames[:len(r.frames)-1]
	if f.typ {
		d := r.b.Decl(r.scope)
		d.Members = r.b.Members(r.members[f.marks:])
	}
	r.members = r.members[:f.marks]
	r.scope = f.scope
}

// inner reads a stretch of tokens inside another construct and comes back.
func (r *Reader) inner(from, to int) {
	if r.depth > 100 || from >= to {
		return
	}
	r.depth++
	save := r.I
	r.walk(from, to)
	r.I = save
	r.depth--
}

// attributes reads the attribute groups at token i and returns the index
// behind them; the markers are added to marks.
func (r *Reader) attributes(i int) int {
	for r.At(i) == tAttr {
		end := r.Pair(i + 1)
		for k := i + 2; k < end; {
			if u := r.class(k, fact.HowMarker); u >= 0 {
				r.marks = append(r.marks, u)
			}
			k++
			if r.At(k) == '(' {
				close := r.Pair(k)
				r.inner(k+1, close)
				k = max(close, k) + 1
			}
			for k < end && r.At(k) != ',' {
				k++
			}
			k++
		}
		i = max(end, i+1) + 1
	}
	return i
}

// token reads one token of code, and what belongs to it.
func (r *Reader) token() {
	i := r.I
	r.I++
	switch r.At(i) {
	case tAttr:
		r.I = r.attributes(i)
	case tVariable:
		if r.At(i-1) != tDouble && superglobal(r.Bytes(i)) {
			r.b.Use(r.Bytes(i), fact.Use{Scope: r.scope, Local: -1, How: fact.HowCall, Flags: fact.Value}, r.Where(i))
		}
	case lexis.String:
		r.text(i)
	case lexis.Name:
		r.name(i)
	}
}

// text records a string that may be the full name of a class.
func (r *Reader) text(i int) {
	b := r.Bytes(i)
	if len(b) > 4 && (b[0] == '\'' || b[0] == '"') && lexis.FullName(b[1:len(b)-1]) {
		name := strings.ReplaceAll(string(b[1:len(b)-1]), `\\`, `\`)
		r.b.Use([]byte(strings.TrimPrefix(name, `\`)), fact.Use{Scope: -1, Local: -1, How: fact.HowDynamic}, r.Where(i))
	}
}

func superglobal(b []byte) bool {
	switch string(b) {
	case "$_GET", "$_POST", "$_REQUEST", "$_COOKIE", "$_SESSION", "$_FILES", "$_SERVER", "$_ENV":
		return true
	}
	return false
}

// name reads the name at token i and what it opens.
func (r *Reader) name(i int) {
	prev, next := r.At(i-1), r.At(i+1)
	if prev == tArrow || prev == tDouble {
		return // a member
	}
	switch string(r.low(r.Bytes(i))) {
	case "namespace":
		r.namespace(i)
		return
	case "use":
		if next != '(' { // else the variables of a closure
			r.imports(i)
		}
		return
	case "class", "interface", "trait":
		if next == lexis.Name {
			r.typeDecl(i)
		}
		return
	case "enum":
		if next == lexis.Name && !r.keyword(i+1) && (r.At(i+2) == '{' || r.At(i+2) == ':' || r.IsFold(i+2, "implements")) {
			r.typeDecl(i)
			return
		}
	case "function", "fn":
		r.function(i, nil)
		return
	case "new":
		r.creation(i)
		return
	case "instanceof":
		r.class(i+1, fact.HowType)
		if next == lexis.Name {
			r.I = i + 2
		}
		return
	case "catch":
		if next == '(' {
			r.I = r.types(i+2, nil)
		}
		return
	case "const":
		r.constants(i)
		return
	case "include", "include_once", "require", "require_once":
		r.include(i)
		return
	case "define":
		if next == '(' {
			r.define(i)
		}
	case "goto", "break", "continue":
		if next == lexis.Name {
			r.I = i + 2
		}
		return
	case "declare":
		if next == '(' {
			r.I = r.Pair(i+1) + 1
		}
		return
	}
	if r.keyword(i) {
		return
	}
	switch {
	case prev == '(' && next == ')' && casts[string(r.low(r.Bytes(i)))] && (r.At(i-2) != lexis.Name || r.keyword(i-2)):
		// a cast
	case next == tDouble:
		r.class(i, fact.HowCall)
	case next == '(':
		r.use(i, fact.HowCall, fact.Call)
	case next == ':' && (prev == '(' || prev == ',') || next == ':' && (prev == ';' || prev == '{' || prev == '}'):
		// the name of an argument; a label
	default:
		r.use(i, fact.HowCall, fact.Value)
	}
}

// namespace reads a namespace declaration: with a block or up to the next.
func (r *Reader) namespace(i int) {
	k := i + 1
	name := ""
	at := r.Where(i)
	if r.At(k) == lexis.Name {
		name = r.b.Intern(bytes.TrimPrefix(r.Bytes(k), []byte{'\\'}))
		at = r.Where(k)
		k++
	}
	if r.At(k) != '{' && r.At(k) != ';' && r.At(k) != tBreak {
		return
	}
	for len(r.frames) > 0 {
		r.pop()
	}
	clear(r.aliases)
	end := len(r.Tokens) - 1
	if r.At(k) == '{' {
		end = r.Pair(k)
	}
	d := r.b.Declare(fact.Decl{Name: name, Kind: fact.Namespace, Outer: -1, At: at})
	r.space = d
	r.push(frame{end: end, scope: -1})
	r.scope = d
	r.I = k + 1
}

// imports reads a use statement outside of types.
func (r *Reader) imports(i int) {
	kind, k := fact.ImportType, i+1
	sort := func(k int) (fact.ImportKind, int) {
		switch {
		case r.IsFold(k, "function") && r.At(k+1) == lexis.Name:
			return fact.ImportFunction, k + 1
		case r.IsFold(k, "const") && r.At(k+1) == lexis.Name:
			return fact.ImportConstant, k + 1
		}
		return kind, k
	}
	kind, k = sort(k)
	for r.At(k) == lexis.Name {
		name := bytes.TrimPrefix(r.Bytes(k), []byte{'\\'})
		if r.At(k+1) == '\\' && r.At(k+2) == '{' {
			prefix := string(name)
			end := r.Pair(k + 2)
			for k += 3; k < end; k++ {
				one, at := sort(k)
				if r.At(at) != lexis.Name {
					k = at
					continue
				}
				k = r.imported(one, prefix+`\`+string(r.Bytes(at)), at)
			}
			k = end + 1
		} else {
			k = r.imported(kind, string(name), k)
		}
		if r.At(k) != ',' {
			break
		}
		k++
	}
	r.I = k
}

// imported adds the import of a name that ends at token k, with its alias, and
// returns the index behind it.
func (r *Reader) imported(kind fact.ImportKind, name string, k int) int {
	imp := fact.Import{Name: r.b.Intern([]byte(name)), Kind: kind, Within: r.space + 1, At: r.Where(k)}
	local := name[strings.LastIndexByte(name, '\\')+1:]
	k++
	if r.IsFold(k, "as") && r.At(k+1) == lexis.Name {
		imp.Alias = r.b.Intern(r.Bytes(k + 1))
		local = imp.Alias
		k += 2
	}
	n := r.b.Import(imp)
	switch kind {
	case fact.ImportFunction:
		local = "function " + strings.ToLower(local)
	case fact.ImportConstant:
		local = "const " + local
	default:
		local = strings.ToLower(local)
	}
	r.aliases[local] = n
	return k
}
