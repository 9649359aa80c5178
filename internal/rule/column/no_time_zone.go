package column

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var NoTimeZone = &rule.Rule{
	ID:          "column/no-time-zone",
	Title:       "timestamp without time zone",
	Severity:    rule.Notice,
	Consequence: rule.Unprotected,
	Applies:     func(can catalog.Abilities) bool { return can.ZonedMoments },
	Doc: `The column says when something happened, and its type keeps what a clock on the wall showed, without saying where. Sessions with different time zones write different moments for the same one; in the night when clocks go back an hour is there twice.

Only columns that are named like moments (created, changed, sent, logged, ..., at) are reported, all of a table in one finding. What is meant by the clock on the wall, such as opening hours, is right without a zone.

There is no fix: what the values that are there mean depends on who wrote them.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			var names []string
			for _, c := range t.Columns {
				if c.Type.Family == catalog.Timestamp && !c.Type.Zoned && p.Matches(momentName, c.Name) {
					names = append(names, c.Name)
				}
			}
			if len(names) == 0 {
				continue
			}
			p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: names,
				Message: fmt.Sprintf("a time is kept without its time zone in %s", text.Names(names)), Advice: "a type with time zone, once it is known in which zone the values were written"})
		}
		return nil
	},
}

var momentName = pattern.New(`(?i)_at$|(?-i:[a-z]At$)|(^|_)(timestamp|ts|moment)$|^(created|updated|modified|changed|inserted|deleted|sent|received|logged|started|finished|last_seen|last_login|logged_in)(_(on|date|time))?$`)
