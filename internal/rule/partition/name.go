package partition

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/pattern"
	"nexdal/internal/rule"
	"nexdal/internal/upkeep"
)

var Name = &rule.Rule{
	ID:          "partition/name",
	Title:       "partition named otherwise than its siblings",
	Severity:    rule.Notice,
	Consequence: rule.Untidy,
	Applies:     func(can catalog.Abilities) bool { return can.Bounds != nil },
	Fixes:       []string{"rename"},
	Options: []rule.Option{
		{Name: "pattern", Default: "", Doc: "how partitions are named: {table} is the whole table's name, # a row of digits, * anything; empty: as most of the siblings are"},
	},
	Doc: `Most partitions of the table are named by one pattern, and this one by another; or its name speaks of another time than its bounds do. Whoever looks for a month, or drops the oldest by name, takes the wrong one.

The pattern is that of the siblings, rows of digits set aside, where at least three and two thirds of them agree; or the one in the settings. Default partitions are left out.

The fix renames it after its siblings, where these tell when they begin and nothing else speaks of it. Programs may: it is taken only once it was chosen.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			if t.PartitionBy == nil {
				continue
			}
			list, _ := upkeep.Partitions(in(p), t)
			pattern := strings.ReplaceAll(p.Word(t, "pattern"), "{table}", t.Name)
			if pattern == "" {
				pattern = shapeOfMost(t, list)
			}
			for _, x := range list {
				if x.Bounds.Default || len(x.Bounds.To) > 0 && (x.Bounds.To[0].Greatest || len(x.Bounds.From) > 0 && x.Bounds.From[0].Least) {
					continue // no time of its own to be named after
				}
				switch {
				case pattern != "" && !catalog.Fits(pattern, shape(t, x.Name)) && !catalog.Fits(pattern, x.Name):
					report(p, t, list, x, fmt.Sprintf("\"%s\" is not named as its siblings are: %s", x.Name, pattern))
				case upkeep.Method(t) == "range" && strays(x):
					report(p, t, list, x, fmt.Sprintf("\"%s\" takes rows from %s on, and its name speaks of another time", x.Name, x.Bounds.From[0].Text))
				}
			}
		}
		return nil
	},
}

func report(p *rule.Pass, t *catalog.Table, list []upkeep.Partition, x upkeep.Partition, message string) {
	on := t.Ref()
	if x.Table != nil {
		on = x.Table.Ref()
	}
	found := rule.Finding{Table: on, Object: x.Name, Message: message, Advice: "rename it"}
	if n, ok := upkeep.NamingOf(upkeep.Ranges(list)); ok && x.Table != nil && x.Table.PartitionBy == nil && len(x.Bounds.From) == 1 && x.Bounds.From[0].At != nil && len(x.Table.Dependants) == 0 && len(p.Lookup.Referrers(on)) == 0 {
		if name := n.Of(*x.Bounds.From[0].At); !p.Names.Taken(on.Schema, name) {
			found.Advice, found.Fixes = "", []rule.Fix{{ID: "rename", Ask: true, Title: "rename it to " + name, Changes: []change.Change{change.RenameTable{Table: on, To: name}}}}
		}
	}
	p.Report(found)
}

var digits = pattern.New(`\d+`)

// shape is a name with its rows of digits set aside, except for those of the
// table's own name.
func shape(t *catalog.Table, name string) string {
	if rest, ok := strings.CutPrefix(name, t.Name); ok {
		return t.Name + digits.ReplaceAllString(rest, "#")
	}
	return digits.ReplaceAllString(name, "#")
}

func shapeOfMost(t *catalog.Table, list []upkeep.Partition) string {
	counts, best, n := map[string]int{}, "", 0
	for _, x := range list {
		if x.Bounds.Default || x.Endless() {
			continue
		}
		n++
		s := shape(t, x.Name)
		if counts[s]++; counts[s] > counts[best] {
			best = s
		}
	}
	if counts[best] < 3 || counts[best]*3 < n*2 {
		return ""
	}
	return best
}

var month = pattern.New(`(?:^|\D)((?:19|20)\d\d)_?(?:m|y)?(0[1-9]|1[0-2])(?:_?([0-2]\d|3[01]))?(?:\D|$)`)

// strays reports whether the name holds a year and a month, perhaps a day, that
// are not those of the first row that the partition takes, nor, where the bounds'
// hour is moved by a zone, of the day about it.
func strays(x upkeep.Partition) bool {
	m := month.FindStringSubmatch(x.Name)
	if m == nil || len(x.Bounds.From) == 0 || x.Bounds.From[0].At == nil {
		return false
	}
	for _, days := range []int{0, 1, -1} {
		at := x.Bounds.From[0].At.AddDate(0, 0, days)
		if m[1] == at.Format("2006") && m[2] == at.Format("01") && (m[3] == "" || m[3] == at.Format("02")) {
			return false
		}
	}
	if end := x.Bounds.To[0].At; end != nil { // named after its last
		last := end.AddDate(0, 0, -1)
		return m[1] != last.Format("2006") || m[2] != last.Format("01")
	}
	return true
}
