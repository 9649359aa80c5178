package index

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// TooWide: see its Doc.
var TooWide = &rule.Rule{
	ID:       "index/too-wide",
	Title:    "index of very many columns",
	Severity: rule.Notice,
	Options: []rule.Option{
		{Name: "columns", Default: int64(5), Doc: "columns of an index that are not too many"},
	},
	Doc: `The index orders by more than five columns. It is large, and hardly any search makes use of the last of them.

Leave it alone where it stands behind a key that needs them all; such an index is not reported.`,
	Check: func(p *rule.Pass) {
		for _, t := range p.Whole {
			for _, x := range t.Indexes {
				if x.Origin == catalog.ByPerson && int64(len(x.Parts)) > p.Count(t, "columns") {
					p.Report(rule.Finding{Table: t.Ref(), Object: x.Name, Message: fmt.Sprintf("index %s orders by %d columns: hardly any search uses the last of them", x.Name, len(x.Parts))})
				}
			}
		}
	},
}
