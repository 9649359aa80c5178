package cli

import (
	"fmt"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/compare"
	"nexdal/internal/engine"
	"nexdal/internal/script"
)

// changeable are the kinds of objects that --kind takes.
var changeable = []string{"check", "column", "foreign key", "index", "object", "primary key", "routine", "schema", "sequence", "table", "trigger", "type", "unique key", "view"}

func (a *app) scriptChange() *cobra.Command {
	var output string
	var w compare.Wanted
	c := &cobra.Command{
		Use:   "change FROM TO -o FILE",
		Short: "Write the script that brings one structure to another",
		Long: `Change compares two sources of one engine and writes the DDL that brings FROM, a
database or its survey, to the structure of TO: what is not there yet is made, what is
otherwise is altered, in the order and in the form of every other script, with
questions to the data, reversal, rehearsal and run. What only the first has stays,
unless it is to go with --drops. What the script does not reach is listed at its end.`,
		Example: `  nexdal script change saltmere.db desired.json -o change.sql
  nexdal script change postgres://dba@db1/saltmere postgres://dba@test1/saltmere -o change.sql
  nexdal script change saltmere.db desired.json -o change.sql --table 'feed_*' --kind index,check --drops`,
		Args: cobra.ExactArgs(2),
		RunE: func(cmd *cobra.Command, args []string) error {
			from, to := args[0], args[1]
			for i, kind := range w.Kinds {
				if kind = strings.ToLower(strings.ReplaceAll(kind, "-", " ")); !slices.Contains(changeable, kind) {
					return wrong("--kind: there is no kind %q; there are %s", w.Kinds[i], strings.Join(changeable, ", "))
				}
				w.Kinds[i] = kind
			}
			is, writer, can, err := a.altering(cmd.Context(), from, output)
			if err != nil {
				return err
			}
			goal, err := a.Catalog(cmd.Context(), to)
			if err != nil {
				return err
			}
			if is.Engine.Name != goal.Engine.Name {
				return wrong("%s is %s and %s is %s; take the structure over first, with nexdal script create --for %s",
					engine.Redact(from), engineTitle(is.Engine.Name), engine.Redact(to), engineTitle(goal.Engine.Name), is.Engine.Name)
			}
			goal = underOneName(is, goal).WithoutRights()
			if missing := strange(w.Tables, is, goal); missing != "" {
				return absent(missing, is, goal)
			}
			pair, err := script.Change(writer, is, goal, can, w)
			if err != nil {
				return fmt.Errorf("the script cannot be written: %w", err)
			}
			return a.putScripts(from, output, pair)
		},
	}
	f := c.Flags()
	f.StringVarP(&output, "output", "o", "", "file to write; the reversal comes beside it (default: standard output, without reversal)")
	f.Var((*patterns)(&w.Tables), "table", "only these tables, views and the like: names or patterns, with commas between them")
	f.StringSliceVar(&w.Kinds, "kind", nil, "only these kinds of objects: "+strings.Join(changeable, ", "))
	f.BoolVar(&w.Drops, "drops", false, "take away what only the first source has; rows of dropped tables and columns are lost")
	return c
}

// underOneName gives the goal's only schema the name of the other's, on an engine
// whose databases are schemas: they differ in name from server to server.
func underOneName(is, goal *catalog.Catalog) *catalog.Catalog {
	if len(is.Schemas) != 1 || len(goal.Schemas) != 1 || is.Schemas[0].Name == goal.Schemas[0].Name || is.Schemas[0].Name != is.Database {
		return goal
	}
	goal = goal.Clone()
	goal.RenameSchema(goal.Schemas[0].Name, is.Schemas[0].Name)
	return goal
}
