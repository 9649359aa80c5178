// Package report writes what was found for people and for programs: text,
// JSON. It prints nothing by itself; callers give it a writer.
package report

import (
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/jedib0t/go-pretty/v6/table"
	style "github.com/jedib0t/go-pretty/v6/text"

	"nexdal/internal/text"
)

// A Page is where text goes, and what it can show.
type Page struct {
	io.Writer
	Colour bool
	Width  int // columns; lines are broken to fit
	// EngineTitle gives the makers' spelling of an engine's name.
	EngineTitle func(name string) string
}

// The colours carry meaning only: how bad, what is secondary.
var (
	bold   = style.Colors{style.Bold}
	dim    = style.Colors{style.FgHiBlack}
	red    = style.Colors{style.Bold, style.FgRed}
	yellow = style.Colors{style.FgYellow}
	cyan   = style.Colors{style.FgCyan}
)

func (p *Page) paint(c style.Colors, s string) string {
	if !p.Colour || s == "" {
		return s
	}
	return c.Sprint(s)
}

func (p *Page) printf(format string, args ...any) { fmt.Fprintf(p, format, args...) }

// heading sets a section apart.
func (p *Page) heading(s string) { p.printf("\n%s\n", p.paint(bold, s)) }

// rows lays out cells in columns, without lines; right aligns columns by
// number from 1, and a cell of the last column is broken to fit the page.
func (p *Page) rows(head []string, right []int, rows [][]string) {
	t := table.NewWriter()
	t.SetStyle(table.Style{Box: table.BoxStyle{PaddingRight: "  "}, Options: table.OptionsNoBordersAndSeparators})
	if len(head) > 0 {
		cells := make(table.Row, len(head))
		for i, h := range head {
			cells[i] = p.paint(dim, h)
		}
		t.AppendHeader(cells)
		t.Style().Format.Header = style.FormatDefault
	}
	widths := make([]int, 0)
	for _, r := range rows {
		cells := make(table.Row, len(r))
		for i, c := range r {
			cells[i] = c
			if len(widths) <= i {
				widths = append(widths, 0)
			}
			widths[i] = max(widths[i], style.StringWidthWithoutEscSequences(c))
		}
		t.AppendRow(cells)
	}
	if n := len(widths); n > 0 {
		rest := p.Width - 4
		for i, w := range widths[:n-1] {
			if len(head) > i {
				w = max(w, len(head[i]))
			}
			rest -= w + 2
		}
		configs := make([]table.ColumnConfig, n)
		for i := range configs {
			configs[i].Number = i + 1
			if slices.Contains(right, i+1) {
				configs[i].Align, configs[i].AlignHeader = style.AlignRight, style.AlignRight
			}
		}
		configs[n-1].WidthMax, configs[n-1].WidthMaxEnforcer = max(rest, 36), style.WrapSoft
		t.SetColumnConfigs(configs)
	}
	for line := range strings.Lines(t.Render()) {
		p.printf("  %s\n", strings.TrimRight(line, " \n"))
	}
}

// block writes a text behind a lead, broken to fit the page; further lines
// stand under the first.
func (p *Page) block(lead, s string) {
	indent := style.StringWidthWithoutEscSequences(lead)
	lines := strings.Split(style.WrapSoft(s, max(p.Width-indent, 30)), "\n")
	for i, line := range lines {
		if i > 0 {
			lead = strings.Repeat(" ", indent)
		}
		p.printf("%s\n", strings.TrimRight(lead+line, " "))
	}
}

// some writes a list of names, cut where it gets long.
func some(names []string, most int) string {
	if len(names) > most {
		return fmt.Sprintf("%s and %d more", text.Line(strings.Join(names[:most], ", ")), len(names)-most)
	}
	return text.Line(strings.Join(names, ", "))
}

// Several writes what came of each of several sources; all but the first and the last column are
// numbers.
func (p *Page) Several(head []string, rows [][]string) {
	var right []int
	for i := 2; i < len(head); i++ {
		right = append(right, i)
	}
	for _, row := range rows {
		for i := range row {
			row[i] = text.Line(row[i])
		}
	}
	p.rows(head, right, rows)
}
