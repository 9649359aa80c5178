package write

import (
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// TestUnfit: what is asked of the data before a type becomes narrower, and
// that nothing is asked where it cannot matter.
func TestUnfit(t *testing.T) {
	number := func(bits int) catalog.Type { return catalog.Type{Native: "n", Family: catalog.Integer, Bits: bits} }
	text := func(n int) catalog.Type { return catalog.Type{Native: "t", Family: catalog.Text, Length: n} }
	digits := func(p, s int) catalog.Type {
		return catalog.Type{Native: "d", Family: catalog.Decimal, Precision: p, Scale: s}
	}
	for _, c := range []struct {
		name     string
		from, to catalog.Type
		want     string // part of the condition; empty: nothing to ask
	}{
		{"wider number", number(32), number(64), ""},
		{"narrower number", number(64), number(32), "NOT BETWEEN -2147483648 AND 2147483647"},
		{"smallest number", number(32), number(16), "NOT BETWEEN -32768 AND 32767"},
		{"longer text", text(5), text(8), ""},
		{"unlimited text", text(5), text(0), ""},
		{"limited text", text(0), text(8), "char_length(c) > 8"},
		{"shorter text", text(9), text(8), "char_length(c) > 8"},
		{"fewer digits", digits(8, 2), digits(6, 1), "c <> round(c, 1) OR abs(c) >= 10::numeric ^ 5"},
		{"any digits", digits(8, 2), digits(0, 0), ""},
		{"another family", number(32), text(8), "IS DISTINCT FROM c"},
	} {
		where := unfit(change.AlterType{Table: catalog.Ref{Schema: "s", Table: "t"}, Column: "c", From: c.from, To: c.to})
		if (where == "") != (c.want == "") || !strings.Contains(where, c.want) {
			t.Errorf("%s: %q", c.name, where)
		}
	}
}
