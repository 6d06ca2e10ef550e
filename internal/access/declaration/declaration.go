// Package declaration finds and reads moatline.yaml, the file in which an
// architect declares an application's layers.
//
// All that is wrong with a file is told at once, each problem with its place,
// the line, what was expected and the nearest right word.
package declaration

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"unicode/utf8"

	"github.com/goccy/go-yaml/ast"
	"github.com/goccy/go-yaml/parser"

	"moatline/internal/core/layout"
	"moatline/internal/core/source"
)

// FileName is the name under which a declaration is looked for.
const FileName = "moatline.yaml"

// MaxSize is the size beyond which a file is not taken for a declaration.
const MaxSize = 1 << 20

// Find returns the path of the nearest declaration: in folder, or in the
// closest folder above it. found is false where there is none.
func Find(folder string) (path string, found bool, err error) {
	dir, err := filepath.Abs(folder)
	if err != nil {
		return "", false, err
	}
	for {
		p := filepath.Join(dir, FileName)
		if info, err := os.Stat(p); err == nil && !info.IsDir() {
			return p, true, nil
		}
		up := filepath.Dir(dir)
		if up == dir {
			return "", false, nil
		}
		dir = up
	}
}

// Load reads the declaration at path. show is the name that problems give the
// file. The error is Problems where the text is wrong; the declaration is
// returned where there are none but warnings, which come with it.
func Load(path, show string) (*layout.Declaration, Problems, error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, nil, err
	}
	defer f.Close()
	if info, err := f.Stat(); err == nil && info.IsDir() {
		return nil, nil, fmt.Errorf("%s is a folder; a declaration is a file", show)
	}
	data, err := io.ReadAll(io.LimitReader(f, MaxSize+1))
	if err != nil {
		return nil, nil, err
	}
	return Parse(data, show)
}

// Parse reads a declaration from its text.
func Parse(data []byte, show string) (*layout.Declaration, Problems, error) {
	r := &reading{show: show}
	if len(data) > MaxSize {
		r.problems = Problems{{File: show, Message: "larger than 1 MiB", Hint: "A declaration is a page or two; is this the right file?"}}
		return nil, nil, r.problems
	}
	text, ok := source.Text(data)
	if !ok || bytes.IndexByte(text, 0) >= 0 {
		return nil, nil, Problems{{File: show, Message: "binary data, not a YAML text", Hint: "Write one with: moatline draft"}}
	}
	r.lines = strings.Split(string(text), "\n")
	if p := r.tooDeep(); p != nil {
		return nil, nil, Problems{*p}
	}
	file, err := parse(text)
	if err != nil {
		return nil, nil, Problems{r.syntaxError(err)}
	}
	d := r.declaration(file)
	r.problems.sort()
	if r.problems.Errors() {
		return nil, nil, r.problems
	}
	return d, r.problems, nil
}

// parse shields from what a YAML library may do with hostile text.
func parse(text []byte) (file *ast.File, err error) {
	defer func() {
		if e := recover(); e != nil {
			err = errors.New("the YAML parser gave up on this text")
		}
	}()
	return parser.ParseBytes(text, 0)
}

// tooDeep looks for nesting that no declaration has and that parsers choke on.
func (r *reading) tooDeep() *Problem {
	const most = 60
	depth := 0
	for n, line := range r.lines {
		blank := len(line) - len(strings.TrimLeft(line, " \t-?"))
		indent := strings.Count(line[:blank], "- ") + strings.Count(line[:blank], "? ")
		quote := rune(0)
		for i, c := range line {
			switch {
			case quote != 0:
				if c == quote {
					quote = 0
				}
			case c == '"' || c == '\'':
				quote = c
			case c == '#' && (i == 0 || line[i-1] == ' '):
				quote = -1 // to the end of the line
			case c == '[' || c == '{':
				depth++
			case c == ']' || c == '}':
				depth = max(0, depth-1)
			}
		}
		if depth > most || indent > most || blank > 40*most || strings.Count(line, ": ") > 20*most {
			return &Problem{File: r.show, Line: n + 1, Column: 1, Source: line,
				Message: "nested too deeply for a declaration", Hint: "A declaration nests about five levels: rings, layers, keys, lists."}
		}
	}
	return nil
}

func (r *reading) syntaxError(err error) Problem {
	p := Problem{File: r.show, Message: "not valid YAML: " + err.Error(), Hint: "See the example in: moatline check --help"}
	var located interface {
		GetMessage() string
	}
	var token interface{ GetToken() *tokenType }
	if errors.As(err, &located) {
		p.Message = "not valid YAML: " + located.GetMessage()
	}
	if errors.As(err, &token) {
		if t := token.GetToken(); t != nil && t.Position != nil {
			p.Line, p.Column = t.Position.Line, max(1, t.Position.Column)
			p.Source = r.line(p.Line)
		}
	}
	p.Hint = "Check the indentation and quotes around this line."
	return p
}

func (r *reading) line(n int) string {
	if n < 1 || n > len(r.lines) {
		return ""
	}
	return r.lines[n-1]
}

// reading is one file being read.
type reading struct {
	show     string
	lines    []string
	problems Problems
}

// problem records an error at a node.
func (r *reading) problem(n ast.Node, message, hint string) {
	r.add(n, message, hint, false)
}

func (r *reading) add(n ast.Node, message, hint string, warning bool) {
	at := r.pos(n)
	r.problems = append(r.problems, Problem{
		File: r.show, Line: at.Line, Column: at.Column, Source: r.line(at.Line),
		Message: message, Hint: hint, Warning: warning,
	})
}

func (r *reading) pos(n ast.Node) layout.Pos {
	if n == nil || n.GetToken() == nil || n.GetToken().Position == nil {
		return layout.Pos{}
	}
	t := n.GetToken()
	if m, ok := n.(*ast.MappingNode); ok && len(m.Values) > 0 && !m.IsFlowStyle {
		t = m.Values[0].Key.GetToken()
	}
	if m, ok := n.(*ast.MappingValueNode); ok {
		t = m.Key.GetToken()
	}
	p := layout.Pos{Line: t.Position.Line, Column: max(1, t.Position.Column)}
	// Columns count characters.
	if line := r.line(p.Line); !utf8.ValidString(line) {
		p.Column = 1
	}
	return p
}

// Warn makes a problem of something that judging found out about a place in
// the declaration, such as a pattern that matches nothing.
func Warn(path, show string, at layout.Pos, message, hint string) Problem {
	return located(path, show, at, message, hint, true)
}

// Fail is Warn for what keeps the declaration from use.
func Fail(path, show string, at layout.Pos, message, hint string) Problem {
	return located(path, show, at, message, hint, false)
}

func located(path, show string, at layout.Pos, message, hint string, warning bool) Problem {
	p := Problem{File: show, Line: at.Line, Column: at.Column, Message: message, Hint: hint, Warning: warning}
	if data, err := os.ReadFile(path); err == nil {
		if text, ok := source.Text(data); ok {
			lines := strings.Split(string(text), "\n")
			if at.Line >= 1 && at.Line <= len(lines) {
				p.Source = lines[at.Line-1]
			}
		}
	}
	return p
}
