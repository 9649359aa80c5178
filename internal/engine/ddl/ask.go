package ddl

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
)

// Ask adds a pre-flight question for the step that comes next.
func (w *Writer) Ask(title, sql string) {
	w.Work.Preflight = append(w.Work.Preflight, engine.Question{Title: title, Step: len(w.Work.Steps) + 1, Answers: w.Item.Answers, SQL: sql})
}

// rows is the query for rows of a table, of those alone for which the condition holds.
func (d *Dialect) rows(table catalog.Ref, where string) string {
	if where != "" {
		where = " WHERE " + where
	}
	return d.Quoting.First(ShownRows, fmt.Sprintf("SELECT * FROM %s%s", d.Relation(table), where))
}

// AskRows asks for rows of the table for which the condition holds, or for any at all.
func (w *Writer) AskRows(title string, table catalog.Ref, where string) {
	w.Ask(title, w.rows(table, where))
}

// AskRepeats asks for what a unique key would refuse.
func (w *Writer) AskRepeats(table catalog.Ref, columns []string) {
	w.askRepeats(table, strings.Join(columns, ", "), w.Quoting.Repeats(w.Relation(table), columns, ShownRows))
}

// AskRepeatsBy is the like for a list of expressions, among the rows for which the
// condition holds, or all ("").
func (w *Writer) AskRepeatsBy(table catalog.Ref, list, where string) {
	w.askRepeats(table, list, w.Quoting.RepeatsBy(w.Relation(table), list, where, ShownRows))
}

func (w *Writer) askRepeats(table catalog.Ref, list, sql string) {
	w.Ask(fmt.Sprintf("values of %s (%s) that occur more than once", table, list), sql)
}

// AskOrphans asks for what a foreign key would refuse.
func (w *Writer) AskOrphans(table catalog.Ref, f *catalog.ForeignKey) {
	t := w.From.Table(table)
	if t != nil && !t.HasColumns(f.Columns) {
		return // they come with the script, and hold what the script puts there
	}
	relation := w.Quoting.Comparable(w.Relation(table), t, f.Columns, w.From.Table(f.Target), f.TargetColumns)
	orphans := w.Quoting.Orphans
	if f.Period {
		orphans = w.Quoting.OrphansBeyond
	}
	w.Ask(fmt.Sprintf("values of %s (%s) without a row in %s", table, strings.Join(f.Columns, ", "), f.Target),
		orphans(relation, f.Columns, w.Relation(f.Target), f.TargetColumns, ShownRows))
}

// AskNulls asks for rows that NOT NULL would refuse.
func (w *Writer) AskNulls(table catalog.Ref, column string) {
	w.AskRows(fmt.Sprintf("rows of %s where %s is null", table, column), table, w.Quoting.Ident(column)+" IS NULL")
}

// AskBreaks asks for rows that a check would refuse; one for which its condition is
// unknown passes it.
func (w *Writer) AskBreaks(table catalog.Ref, k *catalog.Check, condition string) {
	w.AskRows(fmt.Sprintf("rows of %s that break %s", table, k.Expression), table, "NOT ("+condition+")")
}

// AskUnfit asks for values that the new type cannot hold, which the condition finds; ""
// says that it holds them all.
func (w *Writer) AskUnfit(ch change.AlterType, where string) {
	if where == "" {
		return
	}
	c := w.Quoting.Ident(ch.Column)
	w.Ask(fmt.Sprintf("values of %s.%s that %s cannot hold", ch.Table, ch.Column, ch.To.Native),
		w.Quoting.First(ShownRows, fmt.Sprintf("SELECT DISTINCT %s FROM %s WHERE %s", c, w.Relation(ch.Table), where)))
}

// AskUnvalued asks for any row of a table that gets a column which takes no null and has
// no value for it.
func (w *Writer) AskUnvalued(table catalog.Ref, c *catalog.Column) {
	if !c.Nullable && c.Default == "" && c.Generated == "" && c.Identity == catalog.NoIdentity {
		w.Ask(fmt.Sprintf("rows of %s, for which the new column %s has no value", table, c.Name), w.Quoting.First(1, "SELECT * FROM "+w.Relation(table)))
	}
}
