// Package language knows which reader reads which file.
package language

import (
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/csharp"
	"moatline/internal/core/language/dart"
	"moatline/internal/core/language/golang"
	"moatline/internal/core/language/java"
	"moatline/internal/core/language/javascript"
	"moatline/internal/core/language/kotlin"
	"moatline/internal/core/language/php"
	"moatline/internal/core/language/python"
	"moatline/internal/core/language/views"
	"moatline/internal/core/language/visualbasic"
	"moatline/internal/core/language/wiring"
	"moatline/internal/core/manifest"
	"moatline/internal/core/source"
)

// languages are those that source is written in, with the name that people
// write and the extensions of their files.
var languages = []struct {
	name, title string
	extensions  []string
}{
	{"java", "Java", []string{".java"}},
	{"go", "Go", []string{".go"}},
	{"python", "Python", []string{".py", ".pyi", ".pyw"}},
	{"javascript", "JavaScript", []string{".js", ".mjs", ".cjs", ".jsx"}},
	{"typescript", "TypeScript", []string{".ts", ".mts", ".cts", ".tsx"}},
	{"vue", "Vue", []string{".vue"}},
	{"svelte", "Svelte", []string{".svelte"}},
	{"dart", "Dart", []string{".dart"}},
	{"kotlin", "Kotlin", []string{".kt", ".kts"}},
	{"csharp", "C#", []string{".cs"}},
	{"visualbasic", "Visual Basic", []string{".vb"}},
	{"jsp", "JSP", []string{".jsp", ".jspx", ".jspf", ".tag", ".tagx"}},
	{"jsf", "JSF", []string{".xhtml"}},
	{"razor", "Razor", []string{".cshtml", ".vbhtml", ".razor"}},
	{"xaml", "XAML", []string{".xaml"}},
	{"php", "PHP", []string{".php", ".phtml", ".php5", ".php7", ".inc"}},
}

var byExtension, titles = func() (map[string]string, map[string]string) {
	ext, title := make(map[string]string), map[string]string{"maven": "Maven", wiring.Language: "configuration"}
	for _, l := range languages {
		title[l.name] = l.title
		for _, e := range l.extensions {
			ext[e] = l.name
		}
	}
	return ext, title
}()

// Of returns the name of the language of a file by its path, or "" where none
// of the readers reads it.
func Of(path string) string {
	if strings.HasSuffix(path, ".gradle.kts") {
		return manifest.Language(path)
	}
	if dot := strings.LastIndexByte(path, '.'); dot >= 0 {
		if l, ok := byExtension[path[dot:]]; ok {
			return l
		}
	}
	if l := manifest.Language(path); l != "" {
		return l
	}
	if wiring.Is(path) {
		return wiring.Language
	}
	return ""
}

// IsSource reports whether files of a language are source, not build files.
func IsSource(name string) bool {
	for i := range languages {
		if languages[i].name == name {
			return true
		}
	}
	return false
}

// Title returns the name of a language as people write it.
func Title(name string) string {
	if t, ok := titles[name]; ok {
		return t
	}
	return name
}

// reader reads the files of one language.
type reader interface {
	Read(path string, text []byte) *fact.File
}

// Readers reads files of all languages, one after another. Each worker has
// its own.
type Readers map[string]reader

// NewReaders returns readers that share one fact.Builder.
func NewReaders() Readers {
	b := fact.NewBuilder()
	js, jv := javascript.NewReader(b), java.NewReader(b)
	view := views.NewReader(b, jv)
	return Readers{
		"java": jv, "go": golang.NewReader(b), "php": php.NewReader(b),
		"python": python.NewReader(b), "javascript": js, "typescript": js, "vue": js, "svelte": js,
		"csharp": csharp.NewReader(b), "visualbasic": visualbasic.NewReader(b),
		"kotlin": kotlin.NewReader(b), "dart": dart.NewReader(b),
		"jsp": view, "jsf": view, "razor": view, "xaml": view, wiring.Language: wiring.NewReader(b),
	}
}

// Read returns the facts of one file of the given language from its bytes,
// whatever they are. The bytes are not kept.
func (r Readers) Read(name, path string, raw []byte) *fact.File {
	text, ok := source.Text(raw)
	if !ok {
		return &fact.File{Path: path, Language: name, Notes: []fact.Note{{
			At: fact.Place{Line: 1, Column: 1}, Text: "binary data, not text: nothing of it is read",
		}}}
	}
	if reader := r[name]; reader != nil {
		return reader.Read(path, text)
	}
	return manifest.Read(path, text)
}
