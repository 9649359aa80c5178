package evidence

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

// TestHalved: what cannot be looked at is found by halves, and costs the others nothing.
func TestHalved(t *testing.T) {
	h := &heap{}
	columns := []string{"a int", "b int", "c int", "d int", "e int"}
	sea := h.table("sea", columns...)
	h.fill(sea, 3, func(i int) []any { return []any{i, i, i, i, i} })
	looks := func(bad string, gone bool) (found string, gaps []string, err error) {
		h.log = nil
		d := &discovery{ctx: t.Context(), found: &Evidence{}}
		all, err := d.pass(choosy{h, bad, gone}, Part{Table: sea}, sea.Columns)
		for _, f := range all {
			found += f.Column
		}
		for _, g := range d.found.Gaps {
			gaps = append(gaps, g.What)
		}
		return found, gaps, err
	}
	for bad, want := range map[string]string{"": "abcde", "a": "bcde", "c": "abde", "e": "abcd", "be": "acd", "abcde": ""} {
		found, gaps, err := looks(bad, false)
		if err != nil || found != want {
			t.Errorf("without %q: %q, %v, want %q", bad, found, err, want)
		}
		var missing []string
		for _, c := range bad {
			missing = append(missing, "column "+string(c))
		}
		if !slices.Equal(gaps, missing) {
			t.Errorf("without %q: gaps %q", bad, gaps)
		}
		if asked := strings.Count(strings.Join(h.log, "\n"), "there"); (asked == 1) != (bad != "") {
			t.Errorf("without %q it was asked %d times whether the table is there", bad, asked)
		}
	}
	if found, gaps, err := looks("a", true); err == nil || found != "" || len(gaps) > 0 {
		t.Errorf("of a table that is gone: %q %q %v", found, gaps, err)
	}
}

// choosy fails where some columns are asked about.
type choosy struct {
	*heap
	bad  string
	gone bool
}

func (c choosy) There(ctx context.Context, t *catalog.Table) error {
	if c.gone {
		return errors.New("no such table")
	}
	return c.heap.There(ctx, t)
}

func (c choosy) Profile(ctx context.Context, p Part, columns []*catalog.Column) ([]Column, error) {
	for _, col := range columns {
		if strings.Contains(c.bad, col.Name) {
			return nil, fmt.Errorf("no privilege on %s", col.Name)
		}
	}
	return c.heap.Profile(ctx, p, columns)
}

// TestBegins: what begins like a number or a date.
func TestBegins(t *testing.T) {
	for text, want := range map[string]bool{"0": true, "9": true, "-1": true, "+1": true, ".5": true, " 1": true, "": false, "a": false, ":": false, "/": false, "2026-03-01": true, "ä": false} {
		if got := begins(&text); got != want {
			t.Errorf("%q: %v", text, got)
		}
	}
	if begins(nil) {
		t.Error("nothing begins like a number")
	}
}

// TestUnvaried: of which columns it has to be asked how values repeat.
func TestUnvaried(t *testing.T) {
	h := &heap{}
	sea := key(h.table("sea", "id int!", "none int", "same int", "other int", "text text", "long text", "shape json", "unknown int"), "id")
	n := func(n int64) *int64 { return &n }
	known := map[string]*Column{
		"id": facts(9, 0, -1, "1", "9"), "none": facts(9, 9, -1, "", ""), "same": facts(9, 2, -1, "7", "7"), "other": facts(9, 2, -1, "7", "8"),
		"text": facts(9, 0, -1, "x", "x").long(1, 1), "long": facts(9, 0, -1, "x", "y").long(1, longText+1), "shape": facts(9, 0, -1, "x", "y"),
	}
	d := &discovery{comparable: h.Comparable}
	var asked []string
	for _, c := range d.unvaried(Part{Table: sea}, known) {
		asked = append(asked, c.Name)
	}
	if got := strings.Join(asked, " "); got != "other text" {
		t.Errorf("asked of %q", got)
	}
	for name, want := range map[string][3]*int64{"id": {n(9), n(1), n(1)}, "none": {n(0), nil, nil}, "same": {n(1), n(7), n(7)}, "other": {}, "long": {}, "shape": {}} {
		f := known[name]
		for i, got := range []*int64{f.Distinct, f.Most, f.Fewest} {
			if (got == nil) != (want[i] == nil) || got != nil && *got != *want[i] {
				t.Errorf("%s: %+v", name, f)
			}
		}
	}
	known["long"].Longest = n(longText)
	if all := d.unvaried(Part{Table: sea}, known); len(all) != 3 {
		t.Errorf("%d columns, with a text just short enough", len(all))
	}
	d.o.Can.KeysUnenforced = true
	if all := d.unvaried(Part{Table: sea}, known); all[0].Name != "id" {
		t.Errorf("a key that nothing keeps is not asked: %s", all[0].Name)
	}
}
