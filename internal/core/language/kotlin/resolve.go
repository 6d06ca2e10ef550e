package kotlin

import (
	"strings"
	"sync"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/language/lexis"
)

// defaults are the packages that every file imports (7.4 "Implicit imports").
var defaults = []string{"kotlin", "kotlin.annotation", "kotlin.collections", "kotlin.comparisons", "kotlin.io", "kotlin.ranges",
	"kotlin.sequences", "kotlin.text", "java.lang", "kotlin.jvm", "kotlin.js"}

// builtins are the types of the standard library that are met without an
// import.
var builtins = names(`Any Unit Nothing Boolean Byte Short Int Long Char Float Double String CharSequence Number Array BooleanArray ByteArray
	ShortArray IntArray LongArray CharArray FloatArray DoubleArray Throwable Exception Error RuntimeException IllegalArgumentException
	IllegalStateException IndexOutOfBoundsException UnsupportedOperationException NumberFormatException NullPointerException
	ClassCastException AssertionError NoSuchElementException ConcurrentModificationException ArithmeticException Comparable Comparator
	Enum Annotation Function Lazy Pair Triple Result Iterable MutableIterable Collection MutableCollection List MutableList Set
	MutableSet Map MutableMap Iterator MutableIterator ListIterator MutableListIterator ArrayList HashMap HashSet LinkedHashMap
	LinkedHashSet Sequence Regex MatchResult MatchGroup StringBuilder IntRange LongRange CharRange ClosedRange IntProgression
	Deprecated Suppress ReplaceWith JvmStatic JvmField JvmName JvmOverloads JvmSuppressWildcards JvmInline JvmDefault Throws Volatile
	Synchronized Transient SinceKotlin PublishedApi DslMarker OptIn RequiresOptIn Target Retention Repeatable MustBeDocumented
	UInt ULong UByte UShort Object System Class Thread Runnable Math Integer Character Process Runtime Iterable Cloneable
	InterruptedException StackTraceElement AutoCloseable Override Void Appendable Appendable Strictfp ExperimentalStdlibApi
	ExperimentalUnsignedTypes NotImplementedError UninitializedPropertyAccessException KotlinNullPointerException Charsets Experimental
	UseExperimental IndexedValue Grouping RandomAccess AbstractList AbstractMap AbstractSet AbstractCollection AbstractMutableList
	DeprecationLevel KotlinVersion AnnotationTarget AnnotationRetention LazyThreadSafetyMode ThreadLocal ClassLoader Package Readable
	ClassNotFoundException NoSuchMethodException NoSuchFieldException SecurityException LinkageError StackOverflowError OutOfMemoryError
	VirtualMachineError NoClassDefFoundError ExceptionInInitializerError CloneNotSupportedException ReflectiveOperationException
	IllegalAccessException InstantiationException StringBuffer ProcessBuilder FunctionalInterface SafeVarargs SuppressWarnings`)

// Resolver resolves the names of a tree's Kotlin files. It is read-only once
// made.
type Resolver struct {
	g        *graph.Graph
	types    map[string][]lexis.Ref // Kotlin's and Java's, by full name
	tops     map[string][]lexis.Ref // functions and properties outside of types, by full name
	packages map[string]string      // to the folder of their first file
	members  map[string]bool        // names of members of any type of the tree
	mu       sync.Mutex
	supers   map[lexis.Ref][]lexis.Ref
}

// NewResolver indexes the Kotlin and Java files of g.
func NewResolver(g *graph.Graph) *Resolver {
	x := &Resolver{g: g, types: make(map[string][]lexis.Ref), tops: make(map[string][]lexis.Ref), packages: make(map[string]string),
		members: make(map[string]bool), supers: make(map[lexis.Ref][]lexis.Ref)}
	any := false
	for _, f := range g.Files {
		any = any || f.Language == "kotlin"
	}
	if !any {
		return x
	}
	for i, f := range g.Files {
		if f.Language != "kotlin" && f.Language != "java" {
			continue
		}
		if _, ok := x.packages[f.Package]; !ok {
			x.packages[f.Package] = graph.Folder(f.Path)
		}
		for d := range f.Decls {
			k := &f.Decls[d]
			for m := range k.Members {
				x.members[k.Members[m].Name] = true
			}
			if k.Flags&fact.Local != 0 || k.Flags&fact.Anonymous != 0 || k.Name == "" {
				continue
			}
			name := graph.DeclName(f, f.Package, int32(d))
			ref := lexis.Ref{File: int32(i), Decl: int32(d)}
			if k.Kind.IsType() {
				x.types[name] = append(x.types[name], ref)
			} else if k.Outer < 0 {
				x.tops[name] = append(x.tops[name], ref)
			}
		}
	}
	return x
}

type env struct {
	x     *Resolver
	file  int
	f     *fact.File
	local map[string]int32 // imports by local name
	stars []star
}

type star struct {
	imp  int32
	name string
	hits map[lexis.Ref]bool
	tree bool // a package or type of the tree
}

func (x *Resolver) open(i int) *env {
	e := &env{x: x, file: i, f: x.g.Files[i], local: make(map[string]int32)}
	for k := range e.f.Imports {
		imp := &e.f.Imports[k]
		if imp.Kind == fact.ImportWildcard {
			_, pkg := x.packages[imp.Name]
			e.stars = append(e.stars, star{imp: int32(k), name: imp.Name, tree: pkg || x.types[imp.Name] != nil})
			continue
		}
		name := imp.Alias
		if name == "" {
			name = imp.Name[strings.LastIndexByte(imp.Name, '.')+1:]
		}
		e.local[name] = int32(k)
	}
	return e
}

func in(pkg, name string) string {
	if pkg == "" {
		return name
	}
	return pkg + "." + name
}

// Resolve adds the dependencies of the Kotlin file i to c.
func (x *Resolver) Resolve(i int, c *graph.Collector) {
	e := x.open(i)
	for k := range e.f.Uses {
		u := &e.f.Uses[k]
		switch {
		case u.How == fact.HowDynamic:
		case u.Flags&fact.Selected != 0:
			e.extension(u, c)
		case u.Flags&fact.Ambiguous != 0:
			e.value(u, c)
		default:
			e.typed(u, c)
		}
	}
	for k := range e.f.Imports {
		e.importRow(k, c)
	}
}

func (e *env) ref(refs []lexis.Ref) lexis.Ref { return lexis.Nearest(e.x.g, e.file, refs) }

func (e *env) emit(c *graph.Collector, ref lexis.Ref, how fact.How, flags graph.DepFlags, places []fact.Place) {
	if int(ref.File) == e.file {
		return
	}
	t := e.x.g.Files[ref.File]
	c.Add(graph.Dep{Target: graph.ToFile, File: ref.File, Decl: ref.Decl, Name: graph.DeclName(t, t.Package, ref.Decl), How: how, Flags: flags}, places)
}

// outsidePackage is the package part of an outside name: types begin with a
// capital (Kotlin coding conventions, "Naming rules").
func outsidePackage(name string) string {
	segs := strings.Split(name, ".")
	for n, s := range segs {
		if s != "" && s[0] >= 'A' && s[0] <= 'Z' {
			if n == 0 {
				return name
			}
			return strings.Join(segs[:n], ".")
		}
	}
	if len(segs) > 1 {
		return strings.Join(segs[:len(segs)-1], ".")
	}
	return name
}

// typePart cuts what follows the first type in a full name: its members.
func typePart(name string) string {
	for n := 0; n < len(name); {
		seg, _, _ := strings.Cut(name[n:], ".")
		if seg != "" && seg[0] >= 'A' && seg[0] <= 'Z' {
			return name[:n+len(seg)]
		}
		n += len(seg) + 1
	}
	return name
}

func standard(name string) bool {
	return name == "kotlin" || strings.HasPrefix(name, "kotlin.") || strings.HasPrefix(name, "java.") || strings.HasPrefix(name, "javax.crypto") ||
		strings.HasPrefix(name, "javax.net") || strings.HasPrefix(name, "javax.sql") || strings.HasPrefix(name, "javax.swing") || strings.HasPrefix(name, "javax.xml.parsers")
}

func (e *env) outside(c *graph.Collector, name string, how fact.How, flags graph.DepFlags, places []fact.Place) {
	if standard(name) {
		flags |= graph.Standard
	}
	name = typePart(name)
	c.Add(graph.Dep{Target: graph.ToOutside, To: outsidePackage(name), Name: name, Decl: -1, How: how, Flags: flags}, places)
}

// supersOf returns the supertypes of a type that the tree declares.
func (x *Resolver) supersOf(ref lexis.Ref) []lexis.Ref {
	x.mu.Lock()
	list, ok := x.supers[ref]
	if !ok {
		x.supers[ref] = nil // a cycle ends here
	}
	x.mu.Unlock()
	if ok {
		return list
	}
	f := x.g.Files[ref.File]
	k := &f.Decls[ref.Decl]
	e := x.open(int(ref.File))
	for _, u := range k.Supers {
		if to, rest, _, _ := e.typeFrom(k.Outer, f.Uses[u].Name, 1); rest == "" && to.File >= 0 && to != ref {
			list = append(list, to)
		}
	}
	x.mu.Lock()
	x.supers[ref] = list
	x.mu.Unlock()
	return list
}

// nested finds a type that a type declares or inherits, its companion's too.
func (e *env) nested(ref lexis.Ref, name string, depth int) (lexis.Ref, bool) {
	f := e.x.g.Files[ref.File]
	full := graph.DeclName(f, f.Package, ref.Decl)
	for _, n := range []string{full + "." + name, full + ".Companion." + name} {
		if refs := e.x.types[n]; refs != nil {
			return e.ref(refs), true
		}
	}
	if depth > 15 {
		return lexis.Ref{}, false
	}
	for _, s := range e.x.supersOf(ref) {
		if to, ok := e.nested(s, name, depth+1); ok {
			return to, true
		}
	}
	return lexis.Ref{}, false
}

var none = lexis.Ref{File: -1, Decl: -1}

// typeFrom resolves a dotted name in type position from a scope: the type of
// the tree and what is left of the name, or the full name of an outside type.
// via is the wildcard import that it came through, or -1.
func (e *env) typeFrom(scope int32, name string, depth int) (to lexis.Ref, rest, outside string, via int) {
	head, tail, _ := strings.Cut(name, ".")
	walk := func(ref lexis.Ref) (lexis.Ref, string) {
		for tail != "" {
			seg, more, _ := strings.Cut(tail, ".")
			next, ok := e.nested(ref, seg, 0)
			if !ok {
				break
			}
			ref, tail = next, more
		}
		return ref, tail
	}
	for d := scope; d >= 0; d = e.f.Decls[d].Outer {
		if !e.f.Decls[d].Kind.IsType() {
			continue
		}
		if ref, ok := e.nested(lexis.Ref{File: int32(e.file), Decl: d}, head, depth*10); ok {
			to, rest = walk(ref)
			return to, rest, "", -1
		}
	}
	if k, ok := e.local[head]; ok {
		full := e.f.Imports[k].Name
		if refs := e.x.types[full]; refs != nil {
			to, rest = walk(e.ref(refs))
			return to, rest, "", -1
		}
		if tail != "" {
			full += "." + tail
		}
		return none, "", full, -1
	}
	if refs := e.x.types[in(e.f.Package, head)]; refs != nil {
		to, rest = walk(e.ref(refs))
		return to, rest, "", -1
	}
	for k := range e.stars {
		if refs := e.x.types[e.stars[k].name+"."+head]; refs != nil {
			to, rest = walk(e.ref(refs))
			return to, rest, "", k
		}
	}
	for _, p := range defaults {
		if refs := e.x.types[p+"."+head]; refs != nil {
			to, rest = walk(e.ref(refs))
			return to, rest, "", -1
		}
	}
	// A full name: a package, then types.
	for n := strings.LastIndexByte(name, '.'); n > 0; n = strings.LastIndexByte(name[:n], '.') {
		seg, more, _ := strings.Cut(name[n+1:], ".")
		if _, ok := e.x.packages[name[:n]]; !ok {
			continue
		}
		if refs := e.x.types[name[:n]+"."+seg]; refs != nil {
			tail = more
			to, rest = walk(e.ref(refs))
			return to, rest, "", -1
		}
	}
	return none, name, "", -1
}

func (e *env) hit(via int, ref lexis.Ref) {
	if via < 0 {
		return
	}
	if e.stars[via].hits == nil {
		e.stars[via].hits = make(map[lexis.Ref]bool)
	}
	e.stars[via].hits[ref] = true
}

func (e *env) typed(u *fact.Use, c *graph.Collector) {
	places := e.f.PlacesOf(u)
	to, _, out, via := e.typeFrom(u.Scope, u.Name, 0)
	switch {
	case to.File >= 0:
		e.hit(via, to)
		e.emit(c, to, u.How, 0, places)
	case out != "":
		e.outside(c, out, u.How, 0, places)
	default:
		e.unknown(u, c, places)
	}
}

// unknown handles a type name that nothing in the tree declares.
func (e *env) unknown(u *fact.Use, c *graph.Collector, places []fact.Place) {
	head, rest, qualified := strings.Cut(u.Name, ".")
	switch {
	case builtins[head]:
		c.Add(graph.Dep{Target: graph.ToOutside, To: "kotlin", Name: "kotlin." + u.Name, Decl: -1, How: u.How, Flags: graph.Standard}, places)
		return
	case qualified && head != "" && head[0] >= 'a' && head[0] <= 'z' && strings.Contains(rest, "."):
		e.outside(c, u.Name, u.How, 0, places)
		return
	}
	candidate := -1
	for k := range e.stars {
		if !e.stars[k].tree {
			if candidate >= 0 {
				candidate = -2
				break
			}
			candidate = k
		}
	}
	if candidate >= 0 {
		e.outside(c, e.stars[candidate].name+"."+u.Name, u.How, 0, places)
		return
	}
	c.Add(graph.Dep{Target: graph.ToUnresolved, To: u.Name, Name: u.Name, Decl: -1, How: u.How}, places)
}

// member reports whether a type or one that it inherits from has a member of
// that name.
func (e *env) member(ref lexis.Ref, name string, depth int) bool {
	f := e.x.g.Files[ref.File]
	for m := range f.Decls[ref.Decl].Members {
		if f.Decls[ref.Decl].Members[m].Name == name {
			return true
		}
	}
	for d := range f.Decls { // of its companion
		if k := &f.Decls[d]; k.Outer == ref.Decl && k.Flags&fact.Companion != 0 {
			for m := range k.Members {
				if k.Members[m].Name == name {
					return true
				}
			}
		}
	}
	if depth > 15 {
		return false
	}
	for _, s := range e.x.supersOf(ref) {
		if e.member(s, name, depth+1) {
			return true
		}
	}
	return false
}

// ofAny are the members that every type has.
var ofAny = names("toString equals hashCode getClass")

// value resolves a dotted name in an expression.
func (e *env) value(u *fact.Use, c *graph.Collector) {
	places := e.f.PlacesOf(u)
	head, tail, qualified := strings.Cut(u.Name, ".")
	for d := u.Scope; d >= 0; d = e.f.Decls[d].Outer {
		if e.f.Decls[d].Kind.IsType() && (ofAny[head] || e.member(lexis.Ref{File: int32(e.file), Decl: d}, head, 0)) {
			return
		}
	}
	to, rest, out, via := e.typeFrom(u.Scope, u.Name, 0)
	if to.File >= 0 {
		how := u.How
		if u.Flags&fact.Call != 0 && rest == "" {
			how = fact.HowConstruct
		}
		e.hit(via, to)
		e.emit(c, to, how, 0, places)
		return
	}
	if k, ok := e.local[head]; ok {
		full := e.f.Imports[k].Name
		if refs := e.tops(full, true); refs != nil {
			e.emit(c, e.ref(refs), u.How, 0, places)
			return
		}
		if owner := e.owner(full); owner.File >= 0 { // a member of an object, an entry of an enum
			e.emit(c, owner, u.How, 0, places)
			return
		}
		if out != "" {
			e.outside(c, out, u.How, 0, places)
		}
		return
	}
	if refs := e.tops(in(e.f.Package, head), false); refs != nil {
		e.emit(c, e.ref(refs), u.How, 0, places)
		return
	}
	for k := range e.stars {
		if refs := e.tops(e.stars[k].name+"."+head, false); refs != nil {
			e.hit(k, e.ref(refs))
			e.emit(c, e.ref(refs), u.How, 0, places)
			return
		}
		if owners := e.x.types[e.stars[k].name]; owners != nil && e.member(e.ref(owners), head, 0) {
			e.emit(c, e.ref(owners), u.How, 0, places)
			return
		}
	}
	for _, p := range defaults {
		if refs := e.tops(p+"."+head, false); refs != nil {
			e.emit(c, e.ref(refs), u.How, 0, places)
			return
		}
	}
	if !qualified {
		return
	}
	// A full name of a function or property.
	name := u.Name
	for n := strings.LastIndexByte(name, '.'); n > 0; n = strings.LastIndexByte(name[:n], '.') {
		seg, _, _ := strings.Cut(name[n+1:], ".")
		if _, ok := e.x.packages[name[:n]]; ok {
			if refs := e.x.tops[name[:n]+"."+seg]; refs != nil {
				e.emit(c, e.ref(refs), u.How, 0, places)
				return
			}
		}
	}
	if head != "" && head[0] >= 'a' && head[0] <= 'z' && strings.Contains(tail, ".") {
		for _, p := range []string{"java.", "javax.", "kotlin.", "kotlinx.", "org.", "com.", "io.", "net.", "android.", "androidx."} {
			if strings.HasPrefix(name, p) && outsidePackage(name) != name && hasCapital(name) {
				e.outside(c, name, u.How, 0, places)
				return
			}
		}
	}
}

func hasCapital(name string) bool {
	for _, s := range strings.Split(name, ".") {
		if s != "" && s[0] >= 'A' && s[0] <= 'Z' {
			return true
		}
	}
	return false
}

// tops returns the functions and properties of a full name that a use may
// mean.
//
// An extension without its receiver may be a member of a receiver that only
// inference tells, where any type has one of that name.
func (e *env) tops(full string, imported bool) (out []lexis.Ref) {
	refs := e.x.tops[full]
	for _, r := range refs {
		k := &e.x.g.Files[r.File].Decls[r.Decl]
		if k.Receiver != "" && !imported && e.x.members[k.Name] {
			continue
		}
		if int(r.File) != e.file && k.Flags&fact.Private != 0 {
			continue
		}
		out = append(out, r)
	}
	return out
}

// owner returns the type whose member a full name is.
func (e *env) owner(full string) lexis.Ref {
	if n := strings.LastIndexByte(full, '.'); n > 0 {
		if refs := e.x.types[full[:n]]; refs != nil {
			return e.ref(refs)
		}
	}
	return none
}

// extension resolves a name behind a ".": an extension that an import, the
// package or a wildcard brings in.
func (e *env) extension(u *fact.Use, c *graph.Collector) {
	places := e.f.PlacesOf(u)
	if k, ok := e.local[u.Name]; ok {
		if refs := e.extensions(e.f.Imports[k].Name); refs != nil {
			e.emit(c, e.ref(refs), u.How, 0, places)
		}
		return
	}
	if e.x.members[u.Name] {
		return // a member of some type; which one is meant, only inference tells
	}
	if refs := e.extensions(in(e.f.Package, u.Name)); refs != nil {
		e.emit(c, e.ref(refs), u.How, 0, places)
		return
	}
	for k := range e.stars {
		if refs := e.extensions(e.stars[k].name + "." + u.Name); refs != nil {
			e.hit(k, e.ref(refs))
			e.emit(c, e.ref(refs), u.How, 0, places)
			return
		}
	}
}

func (e *env) extensions(full string) (out []lexis.Ref) {
	for _, r := range e.x.tops[full] {
		k := &e.x.g.Files[r.File].Decls[r.Decl]
		if k.Receiver != "" && (int(r.File) == e.file || k.Flags&fact.Private == 0) {
			out = append(out, r)
		}
	}
	return out
}

func (e *env) importRow(k int, c *graph.Collector) {
	x := e.x
	imp := &e.f.Imports[k]
	places := []fact.Place{imp.At}
	flags := graph.DepFlags(0)
	if imp.Kind == fact.ImportWildcard {
		for s := range e.stars {
			st := &e.stars[s]
			if st.imp != int32(k) {
				continue
			}
			folder, pkg := x.packages[imp.Name]
			switch {
			case x.types[imp.Name] != nil:
				e.emit(c, e.ref(x.types[imp.Name]), fact.HowImport, 0, places)
			case pkg && len(st.hits) > 0:
				for ref := range st.hits {
					e.emit(c, ref, fact.HowImport, 0, places)
				}
			case pkg:
				c.Add(graph.Dep{Target: graph.ToPackage, To: folder, Name: imp.Name, Decl: -1, How: fact.HowImport, Flags: graph.Bare}, places)
			default:
				if standard(imp.Name) {
					flags |= graph.Standard
				}
				c.Add(graph.Dep{Target: graph.ToOutside, To: imp.Name, Name: imp.Name, Decl: -1, How: fact.HowImport, Flags: flags}, places)
			}
		}
		return
	}
	if !imp.Used {
		flags = graph.Unused
	}
	if refs := x.types[imp.Name]; refs != nil {
		e.emit(c, e.ref(refs), fact.HowImport, flags, places)
		return
	}
	if refs := x.tops[imp.Name]; refs != nil {
		e.emit(c, e.ref(refs), fact.HowImport, flags, places)
		return
	}
	if owner := e.owner(imp.Name); owner.File >= 0 {
		e.emit(c, owner, fact.HowImport, flags, places)
		return
	}
	e.outside(c, imp.Name, fact.HowImport, flags, places)
}
