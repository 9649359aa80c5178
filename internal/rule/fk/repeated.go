package fk

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var Repeated = &rule.Rule{
	ID:          "fk/repeated",
	Title:       "foreign key that is declared twice",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"drop"},
	Doc: `Two foreign keys have the same columns and refer to the same columns of the same table. Every write checks both. Where their actions differ, what a delete does depends on which the engine looks at first.

Where both say the same, the fix drops the later by name. Where their actions differ there is none: which is meant is up to you.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			for i, f := range t.ForeignKeys {
				o := slices.IndexFunc(t.ForeignKeys[:i], func(o *catalog.ForeignKey) bool { return !o.Inherited && pairs(o, f) })
				if f.Inherited || o < 0 {
					continue
				}
				other := t.ForeignKeys[o]
				says, differ := "they say the same", false
				if other.OnDelete != f.OnDelete || other.OnUpdate != f.OnUpdate {
					differ = true
					says = fmt.Sprintf("one says %s on delete and %s on update, the other %s and %s", other.OnDelete, other.OnUpdate, f.OnDelete, f.OnUpdate)
				}
				spare := f
				if t.Index(f.Name) != nil && t.Index(other.Name) == nil {
					spare = other // the index bears the other's name
				}
				found := rule.Finding{Table: t.Ref(), Object: f.Label(), Columns: f.Columns, Part: "again",
					Message: fmt.Sprintf("%s \"%s\" twice, also by %s: %s", refer(f.Columns), p.Called(f.Target), other.Label(), says)}
				if differ {
					found.Advice = "drop the one that is not meant"
				} else {
					found.Fixes = []rule.Fix{{ID: "drop", Title: "drop " + spare.Label(), Changes: []change.Change{change.DropForeignKey{Table: t.Ref(), ForeignKey: spare}}}}
				}
				p.Report(found)
			}
		}
		return nil
	},
}

// pairs reports whether both pair the same columns.
func pairs(a, b *catalog.ForeignKey) bool {
	if a.Target != b.Target || len(a.Columns) != len(b.Columns) || len(a.TargetColumns) != len(b.TargetColumns) {
		return false
	}
	for i, c := range a.Columns {
		j := slices.Index(b.Columns, c)
		if j < 0 || i >= len(a.TargetColumns) || j >= len(b.TargetColumns) || a.TargetColumns[i] != b.TargetColumns[j] {
			return false
		}
	}
	return true
}
