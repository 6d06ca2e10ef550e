package text

import (
	"fmt"
	"io"
	"sort"
	"strings"
	"unicode/utf8"

	"moatline/internal/core/judge"
	"moatline/internal/core/layout"
)

// CheckOptions say what the text of a check shows.
type CheckOptions struct {
	All     bool // every place
	Covered bool // findings that a waiver covers, too
}

// Check writes the judgement: the verdict for the domain, the rings from the
// innermost to the outermost, then the findings, those that are one and the
// same mistake together, and a line that sums up.
func Check(w io.Writer, j *judge.Judgement, d *layout.Declaration, s Style, o CheckOptions) error {
	p := &printer{w: w, s: s}
	name := d.Application
	if name == "" {
		name = "The application"
	}
	p.line("%s", s.paint(title, Line(name)))
	p.line("")
	p.domain(j)
	p.line("")
	p.rings(j)
	groups := group(j.Findings, o.Covered)
	for _, g := range groups {
		p.line("")
		p.group(g, o)
	}
	p.line("")
	p.summary(j)
	return p.err
}

// printer writes lines and remembers the first error.
type printer struct {
	w   io.Writer
	s   Style
	err error
}

func (p *printer) line(format string, args ...any) {
	if p.err == nil {
		_, p.err = fmt.Fprintf(p.w, format+"\n", args...)
	}
}

// domain says whether the domain depends on what lies outside it.
func (p *printer) domain(j *judge.Judgement) {
	in := j.Inside
	var names []string
	for _, l := range in.Layers {
		names = append(names, Line(l.Name))
	}
	who := "The " + strings.Join(names, " and the ")
	verb := "depends"
	if len(names) > 1 {
		verb = "depend"
	}
	switch {
	case in.Files == 0:
		p.line("%s", p.s.paint(warn, who+" has no file yet, so nothing can be said about it."))
	case in.Breaches > 0:
		p.line("%s", p.s.paint(bad, fmt.Sprintf("%s %s on what lies outside: %s in %s.", who, verb,
			count(in.Breaches, "breach", "breaches"), count(in.In, "file", "files"))))
	case in.Covered > 0:
		p.line("%s", p.s.paint(good, fmt.Sprintf("%s %s on nothing outside but what is waived: %s.", who, verb, count(in.Covered, "breach", "breaches"))))
	default:
		p.line("%s", p.s.paint(good, fmt.Sprintf("%s %s on nothing outside.", who, verb)))
	}
}

// rings lists the rings, innermost first, and says so beside them.
func (p *printer) rings(j *judge.Judgement) {
	type row struct {
		mark, ring, name, files, lines string
		counts                         judge.Counts
	}
	tally := make(map[string]*judge.Counts)
	at := func(layer string) *judge.Counts {
		if tally[layer] == nil {
			tally[layer] = &judge.Counts{}
		}
		return tally[layer]
	}
	for _, f := range j.Findings {
		k := at(f.From.Layer)
		switch {
		case f.CoveredBy != nil:
			k.Covered++
		case f.Verdict == layout.Error:
			k.Error++
		case f.Verdict == layout.Warn:
			k.Warn++
		default:
			k.Note++
		}
	}
	var rows []row
	add := func(mark, ring, name string, c judge.LayerCount, key string) {
		files := "empty"
		if c.Files > 0 {
			files = count(c.Files, "file", "files")
		}
		lines := ""
		if c.Files > 0 {
			lines = count(c.Lines, "line", "lines")
		}
		rows = append(rows, row{mark, ring, Line(name), files, lines, *at(key)})
	}
	last := -1
	for i, c := range j.Layers {
		mark, ring := "", ""
		if c.Layer.Ring != last {
			ring = fmt.Sprintf("ring %d", c.Layer.Ring+1)
			last = c.Layer.Ring
		}
		if i == 0 {
			mark = "innermost"
		} else if c.Layer.Ring == j.Layers[len(j.Layers)-1].Layer.Ring && ring != "" {
			mark = "outermost"
		}
		add(mark, ring, c.Layer.Name, c, c.Layer.Name)
	}
	beside := len(rows)
	if j.Wiring.Files > 0 {
		add("", "", "wiring", j.Wiring, "wiring")
	}
	if j.Tests.Files > 0 {
		add("", "", "tests", j.Tests, "tests")
	}
	if j.Unplaced.Files > 0 {
		add("", "", "unplaced", j.Unplaced, "")
	}
	if len(rows) > beside {
		rows[beside].mark = "in no ring"
	}
	var width [5]int
	for _, r := range rows {
		for i, c := range []string{r.mark, r.ring, r.name, r.files, r.lines} {
			width[i] = max(width[i], utf8.RuneCountInString(c))
		}
	}
	for i, r := range rows {
		if i == beside {
			p.line("")
		}
		line := "  " + p.s.paint(faint, pad(r.mark, width[0])) + "  " + pad(r.ring, width[1]) + "  " + p.s.paint(title, pad(r.name, width[2])) +
			"  " + padLeft(r.files, width[3]) + "  " + padLeft(r.lines, width[4]) + "  " + p.counts(r.counts)
		p.line("%s", strings.TrimRight(line, " "))
	}
}

func (p *printer) counts(c judge.Counts) string {
	var parts []string
	if c.Error > 0 {
		parts = append(parts, p.s.paint(bad, count(c.Error, "error", "errors")))
	}
	if c.Warn > 0 {
		parts = append(parts, p.s.paint(warn, count(c.Warn, "warning", "warnings")))
	}
	if c.Note > 0 {
		parts = append(parts, count(c.Note, "note", "notes"))
	}
	if c.Covered > 0 {
		parts = append(parts, count(c.Covered, "waived", "waived"))
	}
	return strings.Join(parts, ", ")
}

// findingGroup is one mistake: findings of one kind between the same two
// layers that use the same thing.
type findingGroup struct {
	first    *judge.Finding
	findings []*judge.Finding
	places   int
}

var gravity = map[layout.Verdict]int{layout.Error: 0, layout.Warn: 1, layout.Note: 2}

func group(findings []*judge.Finding, covered bool) []*findingGroup {
	byKey := make(map[string]*findingGroup)
	var groups []*findingGroup
	for _, f := range findings {
		if f.CoveredBy != nil && !covered {
			continue
		}
		thing := f.To.Name
		switch f.Kind {
		case "unplaced":
			thing = ""
		case "roundabout":
			thing += f.Fingerprint // each has a chain of its own
		case "foreign", "marker":
			thing = f.To.Technology // one package reads as one thing
		}
		state := string(f.Verdict) + "\x00" + f.Because
		if f.CoveredBy != nil {
			state = "covered"
		}
		key := strings.Join([]string{f.Kind, state, f.From.Layer, f.To.Layer, f.To.File, f.To.Package, thing}, "\x00")
		g := byKey[key]
		if g == nil {
			g = &findingGroup{first: f}
			byKey[key] = g
			groups = append(groups, g)
		}
		g.findings = append(g.findings, f)
		g.places += max(1, len(f.Places))
	}
	order := make(map[string]int)
	for i, k := range judge.Kinds() {
		order[k.Name] = i
	}
	sort.SliceStable(groups, func(a, b int) bool {
		x, y := groups[a].first, groups[b].first
		if (x.CoveredBy == nil) != (y.CoveredBy == nil) {
			return x.CoveredBy == nil
		}
		if gravity[x.Verdict] != gravity[y.Verdict] {
			return gravity[x.Verdict] < gravity[y.Verdict]
		}
		if order[x.Kind] != order[y.Kind] {
			return order[x.Kind] < order[y.Kind]
		}
		return len(groups[a].findings) > len(groups[b].findings)
	})
	return groups
}

func (p *printer) group(g *findingGroup, o CheckOptions) {
	f := g.first
	c := warn
	word := "warning"
	switch f.Verdict {
	case layout.Error:
		c, word = bad, "error"
	case layout.Note:
		c, word = faint, "note"
	}
	if f.CoveredBy != nil {
		c, word = faint, "waived"
	}
	head := f.Kind
	if f.Kind == "unplaced" {
		head += "  " + count(len(g.findings), "file that no pattern claims", "files that no pattern claims")
	} else {
		from := f.From.Layer
		if from == "" {
			from = "unplaced"
		}
		head += "  " + Line(from) + " -> " + Line(target(f.To)) + ", " + count(g.places, "place", "places")
		in := make(map[string]bool)
		for _, x := range g.findings {
			in[x.From.File] = true
		}
		if len(in) > 1 {
			head += " in " + count(len(in), "file", "files")
		}
	}
	p.line("%s  %s", p.s.paint(c, pad(word, 7)), p.s.paint(title, head))
	if f.Kind != "unplaced" {
		thing := Line(names(g.findings))
		if f.To.File != "" {
			thing += ", declared in " + Line(f.To.File)
			if f.To.Line > 0 {
				thing += fmt.Sprintf(":%d", f.To.Line)
			}
		} else if f.To.Package != "" && f.To.Layer != "" {
			thing += ", the package in " + Line(f.To.Package)
		}
		p.line("  uses    %s", wrap(thing, p.s.Width, 10))
	}
	p.places(g, o)
	for i, s := range f.Chain {
		label := ""
		if i == 0 {
			label = "by"
		}
		p.line("  %s  %s", pad(label, 6), wrap(Line(s), p.s.Width, 14))
	}
	p.line("  rule    %s", wrap(Line(f.Rule), p.s.Width, 10))
	if f.Because != "" {
		p.line("  because %s", wrap(Line(f.Because)+" (house rule)", p.s.Width, 10))
	}
	if f.CoveredBy != nil {
		p.line("  waived  %s", wrap(fmt.Sprintf("until %s by %s: %s", f.CoveredBy.Until, Line(f.CoveredBy.Who), Line(f.CoveredBy.Because)), p.s.Width, 10))
	}
	p.line("  remedy  %s", wrap(Line(f.Remedy), p.s.Width, 10))
}

// target names the far end of a finding: a layer or, for what lies outside
// the tree, its technology and package.
func target(e judge.End) string {
	if e.Layer != "" {
		return e.Layer
	}
	pkg := e.Package
	if key, ok := strings.CutPrefix(pkg, "tag:"); ok {
		pkg = "struct tag " + key
	}
	if e.Technology == "" {
		return pkg
	}
	return e.Technology + " (" + pkg + ")"
}

// names lists the things that a group uses, each once.
func names(findings []*judge.Finding) string {
	const most = 6
	var out []string
	seen := make(map[string]bool)
	for _, f := range findings {
		if seen[f.To.Name] {
			continue
		}
		seen[f.To.Name] = true
		if len(out) < most {
			name := f.To.Name
			if key, ok := strings.CutPrefix(name, "tag:"); ok {
				name = "the struct tag key " + key
			}
			out = append(out, name)
		}
	}
	if n := len(seen) - len(out); n > 0 {
		out = append(out, fmt.Sprintf("and %d more", n))
	}
	return strings.Join(out, ", ")
}

// places lists the findings of a group: each file once, with the finding's id,
// its first place and how many more it has.
func (p *printer) places(g *findingGroup, o CheckOptions) {
	const most = 6
	left, leftPlaces := 0, 0
	label := "at"
	for i, f := range g.findings {
		if i >= most && !o.All {
			left++
			leftPlaces += max(1, len(f.Places))
			continue
		}
		lead := "  " + pad(label, 6) + "  " + p.s.paint(faint, f.Fingerprint) + "  "
		const indent = 10 + 12 + 2
		label = ""
		if f.Kind == "unplaced" {
			p.line("%s%s", lead, Line(f.From.File))
			continue
		}
		if o.All {
			for _, at := range f.Places {
				p.line("%s%s:%d:%d  %s", lead, Line(f.From.File), at.Line, at.Column, at.How)
				lead = strings.Repeat(" ", indent)
			}
			continue
		}
		line := fmt.Sprintf("%s:%d:%d  ", Line(f.From.File), f.From.Line, f.From.Column)
		if f.Unused {
			line += "import that nothing uses"
		} else {
			line += f.Places[0].How.String()
		}
		if f.TypesOnly {
			line += " (types only)"
		}
		if n := len(f.Places) - 1; n > 0 {
			line += fmt.Sprintf(", %d more in %s", n, lineList(f.Places[1:]))
		}
		if utf8.RuneCountInString(line)+indent > p.s.Width {
			line = wrap(line, p.s.Width, indent)
		}
		p.line("%s%s", lead, line)
	}
	if left > 0 {
		p.line("          %s", p.s.paint(faint, fmt.Sprintf("%s more in %s (--all shows them)", count(leftPlaces, "place", "places"), count(left, "file", "files"))))
	}
}

// lineList names the first few different lines.
func lineList(places []judge.Place) string {
	const most = 6
	var out []string
	last := 0
	for _, p := range places {
		if p.Line == last {
			continue
		}
		last = p.Line
		if len(out) == most {
			out = append(out, "…")
			break
		}
		out = append(out, fmt.Sprint(p.Line))
	}
	if len(out) == 1 {
		return "line " + out[0]
	}
	return "lines " + strings.Join(out, " ")
}

func (p *printer) summary(j *judge.Judgement) {
	for _, w := range j.Expired {
		p.line("%s", p.s.paint(bad, wrap(fmt.Sprintf("The waiver for %s ended on %s; what it covered counts again.", Line(w.Text), w.Until.Format("2006-01-02")), p.s.Width, 2)))
	}
	for _, w := range j.Idle {
		p.line("%s", wrap(fmt.Sprintf("The waiver for %s covers nothing any more; it can be deleted.", Line(w.Text)), p.s.Width, 2))
	}
	read := fmt.Sprintf("%s read, %s, %s between layers", count(j.Read.Files, "source file", "source files"),
		count(j.Read.Dependencies, "dependency", "dependencies"), number(j.Read.Crossings))
	t := j.Totals
	if t.Error+t.Warn+t.Note == 0 {
		line := "Nothing crosses a line it must not: " + read + "."
		if t.Covered > 0 {
			line += " " + strings.ToUpper(coveredText(t.Covered)[:1]) + coveredText(t.Covered)[1:] + "."
		}
		p.line("%s", p.s.paint(good, wrap(line, p.s.Width, 0)))
		p.off(t)
		return
	}
	var parts []string
	c := warn
	if t.Error > 0 {
		parts = append(parts, count(t.Error, "error", "errors"))
		c = bad
	}
	if t.Warn > 0 {
		parts = append(parts, count(t.Warn, "warning", "warnings"))
	}
	if t.Note > 0 {
		parts = append(parts, count(t.Note, "note", "notes"))
	}
	if t.Covered > 0 {
		parts = append(parts, coveredText(t.Covered))
	}
	head := strings.Join(parts, ", ") + ":"
	text := wrap(head+" "+read+".", p.s.Width, 2)
	p.line("%s%s", p.s.paint(c, text[:strings.Index(text, ":")+1]), text[strings.Index(text, ":")+1:])
	p.line("What a kind means: moatline explain %s", firstKind(j))
	p.off(t)
}

func coveredText(n int) string {
	return count(n, "finding is waived (--covered shows it)", "findings are waived (--covered shows them)")
}

func (p *printer) off(t judge.Counts) {
	if t.Off > 0 {
		p.line("%s not judged: the declaration says off.", count(t.Off, "finding", "findings"))
	}
}

func firstKind(j *judge.Judgement) string {
	for _, k := range judge.Kinds() {
		for _, f := range j.Findings {
			if f.Kind == k.Name && f.CoveredBy == nil {
				return k.Name
			}
		}
	}
	return "KIND"
}
