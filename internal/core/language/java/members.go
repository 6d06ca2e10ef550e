package java

import "moatline/internal/core/fact"

// components reads a record's header (JLS 17 §8.10.1).
func (r *Reader) components() {
	mark := len(r.undos)
	r.commaList(func() {
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
			m.Name = r.b.Text(r.text())
			r.declareField(r.start, r.stop)
			r.next()
			r.dims()
		}
		r.endSignature(&m)
		r.members = append(r.members, m)
	})
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

// constants reads the constants of an enum (JLS 17 §8.9.1).
func (r *Reader) constants(self int32) {
	for r.tok != ';' && r.tok != '}' && r.tok != tEOF {
		before := r.pos
		switch r.tok {
		case '@':
			r.annotation()
		case tIdent:
			m := fact.Member{Name: r.b.Text(r.text()), Kind: fact.Field, Flags: fact.Public | fact.Static | fact.Final, At: r.here()}
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
			m.Name, m.Kind = r.b.Text(name), fact.Constructor
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
	m.Name = r.b.Text(r.text())
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
		m.Name = r.b.Text(r.text())
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
	r.commaList(func() {
		r.variableModifiers()
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
	})
}

// commaList reads what stands between "(" and ")", an item at a time. Damage
// that no item takes is passed over; a brace or semicolon ends the list.
func (r *Reader) commaList(item func()) {
	r.next()
	for {
		switch r.tok {
		case ')':
			r.next()
			return
		case tEOF, '{', '}', ';':
			return
		}
		before := r.pos
		item()
		if r.tok == ',' {
			r.next()
		}
		if r.pos == before {
			r.next()
		}
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
		r.skipAnnotation()
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
