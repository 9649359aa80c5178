package postgres

import (
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

func TestTypes(t *testing.T) {
	domains := map[uint32]domain{7: {base: pgType{oid: 1043, name: "varchar", kind: "b"}, mod: 14, native: "character varying(10)"}, 8: {base: pgType{oid: 7, name: "code", kind: "d"}, mod: -1, native: "code"}}
	for _, c := range []struct {
		name string
		t    pgType
		mod  int32
		want catalog.Type
	}{
		{"bigint", pgType{name: "int8", kind: "b"}, -1, catalog.Type{Family: catalog.Integer, Bits: 64}},
		{"varchar(40)", pgType{name: "varchar", kind: "b"}, 44, catalog.Type{Family: catalog.Text, Length: 40}},
		{"varchar", pgType{name: "varchar", kind: "b"}, -1, catalog.Type{Family: catalog.Text}},
		{"character(3)", pgType{name: "bpchar", kind: "b"}, 7, catalog.Type{Family: catalog.Text, Length: 3, Padded: true}},
		{"numeric(8,2)", pgType{name: "numeric", kind: "b"}, 8<<16 + 2 + 4, catalog.Type{Family: catalog.Decimal, Precision: 8, Scale: 2}},
		{"numeric(2,-3)", pgType{name: "numeric", kind: "b"}, 2<<16 + 2045 + 4, catalog.Type{Family: catalog.Decimal, Precision: 2, Scale: -3}},
		{"timestamptz", pgType{name: "timestamptz", kind: "b"}, -1, catalog.Type{Family: catalog.Timestamp, Zoned: true}},
		{"an enum", pgType{name: "mood", kind: "e"}, -1, catalog.Type{Family: catalog.Enum}},
		{"an array", pgType{name: "_int4", kind: "b", category: "A"}, -1, catalog.Type{Family: catalog.Array}},
		{"a point", pgType{name: "point", kind: "b"}, -1, catalog.Type{Family: catalog.Other}},
		{"a domain", pgType{oid: 7, name: "code", kind: "d"}, -1, catalog.Type{Underlying: "character varying(10)", Family: catalog.Text, Length: 10}},
		{"a domain over it", pgType{oid: 8, name: "short_code", kind: "d"}, -1, catalog.Type{Underlying: "character varying(10)", Family: catalog.Text, Length: 10}},
	} {
		c.want.Native = c.name
		if got := typeOf(c.name, c.t, c.mod, "", domains); got != c.want {
			t.Errorf("%s: %+v, want %+v", c.name, got, c.want)
		}
	}
}

// TestUnfit: what is asked of the data before a type becomes narrower, and
// that nothing is asked where it cannot matter.
func TestUnfit(t *testing.T) {
	number := func(bits int) catalog.Type { return catalog.Type{Native: "n", Family: catalog.Integer, Bits: bits} }
	text := func(n int) catalog.Type { return catalog.Type{Native: "t", Family: catalog.Text, Length: n} }
	digits := func(p, s int) catalog.Type {
		return catalog.Type{Native: "d", Family: catalog.Decimal, Precision: p, Scale: s}
	}
	for _, c := range []struct {
		name     string
		from, to catalog.Type
		want     string // part of the condition; empty: nothing to ask
	}{
		{"wider number", number(32), number(64), ""},
		{"narrower number", number(64), number(32), "NOT BETWEEN -2147483648 AND 2147483647"},
		{"smallest number", number(32), number(16), "NOT BETWEEN -32768 AND 32767"},
		{"longer text", text(5), text(8), ""},
		{"unlimited text", text(5), text(0), ""},
		{"limited text", text(0), text(8), "char_length(c) > 8"},
		{"shorter text", text(9), text(8), "char_length(c) > 8"},
		{"fewer digits", digits(8, 2), digits(6, 1), "c <> round(c, 1) OR abs(c) >= 10::numeric ^ 5"},
		{"any digits", digits(8, 2), digits(0, 0), ""},
		{"another family", number(32), text(8), "IS DISTINCT FROM c"},
	} {
		where := unfit(change.AlterType{Table: catalog.Ref{Schema: "s", Table: "t"}, Column: "c", From: c.from, To: c.to})
		if (where == "") != (c.want == "") || !strings.Contains(where, c.want) {
			t.Errorf("%s: %q", c.name, where)
		}
	}
}

func TestIdent(t *testing.T) {
	for name, want := range map[string]string{"station": "station", "Station": `"Station"`, "user": `"user"`, "a b": `"a b"`, `q"`: `"q"""`, "_x1": "_x1"} {
		if got := ident(name); got != want {
			t.Errorf("%q: %s, want %s", name, got, want)
		}
	}
	if got := relation(catalog.Ref{Schema: "a.b", Table: "c"}); got != `"a.b".c` {
		t.Error(got)
	}
	if got := literal(`it's \ that`); got != `'it''s \ that'` {
		t.Error(got)
	}
}
