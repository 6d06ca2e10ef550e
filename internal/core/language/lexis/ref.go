package lexis

import "moatline/internal/core/graph"

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
	n := -1
	for _, r := range refs {
		if m := SharedFolders(p, g.Files[r.File].Path); m > n {
			best, n = r, m
		}
	}
	return best
}

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
