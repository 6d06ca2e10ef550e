package csharp

import (
	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// typeDecl reads a type declaration (clauses 15, 16, 18, 19; records) whose
// keyword is at token i and whose name is at k.
func (r *Reader) typeDecl(i, k, to int, flags fact.Flags) int {
	if r.At(k) != lexis.Name {
		return k
	}
	d := fact.Decl{Name: r.text1(k), Kind: fact.Class, Flags: flags, Outer: r.scope, At: r.Where(k)}
	switch string(r.Bytes(i)) {
	case "struct":
		d.Kind = fact.Struct
	case "interface":
		d.Kind = fact.Interface
		d.Flags |= fact.Abstract
	case "enum":
		d.Kind = fact.Enum
	case "record":
		d.Kind = fact.Record
	}
	d.Markers = r.b.Ints(r.marks)
	r.marks = r.marks[:0]
	mark := r.locals.Mark()
	n, k := r.typeParameters(k + 1)
	d.Arity = uint8(min(n, 255))
	self := r.b.Declare(d)
	outer := r.scope
	r.scope = self
	defer func() {
		r.scope = outer
		r.locals.Leave(mark)
	}()
	var members []fact.Member
	if r.At(k) == '(' { // a primary constructor
		end := r.Pair(k)
		m := fact.Member{Name: d.Name, Kind: fact.Constructor, Flags: fact.Public, At: r.Where(k)}
		var sig []int32
		for _, p := range r.parameters(k+1, end, &sig) {
			if d.Kind == fact.Record {
				members = append(members, fact.Member{Name: p.name, Flags: fact.Public, At: p.at, Uses: r.b.Ints(p.uses)})
			}
		}
		m.Uses = r.b.Ints(sig)
		members = append(members, m)
		k = end + 1
	}
	var supers []int32
	if r.At(k) == ':' {
		for k++; k < to; k++ {
			stop, ok := r.skipType(k)
			if !ok {
				break
			}
			if u := r.typeRef(k, stop, fact.HowInherit, nil); u >= 0 {
				supers = append(supers, u)
			}
			k = stop
			if r.At(k) == '(' {
				r.code(k+1, r.Pair(k))
				k = r.Pair(k) + 1
			}
			if r.At(k) != ',' {
				break
			}
		}
	}
	r.b.Decl(self).Supers = r.b.Ints(supers)
	k = r.constraints(k, to, nil)
	if r.At(k) != '{' {
		r.b.Decl(self).Members = r.b.Members(members)
		if r.At(k) == ';' {
			k++
		}
		return k
	}
	end := r.Pair(k)
	if r.nesting >= deepest {
		return end + 1
	}
	r.nesting++
	saved := r.members
	r.members = members
	if d.Kind == fact.Enum {
		r.constants(k+1, end)
	} else {
		r.declarations(k+1, end, d.Kind)
	}
	r.b.Decl(self).Members = r.b.Members(r.members)
	r.members = saved
	r.nesting--
	return end + 1
}

// constants reads the members of an enum (clause 19.4).
func (r *Reader) constants(i, to int) {
	for i < to {
		r.marks = r.marks[:0]
		i = r.attributes(i)
		if r.At(i) == lexis.Name {
			r.members = append(r.members, fact.Member{Name: r.b.Text(r.Bytes(i)), Flags: fact.Public | fact.Static, At: r.Where(i), Markers: r.b.Ints(r.marks)})
		}
		k := i
		for k < to && r.At(k) != ',' {
			k = max(k, r.Pair(k)) + 1
		}
		r.code(i+1, min(k, to))
		i = k + 1
	}
}

// delegate reads a delegate declaration at token i (clause 20.2).
func (r *Reader) delegate(i, to int, flags fact.Flags) int {
	k := i + 1
	stop, ok := r.skipType(k)
	if !ok || !r.ident(stop) {
		return r.past(i, to)
	}
	mark := r.locals.Mark()
	n, p := r.typeParameters(stop + 1)
	self := r.b.Declare(fact.Decl{Name: r.text1(stop), Kind: fact.NamedType, Flags: flags, Arity: uint8(min(n, 255)), Outer: r.scope, At: r.Where(stop), Markers: r.b.Ints(r.marks)})
	r.marks = r.marks[:0]
	var sig []int32
	r.typeRef(k, stop, fact.HowType, &sig)
	if r.At(p) == '(' {
		inner := r.locals.Mark()
		r.parameters(p+1, r.Pair(p), &sig)
		r.locals.Leave(inner)
		p = r.Pair(p) + 1
	}
	p = r.constraints(p, to, &sig)
	r.b.Decl(self).Members = r.b.Members([]fact.Member{{Name: "Invoke", Kind: fact.MethodMember, Flags: fact.Public | fact.Abstract, At: r.Where(stop), Uses: r.b.Ints(sig)}})
	r.locals.Leave(mark)
	return r.past(p, to)
}

type parameter struct {
	name string
	at   fact.Place
	uses []int32
}

// parameters reads a parameter list between two tokens (clause 15.6.2) and
// brings the names into scope.
func (r *Reader) parameters(i, end int, sig *[]int32) (list []parameter) {
	for i < end {
		marks := append([]int32(nil), r.marks...)
		i = r.attributes(i)
		r.marks = append(r.marks[:0], marks...)
		for r.word(i, "this") || r.word(i, "ref") || r.word(i, "out") || r.word(i, "in") || r.word(i, "params") || r.word(i, "readonly") ||
			r.Is(i, "scoped") && r.At(i+1) == lexis.Name && r.At(i+2) == lexis.Name {
			i++
		}
		stop, ok := r.skipType(i)
		if ok && r.At(stop) == lexis.Name {
			from := len(*sig)
			r.typeRef(i, stop, fact.HowType, sig)
			name := r.text1(stop)
			r.locals.Declare(name)
			r.typed(name, i, stop)
			list = append(list, parameter{name, r.Where(stop), (*sig)[from:]})
			i = stop + 1
		}
		k := i
		for k < end && r.At(k) != ',' {
			k = max(k, r.Pair(k)) + 1
		}
		r.code(i, min(k, end))
		i = k + 1
	}
	return list
}

// typed notes the written type of a local variable, between two tokens, so
// that an extension method called on it can be told.
func (r *Reader) typed(name string, i, stop int) {
	delete(r.typeOf, name)
	if r.ident(i) && !r.Is(i, "var") && !r.Is(i, "dynamic") && r.At(stop-1) != ']' && !r.typeParameter(r.Bytes(i)) {
		r.typeOf[name] = string(r.full(i, stop))
	}
}

// member reads one member of a type at token i, behind its modifiers.
func (r *Reader) member(i, to int, flags fact.Flags, inside fact.DeclKind) int {
	if inside == fact.Interface && flags&(fact.Private|fact.Protected) == 0 {
		flags |= fact.Public
	}
	m := fact.Member{Flags: flags, Markers: r.b.Ints(r.marks)}
	r.marks = r.marks[:0]
	var sig []int32
	mark := r.locals.Mark()
	defer r.locals.Leave(mark)
	switch {
	case r.At(i) == '~': // a destructor
		i++
		fallthrough
	case r.ident(i) && r.At(i+1) == '(' && !r.memberType(i): // a constructor
		m.Kind, m.Name, m.At = fact.Constructor, r.text1(i), r.Where(i)
		end := r.Pair(i + 1)
		r.parameters(i+2, end, &sig)
		r.keep(m, sig)
		k := end + 1
		if r.At(k) == ':' { // base(…) or this(…)
			n := k + 2
			if r.At(n) == '(' {
				r.code(n+1, r.Pair(n))
				n = r.Pair(n) + 1
			}
			k = n
		}
		return r.body(k, to)
	case r.word(i, "implicit"), r.word(i, "explicit"):
		k := i + 1
		for k < to && !r.word(k, "operator") {
			k++
		}
		stop, ok := r.skipType(k + 1)
		if !ok {
			return r.past(i, to)
		}
		m.Kind, m.Name, m.At = fact.MethodMember, "operator", r.Where(k)
		r.typeRef(k+1, stop, fact.HowType, &sig)
		return r.method(m, stop, to, sig)
	case r.word(i, "event"):
		i++
	}
	stop, ok := r.skipType(i)
	if !ok {
		return r.past(i, to)
	}
	typeAt, typeEnd := i, stop
	switch {
	case r.word(stop, "operator"):
		r.typeRef(typeAt, typeEnd, fact.HowType, &sig)
		k := stop + 1
		for k < to && r.At(k) != '(' {
			k++
		}
		if r.At(k) == '(' && r.At(k+1) == ')' && r.At(k+2) == '(' {
			k += 2
		}
		m.Kind, m.Name, m.At = fact.MethodMember, "operator", r.Where(stop)
		return r.method(m, k, to, sig)
	case r.At(stop) != lexis.Name:
		return r.past(i, to)
	}
	// Type parameters of a method are in scope in its return type.
	k := stop
	if n, ok := r.skipType(stop); ok && (r.At(n) == '(' || r.At(n) == '<') && r.ident(stop) {
		for g := stop; g < n; g++ {
			if r.At(g) == '<' && (r.At(g+1) == lexis.Name || r.At(g+1) == '[') {
				last := g
				for e := g; e < n; e++ {
					if r.At(e) == '.' {
						last = -1 // the arguments of an interface that the member names
					}
				}
				if last >= 0 {
					r.typeParameters(g)
				}
				break
			}
		}
	}
	r.typeRef(typeAt, typeEnd, fact.HowType, &sig)
	// The name, with the interface before it where one is named.
	last := stop
	for e := stop; ; {
		n := e + 1
		if r.At(n) == '<' {
			if a, ok := r.skipArguments(n, 0); ok {
				n = a
			}
		}
		if r.At(n) != '.' && r.At(n) != tColons || r.At(n+1) != lexis.Name {
			k = n
			last = e
			break
		}
		e = n + 1
	}
	if last > stop {
		// Interface.Member: what stands before the last "." is a type.
		dot := last - 1
		r.typeRef(stop, dot, fact.HowType, nil)
		if r.At(k) == '(' && r.At(last+1) == '<' {
			r.typeParameters(last + 1)
		}
	}
	m.Name, m.At = r.text1(last), r.Where(last)
	switch {
	case r.word(last, "this") && r.At(last+1) == '[': // an indexer
		end := r.Pair(last + 1)
		r.parameters(last+2, end, &sig)
		m.Kind = fact.MethodMember
		r.keep(m, sig)
		return r.property(end+1, to)
	case r.At(k) == '(':
		m.Kind = fact.MethodMember
		return r.method(m, k, to, sig)
	case r.At(k) == '{' || r.At(k) == tArrow:
		r.keep(m, sig)
		return r.property(k, to)
	}
	// A field, or several.
	r.keep(m, sig)
	for k < to {
		switch r.At(k) {
		case ';':
			return k + 1
		case '}':
			return k
		case ',':
			k++
			if r.At(k) == lexis.Name {
				more := m
				more.Name, more.At = r.text1(k), r.Where(k)
				r.keep(more, sig)
			}
			k++
		case '=':
			n := k + 1
			for n < to && r.At(n) != ';' && !(r.At(n) == ',' && r.declarator(n)) {
				n = max(n, r.Pair(n)) + 1
			}
			r.code(k+1, n)
			k = n
		case '[':
			r.code(k+1, r.Pair(k))
			k = r.Pair(k) + 1
		default:
			k++
		}
	}
	return k
}

// declarator reports whether a further variable is declared behind the "," at
// token i, and no type argument follows.
func (r *Reader) declarator(i int) bool {
	k := r.At(i + 2)
	return r.ident(i+1) && (k == '=' || k == ',' || k == ';')
}

// memberType tells "Type (…" of a tuple-like member from a constructor: the
// name of a constructor is its type's.
func (r *Reader) memberType(i int) bool {
	return string(r.Bytes(i)) != r.b.Decl(r.scope).Name && r.At(r.Pair(i+1)+1) == lexis.Name
}

func (r *Reader) keep(m fact.Member, sig []int32) {
	m.Uses = r.b.Ints(sig)
	r.members = append(r.members, m)
}

// method reads a method's parameters at token i and its body.
func (r *Reader) method(m fact.Member, i, to int, sig []int32) int {
	if r.At(i) != '(' {
		return r.past(i, to)
	}
	end := r.Pair(i)
	if r.word(i+1, "this") && m.Flags&fact.Static != 0 {
		m.Flags |= fact.Extension
	}
	r.parameters(i+1, end, &sig)
	k := r.constraints(end+1, to, &sig)
	if r.At(k) == ';' && r.scope >= 0 && r.b.Decl(r.scope).Kind == fact.Interface {
		m.Flags |= fact.Abstract
	}
	r.keep(m, sig)
	return r.body(k, to)
}

// body reads a block or an expression body at token k.
func (r *Reader) body(k, to int) int {
	switch r.At(k) {
	case '{':
		end := r.Pair(k)
		r.code(k+1, end)
		return end + 1
	case tArrow:
		n := k + 1
		for n < to && r.At(n) != ';' {
			n = max(n, r.Pair(n)) + 1
		}
		r.code(k+1, min(n, to))
		return n + 1
	}
	return r.past(k, to)
}

// property reads the accessors of a property, indexer or event at token k
// (clause 15.7) and its initializer.
func (r *Reader) property(k, to int) int {
	if r.At(k) == '{' {
		end := r.Pair(k)
		mark := r.locals.Mark()
		r.locals.Declare("value")
		for i := k + 1; i < end; {
			before := i
			i = r.attributes(i)
			for r.At(i) == lexis.Name { // modifiers; get, set, init, add, remove
				i++
			}
			if r.At(i) == '{' || r.At(i) == tArrow {
				i = r.body(i, end)
			} else {
				i++
			}
			i = max(i, before+1)
		}
		r.marks = r.marks[:0]
		r.locals.Leave(mark)
		k = end + 1
		if r.At(k) == '=' {
			n := k + 1
			for n < to && r.At(n) != ';' {
				n = max(n, r.Pair(n)) + 1
			}
			r.code(k+1, min(n, to))
			return n + 1
		}
		return k
	}
	return r.body(k, to)
}
