package redshift

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/phrase"
)

// Refuses says why the change cannot be written, or "".
func (Engine) Refuses(c *catalog.Catalog, ch change.Change) string {
	t := c.Table(ch.On())
	if t == nil {
		return "Redshift has no statement for it"
	}
	switch ch := ch.(type) {
	case change.SetSpread, change.SetSortKey, change.AddKey, change.DropKey, change.AddForeignKey, change.DropForeignKey, change.NoReversal:
		return ""
	case change.ReplaceKey:
		if ch.From.Key == nil || ch.To.Key == nil {
			return "Redshift has no indexes"
		}
		return ""
	case change.SetEncoding:
		for _, e := range ch.To { // https://docs.aws.amazon.com/redshift/latest/dg/r_ALTER_TABLE.html
			switch e {
			case "bytedict", "runlength", "text255", "text32k":
				return "no column is altered to the encoding " + e
			}
		}
		return ""
	case change.Maintain:
		if ch.What == change.RebuildIndexes {
			return "Redshift has no indexes"
		}
		return ""
	}
	return "Redshift has no statement for it"
}

// Write turns the plan into steps
// (https://docs.aws.amazon.com/redshift/latest/dg/r_ALTER_TABLE.html).
func (Engine) Write(from, _ *catalog.Catalog, plan change.Plan) (*engine.Work, error) {
	can := Engine{}.Abilities(from.Engine.Version)
	w := &writer{now: from.Clone(), work: &engine.Work{Client: []string{`\set ON_ERROR_STOP on`}}}
	for i, it := range plan {
		w.it, w.i = it, i
		switch ch := it.Change.(type) {
		case change.SetSpread:
			w.spread(ch)
		case change.SetSortKey:
			w.sort(ch)
		case change.SetEncoding:
			var actions []string
			for k, name := range ch.Columns {
				actions = append(actions, fmt.Sprintf("ALTER COLUMN %s ENCODE %s", ident(name), ch.To[k]))
			}
			w.step(ch.Title(), "the table is written anew beside those who read it; writers wait at the end", engine.BlocksAtWork, "ALTER TABLE "+relation(ch.Table)+" "+strings.Join(actions, ", "))
		case change.Maintain:
			w.tend(ch)
		case change.AddKey:
			kind := "UNIQUE"
			if ch.Primary {
				kind = "PRIMARY KEY"
			}
			w.ask(ch.Table, fmt.Sprintf("values of %s (%s) that occur more than once", ch.Table, strings.Join(ch.Key.Columns, ", ")), quoting.Repeats(relation(ch.Table), ch.Key.Columns, shownRows))
			w.informational(ch.Title(), fmt.Sprintf("ALTER TABLE %s ADD CONSTRAINT %s %s (%s)", relation(ch.Table), ident(ch.Key.Name), kind, idents(ch.Key.Columns)))
		case change.ReplaceKey:
			kind := "UNIQUE"
			if ch.To.Primary {
				kind = "PRIMARY KEY"
			}
			w.informational(ch.Title(), fmt.Sprintf("ALTER TABLE %s DROP CONSTRAINT %s", relation(ch.Table), ident(ch.From.Key.Name)),
				fmt.Sprintf("ALTER TABLE %s ADD CONSTRAINT %s %s (%s)", relation(ch.Table), ident(ch.To.Key.Name), kind, idents(ch.To.Key.Columns)))
		case change.DropKey:
			w.informational(ch.Title(), fmt.Sprintf("ALTER TABLE %s DROP CONSTRAINT %s", relation(ch.Table), ident(ch.Name)))
		case change.AddForeignKey:
			f := ch.ForeignKey
			w.ask(ch.Table, fmt.Sprintf("values of %s (%s) without a row in %s", ch.Table, strings.Join(f.Columns, ", "), f.Target), quoting.Orphans(relation(ch.Table), f.Columns, relation(f.Target), f.TargetColumns, shownRows))
			w.informational(ch.Title(), fmt.Sprintf("ALTER TABLE %s ADD CONSTRAINT %s FOREIGN KEY (%s) REFERENCES %s (%s)", relation(ch.Table), ident(f.Name), idents(f.Columns), relation(f.Target), idents(f.TargetColumns)))
		case change.DropForeignKey:
			w.informational(ch.Title(), fmt.Sprintf("ALTER TABLE %s DROP CONSTRAINT %s", relation(ch.Table), ident(ch.ForeignKey.Name)))
		case change.NoReversal:
		default:
			return nil, fmt.Errorf("%s cannot be written for Redshift", ch.Title())
		}
		if err := it.Apply(w.now, can); err != nil {
			return nil, fmt.Errorf("%s: %w", it.Change.Title(), err)
		}
	}
	return w.work, nil
}

// shownRows is how many offending rows a pre-flight query lists.
const shownRows = 20

type writer struct {
	now  *catalog.Catalog
	work *engine.Work
	it   change.Item
	i    int
}

func (w *writer) step(title, lock string, blocks engine.Blocking, sql ...string) *engine.Step {
	on := w.it.Change.On()
	if t := w.now.Table(on); t != nil && t.Stats.Bytes != nil && *t.Stats.Bytes > 0 && blocks == engine.BlocksAtWork {
		lock += "; writes " + phrase.Size(*t.Stats.Bytes) + " anew"
	}
	if len(sql) > 1 {
		sql = append(append([]string{"BEGIN"}, sql...), "COMMIT")
	}
	w.work.Steps = append(w.work.Steps, engine.Step{Title: title, Changes: []int{w.i}, Answers: w.it.Answers, Tables: []catalog.Ref{on}, Lock: lock, Blocks: blocks, Transaction: true, SQL: sql})
	return &w.work.Steps[len(w.work.Steps)-1]
}

func (w *writer) informational(title string, sql ...string) {
	s := w.step(title, "the table for a moment", engine.BlocksBriefly, sql...)
	s.Notes = append(s.Notes, "it is not enforced: the planner believes it, and a row that breaks it makes wrong answers")
}

func (w *writer) ask(table catalog.Ref, title, sql string) {
	w.work.Preflight = append(w.work.Preflight, engine.Question{Title: title, Step: len(w.work.Steps) + 1, Answers: w.it.Answers, SQL: sql})
}

func (w *writer) spread(ch change.SetSpread) {
	action := "ALTER DISTSTYLE " + strings.ToUpper(ch.To.Style)
	if ch.To.Style == "key" {
		action = "ALTER DISTSTYLE KEY DISTKEY " + ident(ch.To.Column)
	}
	s := w.step(ch.Title(), "readers go on; writers wait while the rows are moved over the slices", engine.BlocksAtWork, "ALTER TABLE "+relation(ch.Table)+" "+action)
	if t := w.now.Table(ch.Table); ch.To.Style == "all" && t.Stats.Bytes != nil {
		s.Notes = append(s.Notes, fmt.Sprintf("it takes about %s on each of %s", phrase.Size(*t.Stats.Bytes), phrase.Plural(int64(w.now.Nodes()), "node")))
	} else {
		s.Notes = append(s.Notes, "room for a second copy of the table is needed until the step ends")
	}
}

func (w *writer) sort(ch change.SetSortKey) {
	if ch.To != nil && ch.To.Interleaved {
		w.copyAndSwap(ch)
		return
	}
	action := "ALTER SORTKEY NONE"
	if ch.To != nil {
		action = "ALTER COMPOUND SORTKEY (" + idents(ch.To.Columns) + ")"
	}
	s := w.step(ch.Title(), "readers go on; writers wait while the rows are sorted", engine.BlocksAtWork, "ALTER TABLE "+relation(ch.Table)+" "+action)
	s.Notes = append(s.Notes, "room for a second copy of the table is needed until the step ends")
}

// copyAndSwap makes a table that cannot be altered in place anew beside the old one and
// lets it take its name, in one transaction.
func (w *writer) copyAndSwap(ch change.SetSortKey) {
	t := w.now.Table(ch.Table).Clone()
	t.SortKey = ch.To
	t.Name = catalog.NewNames(w.now, 127).Free(t.Schema, "new", "nexdal", ch.Table.Table)
	old := catalog.NewNames(w.now, 127).Free(t.Schema, "old", "nexdal", ch.Table.Table)
	var columns []string
	for _, c := range t.Columns {
		columns = append(columns, c.Name)
	}
	sql := []string{"LOCK " + relation(ch.Table), tableText(t)}
	sql = append(sql, fmt.Sprintf("INSERT INTO %s (%s) SELECT %[2]s FROM %s", relation(t.Ref()), idents(columns), relation(ch.Table)),
		fmt.Sprintf("ALTER TABLE %s RENAME TO %s", relation(ch.Table), ident(old)),
		fmt.Sprintf("ALTER TABLE %s RENAME TO %s", relation(t.Ref()), ident(ch.Table.Table)),
		fmt.Sprintf("DROP TABLE %s", relation(catalog.Ref{Schema: t.Schema, Table: old})))
	sql = append(sql, constraints(w.now.Table(ch.Table), false)...)
	for _, r := range w.now.Lookup().Referrers(ch.Table) {
		sql = append([]string{sql[0], fmt.Sprintf("ALTER TABLE %s DROP CONSTRAINT %s", relation(r.Table.Ref()), ident(r.ForeignKey.Name))}, sql[1:]...)
		sql = append(sql, reference(r.Table, r.ForeignKey))
	}
	s := w.step(ch.Title(), "writers wait while the table is copied; readers for a moment at the end", engine.BlocksAtWork, sql...)
	need := "room for a second copy of the table is needed"
	if b := w.now.Table(ch.Table).Stats.Bytes; b != nil {
		need = phrase.Size(*b) + " more are needed"
	}
	s.Notes = append(s.Notes, need+" until the step ends; it cannot be altered so in place", "grants on the table have to be given again; views on it have to be made again unless they bind late")
}

// tend: VACUUM cannot run within a transaction
// (https://docs.aws.amazon.com/redshift/latest/dg/r_VACUUM_command.html).
func (w *writer) tend(ch change.Maintain) {
	sql, lock := "ANALYZE "+relation(ch.Table), "readers and writers go on"
	switch ch.What {
	case change.SortRows:
		sql, lock = "VACUUM SORT ONLY "+relation(ch.Table)+" TO 100 PERCENT", "readers go on; writers wait at times"
	case change.ReclaimSpace:
		sql, lock = "VACUUM DELETE ONLY "+relation(ch.Table)+" TO 100 PERCENT", "readers go on; writers wait at times"
	}
	s := w.step(ch.Title(), lock, engine.BlocksNobody, sql)
	s.Transaction = ch.What == change.Analyze
	if ch.What != change.Analyze {
		s.Notes = append(s.Notes, "only one VACUUM runs in a cluster at a time")
	}
}
