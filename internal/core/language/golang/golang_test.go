package golang

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"moatline/internal/core/fact"
)

func read(path, text string) *fact.File {
	return NewReader(fact.NewBuilder()).Read(path, []byte(text))
}

func shown(f *fact.File) string {
	var out []string
	for i := range f.Uses {
		s := f.Uses[i].Name + " " + f.Uses[i].How.String()
		if f.Uses[i].Flags&fact.Key != 0 {
			s += " key of " + f.Uses[i].Of
		}
		out = append(out, s)
	}
	return strings.Join(out, ", ")
}

// What a piece of a file names besides what it declares itself.
func TestNames(t *testing.T) {
	for _, c := range []struct{ code, want string }{
		{`func f(a Berth, b ...*tide.Level) (c []Quay, err error) { return }`, "Berth type, tide.Level type, Quay type"},
		{`func f() { a := Berth{}; a.X(); var b, c = a, Tide; _ = c }`, "Berth construct, Tide call"},
		{`func f() { Berth := Berth(1); Berth++ }`, "Berth call"},
		{`func f() { { type Berth struct{ Berth *Berth }; var _ Berth }; Berth() }`, "Berth call"},
		{`func f() { if a := x(); a { a() } else if b := a; b { }; a() }`, "x call, a call"},
		{`func f() { for i, v := range list { i(v) }; i() }`, "list call, i call"},
		{`func f() { switch x := y.(type) { case Berth: x(); case *tide.T: } }`, "y call, Berth type, tide.T type"},
		{`func f() { select { case v := <-ch: v(); case out <- w: } }`, "ch call, out call, w call"},
		{`func f() { func(p Berth) { p() }(q) }`, "Berth type, q call"},
		{`func f() { goto L; L: for { continue L } }`, ""},
		{`func (r *Recv[T]) m(x T) Other[T] { return r.x }; type Recv[T any] struct{}`, "Other type"},
		{`func g[T Berth | ~int, U Tide](t T) { var _ U }`, "Berth type, Tide type"},
		{`type S struct { Berth; *tide.T; a, b Quay; f func(x Pier) Mole }`, "Berth inherit, tide.T inherit, Quay type, Pier type, Mole type"},
		{`type I interface { Berth; M(a Tide) Quay; ~int | Pier }`, "Berth inherit, Tide type, Quay type, Pier inherit"},
		{`type A = Berth; type B [n]Tide; type C map[Quay]chan Pier`, "Berth type, n call, Tide type, Quay type, Pier type"},
		{`var x = S{Key: v}; var y = map[K]V{Key: w, a: b}; type S struct{}`, "Key call key of S, v call, K type, V type, Key call, w call, a call, b call"},
		{`var x = []S{{Key: v}}; var y = []*pkg.S{{Other: w}}`, "S type, Key call key of S, v call, pkg.S type, Other call key of pkg.S, w call"},
		{`var x = new(Berth); var y = make([]Tide, n)`, "new call, Berth construct, make call, Tide type, n call"},
		{`const ( a = iota; b; c = Berth )`, "Berth call"},
		{`func init() { helper() }; func init() { helper() }`, "helper call"},
	} {
		f := read("a.go", "package q\n"+c.code)
		assert.Empty(t, f.Notes, c.code)
		assert.Equal(t, c.want, shown(f), c.code)
	}
}

func TestFile(t *testing.T) {
	f := read("x/sea_linux_test.go", "// a tide\n//go:build !race\n\npackage q // ü\n\n/* two\nlines */\nimport . \"fmt\"\nvar s = `raw\n\nstring`\n")
	assert.Equal(t, "q", f.Package)
	assert.True(t, f.Test)
	assert.Equal(t, "(!race) && linux", f.Constraint)
	assert.Equal(t, 11, f.Lines)
	assert.Equal(t, 5, f.Code)
	require.Len(t, f.Imports, 1)
	assert.Equal(t, fact.Import{Name: "fmt", Alias: ".", Kind: fact.ImportPackage, Used: true, At: fact.Place{Line: 8, Column: 10}}, f.Imports[0])
	assert.True(t, read("a/testdata/b.go", "package b").Test)
	assert.Equal(t, "arm64 && darwin", read("sea_darwin_arm64.go", "package q").Constraint)
	assert.Empty(t, read("linux.go", "package q").Constraint)
}

func TestGuessName(t *testing.T) {
	for path, want := range map[string]string{
		"fmt": "fmt", "net/http": "http", "gopkg.in/yaml.v3": "yaml", "github.com/a/radio/v2": "radio",
		"github.com/a/go-tide": "tide", "github.com/a/tide-go": "tide", "github.com/a/b-vhf": "vhf", "v2": "v2",
	} {
		assert.Equal(t, want, guessName(path), path)
	}
}

func TestTogether(t *testing.T) {
	var c constraints
	for _, x := range []struct {
		a, b string
		want bool
	}{
		{"", "windows", true},
		{"linux", "windows", false},
		{"unix", "linux", true},
		{"unix", "windows", false},
		{"!unix", "plan9", true},
		{"linux", "android", true},
		{"linux && amd64", "linux && arm64", false},
		{"linux", "amd64", true},
		{"race", "!race", false},
		{"race || linux", "!race", true},
		{"!linux && !windows", "darwin", true},
		{"cgo && a && b", "!a || !b", false},
		{"((", "linux", true},
	} {
		assert.Equal(t, x.want, c.together(x.a, x.b), "%s with %s", x.a, x.b)
		assert.Equal(t, x.want, c.together(x.b, x.a), "%s with %s", x.b, x.a)
	}
}

// FuzzRead: any text ends in facts with places that lie in it.
func FuzzRead(f *testing.F) {
	f.Add("package q\nimport (\n\ta \"b\"\n)\nfunc f[T any](x T) { switch y := x.(type) { case a.B: _ = y } }")
	f.Add("//go:build linux &&\npackage q\nvar x = S{K: {1, 2}, []T{{A: b}}}")
	f.Add("package q; func (")
	f.Add("package q; type T struct { *a.B; c, d `json` }; const ( x = iota; y )")
	r := NewReader(fact.NewBuilder())
	f.Fuzz(func(t *testing.T, text string) {
		got := r.Read("a_linux.go", []byte(text))
		_, err := fact.Line(got, nil)
		require.NoError(t, err)
		lines := strings.Count(text, "\n") + 1
		for _, p := range got.Places {
			if int(p.Line) > lines || p.Line < 1 || p.Column < 1 {
				t.Fatalf("%v lies outside the text", p)
			}
		}
	})
}
