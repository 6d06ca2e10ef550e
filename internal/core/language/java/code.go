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
	for cast && r.cast() {
		if r.tok != '(' {
			return
		} // else another cast, or what this one applies to
	}
	if !r.deeper() {
		return
	}
	if cast { // behind a name, parentheses hold arguments
		r.lambdaParameters()
	}
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
			r.marks = r.marks[:0]
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
			r.creation()
			cast = false
		case kInstanceof:
			r.next()
			r.variableModifiers()
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
	at := r.spot()
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
			what := r.tok
			r.next()
			switch {
			case what == kSuper && r.tok == '(': // outer.super(…): a value, not a type
				r.emit(len(r.segs), fact.HowCall, fact.Ambiguous, at)
			case what != kThis:
				r.emit(len(r.segs), fact.HowType, 0, at)
			}
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
			return r.variableHere()
		}
		r.variableName(n, last, at)
	case tDots:
		r.emitType(n, at)
		r.next()
		return r.variableHere()
	case '@':
		if r.annotatedDims() {
			r.emitType(n, at)
			r.dims()
			return r.variableHere()
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

// variableName handles a name that ends as a value: "x", "x.y", "Type.CONST".
func (r *Reader) variableName(n int, last cursor, at spot) {
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
	return r.variableHere()
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
			r.creation()
			return
		case tIdent, kThis, kSuper, kClass:
			r.next()
		default:
			return
		}
	}
}

// creation reads what follows new (JLS 17 §15.9, §15.10).
func (r *Reader) creation() {
	r.next()
	if r.tok == '<' {
		r.typeArgs()
	}
	for r.tok == '@' {
		r.annotation()
	}
	at := r.spot()
	use := int32(-1)
	if r.tok == kPrimitive {
		r.next()
	} else if r.tok == tIdent {
		use = r.classType(fact.HowConstruct) // "outer.new Inner()", too: Inner is looked up like any other name
	}
	if r.tok == '(' {
		r.paren(false)
		if r.tok == '{' {
			r.anonymous(use, r.place(at.line, at.begin, at.at))
		}
	}
}
