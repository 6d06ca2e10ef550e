package manifest

import (
	"strings"
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

// What each format of build file says of its module, and of those it needs.
func TestFormats(t *testing.T) {
	for _, c := range []struct{ path, text, module, requires, holds string }{
		{"package.json", `{"name": "q", "dependencies": {"b": "1"}, "devDependencies": {"c": "2"}, "workspaces": ["p/*"]}`, "q", "b, c dev", "p/*"},
		{"Quay.csproj", `<Project><ItemGroup><PackageReference Include="B"/><ProjectReference Include="..\C\C.csproj"/><Reference Include="D, Version=1"/></ItemGroup></Project>`, "Quay", "B package, ../C/C.csproj project, D assembly", ""},
		{"packages.config", `<packages><package id="B" developmentDependency="true"/><package id="C"/></packages>`, "", "B dev, C package", ""},
		{"q.sln", "Project(\"{1}\") = \"Q\", \"Q\\Q.csproj\", \"{2}\"\nProject(\"{1}\") = \"folder\", \"folder\", \"{3}\"", "", "", "Q/Q.csproj"},
		{"q.slnx", `<Solution><Folder><Project Path="Q\Q.vbproj"/></Folder></Solution>`, "", "", "Q/Q.vbproj"},
		{"settings.gradle.kts", "rootProject.name = \"q\"\ninclude(\"a\", \":b:c\")", "q", "", "a, :b:c"},
		{"build.gradle", "dependencies {\n implementation 'a:b:1', 'c:d'\n testCompile project(':e')\n compileOnly group: 'f', name: 'g'\n kapt(platform(\"h:i:2\"))\n api projects.j.k\n // api 'x:y'\n}", "", "a:b implementation, c:d implementation, :e project test, f:g compileonly, h:i build, :j:k project api", ""},
		{"composer.json", `{"name": "q/q", "require": {"a/b": "1"}, "require-dev": {"c/d": "2"}}`, "q/q", "a/b, c/d dev", ""},
		{"pubspec.yaml", "name: q\ndependencies:\n  a: 1\ndev_dependencies:\n  b: 2\nworkspace:\n  - w\n", "q", "a, b dev", "w"},
		{"pyproject.toml", "[project]\nname = 'q'\ndependencies = ['A-b>=1', 'c[x]; y']\n[project.optional-dependencies]\nd = ['e']\n", "q", "A-b, c, e optional", ""},
		{"setup.cfg", "[metadata]\nname = q\n[options]\ninstall_requires =\n  a>1\n  # b\n  c\n[options.extras_require]\nd = e\n", "q", "a, c, e optional", ""},
		{"x/q/.classpath", `<classpath><classpathentry kind="src" path="/a"/><classpathentry kind="src" path="src"/><classpathentry kind="lib" path="lib/b-1.jar"/></classpath>`, "q", "a project, b-1 library", ""},
	} {
		f := Read(c.path, []byte(c.text))
		require.NotNil(t, f.Manifest, c.path)
		assert.Empty(t, f.Notes, c.path)
		words := func(list []fact.Requirement, scopes bool) string {
			var out []string
			for _, q := range list {
				s := q.Name
				if scopes && q.Scope != "" {
					s += " " + q.Scope
				}
				out = append(out, s)
				assert.NotZero(t, q.At.Line, "%s: %s", c.path, q.Name)
			}
			return strings.Join(out, ", ")
		}
		assert.Equal(t, c.module, f.Manifest.Module, c.path)
		assert.Equal(t, c.requires, words(f.Manifest.Requires, true), c.path)
		assert.Equal(t, c.holds, words(f.Manifest.Holds, false), c.path)
	}
}

func TestCoordinate(t *testing.T) {
	required := []string{"org.springframework:spring-jdbc", "org.springframework:spring-web", "com.zaxxer:HikariCP", "com.fasterxml.jackson.core:jackson-databind",
		"Dapper", "Microsoft.EntityFrameworkCore", "Microsoft.EntityFrameworkCore.Relational", "a.b:c", "a.b:d"}
	for name, want := range map[string]string{
		"org.springframework.jdbc.core.JdbcTemplate":         "org.springframework:spring-jdbc",
		"org.springframework.web.client.RestTemplate":        "org.springframework:spring-web",
		"org.springframework.beans.Bean":                     "", // either may bring it in
		"com.zaxxer.hikari.HikariDataSource":                 "com.zaxxer:HikariCP",
		"com.fasterxml.jackson.databind.ObjectMapper":        "com.fasterxml.jackson.core:jackson-databind",
		"com.fasterxml.jackson.annotation.JsonProperty":      "",
		"Dapper.SqlMapper":                                   "Dapper",
		"Dappers.X":                                          "",
		"Microsoft.EntityFrameworkCore.DbContext":            "Microsoft.EntityFrameworkCore",
		"Microsoft.EntityFrameworkCore.Relational.Something": "Microsoft.EntityFrameworkCore.Relational",
		"a.b.X":     "",
		"a.bc.X":    "",
		"unknown.X": "",
	} {
		assert.Equal(t, want, Coordinate(required, name), name)
	}
}

// Damage is told, and what came before it counts.
func TestDamagedFormats(t *testing.T) {
	for path, text := range map[string]string{
		"package.json": `{"dependencies": {"a": "1"}, "x": `, "tsconfig.json": `{"extends": "./a", `, "a.csproj": `<Project><ItemGroup><PackageReference Include="a"/>`,
		"composer.json": `{"require": {"a/b": "1"}, ]`, "pyproject.toml": "[project\n", "pubspec.yaml": "a: [b\n", "libs.versions.toml": "[x",
	} {
		f := Read(path, []byte(text))
		assert.NotEmpty(t, f.Notes, path)
		if path != "pyproject.toml" && path != "pubspec.yaml" && path != "libs.versions.toml" {
			assert.NotEmpty(t, f.Manifest.Requires, path)
		}
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
	f.Add("package.json", `{"name": "a", "exports": {".": {"b": ["./c"]}, "./*": null}, "workspaces": {"packages": ["d"]}}`)
	f.Add("tsconfig.json", `{"extends": ["./a"], /* b */ "compilerOptions": {"paths": {"@/*": ["./*"],}, "baseUrl": "."}}`)
	f.Add("a.csproj", `<Project Sdk="S"><ItemGroup><PackageReference Include="a"><Version>1</Version></PackageReference><Compile Include="..\b.cs"/><Using Include="c"/></ItemGroup></Project>`)
	f.Add("packages.config", `<packages><package id="a" version="1"/></packages>`)
	f.Add("a.sln", "Project(\"{1}\") = \"a\", \"a\\a.csproj\", \"{2}\"\n")
	f.Add("a.slnx", `<Solution><Project Path="a/a.csproj"/></Solution>`)
	f.Add("settings.gradle", "include ':a', \":b:c\"\nproject(':a').projectDir = new File(settingsDir, '../x')\nrootProject.name = 'r'")
	f.Add("build.gradle.kts", "dependencies { implementation(project(\":a\")); api(libs.b.c); testImplementation(\"d:e:1\") }")
	f.Add("libs.versions.toml", "[libraries]\na = \"b:c:1\"\nd = { group = \"e\", name = \"f\" }")
	f.Add("x/.classpath", `<classpath><classpathentry kind="src" path="/a"/><classpathentry kind="lib" path="b.jar"/></classpath>`)
	f.Add("composer.json", `{"name": "a/b", "require": {"c/d": "1"}, "autoload": {"psr-4": {"A\\": ["src", "lib"]}, "files": ["x"]}}`)
	f.Add("composer.lock", `{"packages": [{"name": "a/b", "autoload": {"psr-0": {"A_": "src"}}}]}`)
	f.Add("pubspec.yaml", "name: a\ndependencies:\n  b: ^1\n  c:\n    path: ../c\nworkspace: [d]\n")
	f.Add("pyproject.toml", "[project]\nname = 'a'\ndependencies = ['b>=1; c', 'd[e]']\n[tool.poetry.group.x.dependencies]\nf = '1'")
	f.Add("setup.cfg", "[metadata]\nname = a\n[options]\ninstall_requires =\n  b\n  c>1\n")
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
