package fk

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var OneToOne = &rule.Rule{
	ID:          "fk/one-to-one",
	Title:       "one to one in fact, declared as one to many",
	Severity:    rule.Notice,
	Consequence: rule.Unprotected,
	Fixes:       []string{"unique"},
	Needs:       []rule.Need{rule.Evidence},
	Options:     []rule.Option{{Name: "rows", Default: int64(20), Doc: "rows with a reference that there are at least"}},
	Applies:     func(can catalog.Abilities) bool { return !can.PrimaryKeysAlone },
	Doc: `No value of the foreign key repeats, in at least 20 rows, and in more rows than chance would keep apart: each parent has one row at most. By its declaration it could have many. Where one is meant, a unique key says so, and keeps it so; programs that expect one row would be wrong without notice on the day there are two.

It needs the data (nexdal probe, then --evidence). Where the columns are a part of a key, the rest of it tells several rows of one parent apart, and nothing is reported. Leave it alone where there merely happens to be one so far. A reference that nobody declared is judged alike, and its foreign key comes first.

The fix is a unique key. Whether that is meant is up to you, so that a script holds it only once it was chosen.`,
	Check: func(p *rule.Pass) error {
		if p.Data == nil {
			return nil // said by the other rules on the data
		}
		for _, t := range p.Catalog.Tables() {
			said := map[string]bool{}
			for _, r := range p.Data.References(t) {
				if said[strings.Join(r.Columns, "\x00")] {
					continue
				}
				if !r.Verified || r.Most == nil || *r.Most != 1 || r.RowsChecked < p.Count(t, "rows") || t.UniqueOn(r.Columns) || numbered(t, r.Columns) || apartByChance(p, r) || !r.Declared && r.Orphans > 0 {
					continue
				}
				said[strings.Join(r.Columns, "\x00")] = true
				found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: r.Columns, Part: text.List(r.Columns), Certainty: rule.Verified,
					Message: fmt.Sprintf("no row of \"%s\" is referred to twice by %s, in %s: one to one, though declared one to many", p.Called(r.To()), text.Names(r.Columns), text.Plural(r.RowsChecked, "row"))}
				if r.Declared {
					fix := rule.Unique(p, t, r.Columns)
					fix.Ask = true
					found.Fixes = []rule.Fix{fix}
				} else {
					found.Advice = "declare the foreign key first (fk/missing); the unique key is offered then"
				}
				p.Report(found)
			}
		}
		return nil
	},
}

// apartByChance reports whether rows that chose their parents blindly would often, at
// least once in twenty times, all have chosen different ones. Of n rows and m parents that
// is about exp(-n²/2m), as with birthdays.
func apartByChance(p *rule.Pass, r *evidence.Reference) bool {
	parent := p.Lookup.Table(r.To())
	if parent == nil {
		return false
	}
	c := p.Data.Column(parent, r.TargetColumns[0])
	n := float64(r.RowsChecked)
	return c != nil && n*n < -2*math.Log(0.05)*float64(c.Filled())
}

// numbered reports whether the columns are a part of a key: the rest of it is there to
// tell several rows of one parent apart.
func numbered(t *catalog.Table, columns []string) bool {
	return slices.ContainsFunc(t.Keys(), func(k *catalog.Key) bool {
		return len(k.Columns) > len(columns) && catalog.Within(columns, k.Columns)
	})
}
