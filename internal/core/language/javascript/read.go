// Package javascript reads and resolves JavaScript and TypeScript source, and
// the scripts of Vue and Svelte components.
//
// [Reader] knows the lexical structure of ECMAScript 2025 (clause 12) with JSX
// and TypeScript's additions. It reads every form of import and export (clause
// 16.2; TypeScript handbook, "Modules"), what the module declares, and where
// the names that came in are used.
//
// [Resolver] finds modules as TypeScript's "bundler" resolution does: relative
// files with and without their extension, tsconfig paths, package.json exports
// and imports, workspaces.
package javascript

import (
	"bytes"
	"path"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

type reference struct {
	name  string
	types bool
	at    int
}

// Reader reads one file after another, keeping its scratch space.
type Reader struct {
	lexis.Stream
	b          *fact.Builder
	jsx        bool
	typed      bool   // TypeScript
	object     bool   // the last "}" closed an object
	objects    []bool // for each open "{", whether it is an object
	references []reference
	exports    []fact.Export
	imported   map[string]int32 // local names that imports bring in
	declared   map[string]bool
	members    []fact.Member
	marks      []int32
	scope      int32
	body       int   // the end of the outermost body that is open, as a token
	space      int   // the "{" of the namespace that opened last
	ends       []end // of open types and namespaces
	joined     []byte
}

// end is where the body of a declaration ends.
type end struct {
	at    int
	scope int32
}

// NewReader returns a reader that adds to b.
func NewReader(b *fact.Builder) *Reader {
	return &Reader{b: b, imported: make(map[string]int32), declared: make(map[string]bool)}
}

// Read returns the facts of one file. The text is UTF-8. Read never fails:
// damage is told in the notes, and the facts of the intact part are there.
func (r *Reader) Read(p string, text []byte) *fact.File {
	r.b.Reset()
	r.references, r.members, r.marks, r.ends = r.references[:0], r.members[:0], r.marks[:0], r.ends[:0]
	r.exports = nil
	r.scope, r.body, r.space = -1, 0, -1
	clear(r.imported)
	clear(r.declared)
	r.Begin(text, r.b.Note)
	f := &fact.File{Path: p, Language: "javascript", Test: testPath(p)}
	switch ext := path.Ext(p); ext {
	case ".ts", ".mts", ".cts", ".tsx":
		f.Language = "typescript"
		r.typed, r.jsx = true, ext == ".tsx"
		r.scan(0, r.End)
	case ".vue", ".svelte":
		f.Language = ext[1:]
		r.scripts()
	default:
		r.typed, r.jsx = false, true
		i := 0
		if bytes.HasPrefix(text, []byte("#!")) {
			i = r.LineEnd(0)
		}
		r.scan(i, r.End)
	}
	r.Close()
	f.Lines, f.Code = r.Lines(), r.CodeLines()
	r.modules()
	r.walk()
	for _, ref := range r.references {
		imp := fact.Import{Name: ref.name, Kind: fact.ImportInclude, Used: true, At: r.Place(ref.at)}
		if ref.types {
			imp.Kind, imp.Flags = fact.ImportPackage, fact.TypeOnly
		}
		r.b.Import(imp)
	}
	if f.Language == "vue" || f.Language == "svelte" {
		r.templates(text)
	}
	for _, e := range r.exports {
		if n, ok := r.imported[e.Local]; ok {
			r.b.MarkUsed(n)
		}
	}
	r.b.Finish(f)
	f.Exports = r.exports
	return f
}

// scripts scans the script blocks of a component.
func (r *Reader) scripts() {
	r.typed, r.jsx = false, false
	for at := 0; ; {
		i := r.Find(at, "<script")
		if i < 0 {
			return
		}
		tag := bytes.IndexByte(r.Src[i:r.End], '>')
		if tag < 0 {
			return
		}
		head := r.Src[i : i+tag]
		for _, lang := range []string{`"ts"`, `'ts'`, `"tsx"`, `"typescript"`} {
			r.typed = r.typed || bytes.Contains(head, []byte("lang="+lang))
		}
		r.jsx = bytes.Contains(head, []byte(`sx"`))
		stop := r.Find(i+tag, "</script")
		if stop < 0 {
			r.Note(i, "script without its end")
			stop = r.End
		}
		r.scan(i+tag+1, stop)
		at = stop + 1
	}
}

// templates marks the imports whose names the markup of a component uses, as
// they are or with hyphens.
func (r *Reader) templates(text []byte) {
	words := make(map[string]bool)
	for i := 0; i < len(text); {
		if !nameStart(text[i]) {
			i++
			continue
		}
		j := i
		for j < len(text) && (nameChar[text[j]] || text[j] == '-') {
			j++
		}
		word := text[i:j]
		prev := byte(0)
		if i > 0 {
			prev = text[i-1]
		}
		if prev == '<' || prev == '{' || prev == ' ' || prev == '(' || prev == '"' || prev == '!' || prev == ':' || prev == '$' {
			words[strings.ToLower(strings.ReplaceAll(string(word), "-", ""))] = true
		}
		i = j
	}
	for local, n := range r.imported {
		if words[strings.ToLower(local)] {
			r.b.MarkUsed(n)
		}
	}
}

// testPath tells test files by the conventions of the common runners.
func testPath(p string) bool {
	base := path.Base(p)
	base = strings.TrimSuffix(base, path.Ext(base))
	switch path.Ext(base) {
	case ".test", ".spec", ".cy", ".e2e":
		return true
	}
	for _, seg := range strings.Split(path.Dir(p), "/") {
		if seg == "__tests__" || seg == "__mocks__" {
			return true
		}
	}
	return false
}

// unquoted returns the content of the string at token i; ok is false for what
// is no constant.
func (r *Reader) unquoted(i int) (s string, ok bool) {
	if r.At(i) != lexis.String {
		return "", false
	}
	b := r.Bytes(i)
	if len(b) < 2 || b[0] != b[len(b)-1] {
		return "", false
	}
	return string(b[1 : len(b)-1]), true
}

// bring adds an import and its local name.
func (r *Reader) bring(imp fact.Import, local string) {
	n := r.b.Import(imp)
	if local != "" {
		r.imported[local] = n
	}
}

// name returns the name at token i, which stays.
func (r *Reader) name(i int) string { return r.b.Intern(r.Bytes(i)) }

// modules reads every import and export first: they hold for the whole file,
// wherever they stand.
func (r *Reader) modules() {
	for i := 0; i < len(r.Tokens); i++ {
		if r.At(i) != lexis.Name || r.At(i-1) == '.' || r.At(i-1) == tOptional {
			continue
		}
		switch string(r.Bytes(i)) {
		case "module":
			if r.typed && r.At(i+1) == lexis.String && r.At(i+2) == '{' {
				i = r.Pair(i + 2) // what an ambient module exports is not this file's
			}
		case "import":
			r.importAt(i)
		case "export":
			if k := r.At(i - 1); k == ':' || r.At(i+1) == ':' || r.At(i+1) == '(' && k != ';' {
				continue
			}
			r.exportAt(i)
		case "require":
			if spec, ok := r.unquoted(i + 2); ok && r.At(i+1) == '(' && r.At(i+3) == ')' && !r.Is(i-1, "function") {
				r.require(i, spec)
			}
		}
	}
}

// importAt reads an import at token i (clause 16.2.2; TypeScript handbook).
func (r *Reader) importAt(i int) {
	flags := fact.ImportFlags(0)
	k := i + 1
	switch r.At(k) {
	case '.': // import.meta
		return
	case '(':
		spec, ok := r.unquoted(k + 1)
		if !ok {
			return
		}
		imp := fact.Import{Name: r.b.Intern([]byte(spec)), Kind: fact.ImportPackage, Flags: fact.OnDemand, Used: true, At: r.Where(k + 1)}
		end := r.Pair(k)
		// import("x").T is a type, and so is what follows typeof; a promise
		// has no member that begins with a capital.
		switch {
		case !r.typed:
		case r.At(end+1) == '.' && r.At(end+2) == lexis.Name && (r.typePlace(i) || r.Is(i-1, "typeof") || upper(r.Bytes(end+2))):
			imp.Kind, imp.Flags, imp.Member = fact.ImportMember, fact.TypeOnly, r.name(end+2)
		case r.Is(i-1, "typeof"):
			imp.Flags = fact.TypeOnly
		}
		r.b.Import(imp)
		return
	case lexis.String:
		if spec, ok := r.unquoted(k); ok {
			r.b.Import(fact.Import{Name: r.b.Intern([]byte(spec)), Kind: fact.ImportPackage, Used: true, At: r.Where(k)})
		}
		return
	}
	if r.Is(k, "type") && (r.At(k+1) == '{' || r.At(k+1) == '*' || r.At(k+1) == lexis.Name && !(r.Is(k+1, "from") && r.At(k+2) == lexis.String)) {
		flags = fact.TypeOnly
		k++
	} else if (r.Is(k, "defer") || r.Is(k, "source")) && (r.At(k+1) == '*' || r.At(k+1) == lexis.Name && !r.Is(k+1, "from")) {
		k++
	}
	if r.At(k) == lexis.Name && r.At(k+1) == '=' {
		if r.Is(k+2, "require") && r.At(k+3) == '(' {
			if spec, ok := r.unquoted(k + 4); ok {
				r.bring(fact.Import{Name: r.b.Intern([]byte(spec)), Kind: fact.ImportPackage, Alias: r.name(k), Flags: flags, At: r.Where(k + 4)}, r.name(k))
				r.takeRequire(k + 2)
				if r.Is(i-1, "export") {
					r.exports = append(r.exports, fact.Export{Name: r.name(k), Local: r.name(k)})
				}
			}
		}
		return
	}
	r.clause(k, flags, 0)
}

func upper(b []byte) bool { return b[0] >= 'A' && b[0] <= 'Z' }

// takeRequire keeps the require at token i from being read again.
func (r *Reader) takeRequire(i int) { r.Tokens[i].Kind = tOperator }

// clause reads what stands between import or export and the module's name, at
// token k.
func (r *Reader) clause(k int, flags, also fact.ImportFlags) {
	type one struct {
		member, alias string
		at            int
		kind          fact.ImportKind
		flags         fact.ImportFlags
	}
	var list []one
	for {
		switch r.At(k) {
		case lexis.Name:
			if r.Is(k, "from") && r.At(k+1) == lexis.String {
				goto from
			}
			list = append(list, one{"default", r.name(k), k, fact.ImportMember, flags})
			k++
		case '*':
			o := one{"", "", k, fact.ImportPackage, flags}
			k++
			if r.Is(k, "as") {
				o.alias = r.name(k + 1)
				if s, ok := r.unquoted(k + 1); ok {
					o.alias = s
				}
				k += 2
			} else {
				o.kind, o.member = fact.ImportMember, "*"
			}
			list = append(list, o)
		case '{':
			end := r.Pair(k)
			for k++; k < end; k++ {
				o := one{flags: flags, kind: fact.ImportMember, at: k}
				if r.Is(k, "type") && r.At(k+1) == lexis.Name && !(r.Is(k+1, "as") && r.At(k+2) != ',' && r.At(k+2) != '}' && !r.Is(k+2, "as")) {
					o.flags |= fact.TypeOnly
					k++
				}
				if r.At(k) == ',' {
					continue
				}
				o.at = k
				o.member = r.name(k)
				if s, ok := r.unquoted(k); ok {
					o.member = s
				}
				o.alias = o.member
				if r.Is(k+1, "as") {
					o.alias = r.name(k + 2)
					if s, ok := r.unquoted(k + 2); ok {
						o.alias = s
					}
					k += 2
				}
				list = append(list, o)
			}
			k = end + 1
		case ',':
			k++
		default:
			goto from
		}
	}
from:
	spec, ok := "", false
	if r.Is(k, "from") {
		spec, ok = r.unquoted(k + 1)
	}
	if !ok {
		if also&fact.PassedOn != 0 { // export { a as b };
			for _, o := range list {
				if o.kind == fact.ImportMember && o.member != "*" {
					r.exports = append(r.exports, fact.Export{Name: o.alias, Local: o.member})
				}
			}
		}
		return
	}
	name := r.b.Intern([]byte(spec))
	if len(list) == 0 { // import {} from "x"
		r.b.Import(fact.Import{Name: name, Kind: fact.ImportPackage, Used: true, Flags: flags | also, At: r.Where(k + 1)})
	}
	for _, o := range list {
		imp := fact.Import{Name: name, Member: o.member, Alias: o.alias, Kind: o.kind, Flags: o.flags | also, At: r.Where(o.at)}
		if also&fact.PassedOn != 0 {
			imp.Used = true
			r.b.Import(imp)
			continue
		}
		r.bring(imp, o.alias)
	}
}

// exportAt reads an export at token i (clause 16.2.3; TypeScript handbook).
func (r *Reader) exportAt(i int) {
	k := i + 1
	flags := fact.ImportFlags(0)
	if r.Is(k, "type") && (r.At(k+1) == '{' || r.At(k+1) == '*') {
		flags = fact.TypeOnly
		k++
	}
	switch {
	case r.At(k) == '*' || r.At(k) == '{':
		if len(r.exports) == 0 {
			r.exports = append(r.exports, fact.Export{}) // a module, at least
		}
		r.clause(k, flags, fact.PassedOn)
	case r.Is(k, "default"):
		k++
		e := fact.Export{Name: "default"}
		for r.Is(k, "abstract") || r.Is(k, "async") {
			k++
		}
		switch {
		case (r.Is(k, "class") || r.Is(k, "function") || r.Is(k, "interface") || r.Is(k, "enum")) && r.At(k+1) != '(':
			n := k + 1
			if r.At(n) == '*' {
				n++
			}
			if r.At(n) == lexis.Name && !r.Is(n, "extends") && !r.Is(n, "implements") {
				e.Local = r.name(n)
			}
		case r.At(k) == lexis.Name && (r.At(k+1) == ';' || r.At(k+1) == lexis.EOF || r.NewLine(k+1) && r.At(k+1) != '.' && r.At(k+1) != '('):
			e.Local = r.name(k)
		}
		r.exports = append(r.exports, e)
	case r.At(k) == '=' && r.At(k+1) == lexis.Name:
		r.exports = append(r.exports, fact.Export{Name: "default", Local: r.name(k + 1)}, fact.Export{Name: "=", Local: r.name(k + 1)})
	case r.At(k) == lexis.Name:
		if len(r.exports) == 0 {
			r.exports = append(r.exports, fact.Export{})
		}
	}
}

// require reads require("spec") at token i and what it is assigned to
// (Node.js, "Modules: CommonJS modules").
func (r *Reader) require(i int, spec string) {
	imp := fact.Import{Name: r.b.Intern([]byte(spec)), Kind: fact.ImportPackage, At: r.Where(i + 2)}
	after := r.At(i + 4)
	k := i - 1
	for r.Is(k, "await") || r.At(k) == '(' && r.At(i+4) == ')' && r.Is(k-1, "__importStar") {
		k--
	}
	if r.At(k) != '=' {
		imp.Used = true
		if after == '.' && r.At(i+5) == lexis.Name {
			imp.Kind, imp.Member = fact.ImportMember, r.name(i+5)
		}
		r.b.Import(imp)
		return
	}
	k--
	switch {
	case r.At(k) == '}':
		open := r.Pair(k)
		found := false
		for n := open + 1; n < k; n++ {
			if r.At(n) != lexis.Name || r.At(n-1) != '{' && r.At(n-1) != ',' {
				continue
			}
			one := imp
			one.Kind, one.Member, one.Alias, one.At = fact.ImportMember, r.name(n), r.name(n), r.Where(n)
			if r.At(n+1) == ':' && r.At(n+2) == lexis.Name {
				one.Alias = r.name(n + 2)
			}
			r.bring(one, one.Alias)
			found = true
		}
		if !found {
			imp.Used = true
			r.b.Import(imp)
		}
	case r.At(k) == lexis.Name && r.At(k-1) != '.':
		imp.Alias = r.name(k)
		if after == '.' && r.At(i+5) == lexis.Name {
			imp.Kind, imp.Member = fact.ImportMember, r.name(i+5)
		}
		if r.Is(k-1, "const") || r.Is(k-1, "let") || r.Is(k-1, "var") || r.At(k-1) == ',' {
			r.bring(imp, imp.Alias)
			return
		}
		imp.Used = true
		r.b.Import(imp)
	default:
		imp.Used = true
		if r.Is(k, "exports") { // module.exports = require("x")
			imp.Member, imp.Kind, imp.Flags = "*", fact.ImportMember, fact.PassedOn
		}
		r.b.Import(imp)
	}
}
