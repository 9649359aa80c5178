package text

import "testing"

func TestBytes(t *testing.T) {
	for said, want := range map[string]int64{"0": 0, "500": 500, "10MB": 10_000_000, "1.5 tb": 1_500_000_000_000, " 3 kB ": 3000, "7B": 7} {
		if n, err := Bytes(said); err != nil || n != want {
			t.Errorf("%q: %d, %v, not %d", said, n, err, want)
		}
	}
	for _, said := range []string{"", "MB", "-1", "ten", "5 XB", "1MBMB", "99999999 PB", "1e400"} {
		if n, err := Bytes(said); err == nil {
			t.Errorf("%q is taken for %d", said, n)
		}
	}
}
