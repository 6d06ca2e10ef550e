package kotlin

import (
	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// declarations reads what is declared between two tokens, outside of bodies.
func (r *Reader) declarations(i, to int, inType bool) {
	if r.depth > deepest {
		return
	}
	r.depth++
	for i < to {
		before := i
		r.marks = r.marks[:0]
		flags, k := r.modifiersAt(i)
		if n, ok := r.declaration(k, to, flags, inType, false); ok {
			i = n
		} else {
			// A script's statement, or damage.
			stop := k
			for stop < to && !(stop > k && r.NewLine(stop)) && r.At(stop) != ';' {
				stop = max(stop, r.Pair(stop)) + 1
			}
			r.code(k, min(stop, to))
			i = stop
		}
		i = max(i, before+1)
	}
	r.depth--
}

// declaration reads the declaration whose keyword is at token i; ok tells
// whether there is one.
func (r *Reader) declaration(i, to int, flags fact.Flags, inType, local bool) (stop int, ok bool) {
	switch {
	case r.word(i, "class"), r.word(i, "interface") && r.At(i+1) == lexis.Name, r.word(i, "fun") && r.word(i+1, "interface"):
		if r.word(i, "fun") {
			i++
		}
		if r.At(i+1) != lexis.Name {
			return i, false
		}
		return r.class(i, to, flags, local), true
	case r.word(i, "object") && (r.ident(i+1) || flags&fact.Companion != 0):
		return r.class(i, to, flags|fact.Static, local), true
	case r.word(i, "typealias") && r.At(i+1) == lexis.Name:
		d := fact.Decl{Name: r.name(i + 1), Kind: fact.Alias, Flags: flags, Outer: r.scope, At: r.Where(i + 1)}
		mark := r.locals.Mark()
		var sig []int32
		k := r.typeParameters(i+2, nil)
		r.b.Declare(d)
		if r.At(k) == '=' {
			if n, ok := r.skipType(k+1, 0); ok {
				r.types(k+1, n, &sig)
				k = n
			}
		}
		r.locals.Leave(mark)
		return k, true
	case r.word(i, "fun"):
		return r.function(i, to, flags, inType, local), true
	case r.word(i, "val"), r.word(i, "var"):
		return r.property(i, to, flags, inType, local), true
	case inType && r.Is(i, "constructor") && r.At(i+1) == '(':
		var sig []int32
		mark := r.locals.Mark()
		end := r.Pair(i + 1)
		r.parameters(i+2, end, &sig, false)
		r.keep(fact.Member{Name: "constructor", Kind: fact.Constructor, Flags: flags, At: r.Where(i)}, sig)
		k := end + 1
		if r.At(k) == ':' { // this(…) or super(…)
			k += 2
			if r.At(k) == '(' {
				r.code(k+1, r.Pair(k))
				k = r.Pair(k) + 1
			}
		}
		if r.At(k) == '{' {
			r.code(k+1, r.Pair(k))
			k = r.Pair(k) + 1
		}
		r.locals.Leave(mark)
		return k, true
	case inType && r.Is(i, "init") && r.At(i+1) == '{':
		end := r.Pair(i + 1)
		r.code(i+2, end)
		return end + 1, true
	case r.At(i) == ';' || r.At(i) == '}' || r.At(i) == ',':
		return i + 1, true
	}
	return i, false
}

func (r *Reader) keep(m fact.Member, sig []int32) {
	m.Uses = r.b.Ints(sig)
	m.Markers = r.b.Ints(r.marks)
	r.marks = r.marks[:0]
	r.members = append(r.members, m)
}

// class reads a class, interface or object whose keyword is at token i (4.1).
func (r *Reader) class(i, to int, flags fact.Flags, local bool) int {
	d := fact.Decl{Kind: fact.Class, Flags: flags &^ (fact.Default | fact.Extension), Outer: r.scope, At: r.Where(i + 1)}
	switch {
	case r.word(i, "interface"):
		d.Kind = fact.Interface
		d.Flags |= fact.Abstract
	case r.word(i, "object"):
	case flags&fact.Static != 0:
		d.Kind = fact.Enum
		d.Flags &^= fact.Static
	case flags&fact.Extension != 0:
		d.Kind = fact.Annotation
	case flags&fact.Default != 0:
		d.Kind = fact.Record
	}
	if local {
		d.Flags = d.Flags&^fact.Public | fact.Local
	}
	k := i + 1
	if r.ident(k) {
		d.Name = r.name(k)
		k++
	} else if flags&fact.Companion != 0 {
		d.Name = "Companion"
	}
	d.Markers = r.b.Ints(r.marks)
	r.marks = r.marks[:0]
	mark := r.locals.Mark()
	k = r.typeParameters(k, nil)
	if local {
		r.locals.Declare("<" + d.Name)
	}
	return r.typeBody(d, k, to, mark)
}

// typeBody reads the rest of a type from token k on: primary constructor,
// supertypes, members.
func (r *Reader) typeBody(d fact.Decl, k, to, mark int) int {
	self := r.b.Declare(d)
	outer, saved := r.scope, r.members
	r.scope, r.members = self, nil
	for { // modifiers of the primary constructor
		switch {
		case r.At(k) == '@' && !r.NewLine(k):
			k = r.annotation(k)
			continue
		case r.in(k, modifiers) && (r.Is(k+1, "constructor") || r.At(k+1) == '@'), r.Is(k, "constructor") && r.At(k+1) == '(':
			k++
			continue
		}
		break
	}
	r.marks = r.marks[:0]
	if r.At(k) == '(' {
		var sig []int32
		at := r.Where(k)
		end := r.Pair(k)
		r.parameters(k+1, end, &sig, true)
		r.keep(fact.Member{Name: "constructor", Kind: fact.Constructor, Flags: fact.Public, At: at}, sig)
		k = end + 1
	}
	var supers []int32
	if r.At(k) == ':' {
		for k++; k < to; {
			for r.At(k) == '@' {
				k = r.annotation(k)
			}
			if !r.ident(k) {
				if n, ok := r.skipType(k, 0); ok { // a function type
					r.types(k, n, nil)
					k = n
				} else {
					break
				}
			} else {
				u, n := r.typeName(k, to, fact.HowInherit)
				if u >= 0 {
					supers = append(supers, u)
				}
				k = n
				if r.At(k) == '<' {
					if n, ok := r.skipArguments(k, 0); ok {
						r.types(k+1, n-1, nil)
						k = n
					}
				}
			}
			if r.At(k) == '(' {
				r.code(k+1, r.Pair(k))
				k = r.Pair(k) + 1
			}
			if r.word(k, "by") {
				stop := k + 1
				for stop < to && r.At(stop) != ',' && r.At(stop) != '{' && !r.word(stop, "where") && !(r.NewLine(stop) && stop > k+1 && r.At(stop) != '.') {
					stop = max(stop, r.Pair(stop)) + 1
				}
				r.code(k+1, min(stop, to))
				k = stop
			}
			if r.At(k) != ',' {
				break
			}
			k++
		}
	}
	r.b.Decl(self).Supers = r.b.Ints(supers)
	k = r.where(k, to, nil)
	if r.At(k) == '{' {
		end := r.Pair(k)
		i := k + 1
		if d.Kind == fact.Enum {
			i = r.entries(i, end)
		}
		r.declarations(i, end, true)
		k = end + 1
	}
	r.b.Decl(self).Members = r.b.Members(r.members)
	r.scope, r.members = outer, saved
	r.locals.Leave(mark)
	return k
}

// entries reads the entries of an enum class and returns the index behind
// them.
func (r *Reader) entries(i, end int) int {
	for i < end {
		r.marks = r.marks[:0]
		for r.At(i) == '@' {
			i = r.annotation(i)
		}
		if r.At(i) == ';' {
			return i + 1
		}
		if !r.ident(i) {
			return i
		}
		r.keep(fact.Member{Name: r.b.Text(r.Bytes(i)), Flags: fact.Public | fact.Static, At: r.Where(i)}, nil)
		i++
		if r.At(i) == '(' {
			r.code(i+1, r.Pair(i))
			i = r.Pair(i) + 1
		}
		if r.At(i) == '{' {
			saved := r.members
			r.members = nil
			r.declarations(i+1, r.Pair(i), true)
			r.members = saved
			i = r.Pair(i) + 1
		}
		if r.At(i) == ',' {
			i++
		}
	}
	return i
}

// parameters reads a parameter list between two tokens and brings the names
// into scope; those of a primary constructor with val or var are properties.
func (r *Reader) parameters(i, end int, sig *[]int32, primary bool) {
	for i < end {
		marks := append([]int32(nil), r.marks...)
		r.marks = r.marks[:0]
		flags, k := r.modifiersAt(i)
		own := append([]int32(nil), r.marks...)
		property := r.word(k, "val") || r.word(k, "var")
		if property {
			k++
		}
		at := k
		if r.At(k) == lexis.Name {
			r.locals.Declare(r.name(k))
			k++
		}
		var types []int32
		if r.At(k) == ':' {
			if n, ok := r.skipType(k+1, 0); ok {
				r.types(k+1, n, &types)
				k = n
			}
		}
		*sig = append(*sig, types...)
		if property && primary && r.At(at) == lexis.Name {
			r.marks = append(r.marks[:0], own...)
			r.keep(fact.Member{Name: r.b.Text(r.Bytes(at)), Flags: flags, At: r.Where(at)}, types)
		}
		r.marks = append(r.marks[:0], marks...)
		stop := k
		for stop < end && r.At(stop) != ',' {
			stop = max(stop, r.Pair(stop)) + 1
		}
		r.code(k, min(stop, end))
		i = stop + 1
	}
}

// receiver finds the receiver type before a name: it returns the index of the
// name and of the "." before it, or -1.
func (r *Reader) receiver(i int) (name, dot int) {
	k := i
	for r.At(k) == '@' { // an annotation on the receiver
		k = r.annotation(k)
	}
	if r.At(k) == '(' {
		end := r.Pair(k)
		n := end + 1
		if r.At(n) == '?' {
			n++
		}
		if (r.At(n) == '.' || r.At(n) == tSafe) && r.At(n+1) == lexis.Name {
			return n + 1, n
		}
	}
	dot = -1
	for r.At(k) == lexis.Name {
		n := k + 1
		if r.At(n) == '<' {
			if s, ok := r.skipArguments(n, 0); ok {
				n = s
			}
		}
		for r.At(n) == '?' {
			n++
		}
		if (r.At(n) == '.' || r.At(n) == tSafe) && r.At(n+1) == lexis.Name {
			dot = n
			k = n + 1
			continue
		}
		break
	}
	return k, dot
}

// receiverName records the receiver of an extension at token k, if there is
// one, and returns its type's name, "?" where that is none, and the index of
// the extension's own name.
func (r *Reader) receiverName(k int, sig *[]int32) (name string, next int) {
	next, dot := r.receiver(k)
	if dot <= k {
		return "", next
	}
	u := r.types(k, dot, sig)
	if u < 0 {
		return "?", next
	}
	use, _ := r.b.UseAt(u)
	return use.Name, next
}

// function reads a function at token i (4.2).
func (r *Reader) function(i, to int, flags fact.Flags, inType, local bool) int {
	mark := r.locals.Mark()
	marks := append([]int32(nil), r.marks...)
	r.marks = r.marks[:0]
	var sig []int32
	k := r.typeParameters(i+1, &sig)
	receiver, k := r.receiverName(k, &sig)
	name, at := "", r.Where(k)
	if r.At(k) == lexis.Name {
		name = r.b.Text(r.Bytes(k))
		k++
	}
	if r.At(k) == '<' { // an old place for type parameters
		k = r.typeParameters(k, &sig)
	}
	declared := r.b.NumDecls()
	if !inType && !local && name != "" {
		r.topLevel = true
		r.b.Declare(fact.Decl{Name: r.b.Intern([]byte(name)), Receiver: receiver, Kind: fact.Func, Flags: flags, Outer: r.scope, At: at, Markers: r.b.Ints(marks)})
	}
	if local && name != "" {
		r.locals.Declare(r.b.Intern([]byte(name)))
		mark = r.locals.Mark()
	}
	if r.At(k) == '(' {
		end := r.Pair(k)
		arity := 0
		if end > k+1 {
			arity = 1
			for c := k + 1; c < end; c = max(c, r.Pair(c)) + 1 {
				if r.At(c) == ',' && c+1 < end {
					arity++
				}
			}
		}
		r.parameters(k+1, end, &sig, false)
		if r.b.NumDecls() > declared {
			r.b.Decl(int32(declared)).Arity = uint8(min(arity, 255))
		}
		k = end + 1
	}
	if r.At(k) == ':' {
		if n, ok := r.skipType(k+1, 0); ok {
			r.types(k+1, n, &sig)
			k = n
		}
	}
	k = r.where(k, to, &sig)
	if inType && name != "" {
		r.marks = append(r.marks[:0], marks...)
		m := fact.Member{Name: name, Kind: fact.MethodMember, Flags: flags, At: at}
		if r.At(k) != '{' && r.At(k) != '=' && r.b.Decl(r.scope).Kind == fact.Interface {
			m.Flags |= fact.Abstract
		}
		if receiver != "" {
			m.Flags |= fact.Extension
		}
		r.keep(m, sig)
	}
	switch {
	case r.At(k) == '{':
		r.code(k+1, r.Pair(k))
		k = r.Pair(k) + 1
	case r.At(k) == '=':
		stop := r.expressionEnd(k+1, to)
		r.code(k+1, stop)
		k = stop
	}
	r.locals.Leave(mark)
	return k
}

// expressionEnd returns the index behind the expression at token i: at a line
// end where the expression may end, and the next line cannot go on with it.
func (r *Reader) expressionEnd(i, to int) int {
	start := i
	for i < to {
		switch r.At(i) {
		case ';', '}', ')', ']':
			if r.At(i) == ';' || r.Pair(i) < i {
				return i
			}
		}
		if i > start && r.NewLine(i) && !r.goesOn(i) {
			return i
		}
		i = max(i, r.Pair(i)) + 1
	}
	return min(i, to)
}

// goesOn reports whether the line that begins at token i goes on with what
// stands before it.
func (r *Reader) goesOn(i int) bool {
	switch r.At(i) {
	case '.', tSafe, tElvis, ':', tOperator, tArrow, tColons, '?':
		return r.At(i) != tOperator || string(r.Bytes(i)) == "&&" || string(r.Bytes(i)) == "||"
	case lexis.Name:
		if r.word(i, "as") || r.word(i, "else") || r.word(i, "catch") || r.word(i, "finally") {
			return true
		}
	case '{':
		return false
	}
	switch r.At(i - 1) {
	case lexis.Number, lexis.String, ')', ']', '}', tBangs, '>', '?':
		return r.At(i-1) == ')' && r.conditional(i-1)
	case lexis.Name:
		switch string(r.Bytes(i - 1)) {
		case "else", "return", "throw", "in", "is", "as", "by", "do", "try", "when":
			return !r.word(i-1, "return")
		}
		return false
	case '@':
		return true
	}
	return true
}

// conditional reports whether the ")" at token i closes the condition of if,
// while or for, behind which the body follows.
func (r *Reader) conditional(i int) bool {
	open := r.Pair(i)
	return open < i && (r.word(open-1, "if") || r.word(open-1, "while") || r.word(open-1, "for") || r.word(open-1, "catch"))
}

// property reads a property or variable at token i (4.3).
func (r *Reader) property(i, to int, flags fact.Flags, inType, local bool) int {
	marks := append([]int32(nil), r.marks...)
	r.marks = r.marks[:0]
	mark := r.locals.Mark()
	var sig []int32
	k := r.typeParameters(i+1, &sig)
	if r.At(k) == '(' && (local || !inType) { // several at once
		end := r.Pair(k)
		var names []string
		for n := k + 1; n < end; n++ {
			if r.ident(n) && (r.At(n-1) == '(' || r.At(n-1) == ',') {
				names = append(names, r.name(n))
			} else if r.At(n) == ':' {
				if s, ok := r.skipType(n+1, 0); ok {
					r.types(n+1, s, nil)
					n = s - 1
				}
			}
		}
		k = end + 1
		if r.At(k) == '=' {
			stop := r.expressionEnd(k+1, to)
			r.code(k+1, stop)
			k = stop
		}
		for _, n := range names {
			r.locals.Declare(n)
		}
		return k
	}
	receiver, k := r.receiverName(k, &sig)
	name, at := "", r.Where(k)
	if r.At(k) == lexis.Name {
		name = r.name(k)
		k++
	}
	if r.At(k) == ':' {
		if n, ok := r.skipType(k+1, 0); ok {
			r.types(k+1, n, &sig)
			k = n
		}
	}
	k = r.where(k, to, &sig)
	if name != "" {
		switch {
		case inType:
			r.marks = append(r.marks[:0], marks...)
			r.keep(fact.Member{Name: name, Flags: flags, At: at}, sig)
		case !local:
			r.topLevel = true
			r.b.Declare(fact.Decl{Name: name, Receiver: receiver, Kind: fact.Var, Flags: flags, Outer: r.scope, At: at, Markers: r.b.Ints(marks)})
		}
	}
	if r.At(k) == '=' || r.word(k, "by") {
		stop := r.expressionEnd(k+1, to)
		r.code(k+1, stop)
		k = stop
	}
	if !local { // accessors
		for {
			n := k
			if r.At(n) == ';' {
				n++
			}
			_, n = r.modifiersAt(n)
			r.marks = r.marks[:0]
			if !r.Is(n, "get") && !r.Is(n, "set") || r.At(n+1) != '(' {
				if (r.Is(n, "set") || r.Is(n, "get")) && n > k && r.NewLine(n+1) {
					k = n + 1
					continue
				}
				break
			}
			inner := r.locals.Mark()
			r.locals.Declare("field")
			var none []int32
			r.parameters(n+2, r.Pair(n+1), &none, false)
			n = r.Pair(n+1) + 1
			if r.At(n) == ':' {
				if s, ok := r.skipType(n+1, 0); ok {
					r.types(n+1, s, nil)
					n = s
				}
			}
			switch {
			case r.At(n) == '{':
				r.code(n+1, r.Pair(n))
				n = r.Pair(n) + 1
			case r.At(n) == '=':
				stop := r.expressionEnd(n+1, to)
				r.code(n+1, stop)
				n = stop
			}
			r.locals.Leave(inner)
			k = n
		}
	}
	r.locals.Leave(mark)
	if local && name != "" {
		r.locals.Declare(name)
	}
	return k
}
