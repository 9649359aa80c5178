package index

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

var Prefix = &rule.Rule{
	ID:          "index/prefix",
	Title:       "index that is a prefix of another",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"drop"},
	Uses:        []rule.Need{rule.Statistics},
	Options: []rule.Option{
		{Name: "bytes", Default: int64(100_000_000), Doc: "bytes of the longer index up to which the shorter one is spare"},
		{Name: "times", Default: 3.0, Doc: "times the shorter index that the longer one may be larger, above that"},
	},
	Doc: `The columns of an index, in order, are a prefix of a longer index of the same table, or its last column is indexed by fewer letters. The longer one serves the same searches; the shorter one is kept up by every write for little.

An index that enforces uniqueness is not reported, nor one with another predicate, method, collation or operator class, nor one whose carried columns the longer one lacks.

Leave it alone where the longer index is much larger and the shorter one is read all the time; where sizes are known, an index is passed over if the longer one exceeds 100 MB and three times its size.

The fix drops the shorter one, without blocking writes where the engine can.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			for _, x := range t.Indexes {
				if !free(x) || x.Unique || keyAlike(t, x) != "" {
					continue
				}
				if wide := wider(p, t, x); wide != nil {
					p.Report(spare(t, x, fmt.Sprintf("\"%s\" %s is a prefix of \"%s\" %s, which serves the same searches%s", x.Name, shown(x), wide.Name, shown(wide), cost(x))))
				}
			}
		}
		return nil
	},
}

// wider returns a longer index that covers x, or nil.
func wider(p *rule.Pass, t *catalog.Table, x *catalog.Index) *catalog.Index {
	for _, y := range t.Indexes {
		if y == x || y.Invalid || len(y.Parts) < len(x.Parts) || alike(x, y) || !covers(y, x, p.Abilities) || covers(x, y, p.Abilities) {
			continue
		}
		if x.Bytes != nil && y.Bytes != nil && *y.Bytes > p.Count(t, "bytes") && float64(*y.Bytes) > p.Share(t, "times")*float64(*x.Bytes) {
			continue
		}
		return y
	}
	return nil
}
