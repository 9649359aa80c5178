package column

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var StampByTrigger = &rule.Rule{
	ID:          "column/stamp-by-trigger",
	Title:       "stamp set by a trigger on inserts",
	Severity:    rule.Notice,
	Consequence: rule.Untidy,
	Fixes:       []string{"default"},
	Applies:     func(can catalog.Abilities) bool { return can.TriggersFill },
	Doc: `A trigger gives the column the present moment when a row is inserted, which a default does as well. Every insert runs the trigger for it, bulk loads feel it, and whoever reads the table does not see where the moment comes from.

A trigger that acts on updates too is not reported: no default does that.

Leave it alone where nobody may give a moment of their own: the trigger replaces it, a default does not.

The fix "default" gives the column a default that takes the place of a null as well, and drops the trigger. It is offered where the engine has such defaults, the column takes no null and the trigger does nothing else. Rows that are there stay as they are.`,
	Check: func(p *rule.Pass) error {
		routines := map[string]string{}
		for _, s := range p.Catalog.Schemas {
			for _, f := range s.Routines {
				routines[s.Name+"."+f.Signature()] = f.Definition
			}
		}
		for _, t := range p.Roots {
			for _, g := range t.Triggers {
				if g.Timing != "before" || !g.PerRow || g.Inherited || g.Enabled == "disabled" || !slices.Equal(g.Events, []string{"insert"}) {
					continue
				}
				columns, alone := p.Abilities.Reads().Stamps(g.Definition, routines[g.Calls])
				for _, name := range columns {
					c := columnCalled(t, name)
					if c == nil || c.Default != "" {
						continue
					}
					p.Report(stamped(p, t, g, c, alone && len(columns) == 1))
				}
			}
		}
		return nil
	},
}

// columnCalled is the column of that name, in capitals or not where no other is meant.
func columnCalled(t *catalog.Table, name string) *catalog.Column {
	if c := t.Column(name); c != nil {
		return c
	}
	for _, c := range t.Columns {
		if strings.EqualFold(c.Name, name) {
			return c
		}
	}
	return nil
}

func stamped(p *rule.Pass, t *catalog.Table, g *catalog.Trigger, c *catalog.Column, alone bool) rule.Finding {
	found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name,
		Message: fmt.Sprintf("trigger \"%s\" gives \"%s\" the time of each insert; a default can", g.Name, c.Name)}
	now := ""
	if p.Abilities.Now != nil {
		now = p.Abilities.Now(c.Type)
	}
	switch {
	case now == "" || !alone:
		found.Advice = "the present moment as its default; then take it out of the trigger"
	case p.Abilities.DefaultOnNull && !c.Nullable:
		found.Fixes = []rule.Fix{{ID: "default", Title: fmt.Sprintf("make the current time the default of \"%s\", and drop trigger \"%s\"", c.Name, g.Name), Ask: true, Changes: []change.Change{
			change.ReplaceByDefault{Table: t.Ref(), Column: c.Name, Trigger: g, Default: now}}}}
	default:
		found.Advice = fmt.Sprintf("the default %s; then drop the trigger", now)
	}
	return found
}
