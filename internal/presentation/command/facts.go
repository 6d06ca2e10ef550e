package command

import (
	"fmt"
	"hash/fnv"
	"io"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"moatline/internal/core/fact"
	"moatline/internal/presentation/data"
	"moatline/internal/presentation/text"
)

func (a *app) factsCommand() *cobra.Command {
	var places bool
	var shard string
	c := &cobra.Command{
		Use:     "facts [FOLDER]",
		Short:   "List every dependency found, for other programs",
		GroupID: "look",
		Long: `Facts lists every dependency of the tree. No declaration is needed.

As csv: a header, then a row for each file, thing used and way of using it, at
its first place, sorted by file, line and column. Its columns:

  from    the using file
  line, column
          the first place; columns count characters
  how     import type inherit construct call marker include reexport dynamic
          wiring project
  target  file        to is the file of the tree that declares what is used
          package     to is a folder: a package is named and no type of it
          outside     to is the package or module outside the tree
          unresolved  to is what the source says
  to
  name    the full name of what is used
  count   how many places

As jsonl: a line for each file with all that it declares and uses. "check
--facts" reads these back, so that a tree can be read in parts and judged in
one place.`,
		Example: `  moatline facts --format csv src > facts.csv
  moatline facts --format jsonl --shard 1/2 --output half1.jsonl .`,
	}
	folderArg(c)
	c.RunE = func(_ *cobra.Command, args []string) error {
		in, err := shardOf(shard)
		if err != nil {
			return err
		}
		l := &loaded{}
		if err := a.locate(l, args, need{}); err != nil {
			return err
		}
		if err := a.readTree(l, in); err != nil {
			return err
		}
		if err := a.linkAndPlace(l, need{}); err != nil {
			return err
		}
		err = a.write(func(w io.Writer, _ text.Style) error {
			if a.format == "jsonl" {
				return data.FactsLines(w, l.graph, fact.Header{Program: "moatline " + a.build.Version, Shard: shard}, a.workers())
			}
			return data.FactsCSV(w, l.graph, places, a.workers())
		})
		if err == nil && len(l.tree.Unread) > 0 {
			return unread
		}
		return err
	}
	a.formatFlag(c, "csv", "jsonl")
	c.Flags().BoolVar(&places, "places", false, "a row for every place, not only the first")
	c.Flags().StringVar(&shard, "shard", "", "read only part `K/N` of the tree's files, such as 2/5")
	return c
}

// shardOf returns the function that tells the files of part K of N. The parts
// depend on the paths alone, so every machine makes the same ones.
func shardOf(s string) (func(string) bool, error) {
	if s == "" {
		return nil, nil
	}
	a, b, ok := strings.Cut(s, "/")
	k, err1 := strconv.Atoi(a)
	n, err2 := strconv.Atoi(b)
	if !ok || err1 != nil || err2 != nil || k < 1 || k > n {
		return nil, fmt.Errorf("--shard takes a part and a number of parts, such as 2/5, not %q", s)
	}
	return func(p string) bool {
		h := fnv.New32a()
		io.WriteString(h, p)
		return int(h.Sum32()%uint32(n)) == k-1
	}, nil
}
