package cli

import (
	"context"
	"fmt"
	"io"

	"github.com/spf13/cobra"

	"nexdal/internal/engine"
	"nexdal/internal/report"
	"nexdal/internal/text"
)

func (a *app) survey() *cobra.Command {
	var output string
	var structureOnly, fingerprint bool
	c := &cobra.Command{
		Use:   "survey SOURCE... [-o FILE]",
		Short: "Read a catalog into a survey file",
		Long: `Survey reads the whole catalog of a database, in one read-only transaction and
a fixed number of questions, and writes it as JSON. The file serves as SOURCE
for the other commands, without the database. On PostgreSQL, catalogs of a thousand
tables and more are read over three connections that share one snapshot.

The structure comes in a stable order; what differs from survey to survey stands
apart, in "surveyed" and "statistics". With --structure-only two surveys of the
same structure are alike byte for byte except for the date; --fingerprint prints a
digest of the structure alone.

Where nothing declares a structure (MongoDB, exported documents), it is read from 2,000
rows of each table, drawn at random, or with --full from all of them.

Of several sources each gets a file of its own in the folder that -o names.`,
		Example: `  nexdal survey saltmere.db -o saltmere.json
  nexdal survey postgres://dba@db1/saltmere -o saltmere.json
  nexdal survey live test -o surveys
  nexdal survey saltmere.db --fingerprint`,
		Args: cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if fingerprint {
				return a.fingerprints(cmd.Context(), args)
			}
			bar := a.bar()
			defer bar.end()
			a.Fetched = bar.fetched
			return a.several(cmd.Context(), args, output, ".json", []string{"tables", "columns", "foreign keys", "indexes", "rows"}, func(source, output string) ([]string, error) {
				c, err := a.read(cmd.Context(), source, output)
				if err != nil {
					return nil, err
				}
				if err := a.emit(output, func(w io.Writer) error { return c.Write(w, !structureOnly) }); err != nil {
					return nil, err
				}
				if output != "" && output != "-" {
					a.note("%s of %s written to %s", text.Plural(int64(len(c.Tables())), "table"), text.Line(c.Database), output)
				}
				for _, g := range c.Gaps {
					a.note("not read: %s", text.Line(g.Place()+" "+g.What+": "+g.Reason))
				}
				return report.Sums(c), nil
			})
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write (default: standard output)")
	c.Flags().BoolVar(&a.Full, "full", false, "look at all rows where nothing declares a structure")
	c.Flags().BoolVar(&structureOnly, "structure-only", false, "leave rows and sizes out")
	c.Flags().BoolVar(&fingerprint, "fingerprint", false, "print the fingerprint of the structure, which is the same for as long as nothing of it changes")
	return c
}

// fingerprints prints that of each source, as sha256sum prints those of files.
func (a *app) fingerprints(ctx context.Context, sources []string) error {
	for _, source := range sources {
		c, err := a.Catalog(ctx, source)
		if err != nil {
			return err
		}
		sum, err := c.Digest()
		if err != nil {
			return err
		}
		fmt.Fprintf(a.out, "%s  %s\n", sum, text.Line(engine.Redact(source)))
	}
	return nil
}
