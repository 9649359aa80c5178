package postgres

import (
	"fmt"
	"math"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// shownRows is how many offending rows a pre-flight query lists.
const shownRows = 20

// askRepeats asks for what a unique index would refuse.
func (w *writer) askRepeats(table catalog.Ref, columns []string) {
	w.ask(fmt.Sprintf("values of %s (%s) that occur more than once", table, strings.Join(columns, ", ")), quoting.Repeats(relation(table), columns, shownRows))
}

// askOrphans asks for what a foreign key would refuse.
func (w *writer) askOrphans(table catalog.Ref, f *catalog.ForeignKey) {
	if t := w.from.Table(table); t != nil && !t.HasColumns(f.Columns) {
		return // it comes with the script, and holds what the script puts there
	}
	w.ask(fmt.Sprintf("values of %s (%s) without a row in %s", table, strings.Join(f.Columns, ", "), f.Target),
		quoting.Orphans(relation(table), f.Columns, relation(f.Target), f.TargetColumns, shownRows))
}

// narrowed asks for values that the new type cannot hold; ok is false where it
// holds them all.
func narrowed(ch change.AlterType) (title, sql string, ok bool) {
	c, where := ident(ch.Column), ""
	from, to := ch.From, ch.To
	switch {
	case from.Native == "money" || to.Native == "money":
		where = fmt.Sprintf("%s::%s::%s IS DISTINCT FROM %s", c, to.Native, from.Native, c)
	case from.Family == catalog.Integer && to.Family == catalog.Integer:
		if to.Bits >= from.Bits {
			return "", "", false
		}
		limit := int64(math.MaxInt64) >> (64 - to.Bits)
		where = fmt.Sprintf("%s NOT BETWEEN %d AND %d", c, -limit-1, limit)
	case from.Family == catalog.Text && to.Family == catalog.Text && !from.Padded && !to.Padded:
		if to.Length == 0 || from.Length != 0 && from.Length <= to.Length {
			return "", "", false
		}
		where = fmt.Sprintf("char_length(%s) > %d", c, to.Length)
	case from.Family == catalog.Decimal && to.Family == catalog.Decimal && to.Precision > 0:
		where = fmt.Sprintf("%s <> round(%s, %d) OR abs(%s) >= 10::numeric ^ %d", c, c, to.Scale, c, to.Precision-to.Scale)
	case from.Family == catalog.Decimal && to.Family == catalog.Decimal:
		return "", "", false
	case from.Family == catalog.Integer && to.Family == catalog.Decimal && to.Precision == 0:
		return "", "", false
	default:
		where = fmt.Sprintf("%s::%s::%s IS DISTINCT FROM %s", c, to.Native, from.Native, c)
	}
	return fmt.Sprintf("values of %s.%s that %s cannot hold", ch.Table, ch.Column, to.Native),
		fmt.Sprintf("SELECT DISTINCT %s FROM %s WHERE %s LIMIT %d", c, relation(ch.Table), where, shownRows), true
}
