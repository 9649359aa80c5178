package redshift

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/text"
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

// dialect is how Redshift writes what all engines have.
var dialect = &ddl.Dialect{Title: "Redshift", Quoting: quoting, Relation: relation, Literal: literal, Begin: "BEGIN", Works: "; rewrites %s"}

type writer struct{ *ddl.Writer }

// Write turns the plan into steps
// (https://docs.aws.amazon.com/redshift/latest/dg/r_ALTER_TABLE.html).
func (e Engine) Write(from, to *catalog.Catalog, plan change.Plan) (*engine.Work, error) {
	w := &writer{ddl.New(dialect, e, from, to, plan, &engine.Work{Client: []string{`\set ON_ERROR_STOP on`}})}
	err := w.Each(w.change)
	return w.Work, err
}

// change writes one change.
func (w *writer) change(_ int, ch change.Change) (int, error) {
	switch ch := ch.(type) {
	case change.SetSpread:
		w.spread(ch)
	case change.SetSortKey:
		w.sort(ch)
	case change.SetEncoding:
		var actions []string
		for k, name := range ch.Columns {
			actions = append(actions, fmt.Sprintf("ALTER COLUMN %s ENCODE %s", ident(name), ch.To[k]))
		}
		w.works(ch.Title(), "the table is rewritten beside those who read it; writers wait at the end", dialect.Alter(ch.Table, actions...))
	case change.Maintain:
		w.maintain(ch)
	case change.AddKey:
		w.AskRepeats(ch.Table, ch.Key.Columns)
		w.informational(ch.Title(), addKey(ch.Table, ch.Primary, ch.Key))
	case change.ReplaceKey:
		w.informational(ch.Title(), dialect.Alter(ch.Table, "DROP CONSTRAINT "+ident(ch.From.Key.Name)), addKey(ch.Table, ch.To.Primary, ch.To.Key))
	case change.DropKey:
		w.informational(ch.Title(), dialect.Alter(ch.Table, "DROP CONSTRAINT "+ident(ch.Name)))
	case change.AddForeignKey:
		f := ch.ForeignKey
		w.AskOrphans(ch.Table, f)
		w.informational(ch.Title(), dialect.Alter(ch.Table, fmt.Sprintf("ADD CONSTRAINT %s FOREIGN KEY (%s) REFERENCES %s (%s)", ident(f.Name), idents(f.Columns), relation(f.Target), idents(f.TargetColumns))))
	case change.DropForeignKey:
		w.informational(ch.Title(), dialect.Alter(ch.Table, "DROP CONSTRAINT "+ident(ch.ForeignKey.Name)))
	default:
		return 0, nil
	}
	return 1, nil
}

func addKey(on catalog.Ref, primary bool, k *catalog.Key) string {
	kind := "UNIQUE"
	if primary {
		kind = "PRIMARY KEY"
	}
	return dialect.Alter(on, fmt.Sprintf("ADD CONSTRAINT %s %s (%s)", ident(k.Name), kind, idents(k.Columns)))
}

// works adds a step that writes the whole table.
func (w *writer) works(title, lock string, sql ...string) *engine.Step {
	return w.Step(title, w.Sized(ddl.Takes(lock, engine.BlocksAtWork), w.Item.Change.On()), sql...)
}

func (w *writer) informational(title string, sql ...string) {
	s := w.Step(title, ddl.Takes("the table for a moment", engine.BlocksBriefly), sql...)
	s.Notes = append(s.Notes, "it is not enforced: the planner believes it, and a row that breaks it makes wrong answers")
}

func (w *writer) spread(ch change.SetSpread) {
	action := "ALTER DISTSTYLE " + strings.ToUpper(ch.To.Style)
	if ch.To.Style == "key" {
		action = "ALTER DISTSTYLE KEY DISTKEY " + ident(ch.To.Column)
	}
	s := w.works(ch.Title(), "readers go on; writers wait while the rows are moved over the slices", "ALTER TABLE "+relation(ch.Table)+" "+action)
	if t := w.Now.Table(ch.Table); ch.To.Style == "all" && t.Stats.Bytes != nil {
		s.Notes = append(s.Notes, fmt.Sprintf("it takes about %s on each of %s", text.Size(*t.Stats.Bytes), text.Plural(int64(w.Now.Nodes()), "node")))
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
	s := w.works(ch.Title(), "readers go on; writers wait while the rows are sorted", "ALTER TABLE "+relation(ch.Table)+" "+action)
	s.Notes = append(s.Notes, "room for a second copy of the table is needed until the step ends")
}

// copyAndSwap builds a table that cannot be altered in place beside the old one and
// lets it take its name, in one transaction.
func (w *writer) copyAndSwap(ch change.SetSortKey) {
	t := w.Now.Table(ch.Table).Clone()
	t.SortKey = ch.To
	t.Name = catalog.NewNames(w.Now, 127).Free(t.Schema, "new", "nexdal", ch.Table.Table)
	old := catalog.NewNames(w.Now, 127).Free(t.Schema, "old", "nexdal", ch.Table.Table)
	var columns []string
	for _, c := range t.Columns {
		columns = append(columns, c.Name)
	}
	sql := []string{"LOCK " + relation(ch.Table), tableText(t)}
	sql = append(sql, fmt.Sprintf("INSERT INTO %s (%s) SELECT %[2]s FROM %s", relation(t.Ref()), idents(columns), relation(ch.Table)),
		fmt.Sprintf("ALTER TABLE %s RENAME TO %s", relation(ch.Table), ident(old)),
		fmt.Sprintf("ALTER TABLE %s RENAME TO %s", relation(t.Ref()), ident(ch.Table.Table)),
		fmt.Sprintf("DROP TABLE %s", relation(catalog.Ref{Schema: t.Schema, Table: old})))
	sql = append(sql, constraints(w.Now.Table(ch.Table), false)...)
	for _, r := range w.Now.Lookup().Referrers(ch.Table) {
		sql = append([]string{sql[0], fmt.Sprintf("ALTER TABLE %s DROP CONSTRAINT %s", relation(r.Table.Ref()), ident(r.ForeignKey.Name))}, sql[1:]...)
		sql = append(sql, reference(r.Table, r.ForeignKey))
	}
	s := w.works(ch.Title(), "writers wait while the table is copied; readers for a moment at the end", sql...)
	need := "room for a second copy of the table is needed"
	if b := w.Now.Table(ch.Table).Stats.Bytes; b != nil {
		need = text.Size(*b) + " more are needed"
	}
	s.Notes = append(s.Notes, need+" until the step ends; it cannot be altered so in place", "grants on the table have to be given again; views on it have to be made again unless they bind late")
}

// maintain: VACUUM cannot run within a transaction
// (https://docs.aws.amazon.com/redshift/latest/dg/r_VACUUM_command.html).
func (w *writer) maintain(ch change.Maintain) {
	sql, lock := "ANALYZE "+relation(ch.Table), "readers and writers go on"
	switch ch.What {
	case change.SortRows:
		sql, lock = "VACUUM SORT ONLY "+relation(ch.Table)+" TO 100 PERCENT", "readers go on; writers wait at times"
	case change.ReclaimSpace:
		sql, lock = "VACUUM DELETE ONLY "+relation(ch.Table)+" TO 100 PERCENT", "readers go on; writers wait at times"
	}
	s := w.Step(ch.Title(), ddl.Takes(lock, engine.BlocksNobody), sql)
	s.Transaction = ch.What == change.Analyze
	if ch.What != change.Analyze {
		s.Notes = append(s.Notes, "only one VACUUM runs in a cluster at a time")
	}
}
