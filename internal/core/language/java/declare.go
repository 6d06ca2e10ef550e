package java

import (
	"moatline/internal/core/fact"
)

// unit reads a compilation unit (JLS 17 §7.3).
func (r *Reader) unit() {
	var flags fact.Flags
	for r.tok != tEOF {
		before := r.pos
		switch {
		case r.tok == kPackage:
			r.next()
			r.pkgAt = r.here()
			if r.qualified() {
				r.pkg = r.b.Intern(r.qualifiedName())
			}
			flags, r.marks = 0, r.marks[:0]
		case r.tok == kImport:
			r.importDecl()
		case r.tok == ';':
			flags, r.marks = 0, r.marks[:0]
			r.next()
		case r.modifier(&flags):
		case r.typeStart():
			r.typeDecl(flags, false)
			flags, r.marks = 0, r.marks[:0]
		case r.word("open") || r.word("module"):
			if r.moduleDecl() {
				continue
			}
			fallthrough
		default:
			// A method or field outside any class: allowed in later
			// versions, and what is left of damaged ones.
			r.member(flags, fact.Class)
			flags, r.marks = 0, r.marks[:0]
		}
		if r.pos == before && r.tok != tEOF {
			r.next()
		}
	}
}

// modifier reads one modifier or annotation, if there is one.
func (r *Reader) modifier(flags *fact.Flags) bool {
	switch r.tok {
	case kPublic:
		*flags |= fact.Public
	case kProtected:
		*flags |= fact.Protected
	case kPrivate:
		*flags |= fact.Private
	case kStatic:
		*flags |= fact.Static
	case kAbstract:
		*flags |= fact.Abstract
	case kFinal:
		*flags |= fact.Final
	case kDefault:
		*flags |= fact.Default
	case kNative, kStrictfp, kSynchronized, kTransient, kVolatile:
	case '@':
		if r.atInterface() {
			return false
		}
		if m := r.annotation(); m >= 0 {
			r.marks = append(r.marks, m)
		}
		return true
	case tIdent:
		if r.word("sealed") && r.followedBy(func() bool { return r.tok != '(' && r.tok != '.' && r.tok != '=' && r.tok != ';' }) {
			break
		}
		if r.word("non") {
			save := r.cursor
			if r.next(); r.tok == '-' {
				if r.next(); r.word("sealed") {
					break
				}
			}
			r.cursor = save
		}
		return false
	default:
		return false
	}
	r.next()
	return true
}

// followedBy looks at what comes behind the current token and comes back.
func (r *Reader) followedBy(is func() bool) bool {
	save := r.cursor
	r.next()
	ok := is()
	r.cursor = save
	return ok
}

func (r *Reader) atInterface() bool {
	return r.tok == '@' && r.followedBy(func() bool { return r.tok == kInterface })
}

// typeStart reports whether a type declaration begins here, behind its
// modifiers (JLS 17 §8.1, §8.9, §8.10, §9.1, §9.6).
func (r *Reader) typeStart() bool {
	switch r.tok {
	case kClass, kInterface, kEnum:
		return true
	case '@':
		return r.atInterface()
	case tIdent:
		return r.recordStart()
	}
	return false
}

// recordStart tells "record Name(" and "record Name<" from other uses of the
// word.
func (r *Reader) recordStart() bool {
	if !r.word("record") {
		return false
	}
	save := r.cursor
	ok := false
	if r.next(); r.tok == tIdent {
		r.next()
		ok = r.tok == '(' || r.tok == '<'
	}
	r.cursor = save
	return ok
}

// qualified reads a dotted name into segs, as in package and import
// declarations, and reports whether there was one.
func (r *Reader) qualified() bool {
	r.segs = r.segs[:0]
	for r.tok == tIdent {
		r.segs = append(r.segs, seg{r.start, r.stop})
		save := r.cursor
		if r.next(); r.tok != '.' {
			return true
		}
		if r.next(); r.tok != tIdent {
			r.cursor = save
			r.next()
			return true
		}
	}
	return len(r.segs) > 0
}

func (r *Reader) qualifiedName() []byte {
	r.joined = r.joined[:0]
	for i, g := range r.segs {
		if i > 0 {
			r.joined = append(r.joined, '.')
		}
		r.joined = append(r.joined, r.src[g.start:g.stop]...)
	}
	return r.joined
}

// importDecl reads an import declaration (JLS 17 §7.5).
func (r *Reader) importDecl() {
	i := fact.Import{Kind: fact.ImportType}
	r.next()
	if r.tok == kStatic {
		i.Kind = fact.ImportStatic
		r.next()
	} else if r.word("module") && r.followedBy(func() bool { return r.tok == tIdent }) {
		i.Kind = fact.ImportModule
		r.next()
	}
	i.At = r.here()
	if !r.qualified() {
		r.b.Note(r.here(), "import without a name")
		return
	}
	i.Name = r.b.Intern(r.qualifiedName())
	last := r.segs[len(r.segs)-1]
	if r.tok == '.' {
		r.next()
		if r.tok == '*' {
			if i.Kind == fact.ImportStatic {
				i.Kind = fact.ImportStaticWildcard
			} else {
				i.Kind = fact.ImportWildcard
			}
			r.next()
		}
	}
	n := r.b.Import(i)
	if i.Kind == fact.ImportType || i.Kind == fact.ImportStatic {
		if s := &r.symbols[r.sym(last.start, last.stop)]; s.imported < 0 {
			s.imported = n
		} else {
			// Static imports of one name from several types are one more
			// overload each; a use may mean any of them.
			r.b.MarkUsed(n)
		}
	}
	if r.tok == ';' {
		r.next()
	}
}

// moduleDecl reads a module declaration (JLS 17 §7.7), if one begins here.
func (r *Reader) moduleDecl() bool {
	save := r.cursor
	if r.word("open") {
		r.next()
	}
	if !r.word("module") {
		r.cursor = save
		return false
	}
	r.next()
	if !r.qualified() || r.tok != '{' {
		r.cursor = save
		return false
	}
	m := &fact.Manifest{Module: string(r.qualifiedName())}
	r.manifest = m
	r.next()
	for r.tok != '}' && r.tok != tEOF {
		switch {
		case r.word("requires"):
			r.next()
			q := fact.Requirement{}
			for r.tok == kStatic || r.word("transitive") && r.followedBy(func() bool { return r.tok != ';' }) {
				q.Optional = q.Optional || r.tok == kStatic
				r.next()
			}
			q.At = r.here()
			if r.qualified() {
				q.Name = string(r.qualifiedName())
				m.Requires = append(m.Requires, q)
			}
		case r.word("uses"):
			r.next()
			if at := r.here(); r.qualified() {
				r.emit(len(r.segs), fact.HowType, 0, at)
			}
		case r.word("provides"):
			r.next()
			if at := r.here(); r.qualified() {
				r.emit(len(r.segs), fact.HowType, 0, at)
			}
			for r.word("with") || r.tok == ',' {
				r.next()
				if at := r.here(); r.qualified() {
					r.emit(len(r.segs), fact.HowWiring, 0, at)
				}
			}
		}
		for r.tok != ';' && r.tok != '}' && r.tok != tEOF {
			r.next()
		}
		if r.tok == ';' {
			r.next()
		}
	}
	r.next()
	return true
}

// typeDecl reads a type declaration at its keyword. Local declarations are
// those in bodies; their names end with the block.
func (r *Reader) typeDecl(flags fact.Flags, local bool) {
	d := fact.Decl{Flags: flags, Outer: r.scope, At: r.here()}
	switch r.tok {
	case kInterface:
		d.Kind = fact.Interface
	case kEnum:
		d.Kind = fact.Enum
	case '@':
		r.next()
		d.Kind = fact.Annotation
	case tIdent:
		d.Kind = fact.Record
	}
	if d.Kind == fact.Interface || d.Kind == fact.Annotation {
		d.Flags |= fact.Abstract
	}
	if r.scope >= 0 {
		if k := r.b.Decl(r.scope).Kind; k == fact.Interface || k == fact.Annotation {
			d.Flags |= fact.Public | fact.Static
		}
	}
	if local {
		d.Flags |= fact.Local
		d.Flags &^= fact.Public
	}
	d.Markers = r.b.Ints(r.marks)
	r.marks = r.marks[:0]
	r.next()
	if r.tok != tIdent {
		r.b.Note(r.here(), "type declaration without a name")
		return
	}
	d.At = r.here()
	d.Name = r.b.Intern(r.text())
	self := r.b.Declare(d)
	if local {
		r.typeName(r.start, r.stop, self)
	}
	mark := len(r.undos)
	r.next()
	sig := r.sig
	r.sig = nil
	if r.tok == '<' {
		r.typeParams()
	}
	memberMark := len(r.members)
	if d.Kind == fact.Record && r.tok == '(' {
		outer := r.scope
		r.scope = self
		r.components()
		r.scope = outer
	}
	var supers []int32
	for r.tok == kExtends || r.tok == kImplements || r.word("permits") {
		how := fact.HowInherit
		if r.tok == tIdent {
			how = fact.HowType
		}
		for {
			r.next()
			if u := r.typeRef(how); u >= 0 && how == fact.HowInherit {
				supers = append(supers, u)
			}
			if r.tok != ',' {
				break
			}
		}
	}
	r.b.Decl(self).Supers = r.b.Ints(supers)
	for r.tok != '{' && r.tok != '}' && r.tok != ';' && r.tok != tEOF {
		r.next()
	}
	if r.tok == '{' {
		r.body(self, d.Kind)
	}
	r.b.Decl(self).Members = r.b.Members(r.members[memberMark:])
	r.members = r.members[:memberMark]
	r.sig = sig
	r.leave(mark)
}

// typeParams reads type parameters with their bounds (JLS 17 §8.1.2) and
// brings their names into scope.
func (r *Reader) typeParams() {
	// All names first: a bound may name a later parameter.
	save := r.cursor
	depth := 0
	expect := true
	for r.tok != tEOF && r.tok != '{' && r.tok != ';' {
		switch {
		case r.tok == '<':
			depth++
		case r.tok == '>':
			depth--
		case r.tok == ',' && depth == 1:
			expect = true
			r.next()
			continue
		case r.tok == tIdent && depth == 1 && expect:
			r.typeName(r.start, r.stop, -1)
			expect = false
		case r.tok == '@' && depth == 1:
			r.next() // the annotation's name is no parameter
			for r.tok == tIdent {
				if r.next(); r.tok == '.' {
					r.next()
				}
			}
			if r.tok == '(' {
				r.skipBrackets()
			}
			continue
		}
		r.next()
		if depth == 0 {
			break
		}
	}
	r.cursor = save
	r.next()
	for r.tok != '>' && r.tok != tEOF {
		before := r.pos
		switch {
		case r.tok == '@':
			r.annotation()
		case r.tok == tIdent:
			r.next()
			if r.tok == kExtends {
				for {
					r.next()
					r.collect(r.typeRef(fact.HowType))
					if r.tok != '&' {
						break
					}
				}
			}
		case r.tok == ',':
			r.next()
		default:
			if r.tok == '{' || r.tok == ';' || r.tok == '(' {
				return
			}
			r.next()
		}
		if r.pos == before {
			r.next()
		}
	}
	r.next()
}

// collect adds a use to the signature being read.
func (r *Reader) collect(use int32) {
	if use >= 0 && r.sig != nil {
		r.sig = append(r.sig, use)
	}
}

// components reads a record's header (JLS 17 §8.10.1).
func (r *Reader) components() {
	mark := len(r.undos)
	r.next()
	for r.tok != ')' && r.tok != tEOF && r.tok != '{' {
		before := r.pos
		m := fact.Member{Kind: fact.Field, Flags: fact.Public}
		r.startSignature()
		var flags fact.Flags
		for r.modifier(&flags) {
		}
		r.collect(r.typeRef(fact.HowType))
		if r.tok == tDots {
			r.next()
		}
		if r.tok == tIdent {
			m.At = r.here()
			m.Name = r.b.Intern(r.text())
			r.declareField(r.start, r.stop)
			r.next()
			r.dims()
		}
		r.endSignature(&m)
		r.members = append(r.members, m)
		if r.tok == ',' {
			r.next()
		}
		if r.pos == before {
			r.next()
		}
	}
	if r.tok == ')' {
		r.next()
	}
	r.leave(mark)
}

func (r *Reader) startSignature() {
	r.sig = r.sigSpace[:0]
	r.marks = r.marks[:0]
}

func (r *Reader) endSignature(m *fact.Member) {
	m.Uses = r.b.Ints(r.sig)
	m.Markers = r.b.Ints(r.marks)
	r.sig = nil
	r.marks = r.marks[:0]
}

// body reads a class body (JLS 17 §8.1.7) at its "{".
func (r *Reader) body(self int32, kind fact.DeclKind) {
	if !r.deeper() {
		return
	}
	outer := r.scope
	r.scope = self
	mark := len(r.undos)
	r.next()
	if kind == fact.Enum {
		r.constants(self)
	}
	for r.tok != '}' && r.tok != tEOF {
		before := r.pos
		if r.tok == ';' {
			r.next()
			continue
		}
		r.marks = r.marks[:0]
		var flags fact.Flags
		for r.modifier(&flags) {
		}
		if r.typeStart() {
			r.typeDecl(flags, false)
		} else {
			r.member(flags, kind)
		}
		if r.pos == before && r.tok != '}' {
			r.next()
		}
	}
	if r.tok == tEOF {
		r.b.Note(r.here(), "type body without its closing brace")
	}
	r.next()
	r.leave(mark)
	r.scope = outer
	r.shallower()
}

// constants reads the constants of an enum (JLS 17 §8.9.1).
func (r *Reader) constants(self int32) {
	for r.tok != ';' && r.tok != '}' && r.tok != tEOF {
		before := r.pos
		switch r.tok {
		case '@':
			r.annotation()
		case tIdent:
			m := fact.Member{Name: r.b.Intern(r.text()), Kind: fact.Field, Flags: fact.Public | fact.Static | fact.Final, At: r.here()}
			r.members = append(r.members, m)
			r.declareField(r.start, r.stop)
			at := r.here()
			r.next()
			if r.tok == '(' {
				r.paren(false)
			}
			if r.tok == '{' {
				u := r.b.Use([]byte(r.b.Decl(self).Name), fact.Use{Scope: self, Local: self, How: fact.HowInherit, Flags: fact.InFile}, at)
				if int(u) == len(r.heads) {
					r.heads = append(r.heads, r.sym(r.start, r.start))
				}
				r.anonymous(u, at)
			}
		default:
			r.next()
		}
		if r.pos == before {
			r.next()
		}
	}
}

// anonymous reads the body of an anonymous class at its "{"; super is the use
// that names its supertype, or -1.
func (r *Reader) anonymous(super int32, at fact.Place) {
	d := fact.Decl{Kind: fact.Class, Flags: fact.Local | fact.Anonymous, Outer: r.scope, At: at}
	if super >= 0 {
		d.Supers = r.b.Ints([]int32{super})
	}
	self := r.b.Declare(d)
	sig, memberMark := r.sig, len(r.members)
	r.sig = nil
	r.body(self, fact.Class)
	r.b.Decl(self).Members = r.b.Members(r.members[memberMark:])
	r.members = r.members[:memberMark]
	r.sig = sig
}

// member reads a field, method, constructor or initializer behind its
// modifiers (JLS 17 §8.3 to §8.8, §9.3, §9.4, §9.6.1).
func (r *Reader) member(flags fact.Flags, kind fact.DeclKind) {
	if r.tok == '{' {
		r.block()
		return
	}
	if kind == fact.Interface || kind == fact.Annotation {
		if flags&fact.Private == 0 {
			flags |= fact.Public
		}
	}
	marks := r.b.Ints(r.marks)
	mark := len(r.undos)
	r.sig = r.sigSpace[:0]
	if r.tok == '<' {
		r.typeParams()
	}
	m := fact.Member{Flags: flags, At: r.here(), Markers: marks}
	if r.tok == tIdent {
		// A constructor: the class's name and its parameters, or a compact
		// one of a record.
		save := r.cursor
		name := r.text()
		r.next()
		if r.tok == '(' || r.tok == '{' {
			m.Name, m.Kind = r.b.Intern(name), fact.Constructor
			r.method(&m, mark)
			return
		}
		r.cursor = save
	}
	if r.tok != tIdent && r.tok != kPrimitive && r.tok != '@' {
		r.sig = nil
		r.leave(mark)
		return // not a member: the caller moves on
	}
	r.collect(r.typeRef(fact.HowType))
	if r.tok != tIdent {
		r.sig = nil
		r.leave(mark)
		return
	}
	m.At = r.here()
	m.Name = r.b.Intern(r.text())
	start, stop := r.start, r.stop
	r.next()
	if r.tok == '(' {
		m.Kind = fact.MethodMember
		r.method(&m, mark)
		return
	}
	types := r.b.Ints(r.sig)
	r.sig = nil
	for {
		m.Uses = types
		r.members = append(r.members, m)
		r.declareField(start, stop)
		r.dims()
		if r.tok == '=' {
			r.next()
			r.expression()
		}
		if r.tok != ',' {
			break
		}
		r.next()
		if r.tok != tIdent {
			break
		}
		m.At = r.here()
		m.Name = r.b.Intern(r.text())
		start, stop = r.start, r.stop
		r.next()
	}
	if r.tok == ';' {
		r.next()
	}
	r.leave(mark)
}

// method reads a method or constructor from its parameters on.
func (r *Reader) method(m *fact.Member, mark int) {
	if r.tok == '(' {
		r.parameters()
	}
	r.dims()
	if r.tok == kThrows {
		for {
			r.next()
			r.collect(r.typeRef(fact.HowType))
			if r.tok != ',' {
				break
			}
		}
	}
	m.Uses = r.b.Ints(r.sig)
	r.sig = nil
	slot := len(r.members)
	r.members = append(r.members, *m)
	if r.tok == kDefault {
		r.next()
		r.expression()
	}
	switch r.tok {
	case '{':
		r.block()
	case ';':
		if r.scope >= 0 && r.b.Decl(r.scope).Kind == fact.Interface {
			r.members[slot].Flags |= fact.Abstract
		}
		r.next()
	}
	r.leave(mark)
}

// parameters reads formal parameters (JLS 17 §8.4.1) and brings them into
// scope.
func (r *Reader) parameters() {
	r.next()
	for r.tok != ')' && r.tok != tEOF && r.tok != '{' && r.tok != ';' {
		before := r.pos
		for r.tok == kFinal || r.tok == '@' && !r.atInterface() {
			if r.tok == '@' {
				r.annotation()
			} else {
				r.next()
			}
		}
		r.collect(r.typeRef(fact.HowType))
		for r.tok == '@' {
			r.annotation()
		}
		if r.tok == tDots {
			r.next()
		}
		switch r.tok {
		case tIdent:
			r.variable(r.start, r.stop)
			r.next()
			if r.tok == '.' { // the receiver parameter: Outer.this
				r.next()
				r.next()
			}
			r.dims()
		case kThis:
			r.next()
		}
		if r.tok == ',' {
			r.next()
		}
		if r.pos == before {
			r.next()
		}
	}
	if r.tok == ')' {
		r.next()
	}
}

// dims passes over the brackets of an array type, with their annotations.
func (r *Reader) dims() bool {
	some := false
	for {
		switch {
		case r.tok == '[' && r.followedBy(func() bool { return r.tok == ']' }):
			r.next()
			r.next()
			some = true
		case r.tok == '@' && !r.atInterface() && r.annotatedDims():
			some = true
		default:
			return some
		}
	}
}

// annotatedDims reads annotations if brackets follow them.
func (r *Reader) annotatedDims() bool {
	save := r.cursor
	for r.tok == '@' {
		r.next()
		for r.tok == tIdent {
			if r.next(); r.tok == '.' {
				r.next()
			}
		}
		if r.tok == '(' {
			r.skipBrackets()
		}
	}
	ok := r.tok == '[' || r.tok == tDots
	r.cursor = save
	if ok {
		for r.tok == '@' {
			r.annotation()
		}
	}
	return ok
}
