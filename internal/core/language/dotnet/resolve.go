package dotnet

import (
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
)

// Resolve adds the dependencies of file i to c.
func (x *Resolver) Resolve(i int, c *graph.Collector) {
	e := x.envs.Get().(*env)
	defer x.envs.Put(e)
	e.file = -1
	e.open(i)
	for k := range e.f.Uses {
		u := &e.f.Uses[k]
		switch {
		case u.How == fact.HowDynamic:
		case u.Flags&fact.Selected != 0:
			if id := e.typed(u.Scope, u.Name); id >= 0 {
				e.extension(u.Scope, id, u.Of, c, e.f.PlacesOf(u))
			}
		case u.Flags&fact.Ambiguous != 0:
			e.ambiguous(u, c)
		case u.How == fact.HowMarker:
			e.marker(u, c)
		default:
			e.use(u, c)
		}
	}
	for k := range e.uses {
		if e.uses[k].index >= 0 {
			e.importRow(&e.uses[k], c)
		}
	}
}

// plain is a full name without the arities in it.
func plain(name string) string {
	if strings.IndexByte(name, '`') < 0 {
		return name
	}
	b := make([]byte, 0, len(name))
	for i := 0; i < len(name); i++ {
		if name[i] == '`' {
			for i+1 < len(name) && name[i+1] >= '0' && name[i+1] <= '9' {
				i++
			}
			continue
		}
		b = append(b, name[i])
	}
	return string(b)
}

// emit adds the dependency on the last type of e.path, and on those before it
// that lie in other files.
func (e *env) emit(c *graph.Collector, via int, how fact.How, places []fact.Place) {
	x := e.x
	last := &x.types[e.path[len(e.path)-1]]
	if via >= 0 {
		u := &e.uses[via]
		if u.hits == nil {
			u.hits = make(map[int32]bool)
		}
		u.hits[e.path[0]] = true
	}
	for n, id := range e.path {
		t := &x.types[id]
		if int(t.file) == e.file || n < len(e.path)-1 && t.file == last.file {
			continue
		}
		h := how
		if n < len(e.path)-1 {
			h = fact.HowType
		}
		c.Add(graph.Dep{Target: graph.ToFile, File: t.file, Decl: t.decl, Name: plain(t.name), How: h}, places)
	}
}

func (e *env) use(u *fact.Use, c *graph.Collector) {
	places := e.f.PlacesOf(u)
	f := e.name(u.Scope, u.Name)
	switch {
	case f.id >= 0:
		e.emit(c, f.via, u.How, places)
	case f.space != "":
	case f.full != "":
		e.outside(c, f.full, u.How, places)
	default:
		e.unknown(u.Name, u.How, places, c, true)
	}
}

// marker resolves an attribute: its name may lack the suffix (C# 22.3).
func (e *env) marker(u *fact.Use, c *graph.Collector) {
	places := e.f.PlacesOf(u)
	base, _, _ := strings.Cut(u.Name, "`")
	for _, name := range []string{base + "Attribute" + u.Name[len(base):], u.Name} {
		if f := e.name(u.Scope, name); f.id >= 0 && f.rest == "" {
			e.emit(c, f.via, u.How, places)
			return
		} else if f.full != "" {
			e.outside(c, f.full, u.How, places)
			return
		}
	}
	if !e.unknown(base+"Attribute", u.How, places, c, false) {
		e.unknown(base, u.How, places, c, true)
	}
}

// ambiguous resolves a name in an expression: its head may be a member, and
// its last parts may be.
func (e *env) ambiguous(u *fact.Use, c *graph.Collector) {
	places := e.f.PlacesOf(u)
	name := u.Name
	head, rest, qualified := strings.Cut(name, ".")
	if u.Flags&fact.Value != 0 && qualified {
		// "is Outer.Inner": a type comes before a constant (C# 11.2.2).
		if f := e.name(u.Scope, name); f.id >= 0 && f.rest == "" {
			e.emit(c, f.via, u.How, places)
			return
		}
	}
	if !strings.HasPrefix(name, "global::") && !(e.vb && strings.EqualFold(head, "global")) {
		plainHead, _, generic := strings.Cut(head, "`")
		for d := u.Scope; d >= 0 && e.f.Decls[d].Kind != fact.Namespace; d = e.f.Decls[d].Outer {
			if id := e.nested(e.base+d, head, 0); id >= 0 {
				break
			}
			if generic {
				continue
			}
			m, in := e.member(e.base+d, plainHead, 0)
			if m == nil {
				continue
			}
			if next, _, more := strings.Cut(rest, "."); m.Kind == fact.Field && qualified && !more && len(m.Uses) > 0 {
				// A field's or property's extension, where its type is the tree's.
				e.ofMember(u.Scope, m, in, next, c, places)
			}
			if m.Kind == fact.MethodMember && !e.vb || !qualified || !e.colorColor(m, in, plainHead, u.Scope, rest) {
				return
			}
			break
		}
	}
	if u.Flags&fact.Call != 0 {
		// A name alone that a static import, or a module, may bring in.
		e.static(u, head, rest, c, places)
		return
	}
	f := e.name(u.Scope, name)
	switch {
	case f.id >= 0:
		if u.Flags&fact.Value != 0 && f.rest != "" {
			// "is Type.Constant": what is left is a member.
			f.rest = ""
		}
		e.emit(c, f.via, u.How, places)
	case f.space != "":
	case f.full != "" && u.Flags&fact.Value == 0 && f.full != e.uses[f.via].imp.Name:
		e.outside(c, f.full[:strings.LastIndexByte(f.full, '.')], u.How, places)
	case f.full != "":
		e.outside(c, f.full, u.How, places)
	case e.vb && qualified && e.static(u, head, rest, c, places):
	default:
		if u.Flags&fact.Value == 0 {
			name = name[:max(0, strings.LastIndexByte(name, '.'))] // without the member
		}
		if name != "" {
			e.unknown(name, u.How, places, c, false)
		}
	}
}

// ofMember resolves a name behind a field or property as an extension method of
// its type.
func (e *env) ofMember(scope int32, m *fact.Member, in int32, name string, c *graph.Collector, places []fact.Place) {
	t := &e.x.types[in]
	id := int32(-1)
	e.elsewhere(t.file, func(o *env) { id = o.typed(t.decl, o.f.Uses[m.Uses[0]].Name) })
	if id >= 0 {
		e.extension(scope, id, name, c, places)
	}
}

// extension adds the dependency on the class whose extension method of that
// name a call on type id means: none that the type has itself, in a namespace
// that is in scope, and one that names the type or what it inherits from.
func (e *env) extension(scope, id int32, name string, c *graph.Collector, places []fact.Place) {
	x := e.x
	if len(x.extend[name]) == 0 {
		return
	}
	if m, _ := e.member(id, name, 0); m != nil {
		return
	}
	found := int32(-1)
	via := -1
	for _, t := range x.extend[name] {
		in := false
		at := -1
		for d := scope; d >= 0 && !in; d = e.f.Decls[d].Outer {
			own := x.types[e.base+d].space
			in = own == x.types[t].space || strings.HasPrefix(own, x.types[t].space+".") || x.types[t].space == ""
		}
		for k := range e.uses {
			if !in && e.uses[k].inner && e.uses[k].space == x.types[t].space {
				in, at = true, k
			}
		}
		if !in || !e.extends(t, name, id) {
			continue
		}
		if found >= 0 && x.types[found].name != x.types[t].name {
			return // two fit; only their other parameters tell
		}
		found, via = t, at
	}
	if found >= 0 {
		e.path = append(e.path[:0], found)
		e.emit(c, via, fact.HowCall, places)
	}
}

// extends reports whether an extension method of class t names type id, or a
// type that it inherits from.
func (e *env) extends(t int32, name string, id int32) bool {
	info := &e.x.types[t]
	f := e.x.g.Files[info.file]
	fits := false
	e.elsewhere(info.file, func(o *env) {
		for n := range f.Decls[info.decl].Members {
			m := &f.Decls[info.decl].Members[n]
			if m.Name != name || m.Flags&fact.Extension == 0 {
				continue
			}
			for _, u := range m.Uses {
				if to := o.typed(info.decl, f.Uses[u].Name); to >= 0 && o.derives(id, to, 0) {
					fits = true
				}
			}
		}
	})
	return fits
}

// elsewhere looks names up from another file.
func (e *env) elsewhere(file int32, look func(o *env)) {
	o := e.x.envs.Get().(*env)
	defer e.x.envs.Put(o)
	o.file = -1
	o.open(int(file))
	look(o)
}

// derives reports whether a type is another, or inherits from it.
func (e *env) derives(id, from int32, depth int) bool {
	if e.x.types[id].name == e.x.types[from].name {
		return true
	}
	if depth > 20 {
		return false
	}
	for _, s := range e.supersOf(id) {
		if e.derives(s, from, depth+1) {
			return true
		}
	}
	return false
}

// colorColor reports whether a member's own type has the member's name, so
// that the name stands for both (C# 12.8.7.2).
//
// What follows it decides: a member of an instance makes it the member.
func (e *env) colorColor(m *fact.Member, in int32, name string, scope int32, rest string) bool {
	f := e.x.g.Files[e.x.types[in].file]
	if len(m.Uses) == 0 {
		return false
	}
	used := f.Uses[m.Uses[0]].Name
	if n := strings.LastIndexByte(used, '.'); n >= 0 {
		used = used[n+1:]
	}
	if !e.same(used, name) {
		return false
	}
	if id := e.typed(scope, name); id >= 0 && e.kind(id) != fact.Enum {
		next, _, _ := strings.Cut(rest, ".")
		next, _, _ = strings.Cut(next, "`")
		if e.nested(id, next, 0) < 0 {
			if after, _ := e.member(id, next, 0); after != nil && after.Flags&fact.Static == 0 {
				return false
			}
		}
	}
	return true
}

// static resolves a name alone as a member that a static import or, in Visual
// Basic, a module of a namespace in scope brings in.
func (e *env) static(u *fact.Use, head, rest string, c *graph.Collector, places []fact.Place) bool {
	for k := range e.uses {
		s := &e.uses[k]
		if s.owner < 0 {
			continue
		}
		if m, in := e.member(s.owner, head, 0); m != nil && m.Flags&fact.Static != 0 || m != nil && e.kind(in) == fact.Enum {
			e.path = append(e.path[:0], in)
			e.emit(c, k, fact.HowCall, places)
			return true
		}
	}
	if !e.vb {
		return false
	}
	try := func(space string, via int) bool {
		for _, id := range e.x.byFold[strings.ToLower(space)] {
			t := &e.x.types[id]
			f := e.x.g.Files[t.file]
			if f.Language != "visualbasic" || f.Decls[t.decl].Flags&fact.Companion == 0 || int(t.file) == e.file {
				continue // Companion marks a module
			}
			if _, ok := t.members[strings.ToLower(head)]; ok {
				e.path = append(e.path[:0], id)
				e.emit(c, via, fact.HowCall, places)
				return true
			}
		}
		return false
	}
	root := e.x.roots[e.x.g.ModuleOf[e.file]]
	for d := u.Scope; d >= 0; d = e.f.Decls[d].Outer {
		if e.f.Decls[d].Kind == fact.Namespace {
			for s := e.x.types[e.base+d].name; s != ""; s = above(s) {
				if try(s, -1) {
					return true
				}
			}
		}
	}
	for s := root; ; s = above(s) {
		if try(s, -1) {
			return true
		}
		if s == "" {
			break
		}
	}
	for k := range e.uses {
		if e.uses[k].inner && try(e.uses[k].space, k) {
			return true
		}
	}
	return false
}

func (e *env) kind(id int32) fact.DeclKind {
	t := &e.x.types[id]
	return e.x.g.Files[t.file].Decls[t.decl].Kind
}

func (e *env) outside(c *graph.Collector, full string, how fact.How, places []fact.Place) {
	full = plain(strings.TrimPrefix(full, "global::"))
	if len(full) > 7 && strings.EqualFold(full[:7], "global.") {
		full = full[7:]
	}
	d := graph.Dep{Target: graph.ToOutside, To: namespaceOf(full), Name: full, Decl: -1, How: how}
	if Standard(full) {
		d.Flags |= graph.Standard
	}
	c.Add(d, places)
}

// namespaceOf returns the namespace of the full name of an outside type: by
// the class library where it has it, else all but the last part.
func namespaceOf(full string) string {
	segs := strings.Split(full, ".")
	for n := len(segs) - 1; n > 0; n-- {
		space := strings.Join(segs[:n], ".")
		for _, s := range platform()[segs[n]] {
			if s == space {
				return space
			}
		}
	}
	if n := strings.LastIndexByte(full, '.'); n > 0 {
		return full[:n]
	}
	return full
}

// known reports whether the class library has a type that a full name is, or
// is a member of.
func known(full string) bool {
	segs := strings.Split(full, ".")
	for n := len(segs) - 1; n > 0; n-- {
		space := strings.Join(segs[:n], ".")
		for _, s := range platform()[segs[n]] {
			if s == space {
				return true
			}
		}
	}
	return false
}

// Standard reports whether a name belongs to the .NET class library.
func Standard(name string) bool {
	return name == "System" || strings.HasPrefix(name, "System.") || strings.HasPrefix(name, "Microsoft.Win32") ||
		strings.HasPrefix(name, "Microsoft.CSharp") || strings.HasPrefix(name, "Microsoft.VisualBasic")
}

// unknown handles a name that nothing in the tree declares: a type of the
// class library that a directive brings in, or a qualified outside name. sure
// tells that it can be nothing but a type.
func (e *env) unknown(name string, how fact.How, places []fact.Place, c *graph.Collector, sure bool) bool {
	name = plain(name)
	if rest, ok := strings.CutPrefix(name, "global::"); ok {
		e.outside(c, rest, how, places)
		return true
	}
	head, rest, qualified := strings.Cut(name, ".")
	key := head
	if e.vb && key != "" && platform()[key] == nil {
		key = strings.ToUpper(key[:1]) + key[1:]
	}
	spaces := platform()[key]
	if len(spaces) > 0 {
		for k := range e.uses {
			u := &e.uses[k]
			if u.imp.Kind != fact.ImportWildcard || u.inner {
				continue
			}
			for _, s := range spaces {
				if e.same(u.imp.Name, s) {
					u.lit = true
					e.outside(c, s+"."+key, how, places)
					return true
				}
			}
		}
		for _, s := range spaces { // without a directive: projects bring these in
			if s == "System" || s == "System.Collections.Generic" || s == "System.Linq" || s == "System.Threading.Tasks" || s == "System.IO" || s == "System.Threading" || s == "System.Net.Http" || s == "Microsoft.VisualBasic" && e.vb {
				if sure || !qualified || rest != "" {
					e.outside(c, s+"."+key, how, places)
					return true
				}
			}
		}
	}
	if qualified && e.vb {
		// A namespace that an import has may be left out (4.7.2).
		for k := range e.uses {
			u := &e.uses[k]
			if u.imp.Kind != fact.ImportWildcard || u.inner {
				continue
			}
			if full := u.imp.Name + "." + name; known(full) {
				u.lit = true
				e.outside(c, full, how, places)
				return true
			}
		}
	}
	if qualified {
		// A.B.C: outside, where its beginning is a namespace that a directive
		// or the class library has.
		for k := range e.uses {
			u := &e.uses[k]
			if u.imp.Kind == fact.ImportWildcard && !u.inner {
				first, _, _ := strings.Cut(u.imp.Name, ".")
				if e.same(first, head) {
					e.outside(c, name, how, places)
					return true
				}
			}
		}
		if e.same(head, "System") || e.same(head, "Microsoft") && strings.Contains(rest, ".") || sure && upper(head) && strings.Contains(rest, ".") {
			e.outside(c, name, how, places)
			return true
		}
	}
	if !sure {
		return false
	}
	// One outside namespace, and that alone, may have brought it in.
	candidate := -1
	for k := range e.uses {
		u := &e.uses[k]
		if u.imp.Kind == fact.ImportWildcard && !u.inner && !Standard(u.imp.Name) {
			if candidate >= 0 {
				candidate = -2
				break
			}
			candidate = k
		}
	}
	if candidate >= 0 && !qualified {
		e.uses[candidate].lit = true
		e.outside(c, e.uses[candidate].imp.Name+"."+name, how, places)
		return true
	}
	c.Add(graph.Dep{Target: graph.ToUnresolved, To: name, Name: name, Decl: -1, How: how}, places)
	return true
}

func upper(s string) bool { return s != "" && s[0] >= 'A' && s[0] <= 'Z' }

// importRow adds the dependencies of a directive itself: on the types that
// came in through it or, where none did, on its namespace.
func (e *env) importRow(u *scoped, c *graph.Collector) {
	x := e.x
	at := u.imp.At
	name := plain(strings.TrimPrefix(u.imp.Name, "global::"))
	switch {
	case u.imp.Kind == fact.ImportType:
		flags := graph.DepFlags(0)
		if !u.lit && u.imp.Flags&fact.Global == 0 {
			flags = graph.Unused
		}
		if s, ok := e.spaceFrom(u.within, u.imp.Name); ok {
			c.AddAt(graph.Dep{Target: graph.ToPackage, To: x.folder(s), Name: s, Decl: -1, How: fact.HowImport, Flags: flags | graph.Bare}, at)
			return
		}
		if id := e.typeFrom(u.within, strings.TrimPrefix(u.imp.Name, "global::")); id >= 0 {
			if t := &x.types[id]; int(t.file) != e.file {
				c.AddAt(graph.Dep{Target: graph.ToFile, File: t.file, Decl: t.decl, Name: plain(t.name), How: fact.HowImport, Flags: flags}, at)
			}
			return
		}
		if Standard(name) {
			flags |= graph.Standard
		}
		c.AddAt(graph.Dep{Target: graph.ToOutside, To: namespaceOf(name), Name: name, Decl: -1, How: fact.HowImport, Flags: flags}, at)
	case u.owner >= 0:
		if t := &x.types[u.owner]; int(t.file) != e.file {
			c.AddAt(graph.Dep{Target: graph.ToFile, File: t.file, Decl: t.decl, Name: plain(t.name), How: fact.HowImport}, at)
		}
	case u.inner:
		for id := range u.hits {
			if t := &x.types[id]; int(t.file) != e.file {
				c.AddAt(graph.Dep{Target: graph.ToFile, File: t.file, Decl: t.decl, Name: plain(t.name), How: fact.HowImport}, at)
			}
		}
		if len(u.hits) == 0 {
			flags := graph.Bare
			if !x.extends(u.space) && u.imp.Flags&fact.Global == 0 {
				flags |= graph.Unused
			}
			c.AddAt(graph.Dep{Target: graph.ToPackage, To: x.folder(u.space), Name: u.space, Decl: -1, How: fact.HowImport, Flags: flags}, at)
		}
	default:
		flags := graph.DepFlags(0)
		if Standard(name) {
			flags |= graph.Standard
		}
		c.AddAt(graph.Dep{Target: graph.ToOutside, To: name, Name: name, Decl: -1, How: fact.HowImport, Flags: flags}, at)
	}
}

// folder returns the folder of the first file that declares something in a
// namespace or below it.
func (x *Resolver) folder(space string) string {
	if ids := x.bySpace[space]; len(ids) > 0 {
		return graph.Folder(x.g.Files[x.types[ids[0]].file].Path)
	}
	best := ""
	for s, ids := range x.bySpace {
		if strings.HasPrefix(s, space+".") && len(ids) > 0 {
			if f := graph.Folder(x.g.Files[x.types[ids[0]].file].Path); best == "" || f < best {
				best = f
			}
		}
	}
	return best
}

// extends reports whether a namespace has extension methods, which a file may
// use without naming them.
func (x *Resolver) extends(space string) bool {
	for _, id := range x.bySpace[space] {
		t := &x.types[id]
		for k := range x.g.Files[t.file].Decls[t.decl].Members {
			if x.g.Files[t.file].Decls[t.decl].Members[k].Flags&fact.Extension != 0 {
				return true
			}
		}
	}
	return false
}
