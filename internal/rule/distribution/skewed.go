package distribution

import (
	"fmt"

	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Skewed = &rule.Rule{
	ID:          "distribution/skewed",
	Title:       "skewed distribution",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"key", "even"},
	Needs:       []rule.Need{rule.Statistics},
	Options: []rule.Option{
		{Name: "times", Default: 1.5, Doc: "times the mean that the fullest slice may hold"},
		{Name: "share", Default: 0.1, Doc: "share of the rows that one value of the distribution column may have"},
		{Name: "rows", Default: int64(100_000), Doc: "rows from which it matters"},
	},
	Applies: spreadOut,
	Uses:    []rule.Need{rule.Evidence},
	Doc: `One slice holds far more of the table's rows than the others. Every query waits for that slice, and the cluster is as fast as it alone; its disk fills first.

It goes by the rows that the engine counts on each slice, or, where it does not tell, by the share that one value of the distribution column has. Nulls count as one value: they land together.

Leave it alone where the table is small, or always joined on this very column with another that is laid out the same and the joins gain more than the slice costs: nexdal script spread weighs that.

The fix spreads the rows by another column that is joined on and of many values, where figures or evidence show one, or evenly. The engine rewrites the table.`,
	Check: func(p *rule.Pass) error {
		unknown := 0
		for _, t := range judged(p) {
			if n, known := rows(t); t.Spread.Style != "key" || known && n < p.Count(t, "rows") {
				continue
			}
			part, by, known := share(p, t, t.Spread.Column)
			found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{t.Spread.Column}, Certainty: rule.ByStatistics, Fixes: respread(p, t, t.Spread.Column)}
			switch skew := t.Skew(); {
			case skew > p.Share(t, "times"):
				found.Message = fmt.Sprintf("the fullest slice holds %.1f times the mean of %s, spread by \"%s\"", skew, text.Rows(t.Stats.Rows, t.Stats.Exact), t.Spread.Column)
				if known && part > p.Share(t, "share") {
					found.Message += fmt.Sprintf("; one value alone has %.0f %% of the rows", 100*part)
				}
			case known && part > p.Share(t, "share"):
				found.Certainty = by
				found.Message = fmt.Sprintf("one value of \"%s\", by which the rows are spread, has %.0f %% of them: they all lie on one slice", t.Spread.Column, 100*part)
			default:
				if skew == 0 && !known {
					unknown++
				}
				continue
			}
			p.Report(found)
		}
		p.Uncounted(unknown)
		return nil
	},
}
