package distribution

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var SmallApart = &rule.Rule{
	ID:          "distribution/small-apart",
	Title:       "small table that many join to, without a copy on every node",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Fixes:       []string{"copy"},
	Needs:       []rule.Need{rule.Statistics},
	Options: []rule.Option{
		{Name: "rows", Default: int64(100_000), Doc: "rows up to which a table is small"},
		{Name: "referrers", Default: int64(2), Doc: "large tables that refer to it"},
		{Name: "large", Default: int64(1_000_000), Doc: "rows from which those are large"},
	},
	Applies: clustered,
	Uses:    []rule.Need{rule.Evidence},
	Doc: `Several large tables refer to this small one, and its rows are spread over the slices: each join sends them to all of them again. A copy on every node costs little and makes the joins local.

Leave it alone where the table changes all the time.

The fix keeps a copy on every node.`,
	Check: func(p *rule.Pass) error {
		for _, t := range judged(p) {
			n, known := rows(t)
			if !known || n > p.Count(t, "rows") || t.Spread.Style == "all" || t.Spread.Style == "auto" {
				continue
			}
			large := map[catalog.Ref]bool{}
			for _, r := range p.Lookup.Referrers(t.Ref()) {
				if rows, known := rows(r.Table); known && rows >= p.Count(t, "large") {
					large[r.Table.Ref()] = true
				}
			}
			if int64(len(large)) >= p.Count(t, "referrers") {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Certainty: rule.ByStatistics,
					Message: fmt.Sprintf("%s are spread %s, joined to by %s: each join sends them everywhere", text.Rows(t.Stats.Rows, t.Stats.Exact), t.Spread, text.Plural(int64(len(large)), "large table")),
					Fixes:   []rule.Fix{{ID: "copy", Title: "keep a copy on every node", Changes: []change.Change{change.SetSpread{Table: t.Ref(), From: *t.Spread, To: catalog.Spread{Style: "all"}}}}}})
			}
		}
		return nil
	},
}
