package sequence

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// ByTrigger: see its Doc.
var ByTrigger = &rule.Rule{
	ID:       "sequence/by-trigger",
	Title:    "key numbered by a trigger",
	Severity: rule.Notice,
	Doc: `A trigger takes the numbers of a key from a sequence, on an engine whose columns can be numbered by themselves. Every insert runs the trigger for it, bulk loads feel it, and whoever reads the table does not see how its key comes about.

Leave it alone where the same schema has to run on an engine without such columns.

There is no fix yet: make the column an identity that begins past the largest number, drop the trigger, then the sequence.`,
	Check: func(p *rule.Pass) {
		if p.Can.AddedKeyIdentity == catalog.NoIdentity {
			return
		}
		each(p, func(_ *catalog.Schema, q *catalog.Sequence) {
			for _, d := range q.Feeds {
				if t := p.Lookup.Table(d.Ref()); d.How == "trigger" && t != nil && t.IsOwn() {
					p.Report(rule.Finding{Table: d.Ref(), Object: q.Name, Columns: []string{d.Column},
						Message: fmt.Sprintf("a trigger numbers %s from sequence %s; the engine can number the column by itself", d.Column, q.Name),
						Advice:  "an identity that begins past the largest number; then drop the trigger, and the sequence"})
				}
			}
		})
	},
}
