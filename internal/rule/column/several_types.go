package column

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var SeveralTypes = &rule.Rule{
	ID:          "column/several-types",
	Title:       "field whose values are of several types",
	Severity:    rule.Warning,
	Consequence: rule.WrongNow,
	Needs:       []rule.Need{rule.Statistics},
	Applies:     func(can catalog.Abilities) bool { return can.Undeclared },
	Doc: `Values of one field are of types that do not compare: numbers and texts, a moment and its text, one value and a list. A search by one type does not find those of another, an order puts all of one type before the other, and a program that expects the one fails on the other.

Numbers of several kinds compare, and are not reported. The shares are those of the rows that were looked at.

Leave it alone where the field holds whatever somebody sends, and nothing searches by it.

There is no fix: which type is meant, and how the others become it, is up to you. A validator (check/none) keeps new rows to it.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			for _, c := range t.Columns {
				if c.Stats.Types == nil {
					continue
				}
				groups := map[string]bool{}
				var parts []string
				for _, s := range *c.Stats.Types {
					groups[p.Abilities.Compares(s.Of)] = true
					parts = append(parts, fmt.Sprintf("%s in %s", s.Of, text.Portion(s.Part)))
				}
				if len(groups) > 1 {
					p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name, Certainty: rule.ByStatistics, Message: fmt.Sprintf("\"%s\" is %s", c.Name, strings.Join(parts, ", ")), Advice: "make them all of one type, then keep them so by a validator"})
				}
			}
		}
		return nil
	},
}
