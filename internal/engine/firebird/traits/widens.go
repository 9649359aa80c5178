package traits

import "nexdal/internal/catalog"

// digits are those that every whole number of so many bits has.
func digits(bits int) int { return map[int]int{16: 5, 32: 10, 64: 19, 128: 39}[bits] }

// stored is in how many bits a number of so many digits is kept.
func stored(precision int) int {
	switch {
	case precision <= 4:
		return 16
	case precision <= 9:
		return 32
	case precision <= 18:
		return 64
	}
	return 128
}

// Widens reports whether the engine takes the conversion, and every value fits
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref30-ddl-tbl-alter,
// tried on 3.0: it rounds and cuts off without a word where it should refuse).
func Widens(from, to catalog.Type) bool {
	if IsBlobType(from) || IsBlobType(to) {
		return from.Native == to.Native
	}
	switch {
	case from.Family == catalog.Integer && to.Family == catalog.Integer:
		return to.Bits >= from.Bits
	case from.Family == catalog.Integer && to.Family == catalog.Decimal:
		return to.Precision-to.Scale >= digits(from.Bits) && stored(to.Precision) >= from.Bits
	case from.Family == catalog.Decimal && to.Family == catalog.Decimal:
		return to.Scale == from.Scale && to.Precision >= from.Precision
	case from.Family == catalog.Float && to.Family == catalog.Float:
		return to.Bits >= from.Bits
	case from.Family == catalog.Text && to.Family == catalog.Text, from.Family == catalog.Binary && to.Family == catalog.Binary:
		return to.Length >= from.Length && from.Padded == to.Padded
	case from.Family == catalog.Date && to.Family == catalog.Timestamp:
		return true
	}
	return from.Native == to.Native
}
