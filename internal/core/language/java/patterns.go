package java

import "moatline/internal/core/fact"

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
		case tIdent, tLiteral, '(', '~', kThis, kSuper, kNew, kSwitch, kPrimitive, kWord:
		case '!':
			ok = r.src[r.stop] != '=' || primitive // "(a & b) != c" is no cast
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

// variableModifiers passes over final and reads annotations before the type of
// a variable.
func (r *Reader) variableModifiers() {
	for {
		switch {
		case r.tok == kFinal:
			r.next()
		case r.tok == '@' && !r.atInterface():
			r.annotation()
		default:
			return
		}
	}
}

// variableHere brings the variable that is named here into scope and reports
// whether there is one.
func (r *Reader) variableHere() bool {
	if r.tok != tIdent {
		return false
	}
	r.variable(r.start, r.stop)
	r.next()
	r.dims()
	return true
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
		r.commaList(func() {
			r.variableModifiers()
			r.pattern()
		})
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
		r.variableModifiers()
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
	r.variableModifiers()
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
