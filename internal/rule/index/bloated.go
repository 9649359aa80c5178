package index

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Bloated = &rule.Rule{
	ID:          "index/bloated",
	Title:       "index that is more than half empty",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Fixes:       []string{"rebuild"},
	Applies:     func(can catalog.Abilities) bool { return can.IndexEntry > 0 },
	Needs:       []rule.Need{rule.Statistics},
	GivesWay:    []string{"index/repeated", "index/prefix", "index/behind-key", "index/unused", "index/broken"},
	Options: []rule.Option{
		{Name: "times", Default: 2.0, Doc: "times the size that its rows need"},
		{Name: "bytes", Default: int64(10_000_000), Doc: "bytes from which it matters"},
	},
	Doc: `The index is more than twice as large as its rows need: many rows were deleted or changed, and their places stay empty. Searches read more pages, and memory holds air.

How much its rows need is reckoned from their number, as the engine estimates it, and the width of the columns, which has to be fixed: indexes on texts are not judged, nor are those below 10 MB.

The fix rebuilds the index while others read and write, where the engine can. It is not taken back.`,
	Check: func(p *rule.Pass) error {
		unknown := 0
		for _, t := range p.Owned {
			for _, x := range t.Indexes {
				width, fixed := widthOf(t, x)
				switch {
				case !fixed || x.Method != "btree" || x.Invalid || x.Predicate != "" || t.PartitionBy != nil:
				case x.Bytes == nil || t.Stats.Rows == nil:
					unknown++
				case *x.Bytes >= p.Count(t, "bytes"):
					need := *t.Stats.Rows * (width + p.Abilities.IndexEntry) * 10 / 9
					if float64(*x.Bytes) > p.Share(t, "times")*float64(need) {
						p.Report(rule.Finding{Table: t.Ref(), Object: x.Name, Part: "size", Certainty: rule.ByStatistics,
							Message: fmt.Sprintf("index \"%s\" takes %s; its %s need about %s", x.Name, text.Size(*x.Bytes), text.Rows(t.Stats.Rows, t.Stats.Exact), text.Size(need)),
							Fixes:   []rule.Fix{{ID: "rebuild", Title: "rebuild index " + text.Name(x.Name), Changes: []change.Change{change.RebuildIndex{Table: t.Ref(), Name: x.Name}}}}})
					}
				}
			}
		}
		p.Uncounted(unknown)
		return nil
	},
}

// widthOf is the bytes of an index's columns, where their width is fixed. Entries
// are aligned to eight bytes.
func widthOf(t *catalog.Table, x *catalog.Index) (int64, bool) {
	var sum int64
	for _, part := range x.Parts {
		c := t.Column(part.Column)
		if c == nil {
			return 0, false
		}
		switch c.Type.Family {
		case catalog.Integer, catalog.Float:
			sum += int64(max(8, c.Type.Bits) / 8)
		case catalog.UUID:
			sum += 16
		case catalog.Timestamp, catalog.Time:
			sum += 8
		case catalog.Date:
			sum += 4
		case catalog.Boolean:
			sum++
		default:
			return 0, false
		}
	}
	return (sum + 7) / 8 * 8, len(x.Include) == 0
}
