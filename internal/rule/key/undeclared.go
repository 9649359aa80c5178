package key

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Undeclared = &rule.Rule{
	ID:          "key/undeclared",
	Title:       "columns that are unique, though nothing says so",
	Severity:    rule.Notice,
	Consequence: rule.Unprotected,
	Fixes:       []string{"unique"},
	Needs:       []rule.Need{rule.Evidence},
	Options:     []rule.Option{{Name: "rows", Default: int64(20), Doc: "rows that a table has at least"}},
	Applies:     uniqueKeys,
	Doc: `Columns that are named like an identifier are different in every row and never empty, and no key says so. If they are meant to be, a unique key keeps them so, and gives every search by them an index.

It needs the data (nexdal probe, then --evidence); all rows must have been looked at, and there must be at least 20. Columns that refer to another table are left to fk/one-to-one.

The fix is a unique key. That the values are different may be chance, so that a script holds it only once it was chosen.`,
	Check: func(p *rule.Pass) error {
		if p.Data == nil {
			return nil
		}
		for _, t := range p.Roots {
			for _, k := range p.Data.Keys(t) {
				if k.Declared || !k.Verified || k.Rows < p.Count(t, "rows") || k.Likely < least(t) || t.UniqueOn(k.Columns) || partly(p, t, k.Columns) || refers(p, t, k.Columns) || link(t, k.Columns) {
					continue
				}
				is := "is"
				if len(k.Columns) > 1 {
					is = "are together"
				}
				fix := rule.Unique(p, t, k.Columns)
				fix.Ask = true
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: k.Columns, Part: strings.Join(k.Columns, ", "), Certainty: rule.Verified, Fixes: []rule.Fix{fix},
					Message: fmt.Sprintf("%s %s unique and never null in all of %s, but no key declares it", text.Names(k.Columns), is, text.Plural(k.Rows, "row"))})
			}
		}
		return nil
	},
}

// least is what the looks of columns must reach: where a key is declared, being whole
// numbers and the first of the table is not enough without a name that says so.
func least(t *catalog.Table) float64 {
	if t.PrimaryKey != nil {
		return 0.61
	}
	return 0.6
}

// partly reports whether a unique index keeps the column unique in its way: in capitals
// or small letters alike, or among the rows that count.
func partly(p *rule.Pass, t *catalog.Table, columns []string) bool {
	return len(columns) == 1 && slices.ContainsFunc(t.Indexes, func(x *catalog.Index) bool {
		return x.Unique && len(x.Parts) == 1 && (x.Parts[0].Column == columns[0] || p.Abilities.Reads().Mentions(x.Parts[0].Expression, columns[0]))
	})
}

// link reports whether each of several columns refers to a table:
// key/pair-not-unique speaks of those.
func link(t *catalog.Table, columns []string) bool {
	for _, name := range columns {
		if !slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return slices.Contains(f.Columns, name) }) {
			return false
		}
	}
	return len(columns) > 1
}

// refers reports whether the columns refer to another table.
func refers(p *rule.Pass, t *catalog.Table, columns []string) bool {
	for _, r := range p.Data.References(t) {
		if catalog.SameColumns(r.Columns, columns) {
			return true
		}
	}
	return false
}
