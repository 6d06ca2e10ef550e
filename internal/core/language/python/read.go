// Package python reads and resolves Python source, 2.7 and 3.
//
// [Reader] knows the lexical structure of The Python Language Reference
// (chapter 2) and reads statements line by line: imports, classes, functions,
// and in all others the names that an import may have brought in. A name that
// a function binds is its own from the function's first line to its last
// (chapter 4.2, "Naming and binding").
//
// [Resolver] finds modules as chapter 5, "The import system", does, in the
// source roots that the tree itself shows.
package python

import (
	"path"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// frame is the open body of a class or function.
type frame struct {
	indent int32
	scope  int32 // around it
	locals int   // mark
	marks  int   // of members
	class  bool
}

// Reader reads one Python file after another, keeping its scratch space.
type Reader struct {
	lexis.Stream
	b        *fact.Builder
	lines    []line
	frames   []frame
	scope    int32
	locals   lexis.Locals
	imported map[string][]int32 // local names that imports bring in
	declared map[string]bool    // names that the module itself binds
	star     bool
	members  []fact.Member
	marks    []int32
	sig      []int32 // types that the signature at hand names
	repeated []int32 // supertypes that the expression at hand names
	name     []byte
	all      map[string]bool
}

// NewReader returns a reader that adds to b.
func NewReader(b *fact.Builder) *Reader {
	return &Reader{b: b, imported: make(map[string][]int32), declared: make(map[string]bool)}
}

// Read returns the facts of one Python file. The text is UTF-8. Read never
// fails: damage is told in the notes, and the facts of the intact part are
// there.
func (r *Reader) Read(p string, text []byte) *fact.File {
	r.b.Reset()
	r.frames, r.members, r.marks, r.sig = r.frames[:0], r.members[:0], r.marks[:0], r.sig[:0]
	r.scope, r.star = -1, false
	r.locals.Clear()
	clear(r.imported)
	clear(r.declared)
	r.all = nil
	r.Begin(text, r.b.Note)
	r.scan()
	r.Close()
	f := &fact.File{Path: p, Language: "python", Lines: r.Lines(), Code: r.codeLines(), Test: testPath(p)}
	r.findImports()
	for n := range r.lines {
		r.line(n)
	}
	for len(r.frames) > 0 {
		r.pop()
	}
	for name := range r.all {
		r.used([]byte(name))
	}
	if path.Base(p) == "__init__.py" || path.Base(p) == "__init__.pyi" {
		// What a package's own file imports, it passes on.
		for name := range r.imported {
			r.used([]byte(name))
		}
	}
	r.b.Finish(f)
	return f
}

// codeLines does not count the tokens that only end lines.
func (r *Reader) codeLines() int {
	n, last := 0, -1
	for i := range r.Tokens {
		if k := r.Tokens[i].Kind; k == tNewline || k == lexis.EOF {
			continue
		}
		if l := r.LineOf(int(r.Tokens[i].Start)); l != last {
			n++
			last = l
		}
	}
	return n
}

// testPath tells test files by the conventions of unittest and pytest.
func testPath(p string) bool {
	base := path.Base(p)
	if strings.HasPrefix(base, "test_") || strings.HasSuffix(base, "_test.py") || base == "conftest.py" || base == "tests.py" {
		return true
	}
	for _, seg := range strings.Split(path.Dir(p), "/") {
		if seg == "tests" || seg == "test" {
			return true
		}
	}
	return false
}

var keywords = map[string]bool{}

func init() {
	for _, w := range strings.Fields(`False None True and as assert async await break class continue def del elif else except
		finally for from global if import in is lambda nonlocal not or pass raise return try while with yield self cls`) {
		keywords[w] = true
	}
}

// findImports adds all imports of the file first: a function may use what is
// imported below it.
func (r *Reader) findImports() {
	type block struct {
		indent int32
		flags  fact.ImportFlags
	}
	var blocks []block
	for _, l := range r.lines {
		for len(blocks) > 0 && l.indent <= blocks[len(blocks)-1].indent {
			blocks = blocks[:len(blocks)-1]
		}
		flags := fact.ImportFlags(0)
		for _, b := range blocks {
			flags |= b.flags
		}
		from, to := int(l.from), int(l.to)
		switch {
		case r.Is(from, "if") && r.At(to-1) == ':' && r.typeChecking(from+1, to-1):
			blocks = append(blocks, block{l.indent, fact.TypeOnly})
		case r.Is(from, "try") || r.Is(from, "except"):
			blocks = append(blocks, block{l.indent, fact.Guarded})
		case r.Is(from, "def"), r.Is(from, "class"), r.Is(from, "async") && r.Is(from+1, "def"):
			blocks = append(blocks, block{l.indent, fact.Inner})
		}
		for i := from; i < to; i++ {
			if k := r.At(i - 1); i > from && k != ';' && k != ':' {
				continue
			}
			switch {
			case r.Is(i, "import"):
				r.importStatement(i+1, to, flags)
			case r.Is(i, "from") && i == from || r.Is(i, "from") && (r.At(i-1) == ';' || r.At(i-1) == ':'):
				r.fromStatement(i+1, to, flags)
			}
		}
	}
}

// typeChecking tells the condition that only type checkers find true
// (typing.TYPE_CHECKING).
func (r *Reader) typeChecking(from, to int) bool {
	return to-from == 1 && r.Is(from, "TYPE_CHECKING") || to-from == 3 && r.Is(from+2, "TYPE_CHECKING")
}

// dotted reads a dotted name at token i, leading dots included, and returns
// the index behind it.
func (r *Reader) dotted(i, to int) (string, int) {
	r.name = r.name[:0]
	for i < to && r.At(i) == '.' {
		r.name = append(r.name, '.')
		i++
	}
	for i < to && r.At(i) == lexis.Name {
		if r.Is(i, "import") && len(r.name) > 0 && r.name[len(r.name)-1] == '.' {
			break // from . import x
		}
		r.name = append(r.name, r.Bytes(i)...)
		i++
		if r.At(i) != '.' {
			break
		}
		r.name = append(r.name, '.')
		i++
	}
	return r.b.Intern(r.name), i
}

// bring notes that an import gives a local name its meaning; several may,
// where one is tried after the other.
func (r *Reader) bring(local string, n int32) { r.imported[local] = append(r.imported[local], n) }

// used marks the imports of a local name as used.
func (r *Reader) used(local []byte) bool {
	list := r.imported[string(local)]
	for _, n := range list {
		r.b.MarkUsed(n)
	}
	return list != nil
}

// importStatement reads "import a.b as c, d" behind its keyword.
func (r *Reader) importStatement(i, to int, flags fact.ImportFlags) {
	for i < to {
		at := r.Where(i)
		name, k := r.dotted(i, to)
		if name == "" {
			return
		}
		imp := fact.Import{Name: name, Kind: fact.ImportPackage, Flags: flags, At: at}
		if r.Is(k, "as") && r.At(k+1) == lexis.Name {
			imp.Alias = r.b.Intern(r.Bytes(k + 1))
			k += 2
		}
		n := r.b.Import(imp)
		local := imp.Alias
		if local == "" {
			local, _, _ = strings.Cut(name, ".")
		}
		r.bring(local, n)
		if r.At(k) != ',' {
			return
		}
		i = k + 1
	}
}

// fromStatement reads "from a.b import c as d, e" behind its first keyword.
func (r *Reader) fromStatement(i, to int, flags fact.ImportFlags) {
	name, k := r.dotted(i, to)
	if name == "" || !r.Is(k, "import") {
		return
	}
	if name == "__future__" {
		return
	}
	k++
	if r.At(k) == '(' {
		k++
	}
	for k < to {
		switch r.At(k) {
		case '*':
			r.b.Import(fact.Import{Name: name, Member: "*", Kind: fact.ImportMember, Flags: flags, Used: true, At: r.Where(k)})
			r.star = true
			return
		case lexis.Name:
		case ',':
			k++
			continue
		default:
			return
		}
		imp := fact.Import{Name: name, Member: r.b.Intern(r.Bytes(k)), Kind: fact.ImportMember, Flags: flags, At: r.Where(k)}
		local := imp.Member
		k++
		if r.Is(k, "as") && r.At(k+1) == lexis.Name {
			imp.Alias = r.b.Intern(r.Bytes(k + 1))
			local = imp.Alias
			if imp.Alias == imp.Member {
				imp.Used = true // "import x as x" passes it on (PEP 484)
			}
			k += 2
		}
		n := r.b.Import(imp)
		r.bring(local, n)
	}
}
