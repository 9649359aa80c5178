package ddltext

import (
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// TestEdit: what a change alters in a table's text, and that it leaves the
// rest as it was written.
func TestEdit(t *testing.T) {
	key := func(name string, columns ...string) *catalog.Key { return &catalog.Key{Name: name, Columns: columns} }
	reference := func(name, column string, action catalog.Action) *catalog.ForeignKey {
		return &catalog.ForeignKey{Name: name, Columns: []string{column}, Target: catalog.Ref{Table: "p"}, OnDelete: action, OnUpdate: catalog.NoAction}
	}
	text, number := TypeOf("TEXT", ""), TypeOf("INTEGER", "")
	for _, c := range []struct {
		name, text string
		change     change.Change
		want       string
	}{
		{"type", "(a TEXT /* why */ NOT NULL, b)", change.AlterType{Column: "A", From: text, To: number}, "(a INTEGER /* why */ NOT NULL, b)"},
		{"type of two words", "(a double\n precision, b)", change.AlterType{Column: "a", From: TypeOf("double\n precision", ""), To: number}, "(a INTEGER, b)"},
		{"no type yet", "(a, b)", change.AlterType{Column: "a", From: TypeOf("", ""), To: number}, "(a INTEGER, b)"},
		{"no type yet, constraint", "(a UNIQUE, b)", change.AlterType{Column: "a", From: TypeOf("", ""), To: number}, "(a INTEGER UNIQUE, b)"},
		{"collation comes", "(a TEXT NOT NULL)", change.AlterType{Column: "a", From: text, To: TypeOf("TEXT", "NOCASE")}, "(a TEXT NOT NULL COLLATE NOCASE)"},
		{"collation goes", "(a TEXT COLLATE NOCASE NOT NULL)", change.AlterType{Column: "a", From: TypeOf("TEXT", "NOCASE"), To: text}, "(a TEXT  NOT NULL)"},
		{"null allowed", "(a TEXT CONSTRAINT nn NOT NULL ON CONFLICT IGNORE DEFAULT 'x')", change.SetNullable{Column: "a", Nullable: true}, "(a TEXT DEFAULT 'x')"},
		{"null forbidden", "(a TEXT DEFAULT 'x')", change.SetNullable{Column: "a"}, "(a TEXT NOT NULL DEFAULT 'x')"},
		{"column, one line", "(a, CHECK (a > 1))", change.AddColumn{Column: &catalog.Column{Name: "order", Type: number, Nullable: true}}, `(a, "order" INTEGER, CHECK (a > 1))`},
		{"column with a default", "(a)", change.AddColumn{Column: &catalog.Column{Name: "b", Type: number, Default: "0"}}, `(a, b INTEGER NOT NULL DEFAULT 0)`},
		{"first column gone", "(a, b, c)", change.DropColumn{Column: "a"}, `( b, c)`},
		{"last column gone", "(a,\n b -- last\n)", change.DropColumn{Column: "b"}, "(a -- last\n)"},
		{"column, many lines", "(\n\ta -- last, )\n)", change.AddColumn{Column: &catalog.Column{Name: "id", Type: number, Nullable: true}}, "(\n\ta,\n\tid INTEGER -- last, )\n)"},
		{"key", "(\n  a,\n  b UNIQUE\n) STRICT", change.AddKey{Key: key("k", "b", "a"), Primary: true}, "(\n  a,\n  b UNIQUE,\n  CONSTRAINT k PRIMARY KEY (b, a)\n) STRICT"},
		{"promote of a column", "(a TEXT CONSTRAINT u UNIQUE ON CONFLICT FAIL, b)", change.ReplaceKey{From: change.Uniqueness{Key: key("u", "a")}, To: change.Uniqueness{Primary: true, Key: key("p", "a")}}, "(a TEXT CONSTRAINT p PRIMARY KEY ON CONFLICT FAIL, b)"},
		{"promote of the table", "(a, b, UNIQUE (b, a))", change.ReplaceKey{From: change.Uniqueness{Key: key("", "b", "a")}, To: change.Uniqueness{Primary: true, Key: key("p", "b", "a")}}, "(a, b, CONSTRAINT p PRIMARY KEY (b, a))"},
		{"action of a column", "(a REFERENCES p ON UPDATE CASCADE ON DELETE SET NULL DEFERRABLE)", change.AlterForeignKey{Old: reference("", "a", catalog.SetNull), New: reference("", "a", catalog.Restrict)}, "(a REFERENCES p ON UPDATE CASCADE ON DELETE RESTRICT DEFERRABLE)"},
		{"action that was not given", "(a, CONSTRAINT f FOREIGN KEY (a) REFERENCES p (x) NOT DEFERRABLE)", change.AlterForeignKey{Old: reference("f", "a", catalog.NoAction), New: reference("f", "a", catalog.Restrict)}, "(a, CONSTRAINT f FOREIGN KEY (a) REFERENCES p (x) ON DELETE RESTRICT NOT DEFERRABLE)"},
		{"the right one of two", "(a REFERENCES p ON DELETE SET NULL, b REFERENCES p ON DELETE SET NULL)", change.AlterForeignKey{Old: reference("", "b", catalog.SetNull), New: reference("", "b", catalog.Restrict)}, "(a REFERENCES p ON DELETE SET NULL, b REFERENCES p ON DELETE RESTRICT)"},
	} {
		got, err := Redefine(&catalog.Table{Definition: c.text}, []change.Change{c.change})
		if err != nil || got != c.want {
			t.Errorf("%s: %q (%v), want %q", c.name, got, err, c.want)
		}
	}
}

// TestNotUnderstood: a text that the parser does not know is refused whole.
func TestNotUnderstood(t *testing.T) {
	for _, text := range []string{"", "(", "(a", "(a,", "(a) WITH", "(a REFERENCES)", "(a CHECK", "(CHECK (a)", "(a CONSTRAINT x 5)", "a", "(a) STRICT, WITHOUT", "(a DEFAULT (1, b)"} {
		if _, err := ParseBody(text); err == nil {
			t.Errorf("%q was understood", text)
		}
	}
}

// FuzzParseBody: no text makes the parser hang or fall over.
func FuzzParseBody(f *testing.F) {
	f.Add("(a INTEGER PRIMARY KEY, b TEXT DEFAULT (1) REFERENCES x (y) ON DELETE SET NULL, CHECK (a > 1) UNIQUE (a)) STRICT")
	f.Add("(a CONSTRAINT x, b GENERATED ALWAYS AS (a) STORED)")
	f.Fuzz(func(t *testing.T, s string) {
		if b, err := ParseBody(s); err == nil {
			b.Keys()
			b.References()
			b.Checks()
		}
		ParseIndex("CREATE INDEX i ON t " + s)
	})
}

func TestTypes(t *testing.T) {
	for native, want := range map[string]string{"INT": "number", "VARCHAR(20)": "text", "FLOATING POINT": "number", "": "any value as it comes", "BLOB": "any value as it comes", "REAL": "number", "NUMERIC": "number", "DATE": "number", "CLOB": "text", "ANY": "any value as it comes"} {
		if got := TypeOf(native, "").Class; got != want {
			t.Errorf("%s is %q, want %q", native, got, want)
		}
	}
	for native, want := range map[string]catalog.Family{"varchar(3)": catalog.Text, "BigInt": catalog.Integer, "datetime": catalog.Timestamp, "DATE": catalog.Date, "": catalog.Untyped, "blob": catalog.Binary, "double precision": catalog.Float, "bool": catalog.Boolean, "nonsense": catalog.Other} {
		if got := TypeOf(native, "").Family; got != want {
			t.Errorf("%s is %q, want %q", native, got, want)
		}
	}
}

func TestIdent(t *testing.T) {
	for name, want := range map[string]string{"station": "station", "Station": `"Station"`, "order": `"order"`, "a b": `"a b"`, `q"`: `"q"""`, "": `""`, "1st": `"1st"`} {
		if got := Ident(name); got != want {
			t.Errorf("%q: %s, want %s", name, got, want)
		}
	}
	if !strings.Contains(Idents([]string{"a", "B"}), `a, "B"`) {
		t.Error(Idents([]string{"a", "B"}))
	}
}
