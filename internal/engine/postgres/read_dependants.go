package postgres

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// classPublished is where the tables of publications are.
const classPublished = 6106

// dependants notes what keeps a column from being altered, as the engine's own
// record of what leans on what tells
// (https://www.postgresql.org/docs/current/catalog-pg-depend.html).
func (r *reader) dependants(all []leans) {
	if len(all) == 0 || r.err != nil {
		return
	}
	policies, triggers := map[uint32]string{}, map[uint32]string{}
	r.each(`SELECT oid, polname FROM pg_policy`, func(v row) { policies[v.oid(0)] = v.text(1) })
	r.each(`SELECT oid, tgname FROM pg_trigger WHERE NOT tgisinternal`, func(v row) { triggers[v.oid(0)] = v.text(1) })
	for _, l := range all {
		t, c := r.tables[l.to.oid], r.columns[l.to.oid][l.column]
		if t == nil || c == nil {
			continue
		}
		var kind, name string
		switch l.from.class {
		case classRewrite:
			o, ok := r.things[r.standsFor[l.from]]
			if !ok {
				continue
			}
			if kind, name = "view", o.Schema+"."+o.Name; o.Kind != catalog.KindView {
				kind = "rule on"
			}
		case classDefault:
			home := r.homes[l.from.oid]
			g := r.columns[home.oid][int16(home.part)]
			if g == nil || g == c && home.oid == l.to.oid {
				continue
			}
			kind, name = "generated column", g.Name
		case classProc:
			o, ok := r.things[l.from]
			if !ok {
				continue
			}
			kind, name = "routine", o.Schema+"."+o.Name
		case classPublished:
			kind, name = "publication", fmt.Sprintf("of %s", t.Name)
		case classPolicy:
			kind, name = "policy", policies[l.from.oid]
		case classTrigger:
			if kind, name = "trigger", triggers[l.from.oid]; name == "" {
				continue // the engine's own
			}
		default:
			continue
		}
		i := slices.IndexFunc(t.Dependants, func(d catalog.Dependant) bool { return d.Kind == kind && d.Name == name })
		if i < 0 {
			t.Dependants = append(t.Dependants, catalog.Dependant{Kind: kind, Name: name})
			i = len(t.Dependants) - 1
		}
		if !slices.Contains(t.Dependants[i].Columns, c.Name) {
			t.Dependants[i].Columns = append(t.Dependants[i].Columns, c.Name)
		}
	}
	for _, t := range r.tables {
		for _, d := range t.Dependants {
			slices.SortFunc(d.Columns, func(a, b string) int {
				return slices.IndexFunc(t.Columns, columnNamed(a)) - slices.IndexFunc(t.Columns, columnNamed(b))
			})
		}
	}
}

func columnNamed(name string) func(*catalog.Column) bool {
	return func(c *catalog.Column) bool { return c.Name == name }
}
