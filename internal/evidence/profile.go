package evidence

import (
	"cmp"
	"errors"
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// Texts that are longer are neither keys nor codes, and are not told apart.
const longText = 1000

// profile looks at the columns of every table, the smallest first.
func (d *discovery) profile() {
	order := slices.Clone(d.tables)
	slices.SortStableFunc(order, func(a, b *catalog.Table) int { return cmp.Compare(rowsOf(a), rowsOf(b)) })
	for _, t := range order {
		p := Part{Table: t}
		if d.o.LimitRows > 0 && rowsOf(t) > d.o.LimitRows {
			p.Sample = d.o.LimitRows
		}
		d.parts[t.Ref()] = p
	}
	groups := d.groups(order)
	d.eachOf("columns", groups, "its columns", func(a Asker, i int) {
		d.gather(a, groups[i])
		for _, t := range groups[i] {
			if d.ctx.Err() != nil {
				d.missed(t, "its columns")
				continue
			}
			d.table(a, t)
		}
	})
}

func (d *discovery) table(a Asker, t *catalog.Table) {
	p := d.part(t)
	facts, err := d.pass(a, p, t.Columns)
	if errors.Is(err, ErrTimeout) && (p.Sample == 0 || p.Sample > smallest) {
		d.failed(t, "all of its rows", fmt.Errorf("%w; a sample was looked at", err))
		p.Sample = smallest
		facts, err = d.pass(a, p, t.Columns)
	}
	if err != nil {
		d.failed(t, "its columns", err)
		return
	}
	byName := map[string]*Column{}
	for i := range facts {
		facts[i].Sampled = p.Sample > 0
		byName[facts[i].Column] = &facts[i]
	}
	d.varieties(a, p, byName)
	d.parses(a, p, byName)
	d.values(a, p, byName)
	d.mutex.Lock()
	defer d.mutex.Unlock()
	d.parts[t.Ref()] = p
	d.columns[t.Ref()] = byName
	d.rows += rowsOf(t)
}

// pass looks at columns; where one of them cannot be looked at, the others are
// asked for without it.
func (d *discovery) pass(a Asker, p Part, columns []*catalog.Column) ([]Column, error) {
	facts, err := a.Profile(d.ctx, p, columns)
	if err == nil || errors.Is(err, ErrTimeout) || over(err) || d.ctx.Err() != nil {
		return facts, err
	}
	if len(columns) == len(p.Table.Columns) { // the first to fail: is the table there at all?
		if gone := a.There(d.ctx, p.Table); gone != nil {
			return nil, gone
		}
	}
	if len(columns) == 1 {
		d.failed(p.Table, "column "+columns[0].Name, err)
		return nil, nil
	}
	half := len(columns) / 2
	facts, err = d.pass(a, p, columns[:half])
	if err != nil {
		return nil, err
	}
	more, err := d.pass(a, p, columns[half:])
	return append(facts, more...), err
}

// varietiesAtOnce is how many columns of a table are asked for in one statement.
const varietiesAtOnce = 16

// unvaried fills in how values repeat where that is known already, and lists the columns of which
// it has to be asked. What a key keeps unique need not be.
func (d *discovery) unvaried(p Part, facts map[string]*Column) []*catalog.Column {
	var ask []*catalog.Column
	for _, c := range p.Table.Columns {
		f := facts[c.Name]
		if f == nil || !d.comparable(c.Type) || f.Longest != nil && *f.Longest > longText {
			continue
		}
		one := int64(1)
		switch {
		case f.Filled() == 0:
			none := int64(0)
			f.Distinct = &none
		case d.keptUnique(p.Table, c.Name):
			n := f.Filled()
			f.Distinct, f.Most, f.Fewest = &n, &one, &one
		case f.Least != nil && f.Greatest != nil && f.Longest == nil && *f.Least == *f.Greatest:
			n := f.Filled()
			f.Distinct, f.Most, f.Fewest = &one, &n, &n
		default:
			ask = append(ask, c)
		}
	}
	return ask
}

// varieties asks how values repeat.
func (d *discovery) varieties(a Asker, p Part, facts map[string]*Column) {
	ask := d.unvaried(p, facts)
	at := varietiesAtOnce
	if rowsOf(p.Table) > 100_000 {
		at = 1 // each may take its time, and fail alone
	}
	for len(ask) > 0 && d.ctx.Err() == nil {
		n := min(at, len(ask))
		answers, err := a.Varieties(d.ctx, p, ask[:n])
		switch {
		case err == nil:
			for i := range answers {
				f := facts[ask[i].Name]
				f.Distinct, f.Most, f.Fewest = &answers[i].Distinct, &answers[i].Most, &answers[i].Fewest
			}
		case n > 1 && !over(err) && d.ctx.Err() == nil:
			at = 1
			continue
		default:
			d.failed(p.Table, "how often values of "+ask[0].Name+" repeat", err)
		}
		ask = ask[n:]
	}
}

// keptUnique reports whether the engine keeps the one column unique by a key.
func (d *discovery) keptUnique(t *catalog.Table, column string) bool {
	return !d.o.Can.KeysUnenforced && declaredUnique(t, column)
}

// declaredUnique reports whether a key of the one column is there.
func declaredUnique(t *catalog.Table, column string) bool {
	for _, k := range t.Keys() {
		if len(k.Columns) == 1 && k.Columns[0] == column {
			x := t.Index(k.Index)
			return x == nil || !x.Invalid
		}
	}
	return false
}

// parses asks what texts read as, where their first, last and length let them
// be numbers or dates.
func (d *discovery) parses(a Asker, p Part, facts map[string]*Column) {
	var ask []*catalog.Column
	for _, c := range p.Table.Columns {
		f := facts[c.Name]
		if f == nil || c.Type.Family != catalog.Text || f.Longest == nil || f.Filled() == 0 || *f.Longest > 40 || *f.Longest == 0 {
			continue
		}
		if begins(f.Greatest) && (begins(f.Least) || f.Empty != nil && *f.Empty > 0) {
			ask = append(ask, c)
		}
	}
	if len(ask) == 0 || d.ctx.Err() != nil {
		return
	}
	answers, err := a.Parses(d.ctx, p, ask)
	if err != nil {
		d.failed(p.Table, "what its texts read as", err)
		return
	}
	for i := range answers {
		f := facts[ask[i].Name]
		f.Dates, f.Numbers = &answers[i].Dates, &answers[i].Numbers
	}
}

// begins reports whether the text begins like a number or a date.
func begins(s *string) bool {
	return s != nil && *s != "" && (*s)[0] <= '9' && ((*s)[0] >= '0' || (*s)[0] == '-' || (*s)[0] == '+' || (*s)[0] == '.' || (*s)[0] == ' ')
}

// fewValues is how many different values a column of codes has at most, fewRows
// how many rows tell that there are no more, shortCode how long one is.
const (
	fewValues = 12
	fewRows   = 20
	shortCode = 40
)

// values asks what the values are where they are few. Columns that refer to a
// table are left out: it lists them.
func (d *discovery) values(a Asker, p Part, facts map[string]*Column) {
	if p.Sample > 0 || d.ctx.Err() != nil {
		return
	}
	var ask []*catalog.Column
	for _, c := range p.Table.Columns {
		f := facts[c.Name]
		code := f != nil && (c.Type.Family == catalog.Text && f.Longest != nil && *f.Longest <= shortCode || c.Type.Family == catalog.Integer)
		if code && f.Distinct != nil && *f.Distinct > 0 && *f.Distinct <= fewValues && f.Filled() >= fewRows && *f.Distinct*4 <= f.Filled() && !refers(p.Table, c.Name) {
			ask = append(ask, c)
		}
	}
	if len(ask) == 0 {
		return
	}
	answers, err := a.Values(d.ctx, p.Table, ask, fewValues)
	if err != nil {
		d.failed(p.Table, "what its codes are", err)
		return
	}
	for i, values := range answers {
		if int64(len(values)) == *facts[ask[i].Name].Distinct {
			facts[ask[i].Name].Values = values
		}
	}
}

func refers(t *catalog.Table, column string) bool {
	return slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return slices.Contains(f.Columns, column) })
}
