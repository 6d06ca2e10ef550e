package java

import (
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
)

// env is what one file sees: its imports, resolved once.
type env struct {
	x       *Resolver
	file    int // the open file, or -1
	f       *fact.File
	p       *pkg
	singles map[string]single // by simple name
	wild    []wildcard
	path    []int32 // types that the last name went through, the last one last
}

// single is what a single-type or single-static import brings in.
type single struct {
	id     int32  // the type, or -1 where no file of the tree declares it
	name   string // its full name as imported
	static int32  // for static imports, the type whose member it is, or -1
}

type wildcard struct {
	imp  int32 // index into the file's imports
	p    *pkg  // a package of the tree
	id   int32 // or a type of the tree, whose members come in
	hits map[int32]bool
}

func (x *Resolver) newEnv() *env {
	return &env{x: x, file: -1, singles: make(map[string]single)}
}

// open makes file i the one that names are looked up from.
func (e *env) open(i int) {
	if e.file == i {
		return
	}
	x := e.x
	e.file, e.f = i, x.g.Files[i]
	e.p = x.packages[e.f.Package]
	clear(e.singles)
	e.wild = e.wild[:0]
	for k := range e.f.Imports {
		imp := &e.f.Imports[k]
		switch imp.Kind {
		case fact.ImportType:
			e.singles[lastSegment(imp.Name)] = single{e.full(imp.Name), imp.Name, -1}
		case fact.ImportStatic:
			dot := strings.LastIndexByte(imp.Name, '.')
			if dot < 0 {
				continue
			}
			name := imp.Name[dot+1:]
			if _, taken := e.singles[name]; taken {
				continue
			}
			owner := e.full(imp.Name[:dot])
			s := single{-1, imp.Name, owner}
			if owner >= 0 {
				s.id = e.member(owner, name, 0)
			}
			e.singles[name] = s
		case fact.ImportWildcard:
			w := wildcard{imp: int32(k), id: -1, p: x.packages[imp.Name]}
			if w.p == nil {
				w.id = e.full(imp.Name)
			}
			e.wild = append(e.wild, w)
		case fact.ImportStaticWildcard:
			e.wild = append(e.wild, wildcard{imp: int32(k), id: e.full(imp.Name)})
		}
	}
}

func lastSegment(name string) string { return name[strings.LastIndexByte(name, '.')+1:] }

// full resolves a fully qualified name: a package, then types. It returns the
// last type's id, or -1, and leaves the types it went through in e.path.
func (e *env) full(name string) int32 {
	e.path = e.path[:0]
	head, _, ok := strings.Cut(name, ".")
	if !e.x.heads[head] {
		return -1
	}
	if !ok {
		return -1
	}
	// Nearly always a package and one type.
	if dot := strings.LastIndexByte(name, '.'); dot > 0 {
		if p := e.x.packages[name[:dot]]; p != nil {
			if id := e.x.inPackage(p, name[dot+1:], e.file); id >= 0 {
				e.path = append(e.path, id)
				return id
			}
		}
	}
	for i := len(head); i < len(name); {
		rest := name[i+1:]
		seg, _, more := strings.Cut(rest, ".")
		if p := e.x.packages[name[:i]]; p != nil {
			if id := e.x.inPackage(p, seg, e.file); id >= 0 {
				e.path = append(e.path, id)
				if !more {
					return id
				}
				return e.walk(id, rest[len(seg)+1:], exact)
			}
		}
		i += 1 + len(seg)
	}
	return -1
}

// position is where a dotted name stands.
type position uint8

const (
	exact        position = iota // all of it must be types
	typePosition                 // a type; one that nothing in the tree declares ends it
	expression                   // fields come before types (JLS 17 §6.5.2) and end it
)

// walk follows member types from type id along the dotted rest and returns the
// last one, or -1 where the position asks for all of rest.
func (e *env) walk(id int32, rest string, at position) int32 {
	for rest != "" {
		seg, tail, _ := strings.Cut(rest, ".")
		if at == expression && e.x.types[id].holds && e.hasField(id, seg, 0) {
			return id
		}
		next := e.member(id, seg, 0)
		if next < 0 {
			if at != exact {
				return id
			}
			return -1
		}
		e.path = append(e.path, next)
		id, rest = next, tail
	}
	return id
}

// found is what a simple name stands for.
type found struct {
	id   int32  // a type of the tree, or -1
	name string // for an outside type, its full name
	pkg  string // and its package
	wild int    // index into env.wild of the wildcard it came through, or -1
	std  bool
}

// simple looks up a simple type name from a scope (JLS 17 §6.3, §6.4.1):
// member types of the enclosing types from the inside out, single imports, the
// package, imports on demand.
func (e *env) simple(scope int32, name string) found {
	x := e.x
	for t := scope; t >= 0; t = x.types[t].outer {
		if x.types[t].holds {
			if id := e.member(t, name, 0); id >= 0 {
				return found{id: id, wild: -1}
			}
		}
	}
	if s, ok := e.singles[name]; ok {
		if s.id >= 0 {
			return found{id: s.id, wild: -1}
		}
		if s.static < 0 {
			return found{id: -1, name: s.name, pkg: outsidePackage(s.name), wild: -1, std: standard(s.name)}
		}
	}
	if e.p != nil {
		if id := x.inPackage(e.p, name, e.file); id >= 0 {
			return found{id: id, wild: -1}
		}
	}
	for k := range e.wild {
		w := &e.wild[k]
		id := int32(-1)
		if w.p != nil {
			id = x.inPackage(w.p, name, e.file)
		} else if w.id >= 0 {
			id = e.member(w.id, name, 0)
		}
		if id >= 0 && e.accessible(id) {
			return found{id: id, wild: k}
		}
	}
	if p := x.packages["java.lang"]; p != nil {
		if id := x.inPackage(p, name, e.file); id >= 0 {
			return found{id: id, wild: -1}
		}
	}
	return found{id: -1, wild: -1}
}

// typeOf resolves a use in type position to a type of the tree, or -1, and
// leaves the types that it names in e.path.
func (e *env) typeOf(u *fact.Use) int32 {
	scope := int32(-1)
	if u.Scope >= 0 {
		scope = e.x.first[e.file] + u.Scope
	}
	head, rest, _ := strings.Cut(u.Name, ".")
	s := e.simple(scope, head)
	e.path = e.path[:0]
	if s.id < 0 {
		if s.name != "" {
			return -1
		}
		return e.full(u.Name)
	}
	e.path = append(e.path, s.id)
	return e.walk(s.id, rest, exact)
}

// Resolve adds the dependencies of the Java file i to c.
func (x *Resolver) Resolve(i int, c *graph.Collector) {
	e := x.envs.Get().(*env)
	defer x.envs.Put(e)
	e.file = -1
	e.open(i)
	for k := range e.wild {
		e.wild[k].hits = nil
	}
	f := e.f
	for k := range f.Uses {
		u := &f.Uses[k]
		if u.Flags&fact.InFile != 0 || u.How == fact.HowDynamic {
			continue
		}
		if u.Flags&fact.Ambiguous != 0 {
			e.ambiguous(u, c)
		} else {
			e.typed(u, c)
		}
	}
	for k := range f.Imports {
		e.importRow(k, c)
	}
	if f.Manifest != nil {
		for _, q := range f.Manifest.Requires {
			d := graph.Dep{Name: q.Name, Decl: -1, How: fact.HowProject, Target: graph.ToOutside, To: q.Name}
			if standardModule(q.Name) {
				d.Flags |= graph.Standard
			}
			if m, ok := x.modules[q.Name]; ok {
				d.Target, d.File, d.To = graph.ToFile, m, ""
			}
			c.AddAt(d, q.At)
		}
	}
}

// emit adds the dependency on the last type of e.path, and on those before it
// that lie in other files.
func (e *env) emit(c *graph.Collector, how fact.How, flags graph.DepFlags, places []fact.Place) {
	last := e.path[len(e.path)-1]
	for n, id := range e.path {
		t := &e.x.types[id]
		if int(t.file) == e.file || n < len(e.path)-1 && t.file == e.x.types[last].file {
			continue
		}
		h := how
		if n < len(e.path)-1 && h != fact.HowImport {
			h = fact.HowType
		}
		c.Add(graph.Dep{Target: graph.ToFile, File: t.file, Decl: t.decl, Name: t.name, How: h, Flags: flags}, places)
	}
}

func (e *env) emitOutside(c *graph.Collector, how fact.How, pkg, name string, std bool, places []fact.Place) {
	d := graph.Dep{Target: graph.ToOutside, To: pkg, Name: name, Decl: -1, How: how}
	if std {
		d.Flags = graph.Standard
	}
	c.Add(d, places)
}

// typed resolves a use in type position.
func (e *env) typed(u *fact.Use, c *graph.Collector) {
	scope := int32(-1)
	if u.Scope >= 0 {
		scope = e.x.first[e.file] + u.Scope
	}
	places := e.f.PlacesOf(u)
	head, rest, qualified := strings.Cut(u.Name, ".")
	s := e.simple(scope, head)
	if s.id >= 0 {
		e.path = append(e.path[:0], s.id)
		e.walk(s.id, rest, typePosition) // a member type that an outside supertype declares stays with the type before it
		e.hit(s)
		e.emit(c, u.How, 0, places)
		return
	}
	if s.name != "" {
		e.emitOutside(c, u.How, s.pkg, join(s.name, rest), s.std, places)
		return
	}
	if qualified && e.full(u.Name) >= 0 {
		e.emit(c, u.How, 0, places)
		return
	}
	if qualified && len(e.path) > 0 {
		e.emit(c, u.How, 0, places)
		return
	}
	if qualified && !upper(head) {
		e.emitOutside(c, u.How, outsidePackage(u.Name), u.Name, standard(u.Name), places)
		return
	}
	e.unknown(u, head, places, c)
}

// unknown handles a simple name that nothing in the tree declares.
func (e *env) unknown(u *fact.Use, head string, places []fact.Place, c *graph.Collector) {
	if inJavaLang(head) {
		e.emitOutside(c, u.How, "java.lang", "java.lang."+u.Name, true, places)
		return
	}
	// An import on demand from outside the tree can be what brings it in. The
	// platform's packages are known; of several others, nothing tells which.
	only := -1
	others := 0
	for k := range e.wild {
		w := &e.wild[k]
		if w.p != nil || w.id >= 0 || e.f.Imports[w.imp].Kind != fact.ImportWildcard {
			continue
		}
		if types, known := platform()[e.f.Imports[w.imp].Name]; known {
			if types[head] {
				only, others = k, 1
				break
			}
			continue
		}
		only = k
		others++
	}
	if others == 1 {
		name := e.f.Imports[e.wild[only].imp].Name
		e.emitOutside(c, u.How, name, name+"."+u.Name, standard(name), places)
		return
	}
	c.Add(graph.Dep{Target: graph.ToUnresolved, To: u.Name, Name: u.Name, Decl: -1, How: u.How}, places)
}

// ambiguous resolves a name in expression position: a variable that an
// enclosing type inherits, else a type, else a package (JLS 17 §6.5.2).
func (e *env) ambiguous(u *fact.Use, c *graph.Collector) {
	scope := int32(-1)
	if u.Scope >= 0 {
		scope = e.x.first[e.file] + u.Scope
	}
	places := e.f.PlacesOf(u)
	head, rest, qualified := strings.Cut(u.Name, ".")
	s := e.simple(scope, head)
	if s.id < 0 && s.name == "" && !qualified && !upper(head) {
		return // an inherited variable of a type outside the tree
	}
	if e.variable(scope, head) {
		return
	}
	if s.id >= 0 {
		e.path = append(e.path[:0], s.id)
		e.walk(s.id, rest, expression)
		e.hit(s)
		e.emit(c, u.How, 0, places)
		return
	}
	if s.name != "" {
		name := s.name
		for rest != "" {
			seg, tail, _ := strings.Cut(rest, ".")
			if !upper(seg) || constantLike(seg) {
				break
			}
			name, rest = name+"."+seg, tail
		}
		e.emitOutside(c, u.How, s.pkg, name, s.std, places)
		return
	}
	if qualified {
		if e.fullLoose(u.Name) {
			e.emit(c, u.How, 0, places)
			return
		}
		if pkg, name, ok := conventional(u.Name); ok {
			e.emitOutside(c, u.How, pkg, name, standard(name), places)
		}
		if !upper(head) {
			return
		}
	}
	if inJavaLang(head) {
		e.emitOutside(c, u.How, "java.lang", "java.lang."+head, true, places)
		return
	}
	if upper(head) && !constantLike(head) {
		v := *u
		v.Name = head
		e.unknown(&v, head, places, c)
	}
}

// fullLoose is full for expressions: behind a type, anything may follow.
func (e *env) fullLoose(name string) bool {
	e.path = e.path[:0]
	head, _, _ := strings.Cut(name, ".")
	if !e.x.heads[head] {
		return false
	}
	for i := len(head); i < len(name); {
		rest := name[i+1:]
		seg, tail, _ := strings.Cut(rest, ".")
		if p := e.x.packages[name[:i]]; p != nil {
			if id := e.x.inPackage(p, seg, e.file); id >= 0 {
				e.path = append(e.path, id)
				e.walk(id, tail, expression)
				return true
			}
		}
		i += 1 + len(seg)
	}
	return false
}

// variable reports whether a name is a variable in scope: inherited by an
// enclosing type, or imported statically. Those that the file's own types
// declare were told by the reader.
func (e *env) variable(scope int32, name string) bool {
	x := e.x
	for t := scope; t >= 0; t = x.types[t].outer {
		for _, s := range x.types[t].supers {
			if e.hasField(s, name, 0) {
				return true
			}
		}
	}
	if s, ok := e.singles[name]; ok && s.static >= 0 && e.hasField(s.static, name, 0) {
		return true
	}
	for k := range e.wild {
		w := &e.wild[k]
		if w.id >= 0 && e.f.Imports[w.imp].Kind == fact.ImportStaticWildcard && e.hasField(w.id, name, 0) {
			return true
		}
	}
	return false
}

// hit notes that a wildcard import brought a type in.
func (e *env) hit(s found) {
	if s.wild < 0 {
		return
	}
	w := &e.wild[s.wild]
	if w.hits == nil {
		w.hits = make(map[int32]bool)
	}
	w.hits[s.id] = true
}

// importRow adds the dependencies of an import declaration itself.
func (e *env) importRow(k int, c *graph.Collector) {
	imp := &e.f.Imports[k]
	flags := graph.DepFlags(0)
	switch imp.Kind {
	case fact.ImportType, fact.ImportStatic:
		if !imp.Used {
			flags = graph.Unused
		}
		name := imp.Name
		if imp.Kind == fact.ImportStatic {
			if dot := strings.LastIndexByte(name, '.'); dot > 0 {
				name = name[:dot]
			}
		}
		if e.full(name) >= 0 || len(e.path) > 0 {
			if imp.Kind == fact.ImportStatic {
				if m := e.member(e.path[len(e.path)-1], lastSegment(imp.Name), 0); m >= 0 {
					e.path = append(e.path, m)
				}
			}
			for n, id := range e.path {
				t := &e.x.types[id]
				if int(t.file) == e.file || n < len(e.path)-1 && t.file == e.x.types[e.path[len(e.path)-1]].file {
					continue
				}
				c.AddAt(graph.Dep{Target: graph.ToFile, File: t.file, Decl: t.decl, Name: t.name, How: fact.HowImport, Flags: flags}, imp.At)
			}
			return
		}
		if standard(name) {
			flags |= graph.Standard
		}
		c.AddAt(graph.Dep{Target: graph.ToOutside, To: outsidePackage(name), Name: imp.Name, Decl: -1, How: fact.HowImport, Flags: flags}, imp.At)
	case fact.ImportWildcard, fact.ImportStaticWildcard:
		w := -1
		for n := range e.wild {
			if e.wild[n].imp == int32(k) {
				w = n
			}
		}
		if w < 0 {
			return
		}
		wc := &e.wild[w]
		switch {
		case wc.id >= 0:
			if t := &e.x.types[wc.id]; int(t.file) != e.file {
				c.AddAt(graph.Dep{Target: graph.ToFile, File: t.file, Decl: t.decl, Name: t.name, How: fact.HowImport}, imp.At)
			}
		case wc.p != nil:
			for id := range wc.hits {
				if t := &e.x.types[id]; int(t.file) != e.file {
					c.AddAt(graph.Dep{Target: graph.ToFile, File: t.file, Decl: t.decl, Name: t.name, How: fact.HowImport}, imp.At)
				}
			}
			if len(wc.hits) == 0 {
				c.AddAt(graph.Dep{Target: graph.ToPackage, To: wc.p.folder, Name: wc.p.name, Decl: -1, How: fact.HowImport, Flags: graph.Unused | graph.Bare}, imp.At)
			}
		default:
			if standard(imp.Name) {
				flags |= graph.Standard
			}
			to := imp.Name
			if imp.Kind == fact.ImportStaticWildcard {
				to = outsidePackage(imp.Name)
			}
			c.AddAt(graph.Dep{Target: graph.ToOutside, To: to, Name: imp.Name, Decl: -1, How: fact.HowImport, Flags: flags}, imp.At)
		}
	case fact.ImportModule:
		c.AddAt(graph.Dep{Target: graph.ToOutside, To: imp.Name, Name: imp.Name, Decl: -1, How: fact.HowImport}, imp.At)
	}
}
