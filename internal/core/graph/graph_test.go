package graph

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"moatline/internal/core/fact"
)

func TestCollector(t *testing.T) {
	g := New([]*fact.File{{Path: "a"}, {Path: "b"}})
	var c Collector
	at := func(l, col uint32) fact.Place { return fact.Place{Line: l, Column: col} }
	c.Add(Dep{Target: ToFile, File: 1, Decl: 2, Name: "T", How: fact.HowType}, []fact.Place{at(9, 1), at(12, 4)})
	c.AddAt(Dep{Target: ToOutside, To: "p", Name: "p.X", Decl: -1, How: fact.HowImport, Flags: Unused | Standard}, at(1, 1))
	c.AddAt(Dep{Target: ToFile, File: 1, Decl: 2, Name: "T", How: fact.HowType}, at(3, 5))
	c.AddAt(Dep{Target: ToFile, File: 1, Decl: 2, Name: "T", How: fact.HowType}, at(9, 1))
	c.AddAt(Dep{Target: ToFile, File: 1, Decl: 2, Name: "T", How: fact.HowCall}, at(2, 2))
	c.AddAt(Dep{Target: ToOutside, To: "p", Name: "p.X", Decl: -1, How: fact.HowImport, Flags: Standard}, at(5, 1))
	c.Finish(g, 0)
	c.AddAt(Dep{Target: ToUnresolved, To: "?", Name: "?", Decl: -1}, at(1, 1))
	c.Finish(g, 1)

	deps := g.Deps(0)
	assert.Len(t, deps, 3)
	assert.Equal(t, "p.X", deps[0].Name)
	assert.Equal(t, Standard, deps[0].Flags, "one use of two makes it used")
	assert.Equal(t, []fact.Place{at(1, 1), at(5, 1)}, g.Places(0, &deps[0]))
	assert.Equal(t, fact.HowCall, deps[1].How)
	assert.Equal(t, []fact.Place{at(3, 5), at(9, 1), at(12, 4)}, g.Places(0, &deps[2]))
	assert.Equal(t, "b", g.ToText(&deps[2]))
	assert.Len(t, g.Deps(1), 1)
}

func TestModules(t *testing.T) {
	g := New([]*fact.File{{Path: "a/b/c.go"}, {Path: "a/d.go"}, {Path: "ab/e.go"}, {Path: "f.go"}})
	g.SetModules([]Module{{Name: "inner", Folder: "a/b"}, {Name: "outer", Folder: "a"}})
	name := func(i int) string {
		if m := g.ModuleOf[i]; m >= 0 {
			return g.Modules[m].Name
		}
		return ""
	}
	assert.Equal(t, []string{"inner", "outer", "", ""}, []string{name(0), name(1), name(2), name(3)})
	assert.Equal(t, 2, g.Find("ab/e.go"))
	assert.Equal(t, -1, g.Find("ab"))
}

func TestJoin(t *testing.T) {
	for _, c := range []struct {
		folder, rel, want string
		ok                bool
	}{
		{"a/b", "../c", "a/c", true}, {"a", "..", "", true}, {"", "./x", "x", true}, {"a", "../..", "", false}, {"", "../x", "", false}, {"a", ".", "a", true},
	} {
		got, ok := Join(c.folder, c.rel)
		assert.Equal(t, c.ok, ok, "%s + %s", c.folder, c.rel)
		assert.Equal(t, c.want, got, "%s + %s", c.folder, c.rel)
	}
}
