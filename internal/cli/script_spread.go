package cli

import (
	"fmt"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/advise"
	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/job"
	"nexdal/internal/report"
	"nexdal/internal/script"
	"nexdal/internal/text"
)

func (a *app) scriptSpread() *cobra.Command {
	var output, data, queries string
	var copies, waits float64
	c := &cobra.Command{
		Use:   "spread SOURCE -o FILE",
		Short: "Choose spread and order for all tables of a cluster together, and write the script",
		Long: `Spread chooses, for every table of a cluster together, whether its rows lie by a
column, evenly, or as a copy on each node, and by what they are sorted: so that joins
move as few bytes as can be, no slice holds far more than the others, and copies stay
worth their room. It weighs by the rows that the engine counts, the width of the
columns, the references (declared, accepted, and with --evidence those that the data
shows) and how often values repeat.

With --queries a file of typical queries takes the place of the references: their
joins, and what they search by, which tells the order. A comment -- times 200 within a
query says how often it is put.

The choice is shown with its reasons, what each join moves before and after, and the
runner-up. FILE gets the script that brings the tables to it, with the way back; docs/
spread.md explains how it is reckoned.`,
		Example: `  nexdal script spread redshift://dba@cluster:5439/dev -o spread.sql
  nexdal script spread saltmere.json --evidence evidence.json --queries typical.sql -o spread.sql`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			c, w, can, err := a.altering(cmd.Context(), args[0], output)
			if err != nil {
				return err
			}
			if !can.Spreads {
				return wrong("tables of %s are not spread over a cluster", c.Engine.Name)
			}
			if c.Slices() < 2 {
				return wrong("the cluster has one slice, on which all rows lie whatever is chosen")
			}
			e, err := a.Evidence(data, args[0], c)
			if err != nil {
				return err
			}
			o := advise.Options{Copies: copies, Waits: waits}
			if queries != "" {
				text, err := os.ReadFile(queries)
				if err != nil {
					return wrong("%s cannot be read: %v", queries, job.Cause(err))
				}
				if o.Joins, o.Filters = advise.Queries(c, string(text)); len(o.Joins)+len(o.Filters) == 0 {
					return wrong("%s holds no query whose joins or conditions are understood", queries)
				}
			}
			advice := advise.Choose(c, e, o)
			spreadOut(a.page(a.out), advice)
			changes := spreading(advice)
			if len(changes) == 0 {
				fmt.Fprintln(a.err, "every table lies as is advised")
				return nil
			}
			if output == "" {
				return nil
			}
			pair, err := script.Carry(w, c, can, changes, "spread and order")
			if err != nil {
				return wrong("the script cannot be written: %v", err)
			}
			return a.putScripts(args[0], output, pair)
		},
	}
	f := c.Flags()
	f.StringVarP(&output, "output", "o", "", "file to write the script to (default: the advice is shown alone)")
	evidenceFlag(f, &data)
	f.StringVar(&queries, "queries", "", "file of typical queries, ended by semicolons")
	f.Float64Var(&copies, "copies", 0.5, "what a byte on a further node costs against a byte that one join moves")
	f.Float64Var(&waits, "waits", 1, "what a byte costs that the other slices wait for")
	return c
}

// spreading are the changes that lead to what is advised.
func spreading(a *advise.Advice) []change.Change {
	var changes []change.Change
	for _, ch := range a.Choices {
		t := ch.Table
		if t.Spread != nil && *t.Spread != ch.Spread && (t.Stats.Rows == nil || *t.Stats.Rows > 0) {
			changes = append(changes, change.SetSpread{Table: t.Ref(), From: *t.Spread, To: ch.Spread})
		}
		if ch.Sort != nil && !t.SortKey.Equal(ch.Sort) {
			changes = append(changes, change.SetSortKey{Table: t.Ref(), From: t.SortKey, To: ch.Sort})
		}
	}
	return changes
}

func spreadOut(p *report.Page, a *advise.Advice) {
	p.Head("Tables")
	rows := [][]string{}
	for _, ch := range a.Choices {
		now, mark := "not known", " "
		if ch.Table.Spread != nil {
			now = ch.Table.Spread.String()
		}
		if ch.Table.Spread == nil || *ch.Table.Spread != ch.Spread {
			mark = "→"
		}
		rows = append(rows, []string{text.Line(ch.Table.Name), counted(ch.Table), text.Line(now), mark, text.Line(advised(ch)), text.Line(ch.Reason)})
	}
	p.Table([]string{"", "rows", "now", "", "advised", "since"}, []int{2}, rows)
	p.Gap()
	p.Head("Runners-up")
	rows = nil
	for _, ch := range a.Choices {
		if ch.RunnerUp != "" && ch.Table.Stats.Rows != nil && *ch.Table.Stats.Rows > 0 {
			rows = append(rows, []string{text.Line(ch.Table.Name), text.Line(ch.RunnerUp)})
		}
	}
	p.Table(nil, nil, rows)
	p.Gap()
	p.Head("What a join moves")
	rows = nil
	for _, j := range a.Joins {
		rows = append(rows, []string{text.Line(fmt.Sprintf("%s.%s = %s.%s", j.From.Table, j.FromColumn, j.To.Table, j.ToColumn)), text.Size(int64(j.Before)), text.Size(int64(j.After))})
	}
	p.Table([]string{"", "now", "then"}, []int{2, 3}, rows)
	p.Gap()
	p.Say(strings.TrimSpace(fmt.Sprintf("Joins, copies and waiting together: %s now, %s then.", text.Size(int64(a.Before)), text.Size(int64(a.After)))))
}

// advised is where a table's rows are to lie, and in what order if that is to change.
func advised(ch advise.Choice) string {
	if ch.Sort == nil || ch.Table.SortKey.Equal(ch.Sort) {
		return ch.Spread.String()
	}
	return ch.Spread.String() + ", sorted " + ch.Sort.String()
}

func counted(t *catalog.Table) string {
	if t.Stats.Rows == nil {
		return ""
	}
	return text.Amount(*t.Stats.Rows)
}
