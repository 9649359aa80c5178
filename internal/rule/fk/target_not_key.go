package fk

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

var TargetNotKey = &rule.Rule{
	ID:          "fk/target-not-key",
	Title:       "foreign key that refers to what is no key",
	Severity:    rule.Error,
	Consequence: rule.FailsNow,
	Fixes:       []string{"unique"},
	Doc: `The columns referred to are kept unique by nothing, or the table referred to is not there. Some engines let such a foreign key be declared, and fail only when rows come: every insert and delete then ends in an error once foreign keys are enforced. Others find one of several parents.

The fix declares a unique key over the columns referred to. Its pre-flight query lists values that occur more than once. Where the table referred to is not there, nothing can be offered.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			for _, f := range t.ForeignKeys {
				if f.Inherited {
					continue
				}
				found := rule.Finding{Table: t.Ref(), Object: f.Label(), Columns: f.Columns}
				target := p.Lookup.Table(f.Target)
				if why := broken(f, target); why != "" && p.Abilities.ForeignKeysPerConnection {
					found.Message = fmt.Sprintf("%s %s: every insert fails once foreign keys are enforced", refer(f.Columns), why)
					p.Report(found)
					continue
				}
				switch {
				case target == nil || len(f.TargetColumns) == 0 || keeps(p, target, f.TargetColumns):
					continue
				default:
					found.Message = fmt.Sprintf("%s \"%s\" (%s), on which there is no unique key", refer(f.Columns), p.Called(f.Target), strings.Join(f.TargetColumns, ", "))
					found.Fixes = []rule.Fix{rule.Unique(p, target, f.TargetColumns)}
				}
				p.Report(found)
			}
		}
		return nil
	},
}

// broken says what is wrong with the target of a reference that the engine took
// unseen, "" where it is there.
func broken(f *catalog.ForeignKey, target *catalog.Table) string {
	switch {
	case target == nil:
		return f.Target.Table + ", which is not there"
	case len(f.TargetColumns) == 0:
		return f.Target.Table + ", which has no primary key"
	case len(f.TargetColumns) != len(f.Columns):
		return fmt.Sprintf("\"%s\", whose key is (%s)", target.Name, strings.Join(f.TargetColumns, ", "))
	}
	for _, name := range f.TargetColumns {
		if target.Column(name) == nil {
			return fmt.Sprintf("\"%s\" of \"%s\", which is not there", name, target.Name)
		}
	}
	return ""
}

// keeps reports whether the columns are a key: just these where the engine asks
// for that, otherwise also a key among them.
func keeps(p *rule.Pass, t *catalog.Table, columns []string) bool {
	if p.Abilities.ForeignKeysPerConnection {
		return exactKey(t, columns) || t.Kind != catalog.Ordinary
	}
	return t.UniqueOn(columns)
}
