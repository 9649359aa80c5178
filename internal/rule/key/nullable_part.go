package key

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var NullablePart = &rule.Rule{
	ID:          "key/nullable-part",
	Title:       "primary-key column that may be null",
	Severity:    rule.Error,
	Consequence: rule.Unprotected,
	Fixes:       []string{"not-null"},
	Applies:     func(can catalog.Abilities) bool { return can.NullableKeys },
	Needs:       []rule.Need{rule.Evidence},
	Doc: `A column of the primary key lets nulls in, on an engine that allows it. Nulls are not equal to each other: any number of rows can have none, and nothing can refer to them or tell them apart.

With evidence (nexdal probe, then --evidence) the finding says how many rows have a null there.

The fix forbids nulls. A pre-flight query looks for rows that have one; where the evidence knows of some, nothing is offered before they are put right. Where a column that is there cannot be made required, it is a notice as long as no null is known.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			if t.PrimaryKey == nil {
				continue
			}
			for _, name := range t.PrimaryKey.Columns {
				if c := t.Column(name); c != nil && c.Nullable && c.Identity == catalog.NoIdentity {
					p.Report(nullablePart(p, t, c))
				}
			}
		}
		return nil
	},
}

func nullablePart(p *rule.Pass, t *catalog.Table, c *catalog.Column) rule.Finding {
	found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name,
		Message: fmt.Sprintf("\"%s\" is part of the primary key and may be null: any number of rows can be without it", c.Name)}
	if p.Data != nil {
		if f := p.Data.Column(t, c.Name); f != nil && f.Nulls > 0 {
			found.Certainty = rule.CertaintyOf(!f.Sampled)
			found.Message = fmt.Sprintf("\"%s\" is part of the primary key and is null in %s", c.Name, text.Plural(f.Nulls, "row"))
			found.Advice = "not scripted: give those rows a value first"
			return found
		}
	}
	if p.Abilities.RequiredAtBirth {
		found.Severity, found.Advice = rule.Notice, "a column is made required when its table is made; ask the data for as long as it is not"
		return found
	}
	found.Fixes = []rule.Fix{{ID: "not-null", Title: "forbid null in " + text.Name(c.Name), Changes: []change.Change{change.SetNullable{Table: t.Ref(), Column: c.Name}}}}
	return found
}
