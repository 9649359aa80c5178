package cli

import (
	"io"

	"github.com/spf13/cobra"

	"nexdal/internal/report"
)

func (a *app) describe() *cobra.Command {
	var output, form string
	c := &cobra.Command{
		Use:   "describe SOURCE TABLE",
		Short: "Show one table in full",
		Long: `Describe shows a table's columns, keys, references in both directions with their
cardinalities, indexes with what made them, checks, triggers and size.`,
		Example: `  nexdal describe saltmere.db station
  nexdal describe postgres://dba@db1/saltmere saltmere.visit --format json`,
		Args: cobra.ExactArgs(2),
		RunE: func(cmd *cobra.Command, args []string) error {
			if err := format(form, "text", "json"); err != nil {
				return err
			}
			if err := writable(output); err != nil {
				return err
			}
			c, err := a.catalog(cmd.Context(), args[0])
			if err != nil {
				return err
			}
			t, err := table(c, args[1])
			if err != nil {
				return err
			}
			d := report.Describe(c, t)
			return a.emit(output, func(w io.Writer) error {
				if form == "json" {
					return encodeJSON(w, d)
				}
				page(w).Describe(d)
				return nil
			})
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write (default: standard output)")
	c.Flags().StringVar(&form, "format", "text", "text or json")
	return c
}
