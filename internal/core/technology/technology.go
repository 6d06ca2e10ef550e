// Package technology knows which outside packages are which technology: a
// catalogue for each language, in data files, to which a declaration adds.
package technology

import (
	_ "embed"
	"strings"
	"sync"
)

//go:embed java.txt
var javaText string

//go:embed go.txt
var goText string

// Neutral stands for what the catalogue knows to be no technology.
const Neutral = "neutral"

// catalogue maps entries, their separators made ".", to technologies.
type catalogue map[string]string

var catalogues = sync.OnceValue(func() map[string]catalogue {
	return map[string]catalogue{"java": parse(javaText), "go": parse(goText)}
})

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

var separators = strings.NewReplacer("/", ".", "#", ".")

func dotted(s string) string { return separators.Replace(s) }

// Of returns the technology of an outside thing by its full name, such as
// java.sql.Connection or net/http.Client, in a language; "" where the catalogue
// does not know it. The longest entry that the name is, or lies below, counts.
func Of(language, name string) string {
	c := catalogues()[language]
	n := dotted(name)
	for {
		if t, ok := c[n]; ok {
			return t
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
