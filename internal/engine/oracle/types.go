package oracle

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
)

// described is a type as the dictionary describes a column's.
type described struct {
	base, owner      string
	length, letters  int // bytes, and what was declared
	byLetters        bool
	precision, scale *int
	collation        string
}

// typeOf: https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/Data-Types.html.
func typeOf(d described) catalog.Type {
	base := d.base
	t := catalog.Type{Native: base, Family: catalog.Other}
	sized := func(family catalog.Family, unit string) {
		t.Family, t.Length = family, d.letters
		t.Native = fmt.Sprintf("%s(%d%s)", base, d.letters, unit)
		t.Padded = base == "CHAR" || base == "NCHAR"
		t.Collation = d.collation
	}
	unit := " BYTE"
	if d.byLetters {
		unit = " CHAR"
	}
	switch word, _, _ := strings.Cut(base, "("); {
	case d.owner != "" && base != "XMLTYPE":
		t.Native = qualified(d.owner, base)
	case base == "NUMBER":
		return number(d.precision, d.scale)
	case base == "FLOAT":
		t.Family, t.Bits = catalog.Float, 64
		if d.precision != nil && *d.precision != 126 {
			t.Native = fmt.Sprintf("FLOAT(%d)", *d.precision)
		}
	case base == "BINARY_FLOAT":
		t.Family, t.Bits = catalog.Float, 32
	case base == "BINARY_DOUBLE":
		t.Family, t.Bits = catalog.Float, 64
	case base == "VARCHAR2", base == "CHAR":
		sized(catalog.Text, unit)
	case base == "NVARCHAR2", base == "NCHAR":
		sized(catalog.Text, "")
	case base == "CLOB", base == "NCLOB", base == "LONG":
		t.Family = catalog.Text
	case base == "RAW":
		t.Family, t.Length, t.Native = catalog.Binary, d.length, fmt.Sprintf("RAW(%d)", d.length)
	case base == "BLOB", base == "LONG RAW", base == "BFILE":
		t.Family = catalog.Binary
	case base == "DATE":
		t.Family = catalog.Timestamp // to the second
	case word == "TIMESTAMP":
		t.Family, t.Zoned = catalog.Timestamp, strings.HasSuffix(base, "TIME ZONE")
	case strings.HasPrefix(base, "INTERVAL"):
		t.Family = catalog.Interval
	case base == "BOOLEAN":
		t.Family = catalog.Boolean
	case base == "JSON":
		t.Family = catalog.JSON
	}
	return t
}

// number: a number of so many digits; without any it takes every number of up to 38.
func number(precision, scale *int) catalog.Type {
	t := catalog.Type{Native: "NUMBER", Family: catalog.Decimal}
	switch {
	case precision == nil && scale == nil:
		return t
	case precision == nil:
		t.Precision, t.Scale = 38, *scale
		t.Native = fmt.Sprintf("NUMBER(*,%d)", *scale)
	case scale == nil || *scale == 0:
		t.Precision = *precision
		t.Native = fmt.Sprintf("NUMBER(%d)", *precision)
	default:
		t.Precision, t.Scale = *precision, *scale
		t.Native = fmt.Sprintf("NUMBER(%d,%d)", *precision, *scale)
	}
	if t.Scale == 0 {
		t.Family, t.Bits = catalog.Integer, bitsOf(t.Precision)
	}
	return t
}

// bitsOf is the width of a whole number of so many digits.
func bitsOf(digits int) int { return min(64, int(float64(digits)*math.Log2(10))+1) }

// declared is the type of a declaration as we write it.
func declared(native string) catalog.Type {
	base, rest, sized := strings.Cut(native, "(")
	d := described{base: base}
	if strings.HasPrefix(base, "TIMESTAMP") || strings.HasPrefix(base, "INTERVAL") || !sized {
		d.base = native
		return typeOf(d)
	}
	sizes := strings.Split(strings.TrimSuffix(rest, ")"), ",")
	first, unit, _ := strings.Cut(sizes[0], " ")
	n, err := strconv.Atoi(first)
	if err == nil {
		d.length, d.letters, d.precision = n, n, &n
	}
	d.byLetters = unit == "CHAR"
	if len(sizes) == 2 {
		scale, _ := strconv.Atoi(sizes[1])
		d.scale = &scale
	}
	return typeOf(d)
}

// uncompared are the types whose values the engine neither compares nor groups
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/adlob/restrictions-on-LOBs.html).
func uncompared(t catalog.Type) bool {
	switch t.Native {
	case "CLOB", "NCLOB", "BLOB", "BFILE", "LONG", "LONG RAW":
		return true
	}
	return t.Family == catalog.Other || t.Family == catalog.JSON
}

// obsolete: what the manual advises against
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/Data-Types.html, "LONG Data Type").
func obsolete(t catalog.Type) (string, catalog.Type) {
	const why = "the manual advises against it: a table has one of them at most, and hardly anything works on it"
	switch t.Native {
	case "LONG":
		return why, declared("CLOB")
	case "LONG RAW":
		return why, declared("BLOB")
	}
	return "", catalog.Type{}
}
