package column

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var StampNoDefault = &rule.Rule{
	ID:          "column/stamp-no-default",
	Title:       "required stamp without a default",
	Severity:    rule.Notice,
	Consequence: rule.Untidy,
	Fixes:       []string{"default"},
	Options: []rule.Option{
		{Name: "names", Default: []string{"created", "created_at", "created_on", "create_time", "creation_date", "date_created", "inserted_at", "added_at", "entered_at", "changed", "changed_at", "updated", "updated_at", "modified", "modified_at", "last_modified", "last_changed"},
			Doc: "columns that say when a row was made or changed; patterns with * and ?"},
	},
	Applies: func(can catalog.Abilities) bool { return can.Now != nil },
	Doc: `The column says when the row was made or changed, may not be null, and has no default: every insert has to supply the time, by the clock of whatever machine it comes from, and one that forgets it fails.

A table with a trigger on inserts is not reported: it may fill the column.

Leave it alone where the moment is not that of the insert, as in rows taken over from elsewhere.

The fix gives the column the present moment as its default. Rows that are there stay as they are.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			if slices.ContainsFunc(t.Triggers, func(g *catalog.Trigger) bool { return slices.Contains(g.Events, "insert") }) {
				continue
			}
			names := p.Words(t, "names")
			for _, c := range t.Columns {
				dated := c.Type.Family == catalog.Timestamp || c.Type.Family == catalog.Date || c.Type.Family == catalog.Text && !p.Abilities.DateTypes
				if c.Nullable || c.Default != "" || c.Generated != "" || !dated ||
					!slices.ContainsFunc(names, func(n string) bool { return catalog.Fits(n, c.Name) }) {
					continue
				}
				found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name,
					Message: fmt.Sprintf("\"%s\" is required and has no default: every insert has to supply the time", c.Name)}
				if now := p.Abilities.Now(c.Type); now != "" {
					found.Fixes = []rule.Fix{{ID: "default", Title: fmt.Sprintf("make the current time the default of \"%s\"", c.Name), Changes: []change.Change{
						change.SetDefault{Table: t.Ref(), Column: c.Name, To: now}}}}
				} else {
					found.Advice = "the present moment as its default"
				}
				p.Report(found)
			}
		}
		return nil
	},
}
