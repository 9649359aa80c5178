package sequence

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Cycles = &rule.Rule{
	ID:          "sequence/cycles",
	Title:       "key numbered by a sequence that may start again",
	Severity:    rule.Error,
	Consequence: rule.FailsByDate,
	Fixes:       []string{"no-cycle"},
	Doc: `The sequence that numbers a key begins again when it comes to its end. From then on it gives numbers that are in use, and inserts fail one after the other, or hit rows that they do not mean.

A sequence that numbers a column without a key is not reported.

The fix says NO CYCLE: the sequence then ends with a plain error, which is what a key needs; its range should be wide enough that this never comes.`,
	Check: func(p *rule.Pass) error {
		each(p, func(s *catalog.Schema, q *catalog.Sequence) {
			for _, d := range q.UsedBy {
				t := p.Lookup.Table(d.Ref())
				if t == nil || !q.Cycle || !t.UniqueOn([]string{d.Column}) {
					continue
				}
				p.Report(rule.Finding{Table: d.Ref(), Object: q.Name, Columns: []string{d.Column},
					Message: fmt.Sprintf("sequence \"%s\" numbers the key \"%s\" and begins again after %d: it will give numbers that are in use", q.Name, d.Column, q.Most),
					Fixes: []rule.Fix{{ID: "no-cycle", Title: "let sequence " + text.Name(q.Name) + " end", Changes: []change.Change{
						change.Alter(s.Name, q, d.Ref(), func(q *catalog.Sequence) { q.Cycle = false })}}}})
			}
		})
		return nil
	},
}
