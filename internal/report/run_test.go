package report

import (
	"strings"
	"testing"

	"nexdal/internal/evidence"
)

// TestRows: values are shown in one line each, and long ones in part.
func TestRows(t *testing.T) {
	var out strings.Builder
	p := &Page{Writer: &out, Width: 300}
	null, long, exact, odd := (*string)(nil), strings.Repeat("ä", 1200), strings.Repeat("b", 80), "two\nlines\x1b[31m"
	p.Rows([]string{"id", "bo\ndy"}, []evidence.Row{{null, &long}, {&exact, &odd}})
	got := out.String()
	for _, want := range []string{"NULL", strings.Repeat("ä", 80) + "… (1,200 letters)", strings.Repeat("b", 80)} {
		if !strings.Contains(got, want) {
			t.Errorf("%q is not shown:\n%s", want, got)
		}
	}
	for _, not := range []string{strings.Repeat("ä", 81), "b…", "\x1b", "two\nlines", "bo\ndy"} {
		if strings.Contains(got, not) {
			t.Errorf("%q is shown:\n%s", not, got)
		}
	}
}
