package capture

import (
	"errors"
	"fmt"
	"strings"
	"testing"
	"time"
)

// TestVersions: a question is put to the versions from the first to the last that asks it.
func TestVersions(t *testing.T) {
	asked := []string{"a b", "a c b", "a c d"}
	all, err := Versions(len(asked), func(v int) ([]string, error) { return strings.Fields(asked[v]), nil }, func(q string) string { return q })
	if got := fmt.Sprint(all); err != nil || got != "[{a 0 2} {b 0 1} {c 1 2} {d 2 2}]" {
		t.Errorf("%s, %v", got, err)
	}
	if !all[0].Always(3) || all[1].Always(3) || all[2].Always(3) {
		t.Error("what is always asked is not told")
	}
	no := errors.New("no")
	if _, err := Versions(2, func(int) ([]string, error) { return nil, no }, func(q string) string { return q }); !errors.Is(err, no) {
		t.Errorf("%v", err)
	}
}

// TestScan: a text is read as what it is wanted as, or refused.
func TestScan(t *testing.T) {
	type kind string
	var s string
	var k kind
	var n int64
	var small int16
	var f float64
	var yes, no, truth bool
	var gone, there *int64
	var when time.Time
	row := [][]byte{[]byte("a"), []byte("b"), []byte("-7"), []byte("12"), []byte("2.5"), []byte("1"), []byte("f"), []byte("true"), nil, []byte("9")}
	put := func(i int, p any) error { return Put(row[i], p) }
	err := Scan(row, put, &s, &k, &n, &small, &f, &yes, &no, &truth, &gone, &there)
	if err != nil || s != "a" || k != "b" || n != -7 || small != 12 || f != 2.5 || !yes || no || !truth || gone != nil || there == nil || *there != 9 {
		t.Errorf("%v %v %v %v %v %v %v %v %v %v: %v", s, k, n, small, f, yes, no, truth, gone, there, err)
	}
	for name, c := range map[string]struct {
		value string
		into  any
	}{"no number": {"x", &n}, "too large": {"40000", &small}, "no fraction": {"x", &f}, "a time": {"2026-03-01", &when}} {
		row := [][]byte{[]byte(c.value)}
		if err := Scan(row, func(i int, p any) error { return Put(row[i], p) }, c.into); err == nil {
			t.Errorf("%s: it is taken", name)
		}
	}
	if Scan([][]byte{nil}, put, &n) == nil || Scan(row, put, &s) == nil {
		t.Error("a null or a value too many is taken")
	}
}
