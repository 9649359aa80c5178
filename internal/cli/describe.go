package cli

import (
	"fmt"
	"io"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/job"
	"nexdal/internal/report"
)

func (a *app) describe() *cobra.Command {
	var output, form, data string
	c := &cobra.Command{
		Use:   "describe SOURCE TABLE...",
		Short: "Show tables and views in full",
		Long: `Describe shows a table's columns, keys, references in both directions with their
cardinalities, indexes with what made them, checks, triggers and size, or a view's
columns, query and what it reads. With the evidence of nexdal probe it also shows what
the columns hold: how many values differ, how many are missing, how long they are, and
which they are or between which they lie.

TABLE may be a pattern in which * stands for any letters and ? for one, with or
without the schema; then every table and view that fits is shown. In double quotes
a name is read as SQL reads it: "harbour.pier" is one name, harbour."pier" two.`,
		Example: `  nexdal describe saltmere.db station
  nexdal describe saltmere.db 'station*'
  nexdal describe postgres://dba@db1/saltmere saltmere.visit --format json`,
		Args: cobra.MinimumNArgs(2),
		RunE: func(cmd *cobra.Command, args []string) error {
			if err := format(form, "text", "json"); err != nil {
				return err
			}
			c, err := a.read(cmd.Context(), args[0], output)
			if err != nil {
				return err
			}
			can, _ := job.Abilities(c) // of an engine that is not known, none
			all, err := described(c, can, args[1:])
			if err != nil {
				return err
			}
			notes, err := a.Notes(c)
			if err != nil {
				return err
			}
			e, err := a.Evidence(data, args[0], c)
			if err != nil {
				return err
			}
			for _, x := range all {
				if d, ok := x.(*report.Description); ok {
					d.Notes = notes[d.Table.Ref()]
					d.Hold(e)
				}
			}
			return a.emit(output, func(w io.Writer) error {
				if form == "json" {
					if len(all) == 1 {
						return encodeJSON(w, all[0])
					}
					return encodeJSON(w, struct {
						Format int   `json:"format"`
						Tables []any `json:"tables"`
					}{1, all})
				}
				p := a.page(w)
				for i, d := range all {
					if i > 0 {
						fmt.Fprint(w, "\n\n")
					}
					switch d := d.(type) {
					case *report.Description:
						p.Describe(d)
					case *report.ViewDescription:
						p.View(d)
					}
				}
				return nil
			})
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write (default: standard output)")
	c.Flags().StringVar(&form, "format", "text", "text or json")
	evidenceFlag(c.Flags(), &data)
	return c
}

// described gathers the tables and views that the patterns name, each once.
func described(c *catalog.Catalog, can catalog.Abilities, patterns []string) ([]any, error) {
	var all []any
	seen := map[any]bool{}
	for _, pattern := range patterns {
		found := false
		for _, s := range c.Schemas {
			for _, v := range s.Views {
				if catalog.FitsTable(pattern, s.Name, v.Name) {
					if found = true; !seen[v] {
						all = append(all, report.DescribeView(c, s.Name, v))
					}
					seen[v] = true
				}
			}
		}
		tables, err := matching(c, pattern)
		if err != nil && !found {
			return nil, err
		}
		for _, t := range tables {
			if !seen[t] {
				all = append(all, report.Describe(c, can, t))
			}
			seen[t] = true
		}
	}
	return all, nil
}
