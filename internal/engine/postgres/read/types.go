package read

import (
	"nexdal/internal/catalog"
)

// pgType is what pg_type says of a column's type.
type pgType struct {
	oid       uint32
	name      string // of the type itself: "int4"
	kind      string // typtype: b, d, e, ...
	category  string // typcategory
	collation uint32 // of its values, unless a column says otherwise
	storage   byte   // typstorage, likewise
}

// A domain is a type that restricts another.
type domain struct {
	base   pgType
	mod    int32  // the base's type modifier
	native string // the base, written out
}

// families by the system's own type names
// (https://www.postgresql.org/docs/current/datatype.html).
var families = map[string]struct {
	family catalog.Family
	bits   int
}{
	"int2": {catalog.Integer, 16}, "int4": {catalog.Integer, 32}, "int8": {catalog.Integer, 64},
	"numeric": {catalog.Decimal, 0}, "money": {catalog.Decimal, 0},
	"float4": {catalog.Float, 32}, "float8": {catalog.Float, 64},
	"text": {catalog.Text, 0}, "varchar": {catalog.Text, 0}, "bpchar": {catalog.Text, 0}, "name": {catalog.Text, 0}, "citext": {catalog.Text, 0},
	"bytea": {catalog.Binary, 0}, "bool": {catalog.Boolean, 0}, "date": {catalog.Date, 0},
	"time": {catalog.Time, 0}, "timetz": {catalog.Time, 0}, "timestamp": {catalog.Timestamp, 0}, "timestamptz": {catalog.Timestamp, 0},
	"interval": {catalog.Interval, 0}, "uuid": {catalog.UUID, 0}, "json": {catalog.JSON, 0}, "jsonb": {catalog.JSON, 0},
}

// typeOf builds a column's type; domains are followed down to what is stored.
func typeOf(native string, t pgType, mod int32, collation string, domains map[uint32]domain) catalog.Type {
	out := catalog.Type{Native: native, Collation: collation}
	for t.kind == "d" {
		d, ok := domains[t.oid]
		if !ok {
			break
		}
		t, mod, out.Underlying = d.base, d.mod, d.native
	}
	known, ok := families[t.name]
	switch {
	case ok:
		out.Family, out.Bits = known.family, known.bits
	case t.kind == "e":
		out.Family = catalog.Enum
	case t.category == "A":
		out.Family = catalog.Array
	default:
		out.Family = catalog.Other
	}
	switch t.name {
	case "varchar", "bpchar":
		out.Padded = t.name == "bpchar"
		if mod > 4 {
			out.Length = int(mod - 4)
		}
	case "numeric":
		if mod > 4 {
			out.Precision = int((mod-4)>>16) & 0xffff
			out.Scale = int((mod-4)&0x7ff ^ 1024 - 1024)
		}
	case "timetz", "timestamptz":
		out.Zoned = true
	}
	return out
}
