// Package layout is the declaration as a model: rings and layers, where each
// layer lives, which dependencies are permitted, and what the architect has
// decided about those that are not.
package layout

import (
	"strings"
	"time"
)

// Role says which of the four kinds of layer a layer is.
type Role string

// The roles.
const (
	NoRole        Role = ""
	Presentation  Role = "presentation"
	BusinessLogic Role = "business logic"
	Domain        Role = "domain"
	DataAccess    Role = "data access"
)

// Roles lists the roles in the order in which messages name them.
var Roles = []Role{Presentation, BusinessLogic, Domain, DataAccess}

// Verdict is what a finding counts as.
type Verdict string

// The verdicts.
const (
	Error Verdict = "error"
	Warn  Verdict = "warn"
	Note  Verdict = "note"
	Off   Verdict = "off"
)

// Verdicts lists the verdicts, gravest first.
var Verdicts = []Verdict{Error, Warn, Note, Off}

// KindNames lists every kind of breach that a declaration may name.
var KindNames = []string{
	"outward", "sideways", "shortcut", "foreign", "marker", "exposure", "roundabout",
	"backdoor", "manifest", "hard-wired", "misplaced", "loop", "unplaced", "mismatch",
}

// TechnologyNames lists the groups of the built-in catalogue.
var TechnologyNames = []string{
	"web", "remote", "user interface", "database", "messaging", "serialisation",
	"logging", "cloud", "injection", "process",
}

// Pos is a position in the declaration file; zero where nothing was written.
type Pos struct{ Line, Column int }

// Pattern is one pattern of the declaration, with the function that matches
// it. What it matches against depends on the key it stands under.
type Pattern struct {
	Text  string
	At    Pos
	Match func(s string) bool
}

// Matches reports whether any of the patterns matches s, and which.
func Matches(patterns []Pattern, s string) (*Pattern, bool) {
	for i := range patterns {
		if patterns[i].Match(s) {
			return &patterns[i], true
		}
	}
	return nil, false
}

// Layer is a named part of the application.
type Layer struct {
	Name string
	Role Role
	Ring int // 0 is the innermost
	At   Pos

	Files    []Pattern // slash paths from the declaration's folder
	Packages []Pattern // full package names
	Modules  []Pattern // manifest names
	Marked   []Pattern // annotations, attributes and base types, by their names without the sign
	Except   []Pattern // slash paths taken away again

	KeepsOut   []string // technologies and package patterns
	KeepsOutAt Pos
	Admits     []string
	OnlyFor    []string // layers that alone may use this one
	OnlyForAt  []Pos
	AnswersTo  string
	Note       string
	Verdicts   map[string]Verdict
}

// HouseRule changes the verdict of one kind of crossing.
type HouseRule struct {
	From, To string // layer names
	Kind     string // or every kind
	Verdict  Verdict
	Because  string
	At       Pos
}

// Waiver accepts breaches on purpose, for a while.
type Waiver struct {
	Text        string // as written
	From, To    *Pattern
	Fingerprint string
	Until       time.Time // the last day on which it holds
	Because, By string
	At          Pos
}

// Expired reports whether the waiver no longer holds on the given day.
func (w *Waiver) Expired(today time.Time) bool {
	y, m, d := today.Date()
	return time.Date(y, m, d, 0, 0, 0, 0, time.UTC).After(w.Until)
}

// Declaration is what moatline.yaml says.
type Declaration struct {
	Application  string
	Rings        [][]*Layer // innermost first
	Layers       []*Layer   // all layers, ring by ring
	Wiring       []Pattern
	Tests        []Pattern
	Skip         []Pattern
	Include      []Pattern
	Technologies map[string][]string
	Verdicts     map[string]Verdict
	HouseRules   []HouseRule
	Waivers      []Waiver
}

// Layer returns the layer of that name, or nil.
func (d *Declaration) Layer(name string) *Layer {
	for _, l := range d.Layers {
		if l.Name == name {
			return l
		}
	}
	return nil
}

// Direction is how a dependency between two layers runs.
type Direction uint8

// The directions.
const (
	Within   Direction = iota // it stays in its layer
	Inward                    // towards a ring nearer the middle
	Shortcut                  // inward, to a layer that is only for others
	Sideways                  // to another layer of the same ring
	Outward                   // to a ring farther from the middle
)

// Permitted reports whether a dependency of that direction needs no rule.
func (d Direction) Permitted() bool { return d <= Inward }

// Between returns the direction of a dependency from one layer to another.
func Between(from, to *Layer) Direction {
	switch {
	case from == to:
		return Within
	case to.Ring > from.Ring:
		return Outward
	case to.Ring == from.Ring:
		return Sideways
	}
	if len(to.OnlyFor) > 0 {
		for _, n := range to.OnlyFor {
			if n == from.Name {
				return Inward
			}
		}
		return Shortcut
	}
	return Inward
}

// PackageMatcher returns the function that matches full package names: a.b is
// that package alone, a.b.* its direct children, a.b.** itself and all below.
// Separators "/", "\" and "::" are taken for ".", in the pattern and in the
// name; * within a segment stands for any part of it.
func PackageMatcher(pattern string) func(string) bool {
	segs := strings.Split(dotted(pattern), ".")
	return func(name string) bool { return matchSegments(segs, strings.Split(dotted(name), ".")) }
}

var separators = strings.NewReplacer("/", ".", `\`, ".", "::", ".")

func dotted(s string) string { return strings.Trim(separators.Replace(s), ".") }

func matchSegments(pattern, name []string) bool {
	for len(pattern) > 0 {
		if pattern[0] == "**" {
			if len(pattern) == 1 {
				return true
			}
			for i := range len(name) + 1 {
				if matchSegments(pattern[1:], name[i:]) {
					return true
				}
			}
			return false
		}
		if len(name) == 0 || !matchSegment(pattern[0], name[0]) {
			return false
		}
		pattern, name = pattern[1:], name[1:]
	}
	return len(name) == 0
}

// matchSegment matches one segment, in which * stands for any run of
// characters.
func matchSegment(pattern, s string) bool {
	parts := strings.Split(pattern, "*")
	if len(parts) == 1 {
		return pattern == s
	}
	if !strings.HasPrefix(s, parts[0]) {
		return false
	}
	s = s[len(parts[0]):]
	for _, p := range parts[1 : len(parts)-1] {
		i := strings.Index(s, p)
		if i < 0 {
			return false
		}
		s = s[i+len(p):]
	}
	return strings.HasSuffix(s, parts[len(parts)-1])
}

// Nearest returns the word of a list that is closest to s, or "" where none is
// close enough to be meant.
func Nearest(s string, words []string) string {
	best, least := "", len([]rune(s))/2+1
	for _, w := range words {
		if n := distance(strings.ToLower(s), strings.ToLower(w)); n < least {
			best, least = w, n
		}
	}
	return best
}

// distance is the Levenshtein distance: the number of single-character edits.
func distance(a, b string) int {
	x, y := []rune(a), []rune(b)
	if len(x) > 100 || len(y) > 100 {
		return 100
	}
	row := make([]int, len(y)+1)
	for j := range row {
		row[j] = j
	}
	for i, c := range x {
		last := row[0]
		row[0] = i + 1
		for j, d := range y {
			cost := last
			if c != d {
				cost++
			}
			last = row[j+1]
			row[j+1] = min(cost, row[j+1]+1, row[j]+1)
		}
	}
	return row[len(y)]
}
