package key

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Repeated = &rule.Rule{
	ID:          "key/repeated",
	Title:       "unique key that another one makes needless",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"drop", "drop-index"},
	Applies:     uniqueKeys,
	Doc: `Two keys of a table are on the same columns; or a unique key holds all columns of another key and more, so that it can never be broken. Each is one more index that every write keeps up, and says nothing that the other does not say.

A wider key is needed where a foreign key refers to just these columns; then it is not reported.

Leave it alone where its index serves searches that no other one does; a plain index would do that too.

The fix drops it; what keeps the columns unique stays.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			keys := t.Keys()
			for i, k := range t.UniqueKeys {
				for _, o := range keys {
					same := catalog.SameColumns(o.Columns, k.Columns)
					if referredTo(p, t, k, same) {
						continue
					}
					if k.WithoutOverlaps && !o.WithoutOverlaps && same {
						continue // it says more than that they differ
					}
					first := o == t.PrimaryKey || slices.Index(t.UniqueKeys, o) < i
					if k.WithoutOverlaps != o.WithoutOverlaps && same {
						first = true // whatever their order
					}
					if o == k || same && !first || !same && (!catalog.Within(o.Columns, k.Columns) || len(o.Columns) >= len(k.Columns)) || !same && !t.NotNull(o.Columns) {
						continue
					}
					p.Report(repeated(t, k, o, same))
					break
				}
			}
			wider(p, t, keys)
		}
		return nil
	},
}

func repeated(t *catalog.Table, k, o *catalog.Key, same bool) rule.Finding {
	message := fmt.Sprintf("unique (%s) can never be broken, since the %s (%s) is among its columns; every write maintains its index", strings.Join(k.Columns, ", "), kindOf(t, o), strings.Join(o.Columns, ", "))
	if same {
		message = fmt.Sprintf("unique (%s) repeats the %s on the same columns; every write maintains both", strings.Join(k.Columns, ", "), kindOf(t, o))
	}
	return rule.Finding{Table: t.Ref(), Object: label(t, k), Columns: k.Columns, Part: strings.Join(k.Columns, ", "), Message: message,
		Fixes: []rule.Fix{{ID: "drop", Title: fmt.Sprintf("drop the unique key (%s)", strings.Join(k.Columns, ", ")), Changes: []change.Change{
			change.DropKey{Table: t.Ref(), Name: k.Name, Columns: k.Columns}}}}}
}

// referredTo reports whether a foreign key needs the key: it refers to just these
// columns, and leans on this key's index where another has the same ones.
func referredTo(p *rule.Pass, t *catalog.Table, k *catalog.Key, another bool) bool {
	return slices.ContainsFunc(p.Lookup.Referrers(t.Ref()), func(r catalog.Referrer) bool {
		return catalog.SameColumns(r.ForeignKey.TargetColumns, k.Columns) && (!another || r.ForeignKey.TargetIndex != "" && r.ForeignKey.TargetIndex == k.Index)
	})
}

// wider reports unique indexes that no constraint stands for and that hold a key's columns among
// others. They may well be there for searches, so that somebody has to choose the fix.
func wider(p *rule.Pass, t *catalog.Table, keys []*catalog.Key) {
	for _, x := range t.Indexes {
		columns := x.Columns()
		if !x.Unique || x.Invalid || x.Origin != catalog.ByPerson || x.Predicate != "" || x.Pinned != "" || slices.Contains(columns, "") {
			continue
		}
		if slices.ContainsFunc(p.Lookup.Referrers(t.Ref()), func(r catalog.Referrer) bool { return catalog.SameColumns(r.ForeignKey.TargetColumns, columns) }) {
			continue
		}
		i := slices.IndexFunc(keys, func(k *catalog.Key) bool {
			return len(k.Columns) < len(columns) && catalog.Within(k.Columns, columns) && t.NotNull(k.Columns)
		})
		if i < 0 {
			continue
		}
		p.Report(rule.Finding{Severity: rule.Notice, Table: t.Ref(), Object: x.Name, Columns: columns, Part: x.Name,
			Message: fmt.Sprintf("unique index \"%s\" (%s) can never be broken, since the %s (%s) is among its columns", x.Name, strings.Join(columns, ", "), kindOf(t, keys[i]), strings.Join(keys[i].Columns, ", ")),
			Fixes:   []rule.Fix{{ID: "drop-index", Title: "drop unique index " + text.Name(x.Name), Ask: true, Changes: []change.Change{change.DropIndex{Table: t.Ref(), Name: x.Name}}}}})
	}
}
