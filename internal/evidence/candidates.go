package evidence

import (
	"cmp"
	"math"
	"slices"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
)

// What a candidate must reach, by how much its name speaks for it.
const (
	named     = 0.6 // at least, for a column that is named after what it refers to
	wellNamed = 0.85
	// Coverage: dirty data must not hide what the name says plainly; a name
	// that says little needs all or nearly all.
	coverageWellNamed, coverageNamed = 0.9, 0.95
	verifyAtMost                     = 3 // candidates of one column, the best first
)

// A candidate is a key that a column may refer to.
type candidate struct {
	parent *catalog.Table
	key    string
	name   float64
	fit    float64 // how much of the key's range the column's values span, 0 to 1
	primary,
	near bool // in the same schema
}

// parentKey is a single column that no two rows have alike.
type parentKey struct {
	table    *catalog.Table
	column   *catalog.Column
	facts    *Column
	declared bool
	likely   float64
	// supposed: of a table without rows and keys, by its name alone. What has
	// no values either may refer to it.
	supposed bool
}

// primary reports whether the column alone is its table's primary key.
func (k parentKey) primary() bool {
	return k.table.PrimaryKey != nil && slices.Equal(k.table.PrimaryKey.Columns, []string{k.column.Name})
}

// parents lists what could be referred to.
func (d *discovery) parents() []parentKey {
	all := make([]parentKey, 0, len(d.tables))
	for _, p := range d.tables {
		all = d.parentsOf(all, p)
	}
	return all
}

// parentsOf appends the keys of one table that could be referred to.
func (d *discovery) parentsOf(all []parentKey, p *catalog.Table) []parentKey {
	keys := d.keys[p]
	for _, k := range keys {
		if len(k.Columns) != 1 {
			continue
		}
		if k.Likely >= 0.5 {
			d.names.keys[strings.ToLower(k.Columns[0])]++
		}
		if g := d.fact(p, k.Columns[0]); g != nil && (k.Declared || k.Rows > 0) {
			all = append(all, parentKey{p, p.Column(k.Columns[0]), g, k.Declared, k.Likely, false})
		}
	}
	// A declared unique key that lets nulls in may be referred to as well.
	for _, k := range p.UniqueKeys {
		if g := d.fact(p, k.Columns[0]); len(k.Columns) == 1 && g != nil && p.Column(k.Columns[0]).Nullable {
			all = append(all, parentKey{p, p.Column(k.Columns[0]), g, true, 0.5, false})
		}
	}
	if c := p.Columns[0]; len(keys) == 0 && !c.Nullable && d.ownName(p, c) {
		if g := d.fact(p, c.Name); g != nil && g.Rows == 0 {
			all = append(all, parentKey{p, c, g, false, 0.6, true})
		}
	}
	return all
}

// ownName reports whether a column is named as its own table's key: id, or after
// the table.
func (d *discovery) ownName(t *catalog.Table, c *catalog.Column) bool {
	return slices.ContainsFunc(d.names.of(t, c.Name), func(x term) bool {
		return len(x.words) == 1 && plainHandles[x.words[0]] || x.handle != "" && slices.EqualFunc(x.stem, d.names.tables[t], abbreviates)
	})
}

// inKey reports whether the column is part of its table's primary key.
func inKey(t *catalog.Table, column string) bool {
	return t.PrimaryKey != nil && slices.Contains(t.PrimaryKey.Columns, column)
}

// isKey reports whether the column is a key of its own table, declared or by its
// looks.
func (d *discovery) isKey(t *catalog.Table, column string) bool {
	return keptUnique(t, column) || slices.ContainsFunc(d.keys[t], func(k Key) bool {
		return len(k.Columns) == 1 && k.Columns[0] == column && (k.Declared || k.Likely >= 0.6)
	})
}

// candidates lists what the column may refer to by its name, type and range of
// values, the likeliest first.
func (d *discovery) candidates(t *catalog.Table, c *catalog.Column, f *Column, parents []parentKey, near *nearby) []candidate {
	own := d.isKey(t, c.Name)
	if (own || t.Columns[0] == c && f.Rows == 0 && len(d.keys[t]) == 0) && d.ownName(t, c) {
		return nil // it is named after its own table
	}
	var list []candidate
	for _, i := range near.of(t, d.names.of(t, c.Name)) {
		k := parents[i]
		if k.table == t && (k.column == c || !k.declared && k.likely < 0.5 || inKey(t, c.Name)) || !alike(c.Type, k.column.Type) || !plausible(f, k.facts, c.Type) {
			continue // what tells the rows of a table apart refers to no other column of it
		}
		name := d.names.speaks(t, c.Name, k.table, k.column.Name)
		if own && name < 0.85 || name < named {
			continue
		}
		if !k.declared && (k.likely < 0.5 && name < wellNamed || f.Filled() == 0 && !k.supposed || d.names.of(k.table, k.column.Name)[0].handle == "name" && name < 1) {
			continue
		}
		if !k.declared && k.likely < 0.5 && keyed(k.table, c.Type) {
			continue // different in every row by chance, where a key like that is declared
		}
		x := candidate{parent: k.table, key: k.column.Name, name: name, fit: span(f, k.facts),
			primary: k.primary(), near: k.table.Schema == t.Schema}
		// What refers to rows of its own table refers to earlier ones for the most part.
		if (name < 0.7 || d.bare(t, c)) && whole(c.Type) && f.Filled() > 0 && (!ample(f, x.fit) || k.table != t && x.name < telltale && atOneEnd(f, k.facts, x.fit)) {
			continue // 0 and 1 lie in every key, and small numbers at its beginning
		}
		list = append(list, x)
	}
	order(list)
	return list
}

// telltale is how much a name must say for its values to be taken as they are.
const telltale = 0.8

// counts are numbers up to which lines, places and pieces are counted.
const counts = 1000

// atOneEnd reports whether the values are no random draw from the key's: so many different ones
// of a real reference would hardly lie in so small a part of the key's range (the randomness of
// foreign keys, Zhang et al., On Multi-Column Foreign Key Discovery, VLDB 2010). Keys that
// begin far above what anybody counts to hold no counts by chance.
func atOneEnd(f, key *Column, fit float64) bool {
	if least, _, ok := numbers(key); ok && least > counts {
		return false
	}
	return math.Pow(fit, float64(distinctOf(f))) < 0.001
}

// keyed reports whether one column alone is the table's primary key, of a type
// that can be compared with this one.
func keyed(t *catalog.Table, of catalog.Type) bool {
	k := t.PrimaryKey
	return k != nil && len(k.Columns) == 1 && alike(of, t.Column(k.Columns[0]).Type)
}

// byData lists what a column that is named after nothing may refer to. Small
// whole numbers are found in every generated key, so that inclusion alone
// proves nothing: the column must be named like a reference and span the range
// of one key alone. Texts and other values speak for themselves where many are
// found.
func (d *discovery) byData(t *catalog.Table, c *catalog.Column, f *Column, parents []parentKey) []candidate {
	if d.isKey(t, c.Name) || f.Distinct == nil {
		return nil
	}
	terms := d.names.of(t, c.Name)
	like := slices.ContainsFunc(terms, func(x term) bool { return plainHandles[x.handle] || person(x) })
	var list []candidate
	for _, k := range parents {
		if k.table == t && k.column == c || !alike(c.Type, k.column.Type) || !plausible(f, k.facts, c.Type) || k.facts.Filled() == 0 {
			continue
		}
		if !k.declared && k.likely < 0.5 && keyed(k.table, c.Type) {
			continue // different in every row by chance, where a key like that is declared
		}
		x := candidate{parent: k.table, key: k.column.Name, name: 0.3, fit: span(f, k.facts), near: k.table.Schema == t.Schema,
			primary: k.primary()}
		switch {
		case whole(c.Type):
			if !like || !k.declared && k.likely < 0.6 || *f.Distinct < 10 || x.fit < 0.7 || !inside(f, k.facts) {
				continue
			}
		case c.Type.Family == catalog.UUID:
			if *f.Distinct < 2 {
				continue
			}
			x.name = 0.5
		case c.Type.Family == catalog.Text:
			if !within(f, k.facts) {
				continue
			}
			numbers := f.Numbers != nil && *f.Numbers == f.Filled()
			if *f.Distinct < 8 || f.Longest == nil || *f.Longest < 3 || numbers && *f.Longest < 5 || k.likely < 0.5 && !k.declared || *f.Distinct*10 < distinctOf(k.facts) && *f.Distinct < 20 {
				continue
			}
			if !d.namesNothing(terms) && !sharesWord(terms, d.names.of(k.table, k.column.Name), d.names.tables[k.table]) && *f.Distinct < 50 {
				continue
			}
			x.name = 0.45
		default:
			continue
		}
		list = append(list, x)
	}
	slices.SortStableFunc(list, func(a, b candidate) int { return cmp.Compare(b.fit, a.fit) })
	if len(list) > 1 && whole(c.Type) && (list[1].fit > 0.97*list[0].fit || list[0].fit < 0.95 && list[1].fit > 0.8*list[0].fit) {
		return nil // two keys of the same range: nothing tells which
	}
	if whole(c.Type) {
		return list[:min(len(list), 1)]
	}
	order(list)
	return list
}

// bare reports whether the column is named by a common word alone.
func (d *discovery) bare(t *catalog.Table, c *catalog.Column) bool {
	x := d.names.of(t, c.Name)[0]
	return x.handle == "" && len(x.stem) == 1 && common[x.stem[0]]
}

// namesNothing reports whether the name is a plain word for an identifier, so
// that the values alone can tell what it refers to.
func (d *discovery) namesNothing(terms []term) bool {
	return slices.ContainsFunc(terms, func(x term) bool { return x.handle != "" && x.handle != "name" })
}

// sharesWord reports whether the names have a word in common that says
// something.
func sharesWord(a, b []term, table []string) bool {
	for _, x := range a {
		for _, w := range x.words {
			if len(w) < 3 {
				continue
			}
			if slices.Contains(table, w) || slices.ContainsFunc(b, func(y term) bool { return slices.Contains(y.words, w) }) {
				return true
			}
		}
	}
	return false
}

func order(list []candidate) {
	value := func(x candidate) float64 {
		v := x.name
		if x.primary {
			v += 0.02
		}
		if x.near {
			v += 0.04
		}
		return v + 0.05*x.fit
	}
	slices.SortStableFunc(list, func(a, b candidate) int {
		return cmp.Or(cmp.Compare(value(b), value(a)), a.parent.Ref().Compare(b.parent.Ref()), strings.Compare(a.key, b.key))
	})
}

// referable reports whether a column of the type can refer to anything.
func referable(c *catalog.Column, f *Column) bool {
	switch c.Type.Family {
	case catalog.Integer, catalog.UUID, catalog.Date, catalog.Enum:
		return true
	case catalog.Decimal:
		return c.Type.Scale == 0
	case catalog.Text:
		return c.Type.Length <= 255 && (f.Longest == nil || *f.Longest <= 128)
	case catalog.Binary:
		return c.Type.Length > 0 && c.Type.Length <= 64
	}
	return false
}

func whole(t catalog.Type) bool {
	return t.Family == catalog.Integer || t.Family == catalog.Decimal && t.Scale == 0
}

// alike reports whether values of the two types can be compared as they are.
func alike(a, b catalog.Type) bool {
	switch a.Family {
	case catalog.Text, catalog.UUID, catalog.Date, catalog.Enum, catalog.Binary:
		return a.Family == b.Family && (a.Class == "" || a.Class == b.Class)
	}
	return whole(a) && whole(b)
}

func distinctOf(f *Column) int64 {
	if f.Distinct == nil {
		return f.Filled()
	}
	return *f.Distinct
}

// plausible reports whether the column's values can be among the key's at all,
// by their number and their range.
func plausible(child, parent *Column, t catalog.Type) bool {
	if child.Filled() == 0 {
		return true
	}
	if parent.Filled() == 0 {
		return false
	}
	if !child.Sampled && !parent.Sampled && child.Distinct != nil {
		if n := parent.Filled(); *child.Distinct > n+n/8+5 {
			return false
		}
	}
	if !whole(t) || parent.Sampled {
		return true // texts are ordered by collations
	}
	a, b, ok1 := numbers(child)
	c, e, ok2 := numbers(parent)
	return !ok1 || !ok2 || a <= e && b >= c
}

// inside reports whether the column's range lies within the key's.
func inside(child, parent *Column) bool {
	a, b, ok1 := numbers(child)
	c, e, ok2 := numbers(parent)
	return ok1 && ok2 && a >= c && b <= e
}

// within reports whether texts lie between the key's first and last, by their
// letters alone, and are no shorter and no longer. Collations order signs and
// case in their own ways, so that only plain texts are compared.
func within(child, parent *Column) bool {
	if child.Shortest == nil || parent.Shortest == nil {
		return true
	}
	if !parent.Sampled && (*child.Shortest < *parent.Shortest || *child.Longest > *parent.Longest) {
		return false
	}
	for _, s := range []*string{child.Least, child.Greatest, parent.Least, parent.Greatest} {
		if s == nil || strings.ContainsFunc(*s, func(r rune) bool { return r > 'z' || r < '0' || r > '9' && r < 'A' || r > 'Z' && r < 'a' }) {
			return true
		}
	}
	low := strings.ToLower
	return parent.Sampled || low(*child.Least) >= low(*parent.Least) && low(*child.Greatest) <= low(*parent.Greatest)
}

// ample reports whether whole numbers are more than a flag or a rank.
func ample(f *Column, fit float64) bool {
	n := distinctOf(f)
	return n >= 10 || n >= 3 && fit >= 0.5
}

// numbers is the range of a column's values.
func numbers(f *Column) (least, greatest float64, ok bool) {
	if f.Least == nil || f.Greatest == nil {
		return 0, 0, false
	}
	least, err1 := strconv.ParseFloat(*f.Least, 64)
	greatest, err2 := strconv.ParseFloat(*f.Greatest, 64)
	ok = err1 == nil && err2 == nil && least <= greatest && greatest-least < 1e300 // neither NaN nor infinite
	return least, greatest, ok
}

// span is how much of the key the column's values reach: of whole numbers by
// their range, otherwise by how many there are.
func span(child, parent *Column) float64 {
	a, b, ok1 := numbers(child)
	c, e, ok2 := numbers(parent)
	if ok1 && ok2 && child.Longest == nil {
		return min(1, max(0, min(b, e)-max(a, c)+1)/(e-c+1))
	}
	return min(1, float64(distinctOf(child))/float64(max(1, parent.Filled())))
}
