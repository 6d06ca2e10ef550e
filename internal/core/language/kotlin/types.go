package kotlin

import (
	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// skipType returns the index behind the type at token i (3), and whether one
// stands there.
func (r *Reader) skipType(i, depth int) (int, bool) {
	if depth > 24 {
		return i, false
	}
	for {
		switch {
		case r.At(i) == '@' && r.At(i+1) == lexis.Name:
			_, k := r.dotted(i + 1)
			if r.At(k) == '(' && r.Touches(k-1) {
				k = r.Pair(k) + 1
			}
			i = k
			continue
		case r.word(i, "suspend") || r.word(i, "in") || r.word(i, "out") || r.word(i, "vararg"):
			i++
			continue
		}
		break
	}
	function := false // "->" may follow
	switch {
	case r.At(i) == '*':
		return i + 1, true
	case r.At(i) == '(':
		i = r.Pair(i) + 1
		function = true
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
			if r.At(i) == '.' && r.ident(i+1) {
				i++
				continue
			}
			break
		}
	default:
		return i, false
	}
	for {
		switch {
		case r.At(i) == '?' || r.At(i) == '&' && r.ident(i+1) && !r.NewLine(i):
			if r.At(i) == '&' {
				stop, ok := r.skipType(i+1, depth+1)
				if !ok {
					return i, true
				}
				i = stop
				continue
			}
			i++
			continue
		case r.At(i) == tBangs:
			i++
			continue
		case r.At(i) == '.' && r.At(i+1) == '(' && r.At(r.Pair(i+1)+1) == tArrow:
			i = r.Pair(i+1) + 1
			function = true
			continue
		case r.At(i) == tSafe && r.At(i+1) == '(' && r.At(r.Pair(i+1)+1) == tArrow:
			i = r.Pair(i+1) + 1
			function = true
			continue
		case r.At(i) == tArrow && function:
			return r.skipType(i+1, depth+1)
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
		case '>':
			return i + 1, true
		case ',':
			continue
		}
		stop, ok := r.skipType(i, depth+1)
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

// types records every type that is named between two tokens.
func (r *Reader) types(i, stop int, sig *[]int32) int32 {
	first := int32(-1)
	for i < stop {
		switch {
		case r.At(i) == '@' && r.At(i+1) == lexis.Name:
			i = r.annotation(i)
		case r.word(i, "in") || r.word(i, "out") || r.word(i, "suspend") || r.word(i, "vararg"):
			i++
		case r.ident(i):
			if r.At(i+1) == ':' && r.At(i+2) != ':' { // the name of a function type's parameter
				i += 2
				continue
			}
			u, k := r.typeName(i, stop, fact.HowType)
			if u >= 0 {
				if first < 0 {
					first = u
				}
				if sig != nil {
					*sig = append(*sig, u)
				}
			}
			i = k
		default:
			i++
		}
	}
	return first
}

// typeName records the type name at token i, without its arguments, and
// returns its use, or -1 for a type parameter, and the index behind it.
func (r *Reader) typeName(i, stop int, how fact.How) (int32, int) {
	head := string(r.Bytes(i))
	at := i
	r.joined = r.joined[:0]
	k := i
	for {
		r.joined = append(r.joined, r.Bytes(k)...)
		k++
		if r.At(k) == '.' && r.ident(k+1) && k < stop {
			r.joined = append(r.joined, '.')
			k++
			continue
		}
		if r.At(k) == '<' { // Outer<T>.Inner
			if n, ok := r.skipArguments(k, 0); ok && r.At(n) == '.' && r.ident(n+1) && n < stop {
				joined := append([]byte(nil), r.joined...)
				r.types(k+1, n-1, nil)
				r.joined = append(append(r.joined[:0], joined...), '.')
				k = n + 1
				continue
			}
		}
		break
	}
	if r.locals.Has([]byte("<" + head)) {
		return -1, k
	}
	return r.use(r.joined, head, at, how, 0), k
}

// typeParameters reads "<T : A, reified U>" at token i, brings the names into
// scope and returns the index behind it.
func (r *Reader) typeParameters(i int, sig *[]int32) int {
	if r.At(i) != '<' {
		return i
	}
	// All names first: a bound may name a later parameter.
	depth := 0
	end := i
	for k := i; k < len(r.Tokens); k++ {
		switch r.At(k) {
		case '<':
			depth++
		case '>':
			depth--
		case lexis.Name:
			if depth == 1 && r.ident(k) && !(r.in(k, modifiers) && r.At(k+1) == lexis.Name) && (r.At(k-1) == '<' || r.At(k-1) == ',' || r.At(k-1) == lexis.Name && r.in(k-1, modifiers) || r.At(k-1) == ')' || r.At(k-2) == '@') {
				r.locals.Declare("<" + string(r.Bytes(k)))
			}
		case '{', '}', lexis.EOF:
			return i + 1
		}
		if depth == 0 {
			end = k
			break
		}
	}
	for k := i + 1; k < end; k++ {
		if r.At(k) == ':' {
			stop, ok := r.skipType(k+1, 0)
			if ok {
				r.types(k+1, stop, sig)
				k = stop - 1
			}
		}
	}
	return end + 1
}

// where reads "where T : A, U : B" at token i.
func (r *Reader) where(i, to int, sig *[]int32) int {
	if !r.word(i, "where") {
		return i
	}
	for i++; r.ident(i) && r.At(i+1) == ':' && i < to; {
		stop, ok := r.skipType(i+2, 0)
		if !ok {
			return i
		}
		r.types(i+2, stop, sig)
		i = stop
		if r.At(i) != ',' {
			break
		}
		i++
	}
	return i
}
