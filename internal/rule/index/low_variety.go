package index

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var LowVariety = &rule.Rule{
	ID:          "index/low-variety",
	Title:       "index on a column of few values",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Fixes:       []string{"drop"},
	Needs:       []rule.Need{rule.Statistics},
	Uses:        []rule.Need{rule.Evidence},
	GivesWay:    []string{"index/repeated", "index/prefix", "index/behind-key", "index/unused", "index/mostly-null"},
	Options: []rule.Option{
		{Name: "values", Default: int64(10), Doc: "different values that are few"},
		{Name: "rows", Default: int64(10_000), Doc: "rows from which it matters"},
		{Name: "rare", Default: 0.05, Doc: "share of the rows that the rarest value has at least: below, the index finds that one well"},
	},
	Doc: `The index is on a single column that holds ten different values at most, in a table of 10,000 rows or more, and none of them is rare. A search by it reads so much of the table that the engine will rather read all of it; every write keeps the index up.

An index that leads to a foreign key's rows, keeps rows apart, or leaves rows out is not reported.

The evidence counts the values (nexdal probe, then --evidence); otherwise the engine's own estimate does, where it has one, which knows nothing of the rarest value; that is said.

The fix drops it. Whether a search needs it is up to you, so that a script holds it only once it was chosen; one that leaves the common values out is the other way.`,
	Check: func(p *rule.Pass) error {
		unknown := 0
		for _, t := range p.Owned {
			rows := t.Stats.Rows
			if rows != nil && *rows < p.Count(t, "rows") {
				continue
			}
			for _, x := range t.Indexes {
				c := single(t, x)
				if c == nil || x.Unique || !free(x) || x.Predicate != "" || supports(p, t, x) {
					continue
				}
				n, rare, certainty, known := variety(p, t, c)
				switch {
				case !known || rows == nil:
					unknown++
				case n <= p.Count(t, "values") && n > 0 && (rare < 0 || rare >= p.Share(t, "rare")):
					says := fmt.Sprintf("\"%s\" holds %s in %s", c.Name, text.Plural(n, "different value"), text.Rows(t.Stats.Rows, t.Stats.Exact))
					if rare < 0 {
						says += ", as the engine estimates"
					}
					p.Report(rule.Finding{Table: t.Ref(), Object: x.Name, Columns: []string{c.Name}, Part: "variety", Certainty: certainty,
						Message: says + fmt.Sprintf(": index \"%s\" is not selective enough to be of use, and every write maintains it", x.Name),
						Fixes:   []rule.Fix{{ID: "drop", Title: "drop index " + text.Name(x.Name), Ask: true, Changes: []change.Change{change.DropIndex{Table: t.Ref(), Name: x.Name}}}}})
				}
			}
		}
		p.NotJudged("how many different values columns hold", p.Abilities.AnalyseAdvice, unknown)
		return nil
	},
}

// single is the column of an index on one alone, or nil.
func single(t *catalog.Table, x *catalog.Index) *catalog.Column {
	if len(x.Parts) != 1 || x.Method != "btree" && x.Method != "hash" {
		return nil
	}
	return t.Column(x.Parts[0].Column)
}

// variety is how many different values a column holds, and which share of the
// rows the rarest has, -1 where nobody knows.
func variety(p *rule.Pass, t *catalog.Table, c *catalog.Column) (n int64, rare float64, certainty rule.Certainty, known bool) {
	if p.Data != nil {
		if f := p.Data.Column(t, c.Name); f != nil && f.Distinct != nil && f.Fewest != nil && f.Rows > 0 {
			return *f.Distinct, float64(*f.Fewest) / float64(f.Rows), rule.CertaintyOf(!f.Sampled), true
		}
	}
	if d := c.Stats.Distinct; d != nil {
		return int64(*d + 0.5), -1, rule.ByStatistics, true
	}
	return 0, 0, "", false
}
