package java

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"moatline/internal/core/fact"
)

func read(text string) *fact.File { return NewReader(fact.NewBuilder()).Read("q/A.java", []byte(text)) }

// shown writes uses as "name how" in the order in which they came first.
func shown(f *fact.File) string {
	var out []string
	for i := range f.Uses {
		u := &f.Uses[i]
		s := u.Name + " " + u.How.String()
		if u.Flags&fact.Ambiguous != 0 {
			s += "?"
		}
		if u.Count > 1 {
			s += fmt.Sprintf(" x%d", u.Count)
		}
		out = append(out, s)
	}
	return strings.Join(out, ", ")
}

// What a piece of a method body names.
func TestNamesInCode(t *testing.T) {
	for _, c := range []struct{ code, want string }{
		{`Berth b;`, "Berth type"},
		{`Berth b = null, c; b.x(); c.y();`, "Berth type"},
		{`final Berth b; var v = 1; v.x();`, "Berth type"},
		{`a < b; c > d;`, ""},
		{`f(a < b, c > (d));`, ""},
		{`boolean x = a < b && c > d;`, ""},
		{`for (int i = 0; i < MOST; i++) { }`, ""},
		{`List<Berth> l;`, "Berth type, List type"},
		{`Map<Berth, List<? extends Tide[]>> m;`, "Berth type, Tide type, List type, Map type"},
		{`Map.Entry<Berth, Tide>.Inner x;`, "Berth type, Tide type, Map.Entry.Inner type"},
		{`new Berth(1).name();`, "Berth construct"},
		{`new <Tide>Berth<>();`, "Tide type, Berth construct"},
		{`new Berth[3]; new Tide[] { };`, "Berth type, Tide type"},
		{`new harbour.Berth() { Tide t; };`, "harbour.Berth construct, Tide type"},
		{`Berth.open(); Berth.COUNT++;`, "Berth call? x2"},
		{`harbour.q.Berth.open();`, "harbour.q.Berth call?"},
		{`Berth.class.getName();`, "Berth type"},
		{`int.class.getName(); int[].class.x(); Berth[][].class.x();`, "Berth type"},
		{`run(Berth::new); run(Berth[]::new); run(List<Tide>::new); run(this::x); run(super::y);`, "Berth call?, Berth type, Tide type, List type"},
		{`(Berth) x; (Berth) (Tide) y; (int) z; (Berth & Tide) w;`, "Berth type x3, Tide type x2"},
		{`int a = (b) + c; (b).go(); if (Flag) go(); while (Flag) go();`, ""},
		{`if ((flags & MASK) != 0 || (Berth) != Tide) x(); b = (Flag) !done;`, "Flag type"},
		{`Object o = (Berth) -> Berth.x();`, "Object type"},
		{`run((a, b) -> a.x(b), c -> c.y());`, ""},
		{`run((Berth a, Tide... b) -> a);`, "Berth type, Tide type"},
		{`if (o instanceof Berth b && b.deep()) b.x();`, "Berth type"},
		{`if (o instanceof final @Mark Berth b) b.x();`, "Mark marker, Berth type"},
		{`if (!(o instanceof Berth)) return;`, "Berth type"},
		{`if (o instanceof Pair(Berth(var x), Tide t)) t.x();`, "Pair type, Berth type, Tide type"},
		{`switch (o) { case Berth b -> b.x(); case Tide t when t.high() -> { } case RED, GREEN: break; case Light.RED: default: }`, "Berth type, Tide type, Light call?"},
		{`int n = switch (k) { case A -> 1; case B: yield Berth.n(); default -> throw new Tide(); };`, "Berth call?, Tide construct"},
		{`try (Berth b = open(); other) { } catch (final Tide | Storm e) { e.x(); } finally { }`, "Berth type, Tide type, Storm type"},
		{`class Local extends Berth { Tide t; } new Local(); Local l;`, "Berth inherit, Tide type, Local construct"},
		{`record Pair(Berth a) { } enum E { X } interface I extends Tide { }`, "Berth type, Tide inherit"},
		{`@Mark(kind = Berth.class, value = Tide.X) int x;`, "Mark marker, Berth type, Tide call?"},
		{`label: for (Berth b : list) { continue label; }`, "Berth type"},
		{`this.<Berth>go(); Tide.<Berth>of(); x.new Berth();`, "Berth type x2, Tide call?, x call?, Berth construct"},
		{`String s = """
			Berth b; " \""" Tide
			"""; Tide t;`, "String type, Tide type"},
		{`char c = '"'; char d = '\''; String s = "\"" + "//"; Berth b; // Tide`, "String type, Berth type"},
		{`/* Tide */ Berth /* Tide */ b; /** Tide */`, "Berth type"},
		{`Berth Tide = null; Tide.x(); { Storm Berth = null; Berth.y(); } Berth.z();`, "Berth type, Storm type, Berth call?"},
		{`Outer.this.x(); Berth.super.y();`, "Berth type"},
		{`Berth outer = null; outer.super(1);`, "Berth type"},
		{`yield(1); record = 2; var var = 3; sealed.x(); permits.y();`, "sealed call?, permits call?"},
		{`assert Berth.ok() : Tide.no();`, "Berth call?, Tide call?"},
		{`int[] a = {Berth.A, Tide.B}; a[Storm.C]++;`, "Berth call?, Tide call?, Storm call?"},
		{`x = cond ? Berth.A : Tide.B; y = 1.5f + .5 + 1.e3 + 0x1.8p1 + 1_000L;`, "Berth call?, Tide call?"},
		{`Ber\u0074h b; String s = "\u00e9";`, "Berth type, String type"},
	} {
		got := shown(read("class A { void m() { " + c.code + " } }"))
		assert.Equal(t, c.want, got, c.code)
	}
}

// What a member or a type declaration names.
func TestNamesInDeclarations(t *testing.T) {
	for _, c := range []struct{ code, want string }{
		{`class A<T extends Berth & Tide> extends Quay<T> implements B, C.D { T t; }`, "Berth type, Tide type, Quay inherit, B inherit, C.D inherit"},
		{`sealed interface A permits B, C { }`, "B type, C type"},
		{`class A { non-sealed class B { } sealed class C permits D { } }`, "D type"},
		{`enum E implements I { X(Berth.A), @Mark Y { Tide t; }; E(int n) { } }`, "I inherit, Berth call?, Mark marker, E inherit, Tide type"},
		{`@Mark @interface M { Berth value() default Tide.X; }`, "Mark marker, Berth type, Tide call?"},
		{`record R<T>(@Mark Berth b, T... ts) implements Tide { R { b.x(); } static int n; }`, "Mark marker, Berth type, Tide inherit"},
		{`class A { Berth f = g.x(), g; { f.y(); } static { Tide.z(); } }`, "Berth type, Tide call?"},
		{`class A { <T extends Berth> T m(final Tide t, T u, @Mark Storm... s) throws E { return u; } }`, "Berth type, Tide type, Mark marker, Storm type, E type"},
		{`class A { A(Berth b) { b.x(); } void m(A this, Outer Outer.this) { } int[] n()[] { return null; } }`, "Berth type, A type, Outer type"},
		{`class A { @Mark(list = {@Inner(Berth.class)}) private volatile Tide t; }`, "Mark marker, Inner marker, Berth type, Tide type"},
		{`class A { java.util.@Mark List<@Mark Berth> l; Tide @Mark [] t; }`, "Mark marker x3, Berth type, java.util.List type, Tide type"},
		{`interface I { default Berth m() { return n(); } private Tide n() { return null; } int X = Storm.Y; }`, "Berth type, Tide type, Storm call?"},
		{`;;; class A { ; int x; ; }`, ""},
	} {
		assert.Equal(t, c.want, shown(read(c.code)), c.code)
	}
}

func TestDeclarations(t *testing.T) {
	f := read(`package harbour.q; // the quay
import static java.lang.Math.max;
import java.util.List;
public abstract class A {
	protected static class B { private int x; enum C { ONE, TWO } }
	List<B> all;
	public A(int n) { Runnable r = new Runnable() { public void run() { max(1, n); } }; class L { } }
	abstract void m(B b);
}
interface I { void p(); default void q() { } }
`)
	assert.Equal(t, "harbour.q", f.Package)
	assert.Equal(t, fact.Place{Line: 1, Column: 9}, f.PackageAt)
	assert.Equal(t, 10, f.Lines)
	assert.Equal(t, 10, f.Code)
	var got []string
	for _, d := range f.Decls {
		got = append(got, fmt.Sprintf("%s %s %d %d", d.Name, d.Kind, d.Outer, d.Flags))
	}
	local := fact.Local
	assert.Equal(t, []string{
		fmt.Sprintf("A class -1 %d", fact.Public|fact.Abstract),
		fmt.Sprintf("B class 0 %d", fact.Protected|fact.Static),
		"C enum 1 0",
		fmt.Sprintf(" class 0 %d", local|fact.Anonymous),
		fmt.Sprintf("L class 0 %d", local),
		fmt.Sprintf("I interface -1 %d", fact.Abstract),
	}, got)
	require.Len(t, f.Decls[0].Members, 3)
	m := f.Decls[0].Members[2]
	assert.Equal(t, "m", m.Name)
	require.Len(t, m.Uses, 1)
	assert.Equal(t, "B", f.Uses[m.Uses[0]].Name)
	assert.Len(t, f.Decls[2].Members, 2)
	assert.NotZero(t, f.Decls[5].Members[0].Flags&fact.Abstract)
	assert.Zero(t, f.Decls[5].Members[1].Flags&fact.Abstract)
	assert.True(t, f.Imports[0].Used)
	assert.True(t, f.Imports[1].Used)
	assert.Empty(t, f.Notes)
}

// Annotations mark the declaration that they stand on, and no other.
func TestMarkers(t *testing.T) {
	f := read(`@Outer(list = {@Inner, @Deep(@Deeper)}) class A {
	@OnField(@InField) int x;
	@OnMethod void m() { @OnLocal int y; class L { } @OnClass class M { } }
}
@OnB class B { }`)
	var got []string
	for _, d := range f.Decls {
		s := d.Name
		for _, m := range d.Markers {
			s += " " + f.Uses[m].Name
		}
		for _, x := range d.Members {
			for _, m := range x.Markers {
				s += " " + x.Name + ":" + f.Uses[m].Name
			}
		}
		got = append(got, s)
	}
	assert.Equal(t, []string{"A Outer x:OnField m:OnMethod", "L", "M OnClass", "B OnB"}, got)
}

func TestTestFolders(t *testing.T) {
	for path, want := range map[string]bool{
		"src/test/java/A.java": true, "core/src/integrationTest/java/A.java": true, "src/testFixtures/java/A.java": true,
		"src/main/java/A.java": false, "test/A.java": false, "src/test": false, "src/main/java/src/tests/A.java": true,
	} {
		f := NewReader(fact.NewBuilder()).Read(path, []byte("class A { }"))
		assert.Equal(t, want, f.Test, path)
	}
}

func TestOutsideNames(t *testing.T) {
	for name, want := range map[string]string{
		"java.util.List": "java.util", "java.util.Map.Entry": "java.util", "lower.case.name": "lower.case", "Single": "", "a.B": "a",
	} {
		assert.Equal(t, want, outsidePackage(name), name)
	}
	for name, want := range map[string]bool{
		"java.util.List": true, "javax.swing.JPanel": true, "javax.sql.DataSource": true, "javax.persistence.Entity": false,
		"javax.annotation.processing.Processor": true, "javax.annotation.Resource": false, "javax.xml.bind.JAXB": false,
		"javax.transaction.xa.XAResource": true, "javax.transaction.Transactional": false, "jakarta.servlet.Servlet": false, "javaxx.A": false,
	} {
		assert.Equal(t, want, standard(name), name)
	}
	_, full, ok := conventional("harbour.radio.Vhf.CHANNEL.x")
	assert.True(t, ok)
	assert.Equal(t, "harbour.radio.Vhf", full)
	for _, no := range []string{"field.Other.x", "a.b.c", "someField.other.Type", "Type.x"} {
		_, _, ok := conventional(no)
		assert.False(t, ok, no)
	}
}

// FuzzRead: any text ends in facts, the same ones each time, with places that
// lie in the text.
func FuzzRead(f *testing.F) {
	for _, s := range []string{
		"package q; import a.*; class A<T extends B> { C c = new C() { D d; }; }",
		"enum E { A(1) { } ; } @interface M { int x() default 1; } record R(int a) { R { } }",
		"class A { void m() { switch (x) { case B b when b.c() -> { } default: } } }",
		"class A { String s = \"\"\"\n x \\\"\"\" \"\"\"; char c = '\\''; }",
		"\\u0063lass A { Ber\\u0074h b; } // \\u000a class",
		"open module m { requires transitive a.b; provides C with D, E; }",
		"class A { int a = b < c ? (D) e : f::<G>h; } }}} ((( <<< @@@ ...",
		"class A { class A { class A { } } } import static a.b.*; non-sealed",
		"/* open", "\"", "'", "class", "@", "a<b<c<d<e", "package", "import", "(a) -> b", "new", "x instanceof",
	} {
		f.Add(s)
	}
	r := NewReader(fact.NewBuilder())
	f.Fuzz(func(t *testing.T, text string) {
		stuck := time.AfterFunc(30*time.Second, func() { panic(fmt.Sprintf("stuck on %q", text)) })
		defer stuck.Stop()
		first := r.Read("A.java", []byte(text))
		again := NewReader(fact.NewBuilder()).Read("A.java", []byte(text))
		a, err := fact.Line(first, nil)
		require.NoError(t, err)
		b, err := fact.Line(again, nil)
		require.NoError(t, err)
		require.Equal(t, string(a), string(b), "a reader that has read other files before")
		lines := strings.Count(text, "\n") + 1
		for _, p := range first.Places {
			if int(p.Line) > lines || p.Line < 1 || p.Column < 1 || int(p.Column) > len(text)+1 {
				t.Fatalf("%v lies outside the text", p)
			}
		}
		for i := range first.Uses {
			if first.Uses[i].Name == "" && first.Uses[i].Flags&fact.InFile == 0 {
				t.Fatal("a use without a name")
			}
		}
	})
}
