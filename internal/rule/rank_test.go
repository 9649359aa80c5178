package rule

import (
	"slices"
	"strings"
	"testing"
	"time"

	"nexdal/internal/catalog"
)

// TestRank: what comes of a fault goes before the day on which it does, that before how grave it
// is, that before what is at stake, rows or, of what is slow, bytes, and that before the work that
// is left. Notices wait, whatever comes of them.
func TestRank(t *testing.T) {
	c := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "s"}}}
	table := func(name string, rows, bytes int64) catalog.Ref {
		t := &catalog.Table{Schema: "s", Name: name}
		t.Stats.Rows, t.Stats.Bytes = &rows, &bytes
		c.Schemas[0].Tables = append(c.Schemas[0].Tables, t)
		return t.Ref()
	}
	small, large, wide := table("small", 10, 10), table("large", 1000, 1000), table("wide", 20, 9999)
	fix, ask := []Fix{{ID: "f"}}, []Fix{{ID: "f", Ask: true}}
	soon, later := time.Date(2027, 1, 1, 0, 0, 0, 0, time.UTC), time.Date(2027, 6, 1, 0, 0, 0, 0, time.UTC)
	want := []Finding{
		{Rule: "fails", Severity: Warning, Consequence: FailsNow, Table: small},
		{Rule: "wrong", Severity: Error, Consequence: WrongNow, Table: small},
		{Rule: "wrong-fixed", Severity: Warning, Consequence: WrongNow, Table: large, Fixes: fix},
		{Rule: "wrong-asked", Severity: Warning, Consequence: WrongNow, Table: large, Fixes: ask},
		{Rule: "wrong-open", Severity: Warning, Consequence: WrongNow, Table: large},
		{Rule: "wrong-wide", Severity: Warning, Consequence: WrongNow, Table: wide, Fixes: fix},
		{Rule: "wrong-small", Severity: Warning, Consequence: WrongNow, Table: small, Fixes: fix},
		{Rule: "wrong-whole", Severity: Warning, Consequence: WrongNow, Fixes: fix},
		{Rule: "soon", Severity: Warning, Consequence: FailsByDate, Table: small, By: soon},
		{Rule: "later", Severity: Error, Consequence: FailsByDate, Table: large, By: later},
		{Rule: "some-day", Severity: Error, Consequence: FailsByDate, Table: large},
		{Rule: "bare", Severity: Warning, Consequence: Unprotected, Table: large},
		{Rule: "slow-wide", Severity: Warning, Consequence: Slow, Table: wide},
		{Rule: "slow-large", Severity: Warning, Consequence: Slow, Table: large},
		{Rule: "untidy", Severity: Error, Consequence: Untidy, Table: large},
		{Rule: "notice-fails", Severity: Notice, Consequence: FailsNow, Table: large},
		{Rule: "notice-untidy-a", Severity: Notice, Consequence: Untidy, Table: small},
		{Rule: "notice-untidy-b", Severity: Notice, Consequence: Untidy, Table: small},
	}
	names := func(list []Finding) string {
		var all []string
		for _, f := range list {
			all = append(all, f.Rule)
		}
		return strings.Join(all, " ")
	}
	for i := range want {
		got := slices.Clone(want)
		slices.Reverse(got)
		got = append(got[i:], got[:i]...) // it does not matter in which order they are found
		rank(got, c.Lookup())
		if names(got) != names(want) {
			t.Fatalf("%s, want\n%s", names(got), names(want))
		}
	}
	for i, c := range Consequences {
		for j, o := range Consequences {
			if c.Before(o) != (i < j) {
				t.Errorf("%q before %q: %v", c, o, c.Before(o))
			}
		}
	}
	if Of("key/none s.a b") != "key/none" || Of("fk/enforcement-off") != "fk/enforcement-off" {
		t.Error("the rule of an identifier")
	}
}
