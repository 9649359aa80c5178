package evidence

import (
	"cmp"
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
	coverageWellNamed, coverageNamed, coverageUnnamed = 0.9, 0.95, 0.999
	verifyAtMost                                      = 3 // candidates of one column, the best first
)

// A candidate is a key that a column may refer to, and what speaks for it.
type candidate struct {
	parent *catalog.Table
	key    string
	name   float64
	fit    float64 // how much of the key's range the column's values span, 0 to 1
	is     traits
}

// least is the coverage that the candidate must reach.
func (x *candidate) least() float64 {
	switch {
	case x.name >= wellNamed:
		return coverageWellNamed
	case x.name >= named:
		return coverageNamed
	}
	return coverageUnnamed
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
		tab := d.names.tables[t]
		return len(x.words) == 1 && plainHandles.has(x.words[0]) || x.handle != "" && (slices.EqualFunc(x.stem, tab, abbreviates) || strings.Join(x.stem, "") == strings.Join(tab, ""))
	})
}

// inKey reports whether the column is part of its table's primary key.
func inKey(t *catalog.Table, column string) bool {
	return t.PrimaryKey != nil && slices.Contains(t.PrimaryKey.Columns, column)
}

// isKey reports whether the column is a key of its own table, declared or by its
// looks.
func (d *discovery) isKey(t *catalog.Table, column string) bool {
	return declaredUnique(t, column) || slices.ContainsFunc(d.keys[t], func(k Key) bool {
		return len(k.Columns) == 1 && k.Columns[0] == column && (k.Declared || k.Likely >= 0.6)
	})
}

// candidates lists what the column may refer to by its name, type and range of
// values, and by what columns of its name refer to elsewhere, the likeliest first.
func (d *discovery) candidates(t *catalog.Table, c *catalog.Column, f *Column, parents []parentKey, near *nearby) []candidate {
	own := d.isKey(t, c.Name)
	if (own || t.Columns[0] == c && f.Rows == 0 && len(d.keys[t]) == 0) && d.ownName(t, c) {
		return nil // it is named after its own table
	}
	if d.said(t, c, parents) {
		return nil
	}
	at := near.of(t, d.names.of(t, c.Name))
	asked := f.Filled() > 0 && !oneValue(f)
	weights := &byNameAlone
	if asked {
		weights = &byValues
		at = merged(at, d.holders(t, c, f, parents, own))
	}
	taught := d.taught(t, c)
	for to := range taught {
		if i, ok := d.parentAt[to]; ok {
			at = merged(at, []int{i})
		}
	}
	like := asked && slices.ContainsFunc(d.names.of(t, c.Name), func(x term) bool { return x.handle != "" || person(x) })
	var list []candidate
	for _, i := range at {
		k := parents[i]
		if k.table == t && (k.column == c || !k.declared && k.likely < 0.5 || inKey(t, c.Name)) || !alike(c.Type, k.column.Type) || !plausible(f, k.facts, c.Type) {
			continue // what tells the rows of a table apart refers to no other column of it
		}
		if !k.declared && k.likely < 0.5 && keyed(k.table, c.Type) {
			continue // different in every row by chance, where a key like that is declared
		}
		x := candidate{parent: k.table, key: k.column.Name, name: d.names.speaks(t, c.Name, k.table, k.column.Name), fit: span(f, k.facts)}
		x.is[elsewhere] = taught[place{k.table.Ref(), k.column.Name}]
		if x.name < named && x.is[elsewhere] == 0 && (own || !asked || !like && !d.tells(c, f, k)) {
			continue
		}
		if !k.declared && (!asked && !k.supposed || d.names.of(k.table, k.column.Name)[0].handle == "name" && x.name < 1) {
			continue
		}
		d.look(&x, t, c, k, own)
		if x.is[asPerson] > 0 {
			x.is[withPeople] = min(1, d.ofPeople[k.table.Ref()]/4)
		}
		if asked {
			d.measure(&x, c, f, k.facts)
		}
		list = append(list, x)
	}
	slices.SortStableFunc(list, func(a, b candidate) int {
		return cmp.Or(cmp.Compare(b.is.sum(weights), a.is.sum(weights)), a.parent.Ref().Compare(b.parent.Ref()), strings.Compare(a.key, b.key))
	})
	return list
}

// said reports whether a declared reference by several columns leads the column to a key of its own: what
// it refers to is known, and it refers to nothing else.
func (d *discovery) said(t *catalog.Table, c *catalog.Column, parents []parentKey) bool {
	return slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool {
		i := slices.Index(f.Columns, c.Name)
		if i < 0 || i >= len(f.TargetColumns) {
			return false
		}
		at, ok := d.parentAt[place{f.Target, f.TargetColumns[i]}]
		return ok && alike(c.Type, parents[at].column.Type)
	})
}

// holders are the keys among which all of the column's values may lie, whatever its name says.
// Small whole numbers are found in every generated key, so that the column must at least be
// named like a reference.
func (d *discovery) holders(t *catalog.Table, c *catalog.Column, f *Column, parents []parentKey, own bool) []int {
	if own || f.Distinct == nil || whole(c.Type) && (*f.Distinct < 5 || !slices.ContainsFunc(d.names.of(t, c.Name), func(x term) bool { return plainHandles.has(x.handle) || person(x) })) {
		return nil
	}
	var all []int
	for i, k := range parents {
		if k.facts.Filled() > 0 && alike(c.Type, k.column.Type) && (k.declared || k.likely >= 0.5) && d.tells(c, f, k) {
			all = append(all, i)
		}
	}
	if len(all) > mostHolders {
		slices.SortStableFunc(all, func(a, b int) int { return cmp.Compare(span(f, parents[b].facts), span(f, parents[a].facts)) })
		all = all[:mostHolders]
		slices.Sort(all)
	}
	return all
}

// mostHolders is how many keys a column is held against by its values alone.
const mostHolders = 6

// tells reports whether it would say anything that the column's values are found in the key.
func (d *discovery) tells(c *catalog.Column, f *Column, k parentKey) bool {
	switch {
	case whole(c.Type):
		return inside(f, k.facts) && span(f, k.facts) >= 0.5
	case c.Type.Family == catalog.UUID:
		return *f.Distinct >= 2
	case c.Type.Family == catalog.Text:
		numbers := f.Numbers != nil && *f.Numbers == f.Filled()
		return within(f, k.facts) && *f.Distinct >= 8 && f.Longest != nil && *f.Longest >= 3 && (!numbers || *f.Longest >= 5) && (*f.Distinct*10 >= distinctOf(k.facts) || *f.Distinct >= 20)
	}
	return false
}

// counts are numbers up to which lines, places and pieces are counted.
const counts = 1000

// keyed reports whether one column alone is the table's primary key, of a type
// that can be compared with this one.
func keyed(t *catalog.Table, of catalog.Type) bool {
	k := t.PrimaryKey
	return k != nil && len(k.Columns) == 1 && alike(of, t.Column(k.Columns[0]).Type)
}

// referable reports whether a column of the type can refer to anything.
func referable(c *catalog.Column, f *Column) bool {
	if computed(c) {
		return false
	}
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

// computed reports whether the column follows from others whenever it is asked for: no key of most
// engines holds it.
func computed(c *catalog.Column) bool { return c.Generated != "" && !c.Stored }

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
