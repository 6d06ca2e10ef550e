package manifest

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
)

func TestMavenModel(t *testing.T) {
	f := Read("a/pom.xml", []byte(`<?xml version="1.0" encoding="ISO-8859-1"?>
<!-- the office -->
<project xmlns="http://maven.apache.org/POM/4.0.0">
  <parent><groupId>g</groupId><artifactId>p</artifactId><version>1</version><relativePath/></parent>
  <artifactId> office </artifactId>
  <properties><tide.version>3</tide.version></properties>
  <modules><module>core</module></modules>
  <dependencies>
    <dependency>
      <groupId>org.tide</groupId>
      <artifactId>tables</artifactId>
      <version>${tide.version}</version>
      <scope>test</scope>
      <optional>true</optional>
      <exclusions><exclusion><groupId>x</groupId><artifactId>not-a-dependency</artifactId></exclusion></exclusions>
    </dependency>
  </dependencies>
  <dependencyManagement><dependencies><dependency><groupId>m</groupId><artifactId>managed</artifactId></dependency></dependencies></dependencyManagement>
  <build><plugins><plugin><dependencies><dependency><groupId>y</groupId><artifactId>plugin-only</artifactId></dependency></dependencies></plugin></plugins></build>
</project>`))
	require.Empty(t, f.Notes)
	m := f.Manifest
	assert.Equal(t, "g:office", m.Module)
	assert.Equal(t, "1", m.Version)
	require.NotNil(t, m.Parent)
	assert.Equal(t, "-", m.Parent.Path)
	assert.Equal(t, fact.Place{Line: 4, Column: 3}, m.Parent.At)
	assert.Equal(t, map[string]string{"tide.version": "3"}, m.Properties)
	assert.Equal(t, []fact.Requirement{{Name: "org.tide:tables", Version: "${tide.version}", Scope: "test", Optional: true, At: fact.Place{Line: 11, Column: 7}}}, m.Requires)
	require.Len(t, m.Managed, 1)
	assert.Equal(t, "m:managed", m.Managed[0].Name)
	require.Len(t, m.Holds, 1)
	assert.Equal(t, "core", m.Holds[0].Name)
}

// A file that is cut off, or is something else, gives what came before, and
// a note that says where it went wrong.
func TestDamagedManifests(t *testing.T) {
	for _, c := range []struct{ path, text, note, module string }{
		{"pom.xml", "<project><groupId>g</groupId><artifactId>a</artifactId><dependencies>", "ends inside <dependencies>", "g:a"},
		{"pom.xml", "<project><groupId>g</groupId><artifactId>a</artifactId></wrong>", "closes nothing", "g:a"},
		{"pom.xml", "<project><groupId>g</groupId><artifactId>a</artifactId>&boom;</project>", "invalid character entity", "g:a"},
		{"pom.xml", "{}", "no <project> element", ""},
		{"pom.xml", "", "no <project> element", ""},
		{"go.mod", "module a\nrequire (\n\tb v1.0.0\n", "syntax error", ""},
		{"go.mod", "module a\nnonsense x\nrequire b v1.0.0\n", "unknown directive", "a"},
		{"go.work", "use (", "syntax error", ""},
	} {
		f := Read(c.path, []byte(c.text))
		require.NotEmpty(t, f.Notes, c.text)
		assert.Contains(t, f.Notes[0].Text, c.note, c.text)
		assert.NotZero(t, f.Notes[0].At.Line)
		assert.Equal(t, c.module, f.Manifest.Module, c.text)
	}
}

// Properties that name each other in a circle end as they are written.
func TestInterpolationEnds(t *testing.T) {
	g := graph.New([]*fact.File{Read("pom.xml", []byte(`<project><groupId>g</groupId><artifactId>${a}</artifactId>
<properties><a>${b}x</a><b>${a}y</b></properties></project>`))})
	x := NewResolver(g)
	assert.Contains(t, x.full[0], "${")
	assert.Less(t, len(x.full[0]), 1100)
}

func FuzzRead(f *testing.F) {
	f.Add("pom.xml", "<project><parent><groupId>${a}</groupId></parent><properties><a>${a}</a></properties></project>")
	f.Add("go.mod", "module a\nreplace b => ./c\nrequire (\n\tb v1 // indirect\n)")
	f.Add("go.work", "use ./a\nreplace b => ../c")
	f.Fuzz(func(t *testing.T, path, text string) {
		if Language(path) == "" {
			return
		}
		file := Read(path, []byte(text))
		g := graph.New([]*fact.File{file})
		x := NewResolver(g)
		var c graph.Collector
		x.Resolve(0, &c)
		c.Finish(g, 0)
		for _, n := range file.Notes {
			if n.At.Line == 0 || n.Text == "" {
				t.Errorf("a note without place or words: %+v", n)
			}
		}
	})
}
