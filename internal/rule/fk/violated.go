package fk

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Violated = &rule.Rule{
	ID:          "fk/violated",
	Title:       "foreign key that rows violate",
	Severity:    rule.Error,
	Consequence: rule.WrongNow,
	Needs:       []rule.Need{rule.Evidence},
	Doc: `Rows refer to a parent that is not there, although a foreign key is declared. They were loaded while foreign keys were switched off or not checked, or the foreign key was declared without looking at them.

Joins lose such rows without a word. An update of the row can fail; the foreign key can be neither validated nor, on some engines, restored from a dump; and a planner that trusts the key may compute wrong results.

It needs the data (nexdal probe, then --evidence). The finding says how many rows and shows a few values.

What is right for them, only you can say: add the parents, set the reference to null, or move the rows to a table of their own. No fix does that by itself: nexdal script repair writes the choices, as comments.`,
	Check: checkViolated,
}

func checkViolated(p *rule.Pass) error {
	unasked := 0
	for _, t := range p.Roots {
		for i, f := range t.ForeignKeys {
			if f.Inherited || slices.ContainsFunc(t.ForeignKeys[:i], func(o *catalog.ForeignKey) bool { return slices.Equal(o.Columns, f.Columns) && o.Target == f.Target }) {
				continue // one that says the same speaks for both
			}
			if p.Data == nil {
				unasked++
				continue
			}
			for _, r := range p.Data.References(t) {
				if !r.Declared || r.Orphans == 0 || !slices.Equal(r.Columns, f.Columns) || r.To() != f.Target {
					continue
				}
				values := ""
				if len(r.Samples) > 0 {
					values = ": " + strings.Join(r.Samples, ", ")
				}
				have := "have"
				if r.Orphans == 1 {
					have = "has"
				}
				found := rule.Finding{Table: t.Ref(), Object: f.Label(), Columns: f.Columns, Certainty: rule.CertaintyOf(r.Verified),
					Message: fmt.Sprintf("%s of %s %s no parent in \"%s\"%s", text.Amount(r.Orphans), text.Plural(r.RowsChecked, "row"), have, p.Called(f.Target), values),
					Advice:  "add the parents, set the reference to null, or move the rows away, as their meaning asks", Command: rule.Repair}
				if f.Period {
					found.Message = fmt.Sprintf("%s of %s %s no parent in \"%s\" for the whole of \"%s\"%s", text.Amount(r.Orphans), text.Plural(r.RowsChecked, "row"), have, p.Called(f.Target), f.Columns[len(f.Columns)-1], values)
					found.Command = rule.Command{}
					found.Advice = "shorten the periods, or add the parents that are missing for a part of them"
				}
				p.Report(found)
				break
			}
		}
	}
	p.Unasked(unasked)
	return nil
}
