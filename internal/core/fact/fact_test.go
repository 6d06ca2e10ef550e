package fact

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The builder merges equal uses, keeps the order of places, and takes dropped
// uses out of every list that names them.
func TestBuilder(t *testing.T) {
	b := NewBuilder()
	for round := range 3 {
		b.Reset()
		d := b.Declare(Decl{Name: "Quay", Outer: -1})
		var ids []int32
		for i := range 3000 {
			u := b.Use([]byte(fmt.Sprintf("Berth%d", i%1000)), Use{Scope: d, Local: -1, How: HowType}, Place{uint32(i + 1), 1})
			ids = append(ids, u)
		}
		other := b.Use([]byte("Berth0"), Use{Scope: d, Local: -1, How: HowCall}, Place{9999, 1})
		assert.NotEqual(t, ids[0], other)
		assert.Equal(t, ids[0], ids[1000])
		b.Decl(d).Supers = b.Ints([]int32{ids[1], ids[5], other})
		b.Decl(d).Members = b.Members([]Member{{Name: "m", Uses: b.Ints([]int32{ids[5], ids[7]})}})
		b.Drop(ids[5])
		var f File
		b.Finish(&f)
		require.Len(t, f.Uses, 1000, "round %d", round)
		require.Len(t, f.Places, 2998)
		for i := range f.Uses {
			u := &f.Uses[i]
			assert.NotEqual(t, "Berth5", u.Name)
			places := f.PlacesOf(u)
			for k := 1; k < len(places); k++ {
				assert.True(t, places[k-1].Before(places[k]))
			}
		}
		var supers []string
		for _, u := range f.Decls[0].Supers {
			supers = append(supers, f.Uses[u].Name+" "+f.Uses[u].How.String())
		}
		assert.Equal(t, []string{"Berth1 type", "Berth0 call"}, supers)
		require.Len(t, f.Decls[0].Members[0].Uses, 1)
		assert.Equal(t, "Berth7", f.Uses[f.Decls[0].Members[0].Uses[0]].Name)
	}
}

func TestHowWords(t *testing.T) {
	for h := HowImport; h < hows; h++ {
		back, ok := ParseHow(h.String())
		assert.True(t, ok)
		assert.Equal(t, h, back)
	}
	_, ok := ParseHow("sideways")
	assert.False(t, ok)
}

func example() *File {
	return &File{
		Path: "q/ä.java", Language: "java", Package: "q", PackageAt: Place{1, 9}, Lines: 9, Code: 7, Test: true, Constraint: "linux",
		Imports: []Import{{Name: "a.B", Alias: "b", Kind: ImportStatic, Used: true, At: Place{2, 8}}},
		Decls: []Decl{
			{Name: "A", Kind: Class, Flags: Public | Abstract, Outer: -1, At: Place{3, 1}, Supers: []int32{0}, Markers: []int32{1},
				Members: []Member{{Name: "m", Kind: MethodMember, Flags: Static, At: Place{4, 2}, Uses: []int32{0}, Markers: []int32{1}}}},
			{Name: "", Kind: Class, Flags: Local | Anonymous, Outer: 0, At: Place{5, 1}, Receiver: "R"},
		},
		Uses: []Use{
			{Name: "B", Scope: -1, Local: -1, How: HowInherit, First: 0, Count: 1},
			{Name: "C.D", Of: "x", Scope: 0, Local: 1, How: HowMarker, Flags: InFile | Ambiguous, First: 1, Count: 2},
		},
		Places:   []Place{{3, 9}, {4, 5}, {6, 7}},
		Notes:    []Note{{Place{8, 1}, "a \"note\""}},
		Manifest: &Manifest{Module: "g:a", Properties: map[string]string{"k": "v"}, Requires: []Requirement{{Name: "x:y", Scope: "test", At: Place{1, 2}}}},
	}
}

func TestLinesRoundTrip(t *testing.T) {
	want := example()
	line, err := Line(want, []byte(`[{"to":"elsewhere"}]`))
	require.NoError(t, err)
	assert.NotContains(t, string(line), "\n")
	text := `{"moatline-facts":1,"program":"p","shard":"1/2"}` + "\n" + string(line) + "\n\n" + string(line)
	n := 0
	h, err := Scan(strings.NewReader(text), func(f *File) error {
		n++
		assert.Equal(t, want, f)
		return nil
	})
	require.NoError(t, err)
	assert.Equal(t, 2, n)
	assert.Equal(t, Header{1, "p", "1/2"}, h)
}

// Facts that could send a resolver out of bounds are refused.
func TestDamagedLines(t *testing.T) {
	line, err := Line(example(), nil)
	require.NoError(t, err)
	for _, c := range [][2]string{
		{`"outer":-1`, `"outer":5`},
		{`"supers":[0]`, `"supers":[9]`},
		{`"markers":[1]`, `"markers":[-1]`},
		{`"scope":0`, `"scope":2`},
		{`"local":1`, `"local":2`},
		{`"how":"marker"`, `"how":"magic"`},
		{`"kind":"class"`, `"kind":"glass"`},
		{`"kind":"static"`, `"kind":"statics"`},
		{`"kind":"method"`, `"kind":"methods"`},
		{`"places":[3,9]`, `"places":[3]`},
		{`"places":[3,9]`, `"places":[]`},
		{`"file":"q/ä.java"`, `"file":""`},
		{`{"file"`, `{"file`},
	} {
		bad := strings.Replace(string(line), c[0], c[1], 1)
		require.NotEqual(t, string(line), bad, c[0])
		_, err := Scan(strings.NewReader("{\"moatline-facts\":1}\n"+bad), func(*File) error { return nil })
		require.Error(t, err, c[1])
		assert.Contains(t, err.Error(), "line 2: ", c[1])
	}
}

func FuzzScan(f *testing.F) {
	line, _ := Line(example(), nil)
	f.Add(append([]byte("{\"moatline-facts\":1}\n"), line...))
	f.Add([]byte("{\"moatline-facts\":1}\n{}\n"))
	f.Fuzz(func(t *testing.T, text []byte) {
		_, _ = Scan(bytes.NewReader(text), func(f *File) error {
			for i := range f.Uses {
				_ = f.PlacesOf(&f.Uses[i])
			}
			return nil
		})
	})
}
