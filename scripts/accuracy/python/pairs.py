"""Prints, for a tree of Python files, which file needs what another declares,
as Python's own ast and symtable modules resolve it: see ../compare.

usage: python3 pairs.py FOLDER [ROOT...] > PAIRS.tsv

A ROOT is a folder below FOLDER that module names are counted from; without
one, FOLDER itself. Attributes of imported modules are followed as far as
modules and packages go.
"""
import ast
import os
import sys
import symtable
import warnings

warnings.simplefilter("ignore")
top = sys.argv[1].rstrip("/")
roots = sys.argv[2:] or [""]
files = {}
for folder, folders, names in os.walk(top):
    folders.sort()
    for n in sorted(names):
        if n.endswith((".py", ".pyw")) and not os.path.islink(os.path.join(folder, n)):
            p = os.path.relpath(os.path.join(folder, n), top)
            files[p] = None

trees = {}
for p in files:
    try:
        with open(os.path.join(top, p), "rb") as f:
            text = f.read()
        trees[p] = ast.parse(text, p)
        files[p] = text
    except (SyntaxError, ValueError) as e:
        sys.stderr.write("%s: %s\n" % (p, e))


def module_file(path):
    """The file of the module at a path without extension, or None."""
    for c in (path + "/__init__.py", path + ".py", path + ".pyw"):
        if c.lstrip("/") in files:
            return c.lstrip("/")
    return None


def top_of(p):
    d = os.path.dirname(p)
    while d and d + "/__init__.py" in files:
        d = os.path.dirname(d)
    return d


def find(p, name, level):
    """The path of the module that file p names."""
    rel = name.replace(".", "/") if name else ""
    if level:
        d = os.path.dirname(p)
        for _ in range(level - 1):
            d = os.path.dirname(d)
        full = os.path.join(d, rel) if rel else d
        return full if module_file(full) or any(f.startswith(full + "/") for f in files) else None
    own = top_of(p)
    for r in [own] + ([] if name.split(".")[0] in sys.stdlib_module_names else [r for r in roots if r != own]):
        full = os.path.join(r, rel) if r else rel
        if module_file(full):
            return full
    return None


bound = {}    # file -> name -> ("decl",) or ("import", node, alias)
stars = {}


def bind(p):
    out, st = {}, []

    def walk(body):
        for n in body:
            if isinstance(n, (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef)):
                out[n.name] = ("decl",)
            elif isinstance(n, (ast.Assign, ast.AnnAssign, ast.AugAssign)):
                for t in n.targets if isinstance(n, ast.Assign) else [n.target]:
                    for x in ast.walk(t):
                        if isinstance(x, ast.Name) and isinstance(x.ctx, ast.Store):
                            out[x.id] = ("decl",)
            elif isinstance(n, ast.ImportFrom):
                for a in n.names:
                    if a.name == "*":
                        st.append(n)
                    else:
                        out.setdefault(a.asname or a.name, ("import", n, a))
            elif isinstance(n, ast.Import):
                for a in n.names:
                    out.setdefault(a.asname or a.name.split(".")[0], ("import", n, a))
            for field in ("body", "orelse", "finalbody", "handlers"):
                if not isinstance(n, (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef)) and getattr(n, field, None):
                    if isinstance(getattr(n, field), list):
                        walk(getattr(n, field))
    walk(trees[p].body)
    bound[p], stars[p] = out, st


for p in trees:
    bind(p)


def declared(f, name, depth=0):
    """(file, is a declaration) that a name of module file f means, or None."""
    if depth > 20 or f not in bound:
        return None
    b = bound[f].get(name)
    if b and b[0] == "decl":
        return (f, True)
    if b:
        t = brought(f, b[1], b[2], depth + 1)
        if t:
            return t
    if os.path.basename(f) == "__init__.py":
        sub = module_file(os.path.join(os.path.dirname(f), name))
        if sub:
            return (sub, False)
    for n in stars[f]:
        m = find(f, n.module, n.level)
        m = m and module_file(m)
        if m and m != f:
            t = declared(m, name, depth + 1)
            if t and t[1]:
                return t
    return None


def brought(f, node, alias, depth=0):
    """What an import statement binds a name to."""
    if isinstance(node, ast.Import):
        name = alias.name if alias.asname else alias.name.split(".")[0]
        m = find(f, name, 0)
        return (module_file(m), False) if m else None
    m = find(f, node.module, node.level)
    if m is None:
        return None
    mf = module_file(m)
    if mf and mf != f:
        return declared(mf, alias.name, depth) or (mf, False)
    sub = module_file(os.path.join(m, alias.name))
    return (sub, False) if sub else ((mf, False) if mf else None)


pairs = set()


def pair(p, t):
    if t and t != p:
        pairs.add((p, t))


class Names(ast.NodeVisitor):
    def __init__(self, p):
        self.p = p
        self.scopes = []
        self.local = []  # imports by scope

    def imported(self, name):
        """The import statements that a name comes from here, or None."""
        for imports, table in reversed(list(zip(self.local, self.scopes))):
            try:
                s = table.lookup(name)
            except KeyError:
                continue
            if table.get_type() == "class" and table is not self.scopes[-1]:
                continue
            if s.is_global() and table.get_type() != "module":
                continue
            if s.is_free():
                continue
            if s.is_local() or table.get_type() == "module":
                if name in imports:
                    return imports[name]
                if table.get_type() == "module" and name not in bound[self.p]:
                    break
                return None
        for n in stars[self.p]:
            m = find(self.p, n.module, n.level)
            m = m and module_file(m)
            if m:
                t = declared(m, name)
                if t:
                    return [("star", t)]
        return None

    def enter(self, table, node):
        imports = {}

        def gather(body):
            for n in body:
                if isinstance(n, ast.Import):
                    for a in n.names:
                        imports.setdefault(a.asname or a.name.split(".")[0], []).append((n, a))
                elif isinstance(n, ast.ImportFrom):
                    for a in n.names:
                        imports.setdefault(a.asname or a.name, []).append((n, a))
                elif isinstance(n, (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef, ast.Lambda)):
                    continue
                for f in ("body", "orelse", "finalbody", "handlers", "cases"):
                    v = getattr(n, f, None)
                    if isinstance(v, list):
                        gather(v)
        gather(node.body if isinstance(node.body, list) else [])
        self.scopes.append(table)
        self.local.append(imports)

    def leave(self):
        self.scopes.pop()
        self.local.pop()

    def chain(self, node):
        segs = []
        while isinstance(node, ast.Attribute):
            segs.append(node.attr)
            node = node.value
        if isinstance(node, ast.Name):
            return node.id, segs[::-1]
        return None, None

    def use(self, name, rest):
        for how in self.imported(name) or []:
            if how[0] == "star":
                t = how[1]
            else:
                t = brought(self.p, how[0], how[1])
            segs = list(rest)
            while t and t[0] and not t[1] and segs:
                n = declared(t[0], segs[0])
                if not n:
                    break
                t, segs = n, segs[1:]
            # A package without a file of its own names nothing by itself.
            if t and t[0] and how[0] != "star" and isinstance(how[0], ast.Import) and not how[1].asname and "." in how[1].name:
                full = ".".join([name] + list(rest))
                if full != how[1].name and not full.startswith(how[1].name + ".") and len(self.imported(name)) > 1:
                    continue
            if t:
                pair(self.p, t[0])

    def visit_Attribute(self, node):
        name, segs = self.chain(node)
        if name:
            self.use(name, segs)
        else:
            self.generic_visit(node)

    def visit_Name(self, node):
        if isinstance(node.ctx, ast.Load):
            self.use(node.id, [])

    def visit_Import(self, node):
        for a in node.names:
            m = find(self.p, a.name, 0)
            if m:
                pair(self.p, module_file(m))

    def visit_ImportFrom(self, node):
        m = find(self.p, node.module, node.level)
        if m is None:
            return
        mf = module_file(m)
        for a in node.names:
            if a.name == "*":
                pair(self.p, mf)
                continue
            sub = module_file(os.path.join(m, a.name))
            if mf is None or mf == self.p:
                pair(self.p, sub)
                continue
            t = declared(mf, a.name)
            if t and t[0] == sub and not t[1] and a.name not in bound[mf]:
                pair(self.p, sub)
            else:
                pair(self.p, mf)
                if t:
                    pair(self.p, t[0])

    def scope(self, node, name):
        for c in self.scopes[-1].get_children():
            if c.get_name() == name and c.get_lineno() == node.lineno and c.get_id() not in self.seen:
                self.seen.add(c.get_id())
                return c
        for c in self.scopes[-1].get_children():
            if c.get_name() == name and c.get_id() not in self.seen and abs(c.get_lineno() - node.lineno) < 40:
                self.seen.add(c.get_id())
                return c
        return None

    def function(self, node):
        for d in node.decorator_list:
            self.visit(d)
        a = node.args
        for x in a.posonlyargs + a.args + a.kwonlyargs + [a.vararg, a.kwarg]:
            if x is not None and x.annotation:
                self.annotation(x.annotation)
        for d in a.defaults + a.kw_defaults:
            if d is not None:
                self.visit(d)
        if node.returns:
            self.annotation(node.returns)
        t = self.scope(node, node.name)
        if t is None:
            return
        self.enter(t, node)
        for s in node.body:
            self.visit(s)
        self.leave()

    visit_FunctionDef = visit_AsyncFunctionDef = function

    def annotation(self, node):
        for n in ast.walk(node):
            if isinstance(n, ast.Constant) and isinstance(n.value, str):
                try:
                    self.visit(ast.parse(n.value, mode="eval").body)
                except SyntaxError:
                    pass
        self.visit(node)

    def visit_AnnAssign(self, node):
        self.annotation(node.annotation)
        self.visit(node.target)
        if node.value:
            self.visit(node.value)

    def visit_ClassDef(self, node):
        for d in node.decorator_list + node.bases + [k.value for k in node.keywords]:
            self.visit(d)
        t = self.scope(node, node.name)
        if t is None:
            return
        self.enter(t, node)
        for s in node.body:
            self.visit(s)
        self.leave()

    def visit_Lambda(self, node):
        for d in node.args.defaults + [d for d in node.args.kw_defaults if d]:
            self.visit(d)
        t = self.scope(node, "lambda")
        if t is None:
            return
        self.enter(t, node)
        self.visit(node.body)
        self.leave()

    def comprehension(self, node, name):
        self.visit(node.generators[0].iter)
        t = self.scope(node, name)
        if t is None:
            return
        self.scopes.append(t)
        self.local.append({})
        for n, g in enumerate(node.generators):
            if n:
                self.visit(g.iter)
            for i in g.ifs:
                self.visit(i)
        for f in ("elt", "key", "value"):
            if getattr(node, f, None) is not None:
                self.visit(getattr(node, f))
        self.leave()

    def visit_ListComp(self, node):
        self.comprehension(node, "listcomp")

    def visit_SetComp(self, node):
        self.comprehension(node, "setcomp")

    def visit_DictComp(self, node):
        self.comprehension(node, "dictcomp")

    def visit_GeneratorExp(self, node):
        self.comprehension(node, "genexpr")


for p, tree in trees.items():
    print("file\t" + p)
    v = Names(p)
    v.seen = set()
    v.enter(symtable.symtable(files[p], p, "exec"), tree)
    for s in tree.body:
        v.visit(s)
for a, b in sorted(pairs):
    print(a + "\t" + b)
