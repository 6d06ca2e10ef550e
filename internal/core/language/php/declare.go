package php

import (
	"bytes"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// flagsBefore returns the modifiers that stand before token i.
func (r *Reader) flagsBefore(i int) fact.Flags {
	flags := fact.Flags(0)
	for i--; r.At(i) == lexis.Name; i-- {
		switch string(r.low(r.Bytes(i))) {
		case "abstract":
			flags |= fact.Abstract
		case "final":
			flags |= fact.Final
		case "readonly":
		default:
			return flags
		}
	}
	return flags
}

// typeDecl reads the head of a class, interface, trait or enum at token i and
// opens its body.
func (r *Reader) typeDecl(i int) {
	d := fact.Decl{Kind: fact.Class, Flags: fact.Public | r.flagsBefore(i), Outer: r.scope, At: r.Where(i + 1)}
	switch r.Bytes(i)[0] | 0x20 {
	case 'i':
		d.Kind = fact.Interface
		d.Flags |= fact.Abstract
	case 'e':
		d.Kind = fact.Enum
	case 't':
		d.Flags |= fact.Partial // a trait: a piece that classes take in
	}
	// A type inside a function or method is declared in the namespace when
	// that runs (manual, "Nested functions and classes").
	for d.Outer >= 0 && r.b.Decl(d.Outer).Kind != fact.Namespace {
		d.Outer = r.b.Decl(d.Outer).Outer
	}
	d.Name = r.b.Intern(r.Bytes(i + 1))
	d.Markers = r.b.Ints(r.marks)
	r.marks = r.marks[:0]
	self := r.b.Declare(d)
	r.heritage(self, i+2)
}

// heritage reads extends and implements from token k on and opens the body.
func (r *Reader) heritage(self int32, k int) {
	var supers []int32
	if r.At(k) == ':' { // the type behind an enum's name
		k = r.types(k+1, nil)
	}
	outer := r.scope
	r.scope = self
	for r.IsFold(k, "extends") || r.IsFold(k, "implements") {
		for k++; r.At(k) == lexis.Name; k++ {
			if u := r.class(k, fact.HowInherit); u >= 0 {
				supers = append(supers, u)
			}
			if r.At(k+1) != ',' {
				k++
				break
			}
			k++
		}
	}
	r.b.Decl(self).Supers = r.b.Ints(supers)
	r.scope = outer
	if r.At(k) == '{' {
		r.push(frame{end: r.Pair(k), scope: r.scope, typ: true})
		r.scope = self
		k++
	}
	r.I = k
}

// member reads one member of a type, if one begins at the current token.
func (r *Reader) member() bool {
	i := r.attributes(r.I)
	flags := fact.Flags(0)
	modified := false
	for ; r.At(i) == lexis.Name; i++ {
		switch string(r.low(r.Bytes(i))) {
		case "public", "var":
			flags |= fact.Public
		case "protected":
			flags |= fact.Protected
		case "private":
			flags |= fact.Private
		case "static":
			flags |= fact.Static
		case "abstract":
			flags |= fact.Abstract
		case "final":
			flags |= fact.Final
		case "readonly":
		default:
			goto done
		}
		modified = true
		if r.At(i+1) == '(' && r.Is(i, "private") { // private(set)
			i = r.Pair(i + 1)
		}
	}
done:
	if flags&(fact.Protected|fact.Private) == 0 {
		flags |= fact.Public
	}
	m := fact.Member{Flags: flags}
	var sig []int32
	switch {
	case r.At(i) == lexis.Name && r.IsFold(i, "function"):
		r.I = i + 1
		r.function(i, &flags)
		return true
	case r.IsFold(i, "use"):
		r.traits(i)
		return true
	case r.IsFold(i, "case"):
		m.At, m.Flags = r.Where(i+1), flags|fact.Static
		m.Name = r.b.Text(r.Bytes(i + 1))
		r.keep(m, nil)
		r.I = i + 2
		return true
	case r.IsFold(i, "const"):
		i++
		if r.At(i+1) == lexis.Name || r.At(i) != lexis.Name || r.At(i+1) == '|' { // with a type
			i = r.types(i, &sig)
		}
		m.Flags |= fact.Static
		m.At = r.Where(i)
		m.Name = r.b.Text(r.Bytes(i))
		r.keep(m, sig)
		r.I = i + 1
		return true
	case modified || r.At(i) == tVariable:
		i = r.types(i, &sig)
		if r.At(i) != tVariable {
			break
		}
		m.At = r.Where(i)
		m.Name = r.b.Text(r.Bytes(i)[1:])
		r.keep(m, sig)
		r.I = i + 1
		if r.At(r.I) == '{' { // property hooks
			r.push(frame{end: r.Pair(r.I), scope: r.scope})
			r.I++
		}
		return true
	}
	if r.At(r.I) == lexis.Name && r.At(r.I-1) == ';' {
		r.I++ // damage
		return true
	}
	return false
}

// keep adds a member of the current type.
func (r *Reader) keep(m fact.Member, sig []int32) {
	m.Uses = r.b.Ints(sig)
	m.Markers = r.b.Ints(r.marks)
	r.marks = r.marks[:0]
	r.members = append(r.members, m)
}

// traits reads "use A, B { … }" in a type.
func (r *Reader) traits(i int) {
	d := r.b.Decl(r.scope)
	supers := append([]int32(nil), d.Supers...)
	k := i + 1
	for ; r.At(k) == lexis.Name; k++ {
		if u := r.class(k, fact.HowInherit); u >= 0 {
			supers = append(supers, u)
		}
		if r.At(k+1) != ',' {
			k++
			break
		}
		k++
	}
	r.b.Decl(r.scope).Supers = r.b.Ints(supers)
	if r.At(k) == '{' {
		for end := r.Pair(k); k < end; k++ {
			if r.At(k) == lexis.Name && (r.At(k+1) == tDouble || r.IsFold(k-1, "insteadof") || r.At(k-1) == ',') {
				r.class(k, fact.HowCall)
			}
		}
	}
	r.I = k + 1
}

// function reads a function, method, closure or arrow function at token i.
// flags is set for methods.
func (r *Reader) function(i int, flags *fact.Flags) {
	k := i + 1
	if r.At(k) == '&' {
		k++
	}
	name, at := "", r.Where(k)
	if r.At(k) == lexis.Name && r.At(k+1) == '(' && !r.IsFold(i, "fn") {
		name = r.b.Text(r.Bytes(k))
		k++
	}
	if r.At(k) != '(' {
		r.I = k
		return
	}
	marks := r.marks
	r.marks = nil
	var sig []int32
	outer := r.scope
	end := r.Pair(k)
	r.parameters(k+1, end, &sig, flags != nil && strings.EqualFold(name, "__construct"))
	k = end + 1
	if r.IsFold(k, "use") && r.At(k+1) == '(' {
		k = r.Pair(k+1) + 1
	}
	if r.At(k) == ':' {
		k = r.types(k+1, &sig)
	}
	r.marks = marks
	switch {
	case flags != nil:
		m := fact.Member{Name: name, Kind: fact.MethodMember, Flags: *flags, At: at}
		if strings.EqualFold(name, "__construct") {
			m.Kind = fact.Constructor
		}
		r.keep(m, sig)
	case name != "":
		d := fact.Decl{Name: name, Kind: fact.Func, Flags: fact.Public, Outer: r.space, At: at, Markers: r.b.Ints(r.marks)}
		r.b.Declare(d)
		r.marks = r.marks[:0]
	default:
		r.marks = r.marks[:0]
	}
	if r.At(k) == '{' {
		r.push(frame{end: r.Pair(k), scope: outer})
		k++
	}
	r.I = k
}

// parameters reads a parameter list between two indexes. Those of a
// constructor that wear a modifier are properties, too.
func (r *Reader) parameters(k, end int, sig *[]int32, promote bool) {
	for k < end {
		k = r.attributes(k)
		flags, promoted := fact.Flags(0), false
		for r.At(k) == lexis.Name {
			switch string(r.low(r.Bytes(k))) {
			case "public":
				flags |= fact.Public
			case "protected":
				flags |= fact.Protected
			case "private":
				flags |= fact.Private
			case "readonly":
			default:
				goto typed
			}
			promoted = true
			k++
		}
	typed:
		from := len(*sig)
		k = r.types(k, sig)
		for r.At(k) == '&' || r.At(k) == tDots {
			k++
		}
		if promoted && promote && r.At(k) == tVariable {
			if flags == 0 {
				flags = fact.Public
			}
			r.keep(fact.Member{Name: r.b.Text(r.Bytes(k)[1:]), Flags: flags, At: r.Where(k)}, (*sig)[from:])
		}
		r.marks = r.marks[:0]
		stop := k
		for stop < end && r.At(stop) != ',' {
			stop = max(stop, r.Pair(stop)) + 1
		}
		r.inner(k, min(stop, end))
		k = stop + 1
	}
}

// creation reads what follows new at token i.
func (r *Reader) creation(i int) {
	k := r.attributes(i + 1)
	r.marks = r.marks[:0]
	for r.IsFold(k, "readonly") || r.IsFold(k, "final") {
		k++
	}
	if r.At(k) != lexis.Name {
		r.I = k
		return
	}
	if !r.IsFold(k, "class") {
		r.class(k, fact.HowConstruct)
		r.I = k + 1
		return
	}
	self := r.b.Declare(fact.Decl{Kind: fact.Class, Flags: fact.Local | fact.Anonymous, Outer: r.scope, At: r.Where(k)})
	k++
	if r.At(k) == '(' {
		end := r.Pair(k)
		r.inner(k+1, end)
		k = end + 1
	}
	r.heritage(self, k)
}

// constants reads a const statement outside of types.
func (r *Reader) constants(i int) {
	k := i + 1
	if r.At(k) == lexis.Name && r.At(k+1) == '=' {
		r.b.Declare(fact.Decl{Name: r.b.Text(r.Bytes(k)), Kind: fact.Const, Flags: fact.Public, Outer: r.space, At: r.Where(k), Value: r.folded(k+2, ';')})
		r.I = k + 2
	}
}

// define reads define('NAME', …), which declares a constant by its full name.
func (r *Reader) define(i int) {
	k := i + 2
	if r.At(k) != lexis.String || r.At(k+1) != ',' {
		return
	}
	b := r.Bytes(k)
	if len(b) < 3 || b[0] != '\'' && b[0] != '"' {
		return
	}
	name := bytes.TrimPrefix(b[1:len(b)-1], []byte{'\\'})
	r.b.Declare(fact.Decl{Name: string(name), Kind: fact.Const, Flags: fact.Public, Outer: -1, At: r.Where(k), Value: r.folded(k+2, ')')})
}
