// Package language knows which reader reads which file.
package language

import (
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/golang"
	"moatline/internal/core/language/java"
	"moatline/internal/core/manifest"
	"moatline/internal/core/source"
)

// Of returns the name of the language of a file by its path, or "" where none
// of the readers reads it.
func Of(path string) string {
	if dot := strings.LastIndexByte(path, '.'); dot >= 0 {
		switch path[dot:] {
		case ".java":
			return "java"
		case ".go":
			return "go"
		case ".xml", ".mod", ".work":
			return manifest.Language(path)
		}
	}
	return ""
}

// IsSource reports whether files of a language are source, not build files.
func IsSource(name string) bool {
	switch name {
	case "java", "go":
		return true
	}
	return false
}

// Title returns the name of a language as people write it.
func Title(name string) string {
	switch name {
	case "java":
		return "Java"
	case "go":
		return "Go"
	case "maven":
		return "Maven"
	}
	return name
}

// Readers reads files of all languages, one after another. Each worker has
// its own.
type Readers struct {
	java   *java.Reader
	golang *golang.Reader
}

// NewReaders returns readers that share one fact.Builder.
func NewReaders() *Readers {
	b := fact.NewBuilder()
	return &Readers{java.NewReader(b), golang.NewReader(b)}
}

// Read returns the facts of one file of the given language from its bytes,
// whatever they are. The bytes are not kept.
func (r *Readers) Read(name, path string, raw []byte) *fact.File {
	text, ok := source.Text(raw)
	if !ok {
		return &fact.File{Path: path, Language: name, Notes: []fact.Note{{
			At: fact.Place{Line: 1, Column: 1}, Text: "binary data, not text: nothing of it is read",
		}}}
	}
	switch name {
	case "java":
		return r.java.Read(path, text)
	case "go":
		return r.golang.Read(path, text)
	}
	return manifest.Read(path, text)
}
