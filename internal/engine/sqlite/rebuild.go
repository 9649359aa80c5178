package sqlite

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlite/ddltext"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/text"
)

// rebuild writes the step that rebuilds the table with all of its changes,
// by the procedure of https://www.sqlite.org/lang_altertable.html section 8.
// Guards within the transaction turn what the engine would let pass (rows not
// copied, references broken) into errors, so that it is rolled back.
func (w *writer) rebuild(on catalog.Ref, rekeyed map[catalog.Ref]bool) error {
	from, to := w.Now, w.To
	old, new := from.Table(on), to.Table(on)
	if old == nil || new == nil {
		return fmt.Errorf("the table is not there")
	}
	step := rebuilding(old)
	var titles []string
	var onIt []change.Change
	var guards []string
	var twice []string // counts the rows without a parent that are so twice from now on
	for i, it := range w.Plan {
		if _, late := it.Change.(change.BackfillColumn); late || it.Change.On() != on {
			continue
		}
		if titles == nil {
			w.Place(i)
		} else {
			w.With(i)
		}
		titles = append(titles, it.Change.Title())
		if onTable(it.Change) {
			onIt = append(onIt, it.Change)
		}
		w.ask(old, it.Change)
		switch ch := it.Change.(type) {
		case change.AlterType:
			if where := altered(ch); where != "" {
				guards = append(guards, fmt.Sprintf("NOT EXISTS (SELECT 1 FROM %s WHERE %s)", ddltext.Ident(on.Table), where))
			}
		case change.AddForeignKey:
			f := ch.ForeignKey
			if !old.HasColumns(f.Columns) || from.Table(f.Target) == nil {
				continue // no row has a value there yet, or there is nothing to refer to
			}
			rows := fmt.Sprintf("FROM %s c WHERE %s", ddltext.Ident(on.Table), ddltext.Quoting.Without(f.Columns, ddltext.Ident(f.Target.Table), f.TargetColumns))
			if ch.Beside(old) {
				twice = append(twice, "(SELECT count(*) "+rows+")")
			} else {
				guards = append(guards, "NOT EXISTS (SELECT 1 "+rows+")")
			}
		case change.AddColumn, change.AddSurrogateKey:
			step.Notes = append(step.Notes, fmt.Sprintf("an INSERT into %s without a list of columns will fail from now on, and a view that selects * shows the column", on.Table))
		case change.DropColumn:
			step.Notes = append(step.Notes, fmt.Sprintf("the values of %s are lost", ch.Column))
		case change.Undo[change.AddSurrogateKey]:
			step.Notes = append(step.Notes, fmt.Sprintf("the values of %s are lost", ch.Of.Column.Name))
		}
	}
	step.Title = titles[0]
	if len(titles) > 1 {
		step.Title = fmt.Sprintf("rebuild %s: %s", on, strings.Join(titles, "; "))
	}
	definition, meant := new.Definition, new
	var err error
	if definition == "" {
		meant = old
		if definition, err = ddltext.Redefine(old, onIt); err != nil {
			if new.Has(ddltext.WithoutRowid) || (Engine{}).Dialect().Mentions(old.Definition, "CONFLICT") {
				return err // what the model does not know of
			}
			definition = strings.TrimPrefix(tableText(new), "CREATE TABLE "+ddltext.Ident(new.Name)+" ")
			step.Notes = append(step.Notes, fmt.Sprintf("the definition of %s is rewritten, without the comments in it", on.Table))
		}
	}
	if definition, err = spelled(definition, meant, rekeyed); err != nil {
		return err
	}
	step.SQL = rebuildSQL(from, to, old, new, definition, guards, twice)
	w.Add(step)
	return nil
}

// rebuilding is a step that rebuilds the table.
func rebuilding(t *catalog.Table) engine.Step {
	step := engine.Step{Tables: []catalog.Ref{t.Ref()}, Transaction: true,
		Blocks: engine.BlocksAtWork,
		Lock:   "the database is locked against writers while all rows of the table are copied; readers wait too, unless it is in WAL mode",
		Notes:  []string{"room for a second copy of the table is needed until the step ends"}}
	if b := t.Stats.Bytes; b != nil && *b > 0 {
		step.Notes[0] = fmt.Sprintf("%s are rewritten; so much more room is needed until the step ends", text.Size(*b))
	}
	return step
}

// rebuildSQL puts the table aside under another name, makes it again by its text, and
// copies the rows: so the engine keeps that very text, where it would write the name anew
// otherwise. With the old way of renaming, nothing else is written by it
// (https://www.sqlite.org/pragma.html#pragma_legacy_alter_table).
func rebuildSQL(from, to *catalog.Catalog, old, new *catalog.Table, definition string, guards, twice []string) []string {
	name, aside := ddltext.Ident(old.Name), ddltext.Ident(working+old.Name)
	sql := []string{
		"PRAGMA foreign_keys = OFF",
		"PRAGMA legacy_alter_table = ON",
		"BEGIN IMMEDIATE",
		`CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
)`,
	}
	orphans := orphansOf(from, to, old)
	if orphans != "" {
		sql = append(sql, "INSERT INTO nexdal_guard (orphans)\n  SELECT "+strings.Join(append([]string{orphans}, twice...), "\n  + "))
	}
	if len(guards) > 0 {
		sql = append(sql, "INSERT INTO nexdal_guard (kept)\n  SELECT "+strings.Join(guards, "\n  AND "))
	}
	into, values := copied(old, new)
	sql = append(sql,
		fmt.Sprintf("ALTER TABLE %s RENAME TO %s", name, aside),
		"CREATE TABLE "+header(new)+definition,
		fmt.Sprintf("INSERT INTO %s (%s)\n  SELECT %s\n  FROM %s", name, into, values, aside),
		fmt.Sprintf("INSERT INTO nexdal_guard (kept)\n  SELECT (SELECT count(*) FROM %s) = (SELECT count(*) FROM %s)", name, aside))
	if counted(old) {
		if counted(new) {
			sql = append(sql,
				fmt.Sprintf("DELETE FROM sqlite_sequence WHERE name = %s", ddltext.Literal(old.Name)),
				fmt.Sprintf("UPDATE sqlite_sequence SET name = %s WHERE name = %s", ddltext.Literal(old.Name), ddltext.Literal(working+old.Name)))
		} else {
			sql = append(sql, fmt.Sprintf("DELETE FROM sqlite_sequence WHERE name = %s", ddltext.Literal(working+old.Name)))
		}
	}
	sql = append(sql, "DROP TABLE "+aside)
	for _, x := range new.Indexes {
		if x.Origin == catalog.ByPerson {
			if was := old.Index(x.Name); was != nil && x.Definition == "" && alike(was, x) {
				x = was
			}
			sql = append(sql, createIndex(x, old.Name))
		}
	}
	for _, tr := range old.Triggers {
		sql = append(sql, tr.Definition)
	}
	if orphans != "" {
		sql = append(sql, fmt.Sprintf("INSERT INTO nexdal_guard (joined)\n  SELECT %s\n  <= (SELECT orphans FROM nexdal_guard WHERE orphans IS NOT NULL)", orphans))
	}
	return append(sql, "DROP TABLE temp.nexdal_guard", "COMMIT", "PRAGMA legacy_alter_table = OFF", "PRAGMA foreign_keys = ON")
}

// header is the name as the table's own text writes it, with what stands before the
// parenthesis.
func header(t *catalog.Table) string {
	plain := ddltext.Ident(t.Name) + " "
	if t.NameText == "" {
		return plain
	}
	written := ""
	(Engine{}).Dialect().Each(t.NameText, func(k sqllex.Token) bool {
		written = k.Name()
		return false
	})
	if written != t.Name {
		return plain // it has another name by now
	}
	return t.NameText
}

// copied lists what is carried over: every column that both tables have and
// that is not computed, and the rowid where rows are known by nothing else.
func copied(old, new *catalog.Table) (into, values string) {
	var names []string
	for _, c := range old.Columns {
		if n := new.Column(c.Name); n != nil && c.Generated == "" && n.Generated == "" {
			names = append(names, ddltext.Ident(c.Name))
		}
	}
	into, values = strings.Join(names, ", "), strings.Join(names, ", ")
	// Rows keep their numbers, since programs and full-text tables refer to
	// rows by them. A column that names the number is carried over already.
	source, target := rowNumber(old), rowNumber(new)
	if source == "" || target == "" || old.Column(numberedColumn(new)) != nil {
		return into, values
	}
	return target + ", " + into, source + ", " + values
}

// rowNumber is what the table calls its rows' numbers
// (https://www.sqlite.org/rowidtable.html), "" where nothing reaches them.
func rowNumber(t *catalog.Table) string {
	if t.Has(ddltext.WithoutRowid) {
		return ""
	}
	if name := numberedColumn(t); name != "" {
		return ddltext.Ident(name)
	}
	for _, name := range []string{"rowid", "_rowid_", "oid"} {
		if !slices.ContainsFunc(t.Columns, func(c *catalog.Column) bool { return strings.EqualFold(c.Name, name) }) {
			return name
		}
	}
	return ""
}

// numberedColumn is the column that names the rowid, "" where none does.
func numberedColumn(t *catalog.Table) string {
	for _, c := range t.Columns {
		if c.Identity == catalog.IdentityRowid || c.Identity == catalog.IdentityCounter {
			return c.Name
		}
	}
	return ""
}

// counted reports whether the engine remembers the last number given out
// (https://www.sqlite.org/autoinc.html).
func counted(t *catalog.Table) bool {
	return slices.ContainsFunc(t.Columns, func(c *catalog.Column) bool { return c.Identity == catalog.IdentityCounter })
}

// orphansOf counts rows without a parent, in the table and in those that refer
// to it; "" where there is nothing to count. Tables with a reference that
// leads to no key are left out: the engine refuses to check those.
func orphansOf(c, to *catalog.Catalog, t *catalog.Table) string {
	var tables []string
	lookup, end := c.Lookup(), to.Lookup()
	add := func(t *catalog.Table) {
		for _, f := range t.ForeignKeys {
			target, then := lookup.Table(f.Target), end.Table(f.Target)
			if then == nil || end.Table(t.Ref()) == nil || !keyed(then, f.TargetColumns) {
				return // goes itself, or leads to nothing then
			}
			if target == nil || len(f.Columns) != len(f.TargetColumns) || !keyed(target, f.TargetColumns) {
				return
			}
		}
		if q := fmt.Sprintf("(SELECT count(*) FROM pragma_foreign_key_check(%s))", ddltext.Literal(t.Name)); len(t.ForeignKeys) > 0 && !slices.Contains(tables, q) {
			tables = append(tables, q)
		}
	}
	add(t)
	for _, r := range lookup.Referrers(t.Ref()) {
		add(r.Table)
	}
	return strings.Join(tables, "\n  + ")
}

// keyed reports whether a reference to the columns finds a key.
func keyed(t *catalog.Table, columns []string) bool {
	if k := t.PrimaryKey; k != nil && catalog.SameColumns(k.Columns, columns) {
		return true
	}
	return slices.ContainsFunc(t.Indexes, func(x *catalog.Index) bool {
		return x.Unique && x.Predicate == "" && catalog.SameColumns(x.Columns(), columns) &&
			!slices.ContainsFunc(x.Parts, func(p catalog.IndexPart) bool { return p.Collation != "" })
	})
}

// alike reports whether the text of one index makes the other.
func alike(a, b *catalog.Index) bool {
	return a.Unique == b.Unique && a.Predicate == b.Predicate && slices.Equal(a.Parts, b.Parts)
}
