package sqllex

import (
	"fmt"
	"strings"
	"testing"
)

// TestConflicts: the columns that an ON CONFLICT is to look at, and the table whose they are.
func TestConflicts(t *testing.T) {
	d := Dialect{DollarStrings: true, EscapeStrings: true, NestedComments: true, Infers: true}
	for text, want := range map[string]string{
		`INSERT INTO a VALUES (1) ON CONFLICT (x, "Y z") DO NOTHING`:                                                                  `a: x,Y z`,
		`INSERT INTO tide."b c" (x) SELECT 1 ON CONFLICT (x COLLATE "C" text_pattern_ops, y) WHERE z > (1) DO UPDATE SET x = f(1, 2)`: `b c: x,y`,
		`INSERT INTO a VALUES (1) ON CONFLICT (lower(x), y) DO NOTHING`:                                                               `a: y and others`,
		`INSERT INTO a VALUES (1) ON CONFLICT (x, (y + 1)) DO NOTHING; INSERT INTO b VALUES (1) ON CONFLICT (z) DO NOTHING`:           `a: x and others; b: z`,
		`BEGIN EXECUTE 'INSERT INTO a VALUES ($1) ON CONFLICT (x) DO NOTHING'; END`:                                                   `a: x`,
		`INSERT INTO a VALUES (1) ON CONFLICT DO NOTHING`:                                                                             ``,
		`INSERT INTO a VALUES (1) ON CONFLICT ON CONSTRAINT "x Y" DO NOTHING`:                                                         `a: by "x Y"`,
		`CREATE TABLE a (x int UNIQUE ON CONFLICT REPLACE)`:                                                                           ``,
		`SELECT conflict FROM a`:                  ``,
		`INSERT INTO a VALUES (1) ON CONFLICT (x`: `a: x`,
		`INSERT OR IGNORE INTO main.a VALUES (1) ON CONFLICT(x)DO UPDATE SET y=excluded.y WHERE x IN (SELECT z FROM b)`: `a: x`,
	} {
		var got []string
		for _, c := range Conflicts(d, text) {
			says := c.Table + ": " + strings.Join(c.Columns, ",")
			if c.Others {
				says += " and others"
			}
			if c.Constraint.Text != "" {
				says += "by " + c.Constraint.Text
			}
			got = append(got, says)
		}
		if s := strings.Join(got, "; "); s != want {
			t.Errorf("%s: %q, want %q", text, s, want)
		}
	}
	if got := Conflicts(Dialect{}, "INSERT INTO a VALUES (1) ON CONFLICT (x) DO NOTHING"); got != nil {
		t.Error(fmt.Sprint(got))
	}
}
