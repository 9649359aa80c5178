package distribution

import (
	"fmt"

	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var CopiedLarge = &rule.Rule{
	ID:          "distribution/copied-large",
	Title:       "large table with a copy on every node",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"key", "even"},
	Needs:       []rule.Need{rule.Statistics},
	Options: []rule.Option{
		{Name: "rows", Default: int64(3_000_000), Doc: "rows up to which a copy on every node is cheap"},
	},
	Applies: clustered,
	Uses:    []rule.Need{rule.Evidence},
	Doc: `Every node keeps a whole copy of a table of more than 3,000,000 rows. It takes as many times its room, and every load, update and upkeep is done on each node.

Leave it alone where the table hardly ever changes and every large table is joined with it on different columns.

The fix spreads it by a column that is joined on and of many values, or evenly.`,
	Check: func(p *rule.Pass) error {
		unknown := 0
		for _, t := range judged(p) {
			if t.Spread.Style != "all" {
				continue
			}
			n, known := rows(t)
			if !known {
				unknown++
				continue
			}
			if n > p.Count(t, "rows") {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Certainty: rule.ByStatistics, Fixes: respread(p, t, ""),
					Message: fmt.Sprintf("%s are kept %s, a copy on each node", text.Rows(t.Stats.Rows, t.Stats.Exact), text.Plural(int64(p.Catalog.Nodes()), "time"))})
			}
		}
		p.Uncounted(unknown)
		return nil
	},
}
