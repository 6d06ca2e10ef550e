// Package technology knows which outside packages are which technology: a
// catalogue for each language, in data files, to which a declaration adds.
package technology

import (
	"embed"
	"strings"
	"sync"
)

//go:embed *.txt
var files embed.FS

// Neutral stands for what the catalogue knows to be no technology.
const Neutral = "neutral"

// catalogue maps entries, their separators made ".", to technologies.
type catalogue map[string]string

var catalogues = sync.OnceValue(func() map[string]catalogue {
	all := make(map[string]catalogue)
	for _, name := range []string{"java", "go", "csharp", "visualbasic", "javascript", "python", "php", "kotlin", "dart"} {
		text, err := files.ReadFile(name + ".txt")
		if err != nil {
			panic(err) // a catalogue that is not in the program
		}
		all[name] = parse(string(text))
	}
	return all
})

// family lists the catalogues that a language is looked up in, the first that
// knows a name counting.
func family(language string) []string {
	switch language {
	case "typescript", "vue", "svelte":
		return []string{"javascript"}
	case "kotlin":
		return []string{"kotlin", "java"}
	case "jsp", "jsf", "gradle", "maven", "classpath":
		return []string{"java"}
	case "visualbasic":
		return []string{"visualbasic", "csharp"}
	case "razor", "xaml", "msbuild", "packages.config":
		return []string{"csharp"}
	case "package.json":
		return []string{"javascript"}
	case "go.mod":
		return []string{"go"}
	case "composer.json":
		return []string{"php"}
	case "pubspec":
		return []string{"dart"}
	case "pyproject", "setup.cfg":
		return []string{"python"}
	}
	return []string{language}
}

// parse reads a data file: a technology, whose name may be of two words, and
// its entries.
func parse(text string) catalogue {
	c := make(catalogue)
	for _, line := range strings.Split(text, "\n") {
		if line == "" || line[0] == '#' {
			continue
		}
		words := strings.Fields(line)
		name, rest := words[0], words[1:]
		if name == "user" {
			name, rest = "user interface", words[2:]
		}
		for _, w := range rest {
			c[dotted(w)] = name
		}
	}
	return c
}

var separators = strings.NewReplacer("/", ".", "#", ".", `\`, ".")

func dotted(s string) string { return separators.Replace(s) }

// Of returns the technology of an outside thing by its full name, such as
// java.sql.Connection or net/http.Client, in a language; "" where the catalogue
// does not know it. The longest entry that the name is, or lies below, counts.
func Of(language, name string) string {
	list := family(language)
	n := dotted(name)
	for {
		for _, l := range list {
			if t, ok := catalogues()[l][n]; ok {
				return t
			}
		}
		dot := strings.LastIndexByte(n, '.')
		if dot < 0 {
			return ""
		}
		n = n[:dot]
	}
}

// Entries returns how many entries the catalogue of a language has.
func Entries(language string) int { return len(catalogues()[language]) }

// Names returns the technologies that the catalogue of a language has entries
// for, and how many.
func Names(language string) map[string]int {
	out := make(map[string]int)
	for _, t := range catalogues()[language] {
		out[t]++
	}
	return out
}
