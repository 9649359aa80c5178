package write

import (
	"fmt"
	"math"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/postgres/traits"
)

// unfit is the condition of values that the new type cannot hold, or "".
func unfit(ch change.AlterType) string {
	c := traits.Ident(ch.Column)
	from, to := ch.From, ch.To
	switch {
	case from.Native == "money" || to.Native == "money":
		return fmt.Sprintf("%s::%s::%s IS DISTINCT FROM %s", c, to.Native, from.Native, c)
	case from.Family == catalog.Integer && to.Family == catalog.Integer:
		if to.Bits >= from.Bits {
			return ""
		}
		limit := int64(math.MaxInt64) >> (64 - to.Bits)
		return fmt.Sprintf("%s NOT BETWEEN %d AND %d", c, -limit-1, limit)
	case from.Family == catalog.Text && to.Family == catalog.Text && !from.Padded && !to.Padded:
		if to.Length == 0 || from.Length != 0 && from.Length <= to.Length {
			return ""
		}
		return fmt.Sprintf("char_length(%s) > %d", c, to.Length)
	case from.Family == catalog.Decimal && to.Family == catalog.Decimal && to.Precision > 0:
		return fmt.Sprintf("%s <> round(%s, %d) OR abs(%s) >= 10::numeric ^ %d", c, c, to.Scale, c, to.Precision-to.Scale)
	case from.Family == catalog.Decimal && to.Family == catalog.Decimal:
		return ""
	case from.Family == catalog.Integer && to.Family == catalog.Decimal && to.Precision == 0:
		return ""
	}
	return fmt.Sprintf("%s::%s::%s IS DISTINCT FROM %s", c, to.Native, from.Native, c)
}
