package report

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// TestFirst: no rule fills the list, a story is told once, notices wait, and the order stays.
func TestFirst(t *testing.T) {
	ref := catalog.Ref{Schema: "s", Table: "t"}
	all := []rule.Finding{
		{Rule: "a/first", Severity: rule.Warning, Table: ref},
		{Rule: "a/part", Severity: rule.Error, Table: ref, Story: "a/first s.t"},
	}
	for i := range 5 {
		all = append(all, rule.Finding{Rule: "h/often", Severity: rule.Error, Table: ref, Object: fmt.Sprint("o", i)})
	}
	all = append(all, rule.Finding{Rule: "z/last", Severity: rule.Warning, Table: ref}, rule.Finding{Rule: "n/notice", Severity: rule.Notice, Table: ref})
	for most, want := range map[int]string{20: "a/first h/often h/often h/often z/last", 2: "a/first h/often", 0: ""} {
		var got []string
		for _, f := range First(all, most) {
			got = append(got, f.Rule)
		}
		if strings.Join(got, " ") != want {
			t.Errorf("%d: %v, want %s", most, got, want)
		}
	}
	left := without(all, First(all, 2))
	if len(left) != len(all)-2 || left[0].Rule != "a/part" {
		t.Errorf("left are %d, %s", len(left), left[0].Rule)
	}
	for i := range all {
		all[i].Consequence = rule.Slow
	}
	if says := weigh(all, First(all, 1)); !strings.HasPrefix(says, "nothing fails or is wrong now, 8 will hurt, 1 notice; first: s.t, ") {
		t.Error(says)
	}
	all[0].Consequence = rule.WrongNow
	if says := weigh(all[:2], nil); says != "1 fails or is wrong now, 1 will hurt, 0 notices" {
		t.Error(says)
	}
}

// TestAlike: what is said of three tables and more in the same words stands once, as long as it is
// of whole tables and nothing is offered.
func TestAlike(t *testing.T) {
	at := func(table string) rule.Finding {
		return rule.Finding{Rule: "fk/island", Message: "refers to nothing", Table: catalog.Ref{Schema: "s", Table: table}, Object: table}
	}
	fixed, column := at("e"), at("f")
	fixed.Fixes, column.Columns = []rule.Fix{{ID: "x"}}, []string{"c"}
	other := at("g")
	other.Message = "something else"
	single, same := alike([]rule.Finding{at("a"), fixed, at("b"), other, column, at("c")})
	if len(single) != 3 || len(same) != 1 || len(same[0]) != 3 || same[0][2].Table.Table != "c" {
		t.Errorf("%v, %v", single, same)
	}
	if single, same = alike([]rule.Finding{at("a"), at("b")}); len(single) != 2 || len(same) != 0 {
		t.Errorf("of two: %v, %v", single, same)
	}
}

// TestNext: the commands that lead on have the real names, ready for a shell, whatever the names hold.
func TestNext(t *testing.T) {
	call := Call{Source: "salt mere.db", Evidence: "e.json", Flags: []string{"--set", "name/*=off"}}
	f := rule.Finding{Rule: "key/none", Table: catalog.Ref{Schema: "main", Table: "it's\n\x1b[31m"}}
	lead := "nexdal script fix 'salt mere.db' --evidence e.json --finding 'key/none main.it'\\''s??[31m'"
	for _, c := range []struct {
		fixes    []rule.Fix
		decision *rule.Decision
		command  rule.Command
		want     []string
	}{
		{[]rule.Fix{{ID: "one"}}, nil, nil, []string{lead + " -o fix.sql --set 'name/*=off'"}},
		{[]rule.Fix{{ID: "one", Ask: true}}, nil, nil, []string{lead + " --choose one -o fix.sql --set 'name/*=off'"}},
		{[]rule.Fix{{ID: "one", Ask: true}}, &rule.Decision{Verdict: "choose"}, nil, []string{lead + " -o fix.sql --set 'name/*=off'"}},
		{[]rule.Fix{{ID: "one"}, {ID: "two"}}, nil, nil, []string{lead + " --choose one -o fix.sql --set 'name/*=off'"}},
		{nil, nil, rule.Repair, []string{"nexdal script repair 'salt mere.db' --evidence e.json -o repair.sql --set 'name/*=off'"}},
		{nil, nil, nil, nil},
	} {
		f.Fixes, f.Decision, f.Command = c.fixes, c.decision, c.command
		if got := call.Next(f); !slices.Equal(got, c.want) {
			t.Errorf("%q, want\n%q", got, c.want)
		}
	}
	call.Ending, call.Flags = ".js", nil
	f.Fixes, f.Decision, f.Command = []rule.Fix{{ID: "one"}}, nil, nil
	if got, want := call.Next(f), []string{lead + " -o fix.js"}; !slices.Equal(got, want) {
		t.Errorf("%q, want\n%q", got, want)
	}
	if got := (Call{}).Next(rule.Finding{Fixes: []rule.Fix{{ID: "one"}}, Command: rule.Probe}); got != nil {
		t.Errorf("without a source: %q", got)
	}
	if got := (Call{Source: "a.db"}).Next(rule.Finding{Command: rule.Repair}); len(got) != 1 || got[0] != "nexdal script repair a.db -o repair.sql" {
		t.Errorf("evidence that is found anyway: %q", got)
	}
	if got := call.named("nexdal probe SOURCE -o F"); got != "nexdal probe 'salt mere.db' -o F" {
		t.Error(got)
	}
}
