package distribution

import (
	"fmt"

	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var FewValues = &rule.Rule{
	ID:          "distribution/few-values",
	Title:       "spread by a column of few values",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"key", "even"},
	Needs:       []rule.Need{rule.Statistics, rule.Evidence},
	GivesWay:    []string{"distribution/skewed"},
	Options: []rule.Option{
		{Name: "times", Default: 10.0, Doc: "times as many values as the cluster has slices that there should be"},
		{Name: "rows", Default: int64(100_000), Doc: "rows from which it matters"},
	},
	Applies: spreadOut,
	Doc: `The column that the rows are spread by has fewer than ten times as many values as the cluster has slices. Each value lies on one slice, so that some slices get several and some none.

Leave it alone where the values are few by nature, all equally common, and joined on.

The fix spreads the rows by another column that is joined on and of many values, or evenly.`,
	Check: func(p *rule.Pass) error {
		unasked := 0
		for _, t := range judged(p) {
			if n, known := rows(t); t.Spread.Style != "key" || known && n < p.Count(t, "rows") {
				continue
			}
			n, by, known := distinct(p, t, t.Spread.Column)
			if !known {
				unasked++
				continue
			}
			if float64(n) < p.Share(t, "times")*float64(p.Catalog.Slices()) {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{t.Spread.Column}, Certainty: by, Fixes: respread(p, t, t.Spread.Column),
					Message: fmt.Sprintf("\"%s\", by which the rows are spread, has %s for %s", t.Spread.Column, text.Plural(n, "value"), text.Plural(int64(p.Catalog.Slices()), "slice"))})
			}
		}
		p.Unasked(unasked)
		return nil
	},
}
