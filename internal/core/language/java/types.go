package java

import "moatline/internal/core/fact"

// emitType records a name as a type unless it is the word var.
func (r *Reader) emitType(n int, at spot) int32 {
	if n == 1 && string(r.src[r.segs[0].start:r.segs[0].stop]) == "var" {
		return -1
	}
	return r.emit(n, fact.HowType, 0, at)
}

// declaration reads a type and the variable that may follow it.
func (r *Reader) declaration() bool {
	r.typeRef(fact.HowType)
	if r.tok == tDots {
		r.next()
	}
	return r.variableHere()
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
		// No code nests that deep; what lies between is not tried again, or
		// hostile text would be read forty times over.
		r.noArgs = r.pos
		return false
	}
	if r.pos <= r.noArgs {
		return false
	}
	r.next()
	if r.tok == '>' { // the diamond
		r.next()
		return true
	}
	for {
		for r.tok == '@' {
			r.skipAnnotation()
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

// skipAnnotation passes over an annotation at its "@".
func (r *Reader) skipAnnotation() {
	r.next()
	for r.tok == tIdent {
		if r.next(); r.tok != '.' {
			break
		}
		r.next()
	}
	if r.tok == '(' {
		r.skipBrackets()
	}
}

// skipType passes over a type and reports whether there was one.
func (r *Reader) skipType(depth int) bool {
	for r.tok == '@' {
		r.skipAnnotation()
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
				r.skipAnnotation()
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

// annotation reads an annotation (JLS 17 §9.7) and returns the use that names
// its type, or -1.
func (r *Reader) annotation() int32 {
	r.next()
	at := r.spot()
	if !r.qualified() {
		return -1
	}
	use := r.emit(len(r.segs), fact.HowMarker, 0, at)
	last := r.segs[len(r.segs)-1]
	bean := beanMarkers[string(r.src[last.start:last.stop])]
	if bean {
		r.bean = "?"
	}
	if r.tok == '(' {
		if bean {
			r.beanName()
		}
		marks := len(r.marks)
		r.paren(false)
		r.marks = r.marks[:marks] // annotations in its arguments mark nothing
	}
	return use
}

// beanMarkers are the annotations by which a class is known to view files under
// a name of its own (Jakarta CDI, "Bean names"; Jakarta Faces, managed beans;
// Spring, "Classpath scanning").
var beanMarkers = map[string]bool{
	"Named": true, "ManagedBean": true, "Component": true, "Controller": true, "Service": true, "Repository": true,
}

// beanName reads the name that stands in the brackets of such an annotation:
// (“name”) or (name = "name").
func (r *Reader) beanName() {
	save := r.cursor
	for n := 0; n < 4 && r.tok != ')' && r.tok != tEOF; n++ {
		r.next()
		if r.tok == tLiteral && r.src[r.start] == '"' && r.stop-r.start > 2 {
			r.bean = string(r.src[r.start+1 : r.stop-1])
			break
		}
	}
	r.cursor = save
}

// typeRef reads a type with its arguments and dimensions and returns the use
// that names it, or -1 for primitive types, type parameters and var.
func (r *Reader) typeRef(how fact.How) int32 {
	for r.tok == '@' && !r.atInterface() {
		r.annotation()
	}
	use := int32(-1)
	if r.tok == '?' {
		if r.next(); r.tok != kExtends && r.tok != kSuper {
			return -1
		}
		r.next()
		for r.tok == '@' && !r.atInterface() {
			r.annotation()
		}
	}
	switch r.tok {
	case kPrimitive:
		r.next()
	case tIdent:
		use = r.classType(how)
	default:
		return -1
	}
	r.dims()
	return use
}

// classType reads a class type without dimensions: names and type arguments.
func (r *Reader) classType(how fact.How) int32 {
	at := r.spot()
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
			if how == fact.HowConstruct && (r.tok == '[' || r.tok == '@') {
				how = fact.HowType // an array: no instance of the type is made
			}
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
