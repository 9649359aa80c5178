package main

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
)

// A table is a thing with names and rows.
type table struct {
	name    string
	columns []column
	key     []string
	refs    []reference
	rows    [][]string // values as SQL
	beside  bool       // a number of its own, called id, is the primary key
}

type column struct {
	name, sql string
	required  bool
}

// A reference is what is to be found again.
type reference struct {
	table   string
	columns []string
	target  string
	keys    []string
}

func (r reference) String() string {
	return fmt.Sprintf("%s (%s) > %s (%s)", r.table, strings.Join(r.columns, ", "), r.target, strings.Join(r.keys, ", "))
}

// A size is how many rows there are, in parts of what the model says.
type size struct {
	name  string
	share float64
	least int
	every int // each so manieth table is empty; 0: none
	gaps  bool
}

var sizes = []size{
	{name: "as it is", share: 1, least: 5},
	{name: "a tenth", share: 0.1, least: 6},
	{name: "half empty", share: 0.5, least: 5, every: 3},
	{name: "with gaps", share: 1.5, least: 5, gaps: true},
}

// maker builds one database.
type maker struct {
	*rand.Rand
	s      style
	z      size
	things []*thing
	tables map[*thing]*table
	keys   map[*thing][][]string // the key of each row, as SQL
	order  []*thing
	nth    map[*thing]int
}

func build(things []*thing, s style, z size, seed uint64) []*table {
	m := &maker{rand.New(rand.NewPCG(seed, 7)), s, z, things, map[*thing]*table{}, map[*thing][][]string{}, nil, map[*thing]int{}}
	for i, t := range things {
		m.nth[t] = i
	}
	for _, t := range things {
		m.rowsOf(t, nil)
	}
	var all []*table
	for _, t := range things {
		all = append(all, m.tables[t])
	}
	return all
}

func (m *maker) own(t *thing) bool { return len(t.parts) == 0 || !m.s.combined }

// keyColumns are the columns that a thing's key is made of.
func (m *maker) keyColumns(t *thing) []column {
	if m.own(t) {
		return []column{{m.s.key(t.name), m.keyType(), true}}
	}
	var all []column
	for _, p := range t.parts {
		all = append(all, m.columnsOf(t, p)...)
	}
	return all
}

func (m *maker) keyType() string {
	switch {
	case m.s.natural:
		return "varchar(20)"
	case m.s.uuid:
		return "uuid"
	}
	return "integer"
}

// columnsOf are the columns of a member.
func (m *maker) columnsOf(t *thing, x member) []column {
	if x.to == nil {
		return []column{{m.s.value(t.name, x.name), kinds[x.kind].sql, x.nulls == 0}}
	}
	if m.own(x.to) {
		name := m.s.ref(x.name, x.to.name)
		if x.alone {
			name = m.s.ref("", x.name)
		}
		if m.s.name == "columns prefixed by table" {
			name = m.s.value(t.name, name)
		}
		return []column{{name, m.keyType(), x.nulls == 0}}
	}
	all := m.keyColumns(x.to)
	for i := range all {
		all[i].required = x.nulls == 0
		if x.name != "" {
			all[i].name = snake(x.name) + "_" + all[i].name
		}
	}
	return all
}

// rowsOf makes a table and its rows; what it refers to is made first.
func (m *maker) rowsOf(t *thing, making []*thing) {
	if m.tables[t] != nil {
		return
	}
	for _, x := range append(append([]member{}, t.parts...), t.members...) {
		if x.to != nil && x.to != t {
			busy := false
			for _, y := range making {
				busy = busy || y == x.to
			}
			if !busy {
				m.rowsOf(x.to, append(making, t))
			}
		}
	}
	tab := &table{name: m.s.table(t.name), beside: m.s.beside}
	m.tables[t] = tab
	n := max(m.z.least, int(float64(t.rows)*m.z.share))
	if m.z.every > 0 && m.nth[t]%m.z.every == 1 && t.rows < 1000 {
		n = 0
	}
	keyColumns := m.keyColumns(t)
	for _, k := range keyColumns {
		tab.key = append(tab.key, k.name)
	}
	members := t.members
	if m.own(t) {
		tab.columns = append(tab.columns, keyColumns...)
		members = append(append([]member{}, t.parts...), members...)
	} else {
		for _, p := range t.parts {
			m.add(tab, t, p)
		}
	}
	members = m.distinct(tab, t, members)
	for _, x := range members {
		m.add(tab, t, x)
	}
	at, seen := 0, map[string]bool{}
	if m.z.gaps && m.nth[t]%3 == 0 {
		at = 10_000 * (1 + m.nth[t]%7) // a house where numbers begin high
	}
	for i := 0; i < n; i++ {
		var row, key []string
		if m.own(t) {
			at++
			if m.z.gaps {
				at += m.IntN(3)
			}
			key = []string{m.keyValue(t, at)}
			row = append(row, key...)
		} else {
			fits := true
			for _, p := range t.parts {
				v := m.values(t, p, i)
				fits = fits && v != nil
				key = append(key, v...)
			}
			if text := strings.Join(key, "|"); !fits || seen[text] {
				continue
			} else {
				seen[text] = true
			}
			row = append(row, key...)
		}
		whole := true
		for _, x := range members {
			v := m.values(t, x, i)
			if v == nil {
				if v = make([]string, len(m.columnsOf(t, x))); x.nulls == 0 && x.to != t {
					whole = false
				}
				for j := range v {
					v[j] = "NULL"
				}
			}
			row = append(row, v...)
		}
		if whole {
			tab.rows, m.keys[t] = append(tab.rows, row), append(m.keys[t], key)
		}
	}
}

// distinct leaves out members whose columns are called like others in this style.
func (m *maker) distinct(tab *table, t *thing, members []member) []member {
	taken := map[string]bool{}
	for _, c := range tab.columns {
		taken[strings.ToLower(c.name)] = true
	}
	var all []member
	for _, x := range members {
		twice := false
		for _, c := range m.columnsOf(t, x) {
			twice = twice || taken[strings.ToLower(c.name)]
		}
		if twice {
			continue
		}
		for _, c := range m.columnsOf(t, x) {
			taken[strings.ToLower(c.name)] = true
		}
		all = append(all, x)
	}
	return all
}

func (m *maker) add(tab *table, t *thing, x member) {
	columns := m.columnsOf(t, x)
	var names []string
	for _, c := range columns {
		names = append(names, c.name)
		if x.to == t {
			c.required = false
		}
		tab.columns = append(tab.columns, c)
	}
	if x.to != nil {
		var keys []string
		for _, k := range m.keyColumns(x.to) {
			keys = append(keys, k.name)
		}
		tab.refs = append(tab.refs, reference{tab.name, names, m.s.table(x.to.name), keys})
	}
}

func (m *maker) keyValue(t *thing, i int) string {
	switch {
	case m.s.natural:
		return fmt.Sprintf("'%s%04d'", strings.ToUpper(initials(t.name)), i*7)
	case m.s.uuid:
		r := rand.New(rand.NewPCG(uint64(i), uint64(m.nth[t])))
		return fmt.Sprintf("'%08x-%04x-4%03x-8%03x-%012x'", r.Uint32(), r.IntN(1<<16), r.IntN(1<<12), r.IntN(1<<12), r.Int64N(1<<48))
	}
	return fmt.Sprint(i)
}

// values of a member in a row; nil where it is null.
func (m *maker) values(t *thing, x member, i int) []string {
	if x.nulls > 0 && m.IntN(100) < x.nulls {
		return nil
	}
	if x.to == nil {
		v := kinds[x.kind].value(m.Rand, i)
		if x.kind == "number" {
			v = strings.Replace(v, "SN", strings.ToUpper(initials(t.name)), 1)
		}
		return []string{v}
	}
	if x.orphans > 0 && m.IntN(100) < x.orphans && m.own(x.to) {
		return []string{m.keyValue(x.to, 900000+m.IntN(50))}
	}
	keys := m.keys[x.to]
	if len(keys) == 0 {
		return nil
	}
	// Some parents have many children and some none.
	at := int(float64(len(keys)) * math.Pow(m.Float64(), 1.3))
	return keys[min(at, len(keys)-1)]
}

// A kind of value.
type kind struct {
	sql   string
	value func(r *rand.Rand, i int) string
}

var syllables = strings.Fields("an brack cold drum eel fen grey hal ist jun kelp lan mar net os pet quil reed sand tern wick holm ness quay mouth point sluice lock head rock creek mole gate ling isle")

func word(r *rand.Rand) string {
	w := syllables[r.IntN(len(syllables))] + syllables[r.IntN(len(syllables))]
	return strings.ToUpper(w[:1]) + w[1:]
}

func number(from, to int) func(*rand.Rand, int) string {
	return func(r *rand.Rand, _ int) string { return fmt.Sprint(from + r.IntN(to-from+1)) }
}

func decimal(to float64) func(*rand.Rand, int) string {
	return func(r *rand.Rand, _ int) string { return fmt.Sprintf("%.2f", r.Float64()*to) }
}

func text(f func(r *rand.Rand, i int) string) func(*rand.Rand, int) string {
	return func(r *rand.Rand, i int) string { return "'" + f(r, i) + "'" }
}

func day(r *rand.Rand, _ int) string {
	return fmt.Sprintf("20%02d-%02d-%02d", 15+r.IntN(11), 1+r.IntN(12), 1+r.IntN(28))
}

var kinds = map[string]kind{
	"name":   {"varchar(60)", text(func(r *rand.Rand, i int) string { return word(r) + fmt.Sprint(" ", i) })},
	"title":  {"varchar(60)", text(func(r *rand.Rand, _ int) string { return strings.ToLower(word(r)) })},
	"word":   {"varchar(40)", text(func(r *rand.Rand, _ int) string { return syllables[r.IntN(8)] })},
	"person": {"varchar(60)", text(func(r *rand.Rand, _ int) string { return word(r) + " " + word(r) })},
	"phone":  {"varchar(20)", text(func(r *rand.Rand, _ int) string { return fmt.Sprintf("0555 %05d", r.IntN(100000)) })},
	"email": {"varchar(80)", text(func(r *rand.Rand, i int) string {
		return fmt.Sprintf("%s%d@saltmere.example", strings.ToLower(word(r)), i)
	})},
	"number": {"varchar(20)", text(func(_ *rand.Rand, i int) string { return fmt.Sprintf("SN%06d", 400000+i*37) })},
	"note":   {"varchar(200)", text(func(r *rand.Rand, _ int) string { return strings.ToLower(word(r) + " " + word(r) + " " + word(r)) })},
	"status": {"varchar(12)", text(func(r *rand.Rand, _ int) string { return []string{"open", "closed", "draft", "high", "low"}[r.IntN(5)] })},
	"date":   {"date", text(day)},
	"stamp": {"timestamp", text(func(r *rand.Rand, i int) string {
		return fmt.Sprintf("%s %02d:%02d:00", day(r, i), r.IntN(24), r.IntN(60))
	})},
	"measure": {"decimal(10,2)", decimal(90)},
	"amount":  {"decimal(12,2)", decimal(5000)},
	"rank":    {"integer", number(1, 5)},
	"line":    {"integer", number(1, 6)},
	"count":   {"integer", number(0, 120)},
	"year":    {"integer", number(1960, 2026)},
	"flag":    {"integer", number(0, 1)},
	"place":   {"integer", number(1, 40)},
	"hour":    {"integer", number(0, 23)},
	// What looks like a reference: the number of the row, one value in all rows, nothing but the
	// empty text, and numbers that are far from every key or among the first of all.
	"serial":   {"integer", func(_ *rand.Rand, i int) string { return fmt.Sprint(i + 1) }},
	"nothing":  {"integer", func(*rand.Rand, int) string { return "0" }},
	"blank":    {"varchar(40)", text(func(*rand.Rand, int) string { return "" })},
	"constant": {"varchar(8)", text(func(*rand.Rand, int) string { return "en" })},
	"amounts":  {"integer", func(r *rand.Rand, _ int) string { return fmt.Sprint(r.IntN(20) * r.IntN(100)) }},
	"epoch":    {"integer", number(1_600_000_000, 1_790_000_000)},
}
