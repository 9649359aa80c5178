package sqllex

import (
	"slices"
	"strings"
	"testing"
)

var (
	mysql    = Dialect{Backquotes: true, Backslashes: true, HashComments: true, CodeComments: true, Delimiters: true}
	sqlite   = Dialect{Backquotes: true, Brackets: true, Directives: "."}
	oracle   = Dialect{National: true, ChosenQuotes: true, Slashes: true, Capitals: true}
	postgres = Dialect{DollarStrings: true, EscapeStrings: true, NestedComments: true, Directives: `\`}
)

// TestStatements: where one statement ends and the next begins.
func TestStatements(t *testing.T) {
	for _, c := range []struct {
		name    string
		dialect Dialect
		text    string
		want    []string
	}{
		{"plain", sqlite, "SELECT 1; SELECT 2", []string{"SELECT 1", "SELECT 2"}},
		{"empty ones", sqlite, ";;\n ; SELECT 1;;", []string{"SELECT 1"}},
		{"in a string", sqlite, "SELECT 'a;''b;'; SELECT 2", []string{"SELECT 'a;''b;'", "SELECT 2"}},
		{"in quoted names", sqlite, "SELECT \"a;\"\"\", `b;`, [c;]; SELECT 2", []string{"SELECT \"a;\"\"\", `b;`, [c;]", "SELECT 2"}},
		{"in comments", sqlite, "SELECT /* ; */ 1 -- ;\n, 2; SELECT 3", []string{"SELECT /* ; */ 1 -- ;\n, 2", "SELECT 3"}},
		{"trigger", sqlite, "CREATE TRIGGER t AFTER INSERT ON a BEGIN SELECT CASE 1 WHEN 1 THEN 2 END; DELETE FROM b; END; SELECT 1",
			[]string{"CREATE TRIGGER t AFTER INSERT ON a BEGIN SELECT CASE 1 WHEN 1 THEN 2 END; DELETE FROM b; END", "SELECT 1"}},
		{"temporary trigger", sqlite, "create temp trigger t after insert on a begin delete from b; end; select 1", []string{"create temp trigger t after insert on a begin delete from b; end", "select 1"}},
		{"trigger without a body", postgres, "CREATE TRIGGER t AFTER INSERT ON a EXECUTE FUNCTION f(); SELECT 1", []string{"CREATE TRIGGER t AFTER INSERT ON a EXECUTE FUNCTION f()", "SELECT 1"}},
		{"dollar string", postgres, "DO $$ BEGIN; END; $$; SELECT $a$ ; $$ ; $a$", []string{"DO $$ BEGIN; END; $$", "SELECT $a$ ; $$ ; $a$"}},
		{"a parameter is no string", postgres, "SELECT $1; SELECT 2", []string{"SELECT $1", "SELECT 2"}},
		{"escapes", postgres, `SELECT E'a\';b'; SELECT 'c\'; SELECT 3`, []string{`SELECT E'a\';b'`, `SELECT 'c\'`, "SELECT 3"}},
		{"nested comment", postgres, "/* a /* ; */ ; */ SELECT 1; SELECT 2", []string{"SELECT 1", "SELECT 2"}},
		{"no nesting", sqlite, "/* a /* ; */ SELECT 1; SELECT 2", []string{"SELECT 1", "SELECT 2"}},
		{"code in comments", mysql, "/*!40101 SET NAMES utf8 */; /* ; */ CREATE TABLE a (b int /*!80023 INVISIBLE */) /*M! ; */; SELECT 2*/* ; */3",
			[]string{"/*!40101 SET NAMES utf8 */", "CREATE TABLE a (b int /*!80023 INVISIBLE */) /*M! ; */", "SELECT 2*/* ; */3"}},
		{"directives", sqlite, ".bail on\nSELECT 1;\n.print ;\nSELECT .5", []string{"SELECT 1", "SELECT .5"}},
		{"a point within", sqlite, "SELECT 1\n.5; SELECT 2", []string{"SELECT 1\n.5", "SELECT 2"}},
		{"backslash", postgres, "\\set ON_ERROR_STOP on\nSELECT 1", []string{"SELECT 1"}},
		{"chosen quotes", oracle, "SELECT q'[a;'b]', Q'!;!', nq'{;}', q'(a)b;)' FROM dual; SELECT q", []string{"SELECT q'[a;'b]', Q'!;!', nq'{;}', q'(a)b;)' FROM dual", "SELECT q"}},
		{"a chosen quote in another dialect", postgres, "SELECT q'[a;'; SELECT 2", []string{"SELECT q'[a;'", "SELECT 2"}},
		{"block", oracle, "BEGIN\n  a; b;\nEND;\n/\nSELECT 1;", []string{"BEGIN\n  a; b;\nEND;", "SELECT 1"}},
		{"block with a slash in it", oracle, "DECLARE n NUMBER; BEGIN n := 4\n  / 2; END;\n/\nSELECT 1", []string{"DECLARE n NUMBER; BEGIN n := 4\n  / 2; END;", "SELECT 1"}},
		{"stored code", oracle, "CREATE OR REPLACE PACKAGE BODY p AS PROCEDURE a IS BEGIN NULL; END; END;\n/\nDROP TABLE a;", []string{"CREATE OR REPLACE PACKAGE BODY p AS PROCEDURE a IS BEGIN NULL; END; END;", "DROP TABLE a"}},
		{"unfinished", sqlite, "SELECT 'abc; SELECT 2", []string{"SELECT 'abc; SELECT 2"}},
	} {
		var got []string
		for _, s := range c.dialect.Statements(c.text) {
			if s.Text != "" {
				got = append(got, s.Text)
			}
		}
		if !slices.Equal(got, c.want) {
			t.Errorf("%s: %q, want %q", c.name, got, c.want)
		}
	}
}

// TestLead: comments before a statement come with it apart, those behind it are in its text.
func TestLead(t *testing.T) {
	got := sqlite.Statements("-- one\n/* two */ SELECT 1 -- three\n; -- four\nSELECT 2;\n-- five")
	want := []Statement{{[]string{"-- one", "/* two */"}, "SELECT 1 -- three"}, {[]string{"-- four"}, "SELECT 2"}, {[]string{"-- five"}, ""}}
	if !slices.EqualFunc(got, want, func(a, b Statement) bool { return a.Text == b.Text && slices.Equal(a.Lead, b.Lead) }) {
		t.Errorf("%q", got)
	}
}

func TestName(t *testing.T) {
	for text, want := range map[string]string{`plain`: "plain", `"a""b"`: `a"b`, "`a``b`": "a`b", `[a b]`: "a b", `'it''s'`: "it's", `"`: `"`} {
		if got := sqlite.Tokens(text)[0].Name(); got != want {
			t.Errorf("%s: %q, want %q", text, got, want)
		}
	}
}

// FuzzTokens: the tokens together are the text, whatever it is.
func FuzzTokens(f *testing.F) {
	for _, s := range []string{"SELECT 1", "'", `"`, "/*", "$$", "$a$ $", "E'\\", "x'", "--", "[", "\x00\xff;", ".\n.", "$1$"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		for _, d := range []Dialect{sqlite, postgres} {
			var b strings.Builder
			for _, tok := range d.Tokens(s) {
				if tok.Text == "" || s[tok.Start:tok.End] != tok.Text {
					t.Fatalf("token %+v of %q", tok, s)
				}
				b.WriteString(tok.Text)
			}
			if b.String() != s {
				t.Fatalf("%q became %q", s, b.String())
			}
			d.Statements(s)
		}
	})
}

// TestEnded: a statement comes back as one, whatever stands in it.
func TestEnded(t *testing.T) {
	maria := Dialect{Backquotes: true, Backslashes: true, HashComments: true, Delimiters: true}
	plain := Dialect{DollarStrings: true}
	for _, c := range []struct {
		d   Dialect
		sql string
	}{
		{maria, "SELECT 1"}, {maria, "CREATE PROCEDURE p() BEGIN SELECT 1; SELECT 'it\\'s; $$'; END"}, {maria, "CREATE TRIGGER t BEFORE INSERT ON `a;b` FOR EACH ROW SET NEW.x = 'a;b'"},
		{maria, "CREATE FUNCTION f() RETURNS int # a comment; here\nRETURN 1"}, {maria, "CREATE PROCEDURE p() BEGIN\nSET @a = '$$'; -- // ; \nEND"},
		{plain, "CREATE FUNCTION f() RETURNS int LANGUAGE sql BEGIN ATOMIC SELECT 1; SELECT 2; END"},
		{plain, "CREATE OR REPLACE PROCEDURE p() LANGUAGE sql BEGIN ATOMIC INSERT INTO t VALUES (CASE WHEN true THEN 1 ELSE 2 END); END"},
		{plain, "CREATE FUNCTION f() RETURNS int LANGUAGE sql AS 'SELECT 1; SELECT 2'"},
		{plain, "CREATE VIEW v AS SELECT 1 -- the last; word"}, {maria, "CREATE VIEW v AS SELECT 1 # the last word"}, {maria, "CREATE PROCEDURE p() BEGIN SELECT 1; END -- the last word"}, {plain, "CREATE VIEW v AS SELECT 1 /* the last word */"},
	} {
		text := "SELECT 'before';\n" + c.d.Ended(c.sql) + "\nSELECT 'behind';\n"
		var got []string
		for _, s := range c.d.Statements(text) {
			if s.Text != "" {
				got = append(got, strings.TrimSpace(s.Text))
			}
		}
		if len(got) != 3 || got[1] != c.sql || got[2] != "SELECT 'behind'" {
			t.Errorf("%q was cut into %q", text, got)
		}
	}
}
