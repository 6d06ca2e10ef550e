package java

import "moatline/internal/core/fact"

// unit reads a compilation unit (JLS 17 §7.3).
func (r *Reader) unit() {
	var flags fact.Flags
	for r.tok != tEOF {
		before := r.pos
		switch {
		case r.tok == kPackage:
			r.next()
			r.pkgAt = r.here()
			if r.qualified() {
				r.pkg = r.b.Intern(r.qualifiedName())
			}
			flags, r.marks = 0, r.marks[:0]
		case r.tok == kImport:
			r.importDecl()
		case r.tok == ';':
			flags, r.marks = 0, r.marks[:0]
			r.next()
		case r.modifier(&flags):
		case r.typeStart():
			r.typeDecl(flags, false)
			flags, r.marks = 0, r.marks[:0]
		case r.word("open") || r.word("module"):
			if r.moduleDecl() {
				continue
			}
			fallthrough
		default:
			// A method or field outside any class: allowed in later
			// versions, and what is left of damaged ones.
			r.member(flags, fact.Class)
			flags, r.marks = 0, r.marks[:0]
		}
		if r.pos == before && r.tok != tEOF {
			r.next()
		}
	}
}

// qualified reads a dotted name into segs, as in package and import
// declarations, and reports whether there was one.
func (r *Reader) qualified() bool {
	r.segs = r.segs[:0]
	for r.tok == tIdent {
		r.segs = append(r.segs, seg{r.start, r.stop})
		save := r.cursor
		if r.next(); r.tok != '.' {
			return true
		}
		if r.next(); r.tok != tIdent {
			r.cursor = save
			r.next()
			return true
		}
	}
	return len(r.segs) > 0
}

func (r *Reader) qualifiedName() []byte {
	r.joined = r.joined[:0]
	for i, g := range r.segs {
		if i > 0 {
			r.joined = append(r.joined, '.')
		}
		r.joined = append(r.joined, r.src[g.start:g.stop]...)
	}
	return r.joined
}

// importDecl reads an import declaration (JLS 17 §7.5).
func (r *Reader) importDecl() {
	i := fact.Import{Kind: fact.ImportType}
	r.next()
	if r.tok == kStatic {
		i.Kind = fact.ImportStatic
		r.next()
	} else if r.word("module") && r.followedBy(func() bool { return r.tok == tIdent }) {
		i.Kind = fact.ImportModule
		r.next()
	}
	i.At = r.here()
	if !r.qualified() {
		r.b.Note(r.here(), "import without a name")
		return
	}
	i.Name = r.b.Intern(r.qualifiedName())
	last := r.segs[len(r.segs)-1]
	if r.tok == '.' {
		r.next()
		if r.tok == '*' {
			if i.Kind == fact.ImportStatic {
				i.Kind = fact.ImportStaticWildcard
			} else {
				i.Kind = fact.ImportWildcard
			}
			r.next()
		}
	}
	n := r.b.Import(i)
	if i.Kind == fact.ImportType || i.Kind == fact.ImportStatic {
		if s := &r.symbols[r.sym(last.start, last.stop)]; s.imported < 0 {
			s.imported = n
		} else {
			// Static imports of one name from several types are one more
			// overload each; a use may mean any of them.
			r.b.MarkUsed(n)
		}
	}
	if r.tok == ';' {
		r.next()
	}
}

// moduleDecl reads a module declaration (JLS 17 §7.7), if one begins here.
func (r *Reader) moduleDecl() bool {
	save := r.cursor
	if r.word("open") {
		r.next()
	}
	if !r.word("module") {
		r.cursor = save
		return false
	}
	r.next()
	if !r.qualified() || r.tok != '{' {
		r.cursor = save
		return false
	}
	m := &fact.Manifest{Module: string(r.qualifiedName())}
	r.manifest = m
	r.next()
	for r.tok != '}' && r.tok != tEOF {
		switch {
		case r.word("requires"):
			r.next()
			q := fact.Requirement{}
			for r.tok == kStatic || r.word("transitive") && r.followedBy(func() bool { return r.tok != ';' }) {
				q.Optional = q.Optional || r.tok == kStatic
				r.next()
			}
			q.At = r.here()
			if r.qualified() {
				q.Name = string(r.qualifiedName())
				m.Requires = append(m.Requires, q)
			}
		case r.word("uses"):
			r.next()
			if at := r.spot(); r.qualified() {
				r.emit(len(r.segs), fact.HowType, 0, at)
			}
		case r.word("provides"):
			r.next()
			if at := r.spot(); r.qualified() {
				r.emit(len(r.segs), fact.HowType, 0, at)
			}
			for r.word("with") || r.tok == ',' {
				r.next()
				if at := r.spot(); r.qualified() {
					r.emit(len(r.segs), fact.HowWiring, 0, at)
				}
			}
		}
		for r.tok != ';' && r.tok != '}' && r.tok != tEOF {
			r.next()
		}
		if r.tok == ';' {
			r.next()
		}
	}
	r.next()
	return true
}
