package index

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var OnNothing = &rule.Rule{
	ID:          "index/on-nothing",
	Title:       "index on a field that no row has",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"drop"},
	Needs:       []rule.Need{rule.Statistics},
	Options:     []rule.Option{{Name: "rows", Default: int64(100), Doc: "rows that were looked at, at least"}},
	Applies:     func(can catalog.Abilities) bool { return can.Undeclared },
	Doc: `The index begins with a field that none of the rows that were looked at has: it was renamed, or misspelt when the index was made. The index holds a null for every row, serves no search, and every write maintains it; a unique one takes a second row of its kind for a repetition, and refuses it.

Leave it alone where rows with the field are still to come.

The fix drops it. It has to be chosen, since a few rows that were not looked at may have the field.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			if !p.Looked(t, "rows") {
				continue
			}
			for _, x := range t.Indexes {
				if len(x.Parts) == 0 || x.Origin == catalog.ByPrimaryKey {
					continue
				}
				if c := t.Column(x.Parts[0].Column); c == nil || c.Stats.Absent == nil || *c.Stats.Absent < 1 {
					continue
				}
				fix := rule.Fix{ID: "drop", Title: "drop index " + text.Name(x.Name), Ask: true, Changes: []change.Change{change.DropIndex{Table: t.Ref(), Name: x.Name}}}
				if x.Origin == catalog.ByUniqueKey {
					fix.Changes = []change.Change{change.DropKey{Table: t.Ref(), Name: x.Name, Columns: x.Columns()}}
				}
				p.Report(rule.Finding{Table: t.Ref(), Object: x.Name, Columns: x.NamedColumns(), Part: "nothing", Certainty: rule.ByStatistics, Message: fmt.Sprintf("index \"%s\" is on \"%s\", which none of %s has", x.Name, x.Parts[0].Column, text.Plural(*t.Stats.Looked, "row")), Fixes: []rule.Fix{fix}})
			}
		}
		return nil
	},
}
