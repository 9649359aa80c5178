package index

import (
	"fmt"
	"slices"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Unused = &rule.Rule{
	ID:          "index/unused",
	Title:       "index that nothing has read",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Fixes:       []string{"drop"},
	Needs:       []rule.Need{rule.Statistics},
	GivesWay:    []string{"index/repeated", "index/prefix", "index/behind-key", "index/broken"},
	Options: []rule.Option{
		{Name: "days", Default: int64(30), Doc: "days that the engine has counted for at least"},
	},
	Applies: func(can catalog.Abilities) bool { return can.CountsReads },
	Doc: `The engine has counted for more than 30 days how often each index is read, and this one never was. Every write maintains it.

An index that keeps rows apart, leads to a foreign key's rows, or is held for another reason is not reported.

Leave it alone where a report at the end of the year needs it, or another server, which copies this one, reads it: each counts for itself.

The fix drops it. That nothing will read it is up to you, so that a script holds it only once it was chosen.`,
	Check: func(p *rule.Pass) error {
		since, known := countedSince(p.Catalog)
		unknown := 0
		for _, t := range p.Owned {
			if t.Stats.Rows != nil && *t.Stats.Rows == 0 {
				continue
			}
			for _, x := range t.Indexes {
				switch {
				case x.Unique || !free(x) || x.Origin != catalog.ByPerson || supports(p, t, x) || t.PartitionBy != nil:
				case x.Scans == nil || !known || t.Stats.Rows == nil:
					unknown++
				case *x.Scans == 0 && p.Catalog.Surveyed.Sub(since) > time.Duration(p.Count(t, "days"))*24*time.Hour:
					size := ""
					if x.Bytes != nil {
						size = fmt.Sprintf(" (%s)", text.Size(*x.Bytes))
					}
					p.Report(rule.Finding{Table: t.Ref(), Object: x.Name, Columns: x.NamedColumns(), Part: "unused", Certainty: rule.ByStatistics,
						Message: fmt.Sprintf("index \"%s\"%s was never read since %s; every write maintains it", x.Name, size, since.Format(time.DateOnly)),
						Fixes:   []rule.Fix{{ID: "drop", Title: "drop index " + text.Name(x.Name), Ask: true, Changes: []change.Change{change.DropIndex{Table: t.Ref(), Name: x.Name}}}}})
				}
			}
		}
		p.NotJudged("how often indexes are read", p.Abilities.ReadsAdvice, unknown)
		return nil
	},
}

// countedSince is when the engine began to count.
func countedSince(c *catalog.Catalog) (time.Time, bool) {
	s, ok := c.Setting("statistics_since")
	if !ok {
		return time.Time{}, false
	}
	at, err := time.Parse(time.RFC3339, s.Value)
	return at, err == nil
}

// supports reports whether a foreign key finds its rows by the index and by no
// other.
func supports(p *rule.Pass, t *catalog.Table, x *catalog.Index) bool {
	for _, f := range slices.Concat(t.ForeignKeys, t.Accepted) {
		if x.FindsRows(f.Columns, p.Abilities.Reads()) {
			return true
		}
	}
	return false
}
