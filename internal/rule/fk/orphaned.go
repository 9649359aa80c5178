package fk

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
	"nexdal/internal/rule"
)

var Orphaned = &rule.Rule{
	ID:          "fk/orphaned",
	Title:       "references that lead nowhere, which no foreign key can keep",
	Severity:    rule.Warning,
	Consequence: rule.WrongNow,
	Needs:       []rule.Need{rule.Evidence},
	Applies:     func(can catalog.Abilities) bool { return can.NoForeignKeys },
	Doc: `Values that refer to another table lead to nothing there: the row was deleted, or never was. The engine has no foreign keys, so that nothing but programs keeps such references; what joins by them loses the rows without a word.

It needs the data (nexdal probe, then --evidence). A reference that was accepted (nexdal decide accept) is an error; one that its name and its values speak for is a warning.

Leave it alone where rows are kept on purpose that outlive those they refer to, as in logs: nexdal decide refuse ends the matter.

There is no fix: whether the parents are to be added or the references taken away is up to you.`,
	Check: func(p *rule.Pass) error {
		if p.Data == nil {
			p.Unasked(len(p.Roots))
			return nil
		}
		for _, t := range p.Roots {
			for _, m := range meant(p, t) {
				if m.said == nil || m.said.Orphans == 0 {
					continue
				}
				found := rule.Finding{Table: t.Ref(), Object: m.key.Label(), Columns: m.key.Columns, Certainty: rule.CertaintyOf(m.said.Verified), Advice: "add what they refer to, or take the references away",
					Message: fmt.Sprintf("%s \"%s\" (%s) %s", refer(m.key.Columns), p.Called(m.key.Target), strings.Join(m.key.TargetColumns, ", "), covered(m.said))}
				if m.accepted {
					found.Severity = rule.Error
				}
				p.Report(found)
			}
		}
		return nil
	},
}

// A meant reference is one that counts though nothing declares it.
type reference struct {
	key      *catalog.ForeignKey
	said     *evidence.Reference // nil: the data was not asked
	accepted bool
}

// meant lists the references of a table, where the engine has no foreign keys: those that were accepted,
// and those of whose values nearly all are found.
func meant(p *rule.Pass, t *catalog.Table) []reference {
	var known []*evidence.Reference
	if p.Data != nil {
		known = p.Data.References(t)
	}
	var all []reference
	for _, f := range t.Accepted {
		all = append(all, reference{f, proof(known, f), true})
	}
	for _, r := range known {
		f := &catalog.ForeignKey{Columns: r.Columns, Target: r.To(), TargetColumns: r.TargetColumns}
		if r.RowsChecked == 0 || r.Score < likely || p.Lookup.Table(f.Target) == nil || slices.ContainsFunc(t.Accepted, func(o *catalog.ForeignKey) bool { return alike(o, f) }) {
			continue
		}
		all = append(all, reference{f, r, false})
	}
	return all
}

// likely is how sure a reference has to be that nobody decided about.
const likely = 0.7
