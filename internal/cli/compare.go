package cli

import (
	"io"
	"path"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/compare"
	"nexdal/internal/report"
)

func (a *app) compare() *cobra.Command {
	var output, form string
	var o compare.Options
	c := &cobra.Command{
		Use:   "compare A B",
		Short: "Show what differs between two sources",
		Long: `Compare shows every object that was added, removed or altered on the way from A
to B, property by property, and says where an object may only have got a new
name. Rows, sizes and settings are not compared. Between two engines types are
compared by what they hold.

The exit status is 1 where there are differences.`,
		Example: `  nexdal compare october.json november.json
  nexdal compare saltmere.json saltmere.db --without comment,order
  nexdal compare a.json b.json --except 'audit.*' --format json`,
		Args: cobra.ExactArgs(2),
		RunE: func(cmd *cobra.Command, args []string) error {
			if err := format(form, "text", "json", "markdown"); err != nil {
				return err
			}
			for _, w := range o.Without {
				if !slices.Contains(compare.Ignorable, w) {
					return wrong("--without knows no %q; there are %s", w, strings.Join(compare.Ignorable, ", "))
				}
			}
			for _, pattern := range o.Except {
				if _, err := path.Match(pattern, ""); err != nil {
					return wrong("--except: %q is no pattern", pattern)
				}
			}
			if err := writable(output); err != nil {
				return err
			}
			from, err := a.catalog(cmd.Context(), args[0])
			if err != nil {
				return err
			}
			to, err := a.catalog(cmd.Context(), args[1])
			if err != nil {
				return err
			}
			found := compare.Catalogs(from, to, o)
			if err := a.emit(output, func(w io.Writer) error {
				switch form {
				case "json":
					return encodeJSON(w, report.DifferencesJSON(from, to, found))
				case "markdown":
					report.DifferencesMarkdown(w, from, to, found)
				default:
					page(w).Differences(from, to, found)
				}
				return nil
			}); err != nil {
				return err
			}
			if len(found) > 0 {
				return shortError{}
			}
			return nil
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write (default: standard output)")
	c.Flags().StringVar(&form, "format", "text", "text, json or markdown")
	c.Flags().StringSliceVar(&o.Without, "without", nil, "kinds of objects or properties to leave out: "+strings.Join(compare.Ignorable, ", "))
	c.Flags().StringSliceVar(&o.Except, "except", nil, "tables and views to leave out, as patterns: audit.*, *_old")
	return c
}
