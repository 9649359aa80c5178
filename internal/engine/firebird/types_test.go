package firebird

import (
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/firebird/traits"
)

// TestPlainTypes: what RDB$FIELDS says by numbers, as a statement writes it. A scale makes a decimal of
// a whole number, and so does the subtype; where no precision is kept, it is that of the bytes.
func TestPlainTypes(t *testing.T) {
	for _, x := range []struct {
		kind, sub, length, precision, scale int
		want                                catalog.Type
	}{
		{7, 0, 2, 0, 0, catalog.Type{Native: "SMALLINT", Family: catalog.Integer, Bits: 16}},
		{8, 0, 4, 0, 0, catalog.Type{Native: "INTEGER", Family: catalog.Integer, Bits: 32}},
		{16, 0, 8, 0, 0, catalog.Type{Native: "BIGINT", Family: catalog.Integer, Bits: 64}},
		{26, 0, 16, 0, 0, catalog.Type{Native: "INT128", Family: catalog.Integer, Bits: 128}},
		{7, 1, 2, 4, 2, catalog.Type{Native: "NUMERIC(4,2)", Family: catalog.Decimal, Precision: 4, Scale: 2}},
		{8, 2, 4, 9, 2, catalog.Type{Native: "DECIMAL(9,2)", Family: catalog.Decimal, Precision: 9, Scale: 2}},
		{16, 1, 8, 18, 0, catalog.Type{Native: "NUMERIC(18,0)", Family: catalog.Decimal, Precision: 18}},
		{8, 0, 4, 0, 3, catalog.Type{Native: "NUMERIC(9,3)", Family: catalog.Decimal, Precision: 9, Scale: 3}}, // of an old database
		{16, 0, 8, 0, 4, catalog.Type{Native: "NUMERIC(18,4)", Family: catalog.Decimal, Precision: 18, Scale: 4}},
		{10, 0, 4, 0, 0, catalog.Type{Native: "FLOAT", Family: catalog.Float, Bits: 32}},
		{27, 0, 8, 0, 0, catalog.Type{Native: "DOUBLE PRECISION", Family: catalog.Float, Bits: 64}},
		{24, 0, 8, 16, 0, catalog.Type{Native: "DECFLOAT(16)", Family: catalog.Float, Bits: 64}},
		{25, 0, 16, 34, 0, catalog.Type{Native: "DECFLOAT(34)", Family: catalog.Float, Bits: 128}},
		{12, 0, 4, 0, 0, catalog.Type{Native: "DATE", Family: catalog.Date}},
		{13, 0, 4, 0, 0, catalog.Type{Native: "TIME", Family: catalog.Time}},
		{35, 0, 8, 0, 0, catalog.Type{Native: "TIMESTAMP", Family: catalog.Timestamp}},
		{28, 0, 8, 0, 0, catalog.Type{Native: "TIME WITH TIME ZONE", Family: catalog.Time, Zoned: true}},
		{29, 0, 12, 0, 0, catalog.Type{Native: "TIMESTAMP WITH TIME ZONE", Family: catalog.Timestamp, Zoned: true}},
		{23, 0, 1, 0, 0, catalog.Type{Native: "BOOLEAN", Family: catalog.Boolean}},
		{14, 0, 5, 0, 0, catalog.Type{Native: "CHAR(5)", Family: catalog.Text, Length: 5, Padded: true}},
		{37, 0, 40, 0, 0, catalog.Type{Native: "VARCHAR(40)", Family: catalog.Text, Length: 40}},
		{40, 0, 7, 0, 0, catalog.Type{Native: "CSTRING(7)", Family: catalog.Text, Length: 7}},
		{261, 1, 8, 0, 0, catalog.Type{Native: "BLOB SUB_TYPE TEXT", Family: catalog.Text}},
		{261, 0, 8, 0, 0, catalog.Type{Native: "BLOB SUB_TYPE BINARY", Family: catalog.Binary}},
		{261, -3, 8, 0, 0, catalog.Type{Native: "BLOB SUB_TYPE -3", Family: catalog.Binary}},
		{9, 0, 8, 0, 0, catalog.Type{Native: "type 9", Family: catalog.Other}},
	} {
		if got := plainType(x.kind, x.sub, x.length, x.precision, x.scale); got != x.want {
			t.Errorf("type %d, %d: %+v, want %+v", x.kind, x.sub, got, x.want)
		}
	}
}

// TestLetters: a text in another character set than the database's says so, and a collation where it
// is not the set's own, or the set was given another one; bytes are no text.
func TestLetters(t *testing.T) {
	r := &reader{charset: "UTF8", charsets: map[int]charset{4: {name: "UTF8", usual: "UTF8"}, 21: {name: "ISO8859_1", usual: "ISO8859_1"}, 53: {name: "WIN1252", usual: "WIN_PTBR"}},
		collations: map[[2]int]string{{4, 0}: "UTF8", {4, 3}: "UNICODE_CI", {21, 0}: "ISO8859_1", {21, 6}: "DE_DE", {53, 0}: "WIN1252", {53, 6}: "WIN_PTBR"}}
	for _, x := range []struct {
		kind, sub, set, collation int
		native, collated          string
		family                    catalog.Family
	}{
		{isVarchar, 0, 4, 0, "VARCHAR(9)", "", catalog.Text},
		{isVarchar, 0, 4, 3, "VARCHAR(9)", "UNICODE_CI", catalog.Text},
		{isChar, 0, 21, 6, "CHAR(9) CHARACTER SET ISO8859_1", "DE_DE", catalog.Text},
		{isChar, 0, 21, 0, "CHAR(9) CHARACTER SET ISO8859_1", "", catalog.Text},
		{isVarchar, 0, 53, 0, "VARCHAR(9) CHARACTER SET WIN1252", "WIN1252", catalog.Text}, // not what goes without saying
		{isBlob, 1, 53, 6, "BLOB SUB_TYPE TEXT CHARACTER SET WIN1252", "WIN_PTBR", catalog.Text},
		{isVarchar, 0, 1, 0, "VARCHAR(9) CHARACTER SET OCTETS", "", catalog.Binary},
		{isBlob, 0, 4, 3, "BLOB SUB_TYPE BINARY", "", catalog.Binary},
		{isInteger, 0, 4, 3, "INTEGER", "", catalog.Integer},
		{isVarchar, 0, -1, 0, "VARCHAR(9)", "", catalog.Text},
	} {
		got := r.typed(x.kind, x.sub, 9, 0, 0, x.set, x.collation)
		if got.Native != x.native || got.Collation != x.collated || got.Family != x.family {
			t.Errorf("type %d in set %d, %d: %+v, want %s %s", x.kind, x.set, x.collation, got, x.native, x.collated)
		}
	}
}

// TestSources: what the engine keeps with a text, without the word that it stands behind.
func TestSources(t *testing.T) {
	for _, x := range []struct{ text, word, want string }{
		{"DEFAULT 0", "default", "0"},
		{" default  'DEFAULT'", "default", "'DEFAULT'"},
		{"= 5", "default", "5"},
		{"/* of old */ DEFAULT CURRENT_DATE", "default", "CURRENT_DATE"},
		{"CHECK (VALUE <> '')", "check", "VALUE <> ''"},
		{"check((a > 0) OR (b > 0))", "check", "(a > 0) OR (b > 0)"},
		{"a > 0", "check", "a > 0"},
		{"", "default", ""},
	} {
		if got := source(x.text, x.word); got != x.want {
			t.Errorf("%q: %q, want %q", x.text, got, x.want)
		}
	}
}

// TestUncompared: values that lie apart from their rows, lists and bytes are not told apart; a domain is
// what it is made of.
func TestUncompared(t *testing.T) {
	for _, x := range []struct {
		t    catalog.Type
		want bool
	}{
		{catalog.Type{Native: "BLOB SUB_TYPE TEXT", Family: catalog.Text}, true},
		{catalog.Type{Native: "NOTES", Underlying: "BLOB SUB_TYPE TEXT", Family: catalog.Text}, true},
		{catalog.Type{Native: "BLOBS", Underlying: "VARCHAR(9)", Family: catalog.Text}, false},
		{catalog.Type{Native: "INTEGER [3]", Family: catalog.Array}, true},
		{catalog.Type{Native: "CHAR(8) CHARACTER SET OCTETS", Family: catalog.Binary}, true},
		{catalog.Type{Native: "VARCHAR(9)", Family: catalog.Text}, false},
		{catalog.Type{Native: "INTEGER", Family: catalog.Integer}, false},
	} {
		if got := traits.Uncompared(x.t); got != x.want {
			t.Errorf("%+v: %v", x.t, got)
		}
	}
}
