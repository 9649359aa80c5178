package oracle

import (
	"fmt"
	"math"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/standin/grammar"
)

// readType reads a type
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/Data-Types.html).
func readType(c *grammar.Cursor) catalog.Type {
	word := strings.ToUpper(c.Word())
	sized := func(most int64, otherwise int64) int64 {
		n := otherwise
		if c.Take("(") {
			n = c.Number()
			if n < 1 || n > most {
				grammar.Fail(refuse(910, "specified length too long for its datatype"))
			}
		}
		return n
	}
	unit := func() string {
		switch {
		case c.Take("CHAR"):
			return " CHAR"
		case c.Take("BYTE"):
			return " BYTE"
		}
		return " BYTE"
	}
	text := func(name string, most, otherwise int64, units bool) catalog.Type {
		t := catalog.Type{Family: catalog.Text, Native: name, Padded: name == "CHAR" || name == "NCHAR"}
		says := ""
		bracket := c.Is("(")
		if !bracket && otherwise == 0 {
			grammar.Fail(refuse(906, "missing left parenthesis"))
		}
		t.Length = int(sized(most, otherwise))
		if units {
			says = " BYTE"
			if bracket {
				says = unit()
			}
		}
		if bracket {
			c.Need(")")
		}
		t.Native = fmt.Sprintf("%s(%d%s)", name, t.Length, says)
		return t
	}
	switch word {
	case "NUMBER", "NUMERIC", "DECIMAL", "DEC":
		if !c.Take("(") {
			if word == "NUMBER" {
				return number(-1, -1)
			}
			return number(-1, 0)
		}
		precision, scale := int64(-1), int64(0)
		if !c.Take("*") {
			if precision = c.Number(); precision < 1 || precision > 38 {
				grammar.Fail(refuse(1727, "numeric precision specifier is out of range (1 to 38)"))
			}
		}
		if c.Take(",") {
			scale = c.Number()
		}
		c.Need(")")
		return number(int(precision), int(scale))
	case "INTEGER", "INT", "SMALLINT":
		return number(-1, 0)
	case "FLOAT", "REAL":
		n := map[string]int64{"FLOAT": 126, "REAL": 63}[word]
		if c.Is("(") {
			n = sized(126, 126)
			c.Need(")")
		}
		if n == 126 {
			return catalog.Type{Native: "FLOAT", Family: catalog.Float, Bits: 64}
		}
		return catalog.Type{Native: fmt.Sprintf("FLOAT(%d)", n), Family: catalog.Float, Bits: 64}
	case "DOUBLE":
		c.Need("PRECISION")
		return catalog.Type{Native: "FLOAT", Family: catalog.Float, Bits: 64}
	case "BINARY_FLOAT", "BINARY_DOUBLE":
		return catalog.Type{Native: word, Family: catalog.Float, Bits: 64}
	case "VARCHAR2", "VARCHAR":
		return text("VARCHAR2", 4000, 0, true)
	case "CHAR":
		return text("CHAR", 2000, 1, true)
	case "NVARCHAR2":
		return text("NVARCHAR2", 2000, 0, false)
	case "NCHAR":
		return text("NCHAR", 1000, 1, false)
	case "CLOB", "NCLOB":
		return catalog.Type{Native: word, Family: catalog.Text}
	case "BLOB", "BFILE":
		return catalog.Type{Native: word, Family: catalog.Binary}
	case "RAW":
		n := sized(2000, 0)
		c.Need(")")
		return catalog.Type{Native: fmt.Sprintf("RAW(%d)", n), Family: catalog.Binary, Length: int(n)}
	case "LONG":
		if c.Take("RAW") {
			return catalog.Type{Native: "LONG RAW", Family: catalog.Binary}
		}
		return catalog.Type{Native: "LONG", Family: catalog.Text}
	case "DATE":
		return catalog.Type{Native: "DATE", Family: catalog.Timestamp}
	case "TIMESTAMP":
		n := int64(6)
		if c.Take("(") {
			n = c.Number()
			c.Need(")")
		}
		zone := ""
		switch {
		case c.Take("WITH", "TIME", "ZONE"):
			zone = " WITH TIME ZONE"
		case c.Take("WITH", "LOCAL", "TIME", "ZONE"):
			zone = " WITH LOCAL TIME ZONE"
		}
		return catalog.Type{Native: fmt.Sprintf("TIMESTAMP(%d)%s", n, zone), Family: catalog.Timestamp, Zoned: zone != ""}
	case "INTERVAL":
		digits := func(otherwise int64) int64 {
			if c.Take("(") {
				otherwise = c.Number()
				c.Need(")")
			}
			return otherwise
		}
		if c.Take("YEAR") {
			n := digits(2)
			c.Need("TO", "MONTH")
			return catalog.Type{Native: fmt.Sprintf("INTERVAL YEAR(%d) TO MONTH", n), Family: catalog.Interval}
		}
		c.Need("DAY")
		n := digits(2)
		c.Need("TO", "SECOND")
		return catalog.Type{Native: fmt.Sprintf("INTERVAL DAY(%d) TO SECOND(%d)", n, digits(6)), Family: catalog.Interval}
	case "ROWID", "UROWID", "XMLTYPE", "JSON", "BOOLEAN":
		return catalog.Type{Native: word, Family: catalog.Other}
	}
	grammar.Fail(refuse(902, "invalid datatype: %s", word))
	return catalog.Type{}
}

// number: -1 stands for what is not said.
func number(precision, scale int) catalog.Type {
	t := catalog.Type{Native: "NUMBER", Family: catalog.Decimal, Precision: max(precision, 0), Scale: max(scale, 0)}
	switch {
	case precision < 0 && scale < 0:
		return t
	case precision < 0:
		t.Native, t.Precision = fmt.Sprintf("NUMBER(*,%d)", scale), 38
	case scale == 0:
		t.Native = fmt.Sprintf("NUMBER(%d)", precision)
	default:
		t.Native = fmt.Sprintf("NUMBER(%d,%d)", precision, scale)
	}
	if t.Scale == 0 {
		t.Family, t.Bits = catalog.Integer, min(64, int(float64(t.Precision)*math.Log2(10))+1)
	}
	return t
}

// description of a type in DBA_TAB_COLS.
type description struct {
	name             string
	length, letters  int
	precision, scale any
	used             any // B or C
}

func describe(t catalog.Type) description {
	base, rest, _ := strings.Cut(t.Native, "(")
	d := description{name: base, length: t.Length}
	switch base {
	case "NUMBER":
		d.length = 22
		if t.Native != "NUMBER" {
			d.scale = t.Scale
			if !strings.HasPrefix(rest, "*") {
				d.precision = t.Precision
			}
		}
	case "FLOAT":
		d.length, d.precision = 22, 126
		if rest != "" {
			var n int
			fmt.Sscanf(rest, "%d", &n)
			d.precision = n
		}
	case "VARCHAR2", "CHAR":
		d.letters, d.used = t.Length, "B"
		if strings.Contains(rest, "CHAR") {
			d.length, d.used = 4*t.Length, "C"
		}
	case "NVARCHAR2", "NCHAR":
		d.letters, d.length, d.used = t.Length, 2*t.Length, "C"
	case "RAW":
	default:
		d.name, d.length = t.Native, 22
	}
	return d
}
