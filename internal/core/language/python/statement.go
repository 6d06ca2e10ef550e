package python

import (
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

func (r *Reader) pop() {
	f := r.frames[len(r.frames)-1]
	r.frames = r.frames[:len(r.frames)-1]
	if f.class {
		r.b.Decl(r.scope).Members = r.b.Members(r.members[f.marks:])
		r.members = r.members[:f.marks]
	}
	r.locals.Leave(f.locals)
	r.scope = f.scope
}

func (r *Reader) inFunction() bool {
	n := len(r.frames)
	return n > 0 && !r.frames[n-1].class
}

// line reads one logical line.
func (r *Reader) line(n int) {
	l := r.lines[n]
	for len(r.frames) > 0 && l.indent <= r.frames[len(r.frames)-1].indent {
		r.pop()
	}
	r.statement(n, int(l.from), int(l.to))
}

// statement reads the statement at token i of line n, and those that follow it
// up to token to.
func (r *Reader) statement(n, i, to int) {
	if i >= to {
		return
	}
	if r.Is(i, "async") {
		i++
	}
	switch {
	case r.At(i) == '@':
		if k := r.chain(i+1, to); k > i+1 {
			if u := r.emit(i+1, k, fact.HowMarker, 0); u >= 0 {
				r.marks = append(r.marks, u)
			}
			r.expression(k, to, fact.HowCall)
		} else {
			r.expression(i+1, to, fact.HowCall)
		}
		return
	case r.Is(i, "class") && r.At(i+1) == lexis.Name:
		r.class(n, i, to)
		return
	case r.Is(i, "def") && r.At(i+1) == lexis.Name:
		r.function(n, i, to)
		return
	case r.Is(i, "import"), r.Is(i, "from"):
		// added already
		for i < to && r.At(i) != ';' {
			i++
		}
		r.statement(n, i+1, to)
		return
	}
	// The end of this one: a ";", or the ":" of a compound statement.
	compound := false
	switch string(r.Bytes(i)) {
	case "if", "elif", "else", "for", "while", "try", "except", "finally", "with":
		compound = r.At(i) == lexis.Name
	}
	stop := i
	for stop < to && r.At(stop) != ';' && !(compound && r.At(stop) == ':') {
		if r.Is(stop, "lambda") && compound {
			for stop < to && r.At(stop) != ':' {
				stop++
			}
		}
		stop = max(stop, r.Pair(stop)) + 1
	}
	stop = min(stop, to)
	switch {
	case r.Is(i, "except"):
		k := i + 1
		for k < stop && !r.Is(k, "as") && !(r.At(k) == ',' && r.At(i+1) != '(') {
			k++
		}
		r.expression(i+1, k, fact.HowType)
	case compound || r.inFunction():
		r.simple(i, stop, compound)
	default:
		r.bindings(i, stop)
		r.simple(i, stop, false)
	}
	r.marks = r.marks[:0]
	r.statement(n, stop+1, to)
}

// simple reads a statement that declares nothing but may name things: an
// annotation before "=" names types.
func (r *Reader) simple(i, to int, compound bool) {
	if !compound && r.At(i) == lexis.Name {
		k := r.chain(i, to)
		if r.At(k) == ':' && k < to {
			stop := k + 1
			for stop < to && r.At(stop) != '=' {
				stop = max(stop, r.Pair(stop)) + 1
			}
			r.expression(k+1, min(stop, to), fact.HowType)
			r.expression(min(stop, to), to, fact.HowCall)
			return
		}
	}
	r.expression(i, to, fact.HowCall)
}

// bindings declares what an assignment at module or class level binds.
func (r *Reader) bindings(i, to int) {
	if r.Is(i, "__all__") && i+1 < to {
		for k := i + 1; k < to; k++ {
			if b := r.Bytes(k); r.At(k) == lexis.String && len(b) > 2 {
				if r.all == nil {
					r.all = make(map[string]bool)
				}
				r.all[string(b[1:len(b)-1])] = true
			}
		}
	}
	from := i
	for k := i; k < to; k = max(k, r.Pair(k)) + 1 {
		if r.At(k) != '=' && !(r.At(k) == ':' && k == i+1) {
			continue
		}
		for t := from; t < k; t++ {
			if r.At(t) != lexis.Name || r.At(t-1) == '.' && t > from || r.At(t+1) == '.' || r.At(t+1) == '(' || r.At(t+1) == '[' {
				continue
			}
			if n := len(r.frames); n > 0 {
				r.member(fact.Member{Name: r.b.Text(r.Bytes(t)), Flags: visibility(r.Bytes(t)), At: r.Where(t)}, nil)
			} else if name := r.b.Intern(r.Bytes(t)); !r.declared[name] {
				r.declared[name] = true
				r.b.Declare(fact.Decl{Name: name, Kind: fact.Var, Flags: visibility(r.Bytes(t)), Outer: -1, At: r.Where(t)})
			}
		}
		if r.At(k) == ':' {
			return
		}
		from = k + 1
	}
}

// visibility follows PEP 8: a leading underscore makes a name non-public.
func visibility(name []byte) fact.Flags {
	if len(name) > 1 && name[0] == '_' && !(name[1] == '_' && name[len(name)-1] == '_') {
		return fact.Private
	}
	return fact.Public
}

func (r *Reader) member(m fact.Member, sig []int32) {
	m.Uses = r.b.Ints(sig)
	m.Markers = r.b.Ints(r.marks)
	r.marks = r.marks[:0]
	r.members = append(r.members, m)
}

// class reads a class definition (reference, 8.8).
func (r *Reader) class(n, i, to int) {
	d := fact.Decl{Name: r.b.Intern(r.Bytes(i + 1)), Kind: fact.Class, Flags: visibility(r.Bytes(i + 1)), Outer: r.scope, At: r.Where(i + 1)}
	if r.inFunction() {
		d.Flags = d.Flags&^fact.Public | fact.Local
	} else if len(r.frames) == 0 {
		r.declared[d.Name] = true
	}
	d.Markers = r.b.Ints(r.marks)
	r.marks = r.marks[:0]
	self := r.b.Declare(d)
	k := i + 2
	if r.At(k) == '[' { // type parameters
		r.expression(k, r.Pair(k), fact.HowType)
		k = r.Pair(k) + 1
	}
	if r.At(k) == '(' {
		end := r.Pair(k)
		r.expression(k+1, end, fact.HowInherit)
		r.b.Decl(self).Supers = r.b.Ints(r.repeated)
		k = end + 1
	}
	r.frames = append(r.frames, frame{indent: r.lines[n].indent, scope: r.scope, locals: r.locals.Mark(), marks: len(r.members), class: true})
	r.scope = self
	if r.At(k) == ':' {
		r.statement(n, k+1, to)
	}
}

// function reads a function definition (reference, 8.7).
func (r *Reader) function(n, i, to int) {
	name := r.Bytes(i + 1)
	m := fact.Member{Name: r.b.Text(name), Kind: fact.MethodMember, Flags: visibility(name), At: r.Where(i + 1)}
	if string(name) == "__init__" {
		m.Kind = fact.Constructor
	}
	for _, u := range r.marks {
		if use, _ := r.b.UseAt(u); use.Name == "abstractmethod" || use.Name == "abc.abstractmethod" {
			m.Flags |= fact.Abstract
		}
	}
	marks := append([]int32(nil), r.marks...)
	r.marks = r.marks[:0]
	k := i + 2
	if r.At(k) == '[' {
		r.expression(k, r.Pair(k), fact.HowType)
		k = r.Pair(k) + 1
	}
	mark := r.locals.Mark()
	var params []string
	r.sig = r.sig[:0]
	if r.At(k) == '(' {
		end := r.Pair(k)
		for p := k + 1; p < end; {
			for r.At(p) == '*' || r.At(p) == '/' {
				p++
			}
			if r.At(p) == lexis.Name {
				params = append(params, r.b.Intern(r.Bytes(p)))
				p++
			} else if r.At(p) == '(' { // Python 2: a tuple
				for q := p; q < r.Pair(p); q++ {
					if r.At(q) == lexis.Name {
						params = append(params, r.b.Intern(r.Bytes(q)))
					}
				}
				p = r.Pair(p) + 1
			}
			stop := p
			for stop < end && r.At(stop) != ',' && r.At(stop) != '=' {
				stop = max(stop, r.Pair(stop)) + 1
			}
			if r.At(p) == ':' {
				r.expression(p+1, min(stop, end), fact.HowType)
			}
			p = stop
			for stop < end && r.At(stop) != ',' {
				if r.Is(stop, "lambda") {
					for stop < end && r.At(stop) != ':' {
						stop++
					}
				}
				stop = max(stop, r.Pair(stop)) + 1
			}
			r.expression(p, min(stop, end), fact.HowCall)
			p = stop + 1
		}
		k = end + 1
	}
	if r.At(k) == tArrow {
		stop := k
		for stop < to && r.At(stop) != ':' {
			stop = max(stop, r.Pair(stop)) + 1
		}
		r.expression(k+1, min(stop, to), fact.HowType)
		k = stop
	}
	switch fn := len(r.frames); {
	case fn > 0 && r.frames[fn-1].class:
		r.marks = append(r.marks[:0], marks...)
		r.member(m, r.sig)
	case fn == 0:
		r.declared[m.Name] = true
		r.b.Declare(fact.Decl{Name: m.Name, Kind: fact.Func, Flags: m.Flags, Outer: -1, At: m.At, Markers: r.b.Ints(marks)})
	}
	r.frames = append(r.frames, frame{indent: r.lines[n].indent, scope: r.scope, locals: mark})
	for _, p := range params {
		r.locals.Declare(p)
	}
	r.bind(n, k, to)
	if r.At(k) == ':' {
		r.statement(n, k+1, to)
	}
}

// bind brings the names into scope that the body of the function on line n
// binds (reference, 4.2.1), but those that it imports.
func (r *Reader) bind(n, i, to int) {
	l := r.lines[n]
	var global map[string]bool
	var names []string
	add := func(t int) {
		if r.At(t) == lexis.Name && r.At(t-1) != '.' && r.At(t+1) != '.' && r.At(t+1) != '(' && r.At(t+1) != '[' && !r.keyword(t) {
			names = append(names, r.b.Intern(r.Bytes(t)))
		}
	}
	scan := func(i, to int) {
		start := i
		for k := i; k < to; k++ {
			switch r.At(k) {
			case ';':
				start = k + 1
			case '=':
				if r.inLambda(start, k) {
					continue // the default of a parameter
				}
				for t := start; t < k; t++ {
					if t > start && r.Pair(t) > t && r.At(t-1) != ',' && r.At(t-1) != '*' {
						t = r.Pair(t) // an index or arguments
					} else {
						add(t)
					}
				}
				start = k + 1
			case tWalrus, tAugment:
				add(k - 1)
			case '(', '[', '{':
				// Only walruses and comprehensions bind inside brackets.
				end := r.Pair(k)
				eq := k
				for eq < end && r.At(eq) != '=' {
					eq++
				}
				assigned := end+1 <= to && (r.At(end+1) == '=' || r.At(end+1) == ',') && k == start
				for t := k; t < end; t++ {
					if r.At(t) == tWalrus {
						add(t - 1)
					} else if r.Is(t, "for") {
						for t++; t < end && !r.Is(t, "in"); t++ {
							add(t)
						}
					} else if assigned && eq == end {
						add(t)
					}
				}
				k = max(end, k)
			case lexis.Name:
				switch string(r.Bytes(k)) {
				case "for":
					for k++; k < to && !r.Is(k, "in"); k++ {
						add(k)
					}
				case "as":
					if !r.importing(start) {
						add(k + 1)
						if r.At(k+1) == '(' {
							for t := k + 2; t < r.Pair(k+1); t++ {
								add(t)
							}
						}
					}
				case "def", "class":
					if k == start || r.Is(k-1, "async") {
						names = append(names, r.b.Intern(r.Bytes(k+1)))
						return
					}
				case "global", "nonlocal":
					if k == start {
						if global == nil {
							global = make(map[string]bool)
						}
						for k++; k < to && r.At(k) != ';'; k++ {
							global[string(r.Bytes(k))] = true
						}
					}
				}
			case ':':
				if k == start+1 && r.At(start) == lexis.Name {
					add(start)
				}
				if compoundWord(r.Bytes(start)) {
					start = k + 1
				}
			}
		}
	}
	scan(i+1, to)
	skip := int32(-1)
	for m := n + 1; m < len(r.lines) && r.lines[m].indent > l.indent; m++ {
		b := r.lines[m]
		if skip >= 0 && b.indent > skip {
			continue
		}
		skip = -1
		scan(int(b.from), int(b.to))
		if r.Is(int(b.from), "def") || r.Is(int(b.from), "class") || r.Is(int(b.from), "async") && r.Is(int(b.from)+1, "def") {
			skip = b.indent
		}
	}
	for _, name := range names {
		if !global[name] {
			r.locals.Declare(name)
		}
	}
}

// inLambda reports whether a lambda's parameters are open at token k.
func (r *Reader) inLambda(start, k int) bool {
	for k--; k >= start && r.At(k) != ':'; k-- {
		if r.Is(k, "lambda") {
			return true
		}
	}
	return false
}

// importing reports whether an import statement begins at token i.
func (r *Reader) importing(i int) bool { return r.Is(i, "import") || r.Is(i, "from") }

func compoundWord(b []byte) bool {
	switch string(b) {
	case "if", "elif", "else", "for", "while", "try", "except", "finally", "with":
		return true
	}
	return false
}

func (r *Reader) keyword(i int) bool { return keywords[string(r.Bytes(i))] }

// chain returns the index behind the dotted name at token i.
func (r *Reader) chain(i, to int) int {
	if r.At(i) != lexis.Name || i >= to {
		return i
	}
	for i++; i+1 < to && r.At(i) == '.' && r.At(i+1) == lexis.Name; {
		i += 2
	}
	return i
}

// expression records the names between two tokens.
func (r *Reader) expression(from, to int, how fact.How) {
	mark := r.locals.Mark()
	r.repeated = r.repeated[:0]
	// Parameters of lambdas and targets of comprehensions.
	for i := from; i < to; i++ {
		if r.At(i) != lexis.Name {
			continue
		}
		switch string(r.Bytes(i)) {
		case "lambda":
			for k := i + 1; k < to && r.At(k) != ':'; k++ {
				if r.At(k) == lexis.Name && (r.At(k-1) == ',' || r.At(k-1) == '*' || k == i+1) {
					r.locals.Declare(r.b.Intern(r.Bytes(k)))
				}
			}
		case "for":
			for k := i + 1; k < to && !r.Is(k, "in"); k++ {
				if r.At(k) == lexis.Name && r.At(k-1) != '.' && r.At(k+1) != '.' && r.At(k+1) != '[' {
					r.locals.Declare(r.b.Intern(r.Bytes(k)))
				}
			}
		}
	}
	depth := 0
	for i := from; i < to; i++ {
		switch r.At(i) {
		case '(', '[', '{':
			depth++
		case ')', ']', '}':
			depth--
		case lexis.String:
			r.literal(i, how)
		case lexis.Name:
			k := r.chain(i, to)
			w := how
			switch {
			case r.At(i-1) == '.':
			case r.At(k) == '=' && k == i+1 && k < to: // the name of an argument, the target of an assignment
				if how == fact.HowInherit { // metaclass=…
					how = fact.HowType
				}
			case k == i+1 && r.keyword(i):
			default:
				flags := fact.UseFlags(0)
				if r.At(k) == '(' && k < to {
					flags = fact.Call
					r.onDemand(i, k)
				}
				if w == fact.HowInherit && (depth > 0 || flags != 0) {
					w = fact.HowType
					if flags != 0 {
						w = fact.HowCall
					}
				}
				if u := r.emit(i, k, w, flags); u >= 0 {
					if how == fact.HowType {
						r.sig = append(r.sig, u)
					}
					if w == fact.HowInherit {
						r.repeated = append(r.repeated, u)
					}
				}
			}
			i = k - 1
		}
	}
	r.locals.Leave(mark)
}

// emit records the dotted name between two tokens where an import may have
// brought it in, and returns its use, or -1.
func (r *Reader) emit(i, k int, how fact.How, flags fact.UseFlags) int32 {
	head := r.Bytes(i)
	if r.locals.Has(head) {
		return -1
	}
	if !r.used(head) {
		if !r.star || r.declared[string(head)] || builtins[string(head)] {
			return -1
		}
		flags |= fact.Ambiguous
	}
	r.name = r.name[:0]
	for t := i; t < k; t += 2 {
		if t > i {
			r.name = append(r.name, '.')
		}
		r.name = append(r.name, r.Bytes(t)...)
	}
	return r.b.Use(r.name, fact.Use{Scope: r.scope, Local: -1, How: how, Flags: flags}, r.Where(i))
}

// literal reads a string: in an annotation the types that it names, elsewhere
// perhaps the full name of something.
func (r *Reader) literal(i int, how fact.How) {
	b := r.Bytes(i)
	at := int(r.Tokens[i].Start)
	for len(b) > 0 && b[0] != '"' && b[0] != '\'' {
		b = b[1:]
		at++
	}
	if len(b) < 3 {
		return
	}
	if how == fact.HowType {
		for k := 0; k < len(b); k++ {
			if !lexis.NameChar[b[k]] || lexis.Digit(b[k]) {
				continue
			}
			j := k
			for j < len(b) && (lexis.NameChar[b[j]] || b[j] == '.') {
				j++
			}
			head, _, _ := strings.Cut(string(b[k:j]), ".")
			if r.used([]byte(head)) && !r.locals.Has([]byte(head)) {
				u := r.b.Use(b[k:j], fact.Use{Scope: r.scope, Local: -1, How: fact.HowType}, r.Place(at+k))
				r.sig = append(r.sig, u)
			}
			k = j
		}
		return
	}
	if b[len(b)-1] == b[0] && lexis.FullName(b[1:len(b)-1]) {
		r.b.Use(b[1:len(b)-1], fact.Use{Scope: -1, Local: -1, How: fact.HowDynamic}, r.Where(i))
	}
}

// onDemand reads importlib.import_module("x") and __import__("x").
func (r *Reader) onDemand(i, k int) {
	last := r.Bytes(k - 1)
	if string(last) != "import_module" && string(last) != "__import__" || r.At(k+1) != lexis.String || r.Pair(k) <= k+1 {
		return
	}
	if n := r.At(k + 2); n != ')' && n != ',' {
		return
	}
	b := r.Bytes(k + 1)
	if len(b) < 3 || b[0] != '"' && b[0] != '\'' {
		return
	}
	r.b.Import(fact.Import{Name: r.b.Intern(b[1 : len(b)-1]), Kind: fact.ImportPackage, Flags: fact.OnDemand, Used: true, At: r.Where(k + 1)})
}

// builtins are the names that need no import (The Python Standard Library,
// "Built-in Functions" and "Built-in Exceptions"), as far as they are met
// often.
var builtins = map[string]bool{}

func init() {
	for _, w := range strings.Fields(`abs all any bool bytes callable chr classmethod dict dir divmod enumerate eval exec filter
		float format frozenset getattr globals hasattr hash hex id input int isinstance issubclass iter len list locals map max
		memoryview min next object oct open ord pow print property range repr reversed round set setattr slice sorted
		staticmethod str sum super tuple type vars zip __name__ __file__ __doc__ Exception ValueError TypeError KeyError
		IndexError AttributeError NotImplementedError NotImplemented RuntimeError StopIteration OSError IOError ImportError
		AssertionError unicode basestring xrange long unichr raw_input reduce`) {
		builtins[w] = true
	}
}
