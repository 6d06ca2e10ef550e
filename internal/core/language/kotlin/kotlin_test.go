package kotlin

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/readertest"
)

func fresh() readertest.Reader { return NewReader(fact.NewBuilder()) }

// What a piece of code names.
func TestNames(t *testing.T) {
	readertest.Cases(t, fresh(), "a.kt", [][2]string{
		{`class A : B by Berth { val a by tide { Storm.x } }`, "B inherit, Berth call?, tide call?, Storm.x call?, x call?"},
		{`fun f() { val b: Berth = Berth(1); b.open(); Tide.high() }`, "Berth type, Berth call?, open call?, Tide.high call?, high call?"},
		{`fun f() { val l = list<Berth>(a < b, c > d); a < b; x as Tide; y is Storm? ; z as? Quay }`, "Berth type, list call?, a call? x2, b call? x2, c call?, d call?, x call?, Tide type, y call?, Storm type, z call?, Quay type"},
		{`fun f() { "a ${Berth.X} $tide $" + """raw ${Storm} \""" + '"' }`, "Berth.X call?, X call?, tide call?, Storm call?"},
		{`fun f() { run { b: Berth, (c, d) -> b.x(c) }; for ((i, t: Tide) in x) t.y(i); when (z) { is Storm -> 1; in Quay.ALL -> 2; Light.RED -> 3 } }`, "run call?, Berth type, x call?, Tide type, x call?, y call?, z call?, Storm type, Quay.ALL call?, ALL call?, Light.RED call?, RED call?"},
		{`fun f() { try { } catch (e: Berth) { e.x() }; l@ for (a in b) break@l; return@f; this@f; ::Tide; Storm::class; Quay::open }`, "Berth type, x call?, b call?, Tide call?, Storm type, Quay call?, open call?"},
		{`@Marked(Berth::class) @get:Other class A<T : Tide>(@Inner val b: Storm, c: Quay = Quay(1)) : Base<T>(c), Shown by d where T : Light`, "Marked marker, Berth type, Other marker, Tide type, Inner marker, Storm type, Quay type, Quay call?, Base inherit, Shown inherit, d call?, Light type"},
		{`/* /* nested */ Berth() */ // Tide
fun f() = object : Berth(), Tide { override fun x() = Storm }`, "Berth inherit, Tide inherit, Storm call?"},
		{`import a.B as C
import d.e
import g.*
fun f() = C().e(g) infix h`, "C call?, e call?, g call?, infix call?, h call?"},
		{`val List<Berth>.first: Tide get() = this[0]
fun <T> T.deep(x: (Storm, y: Quay) -> Light?): suspend () -> Rope = TODO()`, "List type, Berth type, Tide type, Storm type, Quay type, Light type, Rope type, TODO call?"},
		{"typealias A<T> = Map<T, Berth>\nval `in` = `odd name`.x", "Map type, Berth type, odd name.x call?, x call?"},
	})
}

// What a file declares, with the members of types and what their signatures name.
func TestDeclarations(t *testing.T) {
	for _, c := range [][2]string{
		{`package a
class B(val c: D, e: F) { var g: H = i; fun j(k: L): M { class N; return o } ; companion object { const val P = 1 } ; inner class Q; init { } ; constructor(r: S) : this(r) }
fun t() {}
val u = 1`, "B class .c:D .constructor:D:F .g:H .j:L:M .constructor:S, B/N class, B/Companion class .P, B/Q class, t func, u var, AKt class"},
		{`enum class A(b: C) { D(1) { }, E; fun f() {} }
sealed interface G
object H : I
annotation class J
typealias K = L
fun M.n() = 1
value class O(val p: Q)`, "A enum .constructor:C .D .E .f, G interface, H class, J annotation, K alias, n func, O class .p:Q .constructor:Q, AKt class"},
	} {
		assert.Equal(t, c[1], readertest.Declared(fresh().Read("a.kt", []byte(c[0]))), c[0])
	}
}

func TestDamaged(t *testing.T) {
	readertest.Damaged(t, fresh(), "a.kt", `package a
import b.C
class D : C() { fun e(f: G): H = I(J) }`)
}

func TestLarge(t *testing.T) { readertest.Large(t, fresh(), "a.kt", ``) }

func FuzzRead(f *testing.F) {
	readertest.Fuzz(f, fresh, "a.kt",
		`fun interface A { fun b() }`,
		`"${"${a}"}" + """$b"""`,
		`val a by lazy { b }`,
		`a?.b!!::c`,
		`x as A<B, C<D>>?`,
		`@file:A("b")
package c`,
		`fun <reified T> a() where T : B = when { else -> c }`,
	)
}
