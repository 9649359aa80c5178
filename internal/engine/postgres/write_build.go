package postgres

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
)

// build makes what is not there yet, in transactions of their own, by the texts
// that a whole structure is made by. Names in them are all qualified.
func (w *writer) build(ch change.CreateObjects) {
	what := ch.What.Clone()
	var there []string // schemas that are made for no one
	for _, s := range what.Schemas {
		if w.now.Schema(s.Name) != nil {
			s.Comment = ""
			there = append(there, "CREATE SCHEMA "+ident(s.Name), "CREATE SCHEMA IF NOT EXISTS "+ident(s.Name))
		}
	}
	work, _ := Engine{}.Create(what)
	for _, st := range work.Steps {
		st.SQL = slices.DeleteFunc(slices.Clone(st.SQL), func(sql string) bool { return slices.Contains(there, sql) })
		if len(st.SQL) <= 2 {
			continue
		}
		st.SQL = slices.Insert(slices.Clone(st.SQL), 1, "SET LOCAL search_path = ''", "SET LOCAL check_function_bodies = off")
		s := w.add(st)
		s.Tables = ch.Tables()
	}
}

// raze takes away in one transaction, what leans on others first.
func (w *writer) raze(ch change.DropObjects) {
	var tables, sql []string
	for _, ref := range ch.Tables() {
		tables = append(tables, relation(ref))
		if t := ch.What.Table(ref); ch.Empty && t.Kind != catalog.Foreign {
			w.ask("rows of "+ref.String()+", which was made for none yet", fmt.Sprintf("SELECT * FROM %s LIMIT %d", relation(ref), shownRows))
		}
	}
	members := ch.What.Members()
	slices.Reverse(members)
	for _, m := range members {
		name := qualified(m.Schema, m.Name)
		if m.Routine != nil {
			name = qualified(m.Schema, m.Routine.Name)
		}
		switch {
		case m.View != nil && m.View.Materialised:
			sql = append(sql, "DROP MATERIALIZED VIEW "+name)
		case m.View != nil:
			sql = append(sql, "DROP VIEW "+name)
		case m.Table != nil && tables != nil: // all at once, since they may refer to one another
			sql, tables = append(sql, "DROP TABLE "+strings.Join(tables, ", ")), nil
		case m.Sequence != nil:
			sql = append(sql, "DROP SEQUENCE IF EXISTS "+name) // one that belongs to a column went with it
		case m.Routine != nil:
			sql = append(sql, fmt.Sprintf("DROP ROUTINE %s(%s)", name, m.Routine.Arguments))
		case m.Type != nil:
			sql = append(sql, "DROP TYPE "+name)
		}
	}
	for _, name := range ch.Schemas {
		sql = append(sql, "DROP SCHEMA "+ident(name))
	}
	l := lock{"ACCESS EXCLUSIVE on what is dropped for a moment", engine.BlocksBriefly}
	s := w.step(ch.Title(), l, sql...)
	s.Tables = ch.Tables()
	if !ch.Empty && len(ch.Schemas) > 0 {
		s.Notes = append(s.Notes, "owners and grants of schemas are not put back by the reversal")
	}
	if !ch.Empty && len(s.Tables) > 0 {
		s.Notes = append(s.Notes, "the rows are lost: the reversal makes the tables again, empty")
	}
}
