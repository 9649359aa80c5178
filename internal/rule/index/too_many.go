package index

import (
	"fmt"

	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var TooMany = &rule.Rule{
	ID:          "index/too-many",
	Title:       "table with very many indexes",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Options: []rule.Option{
		{Name: "indexes", Default: int64(10), Doc: "indexes of one table that are not too many"},
		{Name: "times", Default: 2.0, Doc: "times the table's own size that its indexes may take"},
		{Name: "bytes", Default: int64(100_000_000), Doc: "bytes of indexes from which their size matters"},
	},
	Doc: `The table has more than ten indexes, or they take more than twice the room of the table itself, from 100 MB on. Every insert writes to all of them, and every update to those of the columns that it changes, and often to all.

There is no fix: nexdal finds those that repeat each other; which others nobody needs, the engine's own figures on their use can tell.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			bytes, own := t.Stats.IndexBytes, t.Stats.Bytes
			switch n := int64(len(t.Indexes)); {
			case n > p.Count(t, "indexes"):
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Message: fmt.Sprintf("has %d indexes: every insert writes to all of them", n)})
			case bytes != nil && own != nil && n > 1 && *bytes >= p.Count(t, "bytes") && float64(*bytes) > p.Share(t, "times")*float64(*own):
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Certainty: rule.ByStatistics,
					Message: fmt.Sprintf("its %d indexes take %s, the table itself %s", n, text.Size(*bytes), text.Size(*own))})
			}
		}
		return nil
	},
}
