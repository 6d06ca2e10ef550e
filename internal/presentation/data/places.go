package data

import (
	"sort"

	"moatline/internal/core/graph"
)

// everyPlace lists all places of file i's dependencies in the order of the
// text.
func everyPlace(g *graph.Graph, i int) []placed {
	var all []placed
	deps := g.Deps(i)
	for k := range deps {
		for _, p := range g.Places(i, &deps[k]) {
			all = append(all, placed{k, p})
		}
	}
	sort.SliceStable(all, func(a, b int) bool { return all[a].at.Before(all[b].at) })
	return all
}
