package column

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Required = &rule.Rule{
	ID:          "column/required",
	Title:       "table without a column that every table has to have",
	Severity:    rule.Off,
	Consequence: rule.Untidy,
	Options: []rule.Option{
		{Name: "columns", Default: []string{}, Doc: "columns that every table has to have, as created_at"},
	},
	Doc: `The house has every table carry certain columns, such as the moment in which a row was made, and this table lacks one. Without a list in the settings (house: required-columns) the rule is off.

Linking tables and lists may do without: set the rule off for their pattern.

There is no fix: which value the rows that are there should get is up to you.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			var lacking []string
			for _, name := range p.Words(t, "columns") {
				if t.Column(catalog.InCaseOf(name, t.Name)) == nil {
					lacking = append(lacking, name)
				}
			}
			if len(lacking) > 0 {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Message: fmt.Sprintf("lacks %s, which the house has in every table", text.Names(lacking)), Advice: "add the column"})
			}
		}
		return nil
	},
}
