package mariadb

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
)

// askOrphans asks for what a foreign key would refuse.
func (w *writer) askOrphans(it change.Item, table catalog.Ref, f *catalog.ForeignKey) {
	if t := w.from.Table(table); t != nil && !t.HasColumns(f.Columns) {
		return // it comes with the script, and holds what the script puts there
	}
	w.ask(it, fmt.Sprintf("values of %s (%s) without a row in %s", table, strings.Join(f.Columns, ", "), f.Target),
		quoting.Orphans(relation(table), f.Columns, relation(f.Target), f.TargetColumns, shownRows))
}

func foreignKey(f *catalog.ForeignKey) string {
	return fmt.Sprintf("%sFOREIGN KEY (%s) REFERENCES %s (%s)%s%s", constraint(f.Name), idents(f.Columns), relation(f.Target), idents(f.TargetColumns),
		onEvent(" ON DELETE ", f.OnDelete), onEvent(" ON UPDATE ", f.OnUpdate))
}

func onEvent(event string, a catalog.Action) string {
	if a == catalog.Restrict {
		return "" // what the engine takes it for without a word
	}
	return event + strings.ToUpper(string(a))
}

// alterForeignKey drops and declares it within one lock of both tables: no row
// gets in between (https://mariadb.com/kb/en/lock-tables/).
func (w *writer) alterForeignKey(i int, it change.Item, ch change.AlterForeignKey) {
	f := ch.New
	w.askOrphans(it, ch.Table, f)
	s := w.step([]int{i}, ch.Title(), "", "DROP FOREIGN KEY "+ident(ch.Old.Name))
	lock := relation(ch.Table) + " WRITE"
	if f.Target != ch.Table {
		lock += ", " + relation(f.Target) + " WRITE"
	}
	s.SQL = []string{"LOCK TABLES " + lock, s.SQL[0], fmt.Sprintf("ALTER TABLE %s ADD %s", relation(ch.Table), foreignKey(f))}
	s.SQL = append(append(s.SQL, keptIndex(w.now.Table(ch.Table), f)...), "UNLOCK TABLES")
	s.Lock, s.Blocks = "readers and writers of both tables wait while the table is copied and its rows are checked", engine.BlocksAtWork
	s.Transaction = false
	s.CleanUp = "UNLOCK TABLES"
	s.Notes = append(s.Notes, fmt.Sprintf("if it stops between the two, the foreign key is gone and has to be added: ALTER TABLE %s ADD %s", relation(ch.Table), foreignKey(ch.Old)))
}

// keptIndex gives the index of a foreign key that was declared anew its name
// back: the engine calls one of its own making after the foreign key.
func keptIndex(t *catalog.Table, f *catalog.ForeignKey) []string {
	if t == nil {
		return nil
	}
	for _, x := range t.Indexes {
		if x.Origin == catalog.ByForeignKey && x.Name != f.Name && slices.Equal(x.Columns(), f.Columns) {
			return []string{fmt.Sprintf("ALTER TABLE %s RENAME INDEX IF EXISTS %s TO %s", relation(t.Ref()), ident(f.Name), ident(x.Name))}
		}
	}
	return nil
}

// addCheck has the engine look at every row while it copies the table.
func (w *writer) addCheck(i int, it change.Item, ch change.AddCheck) {
	k := ch.Check
	w.ask(it, fmt.Sprintf("rows of %s that break %s", ch.Table, k.Expression),
		fmt.Sprintf("SELECT * FROM %s WHERE NOT (%s) LIMIT %d", relation(ch.Table), k.Expression, shownRows))
	if k.Column != "" {
		model := w.now.Table(ch.Table).Clone()
		own := *k
		model.Checks = append(model.Checks, &own)
		w.step([]int{i}, ch.Title(), "", "MODIFY COLUMN "+w.columnLine(model, k.Column))
		return
	}
	w.step([]int{i}, ch.Title(), "", "ADD "+constraint(k.Name)+"CHECK ("+k.Expression+")")
}

// dropCheck: one that belongs to a column goes where the column is told anew
// without it.
func (w *writer) dropCheck(i int, ch change.DropCheck) {
	k := ch.Check
	if k.Column == "" {
		w.step([]int{i}, ch.Title(), "NONE", "DROP CONSTRAINT "+ident(k.Name))
		return
	}
	model := w.now.Table(ch.Table).Clone()
	for j, o := range model.Checks {
		if o.Column == k.Column && o.Expression == k.Expression {
			model.Checks = append(model.Checks[:j], model.Checks[j+1:]...)
			break
		}
	}
	w.step([]int{i}, ch.Title(), "NONE", "MODIFY COLUMN "+w.columnLine(model, k.Column))
}

// sequence adds a step that alters a sequence alone.
func (w *writer) sequence(i int, title string, sql ...string) *engine.Step {
	it := w.plan[i]
	var tables []catalog.Ref
	if on := it.Change.On(); on != (catalog.Ref{}) {
		tables = []catalog.Ref{on}
	}
	w.work.Steps = append(w.work.Steps, engine.Step{Title: title, Changes: []int{i}, Answers: it.Answers, Tables: tables, Transaction: true,
		Lock: "the sequence for a moment: who takes numbers waits", Blocks: engine.BlocksBriefly, SQL: sql})
	return &w.work.Steps[len(w.work.Steps)-1]
}

// createSequence makes one that was dropped; it goes on where it was.
func (w *writer) createSequence(ch change.CreateSequence) []string {
	name := relation(catalog.Ref{Schema: ch.Schema, Table: ch.Sequence.Name})
	sql := []string{"CREATE SEQUENCE " + name + sequenceText(ch.Sequence)}
	if last := ch.Sequence.Last; last != nil {
		sql = append(sql, fmt.Sprintf("DO SETVAL(%s, %d)", name, *last))
	}
	return sql
}
