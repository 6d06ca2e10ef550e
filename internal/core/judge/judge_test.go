package judge

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/layout"
)

var today = time.Date(2026, 11, 23, 12, 0, 0, 0, time.UTC)

// under matches the paths below a folder.
func under(folder string) []layout.Pattern {
	return []layout.Pattern{{Text: folder + "/**", Match: func(s string) bool { return strings.HasPrefix(s, folder+"/") }}}
}

// office is a declaration of five layers: domain; store (only for booking);
// booking; desk beside radio.
func office() *layout.Declaration {
	d := &layout.Declaration{Wiring: under("main"), Tests: under("test"), Verdicts: map[string]layout.Verdict{}}
	for ring, names := range [][]string{{"domain"}, {"store"}, {"booking"}, {"desk", "radio"}} {
		var layers []*layout.Layer
		for _, n := range names {
			l := &layout.Layer{Name: n, Ring: ring, Files: under(n)}
			if n == "store" {
				l.OnlyFor = []string{"booking"}
			}
			layers = append(layers, l)
		}
		d.Rings = append(d.Rings, layers)
		d.Layers = append(d.Layers, layers...)
	}
	return d
}

// tree makes a graph of one Java-like file a folder, each declaring a type of
// its folder's name, and the dependencies "from to how…".
func tree(t *testing.T, folders string, deps ...string) *graph.Graph {
	t.Helper()
	var files []*fact.File
	for _, n := range strings.Fields(folders) {
		files = append(files, &fact.File{
			Path: n + "/File.java", Language: "java", Package: n, Lines: 10,
			Decls: []fact.Decl{{Name: strings.ToUpper(n[:1]) + n[1:], Kind: fact.Class, Outer: -1, At: fact.Place{Line: 2, Column: 7}}},
		})
	}
	g := graph.New(files)
	var c graph.Collector
	at := func(name string) int {
		i := g.Find(name + "/File.java")
		require.GreaterOrEqual(t, i, 0, name)
		return i
	}
	for i := range files {
		for n, d := range deps {
			f := strings.Fields(d)
			if at(f[0]) != i {
				continue
			}
			how, _ := fact.ParseHow(f[2])
			to := at(f[1])
			c.AddAt(graph.Dep{Target: graph.ToFile, File: int32(to), Decl: 0, Name: f[1] + ".Type", How: how}, fact.Place{Line: uint32(n + 3), Column: 1})
		}
		c.Finish(g, i)
	}
	return g
}

func judged(g *graph.Graph, d *layout.Declaration) *Judgement {
	p := layout.Place(d, g, func(string) bool { return true })
	return Judge(&Case{Graph: g, Declaration: d, Placement: p, Today: today})
}

func shown(j *Judgement) (out []string) {
	for _, f := range j.Findings {
		s := f.Kind + " " + f.From.Layer + ">" + f.To.Layer
		if f.Verdict != layout.Error {
			s += " " + string(f.Verdict)
		}
		if n := len(f.Places); n > 1 {
			s += fmt.Sprintf(" x%d", n)
		}
		out = append(out, s)
	}
	return out
}

// Every direction between every pair of sites, and what it is called.
func TestDirections(t *testing.T) {
	sites := strings.Fields("booking desk domain left main radio store test")
	want := map[string]string{
		"domain>store": "outward", "domain>booking": "outward", "domain>desk": "outward", "domain>radio": "outward",
		"store>booking": "outward", "store>desk": "outward", "store>radio": "outward", "booking>desk": "outward", "booking>radio": "outward",
		"desk>radio": "sideways", "radio>desk": "sideways",
		"desk>store": "shortcut", "radio>store": "shortcut",
		"domain>main": "backdoor", "store>main": "backdoor", "booking>main": "backdoor", "desk>main": "backdoor", "radio>main": "backdoor", "left>main": "backdoor",
		"domain>test": "backdoor", "store>test": "backdoor", "booking>test": "backdoor", "desk>test": "backdoor", "radio>test": "backdoor", "left>test": "backdoor", "main>test": "backdoor",
	}
	for _, from := range sites {
		for _, to := range sites {
			if from == to {
				continue
			}
			g := tree(t, strings.Join(sites, " "), from+" "+to+" type")
			var got []string
			for _, f := range judged(g, office()).Findings {
				if f.Kind != "unplaced" {
					got = append(got, f.Kind)
				}
			}
			kind := want[from+">"+to]
			if kind == "" {
				assert.Empty(t, got, "%s to %s", from, to)
			} else {
				assert.Equal(t, []string{kind}, got, "%s to %s", from, to)
			}
		}
	}
}

func TestFindingsJoinWaysAndPlaces(t *testing.T) {
	g := tree(t, "booking desk domain", "domain desk import", "domain desk construct", "domain desk inherit", "domain booking type")
	j := judged(g, office())
	assert.Equal(t, []string{"outward domain>desk x3", "outward domain>booking"}, shown(j))
	f := j.Findings[0]
	assert.Equal(t, End{File: "domain/File.java", Line: 3, Column: 1, Layer: "domain", Name: "domain.Domain"}, f.From)
	assert.Equal(t, End{File: "desk/File.java", Line: 2, Column: 7, Layer: "desk", Name: "desk.Type"}, f.To)
	assert.Equal(t, []Place{{3, 1, fact.HowImport}, {4, 1, fact.HowConstruct}, {5, 1, fact.HowInherit}}, f.Places)
	assert.Equal(t, Counts{Error: 2}, j.Totals)
	assert.Equal(t, Read{Files: 3, Dependencies: 4, Crossings: 4}, j.Read)
	assert.Equal(t, Inside{Layers: j.Inside.Layers, Files: 1, Breaches: 2, In: 1}, j.Inside)
	require.Len(t, j.Inside.Layers, 1)
	assert.Equal(t, "domain", j.Inside.Layers[0].Name, "no layer has the role: the innermost ring counts")
	assert.Equal(t, 1, j.Layers[0].Files)
	assert.Equal(t, 10, j.Layers[0].Lines)
	assert.NotEqual(t, f.Fingerprint, j.Findings[1].Fingerprint)
}

// A chain through unplaced code counts where a direct dependency would not be
// permitted: by the shortest way, once for each place where it leaves.
func TestRoundabout(t *testing.T) {
	const all = "booking desk domain far left main near store test"
	for _, c := range []struct {
		name string
		deps []string
		want []string
	}{
		{"through one file", []string{"domain left type", "left store call"}, []string{"domain>store: domain left"}},
		{"through three", []string{"domain left type", "left near type", "near far type", "far desk type"}, []string{"domain>desk: domain left near far"}},
		{"the shortest way", []string{"domain left type", "left near type", "near desk type", "domain near type"}, []string{"domain>desk: domain near"}},
		{"two ends", []string{"domain left type", "left desk type", "left store type"}, []string{"domain>desk: domain left", "domain>store: domain left"}},
		{"two layers", []string{"domain left type", "booking left type", "left desk type"}, []string{"booking>desk: booking left", "domain>desk: domain left"}},
		{"a shortcut", []string{"desk left type", "left store type"}, []string{"desk>store: desk left"}},
		{"a circle", []string{"domain left type", "left near type", "near left type", "near store type"}, []string{"domain>store: domain left near"}},
		{"inward is fine", []string{"desk left type", "left domain type"}, nil},
		{"back to the layer", []string{"domain left type", "left domain type"}, nil},
		{"through wiring is a backdoor", []string{"domain main type", "main store type"}, nil},
		{"tests may", []string{"test left type", "left store type"}, nil},
		{"unreached", []string{"left store type", "near desk type"}, nil},
	} {
		var got []string
		for _, f := range judged(tree(t, all, c.deps...), office()).Findings {
			if f.Kind != "roundabout" {
				continue
			}
			var by []string
			for _, s := range f.Chain {
				by = append(by, s[:strings.IndexByte(s, '/')])
			}
			got = append(got, f.From.Layer+">"+f.To.Layer+": "+strings.Join(by, " "))
			assert.Equal(t, f.From.File, f.Chain[0][:len(f.From.File)])
		}
		assert.Equal(t, c.want, got, c.name)
	}
}

// A fingerprint stays when lines move and when the used type moves.
func TestFingerprintSurvives(t *testing.T) {
	a := judged(tree(t, "desk domain", "domain desk type"), office()).Findings[0]
	b := judged(tree(t, "booking desk domain radio", "radio booking type", "desk booking type", "domain desk import", "domain desk type"), office()).Findings[0]
	assert.NotEqual(t, a.From.Line, b.From.Line)
	assert.Equal(t, a.Fingerprint, b.Fingerprint)
	c := *a
	c.To.File = "elsewhere/File.java"
	assert.Equal(t, a.Fingerprint, fingerprint(&c))
	for _, other := range []func(*Finding){
		func(f *Finding) { f.Kind = "sideways" }, func(f *Finding) { f.From.File = "x" }, func(f *Finding) { f.To.Name = "x" },
	} {
		c := *a
		other(&c)
		assert.NotEqual(t, a.Fingerprint, fingerprint(&c))
	}
}

// A waiver beats a house rule beats a layer's verdict beats the declaration's.
func TestPrecedence(t *testing.T) {
	g := tree(t, "desk domain", "domain desk type")
	d := office()
	assert.Equal(t, []string{"outward domain>desk"}, shown(judged(g, d)))
	d.Verdicts["outward"] = layout.Off
	j := judged(g, d)
	assert.Empty(t, j.Findings)
	assert.Equal(t, 1, j.Totals.Off)
	d.Layers[0].Verdicts = map[string]layout.Verdict{"outward": layout.Warn}
	assert.Equal(t, []string{"outward domain>desk warn"}, shown(judged(g, d)))
	d.HouseRules = []layout.HouseRule{
		{From: "domain", To: "radio", Verdict: layout.Error, Because: "another crossing"},
		{From: "domain", To: "desk", Kind: "sideways", Verdict: layout.Error, Because: "another kind"},
		{From: "domain", To: "desk", Verdict: layout.Note, Because: "as agreed"},
	}
	j = judged(g, d)
	assert.Equal(t, []string{"outward domain>desk note"}, shown(j))
	assert.Equal(t, "as agreed", j.Findings[0].Because)
	any := &layout.Pattern{Match: func(string) bool { return true }}
	d.Waivers = []layout.Waiver{{From: any, To: any, Until: today.AddDate(0, 0, 1), Because: "b", By: "c"}}
	j = judged(g, d)
	require.NotNil(t, j.Findings[0].CoveredBy)
	assert.Equal(t, 1, j.Inside.Covered)
	assert.Zero(t, j.Inside.Breaches)
	assert.Equal(t, Counts{Covered: 1}, j.Totals)
	assert.Empty(t, j.Idle)
	d.Waivers[0].Until = today.AddDate(0, 0, -2)
	j = judged(g, d)
	assert.Nil(t, j.Findings[0].CoveredBy)
	assert.Len(t, j.Expired, 1)
}

// Every kind can be explained, in every language it has an example in.
func TestKindsAreWhole(t *testing.T) {
	seen := make(map[string]bool)
	for _, k := range Kinds() {
		assert.False(t, seen[k.Name])
		seen[k.Name] = true
		assert.Contains(t, layout.KindNames, k.Name)
		assert.NotEmpty(t, k.Meaning)
		assert.NotEmpty(t, k.Why)
		assert.NotEmpty(t, k.Mend)
		assert.NotEmpty(t, k.Before)
		assert.Contains(t, layout.Verdicts, k.Default)
		for l := range k.Before {
			assert.NotEmpty(t, k.After[l], "%s in %s", k.Name, l)
		}
		assert.Same(t, k, Lookup(k.Name))
	}
	assert.Nil(t, Lookup("outwards"))
}

// Remedies follow from the way of use.
func TestRemedies(t *testing.T) {
	for how, want := range map[string]string{
		"inherit": "Turn it round", "construct": "Declare a port", "call": "Declare a port", "type": "Map at the border", "marker": "Take the marker off",
	} {
		f := judged(tree(t, "desk domain", "domain desk "+how), office()).Findings[0]
		assert.Contains(t, f.Remedy, want, how)
	}
}
