// Package name holds the rules on what things are called.
package name

import (
	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// each calls for every table and column that the owner named; the column is nil
// for the table itself.
func each(p *rule.Pass, do func(t *catalog.Table, c *catalog.Column, name string)) {
	for _, t := range p.Roots {
		do(t, nil, t.Name)
		for _, c := range t.Columns {
			do(t, c, c.Leaf())
		}
	}
}

func report(p *rule.Pass, t *catalog.Table, c *catalog.Column, message string) {
	found := rule.Finding{Table: t.Ref(), Object: t.Name, Message: message}
	if c != nil {
		found.Columns, found.Part = []string{c.Name}, c.Name
	}
	p.Report(found)
}
