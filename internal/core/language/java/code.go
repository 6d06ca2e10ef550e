package java

import (
	"moatline/internal/core/fact"
)

// block reads a block at its "{"; what it declares ends with it.
func (r *Reader) block() {
	if !r.deeper() {
		return
	}
	mark := len(r.undos)
	r.next()
	r.code('}')
	if r.tok == '}' {
		r.next()
	}
	r.leave(mark)
	r.shallower()
}

// paren reads a parenthesised run at its "(". cast tells whether a cast may
// begin here: after a name or a closing bracket none can.
func (r *Reader) paren(cast bool) {
	if cast && r.cast() {
		return
	}
	if !r.deeper() {
		return
	}
	r.lambdaParameters()
	r.next()
	r.code(')')
	if r.tok == ')' {
		r.next()
	}
	r.shallower()
}

// expression reads up to the "," or ";" that ends an initializer, or to a
// bracket that closes something outside.
func (r *Reader) expression() { r.code(',') }

// code reads statements or an expression up to the closing token, which it
// leaves in place. For close == ',' it ends before "," and ";" as well.
func (r *Reader) code(close kind) {
	cast := true       // whether "(" may open a cast here
	start := true      // whether a statement may begin here
	declaring := false // whether "," may be followed by one more declarator
	for {
		wasStart := start
		start = false
		switch r.tok {
		case tEOF:
			return
		case '}', ')':
			if close != '}' || r.tok == '}' {
				return // ours, or damage that an outer level mends
			}
			r.next()
			cast = false
		case ';':
			if close == ',' {
				return
			}
			r.next()
			cast, start, declaring = true, true, false
		case ',':
			if close == ',' {
				return
			}
			r.next()
			cast = true
			if declaring && r.tok == tIdent {
				r.declarator()
			}
		case '{':
			r.block()
			cast, start = false, true
		case '(':
			r.paren(cast)
			cast = false
		case tIdent:
			if wasStart && close == '}' {
				if r.localType() {
					start, cast = true, true
					continue
				}
				if r.word("yield") && r.followedBy(r.startsYield) {
					r.next()
					cast = true
					continue
				}
			}
			declaring = r.name() || declaring
			cast = false
		case kPrimitive:
			declaring = r.primitive() || declaring
			cast = false
		case '.':
			r.afterDot()
			cast = false
		case tColons:
			r.next()
			if r.tok == '<' {
				r.typeArgs()
			}
			if r.tok == tIdent || r.tok == kNew {
				r.next()
			}
			cast = false
		case kNew:
			r.creation(true)
			cast = false
		case kInstanceof:
			r.next()
			for r.tok == kFinal || r.tok == '@' {
				if r.tok == kFinal {
					r.next()
				} else {
					r.annotation()
				}
			}
			r.pattern()
			cast = false
		case kCase:
			r.next()
			r.caseLabel()
			cast, start = true, true
		case kCatch:
			r.next()
			r.catchClause()
			cast = true
		case kClass, kInterface, kEnum, kAbstract, kFinal, kStatic, kStrictfp:
			if !r.localType() {
				r.next()
			}
			start, cast = true, true
		case kIf, kWhile, kFor, kSwitch, kSynchronized, kTry:
			r.next()
			if r.tok == '(' {
				r.paren(false)
				start = true
			}
			cast = true
		case kThis, kSuper, tLiteral, kWord, ']':
			r.next()
			cast = false
		case '@':
			if r.atInterface() {
				r.localType()
			} else {
				if m := r.annotation(); m >= 0 {
					r.marks = append(r.marks, m)
				}
			}
			start = wasStart
			cast = true
		case tArrow, ':':
			r.next()
			cast, start = true, true
		case kElse, kDo:
			r.next()
			cast, start = true, true
		default:
			r.next()
			cast = true
		}
	}
}

// startsYield tells a yield statement (JLS 17 §14.21) from other uses of the
// word, by the token behind it.
func (r *Reader) startsYield() bool {
	switch r.tok {
	case tIdent, tLiteral, kNew, kThis, kSuper, kSwitch, kWord, '(', '!', '~', kPrimitive, '-', '+':
		return true
	}
	return false
}

// localType reads a local class, interface, enum or record (JLS 17 §14.3), if
// one begins here.
func (r *Reader) localType() bool {
	switch r.tok {
	case tIdent:
		if r.tok == tIdent && !r.word("record") && !r.word("sealed") && !r.word("non") {
			return false
		}
	}
	save, marks := r.cursor, len(r.marks)
	var flags fact.Flags
	for r.tok != '@' && r.modifier(&flags) {
	}
	if !r.typeStart() {
		if r.tok == '@' && flags != 0 { // final @Marker Type name
			return false
		}
		r.cursor = save
		r.marks = r.marks[:marks]
		return false
	}
	r.typeDecl(flags, true)
	return true
}

// declarator brings the variable of one more declarator into scope, if that
// is what follows.
func (r *Reader) declarator() {
	if r.followedBy(func() bool {
		return r.tok == '=' || r.tok == ',' || r.tok == ';' || r.tok == '[' || r.tok == ':'
	}) {
		r.variable(r.start, r.stop)
		r.next()
	}
}

// name reads a dotted name and decides what it is. It reports whether it was
// the type of a declaration, whose variable it has then brought into scope.
func (r *Reader) name() (declared bool) {
	begin := r.cursor
	at := r.here()
	r.segs = r.segs[:0]
	var last cursor // at the last segment
	for {
		r.segs = append(r.segs, seg{r.start, r.stop})
		last = r.cursor
		r.next()
		if r.tok != '.' {
			break
		}
		dot := r.cursor
		r.next()
		switch r.tok {
		case tIdent:
			continue
		case kClass, kThis, kSuper:
			if r.tok != kThis {
				r.emit(len(r.segs), fact.HowType, 0, at)
			}
			r.next()
			return false
		}
		// ".<T>m()", ".new X()", "Outer.@A Inner", or damage
		if r.tok == '@' && !r.atInterface() {
			r.cursor = begin
			return r.declaration()
		}
		r.cursor = dot
		r.emit(len(r.segs), fact.HowCall, fact.Ambiguous, at)
		return false
	}
	n := len(r.segs)
	switch r.tok {
	case '(':
		if n > 1 {
			r.emit(n-1, fact.HowCall, fact.Ambiguous, at)
		} else {
			r.useStatic(last.start, last.stop)
		}
	case tColons:
		r.emit(n, fact.HowCall, fact.Ambiguous, at)
	case tIdent:
		if n == 1 && r.contextual(last) {
			return false
		}
		r.emitType(n, at)
		r.variable(r.start, r.stop)
		r.next()
		r.dims()
		return true
	case '[':
		if r.followedBy(func() bool { return r.tok == ']' }) {
			r.emitType(n, at)
			r.dims()
			if r.tok == tIdent {
				r.variable(r.start, r.stop)
				r.next()
				return true
			}
			return false
		}
		r.variableName(n, last, at)
	case tDots:
		r.emitType(n, at)
		r.next()
		if r.tok == tIdent {
			r.variable(r.start, r.stop)
			r.next()
			return true
		}
	case '@':
		if r.annotatedDims() {
			r.emitType(n, at)
			r.dims()
			if r.tok == tIdent {
				r.variable(r.start, r.stop)
				r.next()
				return true
			}
		}
	case '<':
		after := r.cursor
		if r.skipTypeArgs(0) && r.typeEnd() {
			r.cursor = begin
			return r.declaration()
		}
		r.cursor = after
		r.variableName(n, last, at)
	case tArrow:
		if n == 1 {
			r.variable(last.start, last.stop)
		}
	default:
		r.variableName(n, last, at)
	}
	return false
}

// contextual tells words that look like a type before a name and are none.
func (r *Reader) contextual(c cursor) bool {
	switch string(r.src[c.start:c.stop]) {
	case "yield", "when":
		return true
	}
	return false
}

// emitType records a name as a type unless it is the word var.
func (r *Reader) emitType(n int, at fact.Place) int32 {
	if n == 1 && string(r.src[r.segs[0].start:r.segs[0].stop]) == "var" {
		return -1
	}
	return r.emit(n, fact.HowType, 0, at)
}

// variableName handles a name that ends as a value: "x", "x.y", "Type.CONST".
func (r *Reader) variableName(n int, last cursor, at fact.Place) {
	if n > 1 {
		r.emit(n-1, fact.HowCall, fact.Ambiguous, at)
		return
	}
	r.useStatic(last.start, last.stop)
}

// useStatic notes that an unqualified name is used, which a static import may
// bring in.
func (r *Reader) useStatic(start, stop int) {
	if r.b.NumImports() == 0 {
		return
	}
	if s := &r.symbols[r.sym(start, stop)]; s.imported >= 0 && s.locals == 0 {
		r.b.MarkUsed(s.imported)
	}
}

// declaration reads a type and the variable that may follow it.
func (r *Reader) declaration() bool {
	r.typeRef(fact.HowType)
	if r.tok == tDots {
		r.next()
	}
	if r.tok == tIdent {
		r.variable(r.start, r.stop)
		r.next()
		r.dims()
		return true
	}
	return false
}

// typeEnd reports whether the current token can follow a type with arguments
// in code: a name, "::", brackets, a further segment, or the end of a cast.
func (r *Reader) typeEnd() bool {
	switch r.tok {
	case tIdent, tColons, ')', tDots, '&', '@':
		return true
	case '[':
		return r.followedBy(func() bool { return r.tok == ']' })
	case '.':
		return r.followedBy(func() bool { return r.tok == tIdent || r.tok == '@' })
	}
	return false
}

// skipTypeArgs passes over type arguments at "<" and reports whether they are
// well formed (JLS 17 §4.5.1).
func (r *Reader) skipTypeArgs(depth int) bool {
	const most = 40
	if depth > most {
		return false
	}
	r.next()
	if r.tok == '>' { // the diamond
		r.next()
		return true
	}
	for {
		for r.tok == '@' {
			if !r.skipAnnotation() {
				return false
			}
		}
		if r.tok == '?' {
			r.next()
			if r.tok == kExtends || r.tok == kSuper {
				r.next()
				if !r.skipType(depth) {
					return false
				}
			}
		} else if !r.skipType(depth) {
			return false
		}
		switch r.tok {
		case ',':
			r.next()
		case '>':
			r.next()
			return true
		default:
			return false
		}
	}
}

func (r *Reader) skipAnnotation() bool {
	r.next()
	for r.tok == tIdent {
		if r.next(); r.tok == '.' {
			r.next()
		}
	}
	if r.tok == '(' {
		r.skipBrackets()
	}
	return true
}

// skipType passes over a type and reports whether there was one.
func (r *Reader) skipType(depth int) bool {
	for r.tok == '@' {
		if !r.skipAnnotation() {
			return false
		}
	}
	if r.tok == kPrimitive {
		r.next()
	} else {
		for {
			if r.tok != tIdent {
				return false
			}
			r.next()
			if r.tok == '<' && !r.skipTypeArgs(depth+1) {
				return false
			}
			if r.tok != '.' {
				break
			}
			r.next()
			for r.tok == '@' {
				if !r.skipAnnotation() {
					return false
				}
			}
		}
	}
	for r.tok == '[' || r.tok == '@' {
		if r.tok == '@' {
			r.skipAnnotation()
			continue
		}
		r.next()
		if r.tok != ']' {
			return false
		}
		r.next()
	}
	return true
}

// cast reads a cast at "(", if one begins here (JLS 17 §15.16): a type in
// parentheses that something stands behind which cannot follow an expression.
func (r *Reader) cast() bool {
	save := r.cursor
	r.next()
	switch r.tok {
	case tIdent, kPrimitive, '@':
	default:
		r.cursor = save
		return false
	}
	primitive := r.tok == kPrimitive
	ok := r.skipType(0)
	for ok && r.tok == '&' {
		r.next()
		ok = r.skipType(0)
		primitive = false
	}
	if ok = ok && r.tok == ')'; ok {
		r.next()
		switch r.tok {
		case tIdent, tLiteral, '(', '!', '~', kThis, kSuper, kNew, kSwitch, kPrimitive, kWord:
		default:
			ok = primitive
		}
	}
	r.cursor = save
	if !ok {
		return false
	}
	r.next()
	for {
		r.typeRef(fact.HowType)
		if r.tok != '&' {
			break
		}
		r.next()
	}
	if r.tok == ')' {
		r.next()
	}
	if r.tok == '(' {
		r.paren(true) // another cast, or what this one applies to
	}
	return true
}

// lambdaParameters brings the parameters of "(a, b) ->" into scope, if that is
// what begins at "(".
func (r *Reader) lambdaParameters() {
	save := r.cursor
	r.next()
	if r.tok != tIdent {
		r.cursor = save
		return
	}
	names := r.lambda[:0]
	for r.tok == tIdent {
		names = append(names, seg{r.start, r.stop})
		if r.next(); r.tok != ',' {
			break
		}
		r.next()
	}
	r.lambda = names
	if r.tok == ')' {
		if r.next(); r.tok == tArrow {
			for _, n := range names {
				r.variable(n.start, n.stop)
			}
		}
	}
	r.cursor = save
}

// primitive reads a primitive type and what may follow it in code.
func (r *Reader) primitive() bool {
	r.next()
	r.dims()
	switch r.tok {
	case '.':
		r.next() // int.class
		r.next()
	case tDots:
		r.next()
	}
	if r.tok == tIdent {
		r.variable(r.start, r.stop)
		r.next()
		r.dims()
		return true
	}
	return false
}

// afterDot reads what follows "." behind something that is not a name.
func (r *Reader) afterDot() {
	for r.tok == '.' {
		r.next()
		switch r.tok {
		case '<':
			r.typeArgs()
			if r.tok == tIdent || r.tok == kSuper {
				r.next()
			}
		case kNew:
			r.creation(false)
			return
		case tIdent, kThis, kSuper, kClass:
			r.next()
		default:
			return
		}
	}
}

// creation reads what follows new (JLS 17 §15.9, §15.10).
func (r *Reader) creation(plain bool) {
	r.next()
	if r.tok == '<' {
		r.typeArgs()
	}
	for r.tok == '@' {
		r.annotation()
	}
	at := r.here()
	use := int32(-1)
	if r.tok == kPrimitive {
		r.next()
	} else if r.tok == tIdent {
		save := r.cursor
		array := r.skipNameArgs() && (r.tok == '[' || r.tok == '@')
		r.cursor = save
		how := fact.HowConstruct
		if array {
			how = fact.HowType
		}
		use = r.classType(how)
		_ = plain // "outer.new Inner()": Inner is looked up like any other name
	}
	if r.tok == '(' {
		r.paren(false)
		if r.tok == '{' {
			r.anonymous(use, at)
		}
	}
}

// skipNameArgs passes over a class type without its dimensions.
func (r *Reader) skipNameArgs() bool {
	for {
		for r.tok == '@' {
			r.skipAnnotation()
		}
		if r.tok != tIdent {
			return false
		}
		r.next()
		if r.tok == '<' && !r.skipTypeArgs(0) {
			return false
		}
		if r.tok != '.' {
			return true
		}
		r.next()
	}
}

// pattern reads a type test or pattern (JLS 21 §14.30).
func (r *Reader) pattern() {
	if r.tok == '(' { // a parenthesised pattern of earlier previews
		r.paren(true)
		return
	}
	r.typeRef(fact.HowType)
	switch r.tok {
	case tIdent:
		if !r.word("when") || r.followedBy(func() bool { return r.tok == ',' || r.tok == ')' || r.tok == '&' }) {
			r.variable(r.start, r.stop)
			r.next()
		}
	case '(':
		if !r.deeper() {
			return
		}
		r.next()
		for r.tok != ')' && r.tok != tEOF && r.tok != ';' && r.tok != '}' {
			before := r.pos
			for r.tok == kFinal || r.tok == '@' {
				if r.tok == kFinal {
					r.next()
				} else {
					r.annotation()
				}
			}
			r.pattern()
			if r.tok == ',' {
				r.next()
			}
			if r.pos == before {
				r.next()
			}
		}
		if r.tok == ')' {
			r.next()
		}
		if r.tok == tIdent && !r.word("when") {
			r.variable(r.start, r.stop)
			r.next()
		}
		r.shallower()
	}
}

// caseLabel reads the patterns of a case label; constants are left to code.
func (r *Reader) caseLabel() {
	for {
		save := r.cursor
		for r.tok == kFinal || r.tok == '@' {
			if r.tok == kFinal {
				r.next()
			} else {
				r.skipAnnotation()
			}
		}
		isPattern := r.tok == tIdent && r.skipType(0) && (r.tok == tIdent || r.tok == '(')
		r.cursor = save
		if !isPattern {
			if r.tok == tIdent && r.followedBy(func() bool { return r.tok == tArrow || r.tok == ',' || r.tok == ':' }) {
				r.useStatic(r.start, r.stop) // a constant's simple name
				if r.next(); r.tok == ',' {
					r.next()
					continue
				}
			}
			return
		}
		for r.tok == kFinal || r.tok == '@' {
			if r.tok == kFinal {
				r.next()
			} else {
				r.annotation()
			}
		}
		r.pattern()
		if r.word("when") {
			r.next()
			return
		}
		if r.tok != ',' {
			return
		}
		r.next()
	}
}

// catchClause reads the parameter of a catch clause (JLS 17 §14.20).
func (r *Reader) catchClause() {
	if r.tok != '(' {
		return
	}
	r.next()
	for r.tok == kFinal || r.tok == '@' {
		if r.tok == kFinal {
			r.next()
		} else {
			r.annotation()
		}
	}
	for {
		r.typeRef(fact.HowType)
		if r.tok != '|' {
			break
		}
		r.next()
	}
	if r.tok == tIdent {
		r.variable(r.start, r.stop)
		r.next()
	}
	if r.tok == ')' {
		r.next()
	}
}

// annotation reads an annotation (JLS 17 §9.7) and returns the use that names
// its type, or -1.
func (r *Reader) annotation() int32 {
	r.next()
	at := r.here()
	if !r.qualified() {
		return -1
	}
	use := r.emit(len(r.segs), fact.HowMarker, 0, at)
	if r.tok == '(' {
		r.paren(false)
	}
	return use
}

// typeRef reads a type with its arguments and dimensions and returns the use
// that names it, or -1 for primitive types, type parameters and var.
func (r *Reader) typeRef(how fact.How) int32 {
	for r.tok == '@' && !r.atInterface() {
		r.annotation()
	}
	use := int32(-1)
	switch r.tok {
	case kPrimitive:
		r.next()
	case tIdent:
		use = r.classType(how)
	case '?':
		r.next()
		if r.tok == kExtends || r.tok == kSuper {
			r.next()
			return r.typeRef(how)
		}
		return -1
	default:
		return -1
	}
	r.dims()
	return use
}

// classType reads a class type without dimensions: names and type arguments.
func (r *Reader) classType(how fact.How) int32 {
	at := r.here()
	var local [6]seg
	segs := local[:0]
	use := int32(-1)
	for r.tok == tIdent {
		segs = append(segs, seg{r.start, r.stop})
		r.next()
		if r.tok == '<' {
			if r.deeper() {
				r.typeArgs()
				r.shallower()
			}
		}
		if r.tok != '.' {
			break
		}
		save := r.cursor
		r.next()
		for r.tok == '@' {
			r.annotation()
		}
		if r.tok != tIdent {
			r.cursor = save
			break
		}
	}
	if len(segs) > 0 {
		r.segs = append(r.segs[:0], segs...)
		if how == fact.HowType {
			use = r.emitType(len(segs), at)
		} else {
			use = r.emit(len(segs), how, 0, at)
		}
	}
	return use
}

// typeArgs reads type arguments at "<".
func (r *Reader) typeArgs() {
	r.next()
	for r.tok != '>' && r.tok != tEOF {
		before := r.pos
		r.collect(r.typeRef(fact.HowType))
		if r.tok == ',' || r.tok == '&' {
			r.next()
		}
		if r.pos == before {
			return // not type arguments after all
		}
	}
	r.next()
}
