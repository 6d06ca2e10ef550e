package graph

import (
	"cmp"
	"slices"

	"moatline/internal/core/fact"
)

// Collector gathers the dependencies of one file after another. Resolvers add
// in any order; equal dependencies are merged. One worker keeps one Collector.
type Collector struct {
	pending []pending
	order   []int32 // of pending, sorted by what they point at

	deps   []Dep        // block that finished dependencies are carved from
	places []fact.Place // block that finished places are carved from
}

type pending struct {
	Dep
	places []fact.Place
	at     fact.Place // room for a single place
	single bool
}

// Add records a dependency with its places.
func (c *Collector) Add(d Dep, places []fact.Place) {
	c.pending = append(c.pending, pending{Dep: d, places: places})
}

// AddAt records a dependency with one place.
func (c *Collector) AddAt(d Dep, at fact.Place) {
	c.pending = append(c.pending, pending{Dep: d, at: at, single: true})
}

// Outside calls each for every dependency on something outside that was added
// since the last Finish, so that its package can be named.
func (c *Collector) Outside(each func(*Dep)) {
	for k := range c.pending {
		if c.pending[k].Target == ToOutside {
			each(&c.pending[k].Dep)
		}
	}
}

func sameThing(a, b *Dep) int {
	if n := cmp.Compare(a.Target, b.Target); n != 0 {
		return n
	}
	if n := cmp.Compare(a.File, b.File); n != 0 {
		return n
	}
	if n := cmp.Compare(a.Decl, b.Decl); n != 0 {
		return n
	}
	if n := cmp.Compare(a.How, b.How); n != 0 {
		return n
	}
	if a.Target != ToFile || a.Decl < 0 {
		if n := cmp.Compare(a.To, b.To); n != 0 {
			return n
		}
		return cmp.Compare(a.Name, b.Name)
	}
	return 0
}

// Finish makes what was added the dependencies of file i of g and forgets it.
// It may be called for different files at the same time.
func (c *Collector) Finish(g *Graph, i int) {
	if len(c.pending) == 0 {
		return
	}
	c.order = c.order[:0]
	for k := range c.pending {
		c.order = append(c.order, int32(k))
	}
	slices.SortFunc(c.order, func(a, b int32) int {
		if n := sameThing(&c.pending[a].Dep, &c.pending[b].Dep); n != 0 {
			return n
		}
		return cmp.Compare(a, b)
	})
	total := 0
	for k := range c.pending {
		total += max(1, len(c.pending[k].places))
	}
	if cap(c.places)-len(c.places) < total {
		c.places = make([]fact.Place, 0, max(65536, total))
	}
	if cap(c.deps)-len(c.deps) < len(c.pending) {
		c.deps = make([]Dep, 0, max(8192, len(c.pending)))
	}
	firstDep, firstPlace := len(c.deps), len(c.places)
	for k := 0; k < len(c.order); {
		d := c.pending[c.order[k]].Dep
		from := len(c.places)
		n := 0
		for ; k+n < len(c.order) && sameThing(&d, &c.pending[c.order[k+n]].Dep) == 0; n++ {
			p := &c.pending[c.order[k+n]]
			d.Flags &= p.Flags | Standard // unused, bare and type-only where every one is
			if p.single {
				c.places = append(c.places, p.at)
			} else {
				c.places = append(c.places, p.places...)
			}
		}
		if n > 1 {
			mine := c.places[from:]
			slices.SortFunc(mine, comparePlaces)
			mine = slices.Compact(mine)
			c.places = c.places[:from+len(mine)]
		}
		d.First = int32(from - firstPlace)
		d.Count = int32(len(c.places) - from)
		c.deps = append(c.deps, d)
		k += n
	}
	deps := c.deps[firstDep:len(c.deps):len(c.deps)]
	places := c.places[firstPlace:len(c.places):len(c.places)]
	slices.SortStableFunc(deps, func(a, b Dep) int { return comparePlaces(places[a.First], places[b.First]) })
	g.deps[i], g.places[i] = deps, places
	clear(c.pending)
	c.pending = c.pending[:0]
}

func comparePlaces(a, b fact.Place) int {
	if n := cmp.Compare(a.Line, b.Line); n != 0 {
		return n
	}
	return cmp.Compare(a.Column, b.Column)
}
