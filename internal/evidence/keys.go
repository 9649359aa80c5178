package evidence

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// findKeys lists the declared keys and looks for others: single columns by
// their counts alone, combined ones by asking, level by level.
func (d *discovery) findKeys() {
	found := make([][]Key, len(d.tables))
	d.each("keys", d.tables, "its keys", func(a Asker, i int) { found[i] = d.keysOf(a, d.tables[i]) })
	for i, t := range d.tables {
		if found[i] != nil {
			d.keys[t] = found[i]
		}
	}
}

// keysOf lists the keys of a table, the likeliest first. Of those that nobody
// declared, what is unique by accident is left out where something better is
// there.
func (d *discovery) keysOf(a Asker, t *catalog.Table) []Key {
	facts := d.columns[t.Ref()]
	if len(facts) == 0 {
		return nil
	}
	p := d.part(t)
	rows := int64(0)
	for _, c := range t.Columns {
		if f := facts[c.Name]; f != nil && !c.Many {
			rows = f.Rows
		}
	}
	keys := []Key{}
	add := func(columns []string, declared bool) {
		distinct := rows
		if f := facts[columns[0]]; d.o.Can.KeysUnenforced && len(columns) == 1 && f != nil && f.Distinct != nil {
			distinct = *f.Distinct
		}
		keys = append(keys, Key{Schema: t.Schema, Table: t.Name, Columns: columns, Rows: rows, Distinct: distinct, Verified: p.Sample == 0, Declared: declared, Likely: d.likely(t, columns, rows)})
	}
	for _, k := range t.Keys() {
		if t.NotNull(k.Columns) || k == t.PrimaryKey {
			add(k.Columns, true)
		}
	}
	for _, x := range t.Indexes {
		if x.Unique && !x.Invalid && x.Predicate == "" && x.Origin == catalog.ByPerson && !slices.Contains(x.Columns(), "") && t.NotNull(x.Columns()) && !holds(keys, x.Columns()) && wholeColumns(x) {
			add(x.Columns(), true)
		}
	}
	if rows < 2 {
		return keys
	}
	var loose []string
	for _, c := range t.Columns {
		f := facts[c.Name]
		if f == nil || f.Distinct == nil || f.Nulls > 0 || !keyable(c, f) || holds(keys, []string{c.Name}) {
			continue
		}
		if *f.Distinct == rows {
			add([]string{c.Name}, false)
		} else if *f.Distinct > 1 {
			loose = append(loose, c.Name)
		}
	}
	if d.wanted(t, keys) {
		d.combined(a, p, facts, rows, loose, func(columns []string) bool { return holds(keys, columns) }, func(columns []string) { add(columns, false) })
	}
	slices.SortStableFunc(keys, func(a, b Key) int {
		return cmp.Or(cmp.Compare(b.Likely, a.Likely), cmp.Compare(len(a.Columns), len(b.Columns)))
	})
	best := keys
	return slices.DeleteFunc(keys, func(k Key) bool {
		return !k.Declared && k.Likely < 0.5 && (len(k.Columns) > 1 && k.Likely < best[0].Likely || k.Likely < 0.25 && best[0].Likely >= 0.5)
	})
}

// wholeColumns reports whether the index orders by whole columns.
func wholeColumns(x *catalog.Index) bool {
	return !slices.ContainsFunc(x.Parts, func(p catalog.IndexPart) bool { return p.Length > 0 })
}

func holds(keys []Key, columns []string) bool {
	return slices.ContainsFunc(keys, func(k Key) bool { return catalog.Within(k.Columns, columns) })
}

// wanted reports whether a combined key is worth looking for: nothing but a
// generated number, or what looks like an accident, keeps rows apart so far.
func (d *discovery) wanted(t *catalog.Table, keys []Key) bool {
	return !slices.ContainsFunc(keys, func(k Key) bool {
		if len(k.Columns) > 1 {
			return k.Declared
		}
		c := t.Column(k.Columns[0])
		return k.Likely >= 0.5 && c.Identity == catalog.NoIdentity && c.Type.Family == catalog.Text
	})
}

// combined looks for sets of columns that are unique together, the smallest
// first. A set that holds a key is never asked for, nor one that cannot have
// enough different values; large tables are asked by a sample first. The number
// of questions grows with the columns and their logarithm.
func (d *discovery) combined(a Asker, p Part, facts map[string]*Column, rows int64, loose []string, held func([]string) bool, add func([]string)) {
	t := p.Table
	weight := func(name string) float64 {
		i := slices.IndexFunc(t.Columns, called(name))
		w := d.keyLooks(t, i) - 0.3*float64(i)/float64(len(t.Columns))
		return w + 0.1*math.Log10(float64(*facts[name].Distinct))
	}
	slices.SortStableFunc(loose, func(a, b string) int { return cmp.Compare(weight(b), weight(a)) })
	n := float64(len(t.Columns))
	loose = loose[:min(len(loose), 10)]
	left := int(math.Ceil(n*math.Log2(n+1))) + 2
	for size := 2; size <= min(d.o.KeyColumns, len(loose)); size++ {
		for _, set := range subsets(loose, size) {
			possible := 1.0
			for _, name := range set {
				possible *= float64(*facts[name].Distinct)
			}
			if possible < float64(rows) || held(set) || slices.ContainsFunc(set, func(name string) bool { return crowded(facts[name], possible) }) {
				continue
			}
			if left--; left < 0 || d.ctx.Err() != nil {
				return
			}
			if p.Sample == 0 && rows > 5*smallest {
				v, n, err := a.Together(d.ctx, Part{Table: t, Sample: smallest}, set)
				if err == nil && v.Distinct < n {
					continue
				}
			}
			v, n, err := a.Together(d.ctx, p, set)
			if err != nil {
				d.failed(t, "its combined keys", err)
				return
			}
			if v.Distinct == n && n == rows {
				slices.SortFunc(set, func(a, b string) int {
					return slices.IndexFunc(t.Columns, called(a)) - slices.IndexFunc(t.Columns, called(b))
				})
				add(set)
			}
		}
	}
}

// crowded reports whether the rows with the column's most common value are more than the other
// columns, with so many combinations with this one, can tell apart.
func crowded(f *Column, possible float64) bool {
	return f.Most != nil && float64(*f.Most) > possible/float64(*f.Distinct)
}

func called(name string) func(*catalog.Column) bool {
	return func(c *catalog.Column) bool { return c.Name == name }
}

// subsets lists the sets of so many names, those of the first names first.
func subsets(names []string, size int) [][]string {
	if size == 0 {
		return [][]string{nil}
	}
	var all [][]string
	for last := size - 1; last < len(names); last++ {
		for _, rest := range subsets(names[:last], size-1) {
			all = append(all, append(slices.Clone(rest), names[last]))
		}
	}
	return all
}

// keyable leaves out measurements, free texts and what has no equality.
func keyable(c *catalog.Column, f *Column) bool {
	if computed(c) || c.Within != "" || c.Many { // a key is on columns, not on their fields
		return false
	}
	switch c.Type.Family {
	case catalog.Integer, catalog.UUID, catalog.Date, catalog.Timestamp, catalog.Time, catalog.Enum:
		return true
	case catalog.Decimal:
		return c.Type.Scale == 0 && !pointed(f.Least) && !pointed(f.Greatest)
	case catalog.Text:
		return c.Type.Length <= 255 && (f.Longest == nil || *f.Longest <= 100)
	}
	return false
}

// pointed reports whether a number has a fraction, as one without a declared
// scale may have.
func pointed(s *string) bool { return s != nil && strings.Contains(*s, ".") }

// measures are words for what is measured or written down, and identifies
// nothing.
var measures = set("amount price total count size weight length height width score percent rate ratio quantity qty balance salary cost fee tax discount latitude longitude lat lon lng altitude depth temperature pressure value level minute second duration age description note comment remark text body message content summary title phone fax address street city memo checksum hash password salt token created updated modified changed deleted timestamp stamp")

// keyLooks tells how much a single column looks like one of a key's, from 0 to 1.
func (d *discovery) keyLooks(t *catalog.Table, i int) float64 {
	c := t.Columns[i]
	list := d.names.of(t, c.Name)
	x := list[len(list)-1]
	part := 0.3
	last := ""
	if len(x.words) > 0 {
		last = x.words[len(x.words)-1]
	}
	switch {
	case x.handle == "name" || last == "name":
		part = 0.55
	case x.handle != "" || handles.has(last):
		part = 0.7
	case identifiers.has(last):
		part = 0.62
	case slices.ContainsFunc(x.words, func(w string) bool { return measures.has(w) }):
		part = 0.05
	case last == "line" || last == "seq" || last == "sequence" || last == "position" || last == "item" || last == "version" || last == "lang" || last == "language" || last == "locale" || last == "year" || last == "day" || last == "kind" || last == "type":
		part = 0.45
	}
	if d.refersByName(t, c) {
		part = max(part, 0.6)
	}
	switch c.Type.Family {
	case catalog.Integer, catalog.UUID:
		part += 0.1
	case catalog.Timestamp, catalog.Date, catalog.Time:
		part = min(part, 0.3) - 0.1
	}
	return part
}

// refersByName reports whether the column is named after a table.
func (d *discovery) refersByName(t *catalog.Table, c *catalog.Column) bool {
	for _, f := range t.ForeignKeys {
		if slices.Contains(f.Columns, c.Name) {
			return true
		}
	}
	for _, x := range d.names.of(t, c.Name) {
		if d.names.joined[strings.Join(x.stem, " ")] > 0 && !slices.Equal(x.stem, d.names.tables[t]) {
			return true
		}
	}
	return false
}

// likely tells how much a key looks like one that somebody meant: short, first
// in the table, named like an identifier, of the table itself rather than of
// another.
func (d *discovery) likely(t *catalog.Table, columns []string, rows int64) float64 {
	if k := t.PrimaryKey; k != nil && slices.Equal(k.Columns, columns) {
		return 1
	}
	score, first := 1.0, true
	for _, name := range columns {
		i := slices.IndexFunc(t.Columns, called(name))
		part := d.keyLooks(t, i)
		c := t.Columns[i]
		if len(columns) == 1 {
			if i == 0 {
				part += 0.2
			}
			x := d.names.of(t, name)
			switch {
			case slices.ContainsFunc(x, func(x term) bool { return len(x.words) == 1 && x.words[0] == "id" }):
				part += 0.1
			case slices.ContainsFunc(x, func(x term) bool { return slices.Equal(x.stem, d.names.tables[t]) }):
				part += 0.1 // station_no in station
			case d.refersByName(t, c) && i > 0:
				part -= 0.25 // one to one by the rows there are, perhaps
			}
		}
		first = first && i < len(columns)
		score = min(score, part)
	}
	if len(columns) > 1 {
		if score -= 0.06 * float64(len(columns)-1); first {
			score += 0.2
		}
	}
	if rows < 20 {
		score -= 0.1 // a few rows are easily unique
	}
	return math.Round(min(0.99, max(0, score))*100) / 100
}
