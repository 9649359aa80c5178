package column

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var GeneratedLegacy = &rule.Rule{
	ID:          "column/generated-legacy",
	Title:       "serial column where an identity could be",
	Severity:    rule.Notice,
	Consequence: rule.Untidy,
	Fixes:       []string{"identity"},
	GivesWay:    []string{"sequence/shared", "sequence/unowned"},
	Doc: `The column is numbered by a default that draws from a sequence of its own (serial), on an engine that has identity columns. Whoever inserts needs a privilege on the sequence besides the table; the sequence can be altered or dropped by itself; a copy of the table draws from the same one.

Leave it alone where the same schema has to run on versions without identity columns.

The fix makes it an identity that goes on where the sequence was, in one transaction that holds the table for a moment. Privileges on the sequence are not needed any more, and gone. The reversal makes the sequence and the default again.`,
	Check: func(p *rule.Pass) error {
		if p.Abilities.AddedKeyIdentity != catalog.IdentityByDefault {
			return nil
		}
		for _, t := range p.Roots {
			for _, c := range t.Columns {
				if c.Identity != catalog.IdentitySequence || c.Sequence == nil || c.Inherited {
					continue
				}
				q := p.Lookup.Sequence(*c.Sequence)
				if q == nil || q.OwnedBy == nil || *q.OwnedBy != (catalog.ColumnRef{Schema: t.Schema, Table: t.Name, Column: c.Name}) || len(q.UsedBy) > 1 {
					continue
				}
				found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name,
					Message: fmt.Sprintf("\"%s\" draws its numbers from sequence \"%s\" by a default, where it could be an identity column", c.Name, q.Name)}
				if t.Kind != catalog.Partitioned && len(p.Lookup.Heirs(t.Ref())) == 0 && !c.Nullable {
					own := *q
					own.Identity = true
					found.Fixes = []rule.Fix{{ID: "identity", Title: fmt.Sprintf("make \"%s\" an identity", c.Name), Changes: []change.Change{change.SetNumbering{Table: t.Ref(), Column: c.Name,
						From: change.Numbering{Identity: c.Identity, Default: c.Default, Schema: c.Sequence.Schema, Sequence: q},
						To:   change.Numbering{Identity: catalog.IdentityByDefault, Schema: c.Sequence.Schema, Sequence: &own}}}}}
				} else {
					found.Advice = "partitions and heirs draw from it too; they have to be altered together"
				}
				p.Report(found)
			}
		}
		return nil
	},
}
