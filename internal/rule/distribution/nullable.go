package distribution

import (
	"fmt"

	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Nullable = &rule.Rule{
	ID:          "distribution/nullable",
	Title:       "spread by a column that may be null",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Fixes:       []string{"key", "even"},
	Needs:       []rule.Need{rule.Evidence},
	GivesWay:    []string{"distribution/skewed"},
	Applies:     clustered,
	Doc: `The column that the rows are spread by may be null. Rows in which it is null all land on one slice.

Where the data was asked, only columns that hold nulls are reported, with how many; otherwise every one that may.

Leave it alone where nulls stay rare.

The fix spreads the rows by another column, or evenly.`,
	Check: func(p *rule.Pass) error {
		for _, t := range judged(p) {
			if t.Spread.Style != "key" {
				continue
			}
			c := t.Column(t.Spread.Column)
			if c == nil || !c.Nullable {
				continue
			}
			found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Message: fmt.Sprintf("\"%s\", by which the rows are spread, may be null: such rows land on one slice", c.Name)}
			if p.Data != nil {
				if f := p.Data.Column(t, c.Name); f != nil {
					if f.Nulls == 0 {
						continue
					}
					found.Certainty = rule.CertaintyOf(!f.Sampled)
					found.Message = fmt.Sprintf("\"%s\", by which the rows are spread, is null in %s, which all lie on one slice", c.Name, text.Plural(f.Nulls, "row"))
				}
			}
			for _, fix := range respread(p, t, c.Name) {
				fix.Ask = true
				found.Fixes = append(found.Fixes, fix)
			}
			p.Report(found)
		}
		return nil
	},
}
