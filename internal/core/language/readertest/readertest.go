// Package readertest holds what the tests of all readers do: cases of small
// texts, fuzzing, damaged files and very large ones.
package readertest

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"moatline/internal/core/fact"
)

// Reader is a language's reader.
type Reader interface {
	Read(path string, text []byte) *fact.File
}

// Shown writes the uses of a file as "name how" in the order in which they
// came first, with "?" behind those that only the whole tree settles.
func Shown(f *fact.File) string {
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

// Declared writes the declarations of a file as "name kind", indented by the
// declaration that they lie in, with the names of their members.
func Declared(f *fact.File) string {
	var out []string
	for i := range f.Decls {
		d := &f.Decls[i]
		s := d.Name + " " + d.Kind.String()
		if d.Outer >= 0 {
			s = f.Decls[d.Outer].Name + "/" + s
		}
		for _, m := range d.Members {
			s += " ." + m.Name
			for _, u := range m.Uses {
				s += ":" + f.Uses[u].Name
			}
		}
		out = append(out, s)
	}
	return strings.Join(out, ", ")
}

// Cases checks what each text uses: pairs of a text and what Shown makes of it.
func Cases(t *testing.T, r Reader, path string, cases [][2]string) {
	t.Helper()
	for _, c := range cases {
		assert.Equal(t, c[1], Shown(r.Read(path, []byte(c[0]))), c[0])
	}
}

// Damaged checks that a file whose end is damaged in many ways keeps the facts
// of its intact part: every use of it is there, with its place.
func Damaged(t *testing.T, r Reader, path, intact string) {
	t.Helper()
	want := r.Read(path, []byte(intact))
	require.NotEmpty(t, want.Uses)
	for _, tail := range []string{
		"", "{", "}", "}}}}", "(((", ")))", "[", "\"", "'", "`", "/*", "\"\"\"", "<<<", "@", "#", "\\", "\x00", "\xff\xfe", "<", "${", "class", "import",
		"=> =>", "? : ?", "é ⊘ 漢", strings.Repeat("<", 300), strings.Repeat("a.", 300),
	} {
		got := r.Read(path, []byte(intact+"\n"+tail))
		for i := range want.Uses {
			w := &want.Uses[i]
			found := false
			for k := range got.Uses {
				g := &got.Uses[k]
				found = found || g.Name == w.Name && g.How == w.How && got.PlacesOf(g)[0] == want.PlacesOf(w)[0]
			}
			assert.True(t, found, "%s is lost before %q", w.Name, tail)
		}
	}
}

// Large reads texts of five million bytes that a careless reader never ends
// with: deep nesting, literals without an end, one long line. It fails by not
// coming back.
func Large(t *testing.T, r Reader, path, before string) {
	t.Helper()
	Long(t, r, path, before, "(", "{", "[", "<", "a(", "{a:", "a<", "\"", "\"x\n", "/*", "'", "`${", "f\"{", "x.y ", "a = b;", "a;\n", "class A{", "fn(", "if(a)", "@a ", "#if x\n", "x?y:", "=>", ")", "}{", "\\")
}

// Long reads, for each piece, five million bytes of it behind before.
func Long(t *testing.T, r Reader, path, before string, pieces ...string) {
	t.Helper()
	if testing.Short() {
		t.Skip("large texts")
	}
	const size = 5 << 20
	for _, piece := range pieces {
		stuck := time.AfterFunc(4*time.Minute, func() { panic(fmt.Sprintf("stuck on %q", piece)) })
		f := r.Read(path, []byte(before+strings.Repeat(piece, size/len(piece))))
		stuck.Stop()
		assert.Positive(t, f.Lines, piece)
	}
}

// Fuzz feeds a reader anything: it comes back, tells the same of the same text
// whatever it read before, and every place lies in the text.
func Fuzz(f *testing.F, fresh func() Reader, path string, seeds ...string) {
	for _, s := range append(seeds, "", "/* open", "\"", "'", "class", "a<b<c", "}}} ((( <<<", "\x00\xff", "é", "import", "x = {", "@@@", "#") {
		f.Add(s)
	}
	r := fresh()
	f.Fuzz(func(t *testing.T, text string) {
		stuck := time.AfterFunc(30*time.Second, func() { panic(fmt.Sprintf("stuck on %q", text)) })
		defer stuck.Stop()
		first := r.Read(path, []byte(text))
		a, err := fact.Line(first, nil)
		require.NoError(t, err)
		b, err := fact.Line(fresh().Read(path, []byte(text)), nil)
		require.NoError(t, err)
		require.Equal(t, string(b), string(a), "a reader that has read other files before")
		lines := strings.Count(text, "\n") + 1
		check := func(p fact.Place) {
			if int(p.Line) > lines || p.Line < 1 || p.Column < 1 || int(p.Column) > len(text)+1 {
				t.Fatalf("%v lies outside the text", p)
			}
		}
		for _, p := range first.Places {
			check(p)
		}
		for i := range first.Imports {
			check(first.Imports[i].At)
		}
		for i := range first.Uses {
			if first.Uses[i].Name == "" {
				t.Fatal("a use without a name")
			}
		}
		// The text form is read back as it was written.
		_, err = fact.Scan(strings.NewReader("{\"moatline-facts\":1}\n"+string(a)+"\n"), func(*fact.File) error { return nil })
		require.NoError(t, err)
	})
}
