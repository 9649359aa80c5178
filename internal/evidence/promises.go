package evidence

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
)

// A Proposal is what a fix would have the data promise, with the question that
// finds what stands in the way, in the engine's words.
type Proposal struct {
	Promise
	Question string
}

// counters compares the largest number in use with the one that comes. The
// largest was read first: what is added meanwhile cannot make it look behind.
func (d *discovery) counters() {
	var tables []*catalog.Table
	var columns []*catalog.Column
	for _, t := range d.tables {
		for _, c := range t.Columns {
			if (c.Identity != catalog.NoIdentity || c.Sequence != nil) && d.fact(t, c.Name) != nil {
				tables, columns = append(tables, t), append(columns, c)
			}
		}
	}
	found := make([]*Counter, len(tables))
	d.each("counters", tables, "its counter", func(a Asker, i int) {
		t, c := tables[i], columns[i]
		f := d.fact(t, c.Name)
		if f.Sampled {
			return // the largest of a sample is not the largest
		}
		next, err := a.Next(d.ctx, t, c)
		if err != nil {
			d.failed(t, "its counter", err)
			return
		}
		k := &Counter{Schema: t.Schema, Table: t.Name, Column: c.Name, Next: next}
		if f.Greatest != nil {
			if n, err := strconv.ParseInt(*f.Greatest, 10, 64); err == nil {
				k.Greatest = &n
				k.Behind = next != nil && *next <= n && d.upwards(c)
			}
		}
		found[i] = k
	})
	for _, k := range found {
		if k != nil {
			d.found.Counters = append(d.found.Counters, *k)
		}
	}
}

// upwards reports whether the column's numbers grow.
func (d *discovery) upwards(c *catalog.Column) bool {
	if c.Sequence == nil {
		return true
	}
	if s := d.c.Schema(c.Sequence.Schema); s != nil {
		for _, q := range s.Sequences {
			if q.Name == c.Sequence.Table {
				return q.Increment > 0 && !q.Cycle
			}
		}
	}
	return false
}

// nearly is the share of different values from which a column that is named
// like an identifier was meant to be unique.
const nearly = 0.98

// promises tries what is declared without having been checked, what the data
// nearly keeps, and what fixes would add.
func (d *discovery) promises() {
	type trial struct {
		Promise
		ask func(a Asker) (Offenders, error)
	}
	var trials []trial
	var tables []*catalog.Table
	try := func(t *catalog.Table, p Promise, ask func(a Asker) (Offenders, error)) {
		p.Schema, p.Table = t.Schema, t.Name
		trials, tables = append(trials, trial{p, ask}), append(tables, t)
	}
	for _, t := range d.tables {
		for _, k := range t.Checks {
			if (k.NotValidated || d.o.Can.ChecksNewRows) && !k.Inherited {
				try(t, Promise{Origin: "declared", Kind: "check", Object: k.Name, Says: k.Expression},
					func(a Asker) (Offenders, error) { return a.Breaks(d.ctx, t, k.Expression, d.shown(t, k)) })
			}
		}
		for _, x := range t.Indexes {
			if x.Unique && x.Invalid && x.Predicate == "" && !slices.Contains(x.Columns(), "") {
				try(t, Promise{Origin: "declared", Kind: "unique", Object: x.Name, Columns: x.Columns(), Says: "unique on " + strings.Join(x.Columns(), ", ") + ", by an index that is not valid"},
					func(a Asker) (Offenders, error) { return a.Repeated(d.ctx, t, x.Columns()) })
			}
		}
		if d.o.Can.KeysUnenforced {
			for _, k := range t.Keys() {
				try(t, Promise{Origin: "declared", Kind: "unique", Object: k.Name, Columns: k.Columns, Says: "unique on " + strings.Join(k.Columns, ", ") + ", by a key that is not enforced"},
					func(a Asker) (Offenders, error) { return a.Repeated(d.ctx, t, k.Columns) })
			}
		}
		for i, c := range t.Columns {
			if f := d.fact(t, c.Name); f != nil && d.nearlyUnique(t, i, f) {
				try(t, Promise{Origin: "undeclared", Kind: "unique", Columns: []string{c.Name}, Says: "nearly unique"},
					func(a Asker) (Offenders, error) { return a.Repeated(d.ctx, t, []string{c.Name}) })
			}
		}
	}
	filtered := slices.DeleteFunc(d.c.Tables(), func(t *catalog.Table) bool { return d.memory.hides(t) == nil })
	for _, p := range d.o.Proposals {
		t := d.lookup.Table(catalog.Ref{Schema: p.Schema, Table: p.Table})
		if t != nil && slices.Contains(d.tables, t) {
			try(t, p.Promise, func(a Asker) (Offenders, error) {
				for _, of := range filtered {
					if of == t || d.o.Can.Reads().Mentions(p.Question, of.Name) {
						return Offenders{}, d.memory.hides(of)
					}
				}
				return a.Rows(d.ctx, p.Question)
			})
		}
	}
	done := make([]bool, len(trials))
	d.each("promises", tables, "what is promised of it", func(a Asker, i int) {
		o, err := trials[i].ask(a)
		if err != nil {
			d.failed(tables[i], "whether it keeps: "+trials[i].Says, err)
			return
		}
		p := &trials[i].Promise
		p.Offenders, p.AtLeast, p.Samples, p.Verified = o.Rows, o.AtLeast, o.Samples, true
		done[i] = true
	})
	d.known()
	for i, x := range trials {
		if done[i] {
			d.found.Promises = append(d.found.Promises, x.Promise)
		}
	}
}

// shown are the columns that tell an offending row apart: those that the check
// names, and the key.
func (d *discovery) shown(t *catalog.Table, k *catalog.Check) []string {
	var names []string
	if t.PrimaryKey != nil {
		names = append(names, t.PrimaryKey.Columns...)
	}
	for _, c := range t.Columns {
		if d.o.Can.Reads().Mentions(k.Expression, c.Name) && !slices.Contains(names, c.Name) && d.comparable(c.Type) {
			names = append(names, c.Name)
		}
	}
	return names[:min(len(names), 5)]
}

// nearlyUnique reports whether the column looks like a key that a few rows
// break.
func (d *discovery) nearlyUnique(t *catalog.Table, i int, f *Column) bool {
	c := t.Columns[i]
	if f.Sampled || f.Distinct == nil || *f.Distinct == f.Filled() || f.Filled() < 20 || float64(*f.Distinct) < nearly*float64(f.Filled()) || !keyable(c, f) {
		return false
	}
	part := d.keyLooks(t, i)
	return part >= 0.6 && !d.refersByName(t, c) || c.Type.Family == catalog.Text && f.Longest != nil && *f.Longest <= 60 && part >= 0.05
}

// known adds what the columns' and references' figures tell already: keys that
// may hold nulls and do, and foreign keys that were never checked.
func (d *discovery) known() {
	for _, t := range d.tables {
		if t.PrimaryKey != nil {
			for _, name := range t.PrimaryKey.Columns {
				if f := d.fact(t, name); f != nil && t.Column(name).Nullable && t.Column(name).Identity == catalog.NoIdentity {
					d.found.Promises = append(d.found.Promises, Promise{Origin: "declared", Kind: "not null", Schema: t.Schema, Table: t.Name, Object: t.PrimaryKey.Name,
						Columns: []string{name}, Says: fmt.Sprintf("%s is part of the primary key", name), Offenders: f.Nulls, Verified: !f.Sampled})
				}
			}
		}
		for _, f := range t.ForeignKeys {
			if !f.NotValidated || f.Inherited {
				continue
			}
			i := slices.IndexFunc(d.references, func(r Reference) bool {
				return r.Declared && r.From() == t.Ref() && slices.Equal(r.Columns, f.Columns) && r.To() == f.Target
			})
			if i >= 0 {
				r := d.references[i]
				d.found.Promises = append(d.found.Promises, Promise{Origin: "declared", Kind: "foreign key", Schema: t.Schema, Table: t.Name, Object: f.Name, Columns: f.Columns,
					Says: fmt.Sprintf("refers to %s, and was never checked", f.Target), Offenders: r.Orphans, Samples: r.Samples, Verified: r.Verified})
			}
		}
	}
}
