package csharp

import (
	"strconv"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// skipType returns the index behind the type at token i (clause 8), and
// whether one stands there.
func (r *Reader) skipType(i int) (int, bool) { return r.skip(i, 0) }

func (r *Reader) skip(i, depth int) (int, bool) {
	if depth > 24 {
		return i, false
	}
	for r.word(i, "ref") || r.word(i, "readonly") || r.word(i, "scoped") && r.At(i+1) == lexis.Name && r.At(i+2) == lexis.Name {
		i++
	}
	switch {
	case r.At(i) == '(':
		end := r.Pair(i)
		n := 0
		for k := i + 1; k < end; k++ {
			stop, ok := r.skip(k, depth+1)
			if !ok {
				return i, false
			}
			if r.ident(stop) {
				stop++
			}
			n++
			if r.At(stop) != ',' && stop != end {
				return i, false
			}
			k = stop
		}
		if n < 2 || end <= i {
			return i, false
		}
		i = end + 1
	case r.in(i, predefined):
		i++
	case r.word(i, "delegate") && r.At(i+1) == '*':
		for i += 2; r.At(i) != '<' && r.At(i) == lexis.Name; i++ {
		}
		if r.At(i) == '[' {
			i = r.Pair(i) + 1
		}
		stop, ok := r.skipArguments(i, depth)
		if !ok {
			return i, false
		}
		i = stop
	case r.ident(i):
		for {
			i++
			if r.At(i) == '<' {
				stop, ok := r.skipArguments(i, depth)
				if !ok {
					return i, true
				}
				i = stop
			}
			if (r.At(i) == '.' || r.At(i) == tColons) && r.ident(i+1) && r.Bytes(i)[0] != '?' && r.Bytes(i)[0] != '-' {
				i++
				continue
			}
			break
		}
	default:
		return i, false
	}
	for {
		switch r.At(i) {
		case '?':
			i++
			continue
		case '*':
			if k := r.At(i + 1); k == lexis.Name && !r.in(i+1, keywords) && r.At(i+2) != '=' && r.At(i+2) != ';' && r.At(i+2) != ',' && r.At(i+2) != ')' || k == lexis.Number || k == '(' {
				return i, true // a product
			}
			i++
			continue
		case '[':
			k := i + 1
			for r.At(k) == ',' || r.At(k) == '*' {
				k++
			}
			if r.At(k) == ']' {
				i = k + 1
				continue
			}
		}
		return i, true
	}
}

// skipArguments returns the index behind the type arguments at token i.
func (r *Reader) skipArguments(i, depth int) (int, bool) {
	if r.At(i) != '<' {
		return i, false
	}
	for i++; ; i++ {
		switch r.At(i) {
		case ',':
			continue
		case '>':
			return i + 1, true
		case '[': // attributes on type parameters
			i = r.Pair(i)
			continue
		}
		if r.word(i, "in") || r.word(i, "out") {
			continue
		}
		stop, ok := r.skip(i, depth+1)
		if !ok {
			return i, false
		}
		switch r.At(stop) {
		case '>':
			return stop + 1, true
		case ',':
			i = stop
		default:
			return i, false
		}
	}
}

// full returns the dotted name of the type between two tokens without its type
// arguments; their number stands behind each part that has any, as "`1".
func (r *Reader) full(i, stop int) []byte {
	r.joined = r.joined[:0]
	for i < stop {
		switch r.At(i) {
		case lexis.Name:
			r.joined = append(r.joined, r.Bytes(i)...)
		case '.':
			r.joined = append(r.joined, '.')
		case tColons:
			// global::A.B; an extern alias is as good
			if string(r.joined) != "global" {
				r.joined = append(r.joined, '.')
			} else {
				r.joined = append(r.joined[:0], "global::"...)
			}
		case '<':
			n, depth := 1, 0
		args:
			for ; i < stop; i++ {
				switch r.At(i) {
				case '<':
					depth++
				case '>':
					if depth--; depth == 0 {
						break args
					}
				case ',':
					if depth == 1 {
						n++
					}
				case '(', '[':
					i = r.Pair(i)
				}
			}
			r.joined = append(r.joined, '`')
			r.joined = strconv.AppendInt(r.joined, int64(n), 10)
		default:
			return r.joined
		}
		i++
	}
	return r.joined
}

// typeRef records the type between two tokens with all its arguments, and
// returns the use of the type itself, or -1.
func (r *Reader) typeRef(i, stop int, how fact.How, sig *[]int32) int32 {
	for r.word(i, "ref") || r.word(i, "readonly") || r.word(i, "scoped") {
		i++
	}
	if i >= stop {
		return -1
	}
	if r.At(i) == '(' { // a tuple
		end := r.Pair(i)
		for k := i + 1; k < end; k++ {
			n, ok := r.skipType(k)
			if !ok {
				return -1
			}
			r.typeRef(k, n, fact.HowType, sig)
			for n < end && r.At(n) != ',' {
				n++
			}
			k = n
		}
		return -1
	}
	u := int32(-1)
	if r.ident(i) && !r.Is(i, "var") && !r.Is(i, "dynamic") {
		u = r.emit(i, stop, how, 0)
	}
	if sig != nil && u >= 0 {
		*sig = append(*sig, u)
	}
	r.arguments(i, stop, fact.HowType, sig)
	return u
}

// arguments records the type arguments of the type between two tokens.
func (r *Reader) arguments(i, stop int, how fact.How, sig *[]int32) {
	for ; i < stop; i++ {
		if r.At(i) != '<' {
			continue
		}
		for k := i + 1; k < stop; k++ {
			n, ok := r.skipType(k)
			if !ok {
				continue
			}
			r.typeRef(k, n, how, sig)
			k = n
			if r.At(k) == '>' {
				i = k
				break
			}
		}
	}
}

// emit records the dotted name of the type between two tokens and returns its
// use, or -1 where a type parameter or variable of that name is in scope.
func (r *Reader) emit(i, stop int, how fact.How, flags fact.UseFlags) int32 {
	head := r.Bytes(i)
	if r.At(i+1) != tColons && (flags&fact.Ambiguous != 0 && r.locals.Has(head) || r.typeParameter(head)) {
		return -1
	}
	at := r.Where(i)
	name := r.full(i, stop)
	if len(name) == 0 {
		return -1
	}
	return r.b.Use(name, fact.Use{Scope: r.scope, Local: -1, How: how, Flags: flags}, at)
}

// typeParameter reports whether a type parameter of that name is in scope.
// Their names are kept apart from those of variables by a sign in front.
func (r *Reader) typeParameter(name []byte) bool {
	r.key = append(append(r.key[:0], '<'), name...)
	return r.locals.Has(r.key)
}

// typeParameters reads "<in T, U>" at token i (clause 15.2.3), brings the
// names into scope and returns how many there are and the index behind them.
func (r *Reader) typeParameters(i int) (n, stop int) {
	if r.At(i) != '<' {
		return 0, i
	}
	for i++; r.At(i) != '>' && r.At(i) != lexis.EOF; i++ {
		switch {
		case r.At(i) == '[':
			i = r.attributes(i) - 1
		case r.ident(i):
			r.locals.Declare("<" + string(r.Bytes(i)))
			n++
		case r.At(i) == '{' || r.At(i) == ';' || r.At(i) == '(':
			return n, i
		}
	}
	return n, i + 1
}

// constraints reads "where T : A, B" clauses at token i (clause 15.2.5).
func (r *Reader) constraints(i, to int, sig *[]int32) int {
	for r.Is(i, "where") && r.ident(i+1) && r.At(i+2) == ':' {
		i += 3
		for i < to {
			if stop, ok := r.skipType(i); ok {
				if !r.Is(i, "unmanaged") && !r.Is(i, "notnull") && !r.Is(i, "allows") {
					r.typeRef(i, stop, fact.HowType, sig)
				}
				i = stop
			} else { // class, struct, new(), default
				i++
				if r.At(i) == '(' {
					i = r.Pair(i) + 1
				}
				if r.At(i) == '?' {
					i++
				}
			}
			if r.At(i) != ',' {
				break
			}
			i++
		}
	}
	return i
}
