// The golang check lists, for each file of the Go packages it is given, the
// files of the same tree that declare the package-level names which the
// standard library's type checker resolves the file's identifiers to.
//
//	usage: golang ROOT PATTERN... > pairs.tsv
//
// It runs go list in ROOT for the files of this platform and for export data.
// Output is one line "from TAB to" a pair, relative to ROOT, and one line
// "file TAB path" for each file checked.
package main

import (
	"bufio"
	"encoding/json"
	"errors"
	"fmt"
	"go/ast"
	"go/build"
	"go/importer"
	"go/parser"
	"go/token"
	"go/types"
	"io"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"sort"
	"strings"
)

type listed struct {
	ImportPath, Dir, Export string
	GoFiles                 []string
	ImportMap               map[string]string
	DepOnly                 bool
}

func main() {
	log.SetFlags(0)
	root, err := filepath.EvalSymlinks(os.Args[1])
	if err != nil {
		log.Fatal(err)
	}
	goroot, err := filepath.EvalSymlinks(build.Default.GOROOT)
	if err != nil {
		log.Fatal(err)
	}
	cmd := exec.Command("go", append([]string{"list", "-e", "-export", "-deps", "-json=ImportPath,Dir,Export,GoFiles,ImportMap,DepOnly"}, os.Args[2:]...)...)
	cmd.Dir = root
	cmd.Env = append(os.Environ(), "CGO_ENABLED=0")
	cmd.Stderr = os.Stderr
	out, err := cmd.Output()
	if err != nil {
		log.Fatal(err)
	}
	var packages []listed
	exports := make(map[string]string)
	for dec := json.NewDecoder(strings.NewReader(string(out))); ; {
		var p listed
		if err := dec.Decode(&p); errors.Is(err, io.EOF) {
			break
		} else if err != nil {
			log.Fatal(err)
		}
		exports[p.ImportPath] = p.Export
		packages = append(packages, p)
	}
	pairs := make(map[string]bool)
	failed := 0
	for _, p := range packages {
		rel, err := filepath.Rel(root, p.Dir)
		if err != nil || strings.HasPrefix(rel, "..") || p.DepOnly {
			continue
		}
		fset := token.NewFileSet()
		var files []*ast.File
		for _, name := range p.GoFiles {
			f, err := parser.ParseFile(fset, filepath.Join(p.Dir, name), nil, parser.SkipObjectResolution)
			if err != nil {
				log.Print(err)
				continue
			}
			files = append(files, f)
			pairs["file\t"+filepath.ToSlash(filepath.Join(rel, name))] = true
		}
		lookup := func(path string) (io.ReadCloser, error) {
			if to := p.ImportMap[path]; to != "" {
				path = to
			}
			return os.Open(exports[path])
		}
		info := &types.Info{Uses: make(map[*ast.Ident]types.Object)}
		conf := types.Config{Importer: importer.ForCompiler(fset, "gc", lookup), FakeImportC: true, Error: func(error) {}}
		if _, err := conf.Check(p.ImportPath, fset, files, info); err != nil {
			failed++
		}
		for id, obj := range info.Uses {
			if obj.Pkg() == nil || obj.Parent() != obj.Pkg().Scope() || !obj.Pos().IsValid() {
				continue
			}
			from := fset.Position(id.Pos()).Filename
			to := fset.Position(obj.Pos()).Filename
			if rest, ok := strings.CutPrefix(to, "$GOROOT/src"); ok {
				to = filepath.Join(goroot, "src") + rest
			}
			a, errA := filepath.Rel(root, from)
			b, errB := filepath.Rel(root, to)
			if errA != nil || errB != nil || strings.HasPrefix(b, "..") || a == b {
				continue
			}
			pairs[filepath.ToSlash(a)+"\t"+filepath.ToSlash(b)] = true
		}
	}
	lines := make([]string, 0, len(pairs))
	for l := range pairs {
		lines = append(lines, l)
	}
	sort.Strings(lines)
	w := bufio.NewWriter(os.Stdout)
	defer w.Flush()
	for _, l := range lines {
		fmt.Fprintln(w, l)
	}
	fmt.Fprintf(os.Stderr, "%d packages, %d lines, %d packages with type errors\n", len(packages), len(lines), failed)
}
