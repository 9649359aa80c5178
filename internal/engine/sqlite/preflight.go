package sqlite

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
)

// shownRows is how many offending rows a pre-flight query lists.
const shownRows = 20

// question asks whether the data stands in the way of the change; ok is false
// where it cannot.
func question(t *catalog.Table, ch change.Change) (q engine.Question, ok bool) {
	switch ch := ch.(type) {
	case change.AddKey:
		if !ch.Primary {
			return repeats(ch.Table, ch.Key.Columns), true
		}
	case change.AddColumn:
		if c := ch.Column; !c.Nullable && c.Default == "" && c.Generated == "" && c.Identity == catalog.NoIdentity {
			return engine.Question{Title: fmt.Sprintf("rows of %s, for which the new column %s has no value", ch.Table, c.Name),
				SQL: fmt.Sprintf("SELECT * FROM %s LIMIT 1", ident(ch.Table.Table))}, true
		}
	case change.CreateIndex:
		return duplicates(ch)
	case change.SetNullable:
		if !ch.Nullable {
			return engine.Question{Title: fmt.Sprintf("rows of %s where %s is null", ch.Table, ch.Column),
				SQL: fmt.Sprintf("SELECT * FROM %s WHERE %s IS NULL LIMIT %d", ident(ch.Table.Table), ident(ch.Column), shownRows)}, true
		}
	case change.AddForeignKey:
		f := ch.ForeignKey
		if !t.HasColumns(f.Columns) || ch.Beside(t) {
			return q, false // it holds what the script puts there, or what it held before
		}
		return engine.Question{Title: fmt.Sprintf("values of %s (%s) without a row in %s", ch.Table, strings.Join(f.Columns, ", "), f.Target.Table),
			SQL: quoting.Orphans(ident(ch.Table.Table), f.Columns, ident(f.Target.Table), f.TargetColumns, shownRows)}, true
	case change.AddCheck:
		return engine.Question{Title: fmt.Sprintf("rows of %s that break %s", ch.Table, ch.Check.Expression),
			SQL: fmt.Sprintf("SELECT * FROM %s WHERE NOT (%s) LIMIT %d", ident(ch.Table.Table), ch.Check.Expression, shownRows)}, true
	case change.AlterType:
		if where := altered(ch); where != "" {
			return engine.Question{Title: fmt.Sprintf("values of %s.%s that would not come back the same", ch.Table, ch.Column),
				SQL: fmt.Sprintf("SELECT DISTINCT %s FROM %s\n  WHERE %s LIMIT %d", ident(ch.Column), ident(ch.Table.Table), where, shownRows)}, true
		}
	}
	return engine.Question{}, false
}

// duplicates asks for what a unique index would refuse.
func duplicates(ch change.CreateIndex) (engine.Question, bool) {
	if !ch.Index.Unique || ch.Index.Predicate != "" {
		return engine.Question{}, false
	}
	for _, name := range ch.Index.Columns() {
		if name == "" {
			return engine.Question{}, false
		}
	}
	return repeats(ch.Table, ch.Index.Columns()), true
}

func repeats(table catalog.Ref, columns []string) engine.Question {
	return engine.Question{Title: fmt.Sprintf("values of %s (%s) that occur more than once", table, strings.Join(columns, ", ")),
		SQL: quoting.Repeats(ident(table.Table), columns, shownRows)}
}

// altered is the condition under which a value would be stored as something
// else that does not convert back: text that a number column takes for a
// number, but writes in another way ('007').
func altered(ch change.AlterType) string {
	if ch.From.Class == ch.To.Class || ch.To.Class != "number" {
		return ""
	}
	c := ident(ch.Column)
	if stringName.MatchString(ch.To.Native) { // what is no number stays the text that it is
		return fmt.Sprintf("typeof(%[1]s) = 'text' AND trim(%[1]s) GLOB '*[0-9]*' AND NOT trim(%[1]s) GLOB '*[^0-9.eE+-]*' AND CAST(CAST(%[1]s AS NUMERIC) AS TEXT) <> %[1]s", c)
	}
	return fmt.Sprintf("typeof(%s) = 'text' AND CAST(CAST(%s AS NUMERIC) AS TEXT) <> %s", c, c, c)
}
