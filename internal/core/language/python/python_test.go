package python

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/readertest"
)

func fresh() readertest.Reader { return NewReader(fact.NewBuilder()) }

// What a piece of code names.
func TestNames(t *testing.T) {
	readertest.Cases(t, fresh(), "a.py", [][2]string{
		{`import berth
berth.open()
x = berth.Side.PORT`, "berth.open call, berth.Side.PORT call"},
		{`from a import Berth, Tide as T
class B(Berth, T, k=Berth): pass`, "Berth inherit, T inherit, Berth type"},
		{`from a import Berth
@Berth.mark(Berth)
def f(x: Berth = 1, *y: "Berth | int") -> list["Berth"]: ...`, "Berth.mark marker, Berth call, Berth type x3"},
		{`from a import Berth
def f(Berth):
    Berth()
Berth()`, "Berth call"},
		{`from a import b, c
def f():
    for b in c: b()
    with c() as d: d()
    return [b for b in c]`, "c call x2, c call"},
		{`from a import b
def f():
    global b
    b = 1
    b()`, "b call, b call"},
		{`from a import b
f"{b} {{b}} {b!r:>{b}}" "b" rb"b"`, "b call x3"},
		{`from a import *
Berth()
len(Berth)
local = 1
local`, "Berth call?, Berth call?"},
		{`from a import b
x = lambda b: b
y = lambda c: b`, "b call"},
		{`import a.b.c
a.b.c.d()
a.x`, "a.b.c.d call, a.x call"},
		{`from a import E
try: pass
except (E, E.X) as e: e()`, "E type, E.X type"},
		{`from a import b
if b: b(); c = b
else: b.x
while b: break`, "b call x3, b call, b.x call"},
		{`from a import b
class C:
    b = 1
    def d(self): return b`, "b call"},
		{`if (
    True): from a import b
b[1].c(b=2, d=b)`, "b call x2"},
	})
}

// What a file declares, with the members of types and what their signatures name.
func TestDeclarations(t *testing.T) {
	for _, c := range [][2]string{
		{`X = 1
_y: int = 2
class A(B):
    c: "D" = 1
    def __init__(self): ...
    def _e(self, f: int): ...
    class G: pass
def h(): pass
async def i(): pass`, "X var, _y var, A class .c .__init__ ._e, A/G class, h func, i func"},
		{`a = b = 1
(c, d) = 2
if x:
    def e(): pass
for f in x: pass`, "a var, b var, c var, d var, e func"},
	} {
		assert.Equal(t, c[1], readertest.Declared(fresh().Read("a.py", []byte(c[0]))), c[0])
	}
}

func TestDamaged(t *testing.T) {
	readertest.Damaged(t, fresh(), "a.py", `from a import b
class C(b):
    def d(self): return b.e()
`)
}

func TestLarge(t *testing.T) { readertest.Large(t, fresh(), "a.py", ``) }

func FuzzRead(f *testing.F) {
	readertest.Fuzz(f, fresh, "a.py",
		`from . import (a,
 b as c)
`,
		`def f(a, /, *, b=lambda c: d, **e) -> "f": ...`,
		`match x:
 case A(b=1): pass`,
		`x = f"{a!r:{b}}" '''c`,
		`class A:
	def b(c):
		d = e`,
		`if a: b; c = d; import e as f`,
	)
}
