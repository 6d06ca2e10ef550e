package text

import (
	"fmt"
	"io"
	"sort"
	"strings"

	"moatline/internal/core/judge"
)

// Kinds lists the kinds of breach, each with its meaning and its verdict.
func Kinds(w io.Writer, s Style) error {
	p := &printer{w: w, s: s}
	p.line("%s", s.paint(title, "Kinds of breach"))
	p.line("")
	for _, k := range judge.Kinds() {
		verdict := string(k.Default)
		if k.Elsewhere != "" {
			verdict += ", elsewhere " + string(k.Elsewhere)
		}
		p.line("  %s  %s", s.paint(title, pad(k.Name, 10)), wrap(k.Meaning+" ("+verdict+")", s.Width, 14))
	}
	p.line("")
	p.line("In brackets: the verdict unless the declaration sets another.")
	p.line("More about one: moatline explain %s", judge.Kinds()[0].Name)
	return p.err
}

// Explain tells what a kind means, why it hurts and how to mend it, with an
// example in the given language where there is one.
func Explain(w io.Writer, k *judge.Kind, language string, s Style) error {
	p := &printer{w: w, s: s}
	p.line("%s  %s", s.paint(title, k.Name), k.Meaning)
	verdict := string(k.Default)
	if k.Elsewhere != "" {
		verdict += " in the domain, " + string(k.Elsewhere) + " elsewhere"
	}
	p.line("verdict: %s, unless the declaration sets another", verdict)
	p.line("")
	p.line("%s", s.paint(title, "Why it hurts"))
	p.line("  %s", wrap(k.Why, s.Width, 2))
	p.line("")
	p.line("%s", s.paint(title, "How to mend it"))
	for i, m := range k.Mend {
		p.line("  %d  %s", i+1, wrap(m, s.Width, 5))
	}
	lang := exampleLanguage(k, language)
	if lang == "-" {
		return p.err
	}
	p.line("")
	p.line("%s", s.paint(title, "Before"))
	p.code(k.Before[lang])
	p.line("")
	p.line("%s", s.paint(title, "After"))
	p.code(k.After[lang])
	return p.err
}

func exampleLanguage(k *judge.Kind, language string) string {
	if _, ok := k.Before[language]; ok {
		return language
	}
	var have []string
	for l := range k.Before {
		have = append(have, l)
	}
	if len(have) == 0 {
		return "-"
	}
	sort.Strings(have)
	for _, l := range have {
		if l == "java" {
			return l
		}
	}
	return have[0]
}

func (p *printer) code(t string) {
	for _, l := range strings.Split(t, "\n") {
		p.line("    %s", strings.TrimRight(l, " "))
	}
}

// ExplainFinding tells about one finding: its places with their code, the
// rule, the remedy, and then its kind.
func ExplainFinding(w io.Writer, f *judge.Finding, lines func(file string, line int) string, language string, s Style) error {
	p := &printer{w: w, s: s}
	from := f.From.Layer
	if from == "" {
		from = "unplaced"
	}
	p.line("%s", s.paint(title, fmt.Sprintf("finding %s: %s, %s", f.Fingerprint, f.Kind, f.Verdict)))
	p.line("")
	p.line("  from    %s (%s)", Line(f.From.File), Line(from))
	if f.To.File != "" || f.To.Package != "" {
		to := f.To.File + f.To.Package
		if f.To.Line > 0 {
			to = fmt.Sprintf("%s:%d", to, f.To.Line)
		}
		if f.To.Layer == "" {
			p.line("  uses    %s", wrap(Line(names([]*judge.Finding{f})+", "+target(f.To)), s.Width, 10))
		} else {
			p.line("  uses    %s", wrap(fmt.Sprintf("%s in %s (%s)", Line(f.To.Name), Line(to), Line(f.To.Layer)), s.Width, 10))
		}
	}
	p.line("")
	last := 0
	for _, at := range f.Places {
		if at.Line == last {
			continue
		}
		last = at.Line
		code := strings.TrimRight(Line(strings.ReplaceAll(lines(f.From.File, at.Line), "\t", "    ")), " \r")
		p.line("  %s  %s", s.paint(faint, padLeft(fmt.Sprint(at.Line), 6)), code)
	}
	if f.To.File != "" && f.To.Line > 0 {
		p.line("  %s  declared:", padLeft("", 6))
		p.line("  %s  %s", s.paint(faint, padLeft(fmt.Sprint(f.To.Line), 6)), strings.TrimRight(Line(strings.ReplaceAll(lines(f.To.File, f.To.Line), "\t", "    ")), " \r"))
	}
	if len(f.Chain) > 0 {
		p.line("")
		p.line("  the chain:")
		for _, step := range f.Chain {
			p.line("          %s", wrap(Line(step), s.Width, 12))
		}
	}
	p.line("")
	p.line("  rule    %s", wrap(Line(f.Rule), s.Width, 10))
	if f.Because != "" {
		p.line("  because %s", wrap(Line(f.Because)+" (house rule)", s.Width, 10))
	}
	p.line("  remedy  %s", wrap(Line(f.Remedy), s.Width, 10))
	p.line("")
	if p.err != nil {
		return p.err
	}
	return Explain(w, judge.Lookup(f.Kind), language, s)
}
