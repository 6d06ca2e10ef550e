package declaration

import (
	"fmt"
	"strings"

	"github.com/bmatcuk/doublestar/v4"
	"github.com/goccy/go-yaml/ast"
	"github.com/goccy/go-yaml/token"

	"moatline/internal/core/layout"
)

type tokenType = token.Token

var topKeys = []string{"application", "rings", "wiring", "tests", "skip", "include", "technologies", "verdicts", "house-rules", "waivers"}
var layerKeys = []string{"files", "packages", "modules", "marked", "except", "role", "keeps-out", "admits", "only-for", "answers-to", "note", "verdicts"}

// declaration reads the whole file.
func (r *reading) declaration(file *ast.File) *layout.Declaration {
	d := &layout.Declaration{Technologies: map[string][]string{}, Verdicts: map[string]layout.Verdict{}}
	var body ast.Node
	docs := 0
	for _, doc := range file.Docs {
		if doc.Body == nil {
			continue
		}
		if _, comment := doc.Body.(*ast.CommentGroupNode); comment {
			continue
		}
		docs++
		if docs == 1 {
			body = doc.Body
		} else {
			r.problem(doc.Body, "a second document", "A declaration is one YAML document.")
		}
	}
	if body == nil {
		r.problems = append(r.problems, Problem{File: r.show, Line: 1, Column: 1,
			Message: "the declaration is empty", Hint: "It needs rings: at least. Draft one with: moatline draft"})
		return d
	}
	body = r.plain(body)
	if !isMapping(body) {
		r.problem(body, "a declaration is a mapping of keys, this is "+kindOf(body), "Begin with: application: NAME, then rings: with one list item a ring, innermost first.")
		return d
	}
	var rings, rules ast.Node
	for _, p := range r.mapping(body, "the declaration", topKeys) {
		switch p.key {
		case "application":
			d.Application, _ = r.text(p.value, "application")
		case "rings":
			rings = p.value
		case "wiring":
			d.Wiring = r.globs(p.value, "wiring")
		case "tests":
			d.Tests = r.globs(p.value, "tests")
		case "skip":
			d.Skip = r.globs(p.value, "skip")
		case "include":
			d.Include = r.globs(p.value, "include")
		case "technologies":
			r.technologies(d, p.value)
		case "verdicts":
			d.Verdicts = r.verdicts(p.value, "verdicts")
		case "house-rules":
			rules = p.value
		case "waivers":
			r.waivers(d, p.value)
		}
	}
	if rings == nil {
		r.problem(body, "no rings are declared", "Add rings: with one list item a ring, innermost first; each item names its layers.")
		return d
	}
	known := r.rings(d, rings)
	r.layerReferences(d, known)
	if rules != nil {
		r.houseRules(d, rules)
	}
	return d
}

// globs reads patterns of slash paths.
func (r *reading) globs(n ast.Node, what string) []layout.Pattern {
	texts, nodes := r.texts(n, what)
	var out []layout.Pattern
	for i, t := range texts {
		match, why := Glob(t)
		if why != "" {
			r.problem(nodes[i], fmt.Sprintf("%q is not a pattern: %s", t, why),
				"Patterns are slash paths from the declaration's folder; * stands for part of a name, ** for any folders, {a,b} for a choice.")
			continue
		}
		out = append(out, layout.Pattern{Text: t, At: r.pos(nodes[i]), Match: match})
	}
	return out
}

// Glob compiles a pattern of slash paths. why is empty where it is right.
func Glob(pattern string) (match func(string) bool, why string) {
	p := strings.TrimPrefix(pattern, "./")
	switch {
	case strings.HasPrefix(p, "/"):
		return nil, "it begins with a slash, but paths begin at the declaration's folder"
	case strings.Contains(p, `\`) && !strings.ContainsAny(p, "[]{}*?"):
		return nil, "write folders with /, not \\"
	case p == ".." || strings.HasPrefix(p, "../") || strings.Contains(p, "/../"):
		return nil, "it leads out of the declaration's folder"
	case !doublestar.ValidatePattern(p):
		return nil, "a bracket or brace is not closed, or an escape has nothing behind it"
	}
	p = strings.TrimSuffix(p, "/")
	// The usual forms need no matcher.
	if !strings.ContainsAny(p, `*?[{\`) {
		return func(s string) bool { return s == p }, ""
	}
	if prefix, ok := strings.CutSuffix(p, "/**"); ok && !strings.ContainsAny(prefix, `*?[{\`) {
		prefix += "/"
		return func(s string) bool { return strings.HasPrefix(s, prefix) }, ""
	}
	under := base(p)
	if under != "" {
		under += "/"
	}
	return func(s string) bool {
		return strings.HasPrefix(s, under) && doublestar.MatchUnvalidated(p, s)
	}, ""
}

// rings reads the rings and returns the names of all layers.
func (r *reading) rings(d *layout.Declaration, n ast.Node) map[string]bool {
	known := make(map[string]bool)
	s, ok := r.plain(n).(*ast.SequenceNode)
	if !ok {
		r.problem(n, "rings takes a list, this is "+kindOf(n), "One list item a ring, innermost first: - domain: …, then - business logic: …")
		return known
	}
	if len(s.Values) == 0 {
		r.problem(n, "rings is an empty list", "Name at least one layer: - domain:")
	}
	for _, item := range s.Values {
		item = r.plain(item)
		var ring []*layout.Layer
		if name, ok := scalar(item); ok { // "- domain", a layer that has nowhere to live yet
			l := &layout.Layer{Name: strings.TrimSpace(name), Ring: len(d.Rings), At: r.pos(item)}
			ring = append(ring, l)
		} else if isMapping(item) {
			for _, p := range r.mapping(item, "a ring", nil) {
				ring = append(ring, r.layer(p, len(d.Rings)))
			}
			if len(ring) == 0 {
				r.problem(item, "a ring without a layer", "Name a layer, or take the item away.")
			}
		} else {
			r.problem(item, "a ring names its layers, this is "+kindOf(item), "Write: - domain: and its keys below, indented.")
			continue
		}
		kept := ring[:0]
		for _, l := range ring {
			switch {
			case l.Name == "":
				r.problem(item, "a layer without a name", "")
			case l.Name == "wiring" || l.Name == "tests" || l.Name == "unplaced":
				r.problem(item, fmt.Sprintf("%q cannot be the name of a layer", l.Name), "wiring and tests have keys of their own, beside rings; unplaced is what nothing claims.")
			case known[l.Name]:
				r.problems = append(r.problems, Problem{File: r.show, Line: l.At.Line, Column: l.At.Column, Source: r.line(l.At.Line),
					Message: fmt.Sprintf("the layer %q is declared twice", l.Name), Hint: "A layer lies on one ring; give the second another name, or join them."})
			default:
				known[l.Name] = true
				kept = append(kept, l)
			}
		}
		if len(kept) > 0 {
			d.Rings = append(d.Rings, kept)
			d.Layers = append(d.Layers, kept...)
		}
	}
	return known
}

// layer reads one layer.
func (r *reading) layer(p pair, ring int) *layout.Layer {
	l := &layout.Layer{Name: p.key, Ring: ring, At: r.pos(p.node)}
	for _, role := range layout.Roles {
		if strings.EqualFold(strings.NewReplacer("-", " ", "_", " ").Replace(p.key), string(role)) {
			l.Role = role
		}
	}
	if _, null := p.value.(*ast.NullNode); null || p.value == nil {
		return l // a sketch
	}
	what := "the layer " + p.key
	if !isMapping(p.value) {
		r.problem(p.value, fmt.Sprintf("%s takes a mapping, this is %s", what, kindOf(p.value)), "Say where it lives: files: FOLDER/**")
		return l
	}
	for _, k := range r.mapping(p.value, what, layerKeys) {
		switch k.key {
		case "files":
			l.Files = r.globs(k.value, "files")
		case "except":
			l.Except = r.globs(k.value, "except")
		case "packages":
			l.Packages = r.named(k.value, "packages", layout.PackageMatcher)
		case "modules":
			l.Modules = r.named(k.value, "modules", moduleMatcher)
		case "marked":
			l.Marked = r.named(k.value, "marked", layout.MarkMatcher)
		case "role":
			if s, ok := r.text(k.value, "role"); ok {
				if !containsWord(roleWords(), s) {
					r.problem(k.value, fmt.Sprintf("%q is not a role", s), didYouMean(s, roleWords()))
				}
				l.Role = layout.Role(s)
			}
		case "keeps-out":
			var nodes []ast.Node
			l.KeepsOut, nodes = r.texts(k.value, "keeps-out")
			l.KeepsOutAt = r.pos(k.value)
			r.technologyWords(l.KeepsOut, nodes)
		case "admits":
			var nodes []ast.Node
			l.Admits, nodes = r.texts(k.value, "admits")
			r.technologyWords(l.Admits, nodes)
		case "only-for":
			names, nodes := r.texts(k.value, "only-for")
			l.OnlyFor = names
			for _, n := range nodes {
				l.OnlyForAt = append(l.OnlyForAt, r.pos(n))
			}
		case "answers-to":
			l.AnswersTo, _ = r.text(k.value, "answers-to")
		case "note":
			l.Note, _ = r.text(k.value, "note")
		case "verdicts":
			l.Verdicts = r.verdicts(k.value, "verdicts of "+p.key)
		}
	}
	return l
}

func moduleMatcher(pattern string) func(string) bool {
	match, _ := Glob(pattern)
	if match == nil {
		return func(s string) bool { return s == pattern }
	}
	return func(s string) bool {
		// A Maven module may be named without its group.
		return s == pattern || match(s) || match(s[strings.LastIndexByte(s, ':')+1:])
	}
}

// named reads patterns of names.
func (r *reading) named(n ast.Node, what string, compile func(string) func(string) bool) []layout.Pattern {
	texts, nodes := r.texts(n, what)
	var out []layout.Pattern
	for i, t := range texts {
		if strings.ContainsAny(t, " \t") {
			r.problem(nodes[i], fmt.Sprintf("%q is not a name", t), "Names have no spaces; several are written as a list.")
			continue
		}
		out = append(out, layout.Pattern{Text: t, At: r.pos(nodes[i]), Match: compile(t)})
	}
	return out
}

func roleWords() []string {
	var w []string
	for _, r := range layout.Roles {
		w = append(w, string(r))
	}
	return w
}

func verdictWords() []string {
	var w []string
	for _, v := range layout.Verdicts {
		w = append(w, string(v))
	}
	return w
}

func (r *reading) verdicts(n ast.Node, what string) map[string]layout.Verdict {
	out := make(map[string]layout.Verdict)
	for _, p := range r.mapping(n, what, layout.KindNames) {
		if v, ok := r.verdict(p.value); ok {
			out[p.key] = v
		}
	}
	return out
}

func (r *reading) verdict(n ast.Node) (layout.Verdict, bool) {
	// YAML 1.1 reads a bare off as false; the word is what counts.
	s, ok := scalar(r.plain(n))
	if b, isBool := n.(*ast.BoolNode); isBool && !b.Value {
		s = "off"
	}
	if !ok || !containsWord(verdictWords(), s) {
		r.problem(n, fmt.Sprintf("%q is not a verdict", s), didYouMean(s, verdictWords()))
		return "", false
	}
	return layout.Verdict(s), true
}

// technologyWords warns of words that are taken for package names but look
// like a technology that is spelled otherwise.
func (r *reading) technologyWords(words []string, nodes []ast.Node) {
	for i, w := range words {
		if strings.ContainsAny(w, "./*") || w == "everything" || containsWord(layout.TechnologyNames, w) {
			continue
		}
		if near := layout.Nearest(w, append([]string{"everything"}, layout.TechnologyNames...)); near != "" {
			r.add(nodes[i], fmt.Sprintf("%q is no technology of the catalogue; it is taken for the name of a package", w), "Did you mean "+near+"?", true)
		}
	}
}

func (r *reading) technologies(d *layout.Declaration, n ast.Node) {
	for _, p := range r.mapping(n, "technologies", nil) {
		list, _ := r.texts(p.value, p.key)
		d.Technologies[p.key] = list
	}
}

// layerReferences checks the layers that layers name.
func (r *reading) layerReferences(d *layout.Declaration, known map[string]bool) {
	var names []string
	for _, l := range d.Layers {
		names = append(names, l.Name)
	}
	for _, l := range d.Layers {
		for i, n := range l.OnlyFor {
			if !known[n] {
				at := l.OnlyForAt[i]
				r.problems = append(r.problems, Problem{File: r.show, Line: at.Line, Column: at.Column, Source: r.line(at.Line),
					Message: fmt.Sprintf("only-for names no layer %q", n), Hint: didYouMean(n, names)})
			}
		}
	}
}

func didYouMean(s string, words []string) string {
	hint := "It is one of " + list(words) + "."
	if near := layout.Nearest(s, words); near != "" {
		hint = "Did you mean " + near + "? " + hint
	}
	return hint
}

func list(words []string) string { return strings.Join(words, ", ") }

func containsWord(words []string, s string) bool {
	for _, w := range words {
		if w == s {
			return true
		}
	}
	return false
}
