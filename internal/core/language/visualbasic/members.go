package visualbasic

import (
	"bytes"
	"strconv"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// attributes reads the attribute blocks at token i (5.2) and returns the index
// behind them; the markers are added to marks.
func (r *Reader) attributes(i, to int) int {
	for r.At(i) == '<' {
		k := i + 1
		for k < to && r.At(k) != '>' {
			if (r.word(k, "assembly") || r.word(k, "module")) && r.At(k+1) == tOperator {
				k += 2
			}
			stop := r.typeEnd(k, to)
			if stop == k {
				k++
				continue
			}
			if u := r.emit(k, stop, fact.HowMarker, 0); u >= 0 {
				r.marks = append(r.marks, u)
			}
			k = stop
			if r.At(k) == '(' {
				r.body(k+1, r.Pair(k))
				k = r.Pair(k) + 1
			}
			if r.At(k) == ',' {
				k++
			}
		}
		i = k + 1
	}
	return i
}

// typeEnd returns the index behind the type name at token i; i itself where
// none stands there.
func (r *Reader) typeEnd(i, to int) int {
	if r.in(i, predefined) {
		return i + 1
	}
	if r.At(i) != lexis.Name || r.in(i, keywords) && !r.word(i, "global") {
		return i
	}
	for {
		i++
		if r.At(i) == '(' && r.word(i+1, "of") {
			i = r.Pair(i) + 1
		}
		if r.At(i) == '.' && r.At(i+1) == lexis.Name && i < to {
			i++
			continue
		}
		return min(i, to)
	}
}

// full returns the dotted name of the type between two tokens; the number of
// its type arguments stands behind each part that has any, as "`1".
func (r *Reader) full(i, stop int) []byte {
	r.name = r.name[:0]
	for i < stop {
		switch r.At(i) {
		case lexis.Name:
			r.name = append(r.name, r.Bytes(i)...)
		case '.':
			r.name = append(r.name, '.')
		case '(':
			end, n := r.Pair(i), 1
			for k := i + 1; k < end; k++ {
				if r.At(k) == ',' {
					n++
				}
				k = max(k, r.Pair(k))
			}
			r.name = strconv.AppendInt(append(r.name, '`'), int64(n), 10)
			i = end
		}
		i++
	}
	return r.name
}

// emit records the dotted name between two tokens and returns its use, or -1
// where a type parameter or, if it may be one, a variable of that name is in
// scope.
func (r *Reader) emit(i, stop int, how fact.How, flags fact.UseFlags) int32 {
	if stop <= i || r.At(i) != lexis.Name {
		return -1
	}
	head := r.low(i)
	if r.locals.Has([]byte("<"+head)) || flags&fact.Ambiguous != 0 && r.locals.Has([]byte(head)) {
		return -1
	}
	at := r.Where(i)
	return r.b.Use(r.full(i, stop), fact.Use{Scope: r.scope, Local: -1, How: how, Flags: flags}, at)
}

// typeRef records the type between two tokens with its arguments.
func (r *Reader) typeRef(i, stop int, how fact.How, sig *[]int32) int32 {
	if stop <= i {
		return -1
	}
	u := int32(-1)
	if !r.in(i, predefined) {
		u = r.emit(i, stop, how, 0)
		if u >= 0 && sig != nil {
			*sig = append(*sig, u)
		}
	}
	r.arguments(i, stop, sig)
	return u
}

// arguments records the types in the "(Of …)" lists between two tokens.
func (r *Reader) arguments(i, stop int, sig *[]int32) {
	for ; i < stop; i++ {
		if r.At(i) != '(' || !r.word(i+1, "of") || r.depth > 50 {
			continue
		}
		end := r.Pair(i)
		r.depth++
		for k := i + 2; k < end; {
			e := r.typeEnd(k, end)
			r.typeRef(k, e, fact.HowType, sig)
			k = max(e, k+1)
			for k < end && r.At(k) != ',' {
				k++
			}
			k++
		}
		r.depth--
		i = end
	}
}

// as reads "As [New] Type" at token i and returns the index behind it.
func (r *Reader) as(i, to int, sig *[]int32) int {
	if !r.word(i, "as") {
		return i
	}
	i = r.attributes(i+1, to)
	how := fact.HowType
	if r.word(i, "new") {
		how = fact.HowConstruct
		i++
	}
	if r.At(i) == '{' { // bounds
		return i
	}
	stop := r.typeEnd(i, to)
	r.typeRef(i, stop, how, sig)
	for how == fact.HowType && stop < to { // an array, a nullable type
		if r.At(stop) == '?' {
			stop++
			continue
		}
		end := stop
		if r.At(stop) == '(' {
			for end++; r.At(end) == ','; end++ {
			}
		}
		if end == stop || r.At(end) != ')' {
			break
		}
		stop = end + 1
	}
	return stop
}

// parameters reads a parameter list (9.2.5) between two tokens and brings the
// names into scope.
func (r *Reader) parameters(i, end int, sig *[]int32) {
	for i < end {
		marks := append([]int32(nil), r.marks...)
		i = r.attributes(i, end)
		r.marks = append(r.marks[:0], marks...)
		for r.word(i, "byval") || r.word(i, "byref") || r.word(i, "optional") || r.word(i, "paramarray") {
			i++
		}
		if r.At(i) == lexis.Name {
			r.locals.Declare(r.low(i))
			i++
		}
		for i < end && (r.At(i) == '(' || r.At(i) == ')' || r.At(i) == '?') && !r.word(i, "as") {
			i++
		}
		i = r.as(i, end, sig)
		stop := i
		for stop < end && r.At(stop) != ',' {
			stop = max(stop, r.Pair(stop)) + 1
		}
		r.body(i, min(stop, end))
		i = stop + 1
	}
}

func (r *Reader) keep(m fact.Member, sig []int32) {
	m.Uses = r.b.Ints(sig)
	m.Markers = r.b.Ints(r.marks)
	r.marks = r.marks[:0]
	r.members = append(r.members, m)
}

// member reads a member of a type (9), if the statement is one.
func (r *Reader) member(i, to int, flags fact.Flags, start int) bool {
	kind := fact.Class
	module := false
	if r.scope >= 0 {
		kind = r.b.Decl(r.scope).Kind
		module = r.b.Decl(r.scope).Flags&fact.Companion != 0
	}
	if module {
		flags |= fact.Static
	}
	if kind == fact.Interface || flags&(fact.Public|fact.Private|fact.Protected) == 0 {
		flags |= fact.Public
	}
	var sig []int32
	switch {
	case r.word(i, "inherits"), r.word(i, "implements"):
		for k := i + 1; k < to; k++ {
			stop := r.typeEnd(k, to)
			if u := r.typeRef(k, stop, fact.HowInherit, nil); u >= 0 {
				r.supers = append(r.supers, u)
			}
			k = stop
		}
		return true
	case r.word(i, "sub"), r.word(i, "function"), r.word(i, "operator"), r.word(i, "declare"):
		declare := r.word(i, "declare")
		if declare {
			for i < to && !r.word(i, "sub") && !r.word(i, "function") {
				i++
			}
		}
		m := fact.Member{Kind: fact.MethodMember, Flags: flags, At: r.Where(i + 1)}
		m.Name = r.b.Text(r.Bytes(i + 1))
		if r.word(i+1, "new") {
			m.Kind = fact.Constructor
		}
		if kind == fact.Interface {
			m.Flags |= fact.Abstract
		}
		for _, u := range r.marks {
			if use, _ := r.b.UseAt(u); len(use.Name) >= 9 && bytes.EqualFold([]byte(use.Name[len(use.Name)-9:]), []byte("Extension")) {
				m.Flags |= fact.Extension
			}
		}
		mark := r.locals.Mark()
		k := i + 2
		for declare && k < to && r.At(k) != '(' {
			k++
		}
		if r.At(k) == '(' && r.word(k+1, "of") {
			r.typeParameters(k)
			k = r.Pair(k) + 1
		}
		if r.At(k) == '(' {
			r.parameters(k+1, r.Pair(k), &sig)
			k = r.Pair(k) + 1
		}
		k = r.as(k, to, &sig)
		r.clauses(k, to)
		r.keep(m, sig)
		if kind == fact.Interface || declare || flags&fact.Abstract != 0 {
			r.locals.Leave(mark)
		} else {
			r.method = mark
		}
		return true
	case r.word(i, "property"), r.word(i, "event"):
		m := fact.Member{Flags: flags, At: r.Where(i + 1), Name: r.b.Text(r.Bytes(i + 1))}
		k := i + 2
		mark := r.locals.Mark()
		if r.At(k) == '(' {
			r.parameters(k+1, r.Pair(k), &sig)
			k = r.Pair(k) + 1
		}
		k = r.as(k, to, &sig)
		r.locals.Leave(mark)
		r.clauses(k, to)
		r.keep(m, sig)
		return true
	case kind == fact.Enum && r.At(i) == lexis.Name:
		r.keep(fact.Member{Name: r.b.Text(r.Bytes(i)), Flags: fact.Public | fact.Static, At: r.Where(i)}, nil)
		r.body(i+1, to)
		return true
	case r.scope >= 0 && i > start && r.At(i) == lexis.Name: // fields
		r.variables(i, to, func(n int, sig []int32) {
			r.keep(fact.Member{Name: r.b.Text(r.Bytes(n)), Flags: flags, At: r.Where(n)}, sig)
		})
		return true
	}
	return false
}

// clauses reads what follows a signature: Implements I.M, Handles x.E, an
// initializer.
func (r *Reader) clauses(k, to int) {
	for k < to {
		switch {
		case r.word(k, "implements"):
			for k++; k < to; {
				stop := r.typeEnd(k, to)
				if stop == k {
					break
				}
				// The last part is the member.
				last := stop
				for n := k; n < stop; n++ {
					if r.At(n) == '.' {
						last = n
					}
					if r.At(n) == '(' {
						n = r.Pair(n)
					}
				}
				if last < stop {
					r.typeRef(k, last, fact.HowType, nil)
				}
				k = stop
				if r.At(k) != ',' {
					break
				}
				k++
			}
		case r.word(k, "handles"):
			return
		default:
			r.body(k, to)
			return
		}
	}
}

// variables reads "a, b As T = x, c As New U(y)" between two tokens; each gets
// the token of every name and the types named for it.
func (r *Reader) variables(i, to int, each func(n int, sig []int32)) {
	for i < to {
		var names []int
		for r.At(i) == lexis.Name {
			names = append(names, i)
			i++
			if r.At(i) == '?' {
				i++
			}
			if r.At(i) == '(' {
				r.body(i+1, r.Pair(i))
				i = r.Pair(i) + 1
			}
			if r.At(i) != ',' || r.word(i, "as") {
				break
			}
			i++
		}
		if len(names) == 0 {
			return
		}
		var sig []int32
		i = r.as(i, to, &sig)
		for _, n := range names {
			each(n, sig)
		}
		stop := i
		for stop < to && r.At(stop) != ',' {
			stop = max(stop, r.Pair(stop)) + 1
		}
		r.body(i, min(stop, to))
		i = stop + 1
	}
}

// body reads statements and expressions between two tokens.
func (r *Reader) body(i, to int) {
	if r.depth > 200 {
		return
	}
	r.depth++
	defer func() { r.depth-- }()
	switch {
	case r.word(i, "dim"), r.word(i, "static") && r.method >= 0, r.word(i, "const") && r.method >= 0:
		r.variables(i+1, to, func(n int, _ []int32) { r.locals.Declare(r.low(n)) })
		return
	case r.word(i, "using") && r.ident(i+1) && r.word(i+2, "as"):
		r.variables(i+1, to, func(n int, _ []int32) { r.locals.Declare(r.low(n)) })
		return
	}
	for i < to {
		switch r.At(i) {
		case lexis.String:
			if b := r.Bytes(i); len(b) > 4 && b[0] == '"' && lexis.FullName(b[1:len(b)-1]) {
				r.b.Use(b[1:len(b)-1], fact.Use{Scope: -1, Local: -1, How: fact.HowDynamic}, r.Where(i))
			}
		case lexis.Name:
			i = max(r.named(i, to), i+1)
			continue
		}
		i++
	}
}

// named reads the name or keyword at token i in code and returns the index
// behind what belongs to it.
func (r *Reader) named(i, to int) int {
	if k := r.At(i - 1); k == '.' || k == '!' {
		if r.At(i+1) == '(' && r.word(i+2, "of") {
			r.arguments(i, r.Pair(i+1)+1, nil)
			return r.Pair(i+1) + 1
		}
		return i + 1
	}
	if r.in(i, keywords) && !r.word(i, "global") {
		switch r.low(i) {
		case "as":
			// The name before it is a variable: For Each x As T, Catch e As T.
			if r.At(i-1) == lexis.Name && !r.in(i-1, keywords) {
				r.locals.Declare(r.low(i - 1))
			}
			return r.as(i, to, nil)
		case "new":
			if r.word(i+1, "with") {
				return i + 2
			}
			stop := r.typeEnd(i+1, to)
			r.typeRef(i+1, stop, fact.HowConstruct, nil)
			return stop
		case "gettype":
			if r.At(i+1) == '(' {
				r.typeRef(i+2, r.typeEnd(i+2, to), fact.HowType, nil)
				return r.Pair(i+1) + 1
			}
		case "is", "isnot":
			for k := i - 1; k >= 0 && r.At(k) != tEnd; k-- {
				if r.word(k, "typeof") {
					stop := r.typeEnd(i+1, to)
					r.typeRef(i+1, stop, fact.HowType, nil)
					return stop
				}
				if r.At(k) == ')' && r.Pair(k) < k {
					k = r.Pair(k)
				}
			}
		case "ctype", "directcast", "trycast":
			if r.At(i+1) == '(' {
				end := r.Pair(i + 1)
				for k := i + 2; k < end; k = max(k, r.Pair(k)) + 1 {
					if r.At(k) == ',' {
						r.body(i+2, k)
						r.typeRef(k+1, r.typeEnd(k+1, end), fact.HowType, nil)
						return end + 1
					}
				}
			}
		case "function", "sub": // a lambda
			if r.At(i+1) == '(' && r.method >= 0 || r.At(i+1) == '(' {
				end := r.Pair(i + 1)
				r.parameters(i+2, end, nil)
				k := r.as(end+1, to, nil)
				if k >= to {
					r.lambdas++ // its body follows in lines of its own
				}
				return k
			}
		case "each", "for":
			if r.ident(i + 1) {
				if n := i + 2; r.word(n, "in") || r.At(n) == '=' || r.word(n, "as") {
					r.locals.Declare(r.low(i + 1))
					return n
				}
			}
		case "catch":
			if r.ident(i + 1) {
				if r.word(i+2, "as") {
					r.locals.Declare(r.low(i + 1))
				}
				return i + 2
			}
		case "goto", "resume":
			return i + 2
		}
		return i + 1
	}
	if (r.IsFold(i, "from") || r.IsFold(i, "let") || r.IsFold(i, "aggregate")) && r.ident(i+1) && (r.word(i+2, "in") || r.word(i+2, "as")) {
		r.locals.Declare(r.low(i + 1))
		return i + 2
	}
	if r.At(i+1) == tOperator && string(r.Bytes(i+1)) == ":=" { // a named argument
		return i + 2
	}
	stop := r.typeEnd(i, to)
	if stop == i {
		return i + 1
	}
	flags := fact.Ambiguous
	if dotted := bytes.IndexByte(r.full(i, stop), '.') >= 0; !dotted {
		flags |= fact.Call // a member of a module, perhaps
	}
	r.emit(i, stop, fact.HowCall, flags)
	r.arguments(i, stop, nil)
	return stop
}
