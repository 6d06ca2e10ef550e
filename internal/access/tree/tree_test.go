package tree

import (
	"fmt"
	"os"
	"path/filepath"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func write(t *testing.T, root string, files map[string]string) {
	t.Helper()
	for p, text := range files {
		full := filepath.Join(root, filepath.FromSlash(p))
		require.NoError(t, os.MkdirAll(filepath.Dir(full), 0o755))
		require.NoError(t, os.WriteFile(full, []byte(text), 0o644))
	}
}

func paths(tr *Tree) (out []string) {
	for _, f := range tr.Files {
		out = append(out, f.Path)
	}
	return out
}

// Each folder that a tool makes is left out with its evidence and read
// without it.
func TestEvidence(t *testing.T) {
	for _, c := range []struct {
		folder   string
		evidence map[string]string
	}{
		{"target", map[string]string{"pom.xml": "<project/>"}},
		{"target", map[string]string{"Cargo.toml": ""}},
		{"build", map[string]string{"build.gradle.kts": ""}},
		{"build", map[string]string{"settings.gradle": ""}},
		{"build", map[string]string{"pyproject.toml": ""}},
		{"bin", map[string]string{"Office.csproj": ""}},
		{"bin", map[string]string{".classpath": ""}},
		{"obj", map[string]string{"Office.vbproj": ""}},
		{"out", map[string]string{"office.iml": ""}},
		{"dist", map[string]string{"package.json": "{}"}},
		{"node_modules", map[string]string{"package.json": "{}"}},
		{"node_modules", map[string]string{"node_modules/.package-lock.json": "{}"}},
		{"vendor", map[string]string{"go.mod": "module q", "vendor/modules.txt": ""}},
		{"vendor", map[string]string{"composer.json": "{}", "vendor/autoload.php": ""}},
		{"venv", map[string]string{"venv/pyvenv.cfg": ""}},
		{"__pycache__", map[string]string{"__pycache__/a.pyc": ""}},
		{".git", map[string]string{".git/HEAD": ""}},
		{"any", map[string]string{".gitignore": "any/\n"}},
		{"any", map[string]string{".gitignore": "*\n!.gitignore\n!keep.java\n"}},
	} {
		name := fmt.Sprint(c.folder, c.evidence)
		root := t.TempDir()
		write(t, root, map[string]string{c.folder + "/A.java": "class A { }", "keep.java": "class K { }"})
		without, err := Read(root, Options{})
		require.NoError(t, err)
		assert.ElementsMatch(t, []string{c.folder + "/A.java", "keep.java"}, paths(without), name)
		write(t, root, c.evidence)
		with, err := Read(root, Options{})
		require.NoError(t, err)
		assert.NotContains(t, paths(with), c.folder+"/A.java", name)
		assert.Contains(t, paths(with), "keep.java", name)
		require.NotEmpty(t, with.Skipped, name)
		assert.NotEmpty(t, with.Skipped[0].Why, name)
	}
	// Half of the evidence is none.
	root := t.TempDir()
	write(t, root, map[string]string{"vendor/modules.txt": "", "vendor/a.go": "package a", "sub/go.mod": "module q", "sub/vendor/b.go": "package b"})
	got, err := Read(root, Options{})
	require.NoError(t, err)
	assert.Equal(t, []string{"sub/go.mod", "sub/vendor/b.go", "vendor/a.go"}, paths(got))
}

// Many files in one folder, and deep folders, come out sorted and whole on any
// number of workers.
func TestLargeTree(t *testing.T) {
	root := t.TempDir()
	files := make(map[string]string)
	for i := range 300 {
		files[fmt.Sprintf("flat/F%03d.java", i)] = "class A { B b; }"
		files[fmt.Sprintf("d%d/e%d/f%d/G.java", i%7, i%11, i)] = "class G { }"
	}
	write(t, root, files)
	for _, jobs := range []int{1, 2, 8} {
		var done atomic.Int64
		tr, err := Read(root, Options{Jobs: jobs, Done: &done})
		require.NoError(t, err)
		assert.Len(t, tr.Files, 600)
		assert.EqualValues(t, 600, done.Load())
		for i := 1; i < len(tr.Files); i++ {
			require.Less(t, tr.Files[i-1].Path, tr.Files[i].Path)
		}
		assert.EqualValues(t, 300*len("class A { B b; }")+300*len("class G { }"), tr.Bytes)
	}
}

func TestNoTree(t *testing.T) {
	_, err := Read(filepath.Join(t.TempDir(), "gone"), Options{})
	assert.ErrorIs(t, err, os.ErrNotExist)
	file := filepath.Join(t.TempDir(), "file")
	require.NoError(t, os.WriteFile(file, nil, 0o644))
	_, err = Read(file, Options{})
	assert.EqualError(t, err, "not a folder")
}
