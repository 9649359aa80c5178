package engine_test

import (
	"errors"
	"fmt"
	"slices"
	"testing"
	"time"

	"nexdal/internal/engine"
)

// TestLiterals: rows go out in batches, whole and in their order, and a failure ends it.
func TestLiterals(t *testing.T) {
	l := engine.Literals{Text: func(s string) string { return "N'" + s + "'" }, True: "1", False: "0", Moment: time.DateTime}
	day := time.Date(2026, 3, 1, 0, 0, 0, 0, time.UTC)
	rows := [][]any{{nil, "a", true}, {1, 2.5, false}, {day, day.Add(time.Hour), int64(7)}}
	for most, want := range map[int][]string{
		1: {"(NULL, N'a', 1)", "(1, 2.5, 0)", "('2026-03-01', '2026-03-01 01:00:00', 7)"},
		2: {"(NULL, N'a', 1), (1, 2.5, 0)", "('2026-03-01', '2026-03-01 01:00:00', 7)"},
		3: {"(NULL, N'a', 1), (1, 2.5, 0), ('2026-03-01', '2026-03-01 01:00:00', 7)"},
	} {
		i, got := 0, []string{}
		next := func() []any {
			if i == len(rows) {
				return nil
			}
			i++
			return rows[i-1]
		}
		err := l.Batches(most, next, func(rows []string) error { got = append(got, engine.Values(rows)); return nil })
		if err != nil || !slices.Equal(got, want) {
			t.Errorf("%d at a time: %v (%v)", most, got, err)
		}
		i = 0
		failed := errors.New("refused")
		sent := 0
		if err := l.Batches(most, next, func([]string) error { sent++; return failed }); !errors.Is(err, failed) || sent != 1 {
			t.Errorf("%d at a time: %v after %d", most, err, sent)
		}
	}
	if err := l.Batches(5, func() []any { return nil }, func([]string) error { return fmt.Errorf("nothing is sent") }); err != nil {
		t.Error(err)
	}
}
