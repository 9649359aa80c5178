package column

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/pattern"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var NeverNull = &rule.Rule{
	ID:          "column/never-null",
	Title:       "column that is never empty, though it may be",
	Severity:    rule.Notice,
	Consequence: rule.Unprotected,
	Fixes:       []string{"not-null"},
	Needs:       []rule.Need{rule.Evidence},
	Applies:     func(can catalog.Abilities) bool { return !can.RequiredAtBirth },
	GivesWay:    []string{"partition/nullable-key", "key/nullable-part", "check/as-not-null"},
	Options:     []rule.Option{{Name: "rows", Default: int64(100), Doc: "rows that a table has to have more of"}},
	Doc: `A column may be null and never is, in a table of more than 100 rows. If it must not be, NOT NULL says so, keeps it so, and spares every query the question.

It needs the data (nexdal probe, then --evidence), and all rows of the table must have been looked at. Columns named like the end of something (until, closed, deleted) are not reported: they are empty for as long as it lasts. Nor are those that a foreign key sets to null when the row referred to goes.

The fix says NOT NULL in the way that blocks least; it is not offered where a trigger or a routine of the database inserts rows without the column. That the column is never empty may be chance, so that a script holds it only once it was chosen.`,
	Check: func(p *rule.Pass) error {
		if p.Data == nil {
			return nil
		}
		for _, t := range p.Roots {
			for _, c := range t.Columns {
				f := p.Data.Column(t, c.Name)
				if f == nil || f.Sampled || f.Nulls > 0 || f.Rows <= p.Count(t, "rows") || !c.Nullable || c.NotNull != nil || c.Generated != "" || ends.MatchString(c.Name) || part(t, c.Name) || t.SetToNull(c.Name) {
					continue
				}
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name, Certainty: rule.Verified,
					Message: fmt.Sprintf("\"%s\" is nullable, and null in none of %s", c.Name, text.Plural(f.Rows, "row")),
					Fixes:   []rule.Fix{{ID: "not-null", Title: "forbid null in " + text.Name(c.Name), Ask: true, Changes: []change.Change{change.SetNullable{Table: t.Ref(), Column: c.Name}}}}})
			}
		}
		return nil
	},
}

// part reports whether the column is one of the primary key's, which has a rule
// of its own.
func part(t *catalog.Table, name string) bool {
	return t.PrimaryKey != nil && slices.Contains(t.PrimaryKey.Columns, name)
}

// ends are names of what is filled in once something is over.
var ends = pattern.New(`(?i)(^|_)(until|till|end|ended|closed|deleted|removed|finished|cancelled|expired|expires|valid_to)(_|$)`)
