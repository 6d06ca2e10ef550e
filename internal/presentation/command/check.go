package command

import (
	"fmt"
	"io"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"moatline/internal/access/tree"
	"moatline/internal/core/judge"
	"moatline/internal/core/layout"
	"moatline/internal/presentation/data"
	"moatline/internal/presentation/text"
)

type checkFlags struct {
	failOn  string
	facts   []string
	all     bool
	covered bool
	today   string
}

func (a *app) checkCommand() *cobra.Command {
	var f checkFlags
	c := &cobra.Command{
		Use:     "check [FOLDER]",
		Short:   "Judge the tree by its declaration",
		GroupID: "judge",
		Long: `Check reads the tree, holds every dependency against the declared rings, and
reports those that the declaration does not permit. It is the gate: the exit
status is 0 where nothing fails, 1 where a finding fails, and 2 where it could
not judge.

The declaration is moatline.yaml in FOLDER; without FOLDER, the nearest one in
this folder or above it:

  rings:                          # innermost first
    - domain:
        files: src/domain/**
    - business logic:
        files: src/booking/**
    - presentation:               # two layers on one ring do not know each other
        files: src/desk/**
      data access:
        files: src/store/**
  wiring: src/main/**`,
		Example: `  moatline check
  moatline check --format json src
  moatline check --facts half1.jsonl half2.jsonl --declaration moatline.yaml`,
	}
	c.RunE = func(_ *cobra.Command, args []string) error { return a.check(args, f) }
	a.formatFlag(c, "text", "json")
	c.Flags().StringVar(&f.failOn, "fail-on", "error", "the least `VERDICT` that fails: error, warn or note")
	c.Flags().StringArrayVar(&f.facts, "facts", nil, "judge facts from `FILE`s (- for standard input) instead of a folder; names without a flag are more of them")
	c.Flags().BoolVar(&f.all, "all", false, "show every place of every finding")
	c.Flags().BoolVar(&f.covered, "covered", false, "show the findings that a waiver covers, too")
	c.Flags().StringVar(&f.today, "on", "", "judge as on `DATE` (year-month-day): which waivers hold")
	_ = c.RegisterFlagCompletionFunc("fail-on", cobra.FixedCompletions([]string{"error", "warn", "note"}, cobra.ShellCompDirectiveNoFileComp))
	c.ValidArgsFunction = func(*cobra.Command, []string, string) ([]string, cobra.ShellCompDirective) {
		return nil, cobra.ShellCompDirectiveFilterDirs
	}
	return c
}

// judged is a finished judgement with what it was made from.
type judged struct {
	*loaded
	judgement *judge.Judgement
}

func (a *app) check(args []string, f checkFlags) error {
	var fails map[layout.Verdict]bool
	switch f.failOn {
	case "error":
		fails = map[layout.Verdict]bool{layout.Error: true}
	case "warn":
		fails = map[layout.Verdict]bool{layout.Error: true, layout.Warn: true}
	case "note":
		fails = map[layout.Verdict]bool{layout.Error: true, layout.Warn: true, layout.Note: true}
	default:
		return fmt.Errorf("--fail-on takes error, warn or note, not %q", f.failOn)
	}
	j, err := a.judge(args, f)
	if err != nil {
		return err
	}
	err = a.write(func(w io.Writer, s text.Style) error {
		if a.format == "json" {
			in := data.CheckInput{Judgement: j.judgement, Declaration: j.decl}
			for _, u := range j.tree.Unread {
				in.Unread = append(in.Unread, data.Unread{Path: u.Path, Why: u.Why})
			}
			return data.CheckJSON(w, in)
		}
		if j.judgement.Read.Files == 0 {
			return text.Sketch(w, j.decl, s)
		}
		return text.Check(w, j.judgement, j.decl, s, text.CheckOptions{All: f.all, Covered: f.covered})
	})
	if err != nil {
		return err
	}
	if n := len(j.tree.Unread); n > 0 {
		fmt.Fprintf(a.Err, "moatline: not all could be judged: %d unread (named above)\n", n)
		return unread
	}
	for _, x := range j.judgement.Findings {
		if x.CoveredBy == nil && fails[x.Verdict] {
			return breach
		}
	}
	return nil
}

// judge loads a tree, or facts, and judges it.
func (a *app) judge(args []string, f checkFlags) (*judged, error) {
	today := time.Now()
	if f.today != "" {
		t, err := time.Parse("2006-01-02", f.today)
		if err != nil {
			return nil, fmt.Errorf("--on takes a date such as 2027-03-31, not %q", f.today)
		}
		today = t
	}
	j := &judged{}
	n := need{declaration: true, place: true}
	if len(f.facts) > 0 {
		j.loaded = &loaded{}
		if err := a.locate(j.loaded, nil, n); err != nil {
			return nil, err
		}
		if err := a.loadFacts(j.loaded, append(f.facts, args...)); err != nil {
			return nil, err
		}
		if err := a.linkAndPlace(j.loaded, n); err != nil {
			return nil, err
		}
	} else {
		if len(args) > 1 {
			return nil, fmt.Errorf("check takes one folder, not %d arguments (%s)", len(args), strings.Join(args, ", "))
		}
		l, err := a.load(args, n)
		if err != nil {
			return nil, err
		}
		j.loaded = l
	}
	j.judgement = judge.Judge(&judge.Case{Graph: j.graph, Declaration: j.decl, Placement: j.placement, Today: today})
	return j, nil
}

// source returns one line of a file of the tree, for showing it.
func source(root string) func(file string, line int) string {
	cache := make(map[string][]string)
	return func(file string, line int) string {
		lines, ok := cache[file]
		if !ok {
			lines = strings.Split(string(tree.Text(root, file)), "\n")
			cache[file] = lines
		}
		if line < 1 || line > len(lines) {
			return ""
		}
		return lines[line-1]
	}
}
