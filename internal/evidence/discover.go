package evidence

import (
	"cmp"
	"context"
	"math"
	"slices"
	"strconv"

	"nexdal/internal/catalog"
)

// Discover asks the data, from cheap to dear: each table once for its columns,
// then what could be a key, then what could refer to one. What cannot be asked
// is a gap, and stops nothing else. It returns an error only when the context
// ends, together with what is known by then.
func Discover(ctx context.Context, a Asker, c *catalog.Catalog) (*Evidence, error) {
	d := &discovery{ctx: ctx, ask: a, c: c, lookup: c.Lookup(), columns: map[catalog.Ref]map[string]*Column{}, keys: map[catalog.Ref][]Key{},
		found: &Evidence{Format: Format, Kind: "evidence", Engine: c.Engine, Database: c.Database, Columns: []Column{}, Keys: []Key{}, References: []Reference{}, Gaps: []catalog.Gap{}}}
	for _, t := range c.Tables() {
		if t.PartitionOf == nil && t.IsOwn() && len(t.Columns) > 0 {
			d.tables = append(d.tables, t)
		}
	}
	for _, step := range []func(){d.profile, d.findKeys, d.declared, d.implied} {
		if ctx.Err() == nil {
			step()
		}
	}
	d.found.Questions = a.Asked()
	return d.found, ctx.Err()
}

type discovery struct {
	ctx     context.Context
	ask     Asker
	c       *catalog.Catalog
	lookup  *catalog.Lookup
	tables  []*catalog.Table
	columns map[catalog.Ref]map[string]*Column
	keys    map[catalog.Ref][]Key
	found   *Evidence
}

func (d *discovery) gap(t *catalog.Table, what string, err error) {
	d.found.Gaps = append(d.found.Gaps, catalog.Gap{Schema: t.Schema, Table: t.Name, What: what, Reason: err.Error(), Figures: true})
}

func (d *discovery) profile() {
	for _, t := range d.tables {
		if d.ctx.Err() != nil {
			return
		}
		facts, err := d.ask.Profile(d.ctx, t, t.Columns)
		if err != nil {
			d.gap(t, "its columns", err)
			continue
		}
		d.found.Columns = append(d.found.Columns, facts...)
		d.columns[t.Ref()] = map[string]*Column{}
		for i := range facts {
			d.columns[t.Ref()][facts[i].Column] = &facts[i]
		}
	}
}

// mostColumns is how many columns a combined key may have.
const mostColumns = 3

// findKeys lists the declared keys and looks for others: single columns by
// their counts alone, combined ones by asking, the smallest first. What holds a
// key already is not asked for, nor what cannot have enough different values.
func (d *discovery) findKeys() {
	for _, t := range d.tables {
		facts := d.columns[t.Ref()]
		if facts == nil {
			continue
		}
		rows := facts[t.Columns[0].Name].Rows
		var keys []Key
		add := func(columns []string, declared bool) {
			keys = append(keys, Key{Schema: t.Schema, Table: t.Name, Columns: columns, Rows: rows, Distinct: rows, Verified: true, Declared: declared, Likely: likely(t, columns)})
		}
		held := func(columns []string) bool {
			return slices.ContainsFunc(keys, func(k Key) bool { return catalog.Within(k.Columns, columns) })
		}
		for _, k := range t.Keys() {
			if t.NotNull(k.Columns) || k == t.PrimaryKey {
				add(k.Columns, true)
			}
		}
		if rows >= 2 {
			var loose []string
			for _, c := range t.Columns {
				f := facts[c.Name]
				if f == nil || f.Distinct == nil || f.Nulls > 0 || !keyable(c) || held([]string{c.Name}) {
					continue
				}
				if *f.Distinct == rows {
					add([]string{c.Name}, false)
				} else if *f.Distinct > 1 {
					loose = append(loose, c.Name)
				}
			}
			if !slices.ContainsFunc(keys, func(k Key) bool { return k.Declared || len(k.Columns) == 1 && k.Likely >= 0.5 }) {
				d.combined(t, facts, rows, loose, held, func(columns []string) { add(columns, false) })
			}
		}
		slices.SortStableFunc(keys, func(a, b Key) int {
			return cmp.Or(cmp.Compare(b.Likely, a.Likely), cmp.Compare(len(a.Columns), len(b.Columns)))
		})
		d.keys[t.Ref()] = keys
		d.found.Keys = append(d.found.Keys, keys...)
	}
}

func (d *discovery) combined(t *catalog.Table, facts map[string]*Column, rows int64, loose []string, held func([]string) bool, add func([]string)) {
	slices.SortStableFunc(loose, func(a, b string) int { return cmp.Compare(*facts[b].Distinct, *facts[a].Distinct) })
	loose = loose[:min(len(loose), 8)]
	for size := 2; size <= mostColumns; size++ {
		for _, set := range subsets(loose, size) {
			possible := 1.0
			for _, name := range set {
				possible *= float64(*facts[name].Distinct)
			}
			if possible < float64(rows) || held(set) || d.ctx.Err() != nil {
				continue
			}
			n, err := d.ask.Distinct(d.ctx, t, set)
			if err != nil {
				d.gap(t, "combined keys", err)
				return
			}
			if n == rows {
				slices.SortFunc(set, func(a, b string) int {
					return slices.IndexFunc(t.Columns, called(a)) - slices.IndexFunc(t.Columns, called(b))
				})
				add(set)
			}
		}
	}
}

func called(name string) func(*catalog.Column) bool {
	return func(c *catalog.Column) bool { return c.Name == name }
}

// subsets lists the sets of so many names.
func subsets(names []string, size int) [][]string {
	if size == 0 {
		return [][]string{nil}
	}
	var all [][]string
	for i := range names {
		for _, rest := range subsets(names[i+1:], size-1) {
			all = append(all, append([]string{names[i]}, rest...))
		}
	}
	return all
}

// keyable leaves out measurements, free texts and what has no equality.
func keyable(c *catalog.Column) bool {
	switch c.Type.Family {
	case catalog.Integer, catalog.UUID, catalog.Date, catalog.Timestamp, catalog.Enum:
		return true
	case catalog.Decimal:
		return c.Type.Scale == 0
	case catalog.Text:
		return c.Type.Length <= 128
	}
	return false
}

// likely tells how much a key looks like one that somebody meant: short, first
// in the table, named like an identifier.
func likely(t *catalog.Table, columns []string) float64 {
	score := 1.0
	for _, name := range columns {
		i := slices.IndexFunc(t.Columns, called(name))
		c := t.Columns[i]
		w := words(name)
		part := 0.3
		if len(w) > 0 && slices.Contains(handles, w[len(w)-1]) {
			part = 0.7
		}
		switch c.Type.Family {
		case catalog.Integer, catalog.UUID:
			part += 0.1
		case catalog.Timestamp, catalog.Date:
			part -= 0.15
		}
		if i == 0 {
			part += 0.2
		}
		score = min(score, part)
	}
	if k := t.PrimaryKey; k != nil && slices.Equal(k.Columns, columns) {
		return 1
	}
	return math.Round(max(0, score-0.05*float64(len(columns)-1))*100) / 100
}

// declared asks whether the declared foreign keys hold.
func (d *discovery) declared() {
	for _, t := range d.tables {
		for _, f := range t.ForeignKeys {
			parent := d.lookup.Table(f.Target)
			if parent == nil || f.Inherited || len(f.Columns) != len(f.TargetColumns) {
				continue
			}
			if r, ok := d.reference(t, f.Columns, parent, f.TargetColumns); ok {
				r.Declared, r.Score = true, 1
				d.found.References = append(d.found.References, r)
			}
		}
	}
}

// reference asks how many rows have a parent.
func (d *discovery) reference(t *catalog.Table, columns []string, parent *catalog.Table, target []string) (Reference, bool) {
	r := Reference{Schema: t.Schema, Table: t.Name, Columns: columns, TargetSchema: parent.Schema, Target: parent.Name, TargetColumns: target, Coverage: 1, Verified: true}
	for _, name := range columns {
		f := d.columns[t.Ref()][name]
		if f == nil {
			return r, false
		}
		if n := f.Rows - f.Nulls; r.RowsChecked == 0 || n < r.RowsChecked {
			r.RowsChecked = n
		}
	}
	if r.RowsChecked > 0 {
		var err error
		if r.Orphans, r.Samples, err = d.ask.Orphans(d.ctx, t, columns, parent, target); err != nil {
			if d.ctx.Err() == nil {
				d.gap(t, "reference to "+parent.Ref().String(), err)
			}
			return r, false
		}
		r.Coverage = float64(r.RowsChecked-r.Orphans) / float64(r.RowsChecked)
	}
	return r, true
}

// What a reference must reach to be named at all.
const (
	leastCoverage = 0.95
	leastScore    = 0.6
	verifyAtMost  = 3 // candidates of one column, the best first
)

// implied looks for references that nobody declared. Small whole numbers are
// found in every generated key, so that inclusion alone proves nothing: a
// number must be named after what it refers to. Codes and other texts speak for
// themselves where all of many values are found.
func (d *discovery) implied() {
	var names []string
	for _, t := range d.tables {
		names = append(names, t.Name)
	}
	prefix := commonPrefix(names)
	for _, t := range d.tables {
		for _, c := range t.Columns {
			f := d.columns[t.Ref()][c.Name]
			if d.ctx.Err() != nil || f == nil || f.Distinct == nil || *f.Distinct == 0 || d.refers(t, c.Name) {
				continue
			}
			if r, ok := d.best(t, c, f, prefix); ok {
				d.found.References = append(d.found.References, r)
			}
		}
	}
}

func (d *discovery) refers(t *catalog.Table, column string) bool {
	return slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return len(f.Columns) == 1 && f.Columns[0] == column })
}

type candidate struct {
	parent *catalog.Table
	key    string
	name   float64
}

// best verifies the likeliest targets of a column, and gives the best that
// holds.
func (d *discovery) best(t *catalog.Table, c *catalog.Column, f *Column, prefix string) (Reference, bool) {
	var list []candidate
	for _, p := range d.tables {
		for _, k := range d.keys[p.Ref()] {
			if len(k.Columns) != 1 || p == t && k.Columns[0] == c.Name || k.Rows == 0 {
				continue
			}
			key := p.Column(k.Columns[0])
			g := d.columns[p.Ref()][key.Name]
			if g == nil || g.Distinct == nil || !alike(c.Type, key.Type) || !overlaps(f, g, c.Type) || *f.Distinct > *g.Distinct+*g.Distinct/20+5 {
				continue
			}
			name := speaks(c.Name, p.Name, key.Name, prefix)
			if p == t && slices.Contains(words(c.Name), "parent") {
				name = max(name, 0.8)
			}
			if p.PrimaryKey != nil && slices.Equal(p.PrimaryKey.Columns, k.Columns) {
				name += 0.001 // of two keys, the first
			}
			// The key of a table that the child's own key is: a number that counts
			// the table's own rows refers to nothing.
			own := t.PrimaryKey != nil && slices.Equal(t.PrimaryKey.Columns, []string{c.Name})
			speaksUp := name >= 0.6 || !own && c.Type.Family != catalog.Integer && c.Type.Family != catalog.Decimal && *f.Distinct >= 5 && key.Type.Family == c.Type.Family
			if own && name < 0.9 || !speaksUp {
				continue
			}
			list = append(list, candidate{p, key.Name, min(name, 1)})
		}
	}
	slices.SortStableFunc(list, func(a, b candidate) int { return cmp.Compare(b.name, a.name) })
	var best Reference
	for _, x := range list[:min(len(list), verifyAtMost)] {
		r, ok := d.reference(t, []string{c.Name}, x.parent, []string{x.key})
		if !ok || r.Coverage < leastCoverage {
			continue
		}
		g := d.columns[x.parent.Ref()][x.key]
		r.Parts = Parts{Name: round(x.name), Coverage: round(r.Coverage), Type: 0.5, Spread: round(float64(*f.Distinct) / float64(max(*g.Distinct, 1)))}
		if c.Type.Native == x.parent.Column(x.key).Type.Native {
			r.Parts.Type = 1
		}
		r.Parts.Spread = min(r.Parts.Spread, 1)
		r.Score = round(0.5*r.Parts.Name + 0.25*r.Parts.Coverage + 0.1*r.Parts.Type + 0.15*r.Parts.Spread)
		if c.Type.Family == catalog.Text && r.Orphans == 0 && *f.Distinct >= 5 {
			r.Score = round(min(1, r.Score+0.25))
		}
		if r.Score >= leastScore && r.Score > best.Score {
			best = r
		}
	}
	return best, best.Score > 0
}

func round(x float64) float64 { return math.Round(x*1000) / 1000 }

// alike reports whether values of the two types can be compared as they are.
func alike(a, b catalog.Type) bool {
	whole := func(t catalog.Type) bool {
		return t.Family == catalog.Integer || t.Family == catalog.Decimal && t.Scale == 0
	}
	switch a.Family {
	case catalog.Text, catalog.UUID:
		return a.Family == b.Family && (a.Class == "" || a.Class == b.Class)
	}
	return whole(a) && whole(b)
}

// overlaps reports whether the ranges of the values meet.
func overlaps(child, parent *Column, t catalog.Type) bool {
	if child.Least == nil || parent.Least == nil || child.Greatest == nil || parent.Greatest == nil || t.Family == catalog.Text {
		return true // texts are ordered by collations
	}
	num := func(s *string) (float64, bool) {
		n, err := strconv.ParseFloat(*s, 64)
		return n, err == nil
	}
	a, ok1 := num(child.Least)
	b, ok2 := num(child.Greatest)
	c, ok3 := num(parent.Least)
	e, ok4 := num(parent.Greatest)
	return !(ok1 && ok2 && ok3 && ok4) || a <= e && b >= c
}
