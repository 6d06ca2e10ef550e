package dotnet

import (
	"strings"

	"moatline/internal/core/fact"
)

// env is what one file sees.
type env struct {
	x     *Resolver
	file  int
	f     *fact.File
	vb    bool
	base  int32
	path  []int32 // types that the last name went through
	uses  []scoped
	depth int
}

// scoped is an import with the namespace declaration that it holds for.
type scoped struct {
	imp    *fact.Import
	index  int32 // in the file's imports, or -1 for one from elsewhere
	within int32 // index of the namespace declaration, or -1
	space  string
	owner  int32 // for a static import, the type; -1
	inner  bool  // the namespace is one of the tree
	hits   map[int32]bool
	lit    bool // something outside came through it
}

// open makes file i the one that names are looked up from.
func (e *env) open(i int) {
	if e.file == i {
		return
	}
	x := e.x
	e.file, e.f, e.base = i, x.g.Files[i], x.first[i]
	e.vb = e.f.Language == "visualbasic"
	e.uses = e.uses[:0]
	for k := range e.f.Imports {
		e.uses = append(e.uses, scoped{imp: &e.f.Imports[k], index: int32(k), within: e.f.Imports[k].Within - 1, owner: -1})
	}
	for _, g := range x.globals[x.g.ModuleOf[i]] {
		if int(g.file) != i {
			e.uses = append(e.uses, scoped{imp: g.imp, index: -1, within: -1, owner: -1})
		}
	}
	for k := range e.uses {
		u := &e.uses[k]
		if u.imp.Kind == fact.ImportType {
			continue
		}
		name := strings.TrimPrefix(u.imp.Name, "global::")
		// Names in a using directive are found from around it, without the
		// directives beside it.
		u.space = name
		if u.imp.Kind == fact.ImportWildcard {
			if s, ok := e.spaceFrom(u.within, name); ok {
				u.space, u.inner = s, true
				continue
			}
			if !e.vb {
				continue
			}
		}
		if id := e.typeFrom(u.within, name); id >= 0 {
			u.owner = id
		}
	}
}

// spaceFrom finds a namespace of the tree by a name as it stands in a
// directive inside a namespace declaration.
func (e *env) spaceFrom(within int32, name string) (string, bool) {
	for d := within; d >= 0; d = e.f.Decls[d].Outer {
		for s := e.x.types[e.base+d].name; s != ""; s = above(s) {
			if full, ok := e.space(s + "." + name); ok {
				return full, true
			}
		}
	}
	return e.space(name)
}

// space returns the name of the namespace of the tree that a full name means.
func (e *env) space(name string) (string, bool) {
	if e.vb {
		s, ok := e.x.foldSp[strings.ToLower(name)]
		return s, ok
	}
	return name, e.x.spaces[name]
}

func above(space string) string {
	n := strings.LastIndexByte(space, '.')
	if n < 0 {
		return ""
	}
	return space[:n]
}

// typeFrom finds a type by a name as it stands in a directive.
func (e *env) typeFrom(within int32, name string) int32 {
	for d := within; d >= 0; d = e.f.Decls[d].Outer {
		for s := e.x.types[e.base+d].name; s != ""; s = above(s) {
			if id := e.full(s + "." + name); id >= 0 {
				return id
			}
		}
	}
	return e.full(name)
}

// full returns the type of a full name, or -1.
func (e *env) full(name string) int32 {
	ids := e.x.names[name]
	if e.vb {
		ids = e.x.fold[strings.ToLower(name)]
	}
	if len(ids) == 0 {
		return -1
	}
	return e.x.pick(e.file, ids)
}

// nested returns the type that is declared in type id by that name, or
// inherited, or -1.
func (e *env) nested(id int32, name string, depth int) int32 {
	x := e.x
	if to := e.full(x.types[id].name + "." + name); to >= 0 {
		return to
	}
	if depth > 30 {
		return -1
	}
	for _, s := range e.supersOf(id) {
		if to := e.nested(s, name, depth+1); to >= 0 {
			return to
		}
	}
	return -1
}

// supersOf returns the supertypes of all parts of a type.
func (e *env) supersOf(id int32) []int32 {
	parts := e.x.parts(id)
	if len(parts) < 2 {
		return e.x.types[id].supers
	}
	var all []int32
	for _, p := range parts {
		all = append(all, e.x.types[p].supers...)
	}
	return all
}

// resolveSupers resolves the supertypes of a type.
func (e *env) resolveSupers(id int32, depth int) {
	x := e.x
	t := &x.types[id]
	if t.state != 0 || depth > 200 {
		return
	}
	t.state = 1
	f := x.g.Files[t.file]
	k := &f.Decls[t.decl]
	if len(k.Supers) > 0 {
		if t.outer >= 0 {
			e.resolveSupers(t.outer, depth+1)
		}
		for _, u := range k.Supers {
			e.open(int(t.file))
			use := &f.Uses[u]
			// A supertype is looked up around the type, not in it.
			to := e.typed(k.Outer, use.Name)
			if to >= 0 && to != id {
				e.resolveSupers(to, depth+1)
				t.supers = append(t.supers, to)
			}
		}
	}
	t.state = 2
}

// typed resolves a dotted name to a type of the tree, or -1, from scope, an
// index into the file's declarations or -1.
func (e *env) typed(scope int32, name string) int32 {
	f := e.name(scope, name)
	if f.id >= 0 && f.rest == "" {
		return f.id
	}
	return -1
}

// found is what a dotted name stands for: a type of the tree and what is left
// of the name, or something outside.
type found struct {
	id    int32
	rest  string
	via   int    // index into env.uses of the directive that it came through, or -1
	space string // the namespace of the tree that the whole name is, if no type is found
	full  string // the full name of an outside type
}

// name resolves a dotted name in type position (C# 7.8.2).
func (e *env) name(scope int32, name string) found {
	e.path = e.path[:0]
	if rest, ok := strings.CutPrefix(name, "global::"); ok {
		return e.fromSpace("", rest)
	}
	if e.vb && len(name) > 7 && strings.EqualFold(name[:7], "global.") {
		return e.fromSpace("", name[7:])
	}
	head, rest, qualified := strings.Cut(name, ".")
	d := scope
	for ; d >= 0 && e.f.Decls[d].Kind != fact.Namespace; d = e.f.Decls[d].Outer {
		if id := e.nested(e.base+d, head, 0); id >= 0 {
			return e.walk(id, rest, -1)
		}
	}
	bare, _, _ := strings.Cut(head, "`")
	for {
		space := ""
		if d >= 0 {
			space = e.x.types[e.base+d].name
		} else if e.vb {
			space = e.x.roots[e.x.g.ModuleOf[e.file]]
		}
		stop := "-" // none: up to the global namespace
		if d >= 0 {
			stop = ""
		}
		if d >= 0 && e.f.Decls[d].Outer >= 0 {
			stop = e.x.types[e.base+e.f.Decls[d].Outer].name
		}
		// "namespace A.B.C" is three namespaces, the outer two without
		// directives of their own.
		for first := true; ; first = false {
			if id := e.full(inside(space, head)); id >= 0 {
				return e.walk(id, rest, -1)
			}
			if qualified && head == bare {
				if s, ok := e.space(inside(space, head)); ok {
					if f := e.fromSpace(s, rest); f.id >= 0 || f.space != "" {
						return f
					}
				}
			}
			if first {
				if f, ok := e.directives(d, head, rest); ok {
					return f
				}
			}
			if space == "" || space == stop {
				break
			}
			space = above(space)
			if space == stop {
				break
			}
		}
		if d < 0 {
			break
		}
		d = e.f.Decls[d].Outer
	}
	return found{id: -1, via: -1}
}

// directives looks a name up through the using directives of one namespace
// declaration or, for -1, of the file.
func (e *env) directives(d int32, head, rest string) (found, bool) {
	for k := range e.uses {
		u := &e.uses[k]
		if u.within != d || u.imp.Kind != fact.ImportType || !e.same(u.imp.Alias, head) {
			continue
		}
		if u.index >= 0 {
			u.lit = true
		}
		target := strings.TrimPrefix(u.imp.Name, "global::")
		if e.depth > 4 {
			break
		}
		e.depth++
		if s, ok := e.spaceFrom(d, target); ok && rest != "" {
			f := e.fromSpace(s, rest)
			e.depth--
			return f, true
		}
		if id := e.typeFrom(d, target); id >= 0 {
			e.depth--
			return e.walk(id, rest, -1), true
		}
		e.depth--
		return found{id: -1, via: k, full: join(target, rest)}, true
	}
	for k := range e.uses {
		u := &e.uses[k]
		if u.within != d || u.imp.Kind == fact.ImportType {
			continue
		}
		id := int32(-1)
		switch {
		case u.owner >= 0:
			id = e.nested(u.owner, head, 0)
		case u.inner && u.imp.Kind == fact.ImportWildcard:
			id = e.full(inside(u.space, head))
		}
		if id >= 0 {
			return e.walk(id, rest, k), true
		}
	}
	return found{}, false
}

func (e *env) same(a, b string) bool { return a == b || e.vb && strings.EqualFold(a, b) }

func join(name, rest string) string {
	if rest == "" {
		return name
	}
	return name + "." + rest
}

// fromSpace follows a dotted name from a namespace: namespaces, then types.
func (e *env) fromSpace(space, rest string) found {
	for rest != "" {
		head, tail, _ := strings.Cut(rest, ".")
		if id := e.full(inside(space, head)); id >= 0 {
			return e.walk(id, tail, -1)
		}
		s, ok := e.space(inside(space, head))
		if !ok {
			return found{id: -1, via: -1}
		}
		space, rest = s, tail
	}
	return found{id: -1, via: -1, space: space}
}

// walk follows nested types from a type along a dotted rest.
func (e *env) walk(id int32, rest string, via int) found {
	e.path = append(e.path[:0], id)
	for rest != "" {
		head, tail, _ := strings.Cut(rest, ".")
		next := e.nested(id, head, 0)
		if next < 0 {
			break
		}
		e.path = append(e.path, next)
		id, rest = next, tail
	}
	return found{id: id, rest: rest, via: via}
}

// member returns the member of that name that a type declares or inherits from
// types of the tree, and the type.
func (e *env) member(id int32, name string, depth int) (*fact.Member, int32) {
	x := e.x
	key := name
	look := func(p int32) *fact.Member {
		t := &x.types[p]
		f := x.g.Files[t.file]
		key = name
		if f.Language == "visualbasic" {
			key = strings.ToLower(name)
		}
		if n, ok := t.members[key]; ok {
			return &f.Decls[t.decl].Members[n]
		}
		return nil
	}
	if parts := x.parts(id); len(parts) > 1 {
		for _, p := range parts {
			if m := look(p); m != nil {
				return m, p
			}
		}
	} else if m := look(id); m != nil {
		return m, id
	}
	if depth > 30 {
		return nil, -1
	}
	for _, s := range e.supersOf(id) {
		if m, in := e.member(s, name, depth+1); m != nil && m.Flags&fact.Private == 0 {
			return m, in
		}
	}
	return nil, -1
}
