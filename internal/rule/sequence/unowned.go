package sequence

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Unowned = &rule.Rule{
	ID:          "sequence/unowned",
	Title:       "sequence that does not belong to the column it numbers",
	Severity:    rule.Notice,
	Consequence: rule.Untidy,
	Fixes:       []string{"own"},
	Applies:     func(can catalog.Abilities) bool { return can.OwnedSequences },
	Doc: `A sequence numbers a single column and does not belong to it. When the table is dropped the sequence stays behind, a copy of the table's privileges forgets it, and it can be dropped from under the column by itself.

On engines whose sequences belong to no column, and where one sequence numbers several tables, nothing is reported.

The fix ties the sequence to the column, which takes a moment.`,
	Check: func(p *rule.Pass) error {
		each(p, func(s *catalog.Schema, q *catalog.Sequence) {
			if q.OwnedBy != nil || len(q.UsedBy) != 1 || q.UsedBy[0].How == "trigger" {
				return
			}
			d := q.UsedBy[0].ColumnRef
			t := p.Lookup.Table(d.Ref())
			if t == nil || !t.IsOwn() {
				return
			}
			found := rule.Finding{Table: d.Ref(), Object: q.Name, Columns: []string{d.Column},
				Message: fmt.Sprintf("sequence \"%s\" numbers \"%s\" and does not belong to it: it remains when the table is dropped", q.Name, d.Column)}
			if d.Schema == s.Name {
				found.Fixes = []rule.Fix{{ID: "own", Title: "tie it to " + text.Name(d.Column), Changes: []change.Change{
					change.Alter(s.Name, q, d.Ref(), func(q *catalog.Sequence) { q.OwnedBy = &d })}}}
			} else {
				found.Advice = "an owned sequence has to be in the schema of its table; move it there first"
			}
			p.Report(found)
		})
		return nil
	},
}
