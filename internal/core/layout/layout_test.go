package layout

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestPackageMatcher(t *testing.T) {
	for _, c := range []struct {
		pattern  string
		yes, not []string
	}{
		{"a.b", []string{"a.b", "a/b"}, []string{"a", "a.b.c", "a.bc"}},
		{"a.b.*", []string{"a.b.c"}, []string{"a.b", "a.b.c.d"}},
		{"a.b.**", []string{"a.b", "a.b.c", "a.b.c.d"}, []string{"a", "a.bc", "x.a.b"}},
		{"harbour.example/office/domain/**", []string{"harbour.example/office/domain", "harbour.example/office/domain/tide"}, []string{"harbour.example/office"}},
		{"**.store", []string{"store", "a.b.store"}, []string{"a.store.b", "astore"}},
		{"a.**.z", []string{"a.z", "a.b.z", "a.b.c.z"}, []string{"a.b", "z"}},
		{"a.*Impl", []string{"a.BerthImpl", "a.Impl"}, []string{"a.ImplBerth"}},
		{"a.*o*k*", []string{"a.dock", "a.oak"}, []string{"a.kao"}},
		{`a\b::c`, []string{"a.b.c"}, []string{"a.b"}},
		{"**", []string{"", "a", "a.b"}, nil},
	} {
		match := PackageMatcher(c.pattern)
		for _, n := range c.yes {
			assert.True(t, match(n), "%s should match %q", c.pattern, n)
		}
		for _, n := range c.not {
			assert.False(t, match(n), "%s should not match %q", c.pattern, n)
		}
	}
}

func TestMarkMatcher(t *testing.T) {
	for _, p := range []string{"UseCase", "@UseCase", "[UseCase]", "q.base.UseCase", "@q.base.UseCase"} {
		assert.True(t, MarkMatcher(p)("q.base.UseCase"), p)
	}
	assert.False(t, MarkMatcher("UseCase")("q.NotUseCase"))
	assert.False(t, MarkMatcher("other.UseCase")("q.base.UseCase"))
}

func TestBetween(t *testing.T) {
	domain := &Layer{Name: "domain"}
	store := &Layer{Name: "store", Ring: 1, OnlyFor: []string{"booking"}}
	booking := &Layer{Name: "booking", Ring: 2}
	desk := &Layer{Name: "desk", Ring: 3}
	radio := &Layer{Name: "radio", Ring: 3}
	for _, c := range []struct {
		from, to *Layer
		want     Direction
		fine     bool
	}{
		{domain, domain, Within, true},
		{booking, domain, Inward, true},
		{booking, store, Inward, true},
		{desk, store, Shortcut, false},
		{desk, radio, Sideways, false},
		{domain, store, Outward, false},
		{store, store, Within, true},
	} {
		got := Between(c.from, c.to)
		assert.Equal(t, c.want, got, "%s to %s", c.from.Name, c.to.Name)
		assert.Equal(t, c.fine, got.Permitted())
	}
}

func TestNearest(t *testing.T) {
	words := []string{"presentation", "business logic", "domain", "data access"}
	for s, want := range map[string]string{
		"domian": "domain", "Domain": "domain", "bussiness logic": "business logic", "persentation": "presentation",
		"dataaccess": "data access", "zzz": "", "x": "", "": "",
	} {
		assert.Equal(t, want, Nearest(s, words), s)
	}
	assert.Equal(t, 3, distance("kitten", "sitting"))
	assert.Equal(t, 0, distance("ü", "ü"))
	assert.Equal(t, 4, distance("", "tide"))
}
