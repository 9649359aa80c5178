package name

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// reserved are words that the SQL standard and the engines keep for themselves:
// as names they need quotes nearly everywhere.
var reserved = func() map[string]bool {
	m := map[string]bool{}
	for _, w := range strings.Fields(`all and any array as asc between both case cast check collate column constraint create cross current_date current_time
		current_timestamp current_user default delete desc distinct drop else end except exists false fetch for foreign from full grant group having in inner insert
		intersect into is join leading left like limit natural not null offset on or order outer primary references right select session_user set some table then to
		trailing true union unique update user using values when where with`) {
		m[w] = true
	}
	return m
}()

var Reserved = &rule.Rule{
	ID:          "name/reserved",
	Title:       "name that is a reserved word",
	Severity:    rule.Warning,
	Consequence: rule.Untidy,
	Applies:     func(can catalog.Abilities) bool { return !can.Undeclared },
	Doc: `A table or a column is called by a word that the SQL standard or the engine reserves, such as order, user or group. Every statement has to quote it; one that forgets to fails, or, worse, means something else: on some engines an unquoted user is the name of who is logged in.

Leave it alone where all statements are written by a program that quotes every name.

There is no fix: a rename breaks every program that knows the name.`,
	Check: func(p *rule.Pass) error {
		each(p, func(t *catalog.Table, c *catalog.Column, name string) {
			word := strings.ToLower(name)
			if reserved[word] || p.Abilities.Reserved != nil && p.Abilities.Reserved(word) {
				report(p, t, c, fmt.Sprintf("\"%s\" is a reserved word: every statement has to quote it", name))
			}
		})
		return nil
	},
}
