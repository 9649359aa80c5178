package evidence

import (
	"nexdal/internal/catalog"
)

// Tables of so few rows share a statement, up to so many tables and so many columns together.
const (
	fewEnough   = 2_000
	together    = 12
	mostColumns = 60
)

// groups puts small tables together, and leaves each of the others by itself, and those of which
// the survey could not read all: who holds such a table may hold up the others.
func (d *discovery) groups(order []*catalog.Table) [][]*catalog.Table {
	var all [][]*catalog.Table
	gaps := map[catalog.Ref]bool{}
	for _, g := range d.c.Gaps {
		gaps[catalog.Ref{Schema: g.Schema, Table: g.Table}] = true
	}
	columns := 0
	for _, t := range order {
		small := !gaps[t.Ref()] && d.memory.hides(t) == nil && t.Stats.Rows != nil && *t.Stats.Rows <= fewEnough && len(t.Columns) <= mostColumns
		if n := len(all); small && n > 0 && columns > 0 && len(all[n-1]) < together && columns+len(t.Columns) <= mostColumns {
			all[n-1], columns = append(all[n-1], t), columns+len(t.Columns)
			continue
		}
		all = append(all, []*catalog.Table{t})
		if columns = 0; small {
			columns = len(t.Columns)
		}
	}
	return all
}

// gather asks of several small tables at once what is asked of each, and keeps the answers, so
// that they are known when each is looked at. What fails is asked again of each by itself.
func (d *discovery) gather(a Asker, group []*catalog.Table) {
	r, ok := a.(remembering)
	if !ok || len(group) < 2 {
		return
	}
	g, ok := r.Asker.(Gatherer)
	if !ok {
		return
	}
	var parts []Part
	for _, t := range group {
		if p := d.part(t); !d.memory.knows(questionKey(profileOf(p, t.Columns)...)) {
			parts = append(parts, p)
		}
	}
	if len(parts) < 2 || d.ctx.Err() != nil {
		return
	}
	profiles, err := g.Profiles(d.ctx, parts)
	if err != nil || len(profiles) != len(parts) {
		return
	}
	var varied []Part
	var columns [][]*catalog.Column
	for i, p := range parts {
		d.memory.note(questionKey(profileOf(p, p.Table.Columns)...), profiles[i])
		facts := map[string]*Column{}
		for j := range profiles[i] {
			facts[profiles[i][j].Column] = &profiles[i][j]
		}
		for ask := d.unvaried(p, facts); len(ask) > 0; ask = ask[min(varietiesAtOnce, len(ask)):] {
			varied, columns = append(varied, p), append(columns, ask[:min(varietiesAtOnce, len(ask))])
		}
	}
	if len(varied) == 0 {
		return
	}
	varieties, err := g.VarietiesOf(d.ctx, varied, columns)
	if err != nil || len(varieties) != len(varied) {
		return
	}
	for i, p := range varied {
		d.memory.note(questionKey(varietiesOf(p, columns[i])...), varieties[i])
	}
}
