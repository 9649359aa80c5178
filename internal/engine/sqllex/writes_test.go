package sqllex

import (
	"fmt"
	"strings"
	"testing"
)

// TestWrites: what a text writes, and in which of its statements.
func TestWrites(t *testing.T) {
	d := Dialect{DollarStrings: true, EscapeStrings: true, NestedComments: true}
	for text, want := range map[string]string{
		`INSERT INTO a VALUES (1); DELETE FROM tide."b c" WHERE x = 1; UPDATE a SET x = 1, y = f(2) WHERE z`: `0 insert a; 1 delete b c; 2 update a x,y`,
		`CREATE FUNCTION f() RETURNS int AS $$ BEGIN DELETE FROM ONLY a; DELETE FROM b; RETURN 1; END $$`:    `0 delete a; 1 delete b`,
		`WITH gone AS (DELETE FROM a RETURNING id) DELETE FROM b USING gone`:                                 `0 delete a; 0 delete b`,
		`DELETE a WHERE x = 1 DELETE FROM b UPDATE c SET x = 1`:                                              `0 delete a; 1 delete b; 2 update c x`,
		`INSERT OR IGNORE INTO a VALUES (1) ON CONFLICT (x) DO UPDATE SET y = 1`:                             `0 insert a`,
		`CREATE TRIGGER t AFTER INSERT OR UPDATE OR DELETE ON a EXECUTE FUNCTION f()`:                        ``,
		`CREATE TABLE a (x int REFERENCES b ON DELETE CASCADE ON UPDATE SET NULL)`:                           ``,
		`SELECT 1 FROM a FOR UPDATE; SELECT replace(x, 'a', 'b') FROM a`:                                     ``,
		`CREATE TRIGGER t AFTER DELETE ON a BEGIN DELETE FROM b WHERE x = OLD.x; END`:                        `0 delete b`,
		`REPLACE INTO a VALUES (1)`: `0 insert a`,
		`BEGIN EXECUTE format('DELETE FROM a WHERE x = %L', 1); EXECUTE 'INSERT INTO b VALUES (1)'; END`:                                    `0 delete a; 1 insert b`,
		`INSERT INTO a SELECT x + 1 FROM tide.a WHERE x > 1; INSERT INTO b SELECT x FROM a; INSERT INTO b SELECT 1 FROM c JOIN B USING (x)`: `0 insert a copied; 1 insert b; 2 insert b copied`,
		`INSERT INTO a VALUES (1) ON CONFLICT (x) DO UPDATE SET y = a.y + 1; SELECT 1 FROM a`:                                               `0 insert a`,
		`DELETE FROM`: ``, `INSERT INTO`: ``, `UPDATE a SET`: ``,
	} {
		var got []string
		for _, w := range Writes(d, text) {
			says := fmt.Sprintf("%d %s %s", w.Statement, w.Verb, w.Table.Name())
			if w.Copies {
				says += " copied"
			}
			var names []string
			for _, c := range w.Columns {
				names = append(names, c.Name())
			}
			got = append(got, strings.TrimSpace(says+" "+strings.Join(names, ",")))
		}
		if s := strings.Join(got, "; "); s != want {
			t.Errorf("%s: %q, want %q", text, s, want)
		}
	}
}
