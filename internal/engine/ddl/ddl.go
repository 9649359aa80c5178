// Package ddl writes what all engines write alike: it walks along a plan, keeps the
// catalog as it is before each change, gathers steps, and asks beforehand what the data
// could refuse. An engine brings its [Dialect] and writes what is its own.
package ddl

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/text"
)

// ShownRows is how many offending rows a pre-flight query lists.
const ShownRows = 20

// A Lock is what a step takes and what it means to others, in the words of the
// engine's manual, and how long they wait.
type Lock struct {
	Says   string
	Blocks engine.Blocking
}

// Takes returns the lock.
func Takes(says string, blocks engine.Blocking) Lock { return Lock{says, blocks} }

// A Dialect is how an engine writes what all have.
type Dialect struct {
	Title    string // the engine's name, as its makers write it
	Quoting  sqllex.Quoting
	Relation func(catalog.Ref) string // a table's name, with its schema where there are several
	Literal  func(string) string
	Begin    string // opens the transaction of a step of several statements; "" where DDL is in none
	// Always: a statement that is a step by itself is opened and ended as well.
	Always   bool
	Works    string // what a lock says of the size of the table: "; reads %s"
	Together bool   // tables that refer to one another are dropped by one statement
	// Create writes the statements that make a table.
	Create func(*Writer, *catalog.Table) []string
	// Drop writes the statement that drops an object that is no table, "" where it goes
	// with another.
	Drop func(*catalog.Member) string
	// DropReference takes a foreign key away. Nil: by its name, which it has.
	DropReference func(on catalog.Ref, f *catalog.ForeignKey) string
	// Outside stands before and behind the transaction, or the statements, that drop
	// objects.
	Outside [2]string
	// Made and Gone are the locks of making a table and of dropping objects.
	Made, Gone Lock
}

// DropText is the statement that drops a view, a sequence or a routine, which all engines write
// alike, or "".
func DropText(m *catalog.Member, name string) string {
	switch {
	case m.View != nil:
		return "DROP VIEW " + name
	case m.Sequence != nil:
		return "DROP SEQUENCE " + name
	case m.Routine != nil:
		return "DROP " + strings.ToUpper(m.Routine.Kind) + " " + name
	}
	return ""
}

// A Writer gathers the steps of one plan.
type Writer struct {
	*Dialect
	From *catalog.Catalog // as it is
	Now  *catalog.Catalog // as it will be before the change that is being written
	To   *catalog.Catalog // as it is to be in the end
	Plan change.Plan
	Item change.Item // what is being written
	At   []int       // its place in the plan, and those of what is written with it
	Can  catalog.Abilities
	Work *engine.Work

	answers []string     // findings that the changes at those places answer
	ahead   map[int]bool // places further on whose changes were written with those before
}

// New returns a writer of the plan that leads from one catalog to the other.
func New(d *Dialect, e engine.Engine, from, to *catalog.Catalog, plan change.Plan, work *engine.Work) *Writer {
	return &Writer{Dialect: d, From: from, Now: from.Clone(), To: to, Plan: plan, Can: e.Abilities(from.Engine.Version), Work: work}
}

// Each hands every change of the plan to write, which returns how many it has written
// from there on: one, or several as a single step; then they are applied to w.Now. What
// write does not know (0) is written here where all engines write it alike, and refused
// otherwise.
func (w *Writer) Each(write func(i int, ch change.Change) (int, error)) error {
	w.ahead = map[int]bool{}
	for i := 0; i < len(w.Plan); {
		if w.ahead[i] {
			i++
			continue
		}
		before := len(w.ahead)
		w.Place(i)
		n, err := write(i, w.Item.Change)
		if err != nil {
			return err
		}
		if n == 0 {
			if !w.Common(w.Item.Change) {
				return fmt.Errorf("%s cannot be written for %s", w.Item.Change.Title(), w.Title)
			}
			n = 1
		}
		apply := func(it change.Item) error {
			if err := it.Apply(w.Now, w.Can); err != nil {
				return fmt.Errorf("%s: %w", it.Change.Title(), err)
			}
			return nil
		}
		for _, it := range w.Plan[i : i+n] {
			if err := apply(it); err != nil {
				return err
			}
		}
		if len(w.ahead) > before {
			for _, k := range w.At {
				if k >= i+n {
					if err := apply(w.Plan[k]); err != nil {
						return err
					}
				}
			}
		}
		i += n
	}
	return nil
}

// Place makes the change at place i the one that is being written.
func (w *Writer) Place(i int) {
	w.Item, w.At, w.answers = w.Plan[i], []int{i}, w.Plan[i].Answers
}

// With makes the change at place i the one that is being written, as one step with those
// before it. Questions are about it alone.
func (w *Writer) With(i int) {
	w.Item, w.At, w.answers = w.Plan[i], append(w.At, i), change.Union(w.answers, w.Plan[i].Answers)
}

// Several makes the changes at the places what is being written, as one step; the first is
// the one that is at hand, the others are not written again where they stand.
func (w *Writer) Several(places []int) {
	w.Place(places[0])
	for _, i := range places[1:] {
		w.answers = change.Union(w.answers, w.Plan[i].Answers)
		w.ahead[i] = true
	}
	w.At = places
}

// Common writes what all engines write alike, and reports whether it did.
func (w *Writer) Common(ch change.Change) bool {
	switch ch := ch.(type) {
	case change.AddLookupTable:
		w.addLookup(ch)
	case change.Undo[change.AddLookupTable]:
		w.dropLookup(ch)
	case change.DropObjects:
		w.dropObjects(ch)
	case change.Undo[change.BackfillColumn], change.NoReversal:
	default:
		return false
	}
	return true
}

// Step adds a step that runs as one transaction.
func (w *Writer) Step(title string, l Lock, sql ...string) *engine.Step {
	if (len(sql) > 1 || w.Always) && w.Begin != "" {
		sql = append(append([]string{w.Begin}, sql...), "COMMIT")
	}
	return w.Add(engine.Step{Title: title, Lock: l.Says, Blocks: l.Blocks, Transaction: len(sql) == 1 || w.Begin != "", SQL: sql})
}

// Add adds a step, which carries out what is being written. Where it names no tables, it
// is on the table of the change.
func (w *Writer) Add(s engine.Step) *engine.Step {
	s.Answers, s.Changes = w.answers, w.At
	if on := w.Item.Change.On(); s.Tables == nil && on != (catalog.Ref{}) {
		s.Tables = []catalog.Ref{on}
	}
	w.Work.Steps = append(w.Work.Steps, s)
	return &w.Work.Steps[len(w.Work.Steps)-1]
}

// Sized adds to a lock how much is read or written meanwhile, where the survey knows.
func (w *Writer) Sized(l Lock, on catalog.Ref) Lock {
	if t := w.Now.Table(on); t != nil && t.Stats.Bytes != nil && *t.Stats.Bytes > 0 {
		l.Says += fmt.Sprintf(w.Works, text.Size(*t.Stats.Bytes))
	}
	return l
}

// Timing is when a constraint is looked at, as its clause says it.
func Timing(deferrable, deferred bool) string {
	switch {
	case deferred:
		return " DEFERRABLE INITIALLY DEFERRED"
	case deferrable:
		return " DEFERRABLE"
	}
	return ""
}

// Alter writes an ALTER TABLE of several actions.
func (d *Dialect) Alter(table catalog.Ref, actions ...string) string {
	return fmt.Sprintf("ALTER TABLE %s %s", d.Relation(table), strings.Join(actions, ", "))
}

// addLookup makes the table with its values.
func (w *Writer) addLookup(ch change.AddLookupTable) {
	on := w.Relation(ch.Table.Ref())
	s := w.Step(ch.Title(), w.Made, append(w.Create(w, ch.Made(w.Can)), fmt.Sprintf("INSERT INTO %s VALUES (%s)", on, sqllex.Each(ch.Values, w.Literal, "), (")))...)
	s.Tables = ch.Tables()
	if !s.Transaction {
		s.CleanUp = "DROP TABLE IF EXISTS " + on
	}
}

// dropLookup drops the table where it holds what it was made with.
func (w *Writer) dropLookup(ch change.Undo[change.AddLookupTable]) {
	on, column := ch.Of.Table.Ref(), ch.Of.Table.Columns[0].Name
	w.Ask(fmt.Sprintf("values of %s that were added since it was made", on),
		w.rows(on, fmt.Sprintf("%s NOT IN (%s)", w.Quoting.Ident(column), sqllex.Each(ch.Of.Values, w.Literal, ", "))))
	w.Step(ch.Title(), w.Gone, "DROP TABLE "+w.Relation(on)).Tables = ch.Tables()
}

// Unreferred takes a foreign key away.
func (d *Dialect) Unreferred(on catalog.Ref, f *catalog.ForeignKey) string {
	if d.DropReference != nil {
		return d.DropReference(on, f)
	}
	return d.Alter(on, "DROP CONSTRAINT "+d.Quoting.Ident(f.Name))
}

// LeaningOn are the statements that take foreign keys away which lean on an index of the table,
// and those that put them back, as declared writes each.
func (w *Writer) LeaningOn(t *catalog.Table, index string, declared func(on catalog.Ref, f *catalog.ForeignKey) []string) (drops, adds []string) {
	for _, r := range w.Now.Lookup().Referrers(t.Ref()) {
		if r.ForeignKey.TargetIndex != index {
			continue
		}
		drops = append(drops, w.Unreferred(r.Table.Ref(), r.ForeignKey))
		adds = append(adds, declared(r.Table.Ref(), r.ForeignKey)...)
	}
	return drops, adds
}

// parted drops the foreign keys that lead from one of the tables to another, where a table is not
// dropped as long as any leads to it.
func (w *Writer) parted(ch change.DropObjects) (sql []string) {
	for _, ref := range ch.Tables() {
		for _, f := range ch.What.Table(ref).ForeignKeys {
			if f.Target != ref && (f.Name != "" || w.DropReference != nil) && ch.What.Table(f.Target) != nil {
				sql = append(sql, w.Unreferred(ref, f))
			}
		}
	}
	return sql
}

// beforeTheirSequences puts what needs a sequence that belongs to a column before the column's table:
// the sequence goes with that.
func beforeTheirSequences(members []*catalog.Member) []*catalog.Member {
	early := map[catalog.ObjectRef]bool{}
	for _, m := range members {
		if m.Sequence != nil && m.Sequence.OwnedBy != nil {
			early[m.ObjectRef] = true
		}
	}
	for more := len(early) > 0; more; {
		more = false
		for _, m := range members {
			if m.Table == nil && !early[m.ObjectRef] && slices.ContainsFunc(m.Needs(), func(o catalog.ObjectRef) bool { return early[o] }) {
				early[m.ObjectRef], more = true, true
			}
		}
	}
	first := func(m *catalog.Member) int {
		if m.Sequence == nil && early[m.ObjectRef] {
			return 0
		}
		return 1
	}
	slices.SortStableFunc(members, func(a, b *catalog.Member) int { return first(a) - first(b) })
	return members
}

// dropObjects takes away what leans on others first. Foreign keys among the tables do
// not count: all of them go.
func (w *Writer) dropObjects(ch change.DropObjects) {
	for _, ref := range ch.Tables() {
		// What the module of a virtual table keeps for itself says nothing of its rows.
		if kind := ch.What.Table(ref).Kind; ch.Empty && kind != catalog.Foreign && kind != catalog.Shadow {
			w.Ask("rows of "+ref.String()+", which was made for none yet", w.rows(ref, ""))
		}
	}
	members := slices.DeleteFunc(ch.What.Members(), func(m *catalog.Member) bool { return m.Extension() != "" }) // which go with their add-on
	slices.Reverse(members)
	members = beforeTheirSequences(members)
	var sql []string
	runs := 0
	for i := 0; i < len(members); i++ {
		switch m := members[i]; {
		case m.Table != nil && m.Table.Kind != catalog.Foreign && w.Together: // those in a row at once, since they may refer to one another
			var tables []string
			for ; i < len(members) && members[i].Table != nil && members[i].Table.Kind != catalog.Foreign; i++ {
				tables = append(tables, w.Relation(members[i].Table.Ref()))
			}
			i--
			slices.Sort(tables)
			sql, runs = append(sql, "DROP TABLE "+strings.Join(tables, ", ")), runs+1
		case m.Table != nil && m.Table.Kind == catalog.Foreign:
			sql = append(sql, cmp.Or(w.Drop(m), "DROP TABLE "+w.Relation(m.Table.Ref())))
		case m.Table != nil && m.Table.Kind != catalog.Shadow:
			sql = append(sql, "DROP TABLE "+w.Relation(m.Table.Ref()))
		case m.Table == nil:
			if drop := w.Drop(m); drop != "" {
				sql = append(sql, drop)
			}
		}
	}
	if (!w.Together || runs > 1) && w.Outside[0] == "" {
		sql = append(w.parted(ch), sql...)
	}
	for _, name := range ch.Schemas {
		sql = append(sql, "DROP SCHEMA "+w.Quoting.Ident(name))
	}
	s := w.Step(ch.Title(), w.Gone, sql...)
	s.Tables = ch.Tables()
	if w.Outside[0] != "" {
		s.SQL = append(append([]string{w.Outside[0]}, s.SQL...), w.Outside[1])
		s.Transaction = w.Begin != ""
	}
	if !s.Transaction {
		s.Notes = append(s.Notes, "each statement stands by itself")
	}
	if !ch.Empty && len(s.Tables) > 0 {
		s.Notes = append(s.Notes, "the rows are lost: the reversal makes the tables again, empty")
	}
}
