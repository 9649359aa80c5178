package fk

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var CascadeReach = &rule.Rule{
	ID:          "fk/cascade-reach",
	Title:       "delete that reaches far",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Options: []rule.Option{
		{Name: "tables", Default: int64(4), Doc: "tables that one delete may reach without a word"},
		{Name: "large", Default: int64(1_000_000), Doc: "rows from which a table that is reached makes it a warning"},
	},
	Doc: `Deleting a row of the table deletes rows of many others, by foreign keys that cascade: of more than four tables, or of the same table by more than one way, or of a table of more than 1,000,000 rows. One statement then locks and deletes far more than its author sees, and what was lost shows late.

Into a large table it is a warning. Only the table at the head of the cascade is reported, not each that hands it on.

Leave it alone where the rows are parts of the one deleted and mean nothing without it, as with the tables of one tenant.

There is no fix: the finding shows the ways.`,
	Check: checkCascadeReach,
}

// way is one way that a delete takes, from the head on.
type way []string

func checkCascadeReach(p *rule.Pass) error {
	for _, t := range p.Roots {
		if slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return cascades(f) && f.Target != t.Ref() }) {
			continue // it hands on what comes from above
		}
		ways := map[catalog.Ref][]way{}
		var order []catalog.Ref
		follow(p, t.Ref(), way{t.Name}, map[catalog.Ref]bool{t.Ref(): true}, func(to catalog.Ref, w way) {
			if slices.ContainsFunc(ways[to], func(known way) bool { return slices.Equal(known, w) }) {
				return // two foreign keys between the same tables
			}
			if ways[to] == nil {
				order = append(order, to)
			}
			ways[to] = append(ways[to], w)
		})
		report(p, t, order, ways)
	}
	return nil
}

func report(p *rule.Pass, t *catalog.Table, order []catalog.Ref, ways map[catalog.Ref][]way) {
	var parts []string
	found := rule.Finding{Table: t.Ref(), Object: t.Name}
	if n := int64(len(order)); n > p.Count(t, "tables") {
		names := make([]string, 0, len(order))
		for _, ref := range order {
			names = append(names, ref.Table)
		}
		if len(names) > 8 {
			names = append(names[:8], "...")
		}
		parts = append(parts, fmt.Sprintf("rows of %s (%s)", text.Plural(n, "table"), strings.Join(names, ", ")))
	}
	for _, ref := range order {
		if list := ways[ref]; len(list) > 1 {
			parts = append(parts, fmt.Sprintf("\"%s\" by %d ways (%s; %s)", ref.Table, len(list), strings.Join(list[0], " → "), strings.Join(list[1], " → ")))
			break
		}
	}
	for _, ref := range order {
		if c := p.Lookup.Table(ref); c != nil && c.Stats.Rows != nil && *c.Stats.Rows > p.Count(t, "large") {
			parts = append(parts, fmt.Sprintf("rows of \"%s\", which holds %s", ref.Table, text.Rows(c.Stats.Rows, c.Stats.Exact)))
			found.Severity, found.Certainty = rule.Warning, rule.ByStatistics
			break
		}
	}
	if len(parts) > 0 {
		found.Message = "deleting a row deletes " + text.List(parts)
		p.Report(found)
	}
}

func cascades(f *catalog.ForeignKey) bool { return f.OnDelete == catalog.Cascade && !f.Inherited }

// mostWays bounds the ways that are followed from one table: more than two to
// the same are not told apart.
const mostWays = 200

// follow calls for every way that a delete takes, each table once on a way.
func follow(p *rule.Pass, at catalog.Ref, along way, on map[catalog.Ref]bool, found func(catalog.Ref, way)) {
	left := mostWays
	var walk func(at catalog.Ref, along way)
	walk = func(at catalog.Ref, along way) {
		for _, r := range p.Lookup.Referrers(at) {
			to := r.Table.Ref()
			if !cascades(r.ForeignKey) || on[to] || left == 0 {
				continue
			}
			left--
			next := append(slices.Clone(along), to.Table)
			found(to, next)
			on[to] = true
			walk(to, next)
			on[to] = false
		}
	}
	walk(at, along)
}
