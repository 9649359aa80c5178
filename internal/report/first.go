package report

import (
	"cmp"
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

// worthFirst is how many findings are listed before all the others; fewer than twice as many need
// no list of their own.
const worthFirst = 10

// first says in a line what there is, and lists what to do first.
func (p *Page) first(c *catalog.Catalog, open []rule.Finding) {
	chosen := First(c, open, worthFirst)
	if len(open) < 2*worthFirst || len(chosen) == 0 {
		return
	}
	now, hurt := 0, 0
	for _, f := range open {
		switch {
		case f.Consequence.Before(rule.FailsByDate):
			now++
		case f.Consequence.Before(rule.Untidy):
			hurt++
		}
	}
	place := func(f rule.Finding) string {
		if f.Table.Table == "" {
			return "the database"
		}
		return text.Line(f.Table.String())
	}
	p.block("", fmt.Sprintf("%s fail or are wrong now, %s will hurt, %s are untidy; first: %s, %s", text.Amount(int64(now)), text.Amount(int64(hurt)), text.Amount(int64(len(open)-now-hurt)), place(chosen[0]), messageOf(chosen[0])))
	p.heading("What to do first")
	for i, f := range chosen {
		p.block(fmt.Sprintf("  %2d  %s  ", i+1, p.paint(colourOf(f.Severity), pad(string(f.Consequence), len(rule.FailsByDate)))), fmt.Sprintf("%s: %s (%s)", place(f), messageOf(f), f.Rule))
	}
	p.printf("\n")
}

// First picks what to do first: by what comes of it, then the worst, then where most rows are at
// stake, one of each story.
func First(c *catalog.Catalog, findings []rule.Finding, most int) []rule.Finding {
	lookup := c.Lookup()
	rows := func(f rule.Finding) int64 {
		if t := lookup.Table(f.Table); t != nil && t.Stats.Rows != nil {
			return *t.Stats.Rows
		}
		return 0
	}
	list := slices.DeleteFunc(slices.Clone(findings), func(f rule.Finding) bool {
		return f.Severity == rule.Notice || f.Story != "" && f.Story != f.ID()
	})
	ready := func(f rule.Finding) int { // what a script holds already is less work
		if len(f.Fixes) > 0 && !f.Fixes[0].Ask {
			return 0
		}
		return 1
	}
	slices.SortStableFunc(list, func(a, b rule.Finding) int {
		return cmp.Or(slices.Index(rule.Consequences, a.Consequence)-slices.Index(rule.Consequences, b.Consequence),
			slices.Index(rule.Severities, a.Severity)-slices.Index(rule.Severities, b.Severity), cmp.Compare(rows(b), rows(a)), ready(a)-ready(b))
	})
	// One rule must not fill the list.
	var chosen []rule.Finding
	of := map[string]int{}
	for _, f := range list {
		if of[f.Rule]++; of[f.Rule] <= 3 && len(chosen) < most {
			chosen = append(chosen, f)
		}
	}
	return chosen
}
