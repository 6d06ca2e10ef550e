// Package examples holds the demo application, Quayside, in each language that
// it is written in.
package examples

import (
	"embed"
	"io/fs"
	"sort"

	"golang.org/x/tools/txtar"
)

//go:generate go run ../scripts/packdemo go go.txtar

//go:embed all:java all:csharp all:typescript all:php all:python all:kotlin all:dart all:mixed
var trees embed.FS

//go:embed go.txtar
var golang []byte

// File is one file of an example.
type File struct {
	Path string // slash path
	Data []byte
}

// Languages lists the languages of the demo; "mixed" is one tree in several.
var Languages = []string{"java", "go", "csharp", "typescript", "php", "python", "kotlin", "dart", "mixed"}

// First names the file of each demo that holds its first mistake.
var First = map[string]string{
	"java": "quayside-core/src/main/java/harbour/quayside/domain/Berth.java", "go": "domain/berth.go",
	"csharp": "Quayside/Domain/Berth.cs", "typescript": "src/domain/berth.ts", "php": "src/Domain/Berth.php",
	"python": "quayside/domain/berth.py", "kotlin": "src/main/kotlin/harbour/quayside/domain/Berth.kt",
	"dart": "lib/domain/berth.dart", "mixed": "core/src/main/java/harbour/quayside/domain/Berth.java",
}

// Files returns the files of the demo in one language, sorted by path, and
// nil for a language that it does not have.
func Files(language string) []File {
	var out []File
	switch language {
	case "java", "csharp", "typescript", "php", "python", "kotlin", "dart", "mixed":
		sub, err := fs.Sub(trees, language)
		if err != nil {
			return nil
		}
		_ = fs.WalkDir(sub, ".", func(p string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() {
				return err
			}
			data, err := fs.ReadFile(sub, p)
			out = append(out, File{p, data})
			return err
		})
	case "go":
		for _, f := range txtar.Parse(golang).Files {
			out = append(out, File{f.Name, f.Data})
		}
	}
	sort.Slice(out, func(i, j int) bool { return out[i].Path < out[j].Path })
	return out
}
