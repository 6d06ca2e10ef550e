package kotlin

import (
	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// code reads statements and expressions between two tokens; what they declare
// ends with them.
func (r *Reader) code(i, to int) {
	if r.depth > deepest || i >= to {
		return
	}
	r.depth++
	type block struct{ end, mark int }
	open := []block{{to, r.locals.Mark()}}
	for i < to {
		for len(open) > 1 && i >= open[len(open)-1].end {
			r.locals.Leave(open[len(open)-1].mark)
			open = open[:len(open)-1]
		}
		switch r.At(i) {
		case '{':
			open = append(open, block{r.Pair(i), r.locals.Mark()})
			i = r.lambda(i)
		case '@':
			if r.At(i+1) == lexis.Name && r.Touches(i) && !(r.At(i-1) == lexis.Name && r.Touches(i-1)) {
				i = r.annotation(i)
				r.marks = r.marks[:0]
			} else {
				i += 2 // a label
			}
		case lexis.String:
			r.literal(i)
			i++
		case tColons:
			if r.word(i+1, "class") {
				i += 2
				continue
			}
			switch {
			case !r.ident(i + 1):
				i++
			case r.operandBefore(i): // Receiver::member
				r.selected(i + 1)
				i += 2
			default: // ::function, ::Constructor
				i = r.chain(i+1, to)
			}
		case lexis.Name:
			i = max(r.named(i, to), i+1)
		default:
			i++
		}
	}
	r.locals.Leave(open[0].mark)
	r.depth--
}

// operandBefore reports whether an operand ends before token i.
func (r *Reader) operandBefore(i int) bool {
	switch r.At(i - 1) {
	case lexis.Name:
		return !r.in(i-1, keywords) || r.word(i-1, "this") || r.word(i-1, "super")
	case ')', ']', '}', '>', '?', lexis.String, tBangs:
		return true
	}
	return false
}

func (r *Reader) literal(i int) {
	if b := r.Bytes(i); len(b) > 4 && b[0] == '"' && b[len(b)-1] == '"' && lexis.FullName(b[1:len(b)-1]) {
		r.b.Use(b[1:len(b)-1], fact.Use{Scope: -1, Local: -1, How: fact.HowDynamic}, r.Where(i))
	}
}

// lambda brings the parameters of the lambda at "{" into scope, if it has any.
func (r *Reader) lambda(i int) int {
	k := i + 1
	if r.word(i-1, "when") || r.At(i-1) == ')' && r.word(r.Pair(i-1)-1, "when") {
		return k
	}
	for n := k; n < k+200; n++ {
		switch {
		case r.At(n) == tArrow:
			for p := k; p < n; p++ {
				switch {
				case r.ident(p) && (r.At(p-1) == '{' || r.At(p-1) == ',' || r.At(p-1) == '('):
					r.locals.Declare(r.name(p))
				case r.At(p) == ':':
					if s, ok := r.skipType(p+1, 0); ok {
						r.types(p+1, min(s, n), nil)
						p = s - 1
					}
				}
			}
			return n + 1
		case r.At(n) == ':':
			s, ok := r.skipType(n+1, 0)
			if !ok {
				return k
			}
			n = s - 1
		case r.ident(n), r.At(n) == ',', r.At(n) == '(', r.At(n) == ')', r.At(n) == '_':
		default:
			return k
		}
	}
	return k
}

// named reads the name or keyword at token i and returns the index behind what
// belongs to it.
func (r *Reader) named(i, to int) int {
	prev := r.At(i - 1)
	if prev == '.' || prev == tSafe {
		return r.selected(i)
	}
	if r.At(i+1) == '@' && r.Touches(i) { // a label, or return@label
		if r.in(i, keywords) {
			return i + 3
		}
		return i + 2
	}
	if r.in(i, keywords) {
		return r.keyword(i, to)
	}
	if r.statementStart(i) {
		flags, k := r.modifiersAt(i)
		if k > i || r.word(k, "class") {
			if n, ok := r.declaration(k, to, flags, false, true); ok && n > k {
				return n
			}
		}
		r.marks = r.marks[:0]
	}
	if r.word(i, "catch") && r.At(i+1) == '(' && r.At(i-1) == '}' && r.ident(i+2) && r.At(i+3) == ':' {
		if stop, ok := r.skipType(i+4, 0); ok {
			r.types(i+4, stop, nil)
			r.locals.Declare(r.name(i + 2))
			return stop
		}
	}
	if r.At(i+1) == '=' && (prev == '(' || prev == ',') { // a named argument
		return i + 2
	}
	if r.infix(i) {
		return r.selected(i)
	}
	return r.chain(i, to)
}

func (r *Reader) statementStart(i int) bool {
	switch r.At(i - 1) {
	case '{', '}', ';', tArrow:
		return true
	}
	return r.NewLine(i)
}

// infix reports whether the name at token i is a function between its operands.
func (r *Reader) infix(i int) bool {
	switch r.At(i - 1) {
	case lexis.Number, lexis.String, ')', ']', '}':
	case lexis.Name:
		if r.word(i-1, "by") || r.in(i-1, keywords) && !r.word(i-1, "this") && !r.word(i-1, "null") && !r.word(i-1, "true") && !r.word(i-1, "false") {
			return false
		}
	default:
		return false
	}
	if r.NewLine(i) || r.NewLine(i+1) && r.At(i+1) != lexis.Name && r.At(i+1) != lexis.String && r.At(i+1) != '(' && r.At(i+1) != '{' {
		return false
	}
	if r.At(i-1) == ')' && r.conditional(i-1) {
		return false
	}
	switch r.At(i + 1) {
	case lexis.Name, lexis.String, lexis.Number, '(', '{', '-', '!':
		return r.At(i+1) != '(' || !r.Touches(i)
	}
	return false
}

// selected reads a name behind a "." or between operands, where only an
// extension can be meant, and its type arguments.
func (r *Reader) selected(i int) int {
	if r.At(i) != lexis.Name {
		return i
	}
	name := r.Bytes(i)
	flags := fact.Ambiguous | fact.Selected
	k := i + 1
	if r.At(k) == '<' {
		if n, ok := r.skipArguments(k, 0); ok && r.endsArguments(n) {
			r.types(k+1, n-1, nil)
			k = n
		}
	}
	if r.At(k) == '(' || r.At(k) == '{' {
		flags |= fact.Call
	}
	r.use(name, string(name), i, fact.HowCall, flags)
	return k
}

func (r *Reader) endsArguments(i int) bool {
	switch r.At(i) {
	case '(', '{', '.', tSafe, tColons, ')', ']', ',', tBangs, ';', '}':
		return true
	}
	return r.NewLine(i)
}

// chain reads a dotted name in an expression at token i.
func (r *Reader) chain(i, to int) int {
	head := string(r.Bytes(i))
	k := i + 1
	parts := 1
	r.joined = append(r.joined[:0], head...)
	for r.At(k) == '.' && r.ident(k+1) {
		r.joined = append(append(r.joined, '.'), r.Bytes(k+1)...)
		k += 2
		parts++
	}
	local := r.locals.Has([]byte(head))
	flags := fact.Ambiguous
	n := k
	if r.At(k) == '<' {
		if s, ok := r.skipArguments(k, 0); ok && r.endsArguments(s) {
			joined := append([]byte(nil), r.joined...)
			r.types(k+1, s-1, nil)
			r.joined = append(r.joined[:0], joined...)
			n = s
		}
	}
	if r.At(n) == '(' || r.At(n) == '{' && !r.NewLine(n) {
		flags |= fact.Call
	} else {
		flags |= fact.Value
	}
	if !local {
		how := fact.HowCall
		if r.At(n) == tColons && r.word(n+1, "class") {
			how, flags = fact.HowType, 0
		} else if r.At(n) == '?' && r.At(n+1) == tColons {
			how, flags = fact.HowType, 0
		}
		if r.locals.Has([]byte("<" + head)) {
			return n
		}
		r.use(r.joined, head, i, how, flags)
	}
	for s := i + 2; s < k; s += 2 { // each may be an extension
		r.use(r.Bytes(s), string(r.Bytes(s)), s, fact.HowCall, fact.Ambiguous|fact.Selected)
	}
	return n
}

// keyword reads the keyword at token i in code and what belongs to it.
func (r *Reader) keyword(i, to int) int {
	k := i + 1
	switch string(r.Bytes(i)) {
	case "is", "as":
		if r.At(k) == '?' && r.word(i, "as") {
			k++
		}
		if stop, ok := r.skipType(k, 0); ok {
			if r.At(stop-1) == '?' && r.At(stop) == ':' {
				stop--
			}
			r.types(k, stop, nil)
			return stop
		}
	case "val", "var":
		return r.property(i, to, 0, false, true)
	case "fun":
		return r.function(i, to, 0, false, true)
	case "class", "interface", "typealias":
		if n, ok := r.declaration(i, to, 0, false, true); ok {
			return n
		}
	case "object":
		mark := r.locals.Mark()
		d := fact.Decl{Kind: fact.Class, Flags: fact.Local | fact.Anonymous, Outer: r.scope, At: r.Where(i)}
		if r.At(k) == ':' || r.At(k) == '{' {
			return r.typeBody(d, k, to, mark)
		}
		if n, ok := r.declaration(i, to, 0, false, true); ok {
			return n
		}
	case "for":
		if r.At(k) == '(' {
			end := r.Pair(k)
			n := k + 1
			for ; n < end && !r.word(n, "in"); n++ {
				switch {
				case r.At(n) == '@':
					n = r.annotation(n) - 1
				case r.ident(n):
					r.locals.Declare(r.name(n))
				case r.At(n) == ':':
					if s, ok := r.skipType(n+1, 0); ok {
						r.types(n+1, s, nil)
						n = s - 1
					}
				}
			}
			return n + 1
		}
	case "super", "this":
		if r.At(k) == '<' {
			if n, ok := r.skipArguments(k, 0); ok {
				r.types(k+1, n-1, nil)
				return n
			}
		}
	}
	return k
}
