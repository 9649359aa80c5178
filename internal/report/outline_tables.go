package report

import (
	"encoding/csv"
	"fmt"
	"io"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/text"
)

var outlineHead = []string{"schema", "table", "kind", "rows", "bytes", "index_bytes", "columns", "indexes", "refers_to", "referred_to_by", "has_primary_key"}

func (t TableFigures) cells() []string {
	figure := func(n *int64) string { return known(n, func(n int64) string { return fmt.Sprint(n) }) }
	return []string{t.Schema, t.Table, string(t.Kind), figure(t.Rows), figure(t.Bytes), figure(t.IndexBytes), fmt.Sprint(t.Columns), fmt.Sprint(t.Indexes),
		fmt.Sprint(t.Refers), fmt.Sprint(t.Referred), yesNo(t.Key)}
}

func yesNo(b bool) string {
	if b {
		return "yes"
	}
	return "no"
}

// OutlineCSV writes a line for each table, figures in bytes and rows
// (https://www.rfc-editor.org/rfc/rfc4180).
func OutlineCSV(w io.Writer, o *Outline) error {
	out := csv.NewWriter(w)
	out.UseCRLF = true
	if err := out.Write(outlineHead); err != nil {
		return err
	}
	for _, t := range o.Tables {
		cells := t.cells()
		for i := range cells {
			cells[i] = cell(cells[i])
		}
		if err := out.Write(cells); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

// cell makes sure that a spreadsheet takes a name for text and not for a
// formula, and that a terminal gets no control characters.
func cell(s string) string {
	s = text.Line(s)
	if strings.HasPrefix(s, "'") || s != "" && strings.ContainsRune("=+-@\t\r|%", rune(s[0])) {
		return "'" + s
	}
	return s
}

// OutlineMarkdown writes the counts and a table for a wiki.
func OutlineMarkdown(w io.Writer, c *catalog.Catalog, o *Outline) {
	fmt.Fprintf(w, "# %s\n\n%s %s, %s, %s, %s.\n\n", markdown(c.Database), markdown(c.Engine.Name), markdown(c.Release()), text.Plural(int64(o.Total.Tables), "table"),
		text.Plural(int64(o.Total.ForeignKeys), "foreign key"), text.Plural(int64(o.Total.Indexes), "index"))
	fmt.Fprintf(w, "| table | kind | rows | size | indexes | refers to | referred to by | primary key |\n|---|---|--:|--:|--:|--:|--:|---|\n")
	for _, t := range o.Tables {
		fmt.Fprintf(w, "| %s | %s | %s | %s | %s | %d | %d | %s |\n", markdown(t.Schema+"."+t.Table), t.Kind, known(t.Rows, text.Amount), known(t.Bytes, text.Size),
			known(t.IndexBytes, text.Size), t.Refers, t.Referred, yesNo(t.Key))
	}
	if len(o.NotReadable) > 0 {
		fmt.Fprintf(w, "\n## Not read\n\n")
		for _, g := range o.NotReadable {
			fmt.Fprintf(w, "- %s\n", markdown(strings.TrimSpace(catalog.Ref{Schema: g.Schema, Table: g.Table}.String()+" "+g.What+": "+g.Reason)))
		}
	}
}
