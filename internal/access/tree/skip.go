package tree

import (
	"os"
	"path/filepath"
	"strings"

	"github.com/go-git/go-git/v5/plumbing/format/gitignore"
)

// output is a folder that a tool makes, and the files that prove that the
// tool is at work: beside the folder, or in it.
type output struct {
	beside []string // file names or "*.ext" patterns
	inside []string
	why    string
}

// outputs lists dependency and build-output folders by name. The name alone is
// never enough: build, target, bin, out, dist and vendor are packages, too.
var outputs = map[string][]output{
	"node_modules": {{beside: []string{"package.json"}, inside: []string{".package-lock.json", ".bin"}, why: "packages that npm installed"}},
	"vendor": {
		{inside: []string{"modules.txt"}, beside: []string{"go.mod+"}, why: "modules that go mod vendor copied"},
		{inside: []string{"autoload.php"}, beside: []string{"composer.json+"}, why: "packages that Composer installed"},
	},
	"target": {
		{beside: []string{"pom.xml"}, why: "output of Maven (pom.xml beside it)"},
		{beside: []string{"Cargo.toml", "build.sbt"}, why: "output of the build tool whose manifest lies beside it"},
	},
	"build": {
		{beside: []string{"build.gradle", "build.gradle.kts", "settings.gradle", "settings.gradle.kts"}, why: "output of Gradle (its script beside it)"},
		{beside: []string{"pubspec.yaml", "setup.py", "pyproject.toml"}, why: "output of the build tool whose manifest lies beside it"},
	},
	"bin": {
		{beside: []string{"*.csproj", "*.vbproj", "*.fsproj"}, why: "output of the .NET build (project file beside it)"},
		{beside: []string{".classpath"}, why: "output of the editor's build (.classpath beside it)"},
	},
	"obj":         {{beside: []string{"*.csproj", "*.vbproj", "*.fsproj"}, why: "output of the .NET build (project file beside it)"}},
	"out":         {{beside: []string{"*.iml", ".idea"}, why: "output of the editor's build (its project file beside it)"}},
	"dist":        {{beside: []string{"package.json", "setup.py", "pyproject.toml"}, why: "output of the build tool whose manifest lies beside it"}},
	"__pycache__": {{inside: []string{"*.pyc"}, why: "compiled Python"}},
	".gradle":     {{beside: []string{"build.gradle", "build.gradle.kts", "settings.gradle", "settings.gradle.kts"}, why: "Gradle's working files"}},
	".dart_tool":  {{beside: []string{"pubspec.yaml"}, why: "Dart's working files"}},
	"venv":        {{inside: []string{"pyvenv.cfg"}, why: "a Python environment"}},
	".venv":       {{inside: []string{"pyvenv.cfg"}, why: "a Python environment"}},
	".git":        {{inside: []string{"HEAD"}, why: "git's own files"}},
	".hg":         {{inside: []string{"store", "requires"}, why: "Mercurial's own files"}},
	".svn":        {{inside: []string{"wc.db", "entries"}, why: "Subversion's own files"}},
}

// skipFolder returns why a folder is left out, or "". names are the entries
// beside it; full is its path on disk.
func skipFolder(name string, names map[string]bool, full string) string {
	for _, o := range outputs[name] {
		need := false // "+": the file beside is needed as well as one inside
		besides := len(o.beside) == 0
		for _, b := range o.beside {
			b, both := strings.CutSuffix(b, "+")
			need = need || both
			besides = besides || has(names, b)
		}
		if besides && !need && len(o.beside) > 0 {
			return o.why
		}
		if besides || !need {
			for _, in := range o.inside {
				if holds(full, in) {
					return o.why
				}
			}
		}
	}
	return ""
}

// holds reports whether a folder has an entry of that name or extension.
func holds(folder, pattern string) bool {
	if !strings.HasPrefix(pattern, "*") {
		_, err := os.Lstat(filepath.Join(folder, pattern))
		return err == nil
	}
	entries, err := os.ReadDir(folder)
	if err != nil {
		return false
	}
	names := make(map[string]bool, len(entries))
	for _, e := range entries {
		names[e.Name()] = true
	}
	return has(names, pattern)
}

func has(names map[string]bool, pattern string) bool {
	if ext, ok := strings.CutPrefix(pattern, "*"); ok {
		for n := range names {
			if strings.HasSuffix(n, ext) {
				return true
			}
		}
		return false
	}
	return names[pattern]
}

// ignore holds the .gitignore patterns that hold in a folder, outermost first.
// A nil ignore matches nothing.
type ignore struct {
	patterns []gitignore.Pattern
	matcher  gitignore.Matcher
}

// with adds the patterns of the .gitignore in folder.
func (g *ignore) with(root, folder string) *ignore {
	data, err := os.ReadFile(filepath.Join(root, filepath.FromSlash(folder), ".gitignore"))
	if err != nil {
		return g
	}
	var domain []string
	if folder != "" {
		domain = strings.Split(folder, "/")
	}
	next := &ignore{}
	if g != nil {
		next.patterns = append(next.patterns, g.patterns...)
	}
	for _, line := range strings.Split(string(data), "\n") {
		line = strings.TrimSuffix(line, "\r")
		if line == "" || strings.HasPrefix(line, "#") {
			continue
		}
		next.patterns = append(next.patterns, gitignore.ParsePattern(line, domain))
	}
	next.matcher = gitignore.NewMatcher(next.patterns)
	return next
}

func (g *ignore) matches(p string, dir bool) bool {
	return g != nil && g.matcher.Match(strings.Split(p, "/"), dir)
}
