package check

import (
	"fmt"
	"strings"

	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var AsNotNull = &rule.Rule{
	ID:          "check/as-not-null",
	Title:       "check that only forbids null",
	Severity:    rule.Notice,
	Consequence: rule.Untidy,
	Fixes:       []string{"not-null"},
	Doc: `A check says nothing but that a column is not null. NOT NULL says it better: the planner knows it, tools show it, and it can be part of a primary key.

Where the column is NOT NULL as well, the check is merely in the way.

The fix makes the column NOT NULL and drops the check.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			for _, k := range t.Checks {
				required := p.Requires(k)
				if required == "" || k.Inherited {
					continue
				}
				for _, c := range t.Columns {
					if strings.EqualFold(required, c.Name) {
						fix := rule.Fix{ID: "not-null", Title: fmt.Sprintf("make \"%s\" NOT NULL, and drop the check", c.Name)}
						if c.Nullable {
							fix.Changes = append(fix.Changes, change.SetNullable{Table: t.Ref(), Column: c.Name})
						}
						fix.Changes = append(fix.Changes, change.DropCheck{Table: t.Ref(), Check: k})
						p.Report(rule.Finding{Table: t.Ref(), Object: name(k.Name, t.Name), Columns: []string{c.Name}, Part: c.Name,
							Message: fmt.Sprintf("a check forbids null in \"%s\", which NOT NULL would say better", c.Name), Fixes: []rule.Fix{fix}})
					}
				}
			}
		}
		return nil
	},
}
