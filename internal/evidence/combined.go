package evidence

import (
	"math"
	"slices"

	"nexdal/internal/catalog"
)

// findCombined looks for references of several columns: to keys of several
// columns that another table's columns are named after, or whose columns refer
// to the same tables. Where most combinations of values are among the key
// anyway, that all are found proves nothing.
func (d *discovery) findCombined() {
	type pair struct {
		t, parent *catalog.Table
		columns   []string
		key       Key
		name      float64
	}
	refers := map[place]place{}
	for _, r := range d.references {
		if len(r.Columns) == 1 {
			refers[place{r.From(), r.Columns[0]}] = place{r.To(), r.TargetColumns[0]}
		}
	}
	byWord := d.columnsByName(refers)
	var pairs []pair
	var tables []*catalog.Table
	for _, parent := range d.tables {
		for _, k := range d.keys[parent] {
			if len(k.Columns) < 2 || len(k.Columns) > 4 || !k.Declared && (k.Likely < 0.5 || parent.PrimaryKey != nil) || k.Rows == 0 || d.density(parent, k) > 0.9 {
				continue
			}
			for _, t := range byWord.near(parent, k.Columns, refers) {
				if t == parent || declaredTo(t, parent) {
					continue
				}
				for _, m := range append(d.byRole(t, parent, k.Columns), d.matching(t, parent, k.Columns, refers)...) {
					pairs, tables = append(pairs, pair{t, parent, m.columns, k, m.name}), append(tables, t)
				}
			}
		}
	}
	found := make([]*Reference, len(pairs))
	d.each("combined references", tables, "references of several columns", func(a Asker, i int) {
		x := pairs[i]
		r, ok := d.ask(a, x.t, x.columns, x.parent, x.key.Columns, 0.98)
		density := d.density(x.parent, x.key)
		if !ok || r.RowsChecked == 0 || byChance(density, r) {
			return
		}
		r.Parts = Parts{Name: round(x.name), Coverage: round(r.Coverage), Type: 1, Spread: round(min(1, float64(r.RowsChecked)/float64(x.key.Rows)))}
		c := candidate{parent: x.parent, name: x.name}
		c.is[isAny], c.is[isCombined], c.is[byName], c.is[byNamePlain] = 1, 1, x.name, plain(x.name)
		if c.is[hasOrphans], c.is[isVaried] = lacking(r.Coverage), r.Parts.Spread; !x.key.Declared {
			c.is[keyFound], c.is[keyLooks] = 1, x.key.Likely
		}
		c.is[isFew] = few(r.RowsChecked)
		c.is[atEnd] = 1 - min(1, -float64(r.RowsChecked)*math.Log10(density)/20) // how well chance explains it
		if x.t.PrimaryKey != nil && slices.Equal(x.t.PrimaryKey.Columns, x.columns) {
			c.is[ownKey] = 1
		}
		d.weighed([]Reference{r}, []candidate{c}, true)
		r.Score = percent(chances([]candidate{c}, &byValues)[0])
		found[i] = &r
	})
	// Of two tables with the same key, one is the whole and one the part.
	type way struct {
		from, to catalog.Ref
		first    string
	}
	type both struct{ from, to catalog.Ref }
	ways, opposite := map[way]*Reference{}, map[both]*Reference{}
	for _, r := range found {
		if r != nil {
			w := way{r.From(), r.To(), r.Columns[0]}
			if o := ways[w]; o == nil || o.Score < r.Score {
				ways[w], opposite[both{w.from, w.to}] = r, r
			}
		}
	}
	for _, r := range found {
		if r == nil || ways[way{r.From(), r.To(), r.Columns[0]}] != r {
			continue
		}
		if o := opposite[both{r.To(), r.From()}]; o != nil && slices.Equal(o.Columns, r.TargetColumns) && (len(r.Table) < len(o.Table) || len(r.Table) == len(o.Table) && r.Table < o.Table) {
			continue
		}
		d.references = append(d.references, d.sure([]Reference{*r})...)
	}
	d.references = overshadow(d.references)
}

// density is the share of the combinations of the key's values that are there.
func (d *discovery) density(t *catalog.Table, k Key) float64 {
	possible := 1.0
	for _, name := range k.Columns {
		f := d.fact(t, name)
		if f == nil {
			return 1
		}
		possible *= float64(max(1, distinctOf(f)))
	}
	return float64(k.Rows) / possible
}

// byChance reports whether as many rows may well be found among a key by
// accident, since most combinations are.
func byChance(density float64, r Reference) bool {
	if r.Orphans > 0 {
		return density > 0.5
	}
	return math.Pow(density, float64(r.RowsChecked)) > 1e-4
}

func declaredTo(t, parent *catalog.Table) bool {
	return slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return f.Target == parent.Ref() && len(f.Columns) > 1 })
}

// columnsNamed finds tables by what their columns are called.
type columnsNamed struct {
	by        map[string][]*catalog.Table // their words; "stem" and theirs; "end" and what is behind a role
	referring map[place][]*catalog.Table
	d         *discovery
}

func (d *discovery) columnsByName(refers map[place]place) columnsNamed {
	n := columnsNamed{map[string][]*catalog.Table{}, map[place][]*catalog.Table{}, d}
	for from, to := range refers {
		n.referring[to] = append(n.referring[to], d.lookup.Table(from.table))
	}
	for _, t := range d.tables {
		seen := map[string]bool{}
		note := func(w string) {
			if !seen[w] {
				seen[w] = true
				n.by[w] = append(n.by[w], t)
			}
		}
		for _, c := range t.Columns {
			terms := d.names.of(t, c.Name)
			for i := 1; i < len(terms[0].words); i++ {
				note("end " + join(terms[0].words[i:]))
			}
			for _, x := range terms {
				note(join(x.words))
				note("stem " + join(x.stem))
			}
		}
	}
	return n
}

// near lists the tables that have a column named like one of the key's or like
// the table.
func (n columnsNamed) near(parent *catalog.Table, key []string, refers map[place]place) []*catalog.Table {
	count := map[*catalog.Table]int{}
	note := func(w string) {
		for _, t := range n.by[w] {
			count[t]++
		}
	}
	for _, name := range key {
		for _, x := range n.d.names.of(parent, name) {
			note(join(x.words))
		}
	}
	if first := n.d.names.of(parent, key[0])[0]; len(first.stem) > 0 { // "id" and the like end every other name
		note("end " + join(first.words))
	}
	note("stem " + join(n.d.names.tables[parent]))
	for _, name := range key {
		if to, ok := refers[place{parent.Ref(), name}]; ok {
			for _, t := range n.referring[to] {
				count[t]++
			}
		}
	}
	var list []*catalog.Table
	for _, t := range n.d.tables {
		if count[t] > 0 && len(t.Columns) >= len(key) {
			list = append(list, t)
		}
	}
	return list
}

// A match is the columns that would refer to a key's, and how well they are
// named.
type match struct {
	columns []string
	name    float64
}

// byRole finds columns named like those of the key with the same role in front
// of each: ordered_purchase_id, ordered_line.
func (d *discovery) byRole(t, parent *catalog.Table, key []string) []match {
	var all []match
	for _, c := range t.Columns {
		x, first := d.names.of(t, c.Name)[0], d.names.of(parent, key[0])[0]
		n := len(x.words) - len(first.words)
		if n < 1 || !slices.Equal(x.words[n:], first.words) {
			continue
		}
		var columns []string
		for _, name := range key {
			want := append(slices.Clone(x.words[:n]), d.names.of(parent, name)[0].words...)
			i := slices.IndexFunc(t.Columns, func(o *catalog.Column) bool {
				f := d.fact(t, o.Name)
				return f != nil && f.Filled() > 0 && slices.Equal(d.names.of(t, o.Name)[0].words, want) && comparableParts(o, parent.Column(name))
			})
			if i < 0 {
				break
			}
			columns = append(columns, t.Columns[i].Name)
		}
		if len(columns) == len(key) {
			all = append(all, match{columns, 0.85})
		}
	}
	return all
}

// matching finds, for each column of the key, the one that would refer to it.
func (d *discovery) matching(t, parent *catalog.Table, key []string, refers map[place]place) []match {
	var columns []string
	total := 0.0
	for _, name := range key {
		k := parent.Column(name)
		best, column, exact := 0.0, "", false
		for _, c := range t.Columns {
			f := d.fact(t, c.Name)
			if f == nil || f.Filled() == 0 || slices.Contains(columns, c.Name) || !comparableParts(c, k) || !plausible(f, d.fact(parent, name), c.Type) {
				continue
			}
			score, same := d.names.speaks(t, c.Name, parent, name), false
			for _, x := range d.names.of(t, c.Name) {
				for _, y := range d.names.of(parent, name) {
					switch n := len(x.words) - len(y.words); {
					case slices.Equal(x.words, y.words):
						score, same = max(score, 0.9), true
					case n > 0 && slices.Equal(x.words[n:], y.words):
						score = max(score, 0.75) // a role in front: ordered_line
					}
				}
			}
			a, ok1 := refers[place{t.Ref(), c.Name}]
			b, ok2 := refers[place{parent.Ref(), name}]
			switch {
			case ok1 && ok2 && a == b:
				score = max(score, 0.75)
			case ok1 && a.table != parent.Ref():
				score, same = 0, false // it refers to something else
			}
			// Berth_no speaks of any key of "berth", but of berth_no before all.
			if same && !exact || same == exact && score > best {
				best, column, exact = score, c.Name, same
			}
		}
		if best < 0.7 {
			return nil
		}
		columns = append(columns, column)
		total += best
	}
	return []match{{columns, total / float64(len(key))}}
}

func comparableParts(a, b *catalog.Column) bool {
	return alike(a.Type, b.Type) || a.Type.Family == b.Type.Family && (a.Type.Family == catalog.Date || a.Type.Family == catalog.Timestamp || a.Type.Family == catalog.Time)
}
