package distribution

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var JoinApart = &rule.Rule{
	ID:          "distribution/join-apart",
	Title:       "large tables that are joined but not co-located",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"together"},
	Needs:       []rule.Need{rule.Statistics},
	Options: []rule.Option{
		{Name: "rows", Default: int64(1_000_000), Doc: "rows from which a table is large"},
	},
	Applies: clustered,
	Uses:    []rule.Need{rule.Evidence},
	Doc: `Two large tables are tied by a reference of one column, and at least one of them is not spread by it: every join of the two moves rows from slice to slice, over the network, before it can begin.

References that were accepted (nexdal decide) count as declared ones do.

Leave it alone where the tables are joined on something else more often; a table can be spread by one column only. nexdal script spread weighs all references of a schema together.

The fix spreads both by the columns of the reference, unless that would leave one of them skewed.`,
	Check: func(p *rule.Pass) error {
		large := func(t *catalog.Table) bool { n, known := rows(t); return known && n >= p.Count(t, "rows") }
		for _, t := range judged(p) {
			if !large(t) || t.Spread.Style == "all" {
				continue
			}
			// Where one reference is served, the others cannot be.
			served := false
			for _, f := range references(t) {
				served = served || len(f.Columns) == 1 && together(t, f.Columns[0], p.Lookup.Table(f.Target), f.TargetColumns)
			}
			if served {
				continue
			}
			for _, f := range references(t) {
				to := p.Lookup.Table(f.Target)
				if len(f.Columns) != 1 || len(f.TargetColumns) != 1 || to == nil || to == t || to.Spread == nil || !large(to) || to.Spread.Style == "all" {
					continue
				}
				moved := smaller(t, to).Stats
				found := rule.Finding{Table: t.Ref(), Object: f.Label(), Columns: f.Columns, Certainty: rule.ByStatistics,
					Message: fmt.Sprintf("\"%s\" is spread %s and \"%s\" %s: every join on \"%s\" moves %s", t.Name, t.Spread, to.Name, to.Spread, f.Columns[0], text.Rows(moved.Rows, moved.Exact))}
				fix := rule.Fix{ID: "together", Title: fmt.Sprintf("spread both by the join: \"%s\" by \"%s\", \"%s\" by \"%s\"", t.Name, f.Columns[0], to.Name, f.TargetColumns[0])}
				skewed := false
				for _, x := range []struct {
					t      *catalog.Table
					column string
				}{{t, f.Columns[0]}, {to, f.TargetColumns[0]}} {
					part, _, known := share(p, x.t, x.column)
					skewed = skewed || known && part > 0.1
					if (*x.t.Spread != catalog.Spread{Style: "key", Column: x.column}) {
						fix.Changes = append(fix.Changes, change.SetSpread{Table: x.t.Ref(), From: *x.t.Spread, To: catalog.Spread{Style: "key", Column: x.column}})
					}
				}
				if skewed {
					found.Advice = "not scripted: one value of the join columns has over a tenth of the rows, which would gather on one slice"
				} else {
					found.Fixes = []rule.Fix{fix}
				}
				p.Report(found)
				break
			}
		}
		return nil
	},
}

// together reports whether rows that the reference ties lie on one slice.
func together(t *catalog.Table, column string, to *catalog.Table, target []string) bool {
	if to == nil || to.Spread == nil || t.Spread == nil || len(target) != 1 {
		return false
	}
	return t.Spread.Style == "key" && t.Spread.Column == column && to.Spread.Style == "key" && to.Spread.Column == target[0]
}

func smaller(a, b *catalog.Table) *catalog.Table {
	if *a.Stats.Rows < *b.Stats.Rows {
		return a
	}
	return b
}
