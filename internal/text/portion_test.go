package text_test

import (
	"testing"

	"nexdal/internal/text"
)

// TestPortion: what is not all is not told as all, and what is not none is not told as none.
func TestPortion(t *testing.T) {
	for share, want := range map[float64]string{0: "0 %", 0.0001: "under 0.1 %", 0.013: "1.3 %", 0.02: "2 %", 0.5: "50 %", 0.884: "88 %", 0.99996: "over 99.9 %", 1: "100 %"} {
		if got := text.Portion(share); got != want {
			t.Errorf("%v: %q, want %q", share, got, want)
		}
	}
}
