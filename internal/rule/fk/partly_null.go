package fk

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var PartlyNull = &rule.Rule{
	ID:          "fk/partly-null",
	Title:       "nullable columns in a composite foreign key",
	Severity:    rule.Warning,
	Consequence: rule.Unprotected,
	Fixes:       []string{"match-full", "not-null", "together"},
	Doc: `A foreign key of several columns has more than one that may be null. Unless it is declared MATCH FULL, a row in which only some of them are filled is not checked at all: it may refer to nothing, and nobody notices.

Where only one of the columns may be null, it alone says whether there is a reference, and nothing is reported. The same goes where a check of the table names all the columns and speaks of nulls.

The fix says by a check that all of the columns are filled or none, after a question to the data. Where the engine can, the foreign key may match in full instead, which says the same; or the columns may be required, which says more. Each refuses rows that are taken today, so that a script holds it only once it was chosen. None is offered where ON DELETE or ON UPDATE puts null in some of the columns alone: partly filled rows are meant there.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			for _, f := range t.ForeignKeys {
				if f.Inherited || len(f.Columns) < 2 || f.Match == "full" {
					continue
				}
				var open []string
				for _, name := range f.Columns {
					if c := t.Column(name); c != nil && c.Nullable {
						open = append(open, name)
					}
				}
				checked := false
				for _, k := range t.Checks {
					all := p.Abilities.Reads().Mentions(k.Expression, "null")
					for _, name := range open {
						all = all && p.Abilities.Reads().Mentions(k.Expression, name)
					}
					checked = checked || all
				}
				if len(open) < 2 || checked {
					continue
				}
				p.Report(rule.Finding{Table: t.Ref(), Object: f.Label(), Columns: f.Columns, Part: "nulls", Fixes: halves(p, t, f, open),
					Message: fmt.Sprintf("a row with a null in some of %s is not checked against \"%s\"", text.Names(open), p.Called(f.Target))})
			}
		}
		return nil
	},
}

// halves are the ways to keep a reference from being half filled.
func halves(p *rule.Pass, t *catalog.Table, f *catalog.ForeignKey, open []string) []rule.Fix {
	var fixes []rule.Fix
	if t.NullsSome(open) { // an action would be refused, and with it the DELETE
		return nil
	}
	barred := p.Abilities.ActionsBarChecks && slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool {
		return f.Writes() && slices.ContainsFunc(f.Columns, func(name string) bool { return slices.Contains(open, name) })
	})
	if p.Abilities.Condition != nil && !barred {
		k := &catalog.Check{Name: p.Names.Free(t.Schema, "check", append([]string{t.Name}, open...)...), Expression: p.Abilities.Condition(t, catalog.Condition{Together: open})}
		fixes = append(fixes, rule.Fix{ID: "together", Title: fmt.Sprintf("add a check that all of %s are null, or none", text.Names(open)), Ask: true,
			Changes: []change.Change{change.AddCheck{Table: t.Ref(), Check: k}}})
	}
	if p.Abilities.MatchFull && len(open) == len(f.Columns) {
		full := f.Clone()
		full.Match = "full"
		fixes = append(fixes, rule.Fix{ID: "match-full", Title: "let the foreign key match in full", Ask: true, Changes: []change.Change{change.AlterForeignKey{Table: t.Ref(), Old: f, New: full}}})
	}
	if slices.ContainsFunc(open, t.SetToNull) {
		return fixes
	}
	required := rule.Fix{ID: "not-null", Title: "forbid null in " + text.Names(open), Ask: true}
	for _, name := range open {
		required.Changes = append(required.Changes, change.SetNullable{Table: t.Ref(), Column: name})
	}
	return append(fixes, required)
}
