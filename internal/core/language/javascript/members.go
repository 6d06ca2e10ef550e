package javascript

import (
	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// class reads the head of a class at token i (clause 15.7) and its members'
// signatures; the bodies are read later, with all other code.
func (r *Reader) class(i int) int {
	k := i + 1
	d := int32(-1)
	if r.At(k) == lexis.Name && !r.Is(k, "extends") && !r.Is(k, "implements") {
		d = r.declare(i, k, fact.Class)
		k++
	} else {
		d = r.b.Declare(fact.Decl{Kind: fact.Class, Flags: fact.Anonymous | fact.Local | r.exported(i), Outer: r.scope, At: r.Where(i), Markers: r.b.Ints(r.marks)})
		r.marks = r.marks[:0]
	}
	return r.typeBody(d, k, r.typed)
}

func (r *Reader) interfaceDecl(i int) int {
	d := r.declare(i, i+1, fact.Interface)
	r.b.Decl(d).Flags |= fact.Abstract
	return r.typeBody(d, i+2, true)
}

// typeBody reads the rest of a type's head from token k on and its members,
// and returns the index of the body's first token.
func (r *Reader) typeBody(d int32, k int, typed bool) int {
	outer := r.scope
	r.scope = d
	if r.At(k) == '<' {
		k = r.angles(k)
	}
	var supers []int32
	for r.Is(k, "extends") || r.Is(k, "implements") {
		k++
		for r.At(k) == lexis.Name || r.At(k) == '(' || r.At(k) == '{' {
			if r.At(k) == lexis.Name {
				n := r.chain(k)
				how := fact.HowInherit
				if r.At(n) == '(' {
					how = fact.HowCall // a mixin
				}
				if u := r.emit(k, n, how, 0); u >= 0 {
					supers = append(supers, u)
				}
				k = n
			}
			if r.At(k) == '{' {
				break
			}
			for r.At(k) == '(' || r.At(k) == '[' {
				for n := k + 1; n < r.Pair(k); n++ {
					if r.At(n) == lexis.Name && r.At(n-1) != '.' {
						r.emit(n, r.chain(n), fact.HowInherit, 0)
					}
				}
				k = r.Pair(k) + 1
			}
			if r.At(k) == '<' {
				k = r.angles(k)
			}
			if r.At(k) != ',' {
				break
			}
			k++
		}
	}
	r.b.Decl(d).Supers = r.b.Ints(supers)
	if r.At(k) != '{' {
		r.scope = outer
		return k
	}
	stop := r.Pair(k)
	if typed || r.At(k+1) != '}' {
		r.signatures(d, k+1, stop)
	}
	r.ends = append(r.ends, end{stop, outer})
	if r.body < stop {
		r.body = stop
	}
	return k + 1
}

// angles records the types in type arguments at token k and returns the index
// behind them; k+1 where they do not end soon.
func (r *Reader) angles(k int) int {
	depth := 0
	for n := k; n < len(r.Tokens) && n < k+2000; n++ {
		switch r.At(n) {
		case '<':
			depth++
		case '>':
			if r.At(n-1) == '=' {
				continue
			}
			if depth--; depth == 0 {
				return n + 1
			}
		case ';', lexis.EOF:
			return k + 1
		case lexis.Name:
			if r.At(n-1) != '.' {
				r.emit(n, r.chain(n), fact.HowType, 0)
			}
		}
	}
	return k + 1
}

// signatures reads the members of a type between two tokens: their names,
// visibility and the types that they name. Those types are recorded again,
// with all other names, when the body is walked; here they are only collected.
func (r *Reader) signatures(d int32, i, stop int) {
	var list []fact.Member
	kind := r.b.Decl(d).Kind
	for i < stop {
		var marks []int32
		for r.At(i) == '@' {
			n := r.chain(i + 1)
			if r.At(i+1) == lexis.Name {
				if u := r.lookup(i+1, n, fact.HowMarker); u >= 0 {
					marks = append(marks, u)
				}
			}
			if r.At(n) == '(' {
				n = r.Pair(n) + 1
			}
			i = n
		}
		m := fact.Member{Flags: fact.Public, Markers: r.b.Ints(marks)}
	modifiers:
		for r.At(i) == lexis.Name {
			if k := r.At(i + 1); k == '(' || k == ':' || k == '=' || k == ';' || k == '?' || k == '<' || k == '}' || k == '!' {
				break
			}
			switch string(r.Bytes(i)) {
			case "public", "readonly", "override", "declare", "async", "accessor", "get", "set":
			case "private":
				m.Flags = m.Flags&^fact.Public | fact.Private
			case "protected":
				m.Flags = m.Flags&^fact.Public | fact.Protected
			case "static":
				m.Flags |= fact.Static
			case "abstract":
				m.Flags |= fact.Abstract
			default:
				break modifiers
			}
			i++
		}
		if r.At(i) == '*' {
			i++
		}
		var sig []int32
		at := i
		switch r.At(i) {
		case lexis.Name, lexis.String:
			m.At = r.Where(i)
			m.Name = r.b.Text(r.Bytes(i))
			if m.Name[0] == '#' {
				m.Flags = m.Flags&^fact.Public | fact.Private
			}
			i++
		case '[':
			i = r.Pair(i) + 1
		case ';', ',':
			i++
			continue
		case '{': // a static block
			i = r.Pair(i) + 1
			continue
		}
		if r.At(i) == '?' || r.At(i) == '!' {
			i++
		}
		if r.At(i) == '<' {
			i = r.pastAngles(i)
		}
		if r.At(i) == '(' {
			m.Kind = fact.MethodMember
			if m.Name == "constructor" {
				m.Kind = fact.Constructor
			}
			if kind == fact.Interface {
				m.Flags |= fact.Abstract
			}
			r.collect(i+1, r.Pair(i), &sig)
			i = r.Pair(i) + 1
		}
		if r.At(i) == ':' {
			n := r.typeEnd(i+1, stop)
			r.collect(i, n, &sig)
			i = n
		}
		if m.Name != "" {
			m.Uses = r.b.Ints(sig)
			list = append(list, m)
		}
		switch r.At(i) {
		case '{':
			i = r.Pair(i) + 1
		case '=':
			for i < stop && r.At(i) != ';' {
				if i > at+2 && r.NewLine(i) && r.At(i-1) != '=' && r.At(i-1) != tArrow && r.At(i) != '.' && r.At(i) != '?' && r.At(i) != ':' && r.At(i) != '+' && r.At(i) != '|' && r.At(i) != '&' {
					break
				}
				i = max(i, r.Pair(i)) + 1
			}
		}
		if i == at {
			i++
		}
	}
	r.b.Decl(d).Members = r.b.Members(list)
}

// typeEnd returns the index behind the type that begins at token i.
func (r *Reader) typeEnd(i, stop int) int {
	for i < stop {
		switch r.At(i) {
		case ';', ',', '=':
			return i
		case '{':
			if k := r.At(i - 1); k != ':' && k != '|' && k != '&' && k != '<' && k != tArrow && k != '(' && !r.Is(i-1, "is") {
				return i // the body
			}
			i = r.Pair(i)
		case '(', '[':
			i = r.Pair(i)
		case '<':
			i = r.pastAngles(i) - 1
		case lexis.Name:
			if r.NewLine(i) {
				switch r.At(i - 1) {
				case ':', '|', '&', '<', '.', tArrow:
				default:
					return i
				}
			}
		}
		i++
	}
	return stop
}

func (r *Reader) pastAngles(k int) int {
	depth := 0
	for n := k; n < len(r.Tokens) && n < k+2000; n++ {
		switch r.At(n) {
		case '<':
			depth++
		case '>':
			if depth--; depth == 0 {
				return n + 1
			}
		case ';', lexis.EOF:
			return k + 1
		}
	}
	return k + 1
}

// collect adds the types that are named between two tokens to a signature.
func (r *Reader) collect(i, stop int, sig *[]int32) {
	for ; i < stop; i++ {
		if r.At(i) != lexis.Name || r.At(i-1) == '.' || !r.typePlace(i) && r.At(i-1) != '(' && r.At(i-1) != ',' && r.At(i-1) != '[' && r.At(i-1) != tArrow {
			continue
		}
		k := r.chain(i)
		if r.At(k) == ':' || r.At(k) == '?' {
			continue // a parameter's name
		}
		if u := r.lookup(i, k, fact.HowType); u >= 0 {
			*sig = append(*sig, u)
		}
		i = k - 1
	}
}

// lookup is emit for a place that is walked again: it records the use there
// already, so that the index is known.
func (r *Reader) lookup(i, k int, how fact.How) int32 {
	u := r.emit(i, k, how, 0)
	if u >= 0 {
		r.b.Unsay()
	}
	return u
}
