package php

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/readertest"
)

func fresh() readertest.Reader { return NewReader(fact.NewBuilder()) }

// What a piece of code names.
func TestNames(t *testing.T) {
	readertest.Cases(t, fresh(), "a.php", [][2]string{
		{`<?php new Berth; new \Harbour\Berth(); new $x; new class extends Quay {};`, `Berth construct, \Harbour\Berth construct, Quay inherit`},
		{`Berth <?= Tide::high() ?> Storm::x() <? new Berth ?>`, "Tide call, Berth construct"},
		{`<?php $a instanceof Berth; Berth::$x; Berth::X; $b::Y; self::Z; static::make();`, "Berth type, Berth call x2"},
		{`<?php function f(?Berth $a, int|Tide $b = Tide::X, Storm &...$c): Berth|null {}`, "Berth type x2, Tide type, Tide call, Storm type"},
		{`<?php try {} catch (Berth | \Tide) {} $f = fn(Berth $b): Tide => open($b);`, `Berth type x2, \Tide type, Tide type, open call`},
		{"<?php \"a {$b->c(Berth::D)} ${e} $Tide\"; 'Tide {$b}'; `ls {$x[Storm::Y]}`;", "Berth call, Storm call"},
		{`<?php echo <<<X
 Tide {$a[Berth::class]}
 X . Storm::y();`, "Berth call, Storm call"},
		{`<?php #[Marked(Berth::class)] class A { #[Other] public Tide $t; const int X = Storm::Y; } // new Dinghy
# new Dinghy`, "Marked marker, Berth call, Other marker, Tide type, Storm call"},
		{`<?php use A\B as C, D; use function e\f; C::x(); D\E::y(); f(); g(h: 1); if (I): J; endif;`, `C call, D\E call, f call, g call, I call, J call`},
		{`<?php goto Berth; Berth: $x->Tide->Storm(); $x?->Berth; match(true) { default => Tide::A };`, "Tide call"},
		{`<?php enum Light: string implements Shown { case Red = Berth::RED; const X = self::Red; } enum(1);`, "Shown inherit, Berth call, enum call"},
	})
}

// What a file declares, with the members of types and what their signatures name.
func TestDeclarations(t *testing.T) {
	for _, c := range [][2]string{
		{`<?php namespace A; class B { use T; const X = 1; public ?C $d; private static int $e = 1; function __construct(private D $f) {} abstract function g(): static; } function h() {} const I = 1; define("J", __DIR__ . "/k");`, "A namespace, A/B class .X .d:C .e .f:D .__construct:D .g, A/h func, A/I const, J const"},
		{`<?php namespace A { interface B extends C { function d(E $e); } } namespace { trait F {} enum G { case H; } }`, "A namespace, A/B interface .d:E,  namespace, /F class, /G enum .H"},
	} {
		assert.Equal(t, c[1], readertest.Declared(fresh().Read("a.php", []byte(c[0]))), c[0])
	}
}

func TestDamaged(t *testing.T) {
	readertest.Damaged(t, fresh(), "a.php", `<?php namespace A; use B\C; class D extends C { function e(F $f): G { return new H(I::J); } }`)
}

func TestLarge(t *testing.T) { readertest.Large(t, fresh(), "a.php", `<?php `) }

func FuzzRead(f *testing.F) {
	readertest.Fuzz(f, fresh, "a.php",
		`<?php class A { use B { c as d; } }`,
		`<?php $a = <<<"X"
 {$b}
 X;`,
		`a <?php if (1): ?> b <?php endif ?>`,
		`<?php namespace A { use function b\{c, d as e}; }`,
		`<?php require __DIR__ . "/a" . B . dirname(__FILE__, 2);`,
		`<?php #[A(1)] fn(#[B] C $d = new E) => F::G;`,
	)
}
