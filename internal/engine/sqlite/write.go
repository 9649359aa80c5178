package sqlite

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/sqlite/ddltext"
	"nexdal/internal/engine/sqllex"
)

// working is what the name of a table that is being rebuilt begins with until it is gone.
const working = "nexdal_old_"

// onTable reports whether the change alters the table itself, which takes a
// rebuild; indexes come and go by themselves.
func onTable(ch change.Change) bool {
	switch ch := ch.(type) {
	case change.CreateIndex, change.DropIndex, change.RebuildIndex, change.SetTrigger, change.ReplaceTrigger, change.BackfillColumn, change.Undo[change.BackfillColumn], change.Maintain, change.NoReversal:
		return false
	case change.Rename:
		return ch.Kind != change.RenameIndex
	}
	return true
}

// Refuses says why the change cannot be written, or "".
func (Engine) Refuses(c *catalog.Catalog, ch change.Change) string {
	switch ch.(type) {
	case change.SetSetting:
		return "SQLite keeps no such setting in the database"
	case change.CreateObjects, change.DropObjects, change.AddLookupTable, change.ReplaceView:
		return ""
	case change.SetComment, change.ReplaceRoutine, change.AlterSequence, change.CreateSequence, change.DropSequence:
		return "SQLite has no such thing"
	}
	switch ch := ch.(type) {
	case change.Maintain:
		if ch.What != change.Analyze && ch.What != change.RebuildIndexes {
			return "SQLite reclaims and sorts the whole file alone, with VACUUM"
		}
	case change.SetSpread, change.SetSortKey, change.SetEncoding, change.ValidateCheck, change.Undo[change.ValidateCheck], change.ValidateForeignKey, change.AdvanceSequence:
		return "SQLite has no such thing"
	case change.AlterForeignKey:
		if ch.Old.Deferrable && !ch.New.Deferrable {
			return "taking DEFERRABLE back is left to the text that was there before"
		}
	}
	if !onTable(ch) {
		return ""
	}
	t := c.Table(ch.On())
	switch {
	case t == nil:
		return fmt.Sprintf("table %s does not exist", ch.On())
	case t.Kind != catalog.Ordinary:
		return fmt.Sprintf("%s is a %s table", t.Name, t.Kind)
	case t.Definition == "":
		return fmt.Sprintf("the definition of %s was not understood, and rebuilding it could lose something", t.Name)
	case c.Table(catalog.Ref{Schema: t.Schema, Table: working + t.Name}) != nil:
		return fmt.Sprintf("a table %s is in the way", working+t.Name)
	}
	if a, ok := ch.(change.AlterType); ok {
		return refusesType(t, a)
	}
	if k, ok := ch.(change.AddKey); ok && k.Primary {
		if r := unspelled(c, k.Table); r != nil {
			return fmt.Sprintf("%s refers to %s without naming a column, and would refer to the new key: whether that is meant is up to you", r.Name, t.Name)
		}
	}
	if k, ok := ch.(change.DropKey); ok && k.Primary && (t.Has(ddltext.WithoutRowid) || ownOrder(t, k.Columns)) {
		return fmt.Sprintf("the primary key of %s is the order that its rows are kept in", t.Name)
	}
	if n, ok := ch.(change.AddSurrogateKey); ok && (t.Has(ddltext.WithoutRowid) || n.Column.Identity == catalog.IdentityCounter) {
		return fmt.Sprintf("%s keeps its rows in the order of its key, and numbers none", t.Name)
	}
	switch ch.(type) {
	case change.AddColumn, change.AddSurrogateKey:
		if name := insertsBlindly(c, t.Name); name != "" {
			return fmt.Sprintf("trigger %s inserts into %s without a list of columns, and would fail with one more", name, t.Name)
		}
	}
	if a, ok := ch.(change.AddColumn); ok && (a.Column.Identity == catalog.IdentityCounter || a.Column.Identity != catalog.NoIdentity && t.Has(ddltext.WithoutRowid)) {
		return fmt.Sprintf("a column that the engine numbers so is only made with its table: %s", a.Column.Name)
	}
	text, err := redefineOne(t, ch)
	if err != nil {
		return err.Error()
	}
	switch ch.(type) {
	case change.AddColumn, change.AddSurrogateKey:
		return widens(c, t, text)
	}
	return ""
}

// insertsBlindly is a trigger that inserts into the table without saying which columns.
func insertsBlindly(c *catalog.Catalog, table string) string {
	for m := range c.Modules() { // triggers alone, here
		if !strings.Contains(fold(m.Text), fold(table)) {
			continue // most of them: not worth their tokens
		}
		for _, in := range sqllex.Inserts(Engine{}.Dialect(), m.Text) {
			if !in.Listed && fold(in.Table.Name()) == fold(table) {
				return m.Name
			}
		}
	}
	return ""
}

func redefineOne(t *catalog.Table, ch change.Change) (string, error) {
	return ddltext.Redefine(t, []change.Change{ch})
}

func refusesType(t *catalog.Table, a change.AlterType) string {
	if t.Has(ddltext.Strict) && !strictType(a.To.Native) {
		return fmt.Sprintf("%s is STRICT and takes no column of type %q", t.Name, a.To.Native)
	}
	changed := t.Clone()
	changed.Column(a.Column).Type = a.To
	if k := t.PrimaryKey; k != nil && ownOrder(t, k.Columns) != ownOrder(changed, k.Columns) {
		return fmt.Sprintf("%s.%s is the primary key, and the new type would make it the rowid, or no longer", t.Name, a.Column)
	}
	return ""
}

// strictType: https://www.sqlite.org/stricttables.html section 2.
func strictType(native string) bool {
	switch strings.ToUpper(native) {
	case "INT", "INTEGER", "REAL", "TEXT", "BLOB", "ANY":
		return true
	}
	return false
}

// What most steps of the engine take: it has one lock for the database.
var (
	lockMoment = ddl.Takes("writers of the database wait for a moment", engine.BlocksBriefly)
	lockBuild  = ddl.Takes("writers of the database wait while the index is built; readers too, unless it is in WAL mode", engine.BlocksAtWork)
	lockRename = ddl.Takes("writers of the database wait while the index is built under its new name; readers too, unless it is in WAL mode", engine.BlocksAtWork)
	lockRows   = ddl.Takes("writers of the database wait while the rows are written; readers too, unless it is in WAL mode", engine.BlocksAtWork)
	lockRead   = ddl.Takes("writers of the database wait while the table is read", engine.BlocksAtWork)
)

// dialect is how SQLite writes what all engines have. Foreign keys are switched off
// outside of the transaction, within which the switch does nothing
// (https://www.sqlite.org/pragma.html#pragma_foreign_keys).
var dialect = &ddl.Dialect{
	Title: "SQLite", Quoting: ddltext.Quoting, Relation: Engine{}.Relation, Literal: ddltext.Literal, Begin: "BEGIN IMMEDIATE",
	Create:  func(_ *ddl.Writer, t *catalog.Table) []string { return []string{tableText(t)} },
	Drop:    dropObject,
	Outside: [2]string{"PRAGMA foreign_keys = OFF", "PRAGMA foreign_keys = ON"},
	Made:    lockMoment,
	Gone:    lockMoment,
}

type writer struct{ *ddl.Writer }

// Write turns the plan into steps: one rebuild for each table that must have
// one, then the indexes of the others.
func (e Engine) Write(from, to *catalog.Catalog, plan change.Plan) (*engine.Work, error) {
	w := &writer{ddl.New(dialect, e, from, to, plan, &engine.Work{Client: []string{".bail on"}})}
	rebuilt := map[catalog.Ref]bool{}
	for _, it := range plan {
		if on := it.Change.On(); on != (catalog.Ref{}) {
			rebuilt[on] = rebuilt[on] || onTable(it.Change)
		}
	}
	for i, it := range plan { // what others refer to comes first
		w.Place(i)
		switch ch := it.Change.(type) {
		case change.CreateObjects:
			w.createObjects(ch)
		case change.AddLookupTable:
			w.Common(ch)
		}
	}
	others := rekeyed(from, to, rebuilt)
	lookup := w.Now.Lookup()
	done := map[catalog.Ref]bool{}
	for _, on := range rebuildOrder(plan, rebuilt) {
		var err error
		if others[on] {
			err = w.spell(lookup, on, done)
		}
		if err == nil {
			err = w.rebuild(on, others)
		}
		if err != nil {
			return nil, &engine.TableError{Table: on, Err: err}
		}
		done[on] = true
	}
	if err := w.unspell(others); err != nil {
		return nil, err
	}
	for i, it := range plan {
		late := false
		switch it.Change.(type) {
		case change.BackfillColumn: // once the rows are where they belong
			late = true
		case change.ReplaceTrigger: // the rebuild leaves triggers as they are
			late = true
		}
		if rebuilt[it.Change.On()] && !late {
			continue
		}
		w.Place(i)
		if err := w.change(it.Change); err != nil {
			return nil, err
		}
	}
	return w.Work, nil
}

// change writes what needs no rebuild.
func (w *writer) change(ch change.Change) error {
	switch ch := ch.(type) {
	case change.CreateIndex:
		w.ask(nil, ch)
		w.Step(ch.Title(), lockBuild, createIndex(ch.Index, ch.Table.Table))
	case change.DropIndex:
		w.Step(ch.Title(), lockMoment, "DROP INDEX "+ddltext.Ident(ch.Name))
	case change.Rename:
		x := renamed(w.From, w.To, ch)
		if x == nil {
			return fmt.Errorf("index %s of %s is not there to be renamed", ch.From, ch.Table)
		}
		w.Step(ch.Title(), lockRename, "DROP INDEX "+ddltext.Ident(ch.From), createIndex(x, ch.Table.Table))
	case change.BackfillColumn:
		s := w.Step(ch.Title(), lockRows, fmt.Sprintf("UPDATE %s AS c\n  SET %s = (SELECT p.%s FROM %s AS p WHERE %s)\n  WHERE c.%s IS NULL", ddltext.Ident(ch.Table.Table), ddltext.Ident(ch.Column), ddltext.Ident(ch.From),
			ddltext.Ident(ch.Via.Target.Table), ddltext.Quoting.Refers(ch.Via.Columns, ch.Via.TargetColumns), ddltext.Ident(ch.Column)))
		s.Notes = append(s.Notes, "triggers on update run for every row")
	case change.Maintain:
		w.Step(ch.Title(), lockRead, map[change.Maintenance]string{change.Analyze: "ANALYZE ", change.RebuildIndexes: "REINDEX "}[ch.What]+ddltext.Ident(ch.Table.Table))
	case change.SetTrigger:
		sql := ch.Trigger.Definition
		if ch.Off {
			sql = "DROP TRIGGER " + ddltext.Ident(ch.Trigger.Name)
		}
		w.Step(ch.Title(), lockMoment, sql)
	case change.ReplaceView:
		sql := []string{"DROP VIEW " + ddltext.Ident(ch.Old.Name), ch.New.Definition}
		for _, g := range ch.New.Triggers {
			sql = append(sql, g.Definition)
		}
		w.Step(ch.Title(), lockMoment, sql...)
	case change.ReplaceTrigger:
		var sql []string
		if ch.Old != nil {
			sql = append(sql, "DROP TRIGGER "+ddltext.Ident(ch.Old.Name))
		}
		if ch.New != nil {
			sql = append(sql, ch.New.Definition)
		}
		w.Step(ch.Title(), lockMoment, sql...)
	case change.RebuildIndex:
		w.Step(ch.Title(), lockBuild, "REINDEX "+ddltext.Ident(ch.Name))
	case change.CreateObjects, change.AddLookupTable: // are made before
	default:
		if !w.Common(ch) {
			return fmt.Errorf("%s cannot be written for %s", ch.Title(), w.Title)
		}
	}
	return nil
}

// rebuildOrder lists the tables to rebuild as the plan comes to them, except for those
// that a new foreign key refers to: they go first, so that it finds their keys.
func rebuildOrder(plan change.Plan, rebuilt map[catalog.Ref]bool) []catalog.Ref {
	var order []catalog.Ref
	targets := map[catalog.Ref][]catalog.Ref{}
	for _, it := range plan {
		if f, ok := it.Change.(change.AddForeignKey); ok {
			targets[f.Table] = append(targets[f.Table], f.ForeignKey.Target)
		}
	}
	done := map[catalog.Ref]bool{}
	var put func(on catalog.Ref)
	put = func(on catalog.Ref) {
		if !rebuilt[on] || done[on] {
			return
		}
		done[on] = true
		for _, t := range targets[on] {
			put(t)
		}
		order = append(order, on)
	}
	for _, it := range plan {
		put(it.Change.On())
	}
	return order
}

// renamed is the index under its new name: by the text that it ends with, where
// there is one (a reversal leads back to it), otherwise as it was.
func renamed(from, to *catalog.Catalog, ch change.Rename) *catalog.Index {
	if x := to.Table(ch.Table).Index(ch.To); x != nil && x.Definition != "" {
		return x
	}
	for _, t := range []*catalog.Table{from.Table(ch.Table), to.Table(ch.Table)} {
		for _, name := range []string{ch.From, ch.To} {
			if x := t.Index(name); x != nil {
				again := *x
				again.Name, again.Definition = ch.To, ""
				return &again
			}
		}
	}
	return nil
}

// createIndex writes the statement; an index that was there before is made by
// its own text.
func createIndex(x *catalog.Index, table string) string {
	if x.Definition != "" {
		return x.Definition
	}
	parts := make([]string, len(x.Parts))
	for i, p := range x.Parts {
		parts[i] = p.Expression
		if p.Column != "" {
			parts[i] = ddltext.Ident(p.Column)
		}
		if p.Collation != "" {
			parts[i] += " COLLATE " + ddltext.Collation(p.Collation)
		}
		if p.Descending {
			parts[i] += " DESC"
		}
	}
	unique := ""
	if x.Unique {
		unique = "UNIQUE "
	}
	text := fmt.Sprintf("CREATE %sINDEX %s ON %s (%s)", unique, ddltext.Ident(x.Name), ddltext.Ident(table), strings.Join(parts, ", "))
	if x.Predicate != "" {
		text += " WHERE " + x.Predicate
	}
	return text
}
