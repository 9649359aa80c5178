package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"time"

	"github.com/spf13/cobra"

	"nexdal/internal/engine"
	"nexdal/internal/evidence"
	"nexdal/internal/phrase"
)

func (a *app) probe() *cobra.Command {
	var output string
	var noValues bool
	c := &cobra.Command{
		Use:   "probe SOURCE -o FILE",
		Short: "Ask the data what is unique and what refers to what",
		Long: `Probe asks a live database about its data: of each column how many values there
are, how many differ, how many are missing; which columns are unique though
nothing says so; which declared references hold, and which columns refer to
another table's key though nothing declares it. Every question is answered by
the engine with a few numbers, read-only; no rows leave the database but, as
samples, a few values without a parent and each column's least and greatest,
which --no-values leaves out.

With -o the evidence is written as JSON, and what stands out is printed; a table
that cannot be asked is a gap and stops nothing else. Interrupted, it writes what
is known by then.`,
		Example: `  nexdal probe saltmere.db -o evidence.json
  nexdal probe postgres://dba@db1/saltmere --schema saltmere --no-values -o evidence.json`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if err := writable(output); err != nil {
				return err
			}
			s, err := a.open(cmd.Context(), args[0], false)
			if err != nil {
				return err
			}
			defer s.Close()
			p, ok := s.(engine.Prober)
			if !ok {
				return wrong("%s cannot be asked about its data", engine.Redact(args[0]))
			}
			found, stopped := a.question(cmd.Context(), p, args[0])
			if found == nil {
				return stopped
			}
			found.Probed = time.Now().UTC().Truncate(time.Second)
			if noValues {
				found.Withhold()
			}
			if output == "" {
				err = a.emit("", func(w io.Writer) error { return encodeJSON(w, found) })
			} else if err = a.emit(output, func(w io.Writer) error { return encodeJSON(w, found) }); err == nil {
				page(a.out).Evidence(found)
				fmt.Fprintf(a.err, "%s: %s, by %s\n", output, phrase.Plural(int64(len(found.References)), "reference"), phrase.Plural(int64(found.Questions), "question"))
			}
			if err == nil && stopped != nil {
				return stopped
			}
			return err
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write (default: JSON to standard output)")
	c.Flags().BoolVar(&noValues, "no-values", false, "leave values of columns out of the file")
	return c
}

// question surveys and asks; an interrupt gives what is known by then.
func (a *app) question(ctx context.Context, p engine.Prober, source string) (*evidence.Evidence, error) {
	c, err := p.Survey(ctx)
	if err != nil {
		return nil, err
	}
	if len(a.schemas) > 0 {
		if missing := c.Only(a.schemas); missing != nil {
			return nil, wrong("%v in %s", missing, engine.Redact(source))
		}
	}
	asker, err := p.Asker(ctx)
	if err != nil {
		return nil, err
	}
	found, err := evidence.Discover(ctx, asker, c)
	if errors.Is(err, context.Canceled) && len(found.Columns) == 0 {
		return nil, err
	}
	return found, err
}
