package key

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var IndexOnly = &rule.Rule{
	ID:          "key/index-only",
	Title:       "uniqueness kept by an index where a constraint could say it",
	Severity:    rule.Notice,
	Consequence: rule.Unprotected,
	Fixes:       []string{"constraint"},
	GivesWay:    []string{"key/none", "index/repeated", "index/behind-key", "key/nullable-unique", "key/repeated"},
	Applies:     func(can catalog.Abilities) bool { return !can.ConstraintCopies && !can.UniqueIndexIsKey },
	Doc: `A unique index keeps columns unique, without a constraint that says so. Tools that read keys do not see it, a reference to it looks like one to no key, and whoever tidies up indexes may drop a rule of the data.

An index with a condition, an expression, an order or collation of its own, or columns carried along cannot stand behind a constraint and is not reported; nor are engines in which a unique index and a constraint are one thing, or that would have to copy the table.

Leave it alone where the index is dropped and rebuilt from time to time, as for loads.

The fix makes the index the constraint's own; it takes a moment and keeps the name. Where a constraint takes over no index, as on SQL Server, the index is dropped and built again.`,
	Check: func(p *rule.Pass) error {
		title := "make it a unique constraint, on the index that is there"
		if p.Abilities.ConstraintsBuild {
			title = "make it a unique constraint, whose index is built anew"
		}
		for _, t := range p.Roots {
			if t.Kind == catalog.Partitioned {
				continue
			}
			for _, x := range t.Indexes {
				if slices.ContainsFunc(t.Keys(), func(k *catalog.Key) bool { return catalog.SameColumns(k.Columns, x.Columns()) }) {
					continue // the other rules on indexes speak of it
				}
				if !x.Unique || x.Origin != catalog.ByPerson || !plain(t, x) || x.NullsNotDistinct {
					continue
				}
				k := &catalog.Key{Name: x.Name, Columns: x.Columns(), Index: x.Name}
				p.Report(rule.Finding{Table: t.Ref(), Object: x.Name, Columns: x.Columns(),
					Message: fmt.Sprintf("index \"%s\" keeps (%s) unique, and no constraint says so", x.Name, strings.Join(x.Columns(), ", ")),
					Fixes: []rule.Fix{{ID: "constraint", Title: title,
						Changes: []change.Change{change.ReplaceKey{Table: t.Ref(), From: change.Uniqueness{Index: x}, To: change.Uniqueness{Key: k}}}}}})
			}
		}
		return nil
	},
}
