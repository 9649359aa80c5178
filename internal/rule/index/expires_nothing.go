package index

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

var ExpiresNothing = &rule.Rule{
	ID:          "index/expires-nothing",
	Title:       "time to live on a field that is no moment",
	Severity:    rule.Warning,
	Consequence: rule.Unprotected,
	Needs:       []rule.Need{rule.Statistics},
	Applies:     func(can catalog.Abilities) bool { return can.Undeclared },
	Doc: `The index lets rows expire so long after a moment, and its field holds no moments but texts or numbers, or is missing. Such rows never expire: the table grows without end, and what was to be forgotten is kept.

Rows in which the field is a moment expire; the finding says what share of them does not.

There is no fix: the values have to be made moments, or the index put on another field.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			for _, x := range t.Indexes {
				moment := p.Abilities.Expires(x)
				if moment == "" {
					continue
				}
				c := t.Column(x.Parts[0].Column)
				if c == nil || c.Stats.Types == nil {
					continue // index/on-nothing says it
				}
				moments := 0.0
				for _, s := range *c.Stats.Types {
					if s.Of == moment {
						moments = s.Part
					}
				}
				if moments == 1 {
					continue
				}
				kinds := slices.Collect(func(yield func(string) bool) {
					for _, s := range *c.Stats.Types {
						if s.Of != moment && !yield(s.Of) {
							return
						}
					}
				})
				says := fmt.Sprintf("index \"%s\" lets rows expire by \"%s\", which is %s: none ever does", x.Name, c.Name, strings.Join(kinds, " or "))
				if moments > 0 {
					says = fmt.Sprintf("index \"%s\" lets rows expire by \"%s\", which is %s in %.1f %% of them: these never do", x.Name, c.Name, strings.Join(kinds, " or "), 100*(1-moments))
				}
				p.Report(rule.Finding{Table: t.Ref(), Object: x.Name, Columns: []string{c.Name}, Part: "expires", Certainty: rule.ByStatistics, Message: says, Advice: "make the values moments"})
			}
		}
		return nil
	},
}
