package write

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/postgres/traits"
)

// createObjects makes what is not there yet, in transactions of their own, by the texts
// that a whole structure is made by. Names in them are all qualified.
func (w *writer) createObjects(ch change.CreateObjects) {
	what := ch.What.Clone()
	var there []string // schemas that are made for no one
	for _, s := range what.Schemas {
		if w.Now.Schema(s.Name) != nil {
			s.Comment = ""
			there = append(there, "CREATE SCHEMA "+traits.Ident(s.Name), "CREATE SCHEMA IF NOT EXISTS "+traits.Ident(s.Name))
		}
	}
	beside := *w.Now // parents of what is made may be there
	beside.Schemas = slices.Concat(w.Now.Schemas, what.Schemas)
	work, _ := create(newCreator(&beside), what, nil)
	for _, st := range work.Steps {
		st.SQL = slices.DeleteFunc(slices.Clone(st.SQL), func(sql string) bool { return slices.Contains(there, sql) })
		if len(st.SQL) <= 2 {
			continue
		}
		st.SQL = slices.Insert(slices.Clone(st.SQL), 1, "SET LOCAL search_path = ''", "SET LOCAL check_function_bodies = off")
		s := w.Add(st)
		s.Tables = ch.Tables()
	}
	if sql := rightsOf(w.From, what, there); len(sql) > 0 {
		w.Step(ch.Title()+": owners and grants", ddl.Takes("what was made, for a moment", engine.BlocksNobody), sql...).Tables = ch.Tables()
	}
}

// rightsOf gives all that was made in a database the owners and grants that the model knows of it: those
// of another database mean nothing here, and are not in it.
func rightsOf(in, what *catalog.Catalog, there []string) []string {
	var sql []string
	give := func(kind, name string, r catalog.Rights, belongs bool) {
		if r.Owner != "" {
			sql = append(sql, giveRights(in, kind, name, r, belongs)...)
		}
	}
	for _, s := range what.Schemas {
		if !slices.Contains(there, "CREATE SCHEMA "+traits.Ident(s.Name)) {
			give("SCHEMA", traits.Ident(s.Name), s.Rights, false)
		}
	}
	for _, m := range what.Members() {
		kind, name := objectOf(m)
		switch {
		case m.Table != nil:
			give(kind, name, m.Table.Rights, false)
		case m.View != nil:
			give(kind, name, m.View.Rights, false)
		case m.Sequence != nil:
			give(kind, name, m.Sequence.Rights, m.Sequence.Identity || m.Sequence.OwnedBy != nil)
		case m.Routine != nil:
			give(kind, name, m.Routine.Rights, false)
		case m.Type != nil:
			give(kind, name, m.Type.Rights, false)
		}
	}
	return sql
}

// dropObject drops what is no table; a sequence that belonged to a column went with it.
func dropObject(m *catalog.Member) string {
	kind, name := objectOf(m)
	switch kind {
	case "":
		return ""
	case "SEQUENCE":
		kind += " IF EXISTS"
	}
	return "DROP " + kind + " " + name
}

// objectOf is the engine's word for what a member of a schema is, and its whole name; "" for
// what has none.
func objectOf(m *catalog.Member) (kind, name string) {
	name = traits.Qualified(m.Schema, m.Name)
	switch {
	case m.Table != nil && m.Table.Kind == catalog.Foreign:
		return "FOREIGN TABLE", name
	case m.Table != nil:
		return "TABLE", name
	case m.View != nil && m.View.Materialised:
		return "MATERIALIZED VIEW", name
	case m.View != nil:
		return "VIEW", name
	case m.Sequence != nil:
		return "SEQUENCE", name
	case m.Routine != nil:
		return "ROUTINE", fmt.Sprintf("%s(%s)", traits.Qualified(m.Schema, m.Routine.Name), m.Routine.Arguments)
	case m.Type != nil:
		return "TYPE", name
	case m.Schema == "" && m.Object != nil && (m.Kind == "extension" || m.Kind == "server" || m.Kind == "foreign-data wrapper"):
		return strings.ToUpper(strings.ReplaceAll(m.Kind, "-", " ")), traits.Ident(m.Name)
	case m.Object != nil && (m.Kind == "collation" || strings.HasPrefix(m.Kind, "text search")):
		return strings.ToUpper(m.Kind), name
	case m.Object != nil && m.Kind == "operator": // whose name has its types behind it
		return "OPERATOR", traits.Ident(m.Schema) + "." + m.Name
	}
	return "", ""
}
