package distribution

import (
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

// clustered: only a cluster spreads its rows.
func clustered(can catalog.Abilities) bool { return can.Spreads }

// spreadOut: so does one of shards, by the values of a column alone.
func spreadOut(can catalog.Abilities) bool { return can.Spreads || can.Shards }

// judged lists the tables that are laid out over the slices of a cluster.
func judged(p *rule.Pass) []*catalog.Table {
	if p.Catalog.Slices() < 2 {
		return nil // one slice holds all there is
	}
	return slices.DeleteFunc(slices.Clone(p.Roots), func(t *catalog.Table) bool { return t.Spread == nil })
}

// rows is how many the table holds; known is false where nobody counted.
func rows(t *catalog.Table) (n int64, known bool) {
	if t.Stats.Rows == nil {
		return 0, false
	}
	return *t.Stats.Rows, true
}

// distinct is how many values a column has, and how sure that is.
func distinct(p *rule.Pass, t *catalog.Table, column string) (n int64, by rule.Certainty, known bool) {
	if p.Data != nil {
		if f := p.Data.Column(t, column); f != nil && f.Distinct != nil {
			return *f.Distinct, rule.CertaintyOf(!f.Sampled), true
		}
	}
	if c := t.Column(column); c != nil && c.Stats.Distinct != nil {
		return int64(*c.Stats.Distinct), rule.ByStatistics, true
	}
	return 0, "", false
}

// share is the part of the rows that the most common value of a column has.
func share(p *rule.Pass, t *catalog.Table, column string) (part float64, by rule.Certainty, known bool) {
	if p.Data != nil {
		if f := p.Data.Column(t, column); f != nil && f.Most != nil && f.Rows > 0 {
			return float64(max(*f.Most, f.Nulls)) / float64(f.Rows), rule.CertaintyOf(!f.Sampled), true
		}
	}
	if c := t.Column(column); c != nil && c.Stats.Common != nil {
		return *c.Stats.Common, rule.ByStatistics, true
	}
	return 0, "", false
}

// better is a column that the table's rows would spread well by: one that is joined on,
// required, and of many values, the most telling first; empty: none is known to be.
func better(p *rule.Pass, t *catalog.Table, without string) string {
	best, most := "", int64(0)
	for _, c := range t.Columns {
		if c.Name == without || c.Nullable {
			continue
		}
		n, _, known := distinct(p, t, c.Name)
		part, _, counted := share(p, t, c.Name)
		if !known || n < int64(100*p.Catalog.Slices()) || counted && part > 0.02 || !joined(p, t, c.Name) {
			continue
		}
		if n > most {
			best, most = c.Name, n
		}
	}
	return best
}

// joined reports whether the column refers to another table or is referred to.
func joined(p *rule.Pass, t *catalog.Table, column string) bool {
	for _, f := range references(t) {
		if slices.Equal(f.Columns, []string{column}) {
			return true
		}
	}
	for _, r := range p.Lookup.Referrers(t.Ref()) {
		if slices.Equal(r.ForeignKey.TargetColumns, []string{column}) {
			return true
		}
	}
	return false
}

// references are those of the table, declared and accepted.
func references(t *catalog.Table) []*catalog.ForeignKey {
	return append(slices.Clone(t.ForeignKeys), t.Accepted...)
}

// respread are the ways to lay the table out otherwise: by a better column, or evenly.
func respread(p *rule.Pass, t *catalog.Table, without string) []rule.Fix {
	var fixes []rule.Fix
	if c := better(p, t, without); c != "" {
		fixes = append(fixes, rule.Fix{ID: "key", Title: "spread it by " + c, Changes: []change.Change{change.SetSpread{Table: t.Ref(), From: *t.Spread, To: catalog.Spread{Style: "key", Column: c}}}})
	}
	if t.Spread.Style != "even" {
		fixes = append(fixes, rule.Fix{ID: "even", Title: "spread it evenly", Changes: []change.Change{change.SetSpread{Table: t.Ref(), From: *t.Spread, To: catalog.Spread{Style: "even"}}}})
	}
	return fixes
}
