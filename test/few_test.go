package test

import (
	"testing"

	"nexdal/demo"
	"nexdal/internal/catalog"
	"nexdal/internal/engine"
)

// fewRows builds the demo with so many rows of a table, where a stand-in looks through all of them
// for each that is added; passed over are statements that it does not take.
func fewRows(t *testing.T, e engine.Builder, address string, rows map[string]int, others int, over func(statement string) bool) {
	t.Helper()
	before, after, err := demo.SQL(e.Name(), "saltmere")
	if err != nil {
		t.Fatal(err)
	}
	s, schema, err := e.Build(t.Context(), address, "saltmere")
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	carry := func(sql string) {
		t.Helper()
		for _, st := range e.Dialect().Statements(sql) {
			if over(st.Text) {
				continue
			}
			if err := s.Exec(t.Context(), st.Text); err != nil {
				t.Fatalf("%v: %s", err, st.Text)
			}
		}
	}
	carry(before)
	for _, table := range demo.Rows() {
		left := rows[table.Name]
		if left == 0 {
			left = others
		}
		some := func() []any {
			if left--; left < 0 {
				return nil
			}
			return table.Next()
		}
		if err := s.Load(t.Context(), catalog.Ref{Schema: schema, Table: table.Name}, table.Columns, some); err != nil {
			t.Fatalf("%s: %v", table.Name, err)
		}
	}
	carry(after + "\nCOMMIT;")
}
