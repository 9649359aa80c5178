package bigquery

import (
	"fmt"
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

// TestTypes: a type as the views write it; without sizes it has those of the manual.
func TestTypes(t *testing.T) {
	for native, want := range map[string]catalog.Type{
		"INT64":              {Family: catalog.Integer, Bits: 64},
		"FLOAT64":            {Family: catalog.Float, Bits: 64},
		"NUMERIC":            {Family: catalog.Decimal, Precision: 38, Scale: 9},
		"NUMERIC(10)":        {Family: catalog.Decimal, Precision: 10},
		"NUMERIC(10, 2)":     {Family: catalog.Decimal, Precision: 10, Scale: 2},
		"BIGNUMERIC":         {Family: catalog.Decimal, Precision: 76, Scale: 38},
		"BIGNUMERIC(50)":     {Family: catalog.Decimal, Precision: 50},
		"BOOL":               {Family: catalog.Boolean},
		"STRING":             {Family: catalog.Text},
		"STRING(20)":         {Family: catalog.Text, Length: 20},
		"BYTES(7)":           {Family: catalog.Binary, Length: 7},
		"DATE":               {Family: catalog.Date},
		"TIME":               {Family: catalog.Time},
		"DATETIME":           {Family: catalog.Timestamp},
		"TIMESTAMP":          {Family: catalog.Timestamp, Zoned: true},
		"INTERVAL":           {Family: catalog.Interval},
		"JSON":               {Family: catalog.JSON},
		"GEOGRAPHY":          {Family: catalog.Other},
		"ARRAY<STRING(3)>":   {Family: catalog.Array},
		"STRUCT<lat INT64>":  {Family: catalog.Other},
		"RANGE<DATE>":        {Family: catalog.Other},
		"array<struct<a x>>": {Family: catalog.Array},
	} {
		want.Native = native
		if got := typeOf(native); got != want {
			t.Errorf("%s: %+v, want %+v", native, got, want)
		}
	}
}

// TestFields: each field of a type by its path, whether a row has many of it, and its own type as it
// is written; written again with descriptions, the type is the same but for these.
func TestFields(t *testing.T) {
	var list func(fields []field) string
	list = func(fields []field) string {
		var parts []string
		for _, f := range fields {
			s := f.path + " " + f.typ
			if f.many {
				s += " *"
			}
			if f.inner != nil {
				s += " [" + list(f.inner) + "]"
			}
			parts = append(parts, s)
		}
		return strings.Join(parts, "; ")
	}
	for _, x := range []struct{ typ, fields, told string }{
		{"INT64", "", "INT64"},
		{"NUMERIC(10, 2)", "", "NUMERIC(10, 2)"},
		{"ARRAY<STRING>", "", "ARRAY<STRING>"},
		{"STRUCT<lat FLOAT64, lon NUMERIC(9, 6)>", "p.lat FLOAT64; p.lon NUMERIC(9, 6)", "STRUCT<lat FLOAT64 OPTIONS (description='north'), lon NUMERIC(9, 6)>"},
		{"ARRAY<STRUCT<at TIMESTAMP, by STRING(3)>>", "p.at TIMESTAMP *; p.by STRING(3) *", "ARRAY<STRUCT<`at` TIMESTAMP, `by` STRING(3)>>"},
		{"STRUCT<a STRUCT<b ARRAY<STRUCT<c INT64>>, d DATE>, lat BOOL>", "p.a STRUCT<b ARRAY<STRUCT<c INT64>>, d DATE> [p.a.b ARRAY<STRUCT<c INT64>> [p.a.b.c INT64 *]; p.a.d DATE]; p.lat BOOL",
			"STRUCT<a STRUCT<b ARRAY<STRUCT<c INT64>>, d DATE>, lat BOOL OPTIONS (description='north')>"},
		{"STRUCT<`group` INT64>", "p.group INT64", "STRUCT<`group` INT64>"},
	} {
		if got := list(fieldsOf("p", x.typ)); got != x.fields {
			t.Errorf("%s has %s, want %s", x.typ, got, x.fields)
		}
		if got := told("p", x.typ, map[string]string{"p.lat": "north"}); got != x.told {
			t.Errorf("%s is told as %s, want %s", x.typ, got, x.told)
		}
	}
}

// TestClauses: what partitions a table, in the statement that made it, whatever stands around.
func TestClauses(t *testing.T) {
	for ddl, want := range map[string]string{
		"CREATE TABLE d.t (a INT64) PARTITION BY DATE(at) CLUSTER BY a;":                                               "DATE(at)",
		"CREATE TABLE d.t (a INT64)\nPARTITION BY RANGE_BUCKET(a, GENERATE_ARRAY(0, 10, 1))\nOPTIONS (x=1)":            "RANGE_BUCKET(a, GENERATE_ARRAY(0, 10, 1))",
		"CREATE TABLE d.t (a INT64 OPTIONS (description='PARTITION BY x')) PARTITION BY a":                             "a",
		"CREATE TABLE d.t (a INT64); -- PARTITION BY a":                                                                "",
		"CREATE TABLE d.t PARTITION BY DATE_TRUNC(at, MONTH) AS SELECT row_number() OVER (PARTITION BY a) AS n FROM s": "DATE_TRUNC(at, MONTH)",
		"": "",
	} {
		if got := clauses(ddl).partition; got != want {
			t.Errorf("%s: %q, want %q", ddl, got, want)
		}
	}
	for ddl, want := range map[string]string{
		"CREATE VIEW d.v AS SELECT 1 AS a;": "SELECT 1 AS a",
		"CREATE VIEW d.v (a OPTIONS (description='AS x')) AS\nWITH x AS (SELECT 1) SELECT * FROM x": "WITH x AS (SELECT 1) SELECT * FROM x",
		"CREATE TABLE d.t (a INT64)": "",
	} {
		if got := queryOf(ddl); got != want {
			t.Errorf("%s: %q, want %q", ddl, got, want)
		}
	}
}

// TestUnquoted: the text of an option, in any quotes; written again it is read as the same.
func TestUnquoted(t *testing.T) {
	for written, want := range map[string]string{`"plain"`: "plain", `'it\'s'`: "it's", `"a \"b\"\nc"`: "a \"b\"\nc", `'tab\t\\'`: "tab\t\\", `x`: "x", `""`: "", ` 'a' `: "a"} {
		if got := unquoted(written); got != want {
			t.Errorf("%s: %q, want %q", written, got, want)
		}
	}
	for _, text := range []string{"plain", "it's", "a \"b\"\nc", `back\slash`, "", "'", "\r\n", "größer; DROP TABLE x --"} {
		if got := unquoted(literal(text)); got != text {
			t.Errorf("%q comes back as %q by way of %s", text, got, literal(text))
		}
	}
}

// TestWidens: a type is made another in place only where it holds all that the one does.
func TestWidens(t *testing.T) {
	for _, x := range []struct {
		from, to string
		want     bool
	}{
		{"INT64", "NUMERIC", true}, {"INT64", "BIGNUMERIC", true}, {"INT64", "FLOAT64", true}, {"INT64", "STRING", false}, {"INT64", "NUMERIC(10)", false},
		{"NUMERIC(10, 2)", "NUMERIC(12, 2)", true}, {"NUMERIC(10, 2)", "NUMERIC(12, 4)", true}, {"NUMERIC(10, 2)", "NUMERIC(10, 4)", false}, {"NUMERIC(10, 2)", "NUMERIC(12, 1)", false},
		{"NUMERIC(10, 2)", "BIGNUMERIC", true}, {"NUMERIC", "FLOAT64", true}, {"NUMERIC(10, 2)", "FLOAT64", false}, {"NUMERIC", "INT64", false},
		{"BIGNUMERIC", "NUMERIC", false}, {"BIGNUMERIC(40, 5)", "BIGNUMERIC", true}, {"BIGNUMERIC", "BIGNUMERIC(40, 5)", false},
		{"STRING(5)", "STRING(9)", true}, {"STRING(5)", "STRING", true}, {"STRING", "STRING(9)", false}, {"STRING(9)", "STRING(5)", false}, {"STRING(5)", "BYTES(9)", false}, {"BYTES(5)", "BYTES", true},
		{"DATE", "TIMESTAMP", false}, {"FLOAT64", "NUMERIC", false}, {"BOOL", "INT64", false},
	} {
		if got := widens(typeOf(x.from), typeOf(x.to)); got != x.want {
			t.Errorf("%s to %s: %v", x.from, x.to, got)
		}
	}
}

// TestAddresses: what a URL means, that it leads to the same when it is written again, and what no
// token is sent to.
func TestAddresses(t *testing.T) {
	for _, x := range []struct{ text, place, again string }{
		{"bigquery://saltmere-agency/tides", "tides in project saltmere-agency", ""},
		{"bigquery://saltmere-agency", "project saltmere-agency", ""},
		{"bigquery://saltmere-agency/tides/", "tides in project saltmere-agency", "bigquery://saltmere-agency/tides"},
		{"bigquery://p/d?location=EU", "d in project p", ""},
		{"bigquery://p/d?endpoint=http%3A%2F%2F127.0.0.1%3A9050", "d in project p", ""},
		{"bigquery://p/d?endpoint=http://localhost:9050/", "d in project p", "bigquery://p/d?endpoint=http%3A%2F%2Flocalhost%3A9050"},
		{"bigquery://p/d?endpoint=https://private.saltmere.example", "d in project p", "bigquery://p/d?endpoint=https%3A%2F%2Fprivate.saltmere.example"},
	} {
		a, err := parse(x.text)
		if err != nil {
			t.Errorf("%s: %v", x.text, err)
			continue
		}
		if want := x.again; a.place() != x.place || want == "" && a.String() != x.text || want != "" && a.String() != want {
			t.Errorf("%s is %s, and again %s", x.text, a.place(), a)
		}
	}
	for _, text := range []string{"bigquery://me:secret@p/d", "bigquery://p/d/t", "bigquery://p/d-x", "bigquery://p q/d", "bigquery:///d", "mysql://p/d", "bigquery://p/d?x=1",
		"bigquery://p/d?endpoint=http://saltmere.example", "bigquery://p/d?endpoint=ftp://127.0.0.1", "bigquery://p/d?endpoint=nowhere", "bigquery://p/d?endpoint=http://127.0.0.1.saltmere.example"} {
		if a, err := parse(text); err == nil {
			t.Errorf("%s leads to %s", text, a)
		} else if strings.Contains(err.Error(), "secret") {
			t.Errorf("%s: the password is told: %v", text, err)
		}
	}
}

// TestReads: a session that only reads sends queries alone, and no transaction is ended where none is.
func TestReads(t *testing.T) {
	for sql, want := range map[string]bool{"SELECT 1": true, " -- x\n(SELECT 1)": true, "WITH a AS (SELECT 1) SELECT * FROM a": true, "DELETE FROM t": false, "/* SELECT */ DROP TABLE t": false, "": false, "`SELECT`": false} {
		if reads(sql) != want {
			t.Errorf("%q reads: %v", sql, !want)
		}
	}
	for sql, want := range map[string]bool{"COMMIT": true, "-- nothing\n": true, "": true, "COMMIT TRANSACTION": true, "SELECT 1": false, "ALTER TABLE t": false} {
		if ended(sql) != want {
			t.Errorf("%q only ends: %v", sql, !want)
		}
	}
}

// TestNames: a dot within the name of a table is no path, and one within quotes is; texts apart.
func TestNames(t *testing.T) {
	for ref, want := range map[catalog.Ref]string{{Schema: "tides", Table: "reading"}: "tides.reading", {Schema: "tides", Table: "group"}: "tides.`group`", {Schema: "tides", Table: "a.b"}: "tides.`a.b`", {Schema: "d", Table: "größe"}: "d.`größe`"} {
		if got := relation(ref); got != want {
			t.Errorf("%v is %s, want %s", ref, got, want)
		}
	}
	if got := apart("SELECT 'a.b' FROM `p.d.t` JOIN d.u"); got != "SELECT 'a.b' FROM `p`.`d`.`t` JOIN d.u" {
		t.Errorf("apart: %s", got)
	}
	if got := fmt.Sprint(ident("place.lat"), " ", ident("select"), " ", ident("a b")); got != "place.lat `select` `a b`" {
		t.Errorf("names: %s", got)
	}
}
