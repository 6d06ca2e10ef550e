package javascript

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/readertest"
)

func fresh() readertest.Reader { return NewReader(fact.NewBuilder()) }

// What a piece of code names.
func TestNames(t *testing.T) {
	readertest.Cases(t, fresh(), "a.ts", [][2]string{
		{`import { Berth, type Tide as T } from "a"; new Berth<T>(); let x: T = Berth.open();`, "Berth construct, T type x2, Berth.open call"},
		{`import * as a from "a"; class B extends a.Berth implements a.Tide {} a.x.y();`, "a.Berth inherit, a.Tide inherit, a.x.y call"},
		{"import d, { e } from \"a\"; d`x ${e()} ${`${d}`}`; /d/.test(e / d / 1);", "d call x3, e call, e call"},
		{`import { a } from "a"; const o = { a: 1, b: a }; o.a; x ? a : b; f((a) => a, a);`, "a type, a call x4"},
		{`const a = require("a"), { b, c: d } = require("b"); a.x(); b; d;`, "b call x2, d type, a.x call, d call"},
		{`import a = require("a"); export = a;`, "a call"},
		{`import { A } from "a"; @A class B { @A.x() c: A; d(e: A): asserts e is A {} }`, "A marker, A.x marker, A type x3"},
		{`type A = import("a").B<C>; let b: typeof import("b"); async () => await import("c");`, "C type?"},
		{`export * from "a"; export { b as c } from "b"; export type { D } from "d"; export default class {}`, ""},
		{`import { a } from "a"; a // a
 /* a */ "a" 'a' /[/]a/g; a
/b/a`, "a call x3"},
		{`import { A } from "a"; function f<T extends A>(x: T & A | A[]): x is A { return x as A satisfies A; }`, "T type? x2, A type x6"},
	})
}

// What a file declares, with the members of types and what their signatures name.
func TestDeclarations(t *testing.T) {
	for _, c := range [][2]string{
		{`export class A<T> extends B { private c: D = 1; static #e; f?(g: H): I; constructor(readonly j: K) { class L {} } get m() { return 1 } [n]: O; async *p() {} }`, "A class .c:D .#e .f:H:I .constructor:K .m .p, A/L class"},
		{`export interface A { b: C; d(e: F): G } type H = I; enum J { K } namespace L { export const m = 1 } declare module "n" { export const o: 1 } function p() { var q } const { r, s: t } = u, [v] = w`, "A interface .b:C .d:F:G, H alias, J enum, L named type, L/m var, n namespace, p func, r var, t var, v var"},
		{`export default function a() {} export { b as c }; const d = () => { const e = 1 }, f = 2; for (const g of h) {} declare global { interface I {} }`, "a func, d var, f var, I interface"},
	} {
		assert.Equal(t, c[1], readertest.Declared(fresh().Read("a.ts", []byte(c[0]))), c[0])
	}
}

func TestDamaged(t *testing.T) {
	readertest.Damaged(t, fresh(), "a.ts", `import { A } from "a"; export class B extends A { c(d: A): A { return new A(); } }`)
}

func TestLarge(t *testing.T) { readertest.Large(t, fresh(), "a.ts", ``) }

func FuzzRead(f *testing.F) {
	readertest.Fuzz(f, fresh, "a.ts",
		"`${`${a}`}`",
		`a ? b : c / d / e`,
		`x = <T,>(a) => b`,
		`import a, * as b from "c" with { d: "e" }`,
		`class A { static { b } get = 1 }`,
		`export { a as default, b as "c d" } from "d"`,
	)
}
