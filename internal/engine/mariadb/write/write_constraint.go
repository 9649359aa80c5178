package write

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/mariadb/traits"
)

func (w *writer) foreignKey(f *catalog.ForeignKey) string {
	return fmt.Sprintf("%sFOREIGN KEY (%s) REFERENCES %s (%s)%s", constraint(f.Name), traits.Idents(f.Columns), traits.Relation(f.Target), traits.Idents(f.TargetColumns),
		onEvents(f, cmp.Or(w.can.PlainAction, catalog.NoAction)))
}

// onEvents says what a foreign key does, but for the action that the server takes it for without
// a word.
func onEvents(f *catalog.ForeignKey, plain catalog.Action) string {
	text := ""
	if f.OnDelete != plain {
		text += " ON DELETE " + strings.ToUpper(string(f.OnDelete))
	}
	if f.OnUpdate != plain {
		text += " ON UPDATE " + strings.ToUpper(string(f.OnUpdate))
	}
	return text
}

// alterForeignKey drops and declares it within one lock of both tables: no row
// gets in between (https://mariadb.com/kb/en/lock-tables/).
func (w *writer) alterForeignKey(ch change.AlterForeignKey) {
	f := ch.New
	w.AskOrphans(ch.Table, f)
	s := w.step(ch.Title(), "", "DROP FOREIGN KEY "+traits.Ident(ch.Old.Name))
	lock := traits.Relation(ch.Table) + " WRITE"
	if f.Target != ch.Table {
		lock += ", " + traits.Relation(f.Target) + " WRITE"
	}
	s.SQL = []string{"LOCK TABLES " + lock, s.SQL[0], fmt.Sprintf("ALTER TABLE %s ADD %s", traits.Relation(ch.Table), w.foreignKey(f))}
	s.SQL = append(append(s.SQL, w.keptIndex(w.Now.Table(ch.Table), f)...), "UNLOCK TABLES")
	s.Lock, s.Blocks = "readers and writers of both tables wait while the table is copied and its rows are checked", engine.BlocksAtWork
	s.Transaction = false
	s.CleanUp = "UNLOCK TABLES"
	s.Notes = append(s.Notes, fmt.Sprintf("if it stops between the two, the foreign key is gone and has to be added: ALTER TABLE %s ADD %s", traits.Relation(ch.Table), w.foreignKey(ch.Old)))
}

// keptIndex gives the index of a foreign key that was re-created its name
// back: the engine calls one of its own making after the foreign key.
func (f server) keptIndex(t *catalog.Table, k *catalog.ForeignKey) []string {
	if t == nil || !f.Conditional { // an index that is there serves the new one
		return nil
	}
	for _, x := range t.Indexes {
		if x.Origin == catalog.ByForeignKey && x.Name != k.Name && slices.Equal(x.Columns(), k.Columns) {
			return []string{fmt.Sprintf("ALTER TABLE %s RENAME INDEX IF EXISTS %s TO %s", traits.Relation(t.Ref()), traits.Ident(k.Name), traits.Ident(x.Name))}
		}
	}
	return nil
}

// addCheck has the engine look at every row while it copies the table.
func (w *writer) addCheck(ch change.AddCheck) {
	k := ch.Check
	if !k.NotEnforced {
		w.AskBreaks(ch.Table, k, k.Expression)
	}
	if k.Column != "" {
		model := w.Now.Table(ch.Table).Clone()
		own := *k
		model.Checks = append(model.Checks, &own)
		w.step(ch.Title(), "", "MODIFY COLUMN "+w.columnLine(model, k.Column))
		return
	}
	w.step(ch.Title(), "", "ADD "+checkText(k))
}

func checkText(k *catalog.Check) string {
	text := constraint(k.Name) + "CHECK (" + k.Expression + ")"
	if k.NotEnforced {
		text += " NOT ENFORCED"
	}
	return text
}

// dropCheck: one that belongs to a column goes where the column is defined again
// without it.
func (w *writer) dropCheck(ch change.DropCheck) {
	k := ch.Check
	if k.Column == "" {
		w.step(ch.Title(), "NONE", w.DropCheck+" "+traits.Ident(k.Name))
		return
	}
	model := w.Now.Table(ch.Table).Clone()
	for j, o := range model.Checks {
		if o.Column == k.Column && o.Expression == k.Expression {
			model.Checks = append(model.Checks[:j], model.Checks[j+1:]...)
			break
		}
	}
	w.step(ch.Title(), "NONE", "MODIFY COLUMN "+w.columnLine(model, k.Column))
}

// lockSequence is what altering a sequence takes.
var lockSequence = ddl.Takes("the sequence for a moment: who takes numbers waits", engine.BlocksBriefly)

// createSequence makes one that was dropped; it goes on where it was.
func (w *writer) createSequence(ch change.CreateSequence) []string {
	name := traits.Relation(catalog.Ref{Schema: ch.Schema, Table: ch.Sequence.Name})
	sql := []string{"CREATE SEQUENCE " + name + sequenceText(ch.Sequence)}
	if last := ch.Sequence.Last; last != nil {
		sql = append(sql, fmt.Sprintf("DO SETVAL(%s, %d)", name, *last))
	}
	return sql
}
