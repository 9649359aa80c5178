package fk

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/evidence"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var NotValidated = &rule.Rule{
	ID:          "fk/not-validated",
	Title:       "foreign key that was never validated",
	Severity:    rule.Warning,
	Consequence: rule.Unprotected,
	Fixes:       []string{"validate"},
	Uses:        []rule.Need{rule.Evidence},
	Doc: `The foreign key was declared without looking at the rows that were there. New rows are checked; old ones may refer to nothing. The planner does not rely on it.

The fix validates it, which reads the table while others read and write. A pre-flight query looks for rows without a parent; where the evidence knows of some, fk/violated reports them instead. The reversal re-creates the foreign key without a check.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			for _, f := range t.ForeignKeys {
				if !f.NotValidated || f.NotEnforced || f.Disabled || f.Inherited {
					continue
				}
				if r := known(p, t, f); r == nil || r.Orphans == 0 { // otherwise fk/violated says it all
					p.Report(notValidated(p, t, f, r))
				}
			}
		}
		return nil
	},
}

// known is what the data says of the foreign key, or nil.
func known(p *rule.Pass, t *catalog.Table, f *catalog.ForeignKey) *evidence.Reference {
	if p.Data == nil {
		return nil
	}
	return proof(p.Data.References(t), f)
}

func notValidated(p *rule.Pass, t *catalog.Table, f *catalog.ForeignKey, r *evidence.Reference) rule.Finding {
	found := rule.Finding{Table: t.Ref(), Object: f.Label(), Columns: f.Columns,
		Message: fmt.Sprintf("%s was added without checking existing rows: some may have no parent in \"%s\"", f.Label(), p.Called(f.Target))}
	if r != nil {
		found.Certainty = rule.CertaintyOf(r.Verified)
		found.Message = fmt.Sprintf("%s was added without checking existing rows; all of %s have a parent", f.Label(), text.Plural(r.RowsChecked, "row"))
	}
	found.Fixes = []rule.Fix{{ID: "validate", Title: "validate " + f.Label(), Changes: []change.Change{change.ValidateForeignKey{Table: t.Ref(), ForeignKey: f}}}}
	return found
}
