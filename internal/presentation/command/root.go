// Package command is the command line: it reads flags, loads what a command
// needs, has the core compute, and hands the result to be shown.
package command

import (
	"errors"
	"fmt"
	"io"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"moatline/internal/presentation/data"
	"moatline/internal/presentation/text"
)

// Exit statuses of every command.
const (
	ExitFine    = 0 // nothing that fails
	ExitBreach  = 1 // at least one finding that fails
	ExitUnknown = 2 // it could not judge: declaration, usage, unreadable tree or file
)

// Build says which program this is.
type Build struct {
	Version, Commit, Date string
}

// Streams are the program's standard streams.
type Streams struct {
	In       io.Reader
	Out, Err io.Writer
}

// breach ends a command with ExitBreach: everything has been said.
var breach = errors.New("findings")

// unread ends a command with ExitUnknown: everything has been said.
var unread = errors.New("unread files")

// Run executes one command line and returns the exit status.
func Run(args []string, s Streams, b Build) int {
	return (&app{Streams: s, build: b}).execute(args)
}

func (a *app) execute(args []string) int {
	root := a.root()
	root.SetArgs(args)
	root.SetIn(a.In)
	root.SetOut(a.Out)
	root.SetErr(a.Err)
	err := root.Execute()
	switch {
	case err == nil:
		return ExitFine
	case errors.Is(err, breach):
		return ExitBreach
	case errors.Is(err, unread):
		return ExitUnknown
	}
	fmt.Fprintf(a.Err, "moatline: %s\n", strings.TrimRight(text.Clean(err.Error()), "\n"))
	return ExitUnknown
}

// app is one run of the program.
type app struct {
	Streams
	build Build
	look  *text.Style // how text may look, where another command has found out

	// common options
	declaration string
	format      string
	output      string
	quiet       bool
	verbose     bool
	noColor     bool
	jobs        int
}

// Groups of commands, in the order in which the job is done.
var groups = []*cobra.Group{
	{ID: "declare", Title: "Declare the layers:"},
	{ID: "look", Title: "Look at what is there:"},
	{ID: "judge", Title: "Judge what crosses a line:"},
	{ID: "more", Title: "More:"},
}

func (a *app) root() *cobra.Command {
	cobra.EnableCommandSorting = false // commands stand in the order of the job
	c := &cobra.Command{
		Use:   "moatline",
		Short: "Tells where code crosses the layers that its architect declared",
		Long: `Moat Line reads a source tree, finds every dependency in it, and reports those
that the declared layers do not permit; above all every dependency that points
outward from the domain.

Begin with a demonstration, or with your own tree:

  moatline demo --into quayside     a small application with planted mistakes
  moatline draft FOLDER             propose a declaration, moatline.yaml
  moatline check FOLDER             see what crosses a line it must not`,
		SilenceUsage:  true,
		SilenceErrors: true,
		Args:          a.noCommand,
		RunE:          func(c *cobra.Command, _ []string) error { return c.Help() },
	}
	c.AddGroup(groups...)
	f := c.PersistentFlags()
	f.StringVar(&a.declaration, "declaration", "", "read the layers from `FILE` instead of the nearest moatline.yaml")
	f.StringVarP(&a.output, "output", "o", "", "write the result to `FILE` instead of standard output")
	f.BoolVarP(&a.quiet, "quiet", "q", false, "no notes on standard error, only errors")
	f.BoolVarP(&a.verbose, "verbose", "v", false, "say what was skipped and why, and every note")
	f.BoolVar(&a.noColor, "no-color", false, "no colour, even on a terminal (also: NO_COLOR)")
	f.IntVar(&a.jobs, "jobs", 0, "use at most `N` processors (0: all)")
	c.AddCommand(a.draftCommand(), a.layersCommand(), a.factsCommand(), a.checkCommand(), a.explainCommand(), a.demoCommand(), a.versionCommand())
	c.SetHelpCommandGroupID("more")
	c.SetCompletionCommandGroupID("more")
	c.SetFlagErrorFunc(func(c *cobra.Command, err error) error {
		return fmt.Errorf("%w\nSee: %s --help", err, c.CommandPath())
	})
	_ = c.RegisterFlagCompletionFunc("declaration", func(*cobra.Command, []string, string) ([]string, cobra.ShellCompDirective) {
		return []string{"yaml", "yml"}, cobra.ShellCompDirectiveFilterFileExt
	})
	return c
}

func (a *app) noCommand(c *cobra.Command, args []string) error {
	if len(args) == 0 {
		return nil
	}
	var names []string
	for _, k := range c.Commands() {
		names = append(names, k.Name())
	}
	hint := "See: moatline --help"
	if near := nearest(args[0], names); near != "" {
		hint = "Did you mean: moatline " + near
	} else if _, err := os.Stat(args[0]); err == nil {
		hint = "To judge that folder: moatline check " + args[0]
	}
	return fmt.Errorf("there is no command %q\n%s", args[0], hint)
}

// formatFlag adds --format with the formats that a command knows.
func (a *app) formatFlag(c *cobra.Command, formats ...string) {
	format := c.Flags().String("format", formats[0], "write the result as `FORMAT`: "+strings.Join(formats, ", "))
	_ = c.RegisterFlagCompletionFunc("format", cobra.FixedCompletions(formats, cobra.ShellCompDirectiveNoFileComp))
	run := c.RunE
	c.RunE = func(c *cobra.Command, args []string) error {
		a.format = *format
		for _, f := range formats {
			if a.format == f {
				return run(c, args)
			}
		}
		hint := ""
		if near := nearest(a.format, formats); near != "" {
			hint = " Did you mean " + near + "?"
		}
		return fmt.Errorf("%s has no format %q; it has %s.%s", c.Name(), a.format, strings.Join(formats, ", "), hint)
	}
}

// folderArg completes folders and takes at most one.
func folderArg(c *cobra.Command) {
	c.Args = func(c *cobra.Command, args []string) error {
		if len(args) > 1 {
			return fmt.Errorf("%s takes one folder, not %d arguments\nSee: %s --help", c.Name(), len(args), c.CommandPath())
		}
		return nil
	}
	c.ValidArgsFunction = func(*cobra.Command, []string, string) ([]string, cobra.ShellCompDirective) {
		return nil, cobra.ShellCompDirectiveFilterDirs
	}
}

// note writes a line to standard error unless --quiet.
func (a *app) note(format string, args ...any) {
	if !a.quiet {
		fmt.Fprintf(a.Err, "%s\n", text.Clean(fmt.Sprintf(format, args...)))
	}
}

func (a *app) versionCommand() *cobra.Command {
	c := &cobra.Command{
		Use: "version", Short: "Say which version this is", GroupID: "more", Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			return a.write(func(w io.Writer, _ text.Style) error {
				if a.format == "json" {
					return data.VersionJSON(w, a.build.Version, a.build.Commit, a.build.Date)
				}
				_, err := fmt.Fprintf(w, "moatline %s\ncommit %s\nbuilt %s\n", a.build.Version, a.build.Commit, a.build.Date)
				return err
			})
		},
	}
	a.formatFlag(c, "text", "json")
	return c
}
