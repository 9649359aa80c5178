// Package advise chooses, for all tables of a cluster together, how their rows are spread
// over the slices and in what order they are kept. It weighs by bytes: what every join
// has to move, what copies on every node cost, and what a slice that is fuller than the
// others makes all of them wait. docs/spread.md tells how.
package advise

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
)

// A Join is two columns that rows are joined on, and how often.
type Join struct {
	From, To             catalog.Ref
	FromColumn, ToColumn string
	Weight               float64
}

// A Filter is a column that rows are searched by a range or a value of.
type Filter struct {
	Table  catalog.Ref
	Column string
	Weight float64
}

// Options of an advice.
type Options struct {
	Joins   []Join   // besides the references, or in their place where there are any
	Filters []Filter // what is searched by
	// Copies is what a byte on a further node costs against a byte that one join moves.
	Copies float64
	// Waits is what a byte that others wait for costs.
	Waits float64
}

// A Choice is what is advised for one table.
type Choice struct {
	Table    *catalog.Table
	Spread   catalog.Spread
	Sort     *catalog.SortKey
	Skew     float64 // predicted: how many times the mean the fullest slice holds
	Reason   string
	RunnerUp string // the next best, and why it is not taken
}

// An Advice is the choice for all tables, and what every join moves before and after.
type Advice struct {
	Choices       []Choice
	Joins         []Moved
	Before, After float64 // the whole cost, in bytes
}

// Moved is the bytes that a join moves.
type Moved struct {
	Join
	Before, After float64
}

type option struct {
	spread catalog.Spread
	skew   float64
}

// problem is the tables, what may be chosen for each, and the joins by table.
type problem struct {
	c       *catalog.Catalog
	o       Options
	tables  []*catalog.Table
	bytes   []float64
	options [][]option
	joins   []Join
	ends    [][2]int // the tables of each join
	at      map[catalog.Ref]int
	byTable [][]int // joins of each table
}

// Choose advises. The same input gives the same advice.
func Choose(c *catalog.Catalog, e *evidence.Evidence, o Options) *Advice {
	if o.Copies == 0 {
		o.Copies = 0.5
	}
	if o.Waits == 0 {
		o.Waits = 1
	}
	p := &problem{c: c, o: o, at: map[catalog.Ref]int{}}
	for _, t := range c.Tables() {
		if t.IsOwn() && len(t.Columns) > 0 {
			p.at[t.Ref()] = len(p.tables)
			p.tables = append(p.tables, t)
			p.bytes = append(p.bytes, bytesOf(t))
		}
	}
	p.joins = p.joinsOf(e)
	p.byTable = make([][]int, len(p.tables))
	for i, j := range p.joins {
		a, b := p.at[j.From], p.at[j.To]
		p.ends = append(p.ends, [2]int{a, b})
		p.byTable[a] = append(p.byTable[a], i)
		if a != b {
			p.byTable[b] = append(p.byTable[b], i)
		}
	}
	f := factsOf(e)
	for i := range p.tables {
		p.options = append(p.options, p.optionsOf(i, f))
	}
	best := p.solve()
	p.stay(best)
	return p.advice(best)
}

// worth is the share of the whole present cost that a table's move has to save.
const worth = 0.001

// stay leaves tables as they are whose move would hardly save anything.
func (p *problem) stay(chosen []int) {
	before := p.advice(chosen).Before
	for i, t := range p.tables {
		if t.Spread == nil {
			continue
		}
		now := slices.IndexFunc(p.options[i], func(o option) bool { return o.spread == *t.Spread })
		if now >= 0 && now != chosen[i] && p.local(i, now, chosen)-p.local(i, chosen[i], chosen) <= worth*before {
			chosen[i] = now
		}
	}
}

// bytesOf is what a table's rows take, by their number and the width of its columns.
func bytesOf(t *catalog.Table) float64 {
	if t.Stats.Rows == nil {
		return 0
	}
	width := 0.0
	for _, c := range t.Columns {
		switch c.Type.Family {
		case catalog.Integer, catalog.Float:
			width += float64(max(8, c.Type.Bits)) / 8
		case catalog.Text:
			width += min(40, float64(cmp.Or(c.Type.Length, 40))/2)
		case catalog.Boolean:
			width++
		default:
			width += 8
		}
	}
	return width * float64(*t.Stats.Rows)
}

// joinsOf are the joins that were given, or else the references: declared, accepted, and
// found in the data.
func (p *problem) joinsOf(e *evidence.Evidence) []Join {
	var all []Join
	known := map[[2]string]bool{}
	add := func(j Join) {
		if j.Weight == 0 {
			j.Weight = 1
		}
		_, a := p.at[j.From]
		_, b := p.at[j.To]
		key := [2]string{j.From.String() + "." + j.FromColumn, j.To.String() + "." + j.ToColumn}
		if a && b && !known[key] && p.tables[p.at[j.From]].Column(j.FromColumn) != nil && p.tables[p.at[j.To]].Column(j.ToColumn) != nil {
			known[key] = true
			all = append(all, j)
		}
	}
	for _, j := range p.o.Joins {
		add(j)
	}
	if len(all) > 0 {
		return all
	}
	for _, t := range p.tables {
		for _, f := range append(slices.Clone(t.ForeignKeys), t.Accepted...) {
			if len(f.Columns) == 1 && len(f.TargetColumns) == 1 {
				add(Join{From: t.Ref(), To: f.Target, FromColumn: f.Columns[0], ToColumn: f.TargetColumns[0]})
			}
		}
	}
	if e != nil {
		for _, r := range e.References {
			if len(r.Columns) == 1 && r.RowsChecked > 0 {
				add(Join{From: r.From(), To: r.To(), FromColumn: r.Columns[0], ToColumn: r.TargetColumns[0]})
			}
		}
	}
	return all
}

type facts map[catalog.Ref]map[string]*evidence.Column

func factsOf(e *evidence.Evidence) facts {
	f := facts{}
	if e == nil {
		return f
	}
	for i := range e.Columns {
		c := &e.Columns[i]
		ref := catalog.Ref{Schema: c.Schema, Table: c.Table}
		if f[ref] == nil {
			f[ref] = map[string]*evidence.Column{}
		}
		f[ref][c.Column] = c
	}
	return f
}

// optionsOf are the ways that a table may be spread: by each column that it is joined
// on, evenly, and as copies where that is not absurd.
func (p *problem) optionsOf(i int, f facts) []option {
	t := p.tables[i]
	var all []option
	for _, n := range p.byTable[i] {
		j := p.joins[n]
		for _, name := range []struct {
			of     catalog.Ref
			column string
		}{{j.From, j.FromColumn}, {j.To, j.ToColumn}} {
			s := catalog.Spread{Style: "key", Column: name.column}
			if name.of != t.Ref() || slices.ContainsFunc(all, func(o option) bool { return o.spread == s }) {
				continue
			}
			all = append(all, option{s, Skew(t, name.column, p.c.Slices(), f[t.Ref()][name.column])})
		}
	}
	slices.SortFunc(all, func(a, b option) int { return strings.Compare(a.spread.Column, b.spread.Column) })
	all = append(all, option{catalog.Spread{Style: "even"}, 1})
	if t.Stats.Rows != nil && *t.Stats.Rows <= 3_000_000 {
		all = append(all, option{catalog.Spread{Style: "all"}, 1})
	}
	return all
}

// moves is the bytes that a join moves: none where one side is on every node, or both
// lie by what they are joined on; otherwise what is least of sending one side where the
// other lies, or copies of the smaller one everywhere.
func (p *problem) moves(n int, a, b *catalog.Spread) float64 {
	j, i, k := &p.joins[n], p.ends[n][0], p.ends[n][1]
	x, y := p.bytes[i], p.bytes[k]
	if a.Style == "all" || b.Style == "all" {
		return 0
	}
	there := a.Style == "key" && a.Column == j.FromColumn
	here := b.Style == "key" && b.Column == j.ToColumn
	away := 1 - 1/float64(max(1, p.c.Slices()))
	copies := min(x, y) * float64(max(1, p.c.Nodes())-1)
	switch {
	case there && here:
		return 0
	case there:
		return min(y*away, copies)
	case here:
		return min(x*away, copies)
	}
	return min((x+y)*away, copies)
}

// alone is what a table's spread costs by itself.
func (p *problem) alone(i int, o option) float64 {
	cost := p.o.Waits * (o.skew - 1) * p.bytes[i]
	if o.spread.Style == "all" {
		cost += p.o.Copies * p.bytes[i] * float64(max(1, p.c.Nodes())-1)
	}
	return cost
}

// local is what of the whole cost depends on one table's choice.
func (p *problem) local(i, choice int, chosen []int) float64 {
	was := chosen[i]
	chosen[i] = choice
	cost := p.alone(i, p.options[i][choice])
	for _, n := range p.byTable[i] {
		cost += p.joined(n, chosen)
	}
	chosen[i] = was
	return cost
}

// joined is what a join costs as the tables are chosen to lie.
func (p *problem) joined(n int, chosen []int) float64 {
	a, b := p.ends[n][0], p.ends[n][1]
	return p.joins[n].Weight * p.moves(n, &p.options[a][chosen[a]].spread, &p.options[b][chosen[b]].spread)
}

func (p *problem) total(chosen []int) float64 {
	cost := 0.0
	for i := range p.tables {
		cost += p.alone(i, p.options[i][chosen[i]])
	}
	for n := range p.joins {
		cost += p.joined(n, chosen)
	}
	return cost
}

// solve starts from several assignments and betters each, one table at a time and two
// tables of a join at a time, until nothing gets better; the best of them is taken.
func (p *problem) solve() []int {
	var best []int
	least := 0.0
	for start := range 4 {
		chosen := make([]int, len(p.tables))
		for i := range chosen {
			chosen[i] = p.start(i, start)
		}
		p.better(chosen)
		if cost := p.total(chosen); best == nil || cost < least*(1-1e-12) {
			best, least = chosen, cost
		}
	}
	return best
}

// start is where a search begins: evenly, as copies, by the column of most joined bytes,
// or by the key that others refer to.
func (p *problem) start(i, kind int) int {
	style := func(s string) int {
		return slices.IndexFunc(p.options[i], func(o option) bool { return o.spread.Style == s })
	}
	switch kind {
	case 1:
		if n := style("all"); n >= 0 {
			return n
		}
	case 2, 3:
		weight := map[string]float64{}
		for _, n := range p.byTable[i] {
			j := p.joins[n]
			if j.From == p.tables[i].Ref() && kind == 2 {
				weight[j.FromColumn] += j.Weight * p.bytes[p.at[j.To]]
			}
			if j.To == p.tables[i].Ref() {
				weight[j.ToColumn] += j.Weight * p.bytes[p.at[j.From]]
			}
		}
		at, most := -1, 0.0
		for n, o := range p.options[i] {
			if w := weight[o.spread.Column]; o.spread.Style == "key" && w > most {
				at, most = n, w
			}
		}
		if at >= 0 {
			return at
		}
	}
	return style("even")
}

func (p *problem) better(chosen []int) {
	for range 50 {
		changed := false
		for i := range p.tables {
			at, least := chosen[i], p.local(i, chosen[i], chosen)
			for n := range p.options[i] {
				if cost := p.local(i, n, chosen); cost < least*(1-1e-9)-1e-9 {
					at, least = n, cost
				}
			}
			changed = changed || at != chosen[i]
			chosen[i] = at
		}
		for n := range p.joins {
			a, b := p.ends[n][0], p.ends[n][1]
			if a == b {
				continue
			}
			both := func() float64 {
				return p.local(a, chosen[a], chosen) + p.local(b, chosen[b], chosen) - p.joined(n, chosen)
			}
			wasA, wasB, least := chosen[a], chosen[b], both()
			atA, atB := wasA, wasB
			for n := range p.options[a] {
				for m := range p.options[b] {
					chosen[a], chosen[b] = n, m
					if cost := both(); cost < least*(1-1e-9)-1e-9 {
						atA, atB, least = n, m, cost
					}
				}
			}
			chosen[a], chosen[b] = atA, atB
			changed = changed || atA != wasA || atB != wasB
		}
		if !changed {
			return
		}
	}
}

// advice tells what was chosen, and why.
func (p *problem) advice(chosen []int) *Advice {
	a := &Advice{After: p.total(chosen)}
	now := make([]option, len(p.tables))
	for i, t := range p.tables {
		now[i] = option{catalog.Spread{Style: "even"}, 1}
		if t.Spread != nil {
			now[i] = option{*t.Spread, max(1, t.Skew())}
			if t.Spread.Style == "all" {
				now[i].skew = 1
			}
		}
		a.Before += p.alone(i, now[i])
	}
	for n, j := range p.joins {
		x, y := p.ends[n][0], p.ends[n][1]
		m := Moved{j, p.moves(n, &now[x].spread, &now[y].spread), p.moves(n, &p.options[x][chosen[x]].spread, &p.options[y][chosen[y]].spread)}
		a.Before += j.Weight * m.Before
		a.Joins = append(a.Joins, m)
	}
	for i, t := range p.tables {
		o := p.options[i][chosen[i]]
		ch := Choice{Table: t, Spread: o.spread, Skew: o.skew, Sort: p.sortOf(t), Reason: p.reason(i, o, chosen)}
		second, cost := -1, 0.0
		for n := range p.options[i] {
			if c := p.local(i, n, chosen); n != chosen[i] && (second < 0 || c < cost) {
				second, cost = n, c
			}
		}
		if second >= 0 {
			s, more := p.options[i][second], cost-p.local(i, chosen[i], chosen)
			ch.RunnerUp = fmt.Sprintf("%s: costs %s more", &s.spread, size(more))
			if more < 0 {
				ch.RunnerUp = fmt.Sprintf("%s: would save %s, too little for a move", &s.spread, size(-more))
			}
			if s.skew > 1.2 {
				ch.RunnerUp += fmt.Sprintf(", the fullest slice %.1f times the mean", s.skew)
			}
		}
		a.Choices = append(a.Choices, ch)
	}
	return a
}

func (p *problem) reason(i int, o option, chosen []int) string {
	var local []string
	for _, n := range p.byTable[i] {
		x, y := p.ends[n][0], p.ends[n][1]
		if p.moves(n, &p.options[x][chosen[x]].spread, &p.options[y][chosen[y]].spread) == 0 {
			other := p.tables[x]
			if x == i {
				other = p.tables[y]
			}
			if !slices.Contains(local, other.Name) {
				local = append(local, other.Name)
			}
		}
	}
	switch {
	case o.spread.Style == "all":
		return fmt.Sprintf("a copy of %s on each node makes its joins local", size(p.bytes[i]))
	case o.spread.Style == "key" && len(local) > 0:
		return "joins without moving rows: " + strings.Join(local, ", ")
	case o.spread.Style == "key":
		return "the other side of its joins comes to it"
	case len(p.byTable[i]) == 0:
		return "nothing joins it"
	}
	return "no column that it is joined on spreads it as well"
}

// sortOf is the order that is advised: what is searched by most, or else a moment, of
// tables of some size; what there is stays where nothing is better.
func (p *problem) sortOf(t *catalog.Table) *catalog.SortKey {
	best, most := "", 0.0
	weight := map[string]float64{}
	for _, f := range p.o.Filters {
		if f.Table == t.Ref() && t.Column(f.Column) != nil {
			weight[f.Column] += max(f.Weight, 1)
		}
	}
	for _, c := range t.Columns {
		if w := weight[c.Name]; w > most {
			best, most = c.Name, w
		}
	}
	if best == "" && t.SortKey != nil {
		return t.SortKey
	}
	if best == "" && t.Stats.Rows != nil && *t.Stats.Rows >= 100_000 {
		for _, c := range t.Columns {
			if (c.Type.Family == catalog.Timestamp || c.Type.Family == catalog.Date) && !c.Nullable {
				best = c.Name
				break
			}
		}
	}
	switch {
	case best == "":
		return nil
	case t.SortKey != nil && t.SortKey.Columns[0] == best && !t.SortKey.Interleaved:
		return t.SortKey
	}
	return &catalog.SortKey{Columns: []string{best}}
}

// size writes bytes as people do.
func size(bytes float64) string {
	for _, u := range []struct {
		name string
		of   float64
	}{{"GB", 1e9}, {"MB", 1e6}, {"kB", 1e3}} {
		if bytes >= u.of {
			return fmt.Sprintf("%.1f %s", bytes/u.of, u.name)
		}
	}
	return fmt.Sprintf("%.0f bytes", bytes)
}
