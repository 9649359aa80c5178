package traits

import (
	"strings"

	"nexdal/internal/catalog"
)

// families by DATA_TYPE of information_schema.COLUMNS
// (https://mariadb.com/kb/en/data-types/).
var families = map[string]struct {
	family catalog.Family
	bits   int
}{
	"tinyint": {catalog.Integer, 8}, "smallint": {catalog.Integer, 16}, "mediumint": {catalog.Integer, 24}, "int": {catalog.Integer, 32}, "bigint": {catalog.Integer, 64},
	"year": {catalog.Integer, 8}, "bit": {catalog.Binary, 0}, "decimal": {catalog.Decimal, 0}, "float": {catalog.Float, 32}, "double": {catalog.Float, 64},
	"char": {catalog.Text, 0}, "varchar": {catalog.Text, 0}, "tinytext": {catalog.Text, 0}, "text": {catalog.Text, 0}, "mediumtext": {catalog.Text, 0}, "longtext": {catalog.Text, 0},
	"binary": {catalog.Binary, 0}, "varbinary": {catalog.Binary, 0}, "tinyblob": {catalog.Binary, 0}, "blob": {catalog.Binary, 0}, "mediumblob": {catalog.Binary, 0}, "longblob": {catalog.Binary, 0},
	"date": {catalog.Date, 0}, "time": {catalog.Time, 0}, "datetime": {catalog.Timestamp, 0}, "timestamp": {catalog.Timestamp, 0},
	"enum": {catalog.Enum, 0}, "set": {catalog.Enum, 0}, "uuid": {catalog.UUID, 0}, "json": {catalog.JSON, 0},
}

// TypeOf is a type as COLUMNS describes it.
func TypeOf(data, native, collation string, length, precision, scale *int64) catalog.Type {
	t := catalog.Type{Native: native, Family: catalog.Other, Collation: collation}
	if known, ok := families[data]; ok {
		t.Family, t.Bits = known.family, known.bits
	}
	switch t.Family {
	case catalog.Integer:
		t.Unsigned = strings.Contains(native, "unsigned")
	case catalog.Text, catalog.Binary:
		t.Padded = data == "char" || data == "binary"
		if length != nil && *length < 1<<31-1 {
			t.Length = int(*length)
		}
	case catalog.Decimal:
		if precision != nil && scale != nil {
			t.Precision, t.Scale = int(*precision), int(*scale)
		}
	case catalog.Timestamp:
		t.Zoned = data == "timestamp" // kept as a moment, shown in the session's zone
	}
	return t
}
