package command

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"runtime"
	"runtime/debug"
	"strings"
	"sync/atomic"
	"time"

	"github.com/schollz/progressbar/v3"
	"golang.org/x/term"

	"moatline/internal/access/declaration"
	"moatline/internal/access/tree"
	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/language"
	"moatline/internal/core/layout"
	"moatline/internal/core/link"
)

// loaded is what most commands work on.
type loaded struct {
	root      string // folder that the paths begin at; "" for facts read from files
	declPath  string
	declShow  string
	decl      *layout.Declaration // nil where there is none and none is needed
	tree      *tree.Tree
	graph     *graph.Graph
	placement *layout.Placement // nil without a declaration
}

// need says what a command cannot do without.
type need struct {
	declaration bool
	place       bool // place the files if there is a declaration
}

// load reads the tree of a command's folder argument, and the declaration.
func (a *app) load(args []string, n need) (*loaded, error) {
	l := &loaded{}
	if err := a.locate(l, args, n); err != nil {
		return nil, err
	}
	if err := a.readTree(l, nil); err != nil {
		return nil, err
	}
	return l, a.linkAndPlace(l, n)
}

// locate finds the folder and the declaration, and reads the declaration.
func (a *app) locate(l *loaded, args []string, n need) error {
	folder := ""
	if len(args) > 0 {
		folder = args[0]
		if err := isFolder(folder); err != nil {
			return err
		}
	}
	switch {
	case a.declaration != "":
		l.declPath = a.declaration
		if l.root = folder; folder == "" {
			l.root = filepath.Dir(a.declaration)
		}
	case folder != "":
		l.root = folder
		p := filepath.Join(folder, declaration.FileName)
		if _, err := os.Stat(p); err == nil {
			l.declPath = p
		} else if n.declaration {
			if near, found, _ := declaration.Find(folder); found {
				return fmt.Errorf("there is no %s in %s\nThe nearest one above is %s; to judge the whole tree it declares: moatline check %s",
					declaration.FileName, folder, near, filepath.Dir(near))
			}
		}
	default:
		p, found, err := declaration.Find(".")
		if err != nil {
			return err
		}
		l.root = "."
		if found {
			l.declPath = relative(p)
			l.root = filepath.Dir(l.declPath)
		}
	}
	if l.declPath == "" {
		if n.declaration {
			where := l.root
			if where == "." {
				where = "this folder or any above it"
			}
			return fmt.Errorf("there is no %s in %s, so there are no layers to judge by\nPropose one from the tree: moatline draft%s",
				declaration.FileName, where, optional(folder))
		}
		return nil
	}
	l.declShow = filepath.ToSlash(l.declPath)
	d, warnings, err := declaration.Load(l.declPath, l.declShow)
	if err != nil {
		var problems declaration.Problems
		if errors.As(err, &problems) {
			return fmt.Errorf("the declaration cannot be used\n%w", err)
		}
		return fmt.Errorf("cannot read the declaration: %w", err)
	}
	if !a.quiet {
		for _, w := range warnings {
			fmt.Fprint(a.Err, w.String())
		}
	}
	l.decl = d
	return nil
}

func optional(folder string) string {
	if folder == "" {
		return ""
	}
	return " " + folder
}

func isFolder(folder string) error {
	info, err := os.Stat(folder)
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return fmt.Errorf("there is no folder %s", folder)
	case err != nil:
		return fmt.Errorf("cannot read the folder %s: %w", folder, err)
	case !info.IsDir():
		return fmt.Errorf("%s is a file; name the folder that holds the tree", folder)
	}
	return nil
}

// relative shows a path from the working folder where that is shorter.
func relative(p string) string {
	if wd, err := os.Getwd(); err == nil {
		if rel, err := filepath.Rel(wd, p); err == nil && len(rel) < len(p) {
			return rel
		}
	}
	return p
}

// readTree reads all files of the tree that the shard, if any, takes.
func (a *app) readTree(l *loaded, shard func(string) bool) error {
	o := tree.Options{Jobs: a.jobs, Shard: shard, Done: new(atomic.Int64), Size: memoryFor}
	if d := l.decl; d != nil {
		if len(d.Skip) > 0 {
			o.Skip = func(p string) bool {
				_, ok := layout.Matches(d.Skip, p)
				return ok || declaration.SkipsFolder(d.Skip, p)
			}
		}
		if len(d.Include) > 0 {
			o.Include = func(p string) bool { _, ok := layout.Matches(d.Include, p); return ok }
			o.Reaches = func(folder string) bool { return declaration.Reaches(d.Include, folder) }
		}
	}
	memoryFor(0)
	stop := a.progress(o.Done)
	t, err := tree.Read(l.root, o)
	stop()
	if err != nil {
		return fmt.Errorf("cannot read %s: %w", l.root, cause(err))
	}
	l.tree = t
	return nil
}

// memoryFor keeps memory below three times the source: garbage is collected
// only near that limit, which grows with what is read. Reading allocates once
// and keeps nearly all of it, so that collecting earlier finds little. What the
// user has set for the Go run time stays.
func memoryFor(bytes int64) {
	const least = 160 << 20
	if os.Getenv("GOMEMLIMIT") == "" && os.Getenv("GOGC") == "" {
		debug.SetMemoryLimit(max(least, bytes*5/2))
		debug.SetGCPercent(-1)
	}
}

// cause leaves the path away, which the message names already.
func cause(err error) error {
	var pe *fs.PathError
	if errors.As(err, &pe) {
		return pe.Err
	}
	return err
}

func (a *app) workers() int {
	if a.jobs > 0 {
		return a.jobs
	}
	return runtime.GOMAXPROCS(0)
}

// linkAndPlace makes the graph and says what is worth saying about the tree.
func (a *app) linkAndPlace(l *loaded, n need) error {
	l.graph = link.Link(l.tree.Files, a.workers())
	a.tellTree(l.tree)
	if l.decl == nil || !n.place {
		return nil
	}
	l.placement = layout.Place(l.decl, l.graph, language.IsSource)
	return a.tellPlacement(l)
}

// tellTree reports notes and what was skipped on standard error.
func (a *app) tellTree(t *tree.Tree) {
	for _, u := range t.Unread {
		fmt.Fprintf(a.Err, "moatline: cannot read %s: %s\n", clean(u.Path), clean(u.Why))
	}
	if a.quiet {
		return
	}
	if a.verbose {
		for _, s := range t.Skipped {
			a.note("skipped %s: %s", s.Path, s.Why)
		}
	}
	const most = 5
	told, untold, files := 0, 0, 0
	for _, f := range t.Files {
		if len(f.Notes) > 0 {
			files++
		}
		for _, n := range f.Notes {
			if f.Test && !a.verbose {
				continue // damaged on purpose, as often as not
			}
			if told < most || a.verbose {
				told++
				a.note("%s:%d:%d: %s", f.Path, n.At.Line, n.At.Column, n.Text)
			} else {
				untold++
			}
		}
	}
	if untold > 0 {
		a.note("%d more notes on damaged code (--verbose shows them); what could be read counts", untold)
	}
}

// tellPlacement reports conflicts and patterns that match nothing.
func (a *app) tellPlacement(l *loaded) error {
	p := l.placement
	if len(p.Conflicts) > 0 {
		var problems declaration.Problems
		const most = 10
		for i, c := range p.Conflicts {
			if i == most {
				problems = append(problems, declaration.Problem{File: l.declShow, Message: fmt.Sprintf("%d more files are claimed twice", len(p.Conflicts)-most)})
				break
			}
			problems = append(problems, declaration.Fail(l.declPath, l.declShow, c.Second.At, c.Error(),
				"A file lies in one layer: narrow a pattern, or take the file away with except."))
		}
		return fmt.Errorf("two layers claim the same file\n%w", problems)
	}
	sources, placed := 0, 0
	for _, s := range p.Sites {
		if s != layout.NotCode && s != layout.Tests {
			sources++
			if s >= 0 {
				placed++
			}
		}
	}
	if sources > 0 && placed == 0 {
		return fmt.Errorf("the declaration fits nothing: %d source files in %s, and no layer has one\nPatterns are slash paths from that folder. Propose a declaration that fits: moatline draft%s --print",
			sources, clean(l.root), optional(l.root))
	}
	if !a.quiet && sources > 0 {
		for _, u := range p.Unmatched {
			hint := ""
			if !strings.ContainsAny(u.Text, "*?[{") && folderOf(l.graph, u.Text) {
				hint = "It is a folder; for all files below it write " + strings.TrimSuffix(u.Text, "/") + "/**"
			}
			fmt.Fprint(a.Err, declaration.Warn(l.declPath, l.declShow, u.At, fmt.Sprintf("%q matches nothing", u.Text), hint).String())
		}
	}
	return nil
}

func folderOf(g *graph.Graph, p string) bool {
	p = strings.TrimSuffix(p, "/") + "/"
	for _, f := range g.Files {
		if strings.HasPrefix(f.Path, p) {
			return true
		}
	}
	return false
}

// progress shows a count of files read on a terminal, once the work takes
// longer than half a second. The returned function ends it.
func (a *app) progress(done *atomic.Int64) (stop func()) {
	f, ok := a.Err.(*os.File)
	if a.quiet || !ok || !term.IsTerminal(int(f.Fd())) {
		return func() {}
	}
	quit, ended := make(chan struct{}), make(chan struct{})
	go func() {
		defer close(ended)
		select {
		case <-quit:
			return
		case <-time.After(500 * time.Millisecond):
		}
		bar := progressbar.NewOptions(-1, progressbar.OptionSetWriter(f), progressbar.OptionSetDescription("reading"),
			progressbar.OptionShowCount(), progressbar.OptionSetItsString("files"), progressbar.OptionClearOnFinish(), progressbar.OptionSpinnerType(14))
		for {
			select {
			case <-quit:
				_ = bar.Finish()
				return
			case <-time.After(100 * time.Millisecond):
				_ = bar.Set64(done.Load())
			}
		}
	}()
	return func() { close(quit); <-ended }
}

// loadFacts reads facts from files instead of a tree.
func (a *app) loadFacts(l *loaded, files []string) error {
	seen := make(map[string]string)
	l.tree = &tree.Tree{}
	for _, name := range files {
		err := func() error {
			var in io.Reader = a.In
			if name != "-" {
				f, err := os.Open(name)
				if err != nil {
					return err
				}
				defer f.Close()
				in = f
			}
			_, err := fact.Scan(in, func(f *fact.File) error {
				if other, ok := seen[f.Path]; ok {
					return fmt.Errorf("%s is in %s already: the two are not shards of one tree", f.Path, other)
				}
				seen[f.Path] = name
				l.tree.Files = append(l.tree.Files, f)
				return nil
			})
			return err
		}()
		if err != nil {
			return fmt.Errorf("facts %s: %w", name, cause(err))
		}
	}
	return nil
}
