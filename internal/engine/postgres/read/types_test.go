package read

import (
	"testing"

	"nexdal/internal/catalog"
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
