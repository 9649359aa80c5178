package cli

import (
	"io"

	"github.com/spf13/cobra"

	"nexdal/internal/report"
)

func (a *app) outline() *cobra.Command {
	var output, form string
	c := &cobra.Command{
		Use:   "outline SOURCE",
		Short: "Show the whole catalog on a page",
		Long: `Outline counts what is there and names what stands out: the largest tables, the
ones that most others refer to, tables without a primary key, tables without any
reference, and what could not be read.`,
		Example: `  nexdal outline saltmere.db
  nexdal outline saltmere.json --format json`,
		Args: cobra.ExactArgs(1),
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
			o := report.NewOutline(c)
			return a.emit(output, func(w io.Writer) error {
				if form == "json" {
					return encodeJSON(w, o)
				}
				page(w).Outline(c, o)
				return nil
			})
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write (default: standard output)")
	c.Flags().StringVar(&form, "format", "text", "text or json")
	return c
}
