package cli

import (
	"fmt"
	"io"

	"github.com/spf13/cobra"

	"nexdal/internal/text"
)

func (a *app) survey() *cobra.Command {
	var output string
	var structureOnly bool
	c := &cobra.Command{
		Use:   "survey SOURCE [-o FILE]",
		Short: "Read a catalog into a survey file",
		Long: `Survey reads the whole catalog of a database, in one read-only transaction and
a fixed number of questions, and writes it as JSON. The file serves as SOURCE
for the other commands, without the database. On PostgreSQL, catalogs of a thousand
tables and more are read over three connections that share one snapshot.

The structure comes in a stable order; what differs from survey to survey stands
apart, in "surveyed" and "statistics". With --structure-only two surveys of the
same structure are alike byte for byte except for the date.`,
		Example: `  nexdal survey saltmere.db -o saltmere.json
  nexdal survey postgres://dba@db1/saltmere -o saltmere.json
  nexdal survey saltmere.db --structure-only | sha256sum`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			c, err := a.read(cmd.Context(), args[0], output)
			if err != nil {
				return err
			}
			if err := a.emit(output, func(w io.Writer) error { return c.Write(w, !structureOnly) }); err != nil {
				return err
			}
			if output != "" && output != "-" {
				fmt.Fprintf(a.err, "%s of %s written to %s\n", text.Plural(int64(len(c.Tables())), "table"), text.Line(c.Database), output)
			}
			for _, g := range c.Gaps {
				fmt.Fprintf(a.err, "not read: %s\n", text.Line(g.Schema+" "+g.Table+" "+g.What+": "+g.Reason))
			}
			return nil
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write (default: standard output)")
	c.Flags().BoolVar(&structureOnly, "structure-only", false, "leave rows and sizes out")
	return c
}
