package manifest

import (
	"bytes"
	"strings"

	"github.com/pelletier/go-toml/v2"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

func isGradle(base string) bool {
	return strings.HasSuffix(base, ".gradle") || strings.HasSuffix(base, ".gradle.kts")
}

// readGradle reads a Gradle script in Groovy or Kotlin (Gradle user manual,
// "Declaring dependencies", "Structuring projects"), as far as it is written
// in the usual ways: nothing is run.
func readGradle(p string, text []byte, note note) *fact.Manifest {
	r := &gradle{m: &fact.Manifest{Properties: make(map[string]string)}}
	r.Begin(text, note)
	r.scan()
	r.Close()
	for r.I < len(r.Tokens)-1 {
		r.statement()
	}
	return r.m
}

type gradle struct {
	lexis.Stream
	m *fact.Manifest
}

func (r *gradle) scan() {
	src := r.Src
	for i := 0; i < r.End; {
		switch c := src[i]; {
		case c <= ' ':
			i++
		case c == '/' && src[i+1] == '/':
			i = r.LineEnd(i)
		case c == '/' && src[i+1] == '*':
			stop := r.Find(i+2, "*/")
			if stop < 0 {
				return
			}
			i = stop + 2
		case c == '"' || c == '\'':
			if src[i+1] == c && src[i+2] == c {
				stop := r.Find(i+3, string(src[i:i+3]))
				if stop < 0 {
					return
				}
				r.Add(lexis.String, i, stop+3)
				i = stop + 3
				continue
			}
			j := i + 1
			for j < r.End && src[j] != c && src[j] != '\n' {
				if src[j] == '\\' {
					j++
				}
				j++
			}
			j = min(j+1, r.End)
			r.Add(lexis.String, i, j)
			i = j
		case lexis.NameChar[c]:
			j := r.NameEnd(i)
			r.Add(lexis.Name, i, j)
			i = j
		default:
			r.Add(c, i, i+1)
			i++
		}
	}
}

// text returns the content of the string at token i, or "".
func (r *gradle) text(i int) string {
	b := r.Bytes(i)
	if r.At(i) != lexis.String || len(b) < 2 || b[len(b)-1] != b[0] {
		return ""
	}
	return string(b[1 : len(b)-1])
}

// statement reads what begins at the current token.
func (r *gradle) statement() {
	i := r.I
	r.I++
	if r.At(i) != lexis.Name || r.At(i-1) == '.' {
		return
	}
	k := i + 1
	word := string(r.Bytes(i))
	if r.At(k) == '(' {
		k++
	}
	switch word {
	case "include", "includeBuild", "includeFlat":
		for ; r.At(k) == lexis.String; k += 2 {
			r.m.Holds = append(r.m.Holds, fact.Requirement{Name: r.text(k), Scope: word, At: r.Where(k)})
			if r.At(k+1) != ',' {
				break
			}
		}
		return
	case "rootProject":
		if r.At(i+1) == '.' && r.Is(i+2, "name") && r.At(i+3) == '=' {
			r.m.Module = r.text(i + 4)
		}
		return
	case "group", "version":
		if r.At(k) == '=' {
			k++
		}
		if s := r.text(k); s != "" && r.NewLine(i) {
			r.m.Properties[word] = s
		}
		return
	case "project":
		// project(':core').projectDir = file('../core')
		if r.At(i+1) == '(' && r.At(r.Pair(i+1)+1) == '.' && r.Is(r.Pair(i+1)+2, "projectDir") {
			name := r.text(i + 2)
			for n := r.Pair(i+1) + 3; n < r.Pair(i+1)+14; n++ {
				if s := r.text(n); s != "" && r.At(n) == lexis.String {
					r.m.Maps = append(r.m.Maps, fact.Mapping{Kind: "projectDir", From: name, To: []string{s}})
					break
				}
			}
		}
		return
	}
	if scope, ok := configuration(word); ok {
		r.dependency(i, k, scope)
	}
}

// configuration tells the names of dependency configurations.
func configuration(word string) (scope string, ok bool) {
	low := strings.ToLower(word)
	for _, end := range []string{"implementation", "api", "compileonly", "runtimeonly", "compile", "runtime", "annotationprocessor", "kapt", "ksp", "provided", "classpath"} {
		if low == end || strings.HasSuffix(low, end) && len(low) > len(end) {
			switch {
			case strings.Contains(low, "test"):
				return "test", true
			case strings.Contains(low, "processor"), end == "kapt", end == "ksp", end == "classpath":
				return "build", true
			}
			return end, true
		}
	}
	return "", false
}

// dependency reads one dependency, whose notation begins at token k.
func (r *gradle) dependency(i, k int, scope string) {
	q := fact.Requirement{Scope: scope, At: r.Where(k)}
	for r.Is(k, "platform") || r.Is(k, "enforcedPlatform") || r.Is(k, "testFixtures") {
		k += 2
	}
	switch {
	case r.At(k) == lexis.String:
		for {
			parts := strings.Split(r.text(k), ":")
			if len(parts) < 2 || parts[0] == "" {
				return
			}
			q.Name, q.At = parts[0]+":"+parts[1], r.Where(k)
			if len(parts) > 2 {
				q.Version = parts[2]
			}
			r.m.Requires = append(r.m.Requires, q)
			if r.At(k+1) != ',' || r.At(k+2) != lexis.String {
				return
			}
			k += 2
		}
	case r.Is(k, "project"):
		n := k + 1
		if r.At(n) == '(' {
			n++
		}
		if r.Is(n, "path") {
			n += 2
		}
		if s := r.text(n); s != "" {
			q.Name, q.Scope = s, "project "+scope
			r.m.Requires = append(r.m.Requires, q)
		}
	case r.Is(k, "projects") && r.At(k+1) == '.':
		var name []string
		for n := k + 1; r.At(n) == '.' && r.At(n+1) == lexis.Name; n += 2 {
			name = append(name, string(r.Bytes(n+1)))
		}
		q.Name, q.Scope = ":"+strings.Join(name, ":"), "project "+scope
		r.m.Requires = append(r.m.Requires, q)
	case r.Is(k, "libs") && r.At(k+1) == '.':
		var name []string
		for n := k + 1; r.At(n) == '.' && r.At(n+1) == lexis.Name && !r.Is(n+1, "get"); n += 2 {
			name = append(name, string(r.Bytes(n+1)))
		}
		q.Name, q.Path = strings.Join(name, "."), "libs"
		r.m.Requires = append(r.m.Requires, q)
	case r.Is(k, "group") && (r.At(k+1) == ':' || r.At(k+1) == '='):
		parts := map[string]string{}
		for n := k; r.At(n) == lexis.Name && (r.At(n+1) == ':' || r.At(n+1) == '=') && r.At(n+2) == lexis.String; n += 4 {
			parts[string(r.Bytes(n))] = r.text(n + 2)
			if r.At(n+3) != ',' {
				break
			}
		}
		if parts["name"] != "" {
			q.Name, q.Version = parts["group"]+":"+parts["name"], parts["version"]
			r.m.Requires = append(r.m.Requires, q)
		}
	case r.Is(k, "kotlin") && r.At(k+1) == '(':
		if s := r.text(k + 2); s != "" {
			q.Name = "org.jetbrains.kotlin:kotlin-" + s
			r.m.Requires = append(r.m.Requires, q)
		}
	}
}

// readCatalogue reads a version catalogue, libs.versions.toml (Gradle user
// manual, "Version catalogs").
func readCatalogue(text []byte, note note) *fact.Manifest {
	m := &fact.Manifest{}
	var c struct {
		Libraries map[string]any `toml:"libraries"`
	}
	if err := toml.Unmarshal(text, &c); err != nil {
		tomlNote(err, note)
		return m
	}
	doc := newDocument(text)
	for alias, v := range c.Libraries {
		name := ""
		switch v := v.(type) {
		case string:
			if parts := strings.Split(v, ":"); len(parts) >= 2 {
				name = parts[0] + ":" + parts[1]
			}
		case map[string]any:
			if s, ok := v["module"].(string); ok {
				name = s
			} else {
				g, _ := v["group"].(string)
				n, _ := v["name"].(string)
				name = g + ":" + n
			}
		}
		if name != "" && name != ":" {
			m.Managed = append(m.Managed, fact.Requirement{Name: name, Path: strings.NewReplacer("-", ".", "_", ".").Replace(alias), At: doc.keyAt(alias)})
		}
	}
	sortRequirements(m.Managed)
	return m
}

// keyAt returns the place of the first line that begins with a name or, where
// none does, of the first place where the name stands whole.
func (d *document) keyAt(name string) fact.Place {
	text := d.Src[:d.End]
	whole := -1
	for at := 0; at < len(text) && name != ""; {
		n := bytes.Index(text[at:], []byte(name))
		if n < 0 {
			break
		}
		n += at
		after := d.Src[n+len(name)]
		if !lexis.NameChar[after] && after != '-' && (n == 0 || !lexis.NameChar[text[n-1]] && text[n-1] != '-') {
			if whole < 0 {
				whole = n
			}
			if len(bytes.TrimLeft(text[bytes.LastIndexByte(text[:n], '\n')+1:n], " \t\"'-")) == 0 {
				return d.place(n)
			}
		}
		at = n + len(name)
	}
	return d.place(max(0, whole))
}
