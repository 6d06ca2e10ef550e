package declaration

import (
	"fmt"
	"strings"
	"time"

	"github.com/goccy/go-yaml/ast"

	"moatline/internal/core/layout"
)

func (r *reading) houseRules(d *layout.Declaration, n ast.Node) {
	s, ok := r.plain(n).(*ast.SequenceNode)
	if !ok {
		r.problem(n, "house-rules takes a list, this is "+kindOf(n), "One item a rule: - crossing: LAYER -> LAYER")
		return
	}
	var names []string
	for _, l := range d.Layers {
		names = append(names, l.Name)
	}
	for _, item := range s.Values {
		rule := layout.HouseRule{At: r.pos(item)}
		have := make(map[string]bool)
		for _, p := range r.mapping(item, "a house rule", []string{"crossing", "kind", "verdict", "because"}) {
			have[p.key] = true
			switch p.key {
			case "crossing":
				t, ok := r.text(p.value, "crossing")
				if !ok {
					continue
				}
				from, to, ok := arrow(t)
				if !ok {
					r.problem(p.value, fmt.Sprintf("%q is not a crossing", t), "Write: LAYER -> LAYER")
					continue
				}
				for _, name := range []string{from, to} {
					if d.Layer(name) == nil {
						r.problem(p.value, fmt.Sprintf("no layer is called %q", name), didYouMean(name, names))
					}
				}
				rule.From, rule.To = from, to
			case "kind":
				rule.Kind, _ = r.text(p.value, "kind")
				if !containsWord(layout.KindNames, rule.Kind) {
					r.problem(p.value, fmt.Sprintf("%q is not a kind of breach", rule.Kind), didYouMean(rule.Kind, layout.KindNames))
				}
			case "verdict":
				rule.Verdict, _ = r.verdict(p.value)
			case "because":
				rule.Because, _ = r.text(p.value, "because")
			}
		}
		for _, k := range []string{"crossing", "verdict", "because"} {
			if !have[k] && isMapping(item) {
				r.problem(item, "a house rule without "+k, "It needs crossing, verdict and because: whoever comes later must see the reason.")
			}
		}
		d.HouseRules = append(d.HouseRules, rule)
	}
}

func (r *reading) waivers(d *layout.Declaration, n ast.Node) {
	s, ok := r.plain(n).(*ast.SequenceNode)
	if !ok {
		r.problem(n, "waivers takes a list, this is "+kindOf(n), "One item a waiver: - breach: FILE -> FILE")
		return
	}
	for _, item := range s.Values {
		w := layout.Waiver{At: r.pos(item)}
		have := make(map[string]bool)
		for _, p := range r.mapping(item, "a waiver", []string{"breach", "until", "because", "by"}) {
			have[p.key] = true
			switch p.key {
			case "breach":
				w.Text, _ = r.text(p.value, "breach")
				r.breach(&w, p.value)
			case "until":
				t, ok := r.text(p.value, "until")
				if !ok {
					continue
				}
				day, err := time.Parse("2006-01-02", t)
				if err != nil {
					r.problem(p.value, fmt.Sprintf("%q is not a date", t), "Write year-month-day, such as 2027-03-31.")
				}
				w.Until = day
			case "because":
				w.Because, _ = r.text(p.value, "because")
			case "by":
				w.By, _ = r.text(p.value, "by")
			}
		}
		for _, k := range []string{"breach", "until", "because", "by"} {
			if !have[k] && isMapping(item) {
				r.problem(item, "a waiver without "+k, "It needs breach, until, because and by: what is accepted, how long, why, and who says so.")
			}
		}
		d.Waivers = append(d.Waivers, w)
	}
}

// breach reads what a waiver covers: a finding's fingerprint, or two patterns
// of files or full type names with an arrow between them.
func (r *reading) breach(w *layout.Waiver, n ast.Node) {
	t := w.Text
	if t == "" {
		return
	}
	if isFingerprint(t) {
		w.Fingerprint = t
		return
	}
	from, to, ok := arrow(t)
	if !ok {
		from, to = t, "**" // everything that this file breaches
		if strings.Contains(t, "->") {
			r.problem(n, fmt.Sprintf("%q is not a breach", t), "Write: FILE -> FILE (patterns or full type names), FILE alone, or a finding's fingerprint.")
			return
		}
	}
	for i, side := range []string{from, to} {
		match, why := Glob(side)
		if why != "" {
			r.problem(n, fmt.Sprintf("%q is not a pattern: %s", side, why), "")
			return
		}
		names := layout.PackageMatcher(side)
		p := &layout.Pattern{Text: side, At: r.pos(n), Match: func(s string) bool { return match(s) || names(s) }}
		if side == "**" {
			p.Match = func(string) bool { return true }
		}
		if i == 0 {
			w.From = p
		} else {
			w.To = p
		}
	}
}

func isFingerprint(s string) bool {
	if len(s) != 12 {
		return false
	}
	return strings.Trim(s, "0123456789abcdef") == ""
}

func arrow(s string) (from, to string, ok bool) {
	from, to, ok = strings.Cut(s, "->")
	from, to = strings.TrimSpace(from), strings.TrimSpace(to)
	return from, to, ok && from != "" && to != "" && !strings.Contains(to, "->")
}
