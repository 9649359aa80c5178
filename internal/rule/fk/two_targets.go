package fk

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

var TwoTargets = &rule.Rule{
	ID:          "fk/two-targets",
	Title:       "columns that refer to two tables at once",
	Severity:    rule.Warning,
	Consequence: rule.Unprotected,
	Doc: `The same columns refer to two different tables. A value has to be in both, so that a row can only refer to what happens to have the same key in each. Mostly one of the two was meant to be another column.

Leave it alone where one of the tables is a part of the other with the same key. Where the columns are their own table's primary key, and so the table is a part of both, nothing is reported.

There is no fix: which of the two is meant, or which column is missing, is up to you.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			for i, f := range t.ForeignKeys {
				if f.Inherited || t.PrimaryKey != nil && catalog.SameColumns(t.PrimaryKey.Columns, f.Columns) {
					continue
				}
				o := slices.IndexFunc(t.ForeignKeys[:i], func(o *catalog.ForeignKey) bool {
					return !o.Inherited && catalog.SameColumns(o.Columns, f.Columns) && o.Target != f.Target
				})
				if o < 0 || partOf(p, t.ForeignKeys[o], f) || partOf(p, f, t.ForeignKeys[o]) {
					continue
				}
				p.Report(rule.Finding{Table: t.Ref(), Object: f.Label(), Columns: f.Columns, Part: f.Target.Table,
					Message: fmt.Sprintf("%s \"%s\" and to \"%s\": only keys that exist in both can be used", refer(f.Columns), p.Called(t.ForeignKeys[o].Target), p.Called(f.Target)),
					Advice:  "drop the one that is not meant, or give it a column of its own"})
			}
		}
		return nil
	},
}

// partOf reports whether the key that a refers to itself refers to the table of
// b: then a value in the one is in the other.
func partOf(p *rule.Pass, a, b *catalog.ForeignKey) bool {
	t := p.Lookup.Table(a.Target)
	return t != nil && slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool {
		return f.Target == b.Target && catalog.SameColumns(f.Columns, a.TargetColumns)
	})
}
