package sqlserver

import (
	"fmt"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/standin/grammar"
)

// A kind is a line of sys.types
// (https://learn.microsoft.com/en-us/sql/relational-databases/system-catalog-views/sys-types-transact-sql).
type kind struct {
	name                string
	id                  int // system_type_id and, but for sysname, user_type_id
	bytes, digits, rest int // max_length, precision and scale
	family              catalog.Family
}

var kinds = []kind{
	{"image", 34, 16, 0, 0, catalog.Binary}, {"text", 35, 16, 0, 0, catalog.Text}, {"uniqueidentifier", 36, 16, 0, 0, catalog.UUID}, {"date", 40, 3, 10, 0, catalog.Date},
	{"time", 41, 5, 16, 7, catalog.Time}, {"datetime2", 42, 8, 27, 7, catalog.Timestamp}, {"datetimeoffset", 43, 10, 34, 7, catalog.Timestamp}, {"tinyint", 48, 1, 3, 0, catalog.Integer},
	{"smallint", 52, 2, 5, 0, catalog.Integer}, {"int", 56, 4, 10, 0, catalog.Integer}, {"smalldatetime", 58, 4, 16, 0, catalog.Timestamp}, {"real", 59, 4, 24, 0, catalog.Float},
	{"money", 60, 8, 19, 4, catalog.Decimal}, {"datetime", 61, 8, 23, 3, catalog.Timestamp}, {"float", 62, 8, 53, 0, catalog.Float}, {"sql_variant", 98, 8016, 0, 0, catalog.Other},
	{"ntext", 99, 16, 0, 0, catalog.Text}, {"bit", 104, 1, 1, 0, catalog.Boolean}, {"decimal", 106, 17, 38, 38, catalog.Decimal}, {"numeric", 108, 17, 38, 38, catalog.Decimal},
	{"smallmoney", 122, 4, 10, 4, catalog.Decimal}, {"bigint", 127, 8, 19, 0, catalog.Integer}, {"varbinary", 165, 8000, 0, 0, catalog.Binary}, {"varchar", 167, 8000, 0, 0, catalog.Text},
	{"binary", 173, 8000, 0, 0, catalog.Binary}, {"char", 175, 8000, 0, 0, catalog.Text}, {"timestamp", 189, 8, 0, 0, catalog.Binary}, {"nvarchar", 231, 8000, 0, 0, catalog.Text},
	{"nchar", 239, 8000, 0, 0, catalog.Text}, {"xml", 241, -1, 0, 0, catalog.Other}, {"geometry", 129, -1, 0, 0, catalog.Other}, {"geography", 130, -1, 0, 0, catalog.Other}, {"sysname", 231, 256, 0, 0, catalog.Text},
}

// synonyms of types (https://learn.microsoft.com/en-us/sql/t-sql/data-types/data-type-synonyms-transact-sql).
var synonyms = map[string]string{"integer": "int", "dec": "decimal", "character": "char", "rowversion": "timestamp", "varcharacter": "varchar"}

func kindOf(name string) *kind {
	for i := range kinds {
		if kinds[i].name == name {
			return &kinds[i]
		}
	}
	return nil
}

// A described type is what sys.columns says of one.
type described struct {
	kind                     *kind
	length, precision, scale int
}

// readType reads a type of the system's, or of a schema's.
func (s *client) readType(c *grammar.Cursor) catalog.Type {
	first := c.Name()
	if c.Take(".") {
		return s.userType(first, c.Name())
	}
	base := strings.ToLower(first)
	if base == "double" {
		c.Need("precision")
		base = "float"
	}
	if full := synonyms[base]; full != "" {
		base = full
	}
	if kindOf(base) == nil {
		return s.userType("dbo", first)
	}
	var sizes []string
	if c.Is("(") {
		c.List(func() {
			if c.Take("max") {
				sizes = append(sizes, "max")
				return
			}
			sizes = append(sizes, fmt.Sprint(c.Number()))
		})
	}
	return typed(base, sizes)
}

func (s *client) userType(schema, name string) catalog.Type {
	if in := s.db.Catalog.Schema(schema); in != nil {
		for _, y := range in.Types {
			if y.Name == name {
				t := *y.Base
				t.Underlying, t.Native = t.Native, schema+"."+name
				return t
			}
		}
	}
	grammar.Fail(refuse(2715, "Column, parameter, or variable: Cannot find data type %s.", name))
	return catalog.Type{}
}

// typed is a type with its sizes, or those that it has without any.
func typed(base string, sizes []string) catalog.Type {
	k := kindOf(base)
	t := catalog.Type{Native: base, Family: k.family}
	at := func(i, usual int) int {
		if i < len(sizes) {
			if n, err := strconv.Atoi(sizes[i]); err == nil {
				return n
			}
			return -1
		}
		return usual
	}
	switch base {
	case "char", "nchar", "varchar", "nvarchar", "binary", "varbinary":
		size := "max"
		if n := at(0, 1); n > 0 {
			t.Length, size = n, fmt.Sprint(n)
		}
		t.Native = base + "(" + size + ")"
	case "decimal", "numeric":
		t.Precision, t.Scale = at(0, 18), at(1, 0)
		t.Native = fmt.Sprintf("%s(%d,%d)", base, t.Precision, t.Scale)
	case "time", "datetime2", "datetimeoffset":
		t.Native = fmt.Sprintf("%s(%d)", base, at(0, 7))
	case "float":
		if at(0, 53) <= 24 {
			t.Native = "real"
		}
	case "sysname":
		t.Length = 128
	}
	t.Bits = map[string]int{"tinyint": 8, "smallint": 16, "int": 32, "bigint": 64}[base]
	t.Unsigned = base == "tinyint"
	return t
}

// describe says of a type what sys.columns does: lengths in bytes, -1 for no limit.
func describe(t catalog.Type) described {
	native := t.Native
	if t.Underlying != "" {
		native = t.Underlying
	}
	base, rest, _ := strings.Cut(native, "(")
	k := kindOf(base)
	if k == nil {
		k = kindOf("sql_variant")
	}
	d := described{k, k.bytes, k.digits, k.rest}
	sizes := strings.Split(strings.TrimSuffix(rest, ")"), ",")
	n := func(i int) int {
		v, _ := strconv.Atoi(sizes[i])
		return v
	}
	switch base {
	case "char", "varchar", "binary", "varbinary":
		d.length = n(0)
	case "nchar", "nvarchar":
		d.length = 2 * n(0)
	case "decimal", "numeric":
		d.precision, d.scale = n(0), n(1)
	case "time", "datetime2", "datetimeoffset":
		d.scale = n(0)
	}
	if rest == "max)" {
		d.length = -1
	}
	return d
}
