package index

import (
	"cmp"
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var Broken = &rule.Rule{
	ID:          "index/broken",
	Title:       "index that is not valid",
	Severity:    rule.Error,
	Consequence: rule.Slow,
	Fixes:       []string{"drop", "rebuild"},
	Doc: `The index is there and cannot be used: mostly, building it without blocking others was broken off. Every write maintains it, no search uses it, and where it is unique it may not even keep rows apart.

Where indexes can be switched off, such a one was: nothing maintains it until it is rebuilt.

An index on only a partitioned parent, which waits for those of the partitions, is not reported here.

The fix rebuilds it while others read and write; a second one drops it, if it was given up. Where another index of the table is the same, the broken one is what a broken-off rebuild left: the fix drops it, and does not build it once more. What is rebuilt is not made unsound again by the reversal.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			if t.Kind == catalog.Partitioned {
				continue
			}
			for i, x := range t.Indexes {
				if !x.Invalid {
					continue
				}
				rebuild := rule.Fix{ID: "rebuild", Title: "rebuild it without blocking others", Changes: []change.Change{change.RebuildIndex{Table: t.Ref(), Name: x.Name}}}
				drop := func(early bool) rule.Fix {
					return rule.Fix{ID: "drop", Title: "drop it", Changes: []change.Change{change.DropIndex{Table: t.Ref(), Name: x.Name, Early: early}}}
				}
				found := rule.Finding{Table: t.Ref(), Object: x.Name, Message: fmt.Sprintf("index \"%s\" is not valid: every write maintains it, and no query can use it", x.Name)}
				if p.Abilities.IndexesSwitch {
					rebuild.Title = "rebuild it"
					found.Message = fmt.Sprintf("index \"%s\" is switched off: no write maintains it, no query can use it, and where it is unique nothing keeps rows apart", x.Name)
				}
				if p.Abilities.BrokenRefuses {
					found.Message = fmt.Sprintf("index \"%s\" is unusable: no write maintains it, and no query can use it", x.Name)
					if x.Unique {
						found.Message = fmt.Sprintf("unique index \"%s\" is unusable: every write of the table is refused", x.Name)
					}
				}
				switch kept := leftOver(t, i); {
				case kept != nil:
					found.Message += fmt.Sprintf("; \"%s\" is the same, and a broken-off rebuild leaves such a copy", kept.Name)
					found.Fixes = []rule.Fix{drop(true)} // before a rebuild takes the name of the copy
				case droppable(x):
					found.Fixes = []rule.Fix{rebuild, drop(false)}
				default:
					found.Fixes = []rule.Fix{rebuild}
				}
				p.Report(found)
			}
		}
		return nil
	},
}

// leftOver returns the index of which the broken one at this place is a copy: one that is
// valid or, where both are broken, the one that stands behind a key or has the shorter name.
func leftOver(t *catalog.Table, at int) *catalog.Index {
	x := t.Indexes[at]
	if !droppable(x) {
		return nil
	}
	for i, y := range t.Indexes {
		if i == at || x.Unique != y.Unique || x.NullsNotDistinct != y.NullsNotDistinct || !alike(x, y) {
			continue
		}
		if !y.Invalid || !loose(y) || cmp.Or(cmp.Compare(len(y.Name), len(x.Name)), cmp.Compare(y.Name, x.Name)) < 0 {
			return y
		}
	}
	return nil
}
