package command

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"moatline/internal/core/judge"
	"moatline/internal/core/language"
	"moatline/internal/core/layout"
	"moatline/internal/presentation/data"
	"moatline/internal/presentation/text"
)

func (a *app) explainCommand() *cobra.Command {
	var lang string
	var f checkFlags
	c := &cobra.Command{
		Use:     "explain [KIND | FINDING [FOLDER]]",
		Short:   "Tell what a kind of breach means, why it hurts, and how to mend it",
		GroupID: "judge",
		Long: `Explain without an argument lists the kinds of breach. With a kind it tells what
it means, why it hurts and how it is usually mended, with a small before and
after. With the id of a finding, as check shows it, it explains that very
finding with its code.`,
		Example: `  moatline explain
  moatline explain outward
  moatline explain 3f9a1c07be52`,
	}
	var names []string
	for _, k := range judge.Kinds() {
		names = append(names, k.Name)
	}
	c.ValidArgsFunction = cobra.FixedCompletions(names, cobra.ShellCompDirectiveNoFileComp)
	c.Args = cobra.MaximumNArgs(2)
	c.RunE = func(_ *cobra.Command, args []string) error {
		if len(args) == 0 {
			return a.write(func(w io.Writer, s text.Style) error {
				if a.format == "json" {
					return data.KindsJSON(w, judge.Kinds(), true)
				}
				return text.Kinds(w, s)
			})
		}
		if k := judge.Lookup(args[0]); k != nil {
			if len(args) > 1 {
				return fmt.Errorf("explain takes one kind; a folder goes with a finding's id")
			}
			return a.write(func(w io.Writer, s text.Style) error {
				if a.format == "json" {
					return data.KindsJSON(w, []*judge.Kind{k}, false)
				}
				return text.Explain(w, k, lang, s)
			})
		}
		if len(args[0]) == 12 && strings.Trim(args[0], "0123456789abcdef") == "" {
			return a.explainFinding(args[0], args[1:], f, lang)
		}
		hint := "The kinds are " + strings.Join(names, ", ") + "; the id of a finding has twelve letters and digits."
		for _, k := range layout.KindNames {
			if k == args[0] {
				return fmt.Errorf("%s is a kind that this version does not judge yet\n%s", k, hint)
			}
		}
		if near := nearest(args[0], names); near != "" {
			hint = "Did you mean " + near + "? " + hint
		}
		return fmt.Errorf("there is no kind of breach %q\n%s", args[0], hint)
	}
	a.formatFlag(c, "text", "json")
	c.Flags().StringVar(&lang, "language", "", "show the example in `LANGUAGE`: java or go")
	c.Flags().StringVar(&f.today, "on", "", "judge as on `DATE` (year-month-day)")
	_ = c.RegisterFlagCompletionFunc("language", cobra.FixedCompletions([]string{"java", "go"}, cobra.ShellCompDirectiveNoFileComp))
	return c
}

func (a *app) explainFinding(id string, folder []string, f checkFlags, lang string) error {
	j, err := a.judge(folder, f)
	if err != nil {
		return err
	}
	for _, x := range j.judgement.Findings {
		if x.Fingerprint != id {
			continue
		}
		if lang == "" {
			lang = language.Of(x.From.File)
		}
		err := a.write(func(w io.Writer, s text.Style) error {
			if a.format == "json" {
				return data.FindingJSON(w, x)
			}
			return text.ExplainFinding(w, x, source(j.root), lang, s)
		})
		if err == nil && len(j.tree.Unread) > 0 {
			return unread
		}
		return err
	}
	return fmt.Errorf("no finding of this tree has the id %s\nIds are shown by: moatline check", id)
}
