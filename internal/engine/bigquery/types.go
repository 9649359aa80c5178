package bigquery

import (
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// typeOf reads a type as the views write it: STRING(20), NUMERIC(10, 2), ARRAY<INT64>,
// STRUCT<lat FLOAT64, lon FLOAT64>
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/data-types).
func typeOf(native string) catalog.Type {
	t := catalog.Type{Native: native, Family: catalog.Other}
	name, rest, _ := strings.Cut(native, "(")
	var sizes []int
	for size := range strings.SplitSeq(strings.TrimSuffix(rest, ")"), ",") {
		if n, err := strconv.Atoi(strings.TrimSpace(size)); err == nil {
			sizes = append(sizes, n)
		}
	}
	size := func(i, otherwise int) int {
		if i < len(sizes) {
			return sizes[i]
		}
		return otherwise
	}
	switch strings.ToUpper(strings.TrimSpace(name)) {
	case "INT64":
		t.Family, t.Bits = catalog.Integer, 64
	case "FLOAT64":
		t.Family, t.Bits = catalog.Float, 64
	case "NUMERIC":
		t.Family, t.Precision, t.Scale = catalog.Decimal, size(0, 38), size(1, 9)
		if len(sizes) == 1 {
			t.Scale = 0
		}
	case "BIGNUMERIC":
		t.Family, t.Precision, t.Scale = catalog.Decimal, size(0, 76), size(1, 38)
		if len(sizes) == 1 {
			t.Scale = 0
		}
	case "BOOL":
		t.Family = catalog.Boolean
	case "STRING":
		t.Family, t.Length = catalog.Text, size(0, 0)
	case "BYTES":
		t.Family, t.Length = catalog.Binary, size(0, 0)
	case "DATE":
		t.Family = catalog.Date
	case "TIME":
		t.Family = catalog.Time
	case "DATETIME":
		t.Family = catalog.Timestamp
	case "TIMESTAMP":
		t.Family, t.Zoned = catalog.Timestamp, true
	case "INTERVAL":
		t.Family = catalog.Interval
	case "JSON":
		t.Family = catalog.JSON
	}
	if strings.HasPrefix(strings.ToUpper(native), "ARRAY<") {
		t.Family = catalog.Array
	}
	return t
}

// A field is one of a STRUCT, or what stands for the column itself.
type field struct {
	path  string // from the column on: "position.latitude"
	typ   string
	many  bool // a row has a list of them
	inner []field
}

// fieldsOf takes a type apart into its fields, those of lists among them.
func fieldsOf(path, typ string) []field {
	tokens := Engine{}.Dialect().Tokens(typ)
	p := &fields{tokens: tokens, text: typ}
	return p.of(path, false)
}

type fields struct {
	tokens []sqllex.Token
	text   string
	at     int
}

func (p *fields) peek() sqllex.Token {
	for p.at < len(p.tokens) && p.tokens[p.at].Blank() {
		p.at++
	}
	if p.at < len(p.tokens) {
		return p.tokens[p.at]
	}
	return sqllex.Token{}
}

func (p *fields) take(sign string) bool {
	if !p.peek().Is(sign) {
		return false
	}
	p.at++
	return true
}

// of reads a type, and lists the fields in it.
func (p *fields) of(path string, many bool) []field {
	switch {
	case p.take("ARRAY"):
		p.take("<")
		inner := p.of(path, true)
		p.take(">")
		return inner
	case p.take("STRUCT"):
		p.take("<")
		var all []field
		for p.at < len(p.tokens) {
			if t := p.peek(); t.Kind != sqllex.Word && t.Kind != sqllex.Quoted {
				break
			}
			f := field{path: path + "." + p.peek().Name(), many: many}
			p.at++
			from := p.peek().Start
			f.inner = p.of(f.path, many)
			f.typ = strings.TrimSpace(p.text[from:p.end()])
			all = append(all, f)
			if !p.take(",") {
				break
			}
		}
		p.take(">")
		return all
	}
	for depth := 0; p.at < len(p.tokens); p.at++ { // a plain type, with its sizes
		switch t := p.peek(); {
		case t.Is("("), t.Is("<"):
			depth++
		case t.Is(")"), t.Is(">") && depth > 0:
			depth--
		case depth == 0 && (t.Is(",") || t.Is(">")):
			return nil
		}
	}
	return nil
}

// end is where the next token begins, or the text ends.
func (p *fields) end() int {
	if t := p.peek(); t.End > 0 {
		return t.Start
	}
	return len(p.text)
}

// partitionEvery is a partitioning by time
// (https://cloud.google.com/bigquery/docs/partitioned-tables#date_timestamp_partitioned_tables).
func partitionEvery(t *catalog.Table, column, every string) *catalog.PartitionKey {
	c := t.Column(column)
	unit := map[string]string{"day": "DAY", "month": "MONTH", "year": "YEAR"}[every]
	if c == nil || unit == "" || c.Within != "" {
		return nil
	}
	cut := map[string]string{"DATE": "DATE_TRUNC", "DATETIME": "DATETIME_TRUNC", "TIMESTAMP": "TIMESTAMP_TRUNC"}[c.Type.Native]
	if cut == "" {
		return nil
	}
	definition := cut + "(" + ident(column) + ", " + unit + ")"
	if c.Type.Native == "DATE" && unit == "DAY" {
		definition = ident(column)
	}
	return &catalog.PartitionKey{Method: "range", Columns: []string{column}, Definition: definition}
}
