package write

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/mariadb/traits"
)

// createObjects makes what is not there yet, by the texts that a whole structure is made
// by.
func (w *writer) createObjects(ch change.CreateObjects) {
	work, _ := w.create(ch.What, true)
	for _, st := range work.Steps {
		if len(ch.What.Schemas) == 1 {
			st.SQL = append([]string{"USE " + traits.Ident(ch.What.Schemas[0].Name)}, st.SQL...)
		}
		st.SQL = append(st.SQL, strictMode)
		st.Tables = ch.Tables()
		w.Add(st)
	}
}

// dropObject drops what is no table.
func dropObject(m *catalog.Member) string {
	switch {
	case m.Object != nil:
		return fmt.Sprintf("DROP %s %s", strings.ToUpper(m.Object.Kind), traits.Relation(catalog.Ref{Schema: m.Schema, Table: strings.TrimPrefix(m.Object.Name, m.Object.Kind+" ")}))
	case m.Routine != nil:
		return ddl.DropText(m, traits.Relation(catalog.Ref{Schema: m.Schema, Table: m.Routine.Name}))
	}
	return ddl.DropText(m, traits.Relation(catalog.Ref{Schema: m.Schema, Table: m.Name}))
}

// addColumn adds one that is not numbered.
func (w *writer) addColumn(ch change.AddColumn) {
	c := ch.Column
	w.AskUnvalued(ch.Table, c)
	lock := "NONE"
	if c.Generated != "" && c.Stored {
		lock = ""
	}
	s := w.step(ch.Title(), lock, "ADD COLUMN "+traits.Ident(c.Name)+" "+columnText(w.Now.Table(ch.Table), c)+placed(w.Now.Table(ch.Table), ch.Before))
	s.Notes = append(s.Notes, "an INSERT without a list of columns will fail from now on, and programs that select * see one column more")
}

// placed says where a new column stands
// (https://mariadb.com/kb/en/alter-table/, ADD COLUMN).
func placed(t *catalog.Table, before string) string {
	switch i := slices.IndexFunc(t.Columns, func(c *catalog.Column) bool { return c.Name == before }); i {
	case -1:
		return ""
	case 0:
		return " FIRST"
	default:
		return " AFTER " + traits.Ident(t.Columns[i-1].Name)
	}
}
