// Package golang reads and resolves Go source.
//
// [Read] parses with the standard library's go/parser and follows the scope
// rules of The Go Programming Language Specification, "Declarations and
// scope", as far as one file can: what remains are the identifiers that other
// files of the package, dot imports or the universe declare, and the members
// of imported packages. [Resolver] finds the packages by the modules of the
// tree (The Go Modules Reference) and, in them, the file that declares each
// name.
package golang

import (
	"bytes"
	"go/ast"
	"go/build/constraint"
	"go/parser"
	"go/scanner"
	"go/token"
	"strconv"
	"strings"
	"unicode/utf8"

	"moatline/internal/core/fact"
)

// Reader reads one Go file after another.
type Reader struct {
	b *fact.Builder
	reading
}

// reading is what belongs to the file at hand.
type reading struct {
	src     []byte
	file    *token.File
	base    int
	imports map[string]int32 // imports by the name that qualifies
	decl    int32            // enclosing top-level declaration, or -1
	local   map[string]bool
	sig     *[]int32
}

// NewReader returns a reader that adds to b.
func NewReader(b *fact.Builder) *Reader { return &Reader{b: b} }

// Read returns the facts of one Go file. It never fails: where the parser
// gives up, the facts of what it understood are there, with a note.
func (r *Reader) Read(path string, text []byte) *fact.File {
	r.b.Reset()
	f := &fact.File{Path: path, Language: "go", Test: strings.HasSuffix(path, "_test.go") || strings.Contains("/"+path, "/testdata/")}
	fset := token.NewFileSet()
	tree, err := parser.ParseFile(fset, path, text, parser.SkipObjectResolution|parser.AllErrors)
	r.reading = reading{src: text, imports: make(map[string]int32), decl: -1}
	if list, ok := err.(scanner.ErrorList); ok {
		for _, e := range list {
			off := max(0, min(e.Pos.Offset, len(text)))
			r.b.Note(r.placeAt(off, 1+bytes.Count(text[:off], []byte{10})), e.Msg)
		}
	}
	if tree != nil && tree.FileStart.IsValid() {
		r.file = fset.File(tree.FileStart)
		r.base = r.file.Base()
		f.Lines = bytes.Count(text, []byte{10})
		if n := len(text); n > 0 && text[n-1] != 10 {
			f.Lines++
		}
		if tree.Name != nil && tree.Name.Name != "_" && tree.Name.Name != "" {
			f.Package = r.b.Intern([]byte(tree.Name.Name))
			f.PackageAt = r.place(tree.Name.Pos())
			f.Constraint = buildConstraint(path, text, r.offset(tree.Package))
		}
		r.unit(tree)
		f.Code = codeLines(text)
	}
	r.b.Finish(f)
	return f
}

func (r *Reader) offset(p token.Pos) int { return int(p) - r.base }

func (r *Reader) place(p token.Pos) fact.Place {
	off := r.offset(p)
	return r.placeAt(off, r.file.Line(p))
}

// placeAt converts the parser's byte columns to characters.
func (r *Reader) placeAt(off, line int) fact.Place {
	off = max(0, min(off, len(r.src)))
	begin := off
	for begin > 0 && r.src[begin-1] != '\n' {
		begin--
	}
	return fact.Place{Line: uint32(line), Column: uint32(utf8.RuneCount(r.src[begin:off]) + 1)}
}

// buildConstraint returns the condition under which the file is built: its
// //go:build line and what its name says (go/build, "Build Constraints").
func buildConstraint(path string, text []byte, end int) string {
	line := ""
	head := string(text[:max(0, min(end, len(text)))])
	for rest := head; rest != ""; {
		var l string
		l, rest, _ = strings.Cut(rest, "\n")
		l = strings.TrimSpace(l)
		if constraint.IsGoBuild(l) {
			line = strings.TrimSpace(strings.TrimPrefix(l, "//go:build"))
		}
	}
	name := path[strings.LastIndexByte(path, '/')+1:]
	name = strings.TrimSuffix(strings.TrimSuffix(name, ".go"), "_test")
	parts := strings.Split(name, "_")
	var implied []string
	if n := len(parts); n > 1 {
		last := parts[n-1]
		switch {
		case knownArch[last]:
			implied = append(implied, last)
			if n > 2 && knownOS[parts[n-2]] {
				implied = append(implied, parts[n-2])
			}
		case knownOS[last]:
			implied = append(implied, last)
		}
	}
	if len(implied) > 0 {
		if line != "" {
			line = "(" + line + ") && "
		}
		line += strings.Join(implied, " && ")
	}
	return line
}

// codeLines counts the lines that hold more than white space and comments.
func codeLines(text []byte) int {
	n := 0
	inBlock, inRaw := false, false
	code := false
	for i := 0; i < len(text); i++ {
		c := text[i]
		switch {
		case c == '\n':
			if code || inRaw {
				n++
			}
			code = false
		case inBlock:
			if c == '*' && i+1 < len(text) && text[i+1] == '/' {
				inBlock = false
				i++
			}
		case inRaw:
			if c == '`' {
				inRaw = false
			}
			code = true
		case c == '/' && i+1 < len(text) && text[i+1] == '/':
			for i+1 < len(text) && text[i+1] != '\n' {
				i++
			}
		case c == '/' && i+1 < len(text) && text[i+1] == '*':
			inBlock = true
			i++
		case c == '`':
			inRaw = true
			code = true
		case c == '"' || c == '\'':
			code = true
			for i+1 < len(text) && text[i+1] != c && text[i+1] != '\n' {
				i++
				if text[i] == '\\' && i+1 < len(text) && text[i+1] != '\n' {
					i++
				}
			}
			if i+1 < len(text) && text[i+1] == c {
				i++
			}
		case c > ' ':
			code = true
		}
	}
	if code {
		n++
	}
	return n
}

// unit reads the whole file.
func (r *Reader) unit(tree *ast.File) {
	for _, spec := range tree.Imports {
		p, err := strconv.Unquote(spec.Path.Value)
		p = strings.ToValidUTF8(p, "\uFFFD")
		if err != nil || p == "" {
			continue
		}
		i := fact.Import{Name: r.b.Intern([]byte(p)), Kind: fact.ImportPackage, At: r.place(spec.Path.Pos())}
		if spec.Name != nil {
			i.Alias = r.b.Intern([]byte(spec.Name.Name))
		}
		n := r.b.Import(i)
		switch i.Alias {
		case "_", ".":
			r.b.MarkUsed(n)
		case "":
			// The package's name may differ from the path's last element;
			// linking knows. Here every qualifier is kept that may be one.
			r.imports[guessName(p)] = n
		default:
			r.imports[i.Alias] = n
		}
	}
	// The file's own package-level names hide nothing but are no dependency.
	own := make(map[string]bool)
	for _, d := range tree.Decls {
		switch d := d.(type) {
		case *ast.FuncDecl:
			if d.Recv == nil {
				own[d.Name.Name] = true
			}
		case *ast.GenDecl:
			for _, s := range d.Specs {
				switch s := s.(type) {
				case *ast.TypeSpec:
					own[s.Name.Name] = true
				case *ast.ValueSpec:
					for _, n := range s.Names {
						own[n.Name] = true
					}
				}
			}
		}
	}
	delete(own, "_")
	delete(own, "init")
	r.local = own
	for _, d := range tree.Decls {
		r.topLevel(d)
	}
}

// guessName returns the name by which a package is most likely known when its
// import gives none: the path's last element without a version.
func guessName(p string) string {
	elem := p[strings.LastIndexByte(p, '/')+1:]
	if len(elem) > 1 && elem[0] == 'v' && strings.Trim(elem[1:], "0123456789") == "" {
		if rest := strings.TrimSuffix(p, "/"+elem); rest != p {
			elem = rest[strings.LastIndexByte(rest, '/')+1:]
		}
	}
	if i := strings.LastIndex(elem, ".v"); i > 0 && strings.Trim(elem[i+2:], "0123456789") == "" {
		elem = elem[:i]
	}
	elem = strings.TrimPrefix(elem, "go-")
	elem = strings.TrimSuffix(elem, "-go")
	if i := strings.LastIndexByte(elem, '-'); i >= 0 {
		elem = elem[i+1:]
	}
	return strings.TrimSuffix(elem, ".go")
}

func declFlags(name string) fact.Flags {
	if ast.IsExported(name) {
		return fact.Public
	}
	return 0
}

// topLevel reads one top-level declaration.
func (r *Reader) topLevel(d ast.Decl) {
	switch d := d.(type) {
	case *ast.FuncDecl:
		r.function(d)
	case *ast.GenDecl:
		for _, s := range d.Specs {
			switch s := s.(type) {
			case *ast.TypeSpec:
				r.typeSpec(s)
			case *ast.ValueSpec:
				kind := fact.Var
				if d.Tok == token.CONST {
					kind = fact.Const
				}
				first := int32(-1)
				for _, n := range s.Names {
					k := r.b.Declare(fact.Decl{Name: r.b.Intern([]byte(n.Name)), Kind: kind, Flags: declFlags(n.Name), Outer: -1, At: r.place(n.Pos())})
					if first < 0 {
						first = k
					}
				}
				r.decl = first
				w := walker{r: r}
				w.push()
				sig := []int32{}
				r.sig = &sig
				w.expr(s.Type, fact.HowType)
				r.sig = nil
				if first >= 0 && len(sig) > 0 {
					m := fact.Member{Name: r.b.Decl(first).Name, Kind: fact.Field, Flags: r.b.Decl(first).Flags, At: r.b.Decl(first).At, Uses: r.b.Ints(sig)}
					r.b.Decl(first).Members = r.b.Members([]fact.Member{m})
				}
				for _, v := range s.Values {
					w.exprIn(v, fact.HowCall, s.Type)
				}
			}
		}
	}
	r.decl = -1
}

func (r *Reader) function(d *ast.FuncDecl) {
	k := fact.Decl{Name: r.b.Intern([]byte(d.Name.Name)), Kind: fact.Func, Flags: declFlags(d.Name.Name), Outer: -1, At: r.place(d.Name.Pos())}
	w := walker{r: r}
	w.push()
	if d.Recv != nil {
		k.Kind = fact.Method
		if len(d.Recv.List) > 0 {
			k.Receiver = r.b.Intern([]byte(receiverName(d.Recv.List[0].Type)))
		}
	}
	self := r.b.Declare(k)
	r.decl = self
	if d.Recv != nil {
		for _, f := range d.Recv.List {
			w.receiver(f.Type)
			for _, n := range f.Names {
				w.declare(n.Name)
			}
		}
	}
	sig := []int32{}
	r.sig = &sig
	w.funcType(d.Type)
	r.sig = nil
	r.b.Decl(self).Members = r.b.Members([]fact.Member{{Name: k.Name, Kind: fact.MethodMember, Flags: k.Flags, At: k.At, Uses: r.b.Ints(sig)}})
	if d.Body != nil {
		w.block(d.Body)
	}
}

// receiverName returns the name of a method receiver's base type.
func receiverName(t ast.Expr) string {
	for {
		switch x := t.(type) {
		case *ast.StarExpr:
			t = x.X
		case *ast.ParenExpr:
			t = x.X
		case *ast.IndexExpr:
			t = x.X
		case *ast.IndexListExpr:
			t = x.X
		case *ast.Ident:
			return x.Name
		default:
			return ""
		}
	}
}

func (r *Reader) typeSpec(s *ast.TypeSpec) {
	d := fact.Decl{Name: r.b.Intern([]byte(s.Name.Name)), Kind: fact.NamedType, Flags: declFlags(s.Name.Name), Outer: -1, At: r.place(s.Name.Pos())}
	switch s.Type.(type) {
	case *ast.StructType:
		d.Kind = fact.Struct
	case *ast.InterfaceType:
		d.Kind = fact.Interface
		d.Flags |= fact.Abstract
	}
	if s.Assign.IsValid() {
		d.Kind = fact.Alias
	}
	self := r.b.Declare(d)
	r.decl = self
	w := walker{r: r}
	w.push()
	w.typeParams(s.TypeParams)
	var members []fact.Member
	var supers []int32
	switch t := s.Type.(type) {
	case *ast.StructType:
		for _, f := range t.Fields.List {
			members, supers = r.structField(&w, f, members, supers)
		}
	case *ast.InterfaceType:
		for _, f := range t.Methods.List {
			sig := []int32{}
			r.sig = &sig
			if len(f.Names) == 0 {
				w.expr(f.Type, fact.HowInherit)
				supers = append(supers, sig...)
			} else {
				w.expr(f.Type, fact.HowType)
			}
			r.sig = nil
			for _, n := range f.Names {
				members = append(members, fact.Member{Name: r.b.Intern([]byte(n.Name)), Kind: fact.MethodMember, Flags: declFlags(n.Name) | fact.Abstract, At: r.place(n.Pos()), Uses: r.b.Ints(sig)})
			}
		}
	default:
		sig := []int32{}
		r.sig = &sig
		w.expr(s.Type, fact.HowType)
		r.sig = nil
		supers = sig
	}
	r.b.Decl(self).Members = r.b.Members(members)
	r.b.Decl(self).Supers = r.b.Ints(supers)
}

func (r *Reader) structField(w *walker, f *ast.Field, members []fact.Member, supers []int32) ([]fact.Member, []int32) {
	sig := []int32{}
	r.sig = &sig
	how := fact.HowType
	if len(f.Names) == 0 {
		how = fact.HowInherit
	}
	w.expr(f.Type, how)
	r.sig = nil
	tags := r.b.Ints(r.tagKeys(w, f.Tag))
	for _, n := range f.Names {
		members = append(members, fact.Member{Name: r.b.Intern([]byte(n.Name)), Kind: fact.Field, Flags: declFlags(n.Name), At: r.place(n.Pos()), Uses: r.b.Ints(sig), Markers: tags})
	}
	if len(f.Names) == 0 {
		name := receiverName(f.Type)
		if sel, ok := baseSelector(f.Type); ok {
			name = sel
		}
		members = append(members, fact.Member{Name: r.b.Intern([]byte(name)), Kind: fact.Field, Flags: declFlags(name), At: r.place(f.Type.Pos()), Uses: r.b.Ints(sig), Markers: tags})
		supers = append(supers, sig...)
	}
	return members, supers
}

// tagKeys records the keys of a struct tag, which tie the field to whatever
// reads them (the format that reflect.StructTag documents).
func (r *Reader) tagKeys(w *walker, tag *ast.BasicLit) []int32 {
	if tag == nil {
		return nil
	}
	text, err := strconv.Unquote(tag.Value)
	if err != nil {
		return nil
	}
	var uses []int32
	r.sig = &uses
	defer func() { r.sig = nil }()
	for text != "" {
		text = strings.TrimLeft(text, " ")
		key, rest, ok := strings.Cut(text, ":\"")
		if !ok || key == "" || strings.ContainsAny(key, " \t\"`") {
			break
		}
		w.emit([]byte(strings.ToValidUTF8(key, "?")), fact.Use{How: fact.HowMarker, Flags: fact.Tag}, tag.Pos())
		end := 0
		for end < len(rest) && rest[end] != '"' {
			if rest[end] == '\\' {
				end++
			}
			end++
		}
		text = rest[min(end+1, len(rest)):]
	}
	return uses
}

func baseSelector(t ast.Expr) (string, bool) {
	if s, ok := t.(*ast.StarExpr); ok {
		t = s.X
	}
	if s, ok := t.(*ast.SelectorExpr); ok {
		return s.Sel.Name, true
	}
	return "", false
}
