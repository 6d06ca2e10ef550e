package text

import (
	"fmt"
	"io"
	"strings"

	"github.com/jedib0t/go-pretty/v6/table"
	"github.com/jedib0t/go-pretty/v6/text"

	"moatline/internal/core/graph"
	"moatline/internal/core/language"
	"moatline/internal/core/layout"
	"moatline/internal/core/survey"
)

// Layers writes the survey: the outermost ring at the top, the innermost at
// the bottom, then what lies on no ring.
func Layers(w io.Writer, d *layout.Declaration, v *survey.View, all bool, s Style) error {
	p := &printer{w: w, s: s}
	name := d.Application
	if name == "" {
		name = "The application"
	}
	p.line("%s", s.paint(title, Line(name)))
	p.line("")
	t := table.NewWriter()
	t.SetStyle(tableStyle)
	t.AppendHeader(table.Row{"", "layer", "files", "lines", "code", "share", "", "public types", "languages", "uses"})
	var columns []table.ColumnConfig
	for _, n := range []int{3, 4, 5, 6, 8} {
		columns = append(columns, table.ColumnConfig{Number: n, Align: text.AlignRight, AlignHeader: text.AlignRight})
	}
	// What a narrow terminal has no room for goes first: the bars, then what
	// each layer uses.
	columns = append(columns,
		table.ColumnConfig{Number: 7, Hidden: s.Width < 110},
		table.ColumnConfig{Number: 10, Hidden: s.Width < 90, WidthMax: max(14, s.Width-84), WidthMaxEnforcer: text.WrapSoft})
	t.SetColumnConfigs(columns)
	last := -1
	for i := len(v.Layers) - 1; i >= 0; i-- {
		r := v.Layers[i]
		ring := ""
		if r.Layer.Ring != last {
			if last >= 0 {
				t.AppendSeparator()
			}
			ring = fmt.Sprintf("ring %d", r.Layer.Ring+1)
			last = r.Layer.Ring
		}
		layerRow(t, ring, r, s)
	}
	t.AppendSeparator()
	for _, r := range []survey.Row{v.Wiring, v.Tests, v.Unplaced} {
		if r.Files > 0 {
			layerRow(t, "", r, s)
		}
	}
	for _, l := range strings.Split(t.Render(), "\n") {
		p.line("  %s", strings.TrimRight(l, " "))
	}
	p.line("")
	p.line("%s", wrap("The outermost ring is at the top, the innermost at the bottom. Share is of the lines with code, tests aside.", s.Width, 0))
	for _, l := range d.Layers {
		if l.AnswersTo != "" {
			p.line("%s answers to the %s.", Line(l.Name), Line(l.AnswersTo))
		}
	}
	if len(v.Folders) > 0 {
		p.line("")
		p.line("%s", s.paint(warn, fmt.Sprintf("%s in no layer, by folder:", count(v.Unplaced.Files, "file is", "files are"))))
		const most = 12
		for i, f := range v.Folders {
			if i == most && !all {
				p.line("  %s more (--all shows them)", count(len(v.Folders)-most, "folder", "folders"))
				break
			}
			folder := f.Path
			if folder == "" {
				folder = "."
			}
			p.line("  %s  %s", padLeft(number(f.Files), 6), Line(folder))
		}
	}
	return p.err
}

var tableStyle = func() table.Style {
	st := table.StyleLight
	st.Options.DrawBorder = false
	st.Options.SeparateColumns = false
	st.Format.Header = text.FormatDefault
	st.Box.PaddingLeft, st.Box.PaddingRight = "", "  "
	return st
}()

func layerRow(t table.Writer, ring string, r survey.Row, s Style) {
	if r.Files == 0 {
		t.AppendRow(table.Row{ring, s.paint(title, Line(r.Name)), "empty", "", "", "", "", "", "", ""})
		return
	}
	var langs []string
	for _, l := range r.Languages {
		langs = append(langs, fmt.Sprintf("%s %s", language.Title(l.Name), number(l.Files)))
	}
	share, bar := "", ""
	if r.Name != "tests" || r.Layer != nil {
		share = fmt.Sprintf("%.0f %%", r.Share*100)
		bar = strings.Repeat("█", int(r.Share*10+0.5))
	}
	var uses []string
	for _, u := range r.Uses {
		uses = append(uses, Line(u))
	}
	t.AppendRow(table.Row{ring, s.paint(title, Line(r.Name)), number(r.Files), number(r.Lines), number(r.Code), share, bar, number(r.Public),
		strings.Join(langs, ", "), strings.Join(uses, ", ")})
}

// Files lists every source file with its layer.
func Files(w io.Writer, g *graph.Graph, d *layout.Declaration, p *layout.Placement, s Style) error {
	out := &printer{w: w, s: s}
	width := len("unplaced")
	for _, l := range d.Layers {
		width = max(width, len([]rune(l.Name)))
	}
	for i, f := range g.Files {
		if p.Sites[i] == layout.NotCode {
			continue
		}
		site := d.SiteName(p.Sites[i])
		if site == "" {
			site = "unplaced"
		}
		out.line("%s  %s", pad(Line(site), width), Line(f.Path))
	}
	return out.err
}
