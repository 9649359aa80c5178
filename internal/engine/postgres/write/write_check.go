package write

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/postgres/traits"
)

func checkClause(k *catalog.Check) string {
	s := constraint(k.Name) + "CHECK (" + stable(k.Expression) + ")"
	if k.NoInherit {
		s += " NO INHERIT"
	}
	return s
}

// unproven says what a constraint lacks that is not validated.
func unproven(notValidated, notEnforced bool) string {
	switch {
	case notEnforced:
		return " NOT ENFORCED"
	case notValidated:
		return " NOT VALID"
	}
	return ""
}

func commentOn(table catalog.Ref, k *catalog.Check) []string {
	if k.Comment == "" {
		return nil
	}
	return []string{fmt.Sprintf("COMMENT ON CONSTRAINT %s ON %s IS %s", traits.Ident(k.Name), traits.Relation(table), traits.Literal(k.Comment))}
}

// addCheck declares first and checks the rows afterwards, under a weak lock
// (https://www.postgresql.org/docs/current/sql-altertable.html, "NOT VALID").
func (w *writer) addCheck(ch change.AddCheck) {
	k := ch.Check
	if !k.NotValidated {
		w.AskBreaks(ch.Table, k, stable(k.Expression))
	}
	how := " NOT VALID"
	if k.NotEnforced {
		how = " NOT ENFORCED"
	}
	declare := append([]string{dialect.Alter(ch.Table, "ADD "+checkClause(k)+how)}, commentOn(ch.Table, k)...)
	if k.NotValidated {
		w.Step(ch.Title(), lockExclusive, declare...)
		return
	}
	w.validated(ch.Title(), lockExclusive, ch.Table, traits.Ident(k.Name), declare)
}

func (w *writer) validateCheck(ch change.ValidateCheck) {
	w.AskBreaks(ch.Table, ch.Check, stable(ch.Check.Expression))
	w.Step(ch.Title(), w.Sized(lockNone, ch.Table), dialect.Alter(ch.Table, "VALIDATE CONSTRAINT "+traits.Ident(ch.Check.Name)))
}

func (w *writer) invalidateCheck(ch change.Undo[change.ValidateCheck]) {
	k := ch.Of.Check
	w.Step(ch.Title(), lockExclusive, append([]string{dialect.Alter(ch.On(), "DROP CONSTRAINT "+traits.Ident(k.Name), "ADD "+checkClause(k)+" NOT VALID")}, commentOn(ch.On(), k)...)...)
}

func (w *writer) setDefault(ch change.SetDefault) {
	action := "ALTER COLUMN " + traits.Ident(ch.Column) + " DROP DEFAULT"
	if ch.To != "" {
		action = "ALTER COLUMN " + traits.Ident(ch.Column) + " SET DEFAULT " + ch.To
	}
	w.Step(ch.Title(), lockExclusive, dialect.Alter(ch.Table, action))
}

// rename gives the index or constraint its new name, which takes a moment
// (https://www.postgresql.org/docs/current/sql-alterindex.html).
func (w *writer) rename(ch change.Rename) {
	if ch.Kind == change.RenameIndex {
		w.Step(ch.Title(), lockNone, fmt.Sprintf("ALTER INDEX %s RENAME TO %s", traits.Qualified(ch.Table.Schema, ch.From), traits.Ident(ch.To)))
		return
	}
	w.Step(ch.Title(), lockExclusive, dialect.Alter(ch.Table, "RENAME CONSTRAINT "+traits.Ident(ch.From)+" TO "+traits.Ident(ch.To)))
}

func (w *writer) rebuildIndex(ch change.RebuildIndex) {
	if x := w.Now.Table(ch.Table).Index(ch.Name); x != nil {
		w.askUnique(ch.Table, x)
	}
	l := w.Sized(lockNone, ch.Table)
	s := w.Step(ch.Title(), l)
	s.SQL, s.Transaction = patient("REINDEX INDEX CONCURRENTLY "+traits.Qualified(ch.Table.Schema, ch.Name)), false
	s.CleanUp = "DROP INDEX CONCURRENTLY IF EXISTS " + traits.Qualified(ch.Table.Schema, ch.Name+"_ccnew")
	s.Notes = append(s.Notes, "waits for transactions that are older than itself; room for a second copy of the index is needed; not taken back, since a sound index is not made unsound again")
}

func (w *writer) advanceSequence(ch change.AdvanceSequence) {
	name := traits.Qualified(ch.Schema, ch.Sequence)
	s := w.Step(ch.Title(), w.Sized(ddl.Takes("SHARE ROW EXCLUSIVE for a moment, for as long as the largest number is looked for: writers of the table wait", lockExclusive.Blocks), ch.Table),
		fmt.Sprintf("LOCK TABLE %s IN SHARE ROW EXCLUSIVE MODE", traits.Relation(ch.Table)),
		fmt.Sprintf("SELECT pg_catalog.setval(%s, greatest((SELECT pg_catalog.max(%s) FROM %s), (SELECT last_value FROM %s)))", traits.Literal(name), traits.Ident(ch.Column), traits.Relation(ch.Table), name))
	s.Notes = append(s.Notes, "not taken back: the sequence would give numbers that are in use")
}

// switchOff takes a foreign key's triggers off again, on both tables; only a
// superuser may.
func switchOff(table catalog.Ref, f *catalog.ForeignKey) string {
	return strings.TrimSpace(fmt.Sprintf(`DO $off$
DECLARE g record;
BEGIN
  FOR g IN SELECT t.tgrelid::regclass AS at, t.tgname FROM pg_catalog.pg_trigger t JOIN pg_catalog.pg_constraint k ON k.oid = t.tgconstraint
    WHERE k.conname = %s AND k.conrelid = %s::regclass::oid
  LOOP
    EXECUTE pg_catalog.format('ALTER TABLE %%s DISABLE TRIGGER %%I', g.at, g.tgname);
  END LOOP;
END $off$`, traits.Literal(f.Name), traits.Literal(traits.Relation(table))))
}
