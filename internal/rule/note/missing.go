// Package note holds the rules on comments.
package note

import (
	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Missing = &rule.Rule{
	ID:          "note/missing",
	Title:       "table or column without a comment",
	Severity:    rule.Off,
	Consequence: rule.Untidy,
	Options: []rule.Option{
		{Name: "of", Default: "tables", Choices: []string{"tables", "columns", "both"}, Doc: "what has to have a comment"},
	},
	Applies: func(can catalog.Abilities) bool { return can.Comments },
	Doc: `The table, or some of its columns, have no comment in the catalog. What is known of them is in somebody's head. The rule is off until the settings turn it on.

On engines whose tables take no comments nothing is reported.

There is no fix: a comment says what only people know.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			of := p.Word(t, "of")
			if of != "columns" && t.Comment == "" {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Message: "has no comment", Advice: "say in a comment what a row stands for"})
			}
			if of == "tables" {
				continue
			}
			var names []string
			for _, c := range t.Columns {
				if c.Comment == "" {
					names = append(names, c.Name)
				}
			}
			if n := len(names); n > 0 {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Part: "columns", Message: text.Plural(int64(n), "column") + " without a comment: " + text.Some(names, 5), Advice: "say in comments what they hold"})
			}
		}
		return nil
	},
}
