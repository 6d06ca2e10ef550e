package dart

import (
	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

func visibility(b []byte) fact.Flags {
	if len(b) > 0 && b[0] == '_' {
		return fact.Private
	}
	return fact.Public
}

// metadata reads the annotations at token i (clause 15).
func (r *Reader) metadata(i int) int {
	for r.At(i) == '@' && r.At(i+1) == lexis.Name {
		k := i + 2
		for r.At(k) == '.' && r.At(k+1) == lexis.Name {
			k += 2
		}
		if u := r.emit(i+1, min(k, i+4), fact.HowMarker, 0); u >= 0 {
			r.marks = append(r.marks, u)
		}
		if r.At(k) == '(' && r.Touches(k-1) {
			r.run(k+1, r.Pair(k))
			k = r.Pair(k) + 1
		}
		i = k
	}
	return i
}

// run reads code between two tokens.
func (r *Reader) run(i, to int) {
	base := len(r.blocks)
	mark := r.locals.Mark()
	for i < to {
		for len(r.blocks) > base && i >= r.blocks[len(r.blocks)-1].end {
			r.pop()
		}
		i = max(r.code(i), i+1)
	}
	for len(r.blocks) > base {
		r.pop()
	}
	r.locals.Leave(mark)
}

// declaration reads one declaration at token i, at the top or in a type.
func (r *Reader) declaration(i, to int) int {
	r.marks = r.marks[:0]
	i = r.metadata(i)
	start := i
	flags := fact.Flags(0)
	for r.At(i) == lexis.Name && r.At(i+1) == lexis.Name {
		switch string(r.Bytes(i)) {
		case "abstract", "sealed":
			flags |= fact.Abstract
		case "static", "const":
			flags |= fact.Static
		case "base", "interface", "final", "external", "late", "covariant", "var", "augment", "factory":
		case "mixin":
			if !r.word(i+1, "class") {
				goto done
			}
		default:
			goto done
		}
		i++
	}
done:
	switch {
	case r.word(i, "class") && r.At(i+1) == lexis.Name, r.word(i, "mixin") && r.ident(i+1) && r.At(i+2) != '(' && r.At(i+2) != '=' && r.At(i+2) != ';',
		r.word(i, "enum") && r.ident(i+1), r.word(i, "extension") && r.scope < 0:
		return r.typeDecl(i, flags)
	case r.word(i, "typedef"):
		k := i + 1
		name := k
		for n := k; r.At(n) != ';' && r.At(n) != lexis.EOF; n = max(n, r.Pair(n)) + 1 {
			if r.At(n) == lexis.Name && (r.At(n+1) == '(' || r.At(n+1) == '=' || r.At(n+1) == '<' && n == k) {
				name = n
				break
			}
		}
		if r.At(name) == lexis.Name {
			r.b.Declare(fact.Decl{Name: r.name(name), Kind: fact.Alias, Flags: visibility(r.Bytes(name)), Outer: -1, At: r.Where(name)})
		}
		mark := r.locals.Mark()
		for r.At(k) != ';' && r.At(k) != lexis.EOF {
			if r.ident(k) && k != name && r.At(k+1) != ',' && r.At(k+1) != ')' || r.ident(k) && k != name && (r.At(k-1) == '<' || r.At(k-1) == ',' || r.At(k-1) == '(' || r.At(k-1) == '=') {
				r.types(k, k+1, fact.HowType, nil)
			}
			k++
		}
		r.locals.Leave(mark)
		return k + 1
	case r.At(i) == ';' || r.At(i) == '}' || r.At(i) == ',':
		return i + 1
	}
	return r.member(start, i, to, flags)
}

// typeDecl reads the head of a class, mixin, enum or extension and opens its
// body.
func (r *Reader) typeDecl(i int, flags fact.Flags) int {
	d := fact.Decl{Kind: fact.Class, Flags: flags, Outer: -1, At: r.Where(i + 1)}
	k := i + 1
	extension := r.word(i, "extension")
	switch {
	case r.word(i, "enum"):
		d.Kind = fact.Enum
	case extension:
		if r.word(k, "type") {
			k++
		}
		d.Flags |= fact.Extension
	}
	if r.ident(k) && !(extension && r.word(k, "on")) {
		d.Name, d.At = r.name(k), r.Where(k)
		d.Flags |= visibility(r.Bytes(k))
		k++
	}
	d.Markers = r.b.Ints(r.marks)
	r.marks = r.marks[:0]
	mark := r.locals.Mark()
	k = r.typeParameters(k)
	self := r.b.Declare(d)
	outer := r.scope
	r.scope = self
	from := len(r.members)
	var supers []int32
	if r.At(k) == '(' { // the representation of an extension type
		var sig []int32
		r.parameters(k+1, r.Pair(k), &sig)
		k = r.Pair(k) + 1
	}
	for r.At(k) == '=' || r.word(k, "extends") || r.word(k, "with") || r.word(k, "implements") || r.word(k, "on") {
		how := fact.HowInherit
		if extension {
			how = fact.HowType
		}
		for k++; ; k++ {
			stop, ok := r.skipType(k, 0)
			if !ok {
				break
			}
			if u := r.types(k, stop, how, nil); u >= 0 && how == fact.HowInherit {
				supers = append(supers, u)
			}
			k = stop
			if r.At(k) != ',' {
				break
			}
		}
	}
	r.b.Decl(self).Supers = r.b.Ints(supers)
	if r.At(k) != '{' {
		r.scope = outer
		r.locals.Leave(mark)
		return k + 1
	}
	end := r.Pair(k)
	r.blocks = append(r.blocks, block{end: end, mark: mark, scope: outer, typ: true, from: from})
	k++
	if d.Kind == fact.Enum {
		for k < end && r.At(k) != ';' {
			r.marks = r.marks[:0]
			k = r.metadata(k)
			if r.ident(k) {
				r.members = append(r.members, fact.Member{Name: r.b.Text(r.Bytes(k)), Flags: fact.Public | fact.Static, At: r.Where(k)})
				k++
			}
			if r.At(k) == '<' {
				if n, ok := r.skipType(k-1, 0); ok && n > k {
					k = n
				}
			}
			for r.At(k) == '.' {
				k += 2
			}
			if r.At(k) == '(' {
				r.run(k+1, r.Pair(k))
				k = r.Pair(k) + 1
			}
			if r.At(k) == ',' {
				k++
			} else if r.At(k) != ';' && k < end {
				k++
			}
		}
	}
	return k
}

// typeParameters reads "<T extends A>" at token i and brings the names into
// scope.
func (r *Reader) typeParameters(i int) int {
	if r.At(i) != '<' {
		return i
	}
	depth := 0
	end := i
	for k := i; k < len(r.Tokens) && k < i+500; k++ {
		switch r.At(k) {
		case '<':
			depth++
		case '>':
			depth--
		case lexis.Name:
			if depth == 1 && (r.At(k-1) == '<' || r.At(k-1) == ',') {
				r.locals.Declare(r.name(k))
			}
		case '{', ';', lexis.EOF:
			return i + 1
		}
		if depth == 0 {
			end = k
			break
		}
	}
	for k := i + 1; k < end; k++ {
		if r.word(k, "extends") {
			if stop, ok := r.skipType(k+1, 0); ok {
				r.types(k+1, stop, fact.HowType, nil)
			}
		}
	}
	return end + 1
}

// parameters reads a parameter list between two tokens (9.2) and brings the
// names into scope.
func (r *Reader) parameters(i, end int, sig *[]int32) {
	for i < end {
		if r.At(i) == '[' || r.At(i) == '{' {
			r.parameters(i+1, r.Pair(i), sig)
			i = r.Pair(i) + 1
			continue
		}
		marks := append([]int32(nil), r.marks...)
		i = r.metadata(i)
		r.marks = append(r.marks[:0], marks...)
		for (r.word(i, "required") || r.word(i, "final") || r.word(i, "covariant") || r.word(i, "var") || r.word(i, "const") || r.word(i, "late")) && r.At(i+1) != ',' && r.At(i+1) != '=' && i+1 < end {
			i++
		}
		stop, ok := r.skipType(i, 0)
		switch {
		case ok && (r.ident(stop) || r.word(stop, "this") || r.word(stop, "super")) && stop < end:
			r.types(i, stop, fact.HowType, sig)
			i = stop
		case ok && r.At(stop) == '(' && stop < end: // a function-typed parameter without its result
		}
		if (r.word(i, "this") || r.word(i, "super")) && r.At(i+1) == '.' {
			i += 2
		}
		if r.ident(i) {
			r.locals.Declare(r.name(i))
			i++
		}
		if r.At(i) == '(' {
			mark := r.locals.Mark()
			r.parameters(i+1, r.Pair(i), sig)
			r.locals.Leave(mark)
			i = r.Pair(i) + 1
		}
		k := i
		for k < end && r.At(k) != ',' {
			k = max(k, r.Pair(k)) + 1
		}
		r.run(i, min(k, end))
		i = k + 1
	}
}

// member reads a function, method, field or variable at token i.
func (r *Reader) member(start, i, to int, flags fact.Flags) int {
	var sig []int32
	top := r.scope < 0
	mark := r.locals.Mark()
	k := i
	// A type, unless the name itself follows.
	if stop, ok := r.skipType(i, 0); ok && !r.word(i, "operator") && !(r.word(i, "get") && r.ident(i+1)) && !(r.word(i, "set") && r.ident(i+1)) &&
		(r.ident(stop) || r.word(stop, "operator")) {
		r.types(i, stop, fact.HowType, &sig)
		k = stop
	}
	accessor := false
	if (r.word(k, "get") || r.word(k, "set")) && r.ident(k+1) {
		accessor = true
		k++
	}
	if r.word(k, "operator") && r.At(k+1) != '(' && r.At(k+1) != '=' && r.At(k+1) != ';' {
		k++
		for r.At(k) != '(' && r.At(k) != lexis.EOF && r.At(k) != '{' || r.At(k) == '(' && r.At(k+1) == ')' && r.At(k+2) == '(' {
			k++
		}
		return r.callable(fact.Member{Name: "operator", Kind: fact.MethodMember, Flags: flags | fact.Public, At: r.Where(i)}, k, to, sig, top, mark)
	}
	if !r.ident(k) {
		// Damage, or a statement of a script.
		r.locals.Leave(mark)
		n := max(k, start)
		return r.code(n)
	}
	m := fact.Member{Name: r.b.Text(r.Bytes(k)), Flags: flags | visibility(r.Bytes(k)), At: r.Where(k)}
	constructor := !top && m.Name == r.b.Decl(r.scope).Name
	k++
	for constructor && r.At(k) == '.' {
		k += 2
	}
	if r.At(k) == '<' {
		k = r.typeParameters(k)
	}
	if r.At(k) == '(' || accessor {
		m.Kind = fact.MethodMember
		if constructor {
			m.Kind = fact.Constructor
		}
		return r.callable(m, k, to, sig, top, mark)
	}
	// Variables.
	for {
		r.keep(m, sig, top, fact.Var)
		n := k
		for n < to && r.At(n) != ';' && r.At(n) != ',' && !(r.At(n) == '}' && r.Pair(n) < n) {
			if r.At(n) == '<' { // the commas of "<Berth, Tide>{}" part no variables
				if stop, ok := r.skipArguments(n, 0); ok && (r.At(stop) == '{' || r.At(stop) == '[' || r.At(stop) == '(') {
					n = stop
					continue
				}
			}
			n = max(n, r.Pair(n)) + 1
		}
		r.run(k, min(n, to))
		k = n
		if r.At(k) != ',' || !r.ident(k+1) {
			break
		}
		m.Name, m.At = r.b.Text(r.Bytes(k+1)), r.Where(k+1)
		k += 2
	}
	r.locals.Leave(mark)
	return k + 1
}

func (r *Reader) keep(m fact.Member, sig []int32, top bool, kind fact.DeclKind) {
	if top {
		r.b.Declare(fact.Decl{Name: r.b.Intern([]byte(m.Name)), Kind: kind, Flags: m.Flags, Outer: -1, At: m.At, Markers: r.b.Ints(r.marks)})
	} else {
		m.Uses = r.b.Ints(sig)
		m.Markers = r.b.Ints(r.marks)
		r.members = append(r.members, m)
	}
	r.marks = r.marks[:0]
}

// callable reads the parameters of a function at token k and opens its body.
func (r *Reader) callable(m fact.Member, k, to int, sig []int32, top bool, mark int) int {
	marks := append([]int32(nil), r.marks...)
	if r.At(k) == '(' {
		r.parameters(k+1, r.Pair(k), &sig)
		k = r.Pair(k) + 1
	}
	r.marks = append(r.marks[:0], marks...)
	for r.word(k, "async") || r.word(k, "sync") || r.At(k) == '*' {
		k++
	}
	if r.At(k) == ';' {
		m.Flags |= fact.Abstract
	}
	r.keep(m, sig, top, fact.Func)
	if r.At(k) == ':' || r.At(k) == tArrow || r.At(k) == '=' { // initializers, an expression, a redirection
		n := k + 1
		for n < to && r.At(n) != ';' && !(r.At(n) == '{' && r.At(k) == ':' && (r.At(n-1) == ')' || r.At(n-1) == ']' || r.At(n-1) == '}' || r.At(n-1) == lexis.Name || r.At(n-1) == lexis.Number || r.At(n-1) == lexis.String)) {
			n = max(n, r.Pair(n)) + 1
		}
		r.run(k+1, min(n, to))
		k = n
	}
	if r.At(k) == '{' {
		r.blocks = append(r.blocks, block{end: r.Pair(k), mark: mark})
		return k + 1
	}
	r.locals.Leave(mark)
	return k + 1
}

// code reads one piece of code at token i and returns the index behind it.
func (r *Reader) code(i int) int {
	switch r.At(i) {
	case '{':
		r.blocks = append(r.blocks, block{end: r.Pair(i), mark: r.locals.Mark()})
		return i + 1
	case '(':
		// The parameters of a closure or local function.
		end := r.Pair(i)
		if n := r.At(end + 1); end > i && (n == tArrow || n == '{' && !r.statementHead(i) || r.word(end+1, "async") || r.word(end+1, "sync")) {
			var sig []int32
			mark := r.locals.Mark()
			r.parameters(i+1, end, &sig)
			k := end + 1
			for r.word(k, "async") || r.word(k, "sync") || r.At(k) == '*' {
				k++
			}
			stop := r.Pair(k)
			if r.At(k) == tArrow {
				for stop = k + 1; stop < len(r.Tokens)-1 && r.At(stop) != ',' && r.At(stop) != ';' && !(r.Pair(stop) < stop); {
					stop = max(stop, r.Pair(stop)) + 1
				}
			}
			r.blocks = append(r.blocks, block{end: stop, mark: mark})
			return k + 1
		}
	case '@':
		return r.metadata(i)
	case lexis.Name:
		return r.named(i)
	}
	return i + 1
}

// statementHead reports whether the "(" at token i belongs to a statement.
func (r *Reader) statementHead(i int) bool {
	return r.word(i-1, "if") || r.word(i-1, "while") || r.word(i-1, "for") || r.word(i-1, "switch") || r.word(i-1, "catch")
}

func (r *Reader) named(i int) int {
	prev := r.At(i - 1)
	if prev == '.' || prev == tSelect {
		if r.At(i+1) == '<' { // type arguments of a call
			if stop, ok := r.skipType(i, 0); ok && r.At(stop) == '(' {
				r.types(i+1, stop, fact.HowType, nil)
				return stop
			}
		}
		return i + 1
	}
	switch string(r.Bytes(i)) {
	case "as", "is":
		k := i + 1
		if r.At(k) == '!' {
			k++
		}
		if stop, ok := r.skipType(k, 0); ok && r.operandAt(i-1) {
			r.types(k, stop, fact.HowType, nil)
			return stop
		}
	case "on":
		if stop, ok := r.skipType(i+1, 0); ok && prev == '}' {
			r.types(i+1, stop, fact.HowType, nil)
			return stop
		}
	case "catch":
		if r.At(i+1) == '(' {
			for k := i + 2; k < r.Pair(i+1); k++ {
				if r.ident(k) {
					r.locals.Declare(r.name(k))
				}
			}
			return r.Pair(i+1) + 1
		}
	case "new", "const":
		if r.ident(i + 1) {
			stop, _ := r.skipType(i+1, 0)
			if r.At(stop) == '(' || r.At(stop) == '.' {
				r.types(i+1, stop, fact.HowConstruct, nil)
				return stop
			}
		}
		if r.At(i+1) != lexis.Name || !r.Is(i, "const") {
			return i + 1
		}
		fallthrough
	case "var", "final", "late":
		k := i + 1
		for r.word(k, "final") || r.word(k, "var") {
			k++
		}
		if stop, ok := r.skipType(k, 0); ok && r.ident(stop) {
			r.types(k, stop, fact.HowType, nil)
			k = stop
		}
		if r.At(k) == '(' { // a pattern
			for n := k + 1; n < r.Pair(k); n++ {
				if r.ident(n) && (r.At(n+1) == ',' || r.At(n+1) == ')') {
					r.locals.Declare(r.name(n))
				}
			}
			return r.Pair(k) + 1
		}
		if r.ident(k) {
			r.locals.Declare(r.name(k))
			return k + 1
		}
		return k
	}
	if r.in(i, keywords) && !r.in(i, soft) {
		return i + 1
	}
	if r.At(i+1) == ':' && (prev == '(' || prev == ',' || prev == '{' || prev == ';' || prev == '}') && !r.Is(i-1, "case") {
		return i + 2 // the name of an argument, a label
	}
	stop, ok := r.skipType(i, 0)
	if ok && r.ident(stop) && !r.in(stop, set2) && r.declares(stop) { // a variable, or a local function
		r.types(i, stop, fact.HowType, nil)
		r.locals.Declare(r.name(stop))
		return stop + 1
	}
	if r.At(i+1) == '(' && (prev == '{' || prev == '}' || prev == ';') { // a local function without a result
		end := r.Pair(i + 1)
		if n := r.At(end + 1); n == '{' || n == tArrow || r.word(end+1, "async") {
			r.locals.Declare(r.name(i))
			return i + 1
		}
	}
	k := i + 1
	if r.At(k) == '.' && r.ident(k+1) {
		k += 2
	}
	flags := fact.Ambiguous
	n := k
	if ok && r.At(stop-1) == '>' && (r.At(stop) == '(' || r.At(stop) == '.' || r.At(stop) == ')' || r.At(stop) == ',' || r.At(stop) == '{' || r.At(stop) == '[' || r.At(stop) == ';') {
		n = stop
	}
	if r.At(n) == '(' {
		flags |= fact.Call
	}
	r.emit(i, k, fact.HowCall, flags)
	if n > k {
		r.types(k, n, fact.HowType, nil)
	}
	return n
}

// set2 are the words that stand between operands or behind a name.
var set2 = set("is as in on async sync extends implements with show hide when and or")

// declares reports whether the name at token i, with a type before it, is
// declared there.
func (r *Reader) declares(i int) bool {
	switch r.At(i + 1) {
	case '=', ';', ',', ')', '(', '<', '}', ']', ':', tArrow:
		return true
	}
	return r.word(i+1, "in") || r.word(i+1, "when")
}

// operandAt reports whether an operand ends with token i.
func (r *Reader) operandAt(i int) bool {
	switch r.At(i) {
	case ')', ']', '}', lexis.String, lexis.Number, '!':
		return true
	case lexis.Name:
		return r.ident(i) || r.word(i, "this") || r.word(i, "null")
	}
	return false
}
