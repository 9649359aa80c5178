package cli

import (
	"fmt"
	"io"

	"github.com/spf13/cobra"

	"nexdal/internal/engine"
	"nexdal/internal/job"
	"nexdal/internal/script"
	"nexdal/internal/text"
)

func (a *app) scriptBulkload() *cobra.Command {
	var output string
	var patterns patterns
	var l script.Load
	c := &cobra.Command{
		Use:   "bulkload SOURCE -o FILE",
		Short: "Write the scripts to run before and after a bulk load",
		Long: `Bulkload writes two scripts: FILE (load.sql) puts aside what is in the way of loading
much data, and load.reversal.sql puts all of it back exactly as it was: the foreign
keys of the tables and those that refer to them, with --indexes also indexes that
enforce nothing, with --triggers also triggers.

A third file, load.orphans.sql, asks for orphaned rows; the second script
asks the same before it begins, and stops if there are any. With --unchecked it does
not look at the rows: the foreign keys are declared for what comes later, and what
was loaded is not known to keep them. The script lists those.

On SQLite each connection switches foreign keys for itself; there load with PRAGMA
foreign_keys off.`,
		Example: `  nexdal script bulkload postgres://dba@db1/saltmere -o load.sql
  nexdal script bulkload postgres://dba@db1/saltmere -o load.sql --table 'reading*' --indexes --triggers
  nexdal script bulkload saltmere.json -o load.sql --unchecked`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if output == "" || output == "-" {
				return wrong("give a file with -o: there are two scripts, and the second has to be there when the first has run")
			}
			c, w, can, err := a.altering(cmd.Context(), args[0], output)
			if err != nil {
				return err
			}
			if can.KeysUnenforced {
				return wrong("nothing keeps the keys of this engine, and so nothing would make a load slow or refuse it; nexdal probe says afterwards what the rows break")
			}
			if l.Tables, err = among(c, patterns); err != nil {
				return err
			}
			pair, orphans, err := script.Bulkload(w, c, can, l)
			if err != nil {
				return fmt.Errorf("the scripts cannot be written: %w", err)
			}
			if err := a.putScripts(args[0], output, pair); err != nil {
				return err
			}
			asks := job.Beside(output, "orphans")
			if err := a.emit(asks, func(out io.Writer) error { return questions(out, w, orphans) }); err != nil {
				return err
			}
			fmt.Fprintf(a.err, "%s: %s after orphaned rows\n", asks, text.Plural(int64(len(orphans)), "question"))
			return nil
		},
	}
	f := c.Flags()
	f.StringVarP(&output, "output", "o", "", "file to write; the second script comes beside it")
	f.Var(&patterns, "table", "the tables that are loaded: names or patterns, with commas between them (default: all)")
	f.BoolVar(&l.Indexes, "indexes", false, "put aside indexes that enforce nothing, too")
	f.BoolVar(&l.Triggers, "triggers", false, "put aside triggers, too")
	f.BoolVar(&l.Unchecked, "unchecked", false, "put foreign keys back without a look at the rows")
	return c
}

// questions writes queries by themselves.
func questions(out io.Writer, e engine.Engine, list []engine.Question) error {
	for _, q := range list {
		if _, err := fmt.Fprintf(out, "-- %s\n%s\n\n", text.Line(q.Title), e.Dialect().Ended(q.SQL)); err != nil {
			return err
		}
	}
	return nil
}
