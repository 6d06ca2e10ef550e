package command

import (
	"fmt"
	"io"

	"github.com/spf13/cobra"

	"moatline/internal/core/survey"
	"moatline/internal/presentation/data"
	"moatline/internal/presentation/text"
)

func (a *app) layersCommand() *cobra.Command {
	var files, all bool
	c := &cobra.Command{
		Use:     "layers [FOLDER]",
		Short:   "Show what each layer holds, and what lies in none",
		GroupID: "look",
		Long: `Layers shows for each declared layer its files, lines, languages, public types
and its share of the code, the outermost ring at the top and the innermost at
the bottom; then the wiring, the tests, and the files that no layer claims, by
folder. --files lists every source file with its layer instead.`,
		Example: `  moatline layers
  moatline layers --files --format csv`,
	}
	folderArg(c)
	c.RunE = func(_ *cobra.Command, args []string) error {
		l, err := a.load(args, need{declaration: true, place: true})
		if err != nil {
			return err
		}
		err = a.write(func(w io.Writer, s text.Style) error {
			if files {
				switch a.format {
				case "csv":
					return data.FilesCSV(w, l.graph, l.decl, l.placement)
				case "json":
					return fmt.Errorf("layers --files has the formats text and csv")
				}
				return text.Files(w, l.graph, l.decl, l.placement, s)
			}
			v := survey.Of(l.graph, l.decl, l.placement)
			switch a.format {
			case "csv":
				return data.LayersCSV(w, v)
			case "json":
				return data.LayersJSON(w, l.decl.Application, v)
			}
			return text.Layers(w, l.decl, v, all, s)
		})
		if err == nil && len(l.tree.Unread) > 0 {
			return unread
		}
		return err
	}
	a.formatFlag(c, "text", "csv", "json")
	c.Flags().BoolVar(&files, "files", false, "list every source file with its layer")
	c.Flags().BoolVar(&all, "all", false, "list every folder with unplaced files")
	return c
}
