package java

import (
	"strings"

	"moatline/internal/core/fact"
)

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
	if r.bean != "" {
		d.Value, r.bean = r.bean, ""
		if d.Value == "?" { // the class's name, its first letter small
			d.Value = strings.ToLower(d.Name[:1]) + d.Name[1:]
		}
	}
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
			r.skipAnnotation() // its name is no parameter
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
