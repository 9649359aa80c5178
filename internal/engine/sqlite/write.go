package sqlite

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
)

// working is what the name of a table being rebuilt begins with.
const working = "nexdal_new_"

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
	case change.SetSpread, change.SetSortKey, change.SetEncoding, change.ValidateCheck, change.Undo[change.ValidateCheck], change.ValidateForeignKey, change.SetCycle, change.SetRange, change.OwnSequence, change.AdvanceSequence:
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
			return fmt.Sprintf("%s refers to %s without naming a column, and would refer to the new key: whether that is meant is for a person to say", r.Name, t.Name)
		}
	}
	if k, ok := ch.(change.DropKey); ok && k.Primary && (t.Has(withoutRowid) || ownOrder(t, k.Columns)) {
		return fmt.Sprintf("the primary key of %s is the order that its rows are kept in", t.Name)
	}
	if n, ok := ch.(change.AddSurrogateKey); ok && (t.Has(withoutRowid) || n.Column.Identity == catalog.IdentityCounter) {
		return fmt.Sprintf("%s keeps its rows in the order of its key, and numbers none", t.Name)
	}
	if a, ok := ch.(change.AddColumn); ok && (a.Column.Identity == catalog.IdentityCounter || a.Column.Identity != catalog.NoIdentity && t.Has(withoutRowid)) {
		return fmt.Sprintf("a column that the engine numbers so is only made with its table: %s", a.Column.Name)
	}
	if _, err := redefineOne(t, ch); err != nil {
		return err.Error()
	}
	return ""
}

func redefineOne(t *catalog.Table, ch change.Change) (string, error) {
	return redefine(t, []change.Change{ch})
}

func refusesType(t *catalog.Table, a change.AlterType) string {
	if t.Has(strict) && !strictType(a.To.Native) {
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

// Write turns the plan into steps: one rebuild for each table that must have
// one, then the indexes of the others.
func (e Engine) Write(from, to *catalog.Catalog, plan change.Plan) (*engine.Work, error) {
	w := &engine.Work{Client: []string{".bail on"}}
	rebuilt := map[catalog.Ref]bool{}
	for _, it := range plan {
		if on := it.Change.On(); on != (catalog.Ref{}) {
			rebuilt[on] = rebuilt[on] || onTable(it.Change)
		}
	}
	for i, it := range plan {
		if ch, ok := it.Change.(change.CreateObjects); ok {
			e.build(w, i, it, ch)
		}
		if ch, ok := it.Change.(change.AddLookupTable); ok {
			addLookup(w, i, it, ch)
		}
	}
	others := rekeyed(from, to, rebuilt)
	var lookup *catalog.Lookup
	if len(others) > 0 {
		from = from.Clone() // whose texts change on the way
		lookup = from.Lookup()
	}
	done := map[catalog.Ref]bool{}
	for _, on := range rebuildOrder(plan, rebuilt) {
		var err error
		if others[on] {
			err = e.spell(w, from, lookup, on, done, plan)
		}
		if err == nil {
			err = e.rebuild(w, from, to, on, plan, others)
		}
		if err != nil {
			return nil, &engine.TableError{Table: on, Err: err}
		}
		done[on] = true
	}
	if err := e.unspell(w, to, others, plan); err != nil {
		return nil, err
	}
	for i, it := range plan {
		fill, late := it.Change.(change.BackfillColumn) // once the rows are where they belong
		if _, trigger := it.Change.(change.ReplaceTrigger); trigger {
			late = true // the rebuild leaves triggers as they are
		}
		if rebuilt[it.Change.On()] && !late {
			continue
		}
		step := engine.Step{Title: it.Change.Title(), Changes: []int{i}, Answers: it.Answers, Transaction: true}
		if on := it.Change.On(); on != (catalog.Ref{}) {
			step.Tables = []catalog.Ref{on}
		}
		switch ch := it.Change.(type) {
		case change.CreateIndex:
			step.SQL = []string{createIndex(ch.Index, ch.Table.Table)}
			step.Lock = "writers of the database wait while the index is built; readers too, unless it is in WAL mode"
			step.Blocks = engine.BlocksAtWork
			if q, ok := duplicates(ch); ok {
				q.Step, q.Answers = len(w.Steps)+1, it.Answers
				w.Preflight = append(w.Preflight, q)
			}
		case change.DropIndex:
			step.SQL = []string{"DROP INDEX " + ident(ch.Name)}
			step.Lock = "writers of the database wait for a moment"
			step.Blocks = engine.BlocksBriefly
		case change.Rename:
			x := renamed(from, to, ch)
			if x == nil {
				return nil, fmt.Errorf("index %s of %s is not there to be renamed", ch.From, ch.Table)
			}
			step.SQL = []string{"BEGIN IMMEDIATE", "DROP INDEX " + ident(ch.From), createIndex(x, ch.Table.Table), "COMMIT"}
			step.Lock = "writers of the database wait while the index is built under its new name; readers too, unless it is in WAL mode"
			step.Blocks = engine.BlocksAtWork
		case change.BackfillColumn:
			step.SQL = []string{fmt.Sprintf("UPDATE %s AS c\n  SET %s = (SELECT p.%s FROM %s AS p WHERE %s)\n  WHERE c.%s IS NULL", ident(fill.Table.Table), ident(fill.Column), ident(fill.From),
				ident(fill.Via.Target.Table), quoting.Refers(fill.Via.Columns, fill.Via.TargetColumns), ident(fill.Column))}
			step.Lock, step.Blocks = "writers of the database wait while the rows are written; readers too, unless it is in WAL mode", engine.BlocksAtWork
			step.Notes = append(step.Notes, "triggers on update run for every row")
		case change.Maintain:
			step.SQL = []string{map[change.Maintenance]string{change.Analyze: "ANALYZE ", change.RebuildIndexes: "REINDEX "}[ch.What] + ident(ch.Table.Table)}
			step.Lock, step.Blocks = "writers of the database wait while the table is read", engine.BlocksAtWork
		case change.SetTrigger:
			step.SQL = []string{ch.Trigger.Definition}
			if ch.Off {
				step.SQL = []string{"DROP TRIGGER " + ident(ch.Trigger.Name)}
			}
			step.Lock, step.Blocks = "writers of the database wait for a moment", engine.BlocksBriefly
		case change.ReplaceView:
			step.SQL = []string{"BEGIN IMMEDIATE", "DROP VIEW " + ident(ch.Old.Name), ch.New.Definition}
			for _, g := range ch.New.Triggers {
				step.SQL = append(step.SQL, g.Definition)
			}
			step.SQL = append(step.SQL, "COMMIT")
			step.Lock, step.Blocks = "writers of the database wait for a moment", engine.BlocksBriefly
		case change.ReplaceTrigger:
			step.SQL = []string{"BEGIN IMMEDIATE"}
			if ch.Old != nil {
				step.SQL = append(step.SQL, "DROP TRIGGER "+ident(ch.Old.Name))
			}
			if ch.New != nil {
				step.SQL = append(step.SQL, ch.New.Definition)
			}
			step.SQL = append(step.SQL, "COMMIT")
			step.Lock, step.Blocks = "writers of the database wait for a moment", engine.BlocksBriefly
		case change.RebuildIndex:
			step.SQL = []string{"REINDEX " + ident(ch.Name)}
			step.Lock = "writers of the database wait while the index is built; readers too, unless it is in WAL mode"
			step.Blocks = engine.BlocksAtWork
		case change.DropObjects:
			e.raze(w, &step, it, ch)
		case change.Undo[change.AddLookupTable]:
			dropLookup(w, &step, it, ch)
		case change.CreateObjects, change.AddLookupTable, change.Undo[change.BackfillColumn], change.NoReversal:
			continue
		}
		w.Steps = append(w.Steps, step)
	}
	return w, nil
}

// rebuildOrder lists the tables to rebuild as the plan comes to them, but for those
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
			parts[i] = ident(p.Column)
		}
		if p.Collation != "" {
			parts[i] += " COLLATE " + collation(p.Collation)
		}
		if p.Descending {
			parts[i] += " DESC"
		}
	}
	unique := ""
	if x.Unique {
		unique = "UNIQUE "
	}
	text := fmt.Sprintf("CREATE %sINDEX %s ON %s (%s)", unique, ident(x.Name), ident(table), strings.Join(parts, ", "))
	if x.Predicate != "" {
		text += " WHERE " + x.Predicate
	}
	return text
}
