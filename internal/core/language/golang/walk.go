package golang

import (
	"go/ast"
	"go/token"

	"moatline/internal/core/fact"
)

// predeclared are the universe's types and constants. Functions like min are
// not among them: packages do declare their own.
var predeclared = map[string]bool{
	"bool": true, "byte": true, "complex64": true, "complex128": true, "error": true,
	"float32": true, "float64": true, "int": true, "int8": true, "int16": true, "int32": true,
	"int64": true, "rune": true, "string": true, "uint": true, "uint8": true, "uint16": true,
	"uint32": true, "uint64": true, "uintptr": true, "any": true, "comparable": true,
	"true": true, "false": true, "nil": true, "iota": true, "_": true,
}

// walker follows the scopes of one top-level declaration.
type walker struct {
	r      *Reader
	counts map[string]int // how many declarations of a name are in scope
	stack  []string
	marks  []int
	buf    []byte
}

func (w *walker) push() { w.marks = append(w.marks, len(w.stack)) }

func (w *walker) pop() {
	mark := w.marks[len(w.marks)-1]
	w.marks = w.marks[:len(w.marks)-1]
	for _, n := range w.stack[mark:] {
		w.counts[n]--
	}
	w.stack = w.stack[:mark]
}

func (w *walker) declare(name string) {
	if name == "_" {
		return
	}
	if w.counts == nil {
		w.counts = make(map[string]int)
	}
	w.counts[name]++
	w.stack = append(w.stack, name)
}

// known reports whether a name is declared in this file's scopes.
func (w *walker) known(name string) bool { return w.counts[name] > 0 || w.r.local[name] }

func (w *walker) emit(name []byte, u fact.Use, p token.Pos) {
	u.Scope, u.Local = -1, -1
	i := w.r.b.Use(name, u, w.r.place(p))
	if w.r.sig != nil {
		*w.r.sig = append(*w.r.sig, i)
	}
}

func (w *walker) ident(x *ast.Ident, how fact.How) {
	if predeclared[x.Name] && !w.r.local[x.Name] || w.known(x.Name) {
		return
	}
	w.emit(append(w.buf[:0], x.Name...), fact.Use{How: how}, x.Pos())
}

func (w *walker) selector(x *ast.SelectorExpr, how fact.How) {
	q, ok := x.X.(*ast.Ident)
	if !ok {
		w.expr(x.X, fact.HowCall)
		return
	}
	if w.known(q.Name) {
		return
	}
	w.buf = append(append(append(w.buf[:0], q.Name...), '.'), x.Sel.Name...)
	w.emit(w.buf, fact.Use{How: how}, q.Pos())
}

// expr reads an expression or type; how is what a name in it stands for.
func (w *walker) expr(e ast.Expr, how fact.How) { w.exprIn(e, how, nil) }

// exprIn is expr for the value of a composite literal or declaration whose
// type is known: elided types of inner literals follow from it.
func (w *walker) exprIn(e ast.Expr, how fact.How, of ast.Expr) {
	switch x := e.(type) {
	case nil:
	case *ast.Ident:
		w.ident(x, how)
	case *ast.SelectorExpr:
		w.selector(x, how)
	case *ast.BasicLit, *ast.BadExpr:
	case *ast.FuncLit:
		w.push()
		w.funcType(x.Type)
		w.block(x.Body)
		w.pop()
	case *ast.CompositeLit:
		w.composite(x, of)
	case *ast.ParenExpr:
		w.expr(x.X, how)
	case *ast.IndexExpr:
		w.expr(x.X, how)
		w.expr(x.Index, how)
	case *ast.IndexListExpr:
		w.expr(x.X, how)
		for _, i := range x.Indices {
			w.expr(i, fact.HowType)
		}
	case *ast.SliceExpr:
		w.expr(x.X, how)
		w.expr(x.Low, fact.HowCall)
		w.expr(x.High, fact.HowCall)
		w.expr(x.Max, fact.HowCall)
	case *ast.TypeAssertExpr:
		w.expr(x.X, fact.HowCall)
		w.expr(x.Type, fact.HowType)
	case *ast.CallExpr:
		w.call(x)
	case *ast.StarExpr:
		w.expr(x.X, how)
	case *ast.UnaryExpr:
		if x.Op == token.AND {
			w.exprIn(x.X, how, of)
			return
		}
		w.expr(x.X, how)
	case *ast.BinaryExpr:
		w.expr(x.X, how)
		w.expr(x.Y, how)
	case *ast.KeyValueExpr:
		w.expr(x.Key, fact.HowCall)
		w.expr(x.Value, fact.HowCall)
	case *ast.ArrayType:
		w.expr(x.Len, fact.HowCall)
		w.expr(x.Elt, fact.HowType)
	case *ast.Ellipsis:
		w.expr(x.Elt, fact.HowType)
	case *ast.StructType:
		for _, f := range x.Fields.List {
			w.expr(f.Type, fact.HowType)
		}
	case *ast.FuncType:
		w.push()
		w.typeParams(x.TypeParams)
		w.fieldTypes(x.Params)
		w.fieldTypes(x.Results)
		w.pop()
	case *ast.InterfaceType:
		for _, f := range x.Methods.List {
			w.expr(f.Type, fact.HowType)
		}
	case *ast.MapType:
		w.expr(x.Key, fact.HowType)
		w.expr(x.Value, fact.HowType)
	case *ast.ChanType:
		w.expr(x.Value, fact.HowType)
	}
}

func (w *walker) fieldTypes(l *ast.FieldList) {
	if l == nil {
		return
	}
	for _, f := range l.List {
		w.expr(f.Type, fact.HowType)
	}
}

func (w *walker) call(x *ast.CallExpr) {
	how := fact.HowCall
	switch x.Fun.(type) {
	case *ast.ArrayType, *ast.MapType, *ast.ChanType, *ast.FuncType, *ast.InterfaceType, *ast.StructType:
		how = fact.HowType
	}
	w.expr(x.Fun, how)
	args := x.Args
	if f, ok := x.Fun.(*ast.Ident); ok && len(args) > 0 && (f.Name == "new" || f.Name == "make") && !w.known(f.Name) {
		w.expr(args[0], fact.HowConstruct)
		args = args[1:]
	}
	for _, a := range args {
		w.expr(a, fact.HowCall)
	}
}

// composite reads a composite literal. Keys of struct literals are field
// names; those of maps and arrays are values. Where only the type's name is
// at hand, linking decides.
func (w *walker) composite(x *ast.CompositeLit, of ast.Expr) {
	t := x.Type
	if t != nil {
		w.expr(t, fact.HowConstruct)
	} else {
		t = of
		if s, ok := t.(*ast.StarExpr); ok {
			t = s.X // []*T{{…}}
		}
	}
	var key, elem ast.Expr
	named := ""
	values := false
	switch u := t.(type) {
	case *ast.ArrayType:
		elem, values = u.Elt, true
	case *ast.MapType:
		key, elem, values = u.Key, u.Value, true
	case *ast.Ident:
		named = u.Name
	case *ast.SelectorExpr:
		if q, ok := u.X.(*ast.Ident); ok {
			named = q.Name + "." + u.Sel.Name
		}
	}
	for _, e := range x.Elts {
		kv, ok := e.(*ast.KeyValueExpr)
		if !ok {
			w.exprIn(e, fact.HowCall, elem)
			continue
		}
		if id, ok := kv.Key.(*ast.Ident); ok && !values {
			if named != "" && !w.known(id.Name) && !predeclared[id.Name] && w.counts[named] == 0 {
				w.emit(append(w.buf[:0], id.Name...), fact.Use{How: fact.HowCall, Flags: fact.Key, Of: w.r.b.Intern([]byte(named))}, id.Pos())
			}
		} else {
			w.exprIn(kv.Key, fact.HowCall, key)
		}
		w.exprIn(kv.Value, fact.HowCall, elem)
	}
}

// typeParams declares type parameters and reads their constraints.
func (w *walker) typeParams(l *ast.FieldList) {
	if l == nil {
		return
	}
	for _, f := range l.List {
		for _, n := range f.Names {
			w.declare(n.Name)
		}
	}
	for _, f := range l.List {
		w.expr(f.Type, fact.HowType)
	}
}

// receiver reads a method's receiver type: type parameters in it are declared
// by it.
func (w *walker) receiver(t ast.Expr) {
	switch x := t.(type) {
	case *ast.StarExpr:
		w.receiver(x.X)
	case *ast.ParenExpr:
		w.receiver(x.X)
	case *ast.IndexExpr:
		if id, ok := x.Index.(*ast.Ident); ok {
			w.declare(id.Name)
		}
		w.receiver(x.X)
	case *ast.IndexListExpr:
		for _, i := range x.Indices {
			if id, ok := i.(*ast.Ident); ok {
				w.declare(id.Name)
			}
		}
		w.receiver(x.X)
	default:
		w.expr(t, fact.HowType)
	}
}

// funcType reads a signature and declares its parameters and results in the
// current scope.
func (w *walker) funcType(t *ast.FuncType) {
	w.typeParams(t.TypeParams)
	w.fieldTypes(t.Params)
	w.fieldTypes(t.Results)
	for _, l := range []*ast.FieldList{t.Params, t.Results} {
		if l == nil {
			continue
		}
		for _, f := range l.List {
			for _, n := range f.Names {
				w.declare(n.Name)
			}
		}
	}
}

func (w *walker) block(b *ast.BlockStmt) {
	if b == nil {
		return
	}
	w.push()
	w.stmts(b.List)
	w.pop()
}

func (w *walker) stmts(list []ast.Stmt) {
	for _, s := range list {
		w.stmt(s)
	}
}

func (w *walker) exprs(list []ast.Expr) {
	for _, e := range list {
		w.expr(e, fact.HowCall)
	}
}

func (w *walker) stmt(s ast.Stmt) {
	switch x := s.(type) {
	case nil:
	case *ast.ExprStmt:
		w.expr(x.X, fact.HowCall)
	case *ast.SendStmt:
		w.expr(x.Chan, fact.HowCall)
		w.expr(x.Value, fact.HowCall)
	case *ast.IncDecStmt:
		w.expr(x.X, fact.HowCall)
	case *ast.AssignStmt:
		w.exprs(x.Rhs)
		if x.Tok != token.DEFINE {
			w.exprs(x.Lhs)
			return
		}
		for _, l := range x.Lhs {
			if id, ok := l.(*ast.Ident); ok {
				w.declare(id.Name)
			}
		}
	case *ast.GoStmt:
		w.expr(x.Call, fact.HowCall)
	case *ast.DeferStmt:
		w.expr(x.Call, fact.HowCall)
	case *ast.ReturnStmt:
		w.exprs(x.Results)
	case *ast.LabeledStmt:
		w.stmt(x.Stmt)
	case *ast.BlockStmt:
		w.block(x)
	case *ast.IfStmt:
		w.push()
		w.stmt(x.Init)
		w.expr(x.Cond, fact.HowCall)
		w.block(x.Body)
		w.stmt(x.Else)
		w.pop()
	case *ast.SwitchStmt:
		w.push()
		w.stmt(x.Init)
		w.expr(x.Tag, fact.HowCall)
		w.block(x.Body)
		w.pop()
	case *ast.TypeSwitchStmt:
		w.push()
		w.stmt(x.Init)
		w.stmt(x.Assign)
		for _, c := range x.Body.List {
			if c, ok := c.(*ast.CaseClause); ok {
				w.push()
				for _, t := range c.List {
					w.expr(t, fact.HowType)
				}
				w.stmts(c.Body)
				w.pop()
			}
		}
		w.pop()
	case *ast.CaseClause:
		w.push()
		w.exprs(x.List)
		w.stmts(x.Body)
		w.pop()
	case *ast.SelectStmt:
		w.block(x.Body)
	case *ast.CommClause:
		w.push()
		w.stmt(x.Comm)
		w.stmts(x.Body)
		w.pop()
	case *ast.ForStmt:
		w.push()
		w.stmt(x.Init)
		w.expr(x.Cond, fact.HowCall)
		w.stmt(x.Post)
		w.block(x.Body)
		w.pop()
	case *ast.RangeStmt:
		w.push()
		w.expr(x.X, fact.HowCall)
		for _, e := range []ast.Expr{x.Key, x.Value} {
			if id, ok := e.(*ast.Ident); ok && x.Tok == token.DEFINE {
				w.declare(id.Name)
			} else if e != nil {
				w.expr(e, fact.HowCall)
			}
		}
		w.block(x.Body)
		w.pop()
	case *ast.DeclStmt:
		w.declStmt(x)
	}
}

// declStmt reads a declaration in a body; its names are in scope from there.
func (w *walker) declStmt(x *ast.DeclStmt) {
	g, ok := x.Decl.(*ast.GenDecl)
	if !ok {
		return
	}
	for _, s := range g.Specs {
		switch s := s.(type) {
		case *ast.ValueSpec:
			w.expr(s.Type, fact.HowType)
			for _, v := range s.Values {
				w.exprIn(v, fact.HowCall, s.Type)
			}
			for _, n := range s.Names {
				w.declare(n.Name)
			}
		case *ast.TypeSpec:
			w.declare(s.Name.Name)
			w.push()
			w.typeParams(s.TypeParams)
			w.expr(s.Type, fact.HowType)
			w.pop()
		}
	}
}
