package evidence

import (
	"cmp"
	"math"
	"slices"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
)

// tryDeclared asks whether the declared foreign keys hold.
func (d *discovery) tryDeclared() {
	type pair struct {
		f      *catalog.ForeignKey
		parent *catalog.Table
	}
	var tables []*catalog.Table
	var pairs []pair
	for _, t := range d.tables {
		for _, f := range t.ForeignKeys {
			parent := d.lookup.Table(f.Target)
			if parent == nil || f.Inherited || len(f.Columns) != len(f.TargetColumns) {
				continue
			}
			tables, pairs = append(tables, t), append(pairs, pair{f, parent})
		}
	}
	found := make([]*Reference, len(pairs))
	d.each("declared references", tables, "its declared references", func(a Asker, i int) {
		x := pairs[i]
		ask := d.ask
		if x.f.Period {
			ask = d.askPeriod
		}
		if r, ok := ask(a, tables[i], x.f.Columns, x.parent, x.f.TargetColumns, 0); ok {
			r.Declared, r.Score, r.Parts = true, 1, Parts{1, round(r.Coverage), 1, 0}
			found[i] = &r
		}
	})
	for _, r := range found {
		if r != nil {
			d.references = append(d.references, *r)
		}
	}
}

// ask asks how many rows have a parent. A candidate is asked of a sample first
// where the table is large, and ok is false where less than the least coverage
// is reached.
func (d *discovery) ask(a Asker, t *catalog.Table, columns []string, parent *catalog.Table, target []string, least float64) (r Reference, ok bool) {
	p := d.part(t)
	r = Reference{Schema: t.Schema, Table: t.Name, Columns: columns, TargetSchema: parent.Schema, Target: parent.Name, TargetColumns: target, Coverage: 1, Verified: p.Sample == 0}
	filled := int64(math.MaxInt64)
	for _, name := range columns {
		f := d.fact(t, name)
		if f == nil {
			return r, false
		}
		filled = min(filled, f.Filled())
	}
	if filled == 0 {
		return r, true
	}
	if p.Sample == 0 && len(columns) == 1 && d.fills(a, t, columns[0], parent, target[0]) {
		r.RowsChecked = filled
		d.children(a, &r, t, parent, Orphans{})
		return r, true
	}
	if f := d.fact(t, columns[0]); p.Sample == 0 && len(columns) == 1 && filled > 10*smallest && f.Distinct != nil && *f.Distinct*50 < filled {
		// Few values: if each has a parent, no row is without.
		o, err := a.Orphans(d.ctx, Part{Table: t, Once: true}, columns, parent, target)
		if err == nil && o.Rows == 0 {
			r.RowsChecked = filled
			d.children(a, &r, t, parent, o)
			return r, true
		}
	} else if least > 0 && p.Sample == 0 && filled > 5*smallest {
		o, err := a.Orphans(d.ctx, Part{Table: t, Sample: smallest}, columns, parent, target)
		if err == nil && share(o) < least-0.03 {
			return r, false
		}
	}
	o, err := a.Orphans(d.ctx, p, columns, parent, target)
	if err != nil {
		d.failed(t, "reference to "+parent.Ref().String(), err)
		return r, false
	}
	if o.Checked < 0 {
		o.Checked = filled
	}
	o.Rows = min(o.Rows, o.Checked) // rows may have gone since
	r.RowsChecked, r.Orphans, r.Samples, r.Coverage = o.Checked, o.Rows, o.Samples, share(o)
	if r.Coverage < least {
		return r, false
	}
	d.children(a, &r, t, parent, o)
	return r, true
}

// askPeriod asks how many rows lie within their parents: no counts tell.
func (d *discovery) askPeriod(a Asker, t *catalog.Table, columns []string, parent *catalog.Table, target []string, _ float64) (r Reference, ok bool) {
	p := d.part(t)
	p.Period = true
	r = Reference{Schema: t.Schema, Table: t.Name, Columns: columns, TargetSchema: parent.Schema, Target: parent.Name, TargetColumns: target, Verified: p.Sample == 0}
	o, err := a.Orphans(d.ctx, p, columns, parent, target)
	if err != nil {
		d.failed(t, "reference to "+parent.Ref().String(), err)
		return r, false
	}
	r.RowsChecked, r.Orphans, r.Samples, r.Coverage = o.Checked, o.Rows, o.Samples, share(o)
	return r, true
}

// fills reports whether the counts alone prove that every value has a parent:
// whole numbers that are all different, and as many as there are from the least
// to the greatest, leave none out between.
func (d *discovery) fills(a Asker, t *catalog.Table, column string, parent *catalog.Table, key string) bool {
	f, g := d.fact(t, column), d.fact(parent, key)
	if f == nil || g == nil || g.Sampled || g.Distinct == nil || *g.Distinct != g.Filled() || !inside(f, g) {
		return false
	}
	if t.Column(column).Type.Family != catalog.Integer || parent.Column(key).Type.Family != catalog.Integer {
		return false
	}
	from, err1 := strconv.ParseInt(*g.Least, 10, 64)
	to, err2 := strconv.ParseInt(*g.Greatest, 10, 64)
	if err1 != nil || err2 != nil || from < math.MinInt64/2 || to > math.MaxInt64/2 || to-from+1 != g.Filled() {
		return false
	}
	one, err := a.Whole(d.ctx, t, column)
	if err != nil || !one {
		return false
	}
	both, err := a.Whole(d.ctx, parent, key)
	return err == nil && both
}

func share(o Orphans) float64 {
	if o.Checked == 0 {
		return 1
	}
	return float64(o.Checked-o.Rows) / float64(o.Checked)
}

// children measures how many rows refer to one row of the parent. Of single
// columns that is known from how their values repeat.
func (d *discovery) children(a Asker, r *Reference, t, parent *catalog.Table, o Orphans) {
	if !r.Verified || r.RowsChecked == 0 {
		return
	}
	v := Variety{}
	if len(r.Columns) == 1 {
		f := d.fact(t, r.Columns[0])
		if f.Most == nil || f.Fewest == nil || f.Distinct == nil {
			return
		}
		v = Variety{*f.Distinct, *f.Fewest, *f.Most}
	} else {
		var err error
		if v, _, err = a.Together(d.ctx, Part{Table: t}, r.Columns); err != nil {
			return
		}
	}
	g := d.fact(parent, r.TargetColumns[0])
	if g == nil || g.Sampled {
		return
	}
	r.Fewest, r.Most = &v.Fewest, &v.Most
	if g.Rows > v.Distinct-o.Values {
		none := int64(0)
		r.Fewest = &none
	}
}

// findReferences looks for references of single columns that nobody declared.
func (d *discovery) findReferences() {
	parents := d.parents()
	near := d.nearbyOf(parents)
	var tables []*catalog.Table
	var columns []*catalog.Column
	for _, t := range d.tables {
		for _, c := range t.Columns {
			if f := d.fact(t, c.Name); f != nil && referable(c, f) && d.comparable(c.Type) && !d.refers(t, c.Name) && !counted(c) {
				tables, columns = append(tables, t), append(columns, c)
			}
		}
	}
	d.ranges, d.parentAt = rangesOf(parents), map[place]int{}
	for i, k := range parents {
		d.parentAt[place{k.table.Ref(), k.column.Name}] = i
	}
	found := make([][]Reference, len(tables))
	look := func(step string, at []int) {
		if len(at) == 0 {
			return
		}
		of := make([]*catalog.Table, len(at))
		for i, n := range at {
			of[i] = tables[n]
		}
		d.each(step, of, "its columns' references", func(a Asker, i int) {
			found[at[i]] = d.targets(a, of[i], columns[at[i]], parents, near)
		})
	}
	all := make([]int, len(tables))
	for i := range all {
		all[i] = i
	}
	look("references", all)
	// What columns refer to tells of others of the same name; what they were asked is known.
	d.learnt, d.ofPeople = learn(d.references, found), d.people(found)
	look("namesakes", slices.DeleteFunc(all, func(i int) bool {
		return len(d.learnt[strings.ToLower(columns[i].Name)]) == 0 && !slices.ContainsFunc(d.names.of(tables[i], columns[i].Name), person)
	}))
	d.references = append(d.references, d.sure(settle(d.references, found))...)
}

// How probable a reference must be to be taken for one, and to be worth a word. Of those said to
// be forty to fifty in a hundred sure, more than half are real (make bench-evidence).
const (
	likely  = 0.4
	perhaps = 0.15
)

// sure takes the likely ones, and notes those that are but perhaps references.
func (d *discovery) sure(all []Reference) []Reference {
	return slices.DeleteFunc(all, func(r Reference) bool {
		if r.Score < likely && r.Score >= perhaps {
			d.found.Perhaps = append(d.found.Perhaps, r)
		}
		return r.Score < likely
	})
}

// counted reports whether the engine gives the column its numbers: they are of its own table,
// whatever else has such.
func counted(c *catalog.Column) bool {
	switch c.Identity {
	case catalog.IdentityAlways, catalog.IdentityByDefault, catalog.IdentityCounter, catalog.IdentitySequence:
		return true
	}
	return false
}

// refers reports whether a foreign key of the one column is declared.
func (d *discovery) refers(t *catalog.Table, column string) bool {
	return slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return len(f.Columns) == 1 && f.Columns[0] == column })
}

// targets verifies the likeliest targets of a column and gives those that
// hold, the best first, with their probabilities.
func (d *discovery) targets(a Asker, t *catalog.Table, c *catalog.Column, parents []parentKey, near *nearby) []Reference {
	f := d.fact(t, c.Name)
	list := d.candidates(t, c, f, parents, near)
	if f.Filled() == 0 {
		return d.suspects(t, c, list)
	}
	if oneValue(f) {
		return d.held(a, t, c, d.suspects(t, c, list))
	}
	if d.either(t, c) {
		return nil
	}
	return d.verified(a, t, c, list)
}

// oneValue reports whether the column holds one value alone, as a default or the empty text:
// that it is found among a key's values says nothing.
func oneValue(f *Column) bool { return f.Distinct != nil && *f.Distinct == 1 }

// held leaves the references by name alone whose one value is found, unless that is the empty
// text: then it stands for none.
func (d *discovery) held(a Asker, t *catalog.Table, c *catalog.Column, list []Reference) []Reference {
	f := d.fact(t, c.Name)
	if f.Longest != nil && *f.Longest == 0 {
		return nil
	}
	var held []Reference
	for _, r := range list {
		parent := d.lookup.Table(r.To())
		o, err := a.Orphans(d.ctx, Part{Table: t, Once: true}, r.Columns, parent, r.TargetColumns)
		if err == nil && o.Rows == 0 && d.fact(parent, r.TargetColumns[0]).Filled() > 0 {
			held = append(held, r)
		}
	}
	return held
}

// either reports whether another column tells which table the number refers
// to: then it refers to no single one.
func (d *discovery) either(t *catalog.Table, c *catalog.Column) bool {
	for _, x := range d.names.of(t, c.Name) {
		if x.handle == "" {
			continue
		}
		for _, o := range t.Columns {
			g := d.fact(t, o.Name)
			if o == c || g == nil || o.Type.Family != catalog.Text && o.Type.Family != catalog.Enum {
				continue
			}
			for _, y := range d.names.of(t, o.Name) {
				n := len(y.words)
				if n == len(x.stem)+1 && slices.Equal(y.words[:n-1], x.stem) && (y.words[n-1] == "type" || y.words[n-1] == "class" || y.words[n-1] == "table" || y.words[n-1] == "model" || y.words[n-1] == "entity" || y.words[n-1] == "kind") && d.names.joined[join(x.stem)] == 0 {
					return true
				}
			}
		}
	}
	return false
}

// suspects are references of columns without a value: the name alone speaks
// for them.
func (d *discovery) suspects(t *catalog.Table, c *catalog.Column, list []candidate) []Reference {
	if len(list) == 0 || d.either(t, c) {
		return nil
	}
	if d.o.Weighed != nil {
		told := make([]Reference, len(list))
		for i, x := range list {
			told[i] = reference(t, c, x)
		}
		d.weighed(told, list, false)
	}
	var all []Reference
	for i, p := range chances(list, &byNameAlone) {
		if p >= perhaps {
			r := reference(t, c, list[i])
			r.Score = percent(p)
			all = append(all, r)
		}
	}
	slices.SortStableFunc(all, func(a, b Reference) int { return cmp.Compare(b.Score, a.Score) })
	return all
}

// reference is a candidate as it is told.
func reference(t *catalog.Table, c *catalog.Column, x candidate) Reference {
	return Reference{Schema: t.Schema, Table: t.Name, Columns: []string{c.Name}, TargetSchema: x.parent.Schema, Target: x.parent.Name, TargetColumns: []string{x.key}, Coverage: 1,
		Parts: Parts{Name: round(x.name), Type: sameType(c, x.parent.Column(x.key))}}
}

// louder is how many times likelier than the next a candidate must be for that not to be asked.
const louder = 20

// verified asks for the best candidates and keeps those that hold.
func (d *discovery) verified(a Asker, t *catalog.Table, c *catalog.Column, list []candidate) []Reference {
	var good []Reference
	var held []candidate
	for _, x := range list[:min(len(list), verifyAtMost)] {
		if d.ctx.Err() != nil {
			d.missed(t, "what "+c.Name+" refers to")
			return nil
		}
		sum := x.is.sum(&byValues)
		if sum < -4 || len(held) > 0 && held[0].is.sum(&byValues) > sum+math.Log(louder) {
			break // another speaks louder, and holds
		}
		r, ok := d.ask(a, t, []string{c.Name}, x.parent, []string{x.key}, x.least())
		if !ok || r.RowsChecked == 0 {
			continue
		}
		x.is[hasOrphans] = lacking(r.Coverage)
		r.Parts = Parts{Name: round(x.name), Coverage: round(r.Coverage), Type: sameType(c, x.parent.Column(x.key)), Spread: round(x.fit)}
		held, good = append(held, x), append(good, r)
	}
	d.weighed(good, held, true)
	for i, p := range chances(held, &byValues) {
		good[i].Score = percent(p)
	}
	slices.SortStableFunc(good, func(a, b Reference) int { return cmp.Compare(b.Score, a.Score) })
	return good
}

// weighed tells of the candidates of a column whoever wants to know.
func (d *discovery) weighed(all []Reference, list []candidate, asked bool) {
	if d.o.Weighed == nil || len(list) == 0 {
		return
	}
	numbers := make([][]float64, len(list))
	for i := range list {
		numbers[i] = slices.Clone(list[i].is[:])
	}
	d.mutex.Lock()
	defer d.mutex.Unlock()
	d.o.Weighed(slices.Clone(all), numbers, asked)
}

func sameType(a, b *catalog.Column) float64 {
	if a.Type.Native == b.Type.Native {
		return 1
	}
	return 0.5
}

func round(x float64) float64 { return math.Round(x*1000) / 1000 }

// percent is a probability as it is told: more digits would say more than is known.
func percent(p float64) float64 { return math.Round(p*100) / 100 }
