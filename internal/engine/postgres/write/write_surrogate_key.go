package write

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/postgres/traits"
)

// addSurrogateKey builds the unique index beside the key; then, in one transaction, the
// key gives way to it and to the number, and the foreign keys that leaned on the key
// are re-created.
func (w *writer) addSurrogateKey(ch change.AddSurrogateKey) {
	x := change.ReplaceKey{To: change.Uniqueness{Key: ch.Unique}}.Index(w.Now.Table(ch.Table).Index(ch.From.Index))
	w.buildIndex(ch.Title()+": build the index of the unique constraint", ch.Table, x)
	lean := w.leaning(ch.Table, ch.From.Name)
	text, _ := newCreator(w.Now).column(&catalog.Table{Name: ch.Table.Table}, ch.Column, false)
	sql := append(lean.drop, dialect.Alter(ch.Table, "DROP CONSTRAINT "+traits.Ident(ch.From.Name)))
	sql = append(sql, w.usingIndex(ch.Table, ch.Unique, false)...)
	sql = append(sql, pinned(ch.Table, x)...)
	sql = append(sql, dialect.Alter(ch.Table, "ADD COLUMN "+text, fmt.Sprintf("ADD CONSTRAINT %s PRIMARY KEY (%s)", traits.Ident(ch.Key.Name), traits.Idents(ch.Key.Columns))))
	s := w.Step(ch.Title(), w.Sized(lockRewrite, ch.Table), append(sql, lean.again...)...)
	s.Tables = append(s.Tables, lean.tables...)
	s.Notes = append(s.Notes, "programs that select * see one column more")
	lean.check(w)
}

// dropSurrogateKey goes back the same way.
func (w *writer) dropSurrogateKey(ch change.Undo[change.AddSurrogateKey]) {
	of := ch.Of
	was := behind(of.From)
	if ch.Before != nil && ch.Before.Index(of.From.Index) != nil {
		was = ch.Before.Index(of.From.Index)
	}
	next := was.Clone()
	next.Definition = ""
	next.Name = catalog.NewNames(w.Now, 63).Free(of.Table.Schema, "idx", "nexdal", of.From.Name)
	w.buildIndex(ch.Title()+": build the index", of.Table, next)
	lean := w.leaning(of.Table, of.Unique.Name)
	sql := append(lean.drop, dialect.Alter(of.Table, "DROP COLUMN "+traits.Ident(of.Column.Name)), dialect.Alter(of.Table, "DROP CONSTRAINT "+traits.Ident(of.Unique.Name)),
		fmt.Sprintf("ALTER INDEX %s RENAME TO %s", traits.Qualified(of.Table.Schema, next.Name), traits.Ident(of.From.Name)))
	sql = append(sql, w.usingIndex(of.Table, of.From, true)...)
	sql = append(sql, pinned(of.Table, was)...)
	s := w.Step(ch.Title(), lockTied, append(sql, lean.again...)...)
	s.Tables = append(s.Tables, lean.tables...)
	s.Notes = append(s.Notes, fmt.Sprintf("the numbers in %s are lost", of.Column.Name))
	lean.check(w)
}

// backfill writes every row that has a parent; it can be done again.
func (w *writer) backfill(ch change.BackfillColumn) {
	s := w.Step(ch.Title(), w.Sized(ddl.Takes("the rows that are written: who writes one of them waits", engine.BlocksAtWork), ch.Table),
		fmt.Sprintf("UPDATE %s AS c\n  SET %s = p.%s\n  FROM %s AS p\n  WHERE %s AND c.%s IS NULL", traits.Relation(ch.Table), traits.Ident(ch.Column), traits.Ident(ch.From), traits.Relation(ch.Via.Target),
			traits.Quoting.Refers(ch.Via.Columns, ch.Via.TargetColumns), traits.Ident(ch.Column)))
	s.Notes = append(s.Notes, filledNote)
}

// filledNote is what to know of a column that was filled.
const filledNote = "rows that are written meanwhile without the column keep a null there; triggers on update run for every row"

// leaning is the foreign keys that stand on one index, taken away and declared
// again: in one transaction, so that nobody sees them gone.
type leaning struct {
	drop, again []string
	tables      []catalog.Ref
	later       []func(w *writer) // checks the rows, under a weak lock
}

func (l leaning) check(w *writer) {
	for _, f := range l.later {
		f(w)
	}
}

func (w *writer) leaning(table catalog.Ref, index string) leaning {
	var l leaning
	for _, r := range w.Now.Lookup().Referrers(table) {
		f, on := r.ForeignKey, r.Table.Ref()
		if f.TargetIndex != index || f.Inherited {
			continue
		}
		l.drop = append(l.drop, dialect.Alter(on, "DROP CONSTRAINT "+traits.Ident(f.Name)))
		l.tables = append(l.tables, on)
		now, later := w.declare(on, f)
		l.again = append(l.again, now...)
		for _, v := range later {
			l.later = append(l.later, func(w *writer) {
				w.Step(fmt.Sprintf("check the rows of foreign key %s of %s", f.Name, on), w.Sized(lockNone, on), v)
			})
		}
	}
	return l
}
