package mariadb

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
)

// build makes what is not there yet, by the texts that a whole structure is made
// by.
func (w *writer) build(i int, it change.Item, ch change.CreateObjects) {
	work, _ := Engine{}.Create(ch.What)
	for _, st := range work.Steps {
		if len(ch.What.Schemas) == 1 {
			st.SQL = append([]string{"USE " + ident(ch.What.Schemas[0].Name)}, st.SQL...)
		}
		st.SQL = append(st.SQL, strictMode)
		st.Changes, st.Answers, st.Tables = []int{i}, it.Answers, ch.Tables()
		w.work.Steps = append(w.work.Steps, st)
	}
}

// raze takes away, what leans on others first. Foreign keys among the tables do not
// count: all of them go.
func (w *writer) raze(i int, it change.Item, ch change.DropObjects) {
	var tables []string
	for _, ref := range ch.Tables() {
		tables = append(tables, relation(ref))
		if ch.Empty {
			w.ask(it, "rows of "+ref.String()+", which was made for none yet", fmt.Sprintf("SELECT * FROM %s LIMIT %d", relation(ref), shownRows))
		}
	}
	sql := []string{"SET SESSION foreign_key_checks = 0"}
	members := ch.What.Members()
	slices.Reverse(members)
	for _, m := range members {
		name := relation(catalog.Ref{Schema: m.Schema, Table: m.Name})
		switch {
		case m.View != nil:
			sql = append(sql, "DROP VIEW "+name)
		case m.Table != nil && tables != nil:
			sql, tables = append(sql, "DROP TABLE "+strings.Join(tables, ", ")), nil
		case m.Sequence != nil:
			sql = append(sql, "DROP SEQUENCE "+name)
		case m.Routine != nil:
			sql = append(sql, fmt.Sprintf("DROP %s %s", strings.ToUpper(m.Routine.Kind), relation(catalog.Ref{Schema: m.Schema, Table: m.Routine.Name})))
		}
	}
	s := engine.Step{Title: ch.Title(), Changes: []int{i}, Answers: it.Answers, Tables: ch.Tables(), Lock: "users of what is dropped wait for a moment", Blocks: engine.BlocksBriefly,
		SQL: append(sql, "SET SESSION foreign_key_checks = 1"), Notes: []string{"each statement stands by itself"}}
	if !ch.Empty && len(s.Tables) > 0 {
		s.Notes = append(s.Notes, "the rows are lost: the reversal makes the tables again, empty")
	}
	w.work.Steps = append(w.work.Steps, s)
}

// addColumn adds one that is not numbered.
func (w *writer) addColumn(i int, it change.Item, ch change.AddColumn) {
	c := ch.Column
	if !c.Nullable && c.Default == "" && c.Generated == "" {
		w.ask(it, fmt.Sprintf("rows of %s, for which the new column %s has no value", ch.Table, c.Name), fmt.Sprintf("SELECT * FROM %s LIMIT 1", relation(ch.Table)))
	}
	lock := "NONE"
	if c.Generated != "" && c.Stored {
		lock = ""
	}
	s := w.step([]int{i}, ch.Title(), lock, "ADD COLUMN "+ident(c.Name)+" "+columnText(w.now.Table(ch.Table), c)+placed(w.now.Table(ch.Table), ch.Before))
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
		return " AFTER " + ident(t.Columns[i-1].Name)
	}
}
