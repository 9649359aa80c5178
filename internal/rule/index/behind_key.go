package index

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var BehindKey = &rule.Rule{
	ID:          "index/behind-key",
	Title:       "index that repeats the one behind a key",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"drop"},
	Doc: `Somebody created an index on the very columns, in the same order, that a primary key or unique constraint has an index on already. It answers no query that the key's own index does not answer, but every insert, update and delete keeps it up, and it takes room on disk and in memory.

A partial index, one with other operator classes, collations or carried columns, or one of another method is not reported.

The fix drops it, without blocking writes where the engine can. One that a foreign key is checked against is not dropped.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			leaned := leanedOn(p.Lookup, t)
			for _, x := range t.Indexes {
				if !free(x) || leaned[x.Name] {
					continue
				}
				if key := keyAlike(t, x); key != "" {
					p.Report(spare(t, x, fmt.Sprintf("\"%s\" %s repeats the index behind the %s; every write maintains both%s", x.Name, shown(x), key, cost(x))))
				}
			}
		}
		return nil
	},
}

// keyAlike names the key whose index, or own order, is like x; or "".
func keyAlike(t *catalog.Table, x *catalog.Index) string {
	if k := t.PrimaryKey; k != nil && k.Index == "" && plainOn(x, k.Columns) {
		return "primary key"
	}
	for _, y := range t.Indexes {
		if y != x && !loose(y) && alike(x, y) && !y.Invalid {
			return string(y.Origin)
		}
	}
	return ""
}

// plainOn reports whether x is a whole index on just the columns.
func plainOn(x *catalog.Index, columns []string) bool {
	return x.Predicate == "" && len(x.Parts) == len(columns) && x.LeadsWith(columns)
}

// spare is the finding that an index can go.
func spare(t *catalog.Table, x *catalog.Index, message string) rule.Finding {
	return rule.Finding{Table: t.Ref(), Object: x.Name, Columns: columns(x), Message: message,
		Fixes: []rule.Fix{{ID: "drop", Title: "drop index " + text.Name(x.Name), Changes: []change.Change{change.DropIndex{Table: t.Ref(), Name: x.Name}}}}}
}

func columns(x *catalog.Index) []string {
	var named []string
	for _, p := range x.Parts {
		if p.Column != "" {
			named = append(named, p.Column)
		}
	}
	return named
}

// cost says what room an index takes, where that is known.
func cost(x *catalog.Index) string {
	if x.Bytes == nil || *x.Bytes == 0 {
		return ""
	}
	return fmt.Sprintf(" (%s)", text.Size(*x.Bytes))
}
