package postgres

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// createObjects makes what is not there yet, in transactions of their own, by the texts
// that a whole structure is made by. Names in them are all qualified.
func (w *writer) createObjects(ch change.CreateObjects) {
	what := ch.What.Clone()
	var there []string // schemas that are made for no one
	for _, s := range what.Schemas {
		if w.Now.Schema(s.Name) != nil {
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
		s := w.Add(st)
		s.Tables = ch.Tables()
	}
}

// dropObject drops what is no table; a sequence that belonged to a column went with it.
func dropObject(m *catalog.Member) string {
	name := qualified(m.Schema, m.Name)
	switch {
	case m.View != nil && m.View.Materialised:
		return "DROP MATERIALIZED VIEW " + name
	case m.View != nil:
		return "DROP VIEW " + name
	case m.Sequence != nil:
		return "DROP SEQUENCE IF EXISTS " + name
	case m.Routine != nil:
		return fmt.Sprintf("DROP ROUTINE %s(%s)", qualified(m.Schema, m.Routine.Name), m.Routine.Arguments)
	case m.Type != nil:
		return "DROP TYPE " + name
	}
	return ""
}
