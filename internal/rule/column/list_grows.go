package column

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var ListGrows = &rule.Rule{
	ID:          "column/list-grows",
	Title:       "very long list within a row",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Needs:       []rule.Need{rule.Statistics},
	Options:     []rule.Option{{Name: "values", Default: int64(1000), Doc: "values that a list may hold"}},
	Applies:     func(can catalog.Abilities) bool { return can.LargestRow > 0 && can.Lists },
	Doc: `A list within a row holds more than 1,000 values. Lists that long mostly grow for as long as the row lives: each value that is added has the whole row written again, every query that reads the row reads them all, an index on the list has an entry for each, and one day the row is as large as it may be, and adding to it fails.

Leave it alone where the list has an end that is known.

There is no fix: the values belong into a table of their own, each with a reference to the row, or into one row for each day or page.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			for _, c := range t.Columns {
				if n := c.Stats.Items; n != nil && *n > p.Count(t, "values") {
					p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name + " length", Certainty: rule.ByStatistics, Message: fmt.Sprintf("a list in \"%s\" holds %s", c.Name, text.Plural(*n, "value")), Advice: "keep the values in a table of their own"})
				}
			}
		}
		return nil
	},
}
