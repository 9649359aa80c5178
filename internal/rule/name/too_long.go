package name

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

var TooLong = &rule.Rule{
	ID:          "name/too-long",
	Title:       "name that is too long for other engines",
	Severity:    rule.Notice,
	Consequence: rule.Untidy,
	Options: []rule.Option{
		{Name: "bytes", Default: int64(0), Doc: "bytes that a name may have: the shortest limit of the engines that the schema has to run on; 0: no limit"},
	},
	Doc: `The name of a table, a column, a constraint or an index is longer than the house allows, mostly since the schema has to run on an engine that takes no more. There it is cut off, or refused.

Without a limit in the settings nothing is reported.

There is no fix: a rename breaks every program that knows the name.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			limit := p.Count(t, "bytes")
			if limit == 0 {
				continue
			}
			for _, x := range things(p, t) {
				if n := int64(len(x.name)); n > limit && !madeUp(p, t, x) {
					tooLong(p, t, x, n, limit)
				}
			}
		}
		return nil
	},
}

func tooLong(p *rule.Pass, t *catalog.Table, x thing, n, limit int64) {
	p.Report(rule.Finding{Table: t.Ref(), Object: x.name, Part: x.kind, Message: fmt.Sprintf("\"%s\" has %d bytes, and the house allows %d", x.name, n, limit), Advice: "a shorter name"})
}
