package java

import (
	_ "embed"
	"strings"
	"sync"
)

//go:embed platform.txt
var platformList string

// platform holds, for each package of the Java platform (the java.* modules of
// Java SE 17, and a few later additions), its public top-level types. It tells
// which of several imports on demand brings a name in.
var platform = sync.OnceValue(func() map[string]map[string]bool {
	all := make(map[string]map[string]bool)
	for _, line := range strings.Split(platformList, "\n") {
		words := strings.Fields(line)
		if len(words) == 0 {
			continue
		}
		types := make(map[string]bool, len(words))
		for _, w := range words[1:] {
			types[w] = true
		}
		all[words[0]] = types
	}
	return all
})

// inJavaLang reports whether every file sees a type of that name without an
// import (JLS 17 §7.3).
func inJavaLang(name string) bool { return platform()["java.lang"][name] }
