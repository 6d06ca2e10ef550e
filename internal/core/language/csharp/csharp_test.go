package csharp

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/readertest"
)

func fresh() readertest.Reader { return NewReader(fact.NewBuilder()) }

// What a piece of code names.
func TestNames(t *testing.T) {
	readertest.Cases(t, fresh(), "a.cs", [][2]string{
		{`class A { Berth b = new(tide.X, Storm.Y); (Quay, int)[] c = new (Quay, int)[2]; }`, "Berth type, tide.X call?, Storm.Y call?, Quay type x2"},
		{`class A { void m() { Berth b = new Berth(1) { X = Tide.High }; List<Berth[]> l; Berth? n = (Berth)x as Tide; } }`, "Berth type x4, Berth construct, Tide.High call?, List`1 type, Tide type"},
		{`class A { void m() { a < b; f(a < b, c > (d)); x = a * b; y = a ? b : c; Berth* p = null; a[i] = (b) - c; } }`, "b type, c type, Berth type"},
		{`class A { bool m() => o is Berth { Deep: > 3, Tide: var t } b and not Storm && o is null or (Quay or Light.Red); }`, "Berth type, Storm type?, Light.Red type?"},
		{`class A { int m() => o switch { Berth b when b.X => 1, Tide.High => 2, (Storm s, _) => 3, _ => Quay.Zero }; }`, "Berth type, Tide.High type?, Storm type, Quay.Zero call?"},
		{`class A { void m() { foreach (Berth b in Tide.All) using (Storm s = b) lock (s) b.x(); try { } catch (Quay q) when (q.x) { } goto Berth; Berth: ; } }`, "Berth type, Tide.All call?, Storm type, Berth call, Quay type"},
		{`class A { void m() { string s = $"{Berth.X:N2} {{Tide}} {(a ? "{" : Storm.Y)}" + @"Tide ""x"" " + $@"{Quay.Z}" + """Tide "x" """ + $$"""{Tide} {{Light.A}}"""; char c = '"'; } }`, "Berth.X call?, Storm.Y call?, Quay.Z call?, Light.A call?"},
		{`class A { void m() { f<Berth>(x); x.g<Tide, Storm>().h(); typeof(List<>).X; nameof(Quay.Name); default(Light); sizeof(Rope); Buoy<Anchor>.Make(); } }`, "Berth type, Tide type, Storm type, x.g call?, List`1 type, Quay.Name type?, Light type, Rope type, Buoy`1 call, Anchor type"},
		{`class A { void m() { Func<Berth, int> f = b => b.X; g((Tide t, out Storm s) => t.x(s)); h(async delegate (Quay q) { q.x(); }); var (p, r) = (1, 2); (Light l, int i) = f(x); } }`, "Func`2 type, Berth type, Tide type, Storm type, Tide call, Quay type, Quay call, Light type"},
		{`class A { object m() => from Berth b in Tide.All join s in Storm.All on b equals s into g let q = g where q.X orderby b.Y select new { b.Z, Quay.W }; }`, "Berth type, Tide.All call?, Storm.All call?, Quay.W call?"},
		{`#if X
class A : Berth {
#else
class A : Tide {
#endif
 Storm s; }`, "Berth inherit, Tide inherit, Storm type"},
		{`using static System.Math; using B = Harbour.Berth<int>; class A { int x = Max(1, B.Y) + Berth; }`, "Max call?, B.Y call?, Berth call?"},
		{`[Marked(typeof(Berth)), Other] class A<T> : Base<T, Tide>, IShown where T : Storm, new() { [Inner] T t; Quay this[Light l] => null; public static A<T> operator +(A<T> a, Rope r) => a; }`, "Marked marker, Berth type, Other marker, Base`2 inherit, Tide type, IShown inherit, Storm type, Inner marker, Quay type, Light type, A`1 type x2, Rope type"},
		{`class A(Berth berth) : Base(berth.X) { Berth Own => berth; record struct P(Tide T); delegate Storm D<in K>(K k); event Quay E; enum N : byte { X = Light.Y } }`, "Berth type x2, Base inherit, Tide type, Storm type, Quay type, Light.Y call?"},
	})
}

// What a file declares, with the members of types and what their signatures name.
func TestDeclarations(t *testing.T) {
	for _, c := range [][2]string{
		{`namespace A.B; public partial class C<T> { D d, e; protected F G { get; set; } = H; I this[J j] => k; C(L l) : base(l) { } static M N<O>(O o, P p) { class Q { } return r; } event S T2; interface U { V w(); } }`, "A.B namespace, A.B/C class .d:D .e:D .G:F .this:I:J .C:L .N:M:P .T2:S, C/U interface .w:V"},
		{`namespace A { namespace B { struct C { } enum D { E, F = 1 } delegate G H(I i); record J(K L) { M n; } } } global using X; class Y { static void Z(this W w) { } }`, "A namespace, A/A.B namespace, A.B/C struct, A.B/D enum .E .F, A.B/H named type .Invoke:G:I, A.B/J record .L:K .J:K .n:M, Y class .Z:W"},
	} {
		assert.Equal(t, c[1], readertest.Declared(fresh().Read("a.cs", []byte(c[0]))), c[0])
	}
}

func TestDamaged(t *testing.T) {
	readertest.Damaged(t, fresh(), "a.cs", `using A; namespace B { class C : D { E f(G g) { return new H(); } } }`)
}

func TestLarge(t *testing.T) { readertest.Large(t, fresh(), "a.cs", ``) }

func FuzzRead(f *testing.F) {
	readertest.Fuzz(f, fresh, "a.cs",
		`$"{a:b} {{c}} {d,e:f}"`,
		`class A { #if B
 } #else { #endif }`,
		`a < b > c; (A)b; (A)(b)`,
		`$$"""{{a}} {b}"""`,
		`x is { A: B c, D.E: [F, ..] } and not null`,
		`from a in b select c`,
		`namespace A; [B] record C<D>(E F) : G<H>;`,
	)
}
