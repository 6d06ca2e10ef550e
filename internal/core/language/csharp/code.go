package csharp

import (
	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// operators are the contextual keywords that stand between operands, where a
// name behind another name would otherwise be a variable behind its type.
var operators = set(`and or not when select where orderby join let into group by on equals ascending descending with from in is as switch`)

// operands are the keywords that an operand may begin with.
var operands = set(`this base new typeof default checked unchecked null true false sizeof delegate stackalloc throw nameof await
	bool byte char decimal double float int long object sbyte short string uint ulong ushort`)

// block is an open brace in code.
type block struct {
	mark int
	arms bool // of a switch expression
}

// code reads statements or expressions between two tokens. What they declare
// ends with them.
func (r *Reader) code(i, to int) {
	if i >= to {
		return
	}
	if r.nesting >= deepest {
		return
	}
	r.nesting++
	base := len(r.blocks)
	r.blocks = append(r.blocks, block{mark: r.locals.Mark()})
	for i < to {
		switch r.At(i) {
		case '{':
			r.blocks = append(r.blocks, block{r.locals.Mark(), r.word(i-1, "switch")})
			i++
			if r.blocks[len(r.blocks)-1].arms {
				i = r.pattern(i, to)
			}
		case '}':
			if n := len(r.blocks); n > base+1 {
				r.locals.Leave(r.blocks[n-1].mark)
				r.blocks = r.blocks[:n-1]
			}
			i++
		case ',':
			i++
			if r.blocks[len(r.blocks)-1].arms && r.arm(i, to) {
				i = r.pattern(i, to)
			}
		case '(':
			i = r.paren(i, to)
		case lexis.String:
			r.literal(i)
			i++
		case lexis.Name:
			i = max(r.name(i, to), i+1)
		default:
			i++
		}
	}
	r.locals.Leave(r.blocks[base].mark)
	r.blocks = r.blocks[:base]
	r.nesting--
}

// arm reports whether an arm of a switch expression begins at token i: "=>"
// comes before the next ",".
func (r *Reader) arm(i, to int) bool {
	for n := 0; i < to && n < 200; n++ {
		switch r.At(i) {
		case tArrow:
			return true
		case ',', ';', '}':
			return false
		}
		i = max(i, r.Pair(i)) + 1
	}
	return false
}

// literal records a string that may be the full name of a type.
func (r *Reader) literal(i int) {
	b := r.Bytes(i)
	for len(b) > 0 && (b[0] == '@' || b[0] == '$') {
		b = b[1:]
	}
	if len(b) < 5 || b[0] != '"' || b[len(b)-1] != '"' {
		return
	}
	b = b[1 : len(b)-1]
	for k, c := range b { // an assembly may follow
		if c == ',' {
			b = b[:k]
			break
		}
	}
	if lexis.FullName(b) {
		r.b.Use(b, fact.Use{Scope: -1, Local: -1, How: fact.HowDynamic}, r.Where(i))
	}
}

// paren reads an opening bracket at token i: a cast, the parameters of a
// lambda, or just a bracket.
func (r *Reader) paren(i, to int) int {
	end := r.Pair(i)
	if r.Bytes(i)[0] != '(' {
		return i + 1 // code in a string
	}
	if r.At(end+1) == tArrow && end > i { // lambda parameters without types
		for k := i + 1; k < end; k++ {
			if r.ident(k) && (r.At(k+1) == ',' || k+1 == end) && (r.At(k-1) == ',' || k-1 == i) {
				r.locals.Declare(r.text1(k))
			}
		}
		return i + 1
	}
	if k := r.At(i - 1); k == ')' || k == ']' || k == '>' || k == lexis.Name && !r.in(i-1, keywords) || r.word(i-1, "base") || r.word(i-1, "this") {
		return i + 1 // arguments
	}
	stop, ok := r.skipType(i + 1)
	if !ok || stop != end || r.in(i-1, set1) {
		return i + 1
	}
	next := end + 1
	sure := r.At(stop-1) != lexis.Name || r.in(stop-1, predefined) // Type[], Type?, Type<T>, int
	switch r.At(next) {
	case lexis.Name:
		if r.in(next, keywords) && !r.in(next, operands) || r.in(next, operators) && !r.ident(next+1) && r.At(next+1) != '.' && r.At(next+1) != ';' && r.At(next+1) != ')' {
			return i + 1
		}
	case lexis.Number, lexis.String, '~', '!':
	case '(':
		if !sure {
			r.emit(i+1, stop, fact.HowType, fact.Ambiguous|fact.Value)
			return stop + 1
		}
	default:
		if !sure {
			return i + 1
		}
	}
	r.typeRef(i+1, stop, fact.HowType, nil)
	return stop + 1
}

// set1 are the keywords whose brackets hold no cast.
var set1 = set(`if while for foreach switch lock using fixed catch typeof default sizeof checked unchecked nameof when`)

// name reads the name or keyword at token i and returns the index behind what
// belongs to it.
func (r *Reader) name(i, to int) int {
	if k := r.At(i - 1); k == '.' {
		return r.generic(i)
	}
	if r.in(i, keywords) {
		return r.keyword(i, to)
	}
	next := r.At(i + 1)
	switch {
	case next == tArrow:
		if !r.blocks[len(r.blocks)-1].arms || r.At(i-1) != ',' && r.At(i-1) != '{' {
			r.locals.Declare(r.text1(i))
		}
		return i + 1
	case next == ':' && (r.At(i-1) == '(' || r.At(i-1) == ',' || r.At(i-1) == ';' || r.At(i-1) == '{' || r.At(i-1) == '}' || r.At(i-1) == '['):
		return i + 2 // the name of an argument or property, a label
	case r.Is(i, "nameof") && next == '(':
		if r.ident(i + 2) {
			stop, _ := r.skipType(i + 2)
			r.emit(i+2, stop, fact.HowType, fact.Ambiguous|fact.Value)
		}
		return r.Pair(i+1) + 1
	case r.Is(i, "await") || r.Is(i, "yield") && next == lexis.Name:
		if next == lexis.Name {
			return i + 1
		}
	case r.Is(i, "from") && next == lexis.Name, r.Is(i, "join") && next == lexis.Name:
		k := i + 1
		if stop, ok := r.skipType(k); ok && r.ident(stop) && r.word(stop+1, "in") {
			r.typeRef(k, stop, fact.HowType, nil)
			k = stop
		}
		if r.ident(k) && r.word(k+1, "in") {
			r.locals.Declare(r.text1(k))
			return k + 1
		}
	case (r.Is(i, "let") || r.Is(i, "into")) && r.ident(i+1):
		r.locals.Declare(r.text1(i + 1))
		return i + 2
	case (r.Is(i, "and") || r.Is(i, "or")) && r.operandBefore(i) && r.At(i+1) != '.' && r.At(i+1) != '(' && r.At(i+1) != ';':
		return r.pattern(i+1, to)
	case r.in(i, operators) && r.operandBefore(i):
		return i + 1
	}
	stop, ok := r.skipType(i)
	if ok && r.ident(stop) && !(r.in(stop, operators) && !r.declares(stop)) && r.declaration2(i, stop) {
		r.typeRef(i, stop, fact.HowType, nil)
		r.locals.Declare(r.text1(stop))
		r.typed(r.text1(stop), i, stop)
		k := stop + 1
		if r.At(k) == '(' && (r.At(r.Pair(k)+1) == '{' || r.At(r.Pair(k)+1) == tArrow) { // a local function
			var sig []int32
			r.parameters(k+1, r.Pair(k), &sig)
			return r.Pair(k) + 1
		}
		if r.At(k) == '<' { // with type parameters
			if n, ok := r.skipArguments(k, 0); ok && r.At(n) == '(' {
				r.typeParameters(k)
				var sig []int32
				r.parameters(n+1, r.Pair(n), &sig)
				return r.Pair(n) + 1
			}
		}
		return k
	}
	return r.chain(i)
}

// operandBefore reports whether an operand ends before token i.
func (r *Reader) operandBefore(i int) bool {
	switch r.At(i - 1) {
	case ')', ']', '}', lexis.Number, lexis.String:
		return true
	case lexis.Name:
		return !r.in(i-1, keywords) || r.word(i-1, "this") || r.word(i-1, "null") || r.word(i-1, "true") || r.word(i-1, "false")
	}
	return false
}

// declares reports whether the name at token i, which may be an operator, is
// that of a variable after all.
func (r *Reader) declares(i int) bool {
	switch r.At(i + 1) {
	case '=', ';', ',', ')':
		return true
	}
	return r.word(i+1, "in")
}

// declaration2 reports whether a type between tokens i and stop, with a name
// behind it, declares that name: "a ? b : c" and "a * b" do not.
func (r *Reader) declaration2(i, stop int) bool {
	switch r.At(stop - 1) {
	case '?':
		switch r.At(stop + 1) {
		case '=', ';', ',', ')':
			return true
		}
		return r.word(stop+1, "in")
	case '*':
		switch r.At(i - 1) {
		case ';', '{', '}', '(':
			return r.At(stop+1) == '=' || r.At(stop+1) == ';' || r.At(stop+1) == ','
		}
		return false
	}
	return true
}

// generic reads the name of a member at token i, with its type arguments.
func (r *Reader) generic(i int) int {
	if r.At(i+1) == '<' {
		if stop, ok := r.skipArguments(i+1, 0); ok && r.endsArguments(stop) {
			r.arguments(i, stop, fact.HowType, nil)
			return stop
		}
	}
	return i + 1
}

// endsArguments tells the tokens behind which "<…>" are type arguments (clause
// 6.2.5).
func (r *Reader) endsArguments(i int) bool {
	switch r.At(i) {
	case '(', ')', ']', '}', ':', ';', ',', '.', '?', tOperator, '|', '^', '&', '[', '{', tCoalesce, tArrow, lexis.EOF:
		return true
	}
	return false
}

// chain reads a dotted name in an expression at token i.
func (r *Reader) chain(i int) int {
	last := i // the last part
	k := i
	typed := -1 // behind the last part that has type arguments
	for {
		last = k
		k++
		if r.At(k) == '<' {
			if stop, ok := r.skipArguments(k, 0); ok && r.endsArguments(stop) {
				k = stop
				typed = k
			}
		}
		if (r.At(k) == '.' && r.Bytes(k)[0] == '.' || r.At(k) == tColons) && r.ident(k+1) {
			k++
			continue
		}
		break
	}
	if typed >= 0 {
		if typed < k || last > i && typed != k || typed == k && r.At(k) != '(' {
			// A<B>.C: what has arguments and is no method is a type.
			if typed < k {
				r.emit(i, typed, fact.HowCall, 0)
			} else if r.At(k) != '(' {
				r.emit(i, k, fact.HowCall, fact.Ambiguous|fact.Value)
			}
			r.arguments(i, k, fact.HowType, nil)
			return k
		}
		r.arguments(i, k, fact.HowType, nil)
	}
	if t := r.typeOf[string(r.Bytes(i))]; t != "" && last == i+2 && r.At(k) == '(' && r.locals.Has(r.Bytes(i)) {
		// A method of the variable's type, or an extension of it.
		r.b.Use([]byte(t), fact.Use{Of: r.text1(last), Scope: r.scope, Local: -1, How: fact.HowCall, Flags: fact.Selected}, r.Where(last))
	}
	switch {
	case last > i:
		r.emit(i, last+1, fact.HowCall, fact.Ambiguous)
	case r.At(k) == '(' && r.static:
		r.emit(i, last+1, fact.HowCall, fact.Ambiguous|fact.Call)
	case r.static:
		r.emit(i, last+1, fact.HowCall, fact.Ambiguous|fact.Call)
	}
	return k
}

// keyword reads the keyword at token i and what belongs to it.
func (r *Reader) keyword(i, to int) int {
	k := i + 1
	switch string(r.Bytes(i)) {
	case "new":
		if r.At(k) == '(' && r.At(r.Pair(k)+1) != '[' {
			return k // of the type that is expected here
		}
		stop, ok := r.skipType(k)
		if !ok {
			return k
		}
		how := fact.HowConstruct
		if r.At(stop) == '[' || r.At(stop-1) == ']' {
			how = fact.HowType
		}
		if r.At(stop-1) == '?' {
			stop--
		}
		r.typeRef(k, stop, how, nil)
		return stop
	case "typeof", "default", "sizeof", "__makeref", "__reftype":
		if r.At(k) == '(' {
			if stop, ok := r.skipType(k + 1); ok && r.At(stop) == ')' {
				r.typeRef(k+1, stop, fact.HowType, nil)
				return stop + 1
			}
			if end := r.Pair(k); r.ident(k+1) && end > k { // typeof(List<>)
				r.emit(k+1, end, fact.HowType, 0)
				return end + 1
			}
		}
	case "as":
		if stop, ok := r.skipType(k); ok {
			if r.At(stop-1) == '?' && r.At(stop) != ')' && r.At(stop) != ';' && r.At(stop) != ',' && r.At(stop) != tCoalesce {
				stop--
			}
			r.typeRef(k, stop, fact.HowType, nil)
			return stop
		}
	case "is", "case":
		return r.pattern(k, to)
	case "stackalloc":
		if stop, ok := r.skipType(k); ok {
			r.typeRef(k, stop, fact.HowType, nil)
			return stop
		}
	case "catch":
		if r.At(k) == '(' {
			if stop, ok := r.skipType(k + 1); ok {
				r.typeRef(k+1, stop, fact.HowType, nil)
				if r.ident(stop) {
					r.locals.Declare(r.text1(stop))
				}
				return r.Pair(k) + 1
			}
		}
	case "goto":
		if r.ident(k) {
			return k + 1
		}
	case "delegate":
		if r.At(k) == '(' {
			var sig []int32
			r.parameters(k+1, r.Pair(k), &sig)
			return r.Pair(k) + 1
		}
	case "out", "ref", "in", "const", "readonly", "foreach", "using", "fixed", "for":
		return k
	default:
		if r.in(i, predefined) {
			stop, ok := r.skipType(i)
			if ok && r.ident(stop) && r.declaration2(i, stop) {
				r.typeRef(i, stop, fact.HowType, nil)
				r.locals.Declare(r.text1(stop))
				return stop + 1
			}
		}
	}
	return k
}

// pattern reads a pattern at token i (clause 11), as far as it names types and
// declares variables.
func (r *Reader) pattern(i, to int) int {
	for i < to && (r.Is(i, "not") || r.Is(i, "and") || r.Is(i, "or") || r.At(i) == tOperator || r.At(i) == '<' || r.At(i) == '>') {
		i++
	}
	switch {
	case r.At(i) == '(' && i < to:
		return r.pattern(i+1, to)
	case r.Is(i, "_"):
		return i + 1
	case r.Is(i, "var") && r.ident(i+1):
		r.locals.Declare(r.text1(i + 1))
		return i + 2
	case !r.ident(i) && !r.in(i, predefined):
		return i
	}
	stop, ok := r.skipType(i)
	if !ok {
		return i
	}
	if r.At(stop-1) == '?' {
		stop--
	}
	k := stop
	switch {
	case r.At(k) == '{' || r.At(k) == '(' || r.At(stop-1) == ']' || r.At(stop-1) == '>':
		r.typeRef(i, stop, fact.HowType, nil)
	case r.ident(k) && !r.in(k, operators):
		r.typeRef(i, stop, fact.HowType, nil)
		r.locals.Declare(r.text1(k))
		k++
	case r.ident(i):
		r.emit(i, stop, fact.HowType, fact.Ambiguous|fact.Value)
	}
	if r.Is(k, "or") || r.Is(k, "and") {
		return r.pattern(k+1, to)
	}
	return k
}
