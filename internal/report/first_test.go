package report

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// TestFirst: what comes of a fault goes before how grave it is, that before the rows at stake, and
// those before how ready the fix is; no rule fills the list, a story is told once, and notices wait.
func TestFirst(t *testing.T) {
	c := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "s"}}}
	table := func(name string, rows int64) catalog.Ref {
		t := &catalog.Table{Schema: "s", Name: name}
		t.Stats.Rows = &rows
		c.Schemas[0].Tables = append(c.Schemas[0].Tables, t)
		return t.Ref()
	}
	small, large := table("small", 10), table("large", 1000)
	fix, ask := []rule.Fix{{ID: "f", Title: "mend it"}}, []rule.Fix{{ID: "f", Title: "mend it", Ask: true}}
	all := []rule.Finding{
		{Rule: "a/untidy", Severity: rule.Error, Consequence: rule.Untidy, Table: large},
		{Rule: "a/slow", Severity: rule.Error, Consequence: rule.Slow, Table: large},
		{Rule: "a/bare", Severity: rule.Warning, Consequence: rule.Unprotected, Table: large},
		{Rule: "b/bare", Severity: rule.Error, Consequence: rule.Unprotected, Table: small},
		{Rule: "c/asked", Severity: rule.Warning, Consequence: rule.WrongNow, Table: large, Fixes: ask},
		{Rule: "c/ready", Severity: rule.Warning, Consequence: rule.WrongNow, Table: large, Fixes: fix},
		{Rule: "c/small", Severity: rule.Warning, Consequence: rule.WrongNow, Table: small, Fixes: fix},
		{Rule: "d/date", Severity: rule.Warning, Consequence: rule.FailsByDate, Table: small},
		{Rule: "e/fails", Severity: rule.Warning, Consequence: rule.FailsNow, Table: small},
		{Rule: "f/notice", Severity: rule.Notice, Consequence: rule.FailsNow, Table: large},
		{Rule: "g/part", Severity: rule.Error, Consequence: rule.FailsNow, Table: large, Story: "e/fails s.small"},
	}
	for i := range 5 {
		all = append(all, rule.Finding{Rule: "h/often", Severity: rule.Error, Consequence: rule.FailsByDate, Table: large, Object: fmt.Sprint("o", i)})
	}
	var got []string
	for _, f := range First(c, all, 20) {
		got = append(got, f.Rule)
	}
	want := strings.Fields("e/fails c/ready c/asked c/small h/often h/often h/often d/date b/bare a/bare a/slow a/untidy")
	if !slices.Equal(got, want) {
		t.Errorf("first\n%v, want\n%v", got, want)
	}
	if n := len(First(c, all, 4)); n != 4 {
		t.Errorf("%d of at most 4", n)
	}
	for i, c := range rule.Consequences {
		for j, o := range rule.Consequences {
			if c.Before(o) != (i < j) {
				t.Errorf("%q before %q: %v", c, o, c.Before(o))
			}
		}
	}
}
