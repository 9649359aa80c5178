package write

import (
	"fmt"
	"reflect"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/postgres/traits"
)

func (w *writer) addKey(ch change.AddKey) {
	kind := "UNIQUE"
	if ch.Primary {
		kind = "PRIMARY KEY"
	}
	if ch.Key.WithoutOverlaps {
		w.addOverlaps(ch, kind)
		return
	}
	if ch.Key.NullsNotDistinct { // a null is a value like others
		w.AskRepeatsBy(ch.Table, traits.Idents(ch.Key.Columns), "")
	} else {
		w.AskRepeats(ch.Table, ch.Key.Columns)
	}
	if t := w.Now.Table(ch.Table); t != nil && t.Kind == catalog.Partitioned {
		w.Step(ch.Title(), w.Sized(lockBuild, ch.Table),
			dialect.Alter(ch.Table, fmt.Sprintf("ADD CONSTRAINT %s %s (%s)", traits.Ident(ch.Key.Name), kind, traits.Idents(ch.Key.Columns))))
		return
	}
	x := ch.Index()
	x.Name, x.Definition = ch.Key.Name, ""
	w.buildIndex(ch.Title()+": build its index", ch.Table, x)
	w.Step(ch.Title(), lockExclusive, append(w.usingIndex(ch.Table, ch.Key, ch.Primary), pinned(ch.Table, x)...)...)
}

// addOverlaps adds a key whose last column is a range. No index can be built beforehand for
// it (https://www.postgresql.org/docs/current/sql-altertable.html, "USING INDEX").
func (w *writer) addOverlaps(ch change.AddKey, kind string) {
	n := len(ch.Key.Columns) - 1
	span := traits.Ident(ch.Key.Columns[n])
	alike := traits.Quoting.Refers(ch.Key.Columns[:n], ch.Key.Columns[:n])
	if n == 0 {
		alike = "true"
	}
	w.Ask(fmt.Sprintf("rows of %s alike in %s that overlap in %s", ch.Table, strings.Join(ch.Key.Columns[:n], ", "), ch.Key.Columns[n]),
		fmt.Sprintf("SELECT c.*\n  FROM %[1]s c JOIN %[1]s p ON %[2]s AND c.%[3]s && p.%[3]s AND c.ctid < p.ctid LIMIT %[4]d", traits.Relation(ch.Table), alike, span, ddl.ShownRows))
	w.AskRows(fmt.Sprintf("rows of %s with an empty range in %s", ch.Table, ch.Key.Columns[n]), ch.Table, "isempty("+span+")")
	x := ch.Index()
	clause := fmt.Sprintf("ADD CONSTRAINT %s %s (%s)%s", traits.Ident(ch.Key.Name), kind, keyColumns(ch.Key), besides(x))
	clause += ddl.Timing(ch.Key.Deferrable, ch.Key.Deferred)
	sql := append([]string{dialect.Alter(ch.Table, clause)}, pinned(ch.Table, x)...)
	if ch.Key.Comment != "" {
		sql = append(sql, fmt.Sprintf("COMMENT ON CONSTRAINT %s ON %s IS %s", traits.Ident(ch.Key.Name), traits.Relation(ch.Table), traits.Literal(ch.Key.Comment)))
	}
	if x.Comment != "" {
		sql = append(sql, fmt.Sprintf("COMMENT ON INDEX %s IS %s", traits.Qualified(ch.Table.Schema, ch.Key.Name), traits.Literal(x.Comment)))
	}
	w.Step(ch.Title(), w.Sized(lockIndexed, ch.Table), sql...)
}

// behind is the plain index that a key stands on.
func behind(k *catalog.Key) *catalog.Index { return change.AddKey{Key: k}.Index() }

// usingIndex turns the unique index of the key's name into the key.
func (w *writer) usingIndex(table catalog.Ref, k *catalog.Key, primary bool) []string {
	kind := "UNIQUE"
	if primary {
		kind = "PRIMARY KEY"
	}
	clause := fmt.Sprintf("ADD CONSTRAINT %s %s USING INDEX %s", traits.Ident(k.Name), kind, traits.Ident(k.Name))
	clause += ddl.Timing(k.Deferrable, k.Deferred)
	sql := []string{dialect.Alter(table, clause)}
	if k.Comment != "" {
		sql = append(sql, fmt.Sprintf("COMMENT ON CONSTRAINT %s ON %s IS %s", traits.Ident(k.Name), traits.Relation(table), traits.Literal(k.Comment)))
	}
	return sql
}

// replaceKey keeps the columns unique throughout: a plain unique index becomes
// the key in place; otherwise the new index is built beside the old one, and
// the two change places in one transaction, with the foreign keys that lean on
// the old one re-created.
func (w *writer) replaceKey(ch change.ReplaceKey) {
	if ch.From.Index != nil && ch.To.Key != nil {
		k := ch.To.Key
		kind := "UNIQUE"
		if ch.To.Primary {
			kind = "PRIMARY KEY"
		}
		s := w.Step(ch.Title(), lockExclusive, dialect.Alter(ch.Table, fmt.Sprintf("ADD CONSTRAINT %s %s USING INDEX %s", traits.Ident(k.Name), kind, traits.Ident(ch.From.Index.Name))))
		s.Notes = append(s.Notes, fmt.Sprintf("the index %s is called %s from then on", ch.From.Index.Name, k.Name))
		return
	}
	if ch.To.Key != nil && ch.To.Key.NullsNotDistinct && !ch.From.Key.NullsNotDistinct {
		w.Ask(fmt.Sprintf("values of %s (%s), a null counted as one, that occur more than once", ch.Table, strings.Join(ch.To.Key.Columns, ", ")),
			fmt.Sprintf("SELECT %[1]s, count(*) AS times\n  FROM %[2]s\n  GROUP BY %[1]s HAVING count(*) > 1 LIMIT %[3]d", traits.Idents(ch.To.Key.Columns), traits.Relation(ch.Table), ddl.ShownRows))
	}
	var old *catalog.Index
	if t := w.Now.Table(ch.Table); ch.From.Key != nil && t != nil {
		old = t.Index(ch.From.Key.Index)
	}
	next := ch.Index(old)
	if ch.To.Key != nil {
		next = next.Clone()
		next.Name, next.Definition = ch.To.Key.Name, ""
	}
	final := next
	var named []string // where the two cannot be there side by side under one name
	if ch.From.Key != nil && ch.To.Name() == ch.From.Name() {
		beside := *next
		beside.Name, beside.Definition = catalog.NewNames(w.Now, 63).Free(ch.Table.Schema, "idx", "nexdal", next.Name), ""
		named = []string{fmt.Sprintf("ALTER INDEX %s RENAME TO %s", traits.Qualified(ch.Table.Schema, beside.Name), traits.Ident(next.Name))}
		next = &beside
	}
	w.buildIndex(ch.Title()+": build the index", ch.Table, next)
	lean := w.leaning(ch.Table, ch.From.Name())
	sql := append(append(lean.drop, dialect.Alter(ch.Table, "DROP CONSTRAINT "+traits.Ident(ch.From.Name()))), named...)
	if ch.To.Key != nil {
		sql = append(sql, w.usingIndex(ch.Table, ch.To.Key, ch.To.Primary)...)
		sql = append(sql, pinned(ch.Table, final)...)
	}
	l := lockExclusive
	if len(lean.tables) > 0 {
		l = lockTied
	}
	s := w.Step(ch.Title(), l, append(sql, lean.again...)...)
	s.Tables = append(s.Tables, lean.tables...)
	lean.check(w)
}

// declare writes a foreign key so that its rows are checked afterwards, under
// a weak lock; on a partitioned table, which takes no unchecked ones before
// version 18, they are checked at once.
func (w *writer) declare(table catalog.Ref, f *catalog.ForeignKey) (now, later []string) {
	clause := foreignKey(f)
	t := w.Now.Table(table)
	switch {
	case f.NotEnforced:
		clause += " NOT ENFORCED"
	case t == nil || t.Kind != catalog.Partitioned || traits.AtLeast(w.From.Engine.Version, 18):
		clause += " NOT VALID"
		if !f.NotValidated && !f.Disabled {
			later = append(later, dialect.Alter(table, "VALIDATE CONSTRAINT "+traits.Ident(f.Name)))
		}
	}
	now = append(now, dialect.Alter(table, "ADD "+clause))
	if f.Comment != "" {
		now = append(now, fmt.Sprintf("COMMENT ON CONSTRAINT %s ON %s IS %s", traits.Ident(f.Name), traits.Relation(table), traits.Literal(f.Comment)))
	}
	if f.Disabled {
		if !f.NotValidated {
			now = append(now, dialect.Alter(table, "VALIDATE CONSTRAINT "+traits.Ident(f.Name)))
		}
		now = append(now, switchOff(table, f))
	}
	return now, later
}

// keyColumns are the columns of a key as they stand in its clause
// (https://www.postgresql.org/docs/current/sql-createtable.html, "WITHOUT OVERLAPS").
func keyColumns(k *catalog.Key) string {
	if k.WithoutOverlaps {
		return traits.Idents(k.Columns) + " WITHOUT OVERLAPS"
	}
	return traits.Idents(k.Columns)
}

// period are the columns of one side of a foreign key; the last is a range where it is one
// by ranges.
func period(f *catalog.ForeignKey, columns []string) string {
	if n := len(columns) - 1; f.Period && n > 0 {
		return traits.Idents(columns[:n]) + ", PERIOD " + traits.Ident(columns[n])
	}
	return traits.Idents(columns)
}

func foreignKey(f *catalog.ForeignKey) string {
	s := fmt.Sprintf("%sFOREIGN KEY (%s) REFERENCES %s (%s)", constraint(f.Name), period(f, f.Columns), traits.Relation(f.Target), period(f, f.TargetColumns))
	if f.Match != "" {
		s += " MATCH " + strings.ToUpper(f.Match)
	}
	if f.OnUpdate != catalog.NoAction {
		s += " ON UPDATE " + strings.ToUpper(string(f.OnUpdate))
	}
	if f.OnDelete != catalog.NoAction {
		s += " ON DELETE " + strings.ToUpper(string(f.OnDelete))
		if len(f.SetColumns) > 0 {
			s += " (" + traits.Idents(f.SetColumns) + ")"
		}
	}
	return s + ddl.Timing(f.Deferrable, f.Deferred)
}

func (w *writer) alterForeignKey(ch change.AlterForeignKey) {
	if rest := ch.New.Clone(); ch.New.Deferrable != ch.Old.Deferrable {
		rest.Deferrable, rest.Deferred = ch.Old.Deferrable, ch.Old.Deferred
		if reflect.DeepEqual(rest, ch.Old) { // nothing else changes, and no row has to be looked at
			how := "NOT DEFERRABLE"
			if ch.New.Deferrable {
				how = "DEFERRABLE INITIALLY " + map[bool]string{true: "DEFERRED", false: "IMMEDIATE"}[ch.New.Deferred]
			}
			w.Step(ch.Title(), lockExclusive, dialect.Alter(ch.Table, "ALTER CONSTRAINT "+traits.Ident(ch.Old.Name)+" "+how))
			return
		}
	}
	if ch.Old.Disabled || ch.Old.NotValidated && !ch.New.NotValidated {
		w.AskOrphans(ch.Table, ch.New)
	}
	now, later := w.declare(ch.Table, ch.New)
	w.Step(ch.Title(), lockReference, append([]string{dialect.Alter(ch.Table, "DROP CONSTRAINT "+traits.Ident(ch.Old.Name))}, now...)...)
	for _, v := range later {
		w.Step(ch.Title()+": check the rows", w.Sized(lockNone, ch.Table), v).Passing = true
	}
}

// addForeignKey declares first and checks the rows afterwards, under a weak
// lock.
func (w *writer) addForeignKey(ch change.AddForeignKey) {
	if !ch.Unchecked && !ch.ForeignKey.NotValidated {
		w.AskOrphans(ch.Table, ch.ForeignKey)
	}
	f := ch.ForeignKey.Clone()
	f.NotValidated = f.NotValidated || ch.Unchecked
	now, later := w.declare(ch.Table, f)
	if later == nil {
		w.Step(ch.Title(), lockShared, now...)
		return
	}
	w.validated(ch.Title(), lockShared, ch.Table, traits.Ident(f.Name), now)
}
