package lexis

import (
	"strings"

	"moatline/internal/core/graph"
)

// Ref is a declaration of a graph; Decl is -1 for a file as a whole.
type Ref struct{ File, Decl int32 }

// Nearest returns the declaration of refs, which must not be empty, that lies
// nearest to the file from: in the same file, or sharing the most folders.
func Nearest(g *graph.Graph, from int, refs []Ref) Ref {
	best := refs[0]
	if len(refs) == 1 {
		return best
	}
	p := g.Files[from].Path
	n := -100
	for _, r := range refs {
		m := 2 * min(SharedFolders(p, g.Files[r.File].Path), 1<<20)
		if Hidden(g.Files[r.File].Path) {
			m--
		}
		if m > n {
			best, n = r, m
		}
	}
	return best
}

// Hidden reports whether a path lies in a folder whose name begins with a
// point: a copy that a tool keeps, not the file that others mean.
func Hidden(p string) bool { return strings.HasPrefix(p, ".") || strings.Contains(p, "/.") }

// SharedFolders returns how many leading folders two paths have in common; the
// same path is nearest of all.
func SharedFolders(a, b string) int {
	if a == b {
		return 1 << 30
	}
	n := 0
	for i := 0; i < len(a) && i < len(b) && a[i] == b[i]; i++ {
		if a[i] == '/' {
			n++
		}
	}
	return n
}
