package index

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var TooWide = &rule.Rule{
	ID:          "index/too-wide",
	Title:       "index of very many columns",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Options: []rule.Option{
		{Name: "columns", Default: int64(5), Doc: "columns of an index that are not too many"},
	},
	Doc: `The index orders by more than five columns. It is large, and hardly any search makes use of the last of them.

Or its columns may hold, by their bounds, more than a third of a page: a row whose values are that long cannot be inserted, though the table would take it. Texts without a bound are not counted.

Leave it alone where it stands behind a key that needs them all; such an index is not reported.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			for _, x := range t.Indexes {
				if bytes := longest(t, x); p.Abilities.IndexPage > 0 && bytes > p.Abilities.IndexPage && x.Method == "btree" && !x.Inherited {
					p.Report(rule.Finding{Table: t.Ref(), Object: x.Name, Columns: x.NamedColumns(), Part: "bytes",
						Message: fmt.Sprintf("index \"%s\" may have to hold %s in an entry, and a third of a page is %s: longer rows are refused", x.Name, text.Size(bytes), text.Size(p.Abilities.IndexPage))})
					continue
				}
				if x.Origin == catalog.ByPerson && int64(len(x.Parts)) > p.Count(t, "columns") {
					p.Report(rule.Finding{Table: t.Ref(), Object: x.Name, Message: fmt.Sprintf("index \"%s\" has %d columns: hardly any search uses the last of them", x.Name, len(x.Parts))})
				}
			}
		}
		return nil
	},
}

// longest is what the columns of an index may hold by their bounds.
func longest(t *catalog.Table, x *catalog.Index) int64 {
	var sum int64
	for _, part := range x.Parts {
		if c := t.Column(part.Column); c != nil && (c.Type.Family == catalog.Text || c.Type.Family == catalog.Binary) {
			sum += int64(c.Type.Length)
		}
	}
	return sum
}
