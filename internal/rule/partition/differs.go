package partition

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Differs = &rule.Rule{
	ID:          "partition/differs",
	Title:       "partition that differs from its parent",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Applies:     func(can catalog.Abilities) bool { return can.PartsAreTables },
	Fixes:       []string{"align"},
	Doc: `The partition differs from the table that it is part of: a default of another value, a column that may not be null in this part alone, storage parameters or a tablespace unlike its siblings', a check of its own beyond its bounds, or an index or foreign key that only some of the partitions have. Rows are treated one way or the other by the partition that they happen to be in.

What an index of the partitioned table left behind is index/partition-missing's to say.

The fix restores the parent's defaults. Which side the rest is aligned to is up to you.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			if t.Kind != catalog.Partitioned {
				continue
			}
			parts := p.Lookup.Partitions(t.Ref())
			for _, part := range parts {
				differs(p, t, part, parts)
			}
		}
		return nil
	},
}

func differs(p *rule.Pass, t, part *catalog.Table, siblings []*catalog.Table) {
	if !part.IsOwn() {
		return
	}
	var says []string
	fix := rule.Fix{ID: "align", Title: "give " + text.Name(part.Name) + " the defaults of " + text.Name(t.Name)}
	unscripted := false
	for _, c := range t.Columns {
		own := part.Column(c.Name)
		if own == nil {
			continue
		}
		if own.Default != c.Default && own.Identity == c.Identity && own.Generated == c.Generated {
			says = append(says, fmt.Sprintf("\"%s\" is %s by default, there %s", c.Name, cmp.Or(own.Default, "null"), cmp.Or(c.Default, "null")))
			fix.Changes = append(fix.Changes, change.SetDefault{Table: part.Ref(), Column: c.Name, From: own.Default, To: c.Default})
		}
		if !own.Nullable && c.Nullable {
			says, unscripted = append(says, c.Name+" may not be null, there it may"), true
		}
	}
	if len(siblings) > 1 {
		if alone(siblings, part, func(s *catalog.Table) string { return s.Storage }) {
			says, unscripted = append(says, "its storage parameters are its own: "+cmp.Or(part.Storage, "none")), true
		}
		if alone(siblings, part, func(s *catalog.Table) string { return s.Tablespace }) {
			says, unscripted = append(says, "it is in tablespace "+cmp.Or(part.Tablespace, "of the database")), true
		}
	}
	for _, f := range part.ForeignKeys {
		if !f.Inherited {
			says, unscripted = append(says, fmt.Sprintf("foreign key %s is its own", f.Label())), true
		}
	}
	for _, k := range part.Checks {
		if !k.Inherited && !bounding(p, t, k) {
			says, unscripted = append(says, fmt.Sprintf("check %s is its own", cmp.Or(k.Name, k.Expression))), true
		}
	}
	for _, x := range part.Indexes {
		if x.Inherited || x.Origin != catalog.ByPerson {
			continue
		}
		have := 0
		for _, s := range siblings {
			if s.FindsRows(x.Columns(), p.Abilities.Reads()) || slices.ContainsFunc(s.Indexes, func(y *catalog.Index) bool { return slices.Equal(y.Parts, x.Parts) }) {
				have++
			}
		}
		if have < len(siblings) {
			says, unscripted = append(says, fmt.Sprintf("index \"%s\" on (%s) is its own, and %s lack it", x.Name, strings.Join(x.Columns(), ", "), text.Plural(int64(len(siblings)-have), "sibling"))), true
		}
	}
	if len(says) == 0 {
		return
	}
	found := rule.Finding{Table: part.Ref(), Object: part.Name, Message: fmt.Sprintf("differs from \"%s\": %s", t.Name, strings.Join(says, "; "))}
	if len(fix.Changes) > 0 && !unscripted {
		found.Fixes = []rule.Fix{fix}
	} else {
		found.Advice = "level the two, in one direction or the other"
	}
	p.Report(found)
}

// bounding reports whether the check speaks of the columns that the table is partitioned
// by alone, as one does that spares the engine a scan when the part is attached.
func bounding(p *rule.Pass, t *catalog.Table, k *catalog.Check) bool {
	for _, c := range t.Columns {
		if !slices.Contains(t.CutBy(p.Abilities.Reads()), c.Name) && p.Abilities.Reads().Mentions(k.Expression, c.Name) {
			return false
		}
	}
	return true
}

// alone reports whether the partition is in a minority of less than a third.
func alone(siblings []*catalog.Table, part *catalog.Table, of func(*catalog.Table) string) bool {
	n := 0
	for _, s := range siblings {
		if of(s) == of(part) {
			n++
		}
	}
	return n*3 < len(siblings)
}
