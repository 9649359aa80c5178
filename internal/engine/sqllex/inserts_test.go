package sqllex

import (
	"fmt"
	"strings"
	"testing"
)

// TestInserts: what each text inserts into, which columns it names ("*": it names none), and
// which of its values are a plain NULL.
func TestInserts(t *testing.T) {
	plain := Dialect{Backquotes: true, DollarStrings: true}
	for _, c := range []struct{ text, want string }{
		{"INSERT INTO visit (a, \"b c\") VALUES (1, NULL)", "visit(a b c)[1]"},
		{"insert into saltmere.visit values (null, 'null', NULL), (1, null, 2)", "visit*[0 2 1]"},
		{"INSERT INTO visit AS v (a) VALUES (f(NULL, 1))", "visit(a)"},
		{"INSERT INTO visit DEFAULT VALUES", "visit()"},
		{"INSERT INTO visit () VALUES ()", "visit()"},
		{"INSERT INTO visit SELECT * FROM old", "visit*"},
		{"INSERT INTO visit (SELECT a FROM old)", "visit*"},
		{"INSERT INTO visit (WITH x AS (SELECT 1) SELECT * FROM x)", "visit*"},
		{"INSERT IGNORE INTO `a b`.`c``d` SET x = 1, y = NULL; UPDATE z SET q = 2", "c`d(x y)"},
		{"INSERT OR REPLACE INTO visit(a) VALUES (1)", "visit(a)"},
		{"REPLACE INTO visit VALUES (1)", "visit*"},
		{"SELECT replace(a, 'b', 'c') INTO visit FROM t", ""},
		{"SELECT a INTO visit FROM t; INSERT INTO berth (a) VALUES (1) RETURNING a INTO visit", "berth(a)"},
		{"INSERT ALL INTO a (x) VALUES (1) INTO b VALUES (NULL) SELECT 1 FROM dual", "a(x) b*[0]"},
		{"MERGE INTO visit USING t ON (1 = 1) WHEN NOT MATCHED THEN INSERT (a) VALUES (1)", ""},
		{"INSERT INTO visit (a) OVERRIDING SYSTEM VALUE VALUES (NULL)", "visit(a)[0]"},
		{"-- INSERT INTO no VALUES (1)\n/* INSERT INTO no VALUES (1) */", ""},
		{"CREATE FUNCTION f() AS $f$ BEGIN INSERT INTO visit (a) VALUES ('x, y', NULL); END $f$", "visit(a)[1]"},
		{"BEGIN EXECUTE IMMEDIATE 'INSERT INTO visit VALUES (''it'', NULL)'; END", "visit*[1]"},
		{"INSERT INTO", ""},
		{"INSERT INTO visit (a, b", "visit(a b)"},
		{"INSERT INTO t.", ""},
	} {
		var got []string
		for _, in := range Inserts(plain, c.text) {
			columns := make([]string, len(in.Columns))
			for i, k := range in.Columns {
				columns[i] = k.Name()
			}
			says := in.Table.Name() + "(" + strings.Join(columns, " ") + ")"
			if !in.Listed {
				says = in.Table.Name() + "*"
			}
			if in.Nulls != nil {
				says += fmt.Sprint(in.Nulls)
			}
			got = append(got, says)
		}
		if is := strings.Join(got, " "); is != c.want {
			t.Errorf("%s\n has %s\nwant %s", c.text, is, c.want)
		}
	}
}

// TestUpdates: which columns of which table each text sets to a plain NULL.
func TestUpdates(t *testing.T) {
	plain := Dialect{Backquotes: true, DollarStrings: true}
	for _, c := range []struct{ text, want string }{
		{"UPDATE visit SET a = NULL", "visit: a"},
		{"update only saltmere.\"Visit\" as v set v.a = 1, b = null, c = NULL where d = null", "Visit: b c"},
		{"UPDATE OR IGNORE visit SET a = NULL WHERE b = 1; UPDATE berth SET c = NULL", "visit: a berth: c"},
		{"UPDATE visit v SET a = coalesce(b, NULL), c = (SELECT d = NULL FROM x)", ""},
		{"UPDATE visit SET a = NULL FROM berth WHERE b = NULL", "visit: a"},
		{"UPDATE visit SET a = 1", ""},
		{"INSERT INTO visit (a) VALUES (1) ON CONFLICT DO UPDATE SET a = NULL", ""},
		{"INSERT INTO visit (a) VALUES (1) ON DUPLICATE KEY UPDATE a = NULL", ""},
		{"SELECT 1 FOR UPDATE; SET x = NULL", ""},
		{"CREATE FUNCTION f() AS $f$ BEGIN UPDATE visit SET a = NULL; END $f$", "visit: a"},
		{"EXECUTE IMMEDIATE 'UPDATE visit SET a = NULL'", "visit: a"},
		{"CREATE TRIGGER x AFTER UPDATE ON visit BEGIN UPDATE berth SET a = NULL; END", "berth: a"},
		{"UPDATE visit JOIN berth ON b = c SET a = NULL", ""},
		{"UPDATE visit SET a = NULL || 'x'", ""},
		{"EXECUTE 'UPDATE ' || t || ' SET a = NULL, b = 1 WHERE c = ' || n", ": a"},
		{"EXECUTE 'UPDATE visit' || ' SET a = ' || x", ""},
		{"UPDATE", ""}, {"UPDATE visit", ""}, {"UPDATE visit SET", ""}, {"UPDATE visit.", ""},
	} {
		var got []string
		for _, u := range Updates(plain, c.text) {
			var nulls []string
			for _, a := range u.Sets {
				if a.Null() {
					nulls = append(nulls, a.Column.Name())
				}
			}
			if nulls != nil {
				got = append(append(got, u.Table.Name()+":"), nulls...)
			}
		}
		if is := strings.Join(got, " "); is != c.want {
			t.Errorf("%s\n has %s\nwant %s", c.text, is, c.want)
		}
	}
}

// TestAssigned: what columns are set to, which of it is plain, and what moves what was there.
func TestAssigned(t *testing.T) {
	for text, want := range map[string]string{
		"UPDATE visit SET a = 1":                                   "a=1",
		"UPDATE visit SET a = 'x', b = b + 1 WHERE c = 3":          "a='x' b+",
		"UPDATE visit v SET v.a = v.a - 1, b = f(a, 2), c = NULL":  "a+ b c=NULL",
		"UPDATE visit SET a = (SELECT max(a) + 1 FROM visit)":      "a+",
		"UPDATE visit SET a = b + 1 ORDER BY c":                    "a",
		"UPDATE visit SET a = -1, b = 2 - 1, c = +1":               "a=-1 b c",
		"UPDATE visit SET (a, b) = (1, 2)":                         "",
		"UPDATE visit SET":                                         "",
		"DO $$ BEGIN UPDATE visit SET no = no + 1; a := b; END $$": "no+",
	} {
		var got []string
		for _, u := range Updates(Dialect{DollarStrings: true}, text) {
			for _, a := range u.Sets {
				says := a.Column.Name()
				if v, ok := a.Plain(); ok {
					says += "=" + v.Text
				} else if a.Null() {
					says += "=NULL"
				}
				if a.Moves() {
					says += "+"
				}
				got = append(got, says)
			}
		}
		if is := strings.Join(got, " "); is != want {
			t.Errorf("%s\n has %s\nwant %s", text, is, want)
		}
	}
}

// TestTruncated: which tables are emptied together.
func TestTruncated(t *testing.T) {
	for text, want := range map[string]string{
		"TRUNCATE visit": "visit", "TRUNCATE TABLE ONLY a.visit, berth CASCADE; SELECT 1": "TABLE ONLY a . visit , berth CASCADE", "SELECT truncate(a, 2) FROM visit": "", "EXECUTE 'TRUNCATE ' || n": "",
		"EXECUTE 'TRUNCATE visit'": "visit", "TRUNCATE a; TRUNCATE b": "a | b", "DELETE FROM visit": "",
	} {
		var all []string
		for _, names := range Truncated(Dialect{}, text) {
			var one []string
			for _, n := range names {
				one = append(one, n.Text)
			}
			all = append(all, strings.Join(one, " "))
		}
		if got := strings.Join(all, " | "); got != want {
			t.Errorf("%s: %q, want %q", text, got, want)
		}
	}
}
