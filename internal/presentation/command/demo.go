package command

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"moatline/examples"
	"moatline/internal/presentation/text"
)

func (a *app) demoCommand() *cobra.Command {
	var into, lang string
	c := &cobra.Command{
		Use:     "demo",
		Short:   "Write the demo application and walk through the job on it",
		GroupID: "more",
		Long: `Demo writes Quayside, the office of a small harbour, to a folder, and walks
through the job on it: draft, layers, check, explain. The application compiles,
and has the mistakes that real teams make; its README lists them.`,
		Example: `  moatline demo --into quayside
  moatline demo --into quayside-go --language go`,
		Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error { return a.demo(into, lang) },
	}
	a.formatFlag(c, "text")
	c.Flags().StringVar(&into, "into", "", "write to `DIR`, which must not exist or be empty (default: quayside-LANGUAGE)")
	c.Flags().StringVar(&lang, "language", "java", "the application in `LANGUAGE`: "+strings.Join(examples.Languages, ", "))
	_ = c.RegisterFlagCompletionFunc("language", cobra.FixedCompletions(examples.Languages, cobra.ShellCompDirectiveNoFileComp))
	return c
}

func (a *app) demo(into, lang string) error {
	files := examples.Files(lang)
	if files == nil {
		hint := ""
		if near := nearest(lang, examples.Languages); near != "" {
			hint = "\nDid you mean " + near + "?"
		}
		return fmt.Errorf("the demo is not written in %q; it is in %s%s", lang, strings.Join(examples.Languages, ", "), hint)
	}
	if into == "" {
		into = "quayside-" + lang
	}
	if err := writeDemo(into, files); err != nil {
		return err
	}
	return a.write(func(w io.Writer, s text.Style) error {
		fmt.Fprintln(w, text.Heading(s, fmt.Sprintf("Wrote Quayside, a harbour office in %s: %d files in %s", demoTitle(lang), len(files), into)))
		fmt.Fprintf(w, "\nIts README lists the mistakes that were planted. The job, step by step:\n")

		steps := []struct {
			say  string
			args []string
		}{
			{"1  Declare. A proposal, from the tree alone (Quayside has a declaration already):", []string{"draft", "--print", into}},
			{"2  Look. What each layer holds:", []string{"layers", into}},
			{"3  Judge. What crosses a line it must not:", []string{"check", into}},
			{"4  Understand. What the first kind of finding means:", []string{"explain", "outward", "--language", example(lang)}},
		}
		for _, st := range steps {
			fmt.Fprintf(w, "\n%s\n%s\n\n", text.Heading(s, st.say), text.Prompt(s, "moatline "+strings.Join(st.args, " ")))
			step := &app{Streams: Streams{In: a.In, Out: w, Err: a.Err}, build: a.build, look: &s}
			if step.execute(append(st.args, "--quiet")) == ExitUnknown {
				return fmt.Errorf("the demo stopped at: moatline %s", strings.Join(st.args, " "))
			}
		}
		first := examples.First[lang]
		fmt.Fprintf(w, "\n%s\n", text.Heading(s, "5  Your turn."))
		for _, l := range []string{
			"open " + filepath.Join(into, filepath.FromSlash(first)) + ", take the row out of the berth, and run:",
			"  moatline check " + into,
			"explain one finding with its code, by its id from the list above:",
			"  moatline explain ID " + into,
			"then your own tree:",
			"  moatline draft FOLDER && moatline check FOLDER",
		} {
			fmt.Fprintf(w, "   %s\n", l)
		}
		return nil
	})
}

func demoTitle(lang string) string {
	switch lang {
	case "mixed":
		return "several languages"
	case "csharp":
		return "C# and Visual Basic"
	}
	return title(lang)
}

// example returns the language that explanations have their examples in for a
// demo in the given one.
func example(lang string) string {
	if lang == "go" {
		return lang
	}
	return "java"
}

// writeDemo writes the files into a folder that does not exist or is empty.
func writeDemo(into string, files []examples.File) error {
	entries, err := os.ReadDir(into)
	switch {
	case err == nil && len(entries) > 0:
		return fmt.Errorf("%s is not empty, and the demo writes over nothing\nName another folder: moatline demo --into DIR", into)
	case err != nil && !errors.Is(err, fs.ErrNotExist):
		return fmt.Errorf("cannot write the demo to %s: %w", into, cause(err))
	}
	for _, f := range files {
		p := filepath.Join(into, filepath.FromSlash(f.Path))
		if err := os.MkdirAll(filepath.Dir(p), 0o755); err != nil {
			return fmt.Errorf("cannot write the demo: %w", err)
		}
		if err := os.WriteFile(p, f.Data, 0o644); err != nil {
			return fmt.Errorf("cannot write the demo: %w", err)
		}
	}
	return nil
}
