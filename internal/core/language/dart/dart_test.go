package dart

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/readertest"
)

func fresh() readertest.Reader { return NewReader(fact.NewBuilder()) }

// What a piece of code names.
func TestNames(t *testing.T) {
	readertest.Cases(t, fresh(), "a.dart", [][2]string{
		{`void f() { Berth b = Berth(1); var t = Tide.high; final Storm? s = b as Storm?; if (b is! Quay) {} }`, "Berth type, Berth call?, Tide.high call?, Storm type x2, Quay type"},
		{`f() => [for (final Berth b in Tide.all) if (b.x) ...b.y, <Storm>{}, const Quay(1)];`, "Berth type, Tide.all call?, Storm call?, Quay construct"},
		{`f() { 'a ${Berth.x} $tide \$Storm' r'${Storm}' '''${Quay}''' """x"""; }`, "Berth.x call?, tide call?, Quay call?"},
		{`f() { try { } on Berth catch (e, s) { e.x(s); } on Tide { } g((Storm s, [Quay? q]) => s.x(q)); a < b; c > d; x ? y : z; h<Light>(1); }`, "Berth type, Tide type, g call?, Storm type, Quay type, a call?, b call?, c call?, d call?, x call?, y call?, z call?, h call?, Light type"},
		{`@Marked(Berth) class A<T extends Tide> extends Base<T> with Storm implements Quay { final Light l; A(this.l, {required Rope r}) : super(r); factory A.x() => A(Buoy()); }`, "Marked marker, Berth call?, Tide type, Base inherit, Storm inherit, Quay inherit, Light type, Rope type, A call?, Buoy call?"},
		{`/* /* nested */ Berth */ // Tide
/// Storm
extension E on Berth { int get x => 1; } typedef F = Tide Function(Storm); typedef Quay G(Light l);`, "Berth type, int type, Tide type, Storm type, Quay type, Light type"},
		{`import "a.dart" as a; f() { a.Berth(); a.tide(); this.b; b(name: 1); label: while (true) break label; }`, "a.Berth call?, a.tide call?, b call?, label call?"},
		{`operator(x) => x; class A { bool operator ==(Object o) => o is Berth; static final Map<String, Tide> m = {}; }`, "bool type, Object type, Berth type, Map type, String type, Tide type"},
	})
}

// What a file declares, with the members of types and what their signatures name.
func TestDeclarations(t *testing.T) {
	for _, c := range [][2]string{
		{`class A<T> extends B { final C d; static E? f; A(this.d); A.g(); H get i => j; set k(L l) {} M n(O o) async { P q; } operator [](R r) => s; } mixin T2 on U {} enum V { w, x(1); final y; } extension Z on A {}`, "A class .d:C .f:E .A .A .i:H .k:L .n:M:O .operator:R, T2 class, V enum .w .x .y, Z class"},
		{`int a = 1, b; final c = () {}; D e(F g) => h; get i => 1; typedef J = K; abstract interface class L {} class M = N with O;`, "a var, b var, c var, e func, i func, J alias, L class, M class"},
	} {
		assert.Equal(t, c[1], readertest.Declared(fresh().Read("a.dart", []byte(c[0]))), c[0])
	}
}

func TestDamaged(t *testing.T) {
	readertest.Damaged(t, fresh(), "a.dart", `import "a.dart";
class B extends C { D e(F f) => G(H.i); }`)
}

func TestLarge(t *testing.T) { readertest.Large(t, fresh(), "a.dart", ``) }

func FuzzRead(f *testing.F) {
	readertest.Fuzz(f, fresh, "a.dart",
		`'${'${a}'}'`,
		`a?..b..c`,
		`f({a, required b = 1}) {}`,
		`switch (a) { case B(c: var d) when e: }`,
		`(A, {B c}) f() => (1, c: 2);`,
		`library a; part of "b"; import "c" if (d) "e" show f hide g;`,
	)
}
