package index

import (
	"fmt"

	"nexdal/internal/rule"
)

// mostIndexes of one table.
const mostIndexes = 10

// TooMany: see its Doc.
var TooMany = &rule.Rule{
	ID:       "index/too-many",
	Title:    "table with very many indexes",
	Severity: rule.Notice,
	Doc: `The table has more than ten indexes. Every insert writes to all of them, and every update to those of the columns that it changes, and often to all.

There is no fix: nexdal finds those that repeat each other; which others nobody needs, the engine's own figures on their use can tell.`,
	Check: func(p *rule.Pass) {
		for _, t := range p.Whole {
			if n := len(t.Indexes); n > mostIndexes {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Message: fmt.Sprintf("has %d indexes: every insert writes to all of them", n)})
			}
		}
	},
}
