package sort

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var None = &rule.Rule{
	ID:          "sort/none",
	Title:       "large table in no order",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"sort"},
	Needs:       []rule.Need{rule.Statistics},
	Options: []rule.Option{
		{Name: "rows", Default: int64(1_000_000), Doc: "rows from which it matters"},
		{Name: "values", Default: int64(10), Doc: "different values that a column to be clustered by has at least, where the data was asked"},
	},
	Uses:    []rule.Need{rule.Evidence},
	Applies: func(can catalog.Abilities) bool { return can.Spreads || can.Clusters > 0 },
	Doc: `A large table has a column that says when, and its rows are kept in no order. A query for one day reads every block of the table, since none can be left out by its least and greatest value.

Where tables are not sorted but clustered, the columns that refer to other tables keep together what joins and filters ask for: without them every query reads, and pays for, all rows of the partitions that it looks at. Columns of fewer than ten values, as far as the data was asked, are left out; so is what the table is partitioned by. Where no column refers, the one that says when is taken.

Leave it alone where all queries read all of it.

The fix sorts the table by that column; the engine does so in its own time. Where it is clustered, the fix copies the table, which reads all of it, and has to be chosen.`,
	Check: func(p *rule.Pass) error {
		unknown := 0
		for _, t := range judged(p) {
			if p.Abilities.Clusters > 0 {
				if !unclustered(p, t) {
					unknown++
				}
				continue
			}
			when := moment(t)
			if t.SortKey != nil || when == "" || t.Spread != nil && t.Spread.Style == "auto" {
				continue
			}
			if t.Stats.Rows == nil {
				unknown++
				continue
			}
			if *t.Stats.Rows >= p.Count(t, "rows") {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{when}, Certainty: rule.ByStatistics, Message: fmt.Sprintf("%s are not sorted, and \"%s\" tells when they came", text.Rows(t.Stats.Rows, t.Stats.Exact), when),
					Fixes: []rule.Fix{resort(t, "sort", "sort it by "+when, when)}})
			}
		}
		p.Uncounted(unknown)
		return nil
	},
}

// unclustered reports a large table whose blocks are kept together by nothing; false: how large it is,
// is not known.
func unclustered(p *rule.Pass, t *catalog.Table) bool {
	columns := togetherBy(p, t)
	switch {
	case t.SortKey != nil || len(columns) == 0:
		return true
	case t.Stats.Rows == nil:
		return false
	case *t.Stats.Rows < p.Count(t, "rows"):
		return true
	}
	fix := resort(t, "sort", "cluster it by "+text.List(columns), columns...)
	fix.Ask = true
	p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: columns, Certainty: rule.ByStatistics, Fixes: []rule.Fix{fix},
		Message: fmt.Sprintf("%s are not clustered: a query for some values of %s reads them all", text.Rows(t.Stats.Rows, t.Stats.Exact), text.Names(columns))})
	return true
}

// togetherBy are the columns that a table is best clustered by: those that refer to others, or the
// one that says when.
func togetherBy(p *rule.Pass, t *catalog.Table) []string {
	var columns []string
	add := func(name string) {
		c := t.Column(name)
		if c == nil || c.Within != "" || slices.Contains(columns, name) || t.PartitionBy != nil && slices.Contains(t.PartitionBy.Columns, name) || len(columns) == p.Abilities.Clusters {
			return
		}
		switch c.Type.Family {
		case catalog.Integer, catalog.Text, catalog.Decimal, catalog.Date, catalog.Timestamp, catalog.Boolean:
		default:
			return
		}
		if p.Data != nil {
			if f := p.Data.Column(t, name); f != nil && f.Distinct != nil && *f.Distinct < p.Count(t, "values") {
				return
			}
		}
		columns = append(columns, name)
	}
	for _, f := range t.ForeignKeys {
		for _, name := range f.Columns {
			add(name)
		}
	}
	for _, f := range t.Accepted {
		for _, name := range f.Columns {
			add(name)
		}
	}
	if len(columns) == 0 {
		add(moment(t))
	}
	return columns
}
