package data

import (
	"encoding/json"
	"io"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
)

// dependency is one dependency in the JSON Lines form of the facts: the
// columns of the CSV form, with every place.
type dependency struct {
	Line   uint32   `json:"line"`
	Column uint32   `json:"column"`
	How    string   `json:"how"`
	Target string   `json:"target"`
	To     string   `json:"to"`
	Name   string   `json:"name"`
	Unused bool     `json:"unused,omitempty"`
	Types  bool     `json:"types-only,omitempty"`
	Places []uint32 `json:"places"` // line, column, line, column, …
}

// FactsLines writes a header line and then, for each file, one line with its
// facts and the dependencies that were found in this tree.
func FactsLines(w io.Writer, g *graph.Graph, h fact.Header, jobs int) error {
	h.Format = fact.FormatVersion
	b, err := json.Marshal(h)
	if err != nil {
		return err
	}
	if _, err := w.Write(append(b, '\n')); err != nil {
		return err
	}
	return inOrder(w, len(g.Files), jobs, func(b []byte, i int) []byte {
		deps := g.Deps(i)
		list := make([]dependency, 0, len(deps))
		for k := range deps {
			d := &deps[k]
			places := g.Places(i, d)
			x := dependency{places[0].Line, places[0].Column, d.How.String(), d.Target.String(), g.ToText(d), d.Name, d.Flags&graph.Unused != 0, d.Flags&graph.TypeOnly != 0, nil}
			for _, p := range places {
				x.Places = append(x.Places, p.Line, p.Column)
			}
			list = append(list, x)
		}
		raw, err := json.Marshal(list)
		if err != nil {
			panic(err) // numbers and strings: cannot fail
		}
		line, err := fact.Line(g.Files[i], raw)
		if err != nil {
			panic(err)
		}
		return append(append(b, line...), '\n')
	})
}
