package read

import (
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// TestCountsColumns: which texts break, or do another thing, once a table has a further column.
func TestCountsColumns(t *testing.T) {
	berth := &catalog.Table{Schema: "tide", Name: "berth"}
	for _, c := range []struct {
		body, language, returns string
		want                    bool
	}{
		{"INSERT INTO berth VALUES (b.*)", "plpgsql", "text", true}, {"INSERT INTO tide.berth VALUES (b.*);", "plpgsql", "text", true}, {`INSERT INTO "tide"."berth" SELECT * FROM berth`, "sql", "void", true}, {"INSERT INTO berth SELECT x.* FROM berth x", "sql", "void", true},
		{"INSERT INTO berth (no, name) SELECT * FROM old", "sql", "void", false}, {"INSERT INTO berth VALUES (1, 'x'); SELECT * FROM berth", "sql", "void", false}, {"INSERT INTO other SELECT * FROM berth", "sql", "void", false}, {"INSERT INTO berth VALUES (2 * 3)", "sql", "void", false},
		{"RETURN QUERY SELECT no, name FROM tide.berth;", "plpgsql", "SETOF tide.berth", true}, {"RETURN QUERY SELECT * FROM tide.berth;", "plpgsql", "SETOF tide.berth", false}, {"RETURN QUERY SELECT b.* FROM tide.berth b;", "plpgsql", "SETOF berth", false}, {"RETURN QUERY SELECT no FROM berth;", "plpgsql", "SETOF integer", false},
		{"SELECT no, name FROM berth", "sql", "berth", true}, {"SELECT * FROM berth WHERE no = 1", "sql", "berth", false}, {"SELECT no, name FROM berth", "sql", "integer", false},
		{"RETURN QUERY SELECT", "plpgsql", "SETOF berth", true}, {"INSERT INTO", "plpgsql", "void", false}, {"INSERT INTO berth", "plpgsql", "void", false}, {"SELECT", "sql", "berth", true}, {"", "sql", "berth", false},
	} {
		text := "CREATE FUNCTION f() RETURNS " + c.returns + " LANGUAGE " + c.language + " AS $$ " + c.body + " $$"
		if got := countsColumns(sqllex.Inner(Reader{}.Dialect(), text), berth, &catalog.Routine{Language: c.language, Returns: c.returns}); got != c.want {
			t.Errorf("%s: %v", text, got)
		}
		countsColumns(sqllex.Inner(Reader{}.Dialect(), c.body), berth, &catalog.Routine{Language: c.language, Returns: c.returns}) // cut off anywhere
	}
}
