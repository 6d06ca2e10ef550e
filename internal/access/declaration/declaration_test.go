package declaration

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/goccy/go-yaml"
	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"moatline/internal/core/layout"
)

const whole = `
application: Quayside harbour office
rings:
  - domain:
      files: src/domain/**
      keeps-out: everything
      admits: logging
  - business logic:
      files: [src/booking/**, src/dues/**]
      packages: harbour.booking.**
      modules: booking-*
      marked: "@UseCase"
      except: "**/*Gen.java"
      answers-to: harbour master
      verdicts: {sideways: note}
  - presentation:
      files: src/desk/**
    far side:
      role: data access
      only-for: [business logic, presentation]
      note: speaks to the database
  - sketch
wiring: src/main/**
tests: ["**/*_test.go", "src/test/**"]
skip: gen/**
include: target/kept/**
technologies:
  payments: ["com.acme.pay.**"]
verdicts:
  shortcut: warn
  unplaced: off
house-rules:
  - crossing: presentation -> far side
    kind: shortcut
    verdict: note
    because: read-only timetables
waivers:
  - breach: src/domain/Berth.java -> src/store/**
    until: 2027-03-31
    because: moves out with the tide tables
    by: harbour office
`

func TestParseEveryKey(t *testing.T) {
	d, warnings, err := Parse([]byte(whole), "moatline.yaml")
	require.NoError(t, err)
	assert.Empty(t, warnings)
	assert.Equal(t, "Quayside harbour office", d.Application)
	require.Len(t, d.Layers, 5)
	require.Len(t, d.Rings, 4)
	business, far := d.Layer("business logic"), d.Layer("far side")
	assert.Equal(t, layout.BusinessLogic, business.Role)
	assert.Equal(t, "harbour master", business.AnswersTo)
	assert.Equal(t, map[string]layout.Verdict{"sideways": layout.Note}, business.Verdicts)
	assert.Equal(t, []string{"everything"}, d.Layer("domain").KeepsOut)
	assert.Equal(t, []string{"logging"}, d.Layer("domain").Admits)
	assert.Equal(t, layout.DataAccess, far.Role)
	assert.Equal(t, d.Layer("presentation").Ring, far.Ring)
	assert.Equal(t, layout.Shortcut, layout.Between(d.Layer("sketch"), far))
	assert.Equal(t, layout.NoRole, d.Layer("sketch").Role)
	assert.Equal(t, map[string]layout.Verdict{"shortcut": layout.Warn, "unplaced": layout.Off}, d.Verdicts)
	assert.Equal(t, []string{"com.acme.pay.**"}, d.Technologies["payments"])
	require.Len(t, d.HouseRules, 1)
	assert.Equal(t, "shortcut", d.HouseRules[0].Kind)
	require.Len(t, d.Waivers, 1)
	w := d.Waivers[0]
	assert.Equal(t, "2027-03-31", w.Until.Format("2006-01-02"))
	assert.False(t, w.Expired(w.Until.Add(23*60*60*1e9)))
	assert.True(t, w.Expired(w.Until.AddDate(0, 0, 1)))
	for _, l := range [][]layout.Pattern{business.Files, business.Packages, business.Modules, business.Marked, business.Except, d.Wiring, d.Tests, d.Skip, d.Include} {
		assert.NotEmpty(t, l)
	}
}

func TestGlob(t *testing.T) {
	for _, c := range []struct {
		pattern  string
		yes, not []string
	}{
		{"src/domain/**", []string{"src/domain/A.java", "src/domain/deep/B.java"}, []string{"src/domain", "src/domains/A.java", "x/src/domain/A.java"}},
		{"./src/A.java", []string{"src/A.java"}, []string{"A.java"}},
		{"**/*_test.go", []string{"a_test.go", "x/y/a_test.go"}, []string{"a.go", "a_test.goo"}},
		{"src/*", []string{"src/A.java"}, []string{"src/x/A.java"}},
		{"src/{desk,web}/**", []string{"src/desk/A.java", "src/web/x/B.java"}, []string{"src/store/A.java"}},
		{"a/**/z/*.java", []string{"a/z/A.java", "a/b/c/z/A.java"}, []string{"a/b/A.java"}},
		{"**", []string{"A", "a/b/c"}, nil},
		{"src/desk/", []string{"src/desk"}, []string{"src/desk/A"}},
		{"[ab].go", []string{"a.go"}, []string{"c.go", "[ab].go"}},
	} {
		match, why := Glob(c.pattern)
		require.Empty(t, why, c.pattern)
		for _, p := range c.yes {
			assert.True(t, match(p), "%s should match %s", c.pattern, p)
		}
		for _, p := range c.not {
			assert.False(t, match(p), "%s should not match %s", c.pattern, p)
		}
	}
	for _, bad := range []string{"/abs", "../up", "a/../b", "a[", "{a,b", `src\desk`, `a\`} {
		_, why := Glob(bad)
		assert.NotEmpty(t, why, bad)
	}
}

// Columns count characters, and long lines are cut around the place.
func TestProblemShowsItsPlace(t *testing.T) {
	_, _, err := Parse([]byte("rings:\n  - ünï: {fles: x}\n"), "d.yaml")
	assert.EqualError(t, err, "d.yaml:2:11: error: the layer ünï has no key \"fles\"\n"+
		"      - ünï: {fles: x}\n"+
		"              ^\n"+
		"    Did you mean files? Its keys are files, packages, modules, marked, except, role, keeps-out, admits,\n"+
		"    only-for, answers-to, note, verdicts.")
	p := Problem{File: "d", Line: 1, Column: 300, Source: strings.Repeat("x", 299) + "\tY\x1b" + strings.Repeat("z", 300), Message: "m"}
	lines := strings.Split(p.String(), "\n")
	assert.LessOrEqual(t, len(lines[1]), 104+len("·"))
	assert.Contains(t, lines[1], "Y·")
	assert.NotContains(t, p.String(), "\x1b")
}

func schema(t *testing.T, name string) *jsonschema.Schema {
	t.Helper()
	s, err := jsonschema.NewCompiler().Compile(filepath.Join("../../../docs/schema", name))
	require.NoError(t, err)
	return s
}

func validate(t *testing.T, s *jsonschema.Schema, text []byte) error {
	t.Helper()
	j, err := yaml.YAMLToJSON(text)
	require.NoError(t, err)
	v, err := jsonschema.UnmarshalJSON(strings.NewReader(string(j)))
	require.NoError(t, err)
	return s.Validate(v)
}

// The published schema says what the reader says.
func TestSchemaAgrees(t *testing.T) {
	s := schema(t, "moatline.schema.json")
	assert.NoError(t, validate(t, s, []byte(whole)))
	for _, p := range []string{"../../../moatline.yaml", "../../../examples/java/moatline.yaml", "../../../examples/go/moatline.yaml"} {
		text, err := os.ReadFile(p)
		require.NoError(t, err)
		assert.NoError(t, validate(t, s, text), p)
		_, _, err = Load(p, p)
		assert.NoError(t, err, p)
	}
	for _, bad := range []string{
		"application: q\n",
		"rings: []\n",
		"rings: [{domain: {fils: x}}]\n",
		"rings: [{wiring: {files: x}}]\n",
		"rings: [domain]\nverdicts: {outwards: error}\n",
		"rings: [domain]\nverdicts: {outward: fatal}\n",
		"rings: [{domain: {role: king}}]\n",
		"rings: [domain]\nwaivers: [{breach: a, until: soon, because: b, by: c}]\n",
		"rings: [domain]\nhouse-rules: [{crossing: domain -> domain, verdict: note}]\n",
		"rings: [domain]\nextra: 1\n",
	} {
		assert.Error(t, validate(t, s, []byte(bad)), bad)
		_, _, err := Parse([]byte(bad), "d.yaml")
		assert.Error(t, err, bad)
	}
	var raw struct {
		Properties map[string]any
		Defs       map[string]struct {
			Enum       []any
			Properties map[string]any
		} `json:"$defs"`
	}
	text, err := os.ReadFile("../../../docs/schema/moatline.schema.json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(text, &raw))
	assert.ElementsMatch(t, topKeys, keys(raw.Properties))
	assert.ElementsMatch(t, layerKeys, keys(raw.Defs["layer"].Properties))
	for i, k := range layout.KindNames {
		assert.Equal(t, k, raw.Defs["kind"].Enum[i])
	}
}

func keys(m map[string]any) []string {
	var out []string
	for k := range m {
		out = append(out, k)
	}
	return out
}

// FuzzParse: any bytes end in a declaration or in problems, never in a crash.
func FuzzParse(f *testing.F) {
	f.Add([]byte(whole))
	f.Add([]byte("rings: &a [*a]"))
	f.Add([]byte("? - - ?\n: |\n  x"))
	f.Add([]byte("rings:\n  - !!map {domain: {files: [a, [b]]}}\n<<: {a: b}"))
	f.Add([]byte("\xff\xfer\x00i\x00"))
	f.Fuzz(func(t *testing.T, text []byte) {
		stuck := time.AfterFunc(20*time.Second, func() { panic(fmt.Sprintf("stuck on %q", text)) })
		defer stuck.Stop()
		d, _, err := Parse(text, "d.yaml")
		if err == nil && len(d.Layers) == 0 {
			t.Error("a declaration without a layer was accepted")
		}
		if err != nil && err.Error() == "" {
			t.Error("an error without words")
		}
	})
}
