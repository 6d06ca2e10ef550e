package link_test

import (
	"bytes"
	"flag"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/language"
	"moatline/internal/core/link"
	"moatline/internal/presentation/data"
)

var update = flag.Bool("update", false, "write what is found as what is wanted; read the difference before keeping it")

func readAll(t *testing.T, files []txtar.File) []*fact.File {
	t.Helper()
	r := language.NewReaders()
	var out []*fact.File
	for _, f := range files {
		if name := language.Of(f.Name); name != "" {
			out = append(out, r.Read(name, f.Name, f.Data))
		}
	}
	return out
}

func rows(t *testing.T, g *graph.Graph) string {
	t.Helper()
	var b bytes.Buffer
	require.NoError(t, data.FactsCSV(&b, g, true, 1))
	return b.String()
}

// Each archive in testdata is a small tree and, as its last file, every
// dependency of it, a row for each place.
func TestLink(t *testing.T) {
	archives, err := filepath.Glob("testdata/*.txtar")
	require.NoError(t, err)
	require.NotEmpty(t, archives)
	for _, path := range archives {
		t.Run(strings.TrimSuffix(filepath.Base(path), ".txtar"), func(t *testing.T) {
			a, err := txtar.ParseFile(path)
			require.NoError(t, err)
			n := len(a.Files) - 1
			require.Equal(t, "want", a.Files[n].Name)
			got := rows(t, link.Link(readAll(t, a.Files[:n]), 2))
			if *update {
				a.Files[n].Data = []byte(got)
				require.NoError(t, os.WriteFile(path, txtar.Format(a), 0o644))
				return
			}
			assert.Equal(t, string(a.Files[n].Data), got)
		})
	}
}

// Facts that went through text link to the same graph, in any order and on
// any number of processors.
func TestLinkFactsReadBack(t *testing.T) {
	archives, _ := filepath.Glob("testdata/*.txtar")
	for _, path := range archives {
		a, err := txtar.ParseFile(path)
		require.NoError(t, err)
		files := readAll(t, a.Files)
		want := rows(t, link.Link(files, 1))
		b := []byte(`{"moatline-facts":1}` + "\n")
		for i := len(files) - 1; i >= 0; i-- {
			line, err := fact.Line(files[i], nil)
			require.NoError(t, err)
			b = append(append(b, line...), '\n')
		}
		var back []*fact.File
		_, err = fact.Scan(bytes.NewReader(b), func(f *fact.File) error { back = append(back, f); return nil })
		require.NoError(t, err, path)
		assert.Equal(t, want, rows(t, link.Link(back, 4)), path)
	}
}
