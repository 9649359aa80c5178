package index

import (
	"fmt"

	"nexdal/internal/rule"
)

// Broken: see its Doc.
var Broken = &rule.Rule{
	ID:       "index/broken",
	Title:    "index that is not valid",
	Severity: rule.Error,
	Doc: `The index is there and cannot be used: mostly, building it without blocking others was broken off. Every write keeps it up, no search uses it, and where it is unique it may not even keep rows apart.

An index on only a partitioned parent, which waits for those of the partitions, is not reported here.

There is no fix: rebuild it, or drop it if it was given up.`,
	Check: func(p *rule.Pass) {
		for _, t := range p.Catalog.Tables() {
			for _, x := range t.Indexes {
				if t.IsOwn() && x.Invalid && t.PartitionBy == nil {
					p.Report(rule.Finding{Table: t.Ref(), Object: x.Name, Message: fmt.Sprintf("index %s is not valid: every write keeps it up, and no search can use it", x.Name),
						Advice: "rebuild it without blocking others, or drop it"})
				}
			}
		}
	},
}

// most columns of an index before it is called wide.
const mostColumns = 5

// TooWide: see its Doc.
var TooWide = &rule.Rule{
	ID:       "index/too-wide",
	Title:    "index of very many columns",
	Severity: rule.Notice,
	Doc: `The index orders by more than five columns. It is large, and hardly any search makes use of the last of them.

Leave it alone where it stands behind a key that needs them all; such an index is not reported.`,
	Check: func(p *rule.Pass) {
		for _, t := range p.Catalog.Tables() {
			for _, x := range t.Indexes {
				if t.IsOwn() && t.PartitionOf == nil && x.Origin == "person" && len(x.Parts) > mostColumns {
					p.Report(rule.Finding{Table: t.Ref(), Object: x.Name, Message: fmt.Sprintf("index %s orders by %d columns: hardly any search uses the last of them", x.Name, len(x.Parts))})
				}
			}
		}
	},
}

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
		for _, t := range p.Catalog.Tables() {
			if n := len(t.Indexes); t.IsOwn() && t.PartitionOf == nil && n > mostIndexes {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Message: fmt.Sprintf("has %d indexes: every insert writes to all of them", n)})
			}
		}
	},
}
