// Package manifest reads and resolves build files: what module a folder is,
// and which modules it needs. No build tool is run.
package manifest

import (
	"bytes"
	"path"
	"strings"

	"golang.org/x/mod/modfile"

	"moatline/internal/core/fact"
)

// Language returns the name of the build-file format of a path, or "".
func Language(p string) string {
	base := path.Base(p)
	for i := range formats {
		if formats[i].is(base) {
			return formats[i].name
		}
	}
	return ""
}

// note tells of something that could not be read.
type note = func(at fact.Place, what string)

// formats are the build files that are read, by their names.
var formats = []struct {
	name string
	is   func(base string) bool
	read func(p string, text []byte, note note) *fact.Manifest
}{
	{"maven", named("pom.xml"), plainly(readMaven)},
	{"go.mod", named("go.mod"), readGoMod},
	{"go.work", named("go.work"), readGoWork},
	{"msbuild", isMSBuild, readMSBuild},
	{"packages.config", named("packages.config"), plainly(readPackagesConfig)},
	{"sln", suffix(".sln"), plainly(readSolution)},
	{"sln", suffix(".slnx"), plainly(readSolutionX)},
	{"gradle", isGradle, readGradle},
	{"catalogue", suffix(".versions.toml"), plainly(readCatalogue)},
	{"classpath", named(".classpath"), readClasspath},
	{"composer.json", named("composer.json"), plainly(readComposer)},
	{"composer.lock", named("composer.lock"), plainly(readComposerLock)},
	{"pubspec", named("pubspec.yaml"), plainly(readPubspec)},
	{"pyproject", named("pyproject.toml"), plainly(readPyproject)},
	{"setup.cfg", named("setup.cfg"), plainly(readSetupCfg)},
	{"package.json", named("package.json"), plainly(readPackageJSON)},
	{"tsconfig", isTSConfig, plainly(readTSConfig)},
}

// Formats returns the names of the formats.
func Formats() (out []string) {
	for i := range formats {
		out = append(out, formats[i].name)
	}
	return out
}

func named(name string) func(string) bool { return func(base string) bool { return base == name } }

func suffix(s string) func(string) bool {
	return func(base string) bool { return strings.HasSuffix(base, s) }
}

// plainly is a reader that does not ask for the path.
func plainly(read func(text []byte, note note) *fact.Manifest) func(string, []byte, note) *fact.Manifest {
	return func(_ string, text []byte, note note) *fact.Manifest { return read(text, note) }
}

func isTSConfig(base string) bool {
	return (strings.HasPrefix(base, "tsconfig") || strings.HasPrefix(base, "jsconfig")) && strings.HasSuffix(base, ".json")
}

// Read returns the facts of one build file. The text is UTF-8. Read never
// fails: damage is told in the notes.
func Read(p string, text []byte) *fact.File {
	f := &fact.File{Path: p, Language: Language(p)}
	f.Lines = bytes.Count(text, []byte{'\n'})
	if n := len(text); n > 0 && text[n-1] != '\n' {
		f.Lines++
	}
	note := func(at fact.Place, what string) {
		if len(f.Notes) < 20 {
			f.Notes = append(f.Notes, fact.Note{At: at, Text: what})
		}
	}
	for i := range formats {
		if formats[i].name == f.Language && formats[i].is(path.Base(p)) {
			f.Manifest = formats[i].read(p, text, note)
		}
	}
	return f
}

// readGoMod reads a go.mod file (Go Modules Reference, "go.mod files") with
// the Go distribution's own parser.
func readGoMod(p string, text []byte, note note) *fact.Manifest {
	m := &fact.Manifest{}
	file, err := modfile.Parse(p, text, nil)
	if err != nil {
		noteModErrors(err, note)
		if file, err = modfile.ParseLax(p, text, nil); err != nil {
			return m
		}
	}
	if file.Module != nil {
		m.Module = file.Module.Mod.Path
	}
	for _, r := range file.Require {
		m.Requires = append(m.Requires, fact.Requirement{Name: r.Mod.Path, Version: r.Mod.Version, Indirect: r.Indirect, At: lineAt(r.Syntax)})
	}
	for _, r := range file.Replace {
		m.Replaces = append(m.Replaces, fact.Replacement{Old: r.Old.Path, New: r.New.Path, At: lineAt(r.Syntax)})
	}
	return m
}

func readGoWork(p string, text []byte, note note) *fact.Manifest {
	m := &fact.Manifest{}
	file, err := modfile.ParseWork(p, text, nil)
	if err != nil {
		noteModErrors(err, note)
		return m
	}
	for _, u := range file.Use {
		m.Holds = append(m.Holds, fact.Requirement{Name: u.Path, At: lineAt(u.Syntax)})
	}
	for _, r := range file.Replace {
		m.Replaces = append(m.Replaces, fact.Replacement{Old: r.Old.Path, New: r.New.Path, At: lineAt(r.Syntax)})
	}
	return m
}

// lineAt returns the place of what a directive names: behind its keyword.
func lineAt(l *modfile.Line) fact.Place {
	if l == nil {
		return fact.Place{Line: 1, Column: 1}
	}
	col := l.Start.LineRune
	if !l.InBlock && len(l.Token) > 1 {
		col += len(l.Token[0]) + 1
	}
	return fact.Place{Line: uint32(l.Start.Line), Column: uint32(col)}
}

func noteModErrors(err error, note func(fact.Place, string)) {
	list, ok := err.(modfile.ErrorList)
	if !ok {
		note(fact.Place{Line: 1, Column: 1}, err.Error())
		return
	}
	for _, e := range list {
		text := e.Err.Error()
		if e.Verb != "" {
			text = strings.TrimSpace(e.Verb + " " + e.ModPath + ": " + text)
		}
		note(fact.Place{Line: uint32(max(1, e.Pos.Line)), Column: uint32(max(1, e.Pos.LineRune))}, text)
	}
}
