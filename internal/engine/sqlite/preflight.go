package sqlite

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/sqlite/ddltext"
)

// ask asks whether the data stands in the way of the change of the table.
func (w *writer) ask(t *catalog.Table, ch change.Change) {
	switch ch := ch.(type) {
	case change.AddKey:
		if !ch.Primary {
			w.AskRepeats(ch.Table, ch.Key.Columns)
		}
	case change.AddColumn:
		w.AskUnvalued(ch.Table, ch.Column)
	case change.CreateIndex:
		if columns := ch.Index.Columns(); ch.Index.Unique && ch.Index.Predicate == "" && !slices.Contains(columns, "") {
			w.AskRepeats(ch.Table, columns)
		}
	case change.SetNullable:
		if !ch.Nullable {
			w.AskNulls(ch.Table, ch.Column)
		}
	case change.AddForeignKey:
		if !ch.Beside(t) { // one beside it keeps what it held before
			w.AskOrphans(ch.Table, ch.ForeignKey)
		}
	case change.AddCheck:
		w.AskBreaks(ch.Table, ch.Check, ch.Check.Expression)
	case change.AlterType:
		if where := altered(ch); where != "" {
			w.Ask(fmt.Sprintf("values of %s.%s that would not come back the same", ch.Table, ch.Column),
				fmt.Sprintf("SELECT DISTINCT %s FROM %s\n  WHERE %s LIMIT %d", ddltext.Ident(ch.Column), ddltext.Ident(ch.Table.Table), where, ddl.ShownRows))
		}
	}
}

// altered is the condition under which a value would be stored as something
// else that does not convert back: text that a number column takes for a
// number, but writes in another way ('007').
func altered(ch change.AlterType) string {
	if ch.From.Class == ch.To.Class || ch.To.Class != "number" {
		return ""
	}
	c := ddltext.Ident(ch.Column)
	if stringName.MatchString(ch.To.Native) { // what is no number stays the text that it is
		return fmt.Sprintf("typeof(%[1]s) = 'text' AND trim(%[1]s) GLOB '*[0-9]*' AND NOT trim(%[1]s) GLOB '*[^0-9.eE+-]*' AND CAST(CAST(%[1]s AS NUMERIC) AS TEXT) <> %[1]s", c)
	}
	return fmt.Sprintf("typeof(%s) = 'text' AND CAST(CAST(%s AS NUMERIC) AS TEXT) <> %s", c, c, c)
}
