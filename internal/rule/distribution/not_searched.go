package distribution

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var NotSearched = &rule.Rule{
	ID:          "distribution/not-searched",
	Title:       "rows spread by what queries do not search by",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Needs:       []rule.Need{rule.Statistics},
	Options: []rule.Option{
		{Name: "reads", Default: int64(1000), Doc: "reads of the table's indexes that have to be counted"},
		{Name: "share", Default: 0.05, Doc: "share of the reads that go by the shard key, below which it is reported"},
	},
	Applies: func(can catalog.Abilities) bool { return can.Shards && can.CountsReads },
	Doc: `Of at least 1000 reads of the table's indexes that the engine has counted, fewer than 0.05 of all went by an index that begins with what the rows are spread by. The router does not know where the rows of the others are: it asks every machine, and a query is as slow as the slowest of them. More machines make it no faster.

Leave it alone where the reads counted are those of nightly work, and what people wait for goes by the key.

There is no fix: the way out is a key that begins with what queries search by (reshardCollection).`,
	Check: func(p *rule.Pass) error {
		unknown := 0
		for _, t := range p.Roots {
			if t.Spread == nil || t.Spread.Column == "" {
				continue
			}
			by, all, most, known := reads(t)
			switch {
			case !known:
				unknown++
			case all >= p.Count(t, "reads") && float64(by) < p.Share(t, "share")*float64(all):
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{t.Spread.Column}, Part: "searches", Certainty: rule.ByStatistics,
					Message: fmt.Sprintf("spread by \"%s\", and %d of %s of its indexes went by it: the others, by \"%s\" above all, asked every machine",
						t.Spread.Column, by, text.Plural(all, "read"), most.Name),
					Advice: fmt.Sprintf("spread it by what begins with \"%s\"", most.Columns()[0])})
			}
		}
		p.NotJudged("how often indexes are read", p.Abilities.ReadsAdvice, unknown)
		return nil
	},
}

// reads counts those of the table's indexes that begin with what it is spread by, and all;
// most is the index of the others that is read most. They are known where each was counted.
func reads(t *catalog.Table) (by, all int64, most *catalog.Index, known bool) {
	for _, x := range t.Indexes {
		if x.Scans == nil {
			return 0, 0, nil, false
		}
		all += *x.Scans
		if len(x.Parts) > 0 && x.Parts[0].Column == t.Spread.Column {
			by += *x.Scans
		} else if most == nil || *x.Scans > *most.Scans {
			most = x
		}
	}
	return by, all, most, len(t.Indexes) > 0
}
