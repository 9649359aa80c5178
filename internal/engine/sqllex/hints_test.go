package sqllex

import (
	"strings"
	"testing"
)

// TestHinted: the indexes that statements call for by their names, and what only looks like that.
func TestHinted(t *testing.T) {
	sqlite := Dialect{Backquotes: true, Brackets: true, Hints: IndexedBy}
	maria := Dialect{Backquotes: true, Backslashes: true, HashComments: true, CodeComments: true, Hints: UseIndex}
	server := Dialect{Brackets: true, DoubledBracket: true, National: true, Hints: WithIndex}
	postgres := Dialect{DollarStrings: true, EscapeStrings: true, NestedComments: true, Small: true, Hints: ByIndex}
	for _, c := range []struct {
		d          Dialect
		text, want string
	}{
		{sqlite, `SELECT * FROM a INDEXED BY b, c AS x INDEXED BY "d e" JOIN f NOT INDEXED`, "b,d e"},
		{sqlite, `SELECT 1 FROM a indexed by 'it'`, "it"},
		{sqlite, `SELECT 1 FROM a INDEXED BY b WHERE x IN (SELECT y FROM a INDEXED BY [b])`, "b"},
		{sqlite, `SELECT indexed, by FROM a ORDER BY b -- INDEXED BY c`, ""},
		{sqlite, `SELECT 1 FROM a USE INDEX (b)`, ""},
		{sqlite, `SELECT 1 FROM a INDEXED BY`, ""},
		{maria, "SELECT 1 FROM a USE INDEX (b, `c d`) IGNORE KEY FOR ORDER BY (e) FORCE INDEX FOR JOIN (PRIMARY)", "b,c d,e,PRIMARY"},
		{maria, "SELECT 1 FROM a USE INDEX ()", ""},
		{maria, "PREPARE q FROM 'SELECT 1 FROM a FORCE INDEX (b)'", "b"},
		{maria, "CREATE TABLE a (x int, INDEX (x), KEY y (x)); ALTER TABLE a DROP INDEX y; -- USE INDEX (z)", ""},
		{maria, "SELECT /*! 1 FROM a FORCE KEY (b) */ 2", "b"},
		{maria, "SELECT use_index, `force` FROM a", ""},
		{server, "SELECT 1 FROM a WITH (NOLOCK, INDEX (b, [c d])) JOIN e WITH (INDEX = f) ON 1 = 1 JOIN g WITH (INDEX = ([h]]i]))", "b,c d,f,h]i"},
		{server, "EXEC (N'SELECT 1 FROM a WITH (INDEX(b))')", "b"},
		{server, "CREATE TABLE a (x int, INDEX b (x)); ALTER INDEX c ON a REBUILD; SELECT 1 FROM a WITH (INDEX(0))", ""},
		{postgres, `BEGIN EXECUTE 'REINDEX INDEX CONCURRENTLY tide.b'; REINDEX INDEX c; DROP INDEX IF EXISTS "d e"; CLUSTER a USING f; CLUSTER tide.a USING g; CLUSTER VERBOSE a USING h; END`, "b,c,d e,f,g,h"},
		{postgres, `CREATE INDEX b ON a (x); CREATE UNIQUE INDEX CONCURRENTLY c ON a (x); SELECT 1 FROM a JOIN b USING (x) JOIN tide.c USING (x); CREATE INDEX IF NOT EXISTS d ON a USING gin (x)`, ""},
		{postgres, `ALTER TABLE a REPLICA IDENTITY USING INDEX b`, "b"},
		{Dialect{}, "SELECT 1 FROM a USE INDEX (b) INDEXED BY c", ""},
	} {
		if got := strings.Join(Hinted(c.d, c.text), ","); got != c.want {
			t.Errorf("%s: %q, want %q", c.text, got, c.want)
		}
	}
	if !Says(maria, "EXECUTE IMMEDIATE 'DELETE FROM `tide station`'", "tide station") || Says(maria, "DELETE FROM tide_station", "tide") {
		t.Error("a name in a text, or none")
	}
}
