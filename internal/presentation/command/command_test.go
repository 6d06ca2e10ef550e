package command

import (
	"bytes"
	"encoding/csv"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"moatline/examples"
)

func run(args ...string) (status int, out, errs string) {
	var o, e bytes.Buffer
	status = Run(args, Streams{In: strings.NewReader(""), Out: &o, Err: &e}, Build{Version: "test"})
	return status, o.String(), e.String()
}

func demo(t *testing.T, lang string) string {
	t.Helper()
	dir := filepath.Join(t.TempDir(), "demo")
	require.NoError(t, writeDemo(dir, examples.Files(lang)))
	return dir
}

// What check writes as JSON is what docs/schema says it is.
func TestCheckSchema(t *testing.T) {
	s, err := jsonschema.NewCompiler().Compile("../../../docs/schema/check.schema.json")
	require.NoError(t, err)
	for _, lang := range examples.Languages {
		dir := demo(t, lang)
		// A waiver that holds, one that has ended and one that covers nothing.
		f, err := os.OpenFile(filepath.Join(dir, "moatline.yaml"), os.O_APPEND|os.O_WRONLY, 0)
		require.NoError(t, err)
		_, err = f.WriteString("\nwaivers:\n" +
			"  - {breach: \"**/*erth* -> **\", until: 2030-01-01, because: b, by: c}\n" +
			"  - {breach: \"**/*ide*{,/**}\", until: 2020-01-01, because: b, by: c}\n" +
			"  - {breach: nothing -> nowhere, until: 2030-01-01, because: b, by: c}\n")
		require.NoError(t, err)
		require.NoError(t, f.Close())
		status, out, errs := run("check", "--format", "json", dir)
		assert.Equal(t, ExitBreach, status)
		assert.Empty(t, errs)
		v, err := jsonschema.UnmarshalJSON(strings.NewReader(out))
		require.NoError(t, err)
		assert.NoError(t, s.Validate(v), lang)
		for _, want := range []string{`"covered-by"`, `"state": "expired"`, `"state": "idle"`} {
			assert.Contains(t, out, want)
		}
	}
}

// The facts as CSV are RFC 4180, whatever files are called.
func TestFactsCSVIsCSV(t *testing.T) {
	dir := t.TempDir()
	for name, text := range map[string]string{
		`a,"b.java`: "class A { B b; }", "new\nline.java": "class B { A a; }", "ü.java": "class C { A a; }",
	} {
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o644))
	}
	status, out, _ := run("facts", dir)
	require.Equal(t, ExitFine, status)
	rows, err := csv.NewReader(strings.NewReader(out)).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, [][]string{
		{"from", "line", "column", "how", "target", "to", "name", "count"},
		{`a,"b.java`, "1", "11", "type", "file", "new\nline.java", "B", "1"},
		{"new\nline.java", "1", "11", "type", "file", `a,"b.java`, "A", "1"},
		{"ü.java", "1", "11", "type", "file", `a,"b.java`, "A", "1"},
	}, rows)
}

// No processor count and no repetition changes a byte of any output.
func TestDeterminism(t *testing.T) {
	for _, lang := range examples.Languages {
		dir := demo(t, lang)
		for _, args := range [][]string{
			{"facts", "--places"}, {"facts", "--format", "jsonl"}, {"check"}, {"check", "--format", "json", "--all"},
			{"layers"}, {"layers", "--files"}, {"draft", "--print"},
		} {
			_, want, _ := run(append(args, "--jobs", "1", dir)...)
			require.NotEmpty(t, want)
			for _, jobs := range []string{"1", "2", "5", "16"} {
				_, got, _ := run(append(args, "--jobs", jobs, dir)...)
				assert.Equal(t, want, got, "%v with %s jobs", args, jobs)
			}
		}
	}
}

// Every command that is shown has help with an example, and an end that is
// no error.
func TestHelp(t *testing.T) {
	for _, c := range (&app{}).root().Commands() {
		if !c.IsAvailableCommand() || c.Name() == "help" || c.Name() == "completion" {
			continue
		}
		status, out, _ := run(c.Name(), "--help")
		assert.Equal(t, ExitFine, status)
		assert.Contains(t, out, "Usage:", c.Name())
		assert.NotEmpty(t, c.GroupID, c.Name())
		if c.Name() != "version" {
			assert.Contains(t, out, "Examples:", c.Name())
		}
	}
}
