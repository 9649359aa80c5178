package cli

import (
	"fmt"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/script"
	"nexdal/internal/text"
)

func (a *app) scriptCreate() *cobra.Command {
	var output, target string
	c := &cobra.Command{
		Use:   "create SOURCE [TABLE...] -o FILE",
		Short: "Write the script that creates the structure",
		Long: `Create writes the DDL of the whole structure, or of the tables named with what
they need, in an order that runs: types, routines and tables first, then keys
and indexes, foreign keys last. On an empty database of the same engine the
result is identical. Rows, owners and privileges are no part of it.

With --for the script is written for another engine: types and defaults are
translated, and each thing that is lost or made otherwise is listed at its end.`,
		Example: `  nexdal script create saltmere.db -o create.sql
  nexdal script create saltmere.json reading gauge -o reading.sql
  nexdal script create saltmere.db --for postgres -o saltmere.pg.sql`,
		Args: cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			c, err := a.read(cmd.Context(), args[0], output)
			if err != nil {
				return err
			}
			if len(args) > 1 {
				if c, err = a.subset(c, args[1:]); err != nil {
					return err
				}
			}
			var losses []engine.Loss
			if target != "" && target != c.Engine.Name {
				if c, losses, err = translated(c, target); err != nil {
					return err
				}
			}
			e, ok := all.ByName(c.Engine.Name).(engine.Creator)
			if !ok {
				return wrong("no scripts can be written for engine %q", c.Engine.Name)
			}
			s := script.Create(e, c, losses)
			s.Program = "nexdal " + version()
			file := output
			if file == "" || file == "-" {
				file = "FILE"
			}
			if err := a.emitText(output, s.Text(runWith(e, "", file))); err != nil {
				return err
			}
			if file != "FILE" {
				fmt.Fprintf(a.err, "%s: ", file)
			}
			fmt.Fprintf(a.err, "%s in %s", text.Plural(int64(len(s.Tables)), "table"), text.Plural(int64(len(s.Steps)), "step"))
			if n := len(s.Losses); n > 0 {
				fmt.Fprintf(a.err, ", %s not as it was; see its end", text.Plural(int64(n), "thing"))
			}
			fmt.Fprintln(a.err)
			return nil
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write (default: standard output)")
	c.Flags().StringVar(&target, "for", "", "engine to write for: "+strings.Join(creators(), ", ")+" (default: the source's own)")
	return c
}

// subset narrows the catalog to the tables that the patterns name, and says
// what came along.
func (a *app) subset(c *catalog.Catalog, patterns []string) (*catalog.Catalog, error) {
	var refs []catalog.Ref
	for _, p := range patterns {
		tables, err := matching(c, p)
		if err != nil {
			return nil, err
		}
		for _, t := range tables {
			refs = append(refs, t.Ref())
		}
	}
	d := c.Subset(refs)
	var along []string
	for _, t := range d.Tables() {
		if !slices.Contains(refs, t.Ref()) {
			along = append(along, text.Line(t.Ref().String()))
		}
	}
	if len(along) > 0 {
		fmt.Fprintf(a.err, "with what they need: %s\n", strings.Join(along, ", "))
	}
	return d, nil
}

// creators lists the engines that scripts can be written for.
func creators() []string {
	var names []string
	for _, e := range all.Engines() {
		if _, ok := e.(engine.Creator); ok {
			names = append(names, e.Name())
		}
	}
	return names
}

// translated turns the catalog into one of the engine's.
func translated(c *catalog.Catalog, target string) (*catalog.Catalog, []engine.Loss, error) {
	e, ok := all.ByName(target).(engine.Adopter)
	if !ok {
		return nil, nil, wrong("no scripts can be written for engine %q; there are %s", target, strings.Join(creators(), ", "))
	}
	source := all.ByName(c.Engine.Name)
	if source == nil {
		return nil, nil, wrong("the source is of engine %q, which this program does not know", c.Engine.Name)
	}
	d, losses := e.Adopt(c, source.Dialect())
	return d, losses, nil
}
