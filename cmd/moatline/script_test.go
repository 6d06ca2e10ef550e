package main

import (
	"bytes"
	"flag"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/rogpeppe/go-internal/testscript"

	"moatline/examples"
)

var update = flag.Bool("update", false, "write the output of the scripts as what they want; read the difference before keeping it")

func TestMain(m *testing.M) {
	testscript.Main(m, map[string]func(){"moatline": main})
}

// TestScript drives the program as a user does. Each script in
// testdata/script is a tree in a temporary folder and what is typed in it.
func TestScript(t *testing.T) {
	testscript.Run(t, testscript.Params{
		Dir:                 "testdata/script",
		UpdateScripts:       *update,
		RequireExplicitExec: false,
		Setup: func(e *testscript.Env) error {
			e.Setenv("NO_COLOR", "1")
			e.Setenv("COLUMNS", "")
			repo, err := filepath.Abs("../..")
			e.Setenv("REPO", repo)
			return err
		},
		Cmds: map[string]func(ts *testscript.TestScript, neg bool, args []string){
			"encode":    encode,
			"make":      makeFile,
			"status":    status,
			"asnobody":  asNobody,
			"writedemo": writeDemo,
		},
	})
}

// encode FILE ENCODING writes a file anew in another encoding.
func encode(ts *testscript.TestScript, _ bool, args []string) {
	p := ts.MkAbs(args[0])
	data, err := os.ReadFile(p)
	ts.Check(err)
	text := string(data)
	var out []byte
	switch args[1] {
	case "utf8bom":
		out = append([]byte("\xEF\xBB\xBF"), data...)
	case "utf16le", "utf16be", "utf16plain":
		if args[1] != "utf16plain" {
			text = "\uFEFF" + text
		}
		for _, u := range utf16.Encode([]rune(text)) {
			if args[1] == "utf16be" {
				out = append(out, byte(u>>8), byte(u))
			} else {
				out = append(out, byte(u), byte(u>>8))
			}
		}
	case "latin1":
		for _, r := range text {
			out = append(out, byte(r))
		}
	case "crlf":
		out = []byte(strings.ReplaceAll(text, "\n", "\r\n"))
	case "cr":
		out = []byte(strings.ReplaceAll(text, "\n", "\r"))
	default:
		ts.Fatalf("no encoding %s", args[1])
	}
	ts.Check(os.WriteFile(p, out, 0o644))
}

// make FILE WHAT writes a file that would be too large or too odd to stand in
// a script.
func makeFile(ts *testscript.TestScript, _ bool, args []string) {
	p := ts.MkAbs(args[0])
	ts.Check(os.MkdirAll(filepath.Dir(p), 0o755))
	var b bytes.Buffer
	switch args[1] {
	case "large-java": // 50 MB, the last line of which uses a type
		b.WriteString("package q;\nclass Large {\n")
		line := "    int depth(int x) { return x * 3 + \"fathoms and fathoms of water\".length(); } // soundings\n"
		for b.Len() < 50<<20 {
			b.WriteString(line)
		}
		b.WriteString("    Lamp lamp;\n}\n")
	case "long-line": // one line of a megabyte
		b.WriteString("package q; class Long { int[] a = {")
		b.WriteString(strings.Repeat("1,", 1<<19))
		b.WriteString("}; Lamp lamp; }\n")
	case "brackets":
		b.WriteString("package q; class Deep { Lamp before; Object o = ")
		b.WriteString(strings.Repeat(args[2], 5<<20/len(args[2])))
		b.WriteString("\n")
	case "nul":
		b.WriteString("package q;\nclass Nul {\x00\x00 Lamp\x00 lamp; }\n")
	case "binary":
		for i := range 4096 {
			b.WriteByte(byte(i * 7 % 31))
		}
	case "yaml-large":
		b.WriteString("application: q\n")
		for b.Len() < 10<<20 {
			b.WriteString("# a comment that says nothing\n")
		}
	case "yaml-deep":
		b.WriteString("rings: " + strings.Repeat("[", 200000) + "\n")
	case "yaml-deep-block":
		b.WriteString("rings: \n  " + strings.Repeat("- ", 20000) + "x\n")
	case "huge": // beyond what is read; a hole on disk
		f, err := os.Create(p)
		ts.Check(err)
		ts.Check(f.Truncate(2 << 30))
		ts.Check(f.Close())
		return
	default:
		ts.Fatalf("cannot make %s", args[1])
	}
	ts.Check(os.WriteFile(p, b.Bytes(), 0o644))
}

// status N COMMAND... runs a command that must end with exit status N, and
// keeps what it printed for stdout, stderr and cmp.
func status(ts *testscript.TestScript, _ bool, args []string) {
	want, err := strconv.Atoi(args[0])
	ts.Check(err)
	err = ts.Exec(args[1], args[2:]...)
	got := 0
	if err != nil {
		exit, ok := err.(*exec.ExitError)
		if !ok {
			ts.Fatalf("%v", err)
		}
		got = exit.ExitCode()
	}
	if got != want {
		ts.Fatalf("exit status %d, want %d\n%s%s", got, want, ts.ReadFile("stdout"), ts.ReadFile("stderr"))
	}
}

// writedemo LANGUAGE FOLDER writes the demo's files.
func writeDemo(ts *testscript.TestScript, _ bool, args []string) {
	for _, f := range examples.Files(args[0]) {
		p := filepath.Join(ts.MkAbs(args[1]), filepath.FromSlash(f.Path))
		ts.Check(os.MkdirAll(filepath.Dir(p), 0o755))
		ts.Check(os.WriteFile(p, f.Data, 0o644))
	}
}

// The Go demo is embedded as an archive of its folder; the two must agree.
func TestDemoArchive(t *testing.T) {
	files := examples.Files("go")
	if len(files) < 30 {
		t.Fatalf("the Go demo has %d files", len(files))
	}
	seen := make(map[string]bool)
	for _, f := range files {
		seen[f.Path] = true
		data, err := os.ReadFile(filepath.Join("../../examples/go", filepath.FromSlash(f.Path)))
		if err != nil || !bytes.Equal(data, f.Data) {
			t.Errorf("%s differs from the archive (%v); run: go generate ./examples", f.Path, err)
		}
	}
	err := filepath.WalkDir("../../examples/go", func(p string, d os.DirEntry, err error) error {
		if rel, _ := filepath.Rel("../../examples/go", p); err == nil && !d.IsDir() && !seen[filepath.ToSlash(rel)] {
			t.Errorf("%s is not in the archive; run: go generate ./examples", rel)
		}
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
}

// The demo compiles for real.
func TestDemoCompiles(t *testing.T) {
	t.Run("java", func(t *testing.T) {
		javac, err := exec.LookPath("javac")
		if err != nil {
			t.Skip("no javac on this machine: the Java demo is not compiled")
		}
		args := []string{"-d", t.TempDir()}
		root := t.TempDir()
		for _, f := range examples.Files("java") {
			p := filepath.Join(root, filepath.FromSlash(f.Path))
			if err := os.MkdirAll(filepath.Dir(p), 0o755); err != nil {
				t.Fatal(err)
			}
			if err := os.WriteFile(p, f.Data, 0o644); err != nil {
				t.Fatal(err)
			}
			if strings.HasSuffix(p, ".java") {
				args = append(args, p)
			}
		}
		if out, err := exec.Command(javac, args...).CombinedOutput(); err != nil {
			t.Fatalf("%v\n%s", err, out)
		}
	})
	t.Run("go", func(t *testing.T) {
		for _, args := range [][]string{{"build", "./..."}, {"vet", "./..."}, {"test", "./..."}} {
			cmd := exec.Command("go", args...)
			cmd.Dir = "../../examples/go"
			cmd.Env = append(os.Environ(), "GOWORK=off", "GOFLAGS=")
			if out, err := cmd.CombinedOutput(); err != nil {
				t.Fatalf("go %v: %v\n%s", args, err, out)
			}
		}
	})
}

// The program's own tree keeps to its own declaration.
func TestOwnTree(t *testing.T) {
	exe, err := os.Executable()
	if err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	link := filepath.Join(dir, "moatline")
	if err := os.Symlink(exe, link); err != nil {
		t.Skip("no links on this machine: the own tree is checked by the continuous integration")
	}
	cmd := exec.Command(link, "check", "--fail-on", "warn", "../..")
	out, err := cmd.CombinedOutput()
	if err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
	if want := "Nothing crosses a line it must not"; !strings.Contains(string(out), want) {
		t.Fatalf("want %q in\n%s", want, out)
	}
}
