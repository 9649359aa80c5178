package sqllex

import (
	"slices"
	"testing"
)

// TestSelected: what a query selects is cut at the commas that are its own.
func TestSelected(t *testing.T) {
	for _, c := range []struct {
		query string
		list  []string
		rest  string
	}{
		{"SELECT a, b FROM t", []string{"a", "b"}, "FROM t"},
		{"SELECT 1", []string{"1"}, ""},
		{"select f(a, b), 'x, y' from t where c in (1, 2)", []string{"f(a, b)", "'x, y'"}, "from t where c in (1, 2)"},
		{"SELECT (SELECT max(a) FROM u), ARRAY[1, 2], extract(year FROM at) FROM t", []string{"(SELECT max(a) FROM u)", "ARRAY[1, 2]", "extract(year FROM at)"}, "FROM t"},
		{`SELECT "a,b", -- one, two
 c FROM t UNION ALL SELECT d, e FROM u`, []string{`"a,b"`, "-- one, two\n c"}, "FROM t UNION ALL SELECT d, e FROM u"},
	} {
		list, rest := Selected(postgres, c.query)
		if !slices.Equal(list, c.list) || rest != c.rest {
			t.Errorf("%s: %q and %q", c.query, list, rest)
		}
	}
}

// TestColumns: columns are counted, and where the text does not tell them rows are.
func TestColumns(t *testing.T) {
	for query, want := range map[string][]string{
		"SELECT a, b, c FROM t":        {"c1", "c2", "c3"},
		"SELECT count(*) FROM t":       {"c1"},
		"SELECT *, 1 FROM t":           {"c1"},
		"SELECT t.* FROM t":            {"c1"},
		"SELECT a * b, c FROM t":       {"c1", "c2"},
		"SELECT a, t.* FROM t LIMIT 3": {"c1"},
	} {
		names, of := Columns(postgres, query)
		stars := query != of
		if !slices.Equal(names, want) || stars != (query == "SELECT *, 1 FROM t" || query == "SELECT t.* FROM t" || query == "SELECT a, t.* FROM t LIMIT 3") {
			t.Errorf("%s: %v of %s", query, names, of)
		}
	}
}
