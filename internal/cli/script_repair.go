package cli

import (
	"fmt"
	"io"
	"slices"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/all"
	"nexdal/internal/evidence"
	"nexdal/internal/script"
	"nexdal/internal/text"
)

func (a *app) scriptRepair() *cobra.Command {
	var output, data string
	c := &cobra.Command{
		Use:   "repair SOURCE --evidence FILE -o FILE",
		Short: "Write queries and choices for data that breaks a rule",
		Long: `Repair writes, for every reference that leads nowhere and every key that repeats, the
query that lists the rows and what could be done: put the rows aside in a table of
their own, let them refer to nothing, add the parents that are missing, delete them;
keep the first of what repeats, or let those that refer to the others refer to it.

The choices are comments: the file changes nothing as it stands. Take the marks away
from the choice that is meant. It needs the evidence of nexdal probe. References that
nothing declares are among them once they were accepted (nexdal decide).`,
		Example: `  nexdal probe saltmere.db -o evidence.json
  nexdal script repair saltmere.db --evidence evidence.json -o repair.sql`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			of, err := a.judged(cmd.Context(), args[0], data, output)
			if err != nil {
				return err
			}
			if of.Evidence == nil {
				return wrong("give the evidence that nexdal probe wrote: --evidence FILE")
			}
			e := all.ByName(of.Catalog.Engine.Name)
			q, ok := e.(script.Quoter)
			if !ok {
				return wrong("no scripts can be written for engine %q", of.Catalog.Engine.Name)
			}
			wrongs := wrongsOf(of.Catalog, of.Evidence)
			if err := a.emit(output, func(w io.Writer) error {
				script.Repair(w, q, of.Catalog, wrongs, e.Abilities(of.Catalog.Engine.Version).MaxName, "nexdal "+version())
				return nil
			}); err != nil {
				return err
			}
			if output != "" && output != "-" {
				fmt.Fprintf(a.err, "%s: choices for %s\n", output, text.Plural(int64(len(wrongs)), "fault"))
			}
			return nil
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write (default: standard output)")
	evidenceFlag(c.Flags(), &data)
	return c
}

// wrongsOf gathers what the evidence says is wrong with the data.
func wrongsOf(c *catalog.Catalog, e *evidence.Evidence) []script.Wrong {
	var all []script.Wrong
	for i := range e.References {
		r := &e.References[i]
		t := c.Table(r.From())
		if r.Orphans == 0 || t == nil || !r.Declared && !accepted(t, r) || byRanges(t, r) {
			continue
		}
		all = append(all, script.Wrong{Table: r.From(), Columns: r.Columns, Target: catalog.Ref{Schema: r.TargetSchema, Table: r.Target}, Keys: r.TargetColumns, Rows: r.Orphans, Samples: r.Samples})
	}
	for _, x := range e.Promises { // what nothing declares, and is nearly unique, among them
		ref := catalog.Ref{Schema: x.Schema, Table: x.Table}
		if x.Kind == "unique" && x.Offenders > 0 && x.Origin != "proposed" && len(x.Columns) > 0 && c.Table(ref) != nil {
			all = append(all, script.Wrong{Table: ref, Columns: x.Columns})
		}
	}
	return all
}

// byRanges reports whether the foreign key refers by ranges: what is wrong with such rows is
// where they begin or end, and no row to be moved.
func byRanges(t *catalog.Table, r *evidence.Reference) bool {
	return slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool {
		return f.Period && slices.Equal(f.Columns, r.Columns) && f.Target == r.To()
	})
}

func accepted(t *catalog.Table, r *evidence.Reference) bool {
	for _, f := range t.Accepted {
		if catalog.SameColumns(f.Columns, r.Columns) && f.Target.Table == r.Target && f.Target.Schema == r.TargetSchema {
			return true
		}
	}
	return false
}
