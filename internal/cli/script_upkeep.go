package cli

import (
	"fmt"
	"time"

	"github.com/spf13/cobra"

	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/script"
	"nexdal/internal/text"
	"nexdal/internal/upkeep"
)

func (a *app) scriptUpkeep() *cobra.Command {
	var output string
	var within time.Duration
	var least int64
	c := &cobra.Command{
		Use:   "upkeep SOURCE -o FILE",
		Short: "Write the script of the upkeep that tables need by their figures",
		Long: `Upkeep lists, by the engine's own figures, which tables need the space of dead rows
reclaimed, their rows sorted, to be analyzed, or their indexes rebuilt:
what gains most for its time first, each with its reason and a rough guess of how long
it takes. --within keeps to a window of time. FILE gets the script; it alters no
structure, and there is nothing to take back.`,
		Example: `  nexdal script upkeep postgres://dba@db1/saltmere -o upkeep.sql
  nexdal script upkeep redshift://dba@cluster:5439/dev --within 2h -o upkeep.sql`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			c, w, can, err := a.altering(cmd.Context(), args[0], output)
			if err != nil {
				return err
			}
			all := upkeep.Maintenance(c, can, least)
			var tasks []upkeep.Task
			for _, t := range all {
				if engine.Refuses(w, c, t.Tend) == "" {
					tasks = append(tasks, t)
				}
			}
			fit := upkeep.Within(tasks, within)
			p := a.page(a.out)
			rows := [][]string{}
			for _, t := range fit {
				rows = append(rows, []string{text.Line(t.Tend.Title()), t.Takes.Round(time.Second).String(), text.Line(t.Reason)})
			}
			p.Table([]string{"", "about", "since"}, nil, rows)
			if n := len(tasks) - len(fit); n > 0 {
				p.Say(fmt.Sprintf("%s more would not fit into %s", text.Plural(int64(n), "task"), within))
			}
			if len(fit) == 0 {
				fmt.Fprintln(a.err, "by the engine's figures nothing needs upkeep")
				return nil
			}
			if output == "" {
				return nil
			}
			var changes []change.Change
			for _, t := range fit {
				changes = append(changes, t.Tend)
			}
			pair, err := script.Carry(w, c, can, changes, "upkeep")
			if err != nil {
				return wrong("the script cannot be written: %v", err)
			}
			return a.putScripts(args[0], output, pair)
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write the script to (default: the tasks are shown alone)")
	c.Flags().DurationVar(&within, "within", 0, "time that the tasks together may take, as 90m (default: all)")
	c.Flags().Int64Var(&least, "min-rows", 1000, "rows from which a table is looked after")
	return c
}
