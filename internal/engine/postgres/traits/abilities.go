package traits

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/pattern"
)

// AtLeast reports whether the version is of that major one or a later.
func AtLeast(version string, major int) bool {
	first, _, _ := strings.Cut(version, ".")
	n, err := strconv.Atoi(first)
	return err == nil && n >= major
}

// obsolete: what the manual advises against
// (https://www.postgresql.org/docs/current/datatype-datetime.html for time with
// time zone, datatype-money.html, datatype-character.html for "char" and name,
// datatype-oid.html).
func obsolete(t catalog.Type) (string, catalog.Type) {
	switch t.Native {
	case "money":
		return "what it shows and how many decimals it keeps depends on a setting of the server", catalog.Type{Native: "numeric(20,2)", Family: catalog.Decimal, Precision: 20, Scale: 2}
	case "time with time zone", "timetz":
		return "a time without a day has no zone: with summer time it means two moments", catalog.Type{}
	case `"char"`, "name":
		return "it is meant for the engine's own catalog", catalog.Type{Native: "text", Family: catalog.Text}
	case "oid":
		return "it is meant for the engine's own catalog, and its numbers start again after four thousand million", catalog.Type{Native: "bigint", Family: catalog.Integer, Bits: 64}
	}
	return "", catalog.Type{}
}

func now(t catalog.Type) string {
	switch t.Family {
	case catalog.Timestamp:
		return "CURRENT_TIMESTAMP"
	case catalog.Date:
		return "CURRENT_DATE"
	}
	return ""
}

// condition writes it as the engine gives it back.
func condition(t *catalog.Table, c catalog.Condition) string {
	switch {
	case c.Filled != "":
		return "(" + Ident(c.Filled) + " IS NOT NULL)"
	case c.Among != nil:
		values := make([]string, len(c.Among.Values))
		cast := castOf(t.Column(c.Among.Column))
		for i, v := range c.Among.Values {
			if cast == "" {
				values[i] = v
			} else {
				values[i] = Literal(v) + "::" + cast
			}
		}
		if cast == "character varying" {
			return fmt.Sprintf("((%s)::text = ANY ((ARRAY[%s])::text[]))", Ident(c.Among.Column), strings.Join(values, ", "))
		}
		return fmt.Sprintf("(%s = ANY (ARRAY[%s]))", Ident(c.Among.Column), strings.Join(values, ", "))
	}
	var pairs []string
	for i := 1; i < len(c.Together); i++ {
		pairs = append(pairs, fmt.Sprintf("(%s IS NULL) = (%s IS NULL)", Ident(c.Together[i-1]), Ident(c.Together[i])))
	}
	if len(pairs) > 1 {
		return "((" + strings.Join(pairs, ") AND (") + "))"
	}
	return "(" + pairs[0] + ")"
}

// castOf is what the engine writes behind a text that is compared with the
// column; empty for numbers.
func castOf(c *catalog.Column) string {
	switch {
	case c.Type.Family != catalog.Text:
		return ""
	case c.Type.Padded:
		return "bpchar"
	case strings.HasPrefix(c.Type.Native, "character varying"):
		return "character varying"
	}
	return "text"
}

var (
	boundsRange = pattern.New(`(?s)^FOR VALUES FROM \((.*)\) TO \((.*)\)$`)
	listBounds  = pattern.New(`(?s)^FOR VALUES IN \((.*)\)$`)
	boundsHash  = pattern.New(`^FOR VALUES WITH \(modulus (\d+), remainder (\d+)\)$`)
)

// BoundsOf reads what pg_get_expr gives of a partition's bounds
// (https://www.postgresql.org/docs/current/sql-createtable.html, "PARTITION OF").
func BoundsOf(t *catalog.Table, text string) (catalog.Bounds, bool) {
	if strings.EqualFold(text, "DEFAULT") {
		return catalog.Bounds{Default: true}, true
	}
	if m := listBounds.FindStringSubmatch(text); m != nil {
		return catalog.Bounds{Values: boundList(m[1])}, true
	}
	if m := boundsRange.FindStringSubmatch(text); m != nil {
		return catalog.Bounds{From: boundList(m[1]), To: boundList(m[2])}, true
	}
	if m := boundsHash.FindStringSubmatch(text); m != nil {
		modulus, _ := strconv.Atoi(m[1])
		remainder, _ := strconv.Atoi(m[2])
		return catalog.Bounds{Modulus: modulus, Remainder: remainder}, modulus > 0
	}
	return catalog.Bounds{}, false
}

// hashBounds: https://www.postgresql.org/docs/current/sql-createtable.html, "PARTITION OF".
func hashBounds(modulus, remainder int) string {
	return fmt.Sprintf("FOR VALUES WITH (modulus %d, remainder %d)", modulus, remainder)
}

// oneValue writes the value as the engine does where it shows the bounds of a list.
func oneValue(t *catalog.Table, value string) (bounds, condition string) {
	c := t.Column(t.PartitionBy.Columns[0])
	text := constant(c, value)
	if c.Type.Family == catalog.Boolean {
		text = strconv.FormatBool(strings.HasPrefix(value, "t"))
	}
	return "FOR VALUES IN (" + text + ")", Ident(c.Name) + " = " + text
}

func boundList(text string) []catalog.Bound {
	return sqllex.Bounds(text, func(value string, quoted bool) *time.Time {
		if !quoted {
			return nil
		}
		return moment(value)
	})
}

var momentLayouts = []string{time.DateOnly, "2006-01-02 15:04:05", "2006-01-02 15:04:05-07", "2006-01-02 15:04:05-07:00", "2006-01-02 15:04:05.999999", "2006-01-02 15:04:05.999999-07"}

// rangeBounds: https://www.postgresql.org/docs/current/sql-createtable.html, "PARTITION OF".
func rangeBounds(t *catalog.Table, from, to catalog.Bound) string {
	var by *catalog.Column
	if k := t.PartitionBy; k != nil && len(k.Columns) == 1 {
		by = t.Column(k.Columns[0])
	}
	return fmt.Sprintf("FOR VALUES FROM (%s) TO (%s)", bound(by, from), bound(by, to))
}

func bound(by *catalog.Column, b catalog.Bound) string {
	switch {
	case b.Least:
		return "MINVALUE"
	case b.Greatest:
		return "MAXVALUE"
	}
	return constant(by, b.Text)
}

// constant writes a value as the engine shows it in bounds: of integer alone without quotes.
func constant(c *catalog.Column, value string) string {
	if c != nil && c.Type.Native == "integer" && onlyDigits(value) {
		return value
	}
	return Literal(value)
}

// rangeKey: https://www.postgresql.org/docs/current/sql-createtable.html, "PARTITION BY".
func rangeKey(t *catalog.Table, column string) (*catalog.PartitionKey, catalog.Bound) {
	layout := "2006-01-02 15:04:05"
	switch c := t.Column(column); {
	case c.Type.Family == catalog.Date:
		layout = time.DateOnly
	case c.Type.Family != catalog.Timestamp:
		return nil, catalog.Bound{}
	case c.Type.Zoned:
		layout = "2006-01-02 15:04:05-07"
	}
	return &catalog.PartitionKey{Method: "range", Columns: []string{column}, Definition: "RANGE (" + Ident(column) + ")"}, catalog.Bound{Text: time.Unix(0, 0).UTC().Format(layout)}
}

// within is the condition that a column lies in a range.
func within(column string, from, to catalog.Bound) string {
	return fmt.Sprintf("%s >= %s AND %s < %s", Ident(column), Literal(from.Text), Ident(column), Literal(to.Text))
}

// boundAt writes a moment in the layout of another.
func boundAt(_ *catalog.Table, at time.Time, like catalog.Bound) catalog.Bound {
	for _, layout := range momentLayouts {
		if _, err := time.Parse(layout, like.Text); err == nil {
			return catalog.Bound{Text: at.UTC().Format(layout), At: &at}
		}
	}
	return catalog.Bound{Text: at.UTC().Format("2006-01-02 15:04:05-07"), At: &at}
}

func restBounds(t *catalog.Table) string {
	if m := t.PartitionBy.Method; m == "range" || m == "list" {
		return "DEFAULT"
	}
	return ""
}

// moment reads a date or timestamp as the engine writes it in ISO style.
func moment(text string) *time.Time {
	for _, layout := range momentLayouts {
		if at, err := time.Parse(layout, text); err == nil {
			at = at.UTC()
			return &at
		}
	}
	return nil
}

// SystemNamed knows the endings of names that the engine makes up
// (https://www.postgresql.org/docs/current/sql-createtable.html): the table, the
// columns, and the kind.
func SystemNamed(t *catalog.Table, kind, name string, columns []string) bool {
	ending := map[string]string{"primary key": "pkey", "unique": "key", "foreign key": "fkey", "check": "check", "index": "idx", "exclusion": "excl"}[kind]
	if ending == "" {
		return false
	}
	stem, number, ok := cutEnding(name, "_"+ending)
	if !ok || number != "" && !onlyDigits(number) {
		return false
	}
	rest, ok := strings.CutPrefix(stem, t.Name)
	if kind == "primary key" {
		return ok && rest == ""
	}
	if !ok {
		return len(name) == 63 // shortened
	}
	return rest == "" && kind == "check" || rest == "_"+strings.Join(columns, "_") || kind == "check" && slices.ContainsFunc(t.Columns, func(c *catalog.Column) bool { return rest == "_"+c.Name })
}

// NotNullName is what the engine calls the constraint that forbids null in a column: the
// names of table and column, cut so that it is a name, the longer of the two first
// (https://www.postgresql.org/docs/current/sql-createtable.html, "CONSTRAINT").
func NotNullName(table, column string) string {
	const ending, longest = "_not_null", 63
	if column == "" { // of a domain
		return whole(table[:min(len(table), longest-len(ending))]) + ending
	}
	for over := len(table) + 1 + len(column) + len(ending) - longest; over > 0; over-- {
		if len(table) > len(column) {
			table = table[:len(table)-1]
		} else {
			column = column[:len(column)-1]
		}
	}
	return whole(table) + "_" + whole(column) + ending
}

// whole cuts off what is left of a letter at the end.
func whole(text string) string {
	for text != "" && !utf8.ValidString(text) {
		text = text[:len(text)-1]
	}
	return text
}

func cutEnding(name, ending string) (stem, number string, ok bool) {
	i := strings.LastIndex(name, ending)
	if i < 0 {
		return "", "", false
	}
	return name[:i], name[i+len(ending):], true
}

func onlyDigits(s string) bool { return strings.Trim(s, "0123456789") == "" }

// reserved are the words that a column cannot be called by without quotes
// (https://www.postgresql.org/docs/current/sql-keywords-appendix.html, "reserved").
var reserved = func() map[string]bool {
	words := map[string]bool{}
	for _, w := range strings.Fields(`all analyse analyze and any array as asc asymmetric authorization binary both case cast check collate collation column concurrently
		constraint create cross current_catalog current_date current_role current_schema current_time current_timestamp current_user default deferrable desc distinct do
		else end except false fetch for foreign freeze from full grant group having ilike in initially inner intersect into is isnull join lateral leading left like limit
		localtime localtimestamp natural not notnull null offset on only or order outer overlaps placing primary references returning right select session_user similar some
		symmetric system_user table tablesample then to trailing true union unique user using variadic verbose when where window with`) {
		words[w] = true
	}
	return words
}()

// nextValue is the default that draws from a sequence, as the engine gives it back with
// nothing on the search path.
func nextValue(of catalog.Ref) string {
	return "nextval(" + Literal(Relation(of)) + "::regclass)"
}
