package cli

import (
	"io"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/report"
)

var tableKinds = []string{string(catalog.Ordinary), string(catalog.Partitioned), string(catalog.Foreign), string(catalog.Virtual), string(catalog.Shadow)}

func (a *app) outline() *cobra.Command {
	var output, form, by string
	var kinds []string
	var most int
	c := &cobra.Command{
		Use:   "outline SOURCE [PATTERN...]",
		Short: "Show the whole catalog on a page",
		Long: `Outline counts what is there and names what stands out: the largest tables, the
ones that most others refer to, tables without a primary key, tables without any
reference, and what could not be read.

A pattern is a name in which * stands for any letters and ? for one, with or
without the schema; only what fits one of them is counted and listed. The CSV
and Markdown forms list every table.`,
		Example: `  nexdal outline saltmere.db
  nexdal outline saltmere.json 'station*' --sort name
  nexdal outline postgres://dba@db1/saltmere --kind partitioned --format csv`,
		Args: cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if err := format(form, "text", "json", "csv", "markdown"); err != nil {
				return err
			}
			if !slices.Contains(report.Sorts, by) {
				return wrong("tables cannot be sorted by %q; there are %s", by, strings.Join(report.Sorts, ", "))
			}
			take := report.Selection{Patterns: args[1:]}
			for _, k := range kinds {
				if !slices.Contains(tableKinds, k) {
					return wrong("there is no kind of table %q; there are %s", k, strings.Join(tableKinds, ", "))
				}
				take.Kinds = append(take.Kinds, catalog.TableKind(k))
			}
			c, err := a.read(cmd.Context(), args[0], output)
			if err != nil {
				return err
			}
			if missing := strange(take.Patterns, c); missing != "" {
				return absent(missing, c)
			}
			o := report.NewOutline(c, take)
			o.Sort(by)
			return a.emit(output, func(w io.Writer) error {
				switch form {
				case "json":
					return encodeJSON(w, o)
				case "csv":
					return report.OutlineCSV(w, o)
				case "markdown":
					report.OutlineMarkdown(w, c, o)
				default:
					a.page(w).Outline(c, o, by, most)
				}
				return nil
			})
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write (default: standard output)")
	c.Flags().StringVar(&form, "format", "text", "text, json, csv or markdown")
	c.Flags().StringVar(&by, "sort", report.Sorts[0], "order of the tables: "+strings.Join(report.Sorts, ", "))
	c.Flags().StringSliceVar(&kinds, "kind", nil, "only tables of these kinds: "+strings.Join(tableKinds, ", "))
	c.Flags().IntVar(&most, "top", 12, "how many tables the text names; 0: all")
	return c
}
