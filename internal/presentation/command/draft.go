package command

import (
	"bufio"
	"bytes"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"moatline/internal/access/declaration"
	"moatline/internal/core/draft"
	"moatline/internal/core/language"
	"moatline/internal/presentation/data"
	"moatline/internal/presentation/text"
)

func (a *app) draftCommand() *cobra.Command {
	var print, force bool
	var shape string
	c := &cobra.Command{
		Use:     "draft [FOLDER]",
		Short:   "Propose a declaration from the tree",
		GroupID: "declare",
		Long: `Draft reads the tree and proposes its layers: from the names of folders and
types, from the outside packages that the code uses, and from the direction in
which its dependencies already run. The evidence for every guess stands beside
it as a comment.

It writes moatline.yaml into FOLDER, and asks before it overwrites one. As json
the proposal goes to standard output, for other programs.`,
		Example: `  moatline draft
  moatline draft --print --shape classic src`,
	}
	folderArg(c)
	c.RunE = func(_ *cobra.Command, args []string) error {
		switch draft.Shape(shape) {
		case "", draft.Classic, draft.Centred:
		default:
			return fmt.Errorf("--shape takes %s or %s, not %q", draft.Classic, draft.Centred, shape)
		}
		folder := "."
		if len(args) > 0 {
			folder = args[0]
		}
		if err := isFolder(folder); err != nil {
			return err
		}
		l := &loaded{root: folder}
		if err := a.readTree(l, nil); err != nil {
			return err
		}
		if err := a.linkAndPlace(l, need{}); err != nil {
			return err
		}
		p := draft.Propose(l.graph, language.IsSource, draft.Shape(shape))
		if p.Application == "" {
			if abs, err := filepath.Abs(folder); err == nil {
				p.Application = filepath.Base(abs)
			}
		}
		if err := a.writeDraft(folder, p, print, force); err != nil {
			return err
		}
		if len(l.tree.Unread) > 0 {
			return unread
		}
		return nil
	}
	a.formatFlag(c, "yaml", "json")
	c.Flags().BoolVar(&print, "print", false, "write to standard output and touch no file")
	c.Flags().BoolVar(&force, "overwrite", false, "overwrite a declaration without asking")
	c.Flags().StringVar(&shape, "shape", "", "propose this `SHAPE`: classic or domain-centred")
	_ = c.RegisterFlagCompletionFunc("shape", cobra.FixedCompletions([]string{string(draft.Classic), string(draft.Centred)}, cobra.ShellCompDirectiveNoFileComp))
	return c
}

func (a *app) writeDraft(folder string, p *draft.Proposal, print, force bool) error {
	var b bytes.Buffer
	if a.format == "json" {
		return a.write(func(w io.Writer, _ text.Style) error { return data.DraftJSON(w, p) })
	}
	if err := text.Draft(&b, p); err != nil {
		return err
	}
	if print || a.output != "" {
		return a.write(func(w io.Writer, _ text.Style) error {
			_, err := w.Write(b.Bytes())
			return err
		})
	}
	target := filepath.Join(folder, declaration.FileName)
	if _, err := os.Lstat(target); err == nil && !force {
		if !a.ask(fmt.Sprintf("%s exists. Overwrite it? [y/N] ", target)) {
			return fmt.Errorf("%s exists and was left as it is\nTo see the proposal: moatline draft --print%s\nTo replace the file: moatline draft --overwrite%s", target, optionalFolder(folder), optionalFolder(folder))
		}
	}
	if err := replaceFile(target, func(w io.Writer) error { _, err := w.Write(b.Bytes()); return err }); err != nil {
		return err
	}
	if a.quiet {
		return nil
	}
	return text.DraftSummary(a.Out, target, p, a.style(a.Out), optionalFolder(folder))
}

func optionalFolder(folder string) string {
	if folder == "." {
		return ""
	}
	return " " + folder
}

// ask puts a question on a terminal; elsewhere the answer is no.
func (a *app) ask(question string) bool {
	in, ok := a.In.(*os.File)
	if !ok || !term.IsTerminal(int(in.Fd())) {
		return false
	}
	fmt.Fprint(a.Err, question)
	answer, _ := bufio.NewReader(in).ReadString('\n')
	answer = strings.ToLower(strings.TrimSpace(answer))
	return answer == "y" || answer == "yes"
}
