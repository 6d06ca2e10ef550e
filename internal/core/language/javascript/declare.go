package javascript

import (
	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// walk reads what the file declares, and where it uses the names that imports
// bring in.
func (r *Reader) walk() {
	for i := 0; i < len(r.Tokens)-1; {
		for len(r.ends) > 0 && i >= r.ends[len(r.ends)-1].at {
			r.scope = r.ends[len(r.ends)-1].scope
			r.ends = r.ends[:len(r.ends)-1]
		}
		i = max(r.token(i), i+1)
	}
}

// top reports whether the token at i stands outside every body but those of
// namespaces.
func (r *Reader) top(i int) bool { return i >= r.body }

// token reads what begins at token i and returns the index behind it.
func (r *Reader) token(i int) int {
	switch r.At(i) {
	case '{':
		// A body or an object: what it declares is its own.
		if end := r.Pair(i); end > r.body && i >= r.body && !r.open(i) {
			r.body = end
		}
		return i + 1
	case '@':
		if r.At(i+1) == lexis.Name && r.At(i-1) != '.' {
			k := r.chain(i + 1)
			if u := r.emit(i+1, k, fact.HowMarker, 0); u >= 0 {
				r.marks = append(r.marks, u)
			}
			return k
		}
		return i + 1
	case lexis.String:
		if b := r.Bytes(i); len(b) > 4 && b[0] != '`' && lexis.FullName(b[1:len(b)-1]) {
			r.b.Use(b[1:len(b)-1], fact.Use{Scope: -1, Local: -1, How: fact.HowDynamic}, r.Where(i))
		}
		return i + 1
	case lexis.Name:
		return r.named(i)
	}
	return i + 1
}

// open reports whether the "{" at i belongs to a namespace or declare global,
// whose members are declared like the module's own.
func (r *Reader) open(i int) bool { return i == r.space }

func (r *Reader) named(i int) int {
	prev, next := r.At(i-1), r.At(i+1)
	if prev == '.' || prev == tOptional {
		return i + 1
	}
	switch string(r.Bytes(i)) {
	case "import":
		return r.pastImport(i)
	case "export":
		return r.pastExport(i)
	case "class":
		if prev != ':' && next != ':' && next != '=' && next != '.' && next != '(' && next != ')' && next != ',' {
			return r.class(i)
		}
	case "interface":
		if r.typed && next == lexis.Name && !r.NewLine(i+1) {
			return r.interfaceDecl(i)
		}
	case "enum":
		if r.typed && next == lexis.Name {
			r.declare(i, i+1, fact.Enum)
			return i + 2
		}
	case "type":
		if r.typed && next == lexis.Name && (r.At(i+2) == '=' || r.At(i+2) == '<') && !r.NewLine(i+1) {
			r.declare(i, i+1, fact.Alias)
			return i + 2
		}
	case "namespace", "module":
		if r.typed && (next == lexis.Name || next == lexis.String) && !r.NewLine(i+1) {
			return r.namespace(i)
		}
	case "global":
		if r.typed && next == '{' && r.Is(i-1, "declare") {
			r.space = i + 1
			return i + 1
		}
	case "function":
		k := i + 1
		if r.At(k) == '*' {
			k++
		}
		if r.At(k) == lexis.Name && r.top(i) {
			r.declare(i, k, fact.Func)
			return k + 1
		}
		if r.At(k) == lexis.Name {
			return k + 1
		}
	case "const", "let", "var":
		if r.top(i) && prev != '(' && !r.Is(i+1, "enum") {
			r.variables(i)
		}
		switch next {
		case lexis.Name:
			if !r.Is(i+1, "enum") {
				return i + 2
			}
		case '{', '[':
			// What is taken apart is named on the right.
			if end := r.Pair(i + 1); r.At(end+1) == '=' && r.Is(end+2, "require") {
				return end + 1
			}
		}
		return i + 1
	case "new":
		if next == lexis.Name {
			k := r.chain(i + 1)
			r.emit(i+1, k, fact.HowConstruct, 0)
			return k
		}
	}
	k := r.chain(i)
	how := fact.HowCall
	switch {
	case prev == tElement:
		how = fact.HowConstruct
	case r.typed && r.typePlace(i):
		how = fact.HowType
	}
	if r.At(k) == ':' && k == i+1 && (prev == '{' || prev == ',') && !r.Is(i-1, "case") {
		return k // the key of an object, or a parameter with its type
	}
	if r.Is(i-1, "function") || r.At(k) == tArrow {
		return k
	}
	flags := fact.UseFlags(0)
	if r.At(k) == '(' {
		flags = fact.Call
	}
	r.emit(i, k, how, flags)
	return k
}

// typePlace reports whether a name at token i stands where TypeScript expects
// a type, as far as the token before tells.
func (r *Reader) typePlace(i int) bool {
	switch r.At(i - 1) {
	case ':':
		return r.At(i-2) != lexis.String && !(r.At(i-2) == lexis.Name && (r.At(i-3) == '?' || r.Is(i-3, "case")))
	case '<', '|', '&':
		return true
	case lexis.Name:
		switch string(r.Bytes(i - 1)) {
		case "as", "satisfies", "is", "keyof", "extends", "infer", "asserts":
			return true
		}
	}
	return false
}

// chain returns the index behind the dotted name at token i.
func (r *Reader) chain(i int) int {
	for i++; r.At(i) == '.' && r.At(i+1) == lexis.Name; {
		i += 2
	}
	return i
}

// emit records the dotted name between two tokens where an import brings its
// head in, and returns its use, or -1. In TypeScript a name that the file does
// not declare may also be one that another file declares for all.
func (r *Reader) emit(i, k int, how fact.How, flags fact.UseFlags) int32 {
	head := r.Bytes(i)
	n, ok := r.imported[string(head)]
	if ok {
		r.b.MarkUsed(n)
	} else {
		if !r.typed || r.declared[string(head)] || how != fact.HowType && how != fact.HowInherit && how != fact.HowConstruct || head[0] >= 'a' && head[0] <= 'z' && k == i+1 {
			return -1
		}
		flags |= fact.Ambiguous
	}
	r.joined = r.joined[:0]
	for t := i; t < k; t += 2 {
		if t > i {
			r.joined = append(r.joined, '.')
		}
		r.joined = append(r.joined, r.Bytes(t)...)
	}
	return r.b.Use(r.joined, fact.Use{Scope: r.scope, Local: -1, How: how, Flags: flags}, r.Where(i))
}

// pastImport passes over an import declaration.
func (r *Reader) pastImport(i int) int {
	if k := r.At(i + 1); k == '(' || k == '.' {
		return i + 1
	}
	for k := i + 1; k < len(r.Tokens) && k < i+4000; k++ {
		switch r.At(k) {
		case lexis.String:
			return k + 1
		case ';', lexis.EOF:
			return k
		case '=':
			return k
		}
	}
	return i + 1
}

// pastExport passes over an export clause.
func (r *Reader) pastExport(i int) int {
	k := i + 1
	if r.Is(k, "type") && (r.At(k+1) == '{' || r.At(k+1) == '*') {
		k++
	}
	switch r.At(k) {
	case '{':
		k = r.Pair(k) + 1
	case '*':
		for r.At(k) != lexis.String && r.At(k) != ';' && r.At(k) != lexis.EOF {
			k++
		}
		return k + 1
	default:
		return i + 1
	}
	if r.Is(k, "from") {
		k += 2
	}
	return k
}

// exported reports whether the declaration at token i has export before it,
// and whether it is the default one.
func (r *Reader) exported(i int) fact.Flags {
	flags := fact.Flags(0)
	for i--; r.At(i) == lexis.Name; i-- {
		switch string(r.Bytes(i)) {
		case "export":
			flags |= fact.Public
		case "abstract":
			flags |= fact.Abstract
		case "declare", "default", "async", "const":
		default:
			return flags
		}
	}
	return flags
}

// declare adds the declaration at token i of the name at token k.
func (r *Reader) declare(i, k int, kind fact.DeclKind) int32 {
	d := fact.Decl{Name: r.name(k), Kind: kind, Flags: r.exported(i), Outer: r.scope, At: r.Where(k)}
	if !r.top(i) {
		d.Flags = d.Flags&^fact.Public | fact.Local
	} else {
		r.declared[d.Name] = true
	}
	d.Markers = r.b.Ints(r.marks)
	r.marks = r.marks[:0]
	return r.b.Declare(d)
}

// variables declares what a const, let or var statement at token i binds.
func (r *Reader) variables(i int) {
	k := i + 1
	for {
		switch r.At(k) {
		case lexis.Name:
			if _, ok := r.imported[string(r.Bytes(k))]; !ok {
				r.declare(i, k, fact.Var)
			}
			k++
		case '{', '[':
			for n := k + 1; n < r.Pair(k); n++ {
				if r.At(n) == lexis.Name && r.At(n+1) != ':' && r.At(n-1) != '=' {
					if _, ok := r.imported[string(r.Bytes(n))]; !ok {
						r.declare(i, n, fact.Var)
					}
				}
			}
			k = r.Pair(k) + 1
		default:
			return
		}
		// To the next declarator.
		for r.At(k) != ',' {
			switch r.At(k) {
			case ';', lexis.EOF, ')', '}':
				return
			case lexis.Name:
				if r.NewLine(k) && r.At(k-1) != '=' && r.At(k-1) != ':' && r.At(k-1) != ',' && r.At(k-1) != tArrow && r.At(k-1) != '|' {
					return
				}
			}
			k = max(k, r.Pair(k)) + 1
		}
		k++
	}
}

// namespace reads a TypeScript namespace or module declaration at token i.
func (r *Reader) namespace(i int) int {
	k := i + 1
	if name, ok := r.unquoted(k); ok { // an ambient module: what an outside one declares
		if r.top(i) {
			r.b.Declare(fact.Decl{Name: name, Kind: fact.Namespace, Flags: fact.Public, Outer: -1, At: r.Where(k)})
		}
		if r.At(k+1) == '{' && r.body < r.Pair(k+1) {
			r.body = r.Pair(k + 1)
		}
		return k + 1
	}
	first := k
	for r.At(k+1) == '.' && r.At(k+2) == lexis.Name {
		k += 2
	}
	if r.At(k+1) != '{' || !r.top(i) {
		return i + 1
	}
	d := r.declare(i, first, fact.NamedType)
	end := r.Pair(k + 1)
	r.ends = append(r.ends, endOf(end, r.scope))
	r.scope = d
	r.space = k + 1
	return k + 1
}

func endOf(at int, scope int32) end { return end{at, scope} }
