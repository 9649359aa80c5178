package key

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
	"nexdal/internal/rule"
)

var GeneratedOnly = &rule.Rule{
	ID:          "key/generated-only",
	Title:       "only key is a generated number",
	Severity:    rule.Notice,
	Consequence: rule.Unprotected,
	GivesWay:    []string{"key/undeclared", "key/pair-not-unique"},
	Applies:     uniqueKeys,
	Doc: `The only key of the table is a number that the database makes up (or a random identifier), and other tables refer to it. Nothing keeps the same real thing from being entered twice, under two numbers; references then divide between the two.

Tables that nothing refers to are reported only where a required text is named like an identifier (code, serial number and the like): in logs, measurements and lines of documents the same values may well meet again. Nor are tables that hold nothing but numbers, dates and references besides.

With evidence, columns that are different in every row are reported by key/undeclared instead.

There is no fix: which columns tell one thing from another is up to you.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			k := t.PrimaryKey
			if k == nil || len(k.Columns) != 1 || len(t.UniqueKeys) > 0 || len(t.Exclusions) > 0 || otherUnique(t) || !referred(p, t) && !identified(p, t) {
				continue
			}
			own := t.Column(k.Columns[0])
			if own == nil || own.Identity == catalog.NoIdentity && own.Type.Family != catalog.UUID || t.Refers(own.Name) || !named(p, t, own.Name) {
				continue
			}
			found := rule.Finding{Table: t.Ref(), Object: t.Name, Message: fmt.Sprintf("\"%s\" is its only key: the same thing can be entered twice under two numbers", own.Name),
				Advice: "a unique key on what tells one from another"}
			p.Report(found)
		}
		return nil
	},
}

var identifier = pattern.New(`(?i)(^|_)(code|serial|serial_number|serial_no|isbn|sku|slug|iban|vin|ean|imei|licen[cs]e_plate)$`)

// identified reports whether a required text of the table is named like an
// identifier.
func identified(p *rule.Pass, t *catalog.Table) bool {
	for _, c := range t.Columns {
		if c.Type.Family == catalog.Text && filled(p, t, c) && p.Matches(identifier, c.Name) && !t.Refers(c.Name) && !part(t, c.Name) {
			return true
		}
	}
	return false
}

// referred reports whether others refer to the table, declared or by what the data shows.
func referred(p *rule.Pass, t *catalog.Table) bool {
	return len(p.Lookup.Referrers(t.Ref())) > 0 || p.Data != nil && p.Data.ReferredTo(t)
}

// filled reports whether the column may not be null, or no row is.
func filled(p *rule.Pass, t *catalog.Table, c *catalog.Column) bool {
	if !c.Nullable || p.Data == nil {
		return !c.Nullable
	}
	f := p.Data.Column(t, c.Name)
	return f != nil && f.Rows > 0 && f.Nulls == 0 && !f.Sampled
}

// part reports whether the column is one of the primary key's.
func part(t *catalog.Table, name string) bool {
	return t.PrimaryKey != nil && slices.Contains(t.PrimaryKey.Columns, name)
}

// otherUnique reports whether an index that somebody made keeps something
// unique, if only in part.
func otherUnique(t *catalog.Table) bool {
	for _, x := range t.Indexes {
		if x.Unique && x.Origin == catalog.ByPerson {
			return true
		}
	}
	return false
}

// named reports whether the table has a required text that could tell its rows
// apart. A date kept as text could not.
func named(p *rule.Pass, t *catalog.Table, key string) bool {
	for _, c := range t.Columns {
		if c.Name != key && c.Type.Family == catalog.Text && filled(p, t, c) && !t.Refers(c.Name) && !p.Matches(moment, c.Name) {
			return true
		}
	}
	return false
}
