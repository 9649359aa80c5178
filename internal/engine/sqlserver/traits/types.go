package traits

import (
	"fmt"

	"nexdal/internal/catalog"
)

// families by the names of sys.types (https://learn.microsoft.com/en-us/sql/t-sql/data-types/data-types-transact-sql).
var families = map[string]struct {
	family catalog.Family
	bits   int
}{
	"tinyint": {catalog.Integer, 8}, "smallint": {catalog.Integer, 16}, "int": {catalog.Integer, 32}, "bigint": {catalog.Integer, 64}, "bit": {catalog.Boolean, 0},
	"decimal": {catalog.Decimal, 0}, "numeric": {catalog.Decimal, 0}, "money": {catalog.Decimal, 0}, "smallmoney": {catalog.Decimal, 0}, "real": {catalog.Float, 32}, "float": {catalog.Float, 64},
	"char": {catalog.Text, 0}, "varchar": {catalog.Text, 0}, "text": {catalog.Text, 0}, "nchar": {catalog.Text, 0}, "nvarchar": {catalog.Text, 0}, "ntext": {catalog.Text, 0}, "sysname": {catalog.Text, 0},
	"binary": {catalog.Binary, 0}, "varbinary": {catalog.Binary, 0}, "image": {catalog.Binary, 0}, "timestamp": {catalog.Binary, 0},
	"date": {catalog.Date, 0}, "time": {catalog.Time, 0}, "datetime": {catalog.Timestamp, 0}, "smalldatetime": {catalog.Timestamp, 0}, "datetime2": {catalog.Timestamp, 0}, "datetimeoffset": {catalog.Timestamp, 0},
	"uniqueidentifier": {catalog.UUID, 0}, "json": {catalog.JSON, 0},
}

// TypeOf is a type as sys.columns describes it. A length is in bytes there, -1 for no limit; the
// letters of an n-type take two each.
func TypeOf(base string, length, precision, scale int, collation string) catalog.Type {
	known, ok := families[base]
	t := catalog.Type{Native: base, Family: catalog.Other}
	if ok {
		t.Family, t.Bits = known.family, known.bits
	}
	switch base {
	case "char", "nchar", "varchar", "nvarchar", "binary", "varbinary":
		size := "max"
		if length >= 0 {
			if base[0] == 'n' {
				length /= 2
			}
			t.Length, size = length, fmt.Sprint(length)
		}
		t.Native = fmt.Sprintf("%s(%s)", base, size)
		t.Padded = base == "char" || base == "nchar" || base == "binary"
	case "sysname":
		t.Length = 128
	case "decimal", "numeric":
		t.Native = fmt.Sprintf("%s(%d,%d)", base, precision, scale)
		t.Precision, t.Scale = precision, scale
	case "money":
		t.Precision, t.Scale = 19, 4
	case "smallmoney":
		t.Precision, t.Scale = 10, 4
	case "time", "datetime2", "datetimeoffset":
		t.Native = fmt.Sprintf("%s(%d)", base, scale)
		t.Zoned = base == "datetimeoffset"
	case "tinyint":
		t.Unsigned = true
	case "timestamp":
		t.Native, t.Length = "rowversion", 8
	}
	if t.Family == catalog.Text {
		t.Collation = collation
	}
	return t
}

// Obsolete: what the manual advises against
// (https://learn.microsoft.com/en-us/sql/t-sql/data-types/ntext-text-and-image-transact-sql,
// https://learn.microsoft.com/en-us/sql/t-sql/data-types/datetime-transact-sql).
func Obsolete(t catalog.Type) (string, catalog.Type) {
	as := func(base string, scale int) catalog.Type { return TypeOf(base, -1, 0, scale, t.Collation) }
	switch t.Native {
	case "text":
		return "the manual says that it will be removed", as("varchar", 0)
	case "ntext":
		return "the manual says that it will be removed", as("nvarchar", 0)
	case "image":
		return "the manual says that it will be removed", as("varbinary", 0)
	case "datetime":
		return "the manual advises against it for new work: its steps are of 3 milliseconds", as("datetime2", 3)
	case "smalldatetime":
		return "the manual advises against it for new work: it knows no seconds", as("datetime2", 0)
	}
	return "", catalog.Type{}
}
