// Package link turns the facts of single files into a graph: it resolves every
// name by its language's scope rules against the whole tree. It touches no
// file; facts read in shards, elsewhere or earlier link the same.
package link

import (
	"sort"
	"sync"
	"sync/atomic"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
	"moatline/internal/core/language/dart"
	"moatline/internal/core/language/dotnet"
	"moatline/internal/core/language/golang"
	"moatline/internal/core/language/java"
	"moatline/internal/core/language/javascript"
	"moatline/internal/core/language/kotlin"
	"moatline/internal/core/language/php"
	"moatline/internal/core/language/python"
	"moatline/internal/core/language/views"
	"moatline/internal/core/language/wiring"
	"moatline/internal/core/manifest"
)

// resolver resolves the names of one language's files.
type resolver interface {
	// Resolve adds the dependencies of file i to c. It is called for different
	// files at the same time, with a Collector for each caller.
	Resolve(i int, c *graph.Collector)
}

// Link returns the graph of the given files, using at most jobs goroutines.
// The order of files does not matter; of two files with one path the first
// counts. The files must not change afterwards.
func Link(files []*fact.File, jobs int) *graph.Graph {
	files = append([]*fact.File(nil), files...)
	sort.SliceStable(files, func(i, j int) bool { return files[i].Path < files[j].Path })
	kept := files[:0]
	for _, f := range files {
		if len(kept) == 0 || kept[len(kept)-1].Path != f.Path {
			kept = append(kept, f)
		}
	}
	g := graph.New(kept)
	builds := manifest.NewResolver(g)
	gomod := golang.NewResolver(g)
	js := javascript.NewResolver(g)
	phpResolver := php.NewResolver(g)
	jv := java.NewResolver(g)
	net := dotnet.NewResolver(g)
	resolvers := map[string]resolver{
		"java": jv, "jsp": jv, "razor": net, "xaml": net, "go": gomod, "php": phpResolver,
		"python": python.NewResolver(g), "javascript": js, "typescript": js, "vue": js, "svelte": js,
		"csharp": net, "visualbasic": net, "kotlin": kotlin.NewResolver(g), "dart": dart.NewResolver(g),
	}
	for _, format := range manifest.Formats() {
		resolvers[format] = builds
	}

	names := wiring.NewIndex(g)
	pages := views.NewResolver(g)

	// Chunks keep the workers busy to the end without a lock for each file.
	const chunk = 64
	var next atomic.Int64
	var wg sync.WaitGroup
	for range max(1, jobs) {
		wg.Add(1)
		go func() {
			defer wg.Done()
			c := new(graph.Collector)
			for {
				from := int(next.Add(chunk)) - chunk
				if from >= len(kept) {
					return
				}
				for i := from; i < min(from+chunk, len(kept)); i++ {
					if r := resolvers[kept[i].Language]; r != nil {
						r.Resolve(i, c)
					}
					if views.Is(kept[i].Language) {
						pages.Resolve(i, c)
					}
					names.Resolve(i, c)
					switch kept[i].Language {
					case "java", "kotlin", "jsp", "csharp", "visualbasic", "razor":
						nameModules(builds.Requirements(i), c)
					}
					c.Finish(g, i)
				}
			}
		}()
	}
	wg.Wait()
	return g
}

// nameModules names the outside packages of a file by the modules that its
// build file requires, where that is certain.
func nameModules(required []string, c *graph.Collector) {
	if len(required) == 0 {
		return
	}
	c.Outside(func(d *graph.Dep) {
		if d.Flags&graph.Standard == 0 && d.How != fact.HowProject {
			if m := manifest.Coordinate(required, d.Name); m != "" {
				d.To = m
			}
		}
	})
}
