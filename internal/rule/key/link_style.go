package key

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var LinkStyle = &rule.Rule{
	ID:          "key/link-style",
	Title:       "linking table that is not in the house's style",
	Severity:    rule.Off,
	Consequence: rule.Untidy,
	Fixes:       []string{"combine", "number"},
	Options: []rule.Option{
		{Name: "style", Default: "combined", Choices: []string{"combined", "generated"}, Doc: "combined: the references together are the primary key; generated: a key of its own, and the references together unique"},
	},
	Applies: uniqueKeys,
	Doc: `A table that links rows of others is made in one of two ways: its references together are the primary key (combined), or it has a generated key of its own and the references are unique together (generated). The house has settled on one (house: link-tables), and this table is made in the other. Without such a setting the rule is off.

What counts as a linking table is told with key/pair-not-unique; one on whose references nothing is unique is reported there.

Where a generated key is to give way and nothing refers to it, the fix makes the references the primary key and keeps the generated column, unique as it was. The other way round, where nothing refers to it either, the references become a unique key first, and a generated column the primary key then; they are kept unique throughout.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			if p.Word(t, "style") == "combined" {
				generatedLink(p, t)
			} else {
				combinedLink(p, t)
			}
		}
		return nil
	},
}

// pairOf are the columns that a table with two references or more links by, if
// it is hardly more than a link.
func pairOf(t *catalog.Table, own string) []string {
	var pair []string
	targets := map[catalog.Ref]bool{}
	for _, c := range t.Columns {
		for _, f := range t.ForeignKeys {
			if len(f.Columns) == 1 && f.Columns[0] == c.Name && !stamp.MatchString(c.Name) && c.Name != own {
				pair = append(pair, c.Name)
				targets[f.Target] = true
				break
			}
		}
	}
	if len(pair) < 2 || len(pair) > 4 || !bare(t, own, pair, namedAfter(t.Name, targets)) {
		return nil
	}
	return pair
}

func generatedLink(p *rule.Pass, t *catalog.Table) {
	k := t.PrimaryKey
	if k == nil || len(k.Columns) != 1 || t.Refers(k.Columns[0]) {
		return
	}
	pair := pairOf(t, k.Columns[0])
	if pair == nil {
		return
	}
	for _, u := range t.UniqueKeys {
		if !catalog.SameColumns(u.Columns, pair) {
			continue
		}
		found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: pair,
			Message: fmt.Sprintf("links by (%s), and its key is \"%s\"; the house makes the references the key", strings.Join(pair, ", "), k.Columns[0])}
		switch {
		case len(p.Lookup.Referrers(t.Ref())) > 0:
			found.Advice = "tables refer to its own key; they would have to be moved first"
		case !t.NotNull(u.Columns):
			found.Advice = "the references may be null, which a primary key does not take"
		case t.Column(k.Columns[0]).Identity == catalog.IdentityRowid || t.Column(k.Columns[0]).Identity == catalog.IdentityCounter:
			found.Advice = "its number is tied to the primary key on this engine; rebuild the table without it"
		default:
			name := p.Names.Free(t.Schema, "key", t.Name, k.Columns[0])
			primary := primaryKey(p, t, u.Columns)
			found.Fixes = []rule.Fix{{ID: "combine", Title: fmt.Sprintf("make (%s) the primary key, and \"%s\" unique", strings.Join(u.Columns, ", "), k.Columns[0]), Changes: []change.Change{
				change.ReplaceKey{Table: t.Ref(), From: change.Uniqueness{Primary: true, Key: k}, To: change.Uniqueness{Key: &catalog.Key{Name: name, Columns: k.Columns, Index: name}}},
				change.ReplaceKey{Table: t.Ref(), From: change.Uniqueness{Key: u}, To: change.Uniqueness{Primary: true, Key: primary}}}}}
			if primary.Name == name || primary.Name == k.Name {
				found.Fixes, found.Advice = nil, "the name of the primary key would be taken twice"
			}
		}
		p.Report(found)
		return
	}
}

func combinedLink(p *rule.Pass, t *catalog.Table) {
	k := t.PrimaryKey
	if k == nil || len(k.Columns) < 2 {
		return
	}
	pair := pairOf(t, "")
	if pair == nil || !catalog.SameColumns(pair, k.Columns) {
		return
	}
	found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: pair,
		Message: fmt.Sprintf("its references (%s) are its key; the house gives a linking table a key of its own", strings.Join(pair, ", ")),
		Advice:  "add a generated key, and keep the references unique"}
	if len(p.Lookup.Referrers(t.Ref())) == 0 && numberable(p, t) {
		found.Advice, found.Fixes = "", []rule.Fix{{ID: "number", Title: "give it a number as its key, and keep the references unique", Changes: []change.Change{numbered(p, t)}}}
	}
	p.Report(found)
}
