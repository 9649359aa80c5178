package evidence

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"sync"

	"golang.org/x/sync/errgroup"

	"nexdal/internal/catalog"
)

// Options of a discovery.
type Options struct {
	// LimitRows: a table that holds more rows, as the catalog's figures say, is
	// looked at by a sample of so many. 0: never.
	LimitRows int64
	// KeyColumns is how many columns a combined key may have; at least 1.
	KeyColumns int
	// Can is what the engine does: what it does not keep, though it is declared, the data is asked
	// about.
	Can catalog.Abilities
	// Proposals are what fixes would have the data promise.
	Proposals []Proposal
	// Answers of a probe that was ended.
	Answers Answers
	// Weighed is told of the candidates of each column with their traits, by which the weights
	// are fitted; asked is whether the values were looked at. It may be nil.
	Weighed func(all []Reference, traits [][]float64, asked bool)
	// Piece is told when a piece of a step begins and which tables it is about, and gives what is
	// told how many questions it took once it ends; it may be nil. Pieces go on side by side.
	Piece func(step string, tables []*catalog.Table) (ended func(questions int))
	// Progress is told when a step begins, and after every piece of work; it may
	// be nil. It is called by one goroutine at a time.
	Progress func(Progress)
}

// Progress is how far a discovery has come.
type Progress struct {
	Step        string // "columns", "keys", ...
	Done, Total int    // pieces of the step
	Rows        int64  // of the tables looked at so far
	AllRows     int64  // of all, as the catalog's figures say
}

// smallest is the sample that is looked at where all rows took too long, and
// that candidates are refuted on before all rows are asked.
const smallest = 10_000

// Discover asks the data, from cheap to dear: each table once for its columns,
// small tables first, then what could be a key, then what could refer to one,
// then what is promised. Askers work side by side. What cannot be asked is a
// gap, and stops nothing else. It returns an error only when the context ends
// or the connections are lost, together with what is known so far; what was
// not asked is listed among the gaps.
func Discover(ctx context.Context, askers []Asker, c *catalog.Catalog, o Options) (*Evidence, error) {
	if o.Answers == nil {
		o.Answers = Answers{}
	}
	if !o.Can.Lists {
		c = withoutLists(c)
	}
	ctx, cancel := context.WithCancelCause(ctx)
	defer cancel(nil)
	d := &discovery{ctx: ctx, cancel: cancel, o: o, c: c, lookup: c.Lookup(), memory: &memory{known: o.Answers, hidden: map[catalog.Ref]string{}}, free: make(chan Asker, len(askers)),
		parts: map[catalog.Ref]Part{}, columns: map[catalog.Ref]map[string]*Column{}, keys: map[*catalog.Table][]Key{},
		found: &Evidence{Format: Format, Kind: "evidence", Engine: c.Engine, Database: c.Database, LimitRows: o.LimitRows,
			Columns: []Column{}, Keys: []Key{}, References: []Reference{}, Perhaps: []Reference{}, Promises: []Promise{}, Counters: []Counter{}, Gaps: []catalog.Gap{}}}
	for _, a := range askers {
		d.free <- remembering{a, d.memory}
	}
	d.comparable = askers[0].Comparable
	for _, t := range c.Tables() {
		if t.PartitionOf == nil && t.IsOwn() && len(t.Columns) > 0 {
			d.tables = append(d.tables, t)
			d.all += rowsOf(t)
		}
	}
	d.names = namesOf(d.tables)
	for _, step := range []func(){d.guards, d.profile, d.findKeys, d.tryDeclared, d.findReferences, d.findCombined, d.counters, d.promises} {
		step()
	}
	d.collect()
	for _, a := range askers {
		d.found.Questions += a.Asked()
	}
	err := context.Cause(ctx)
	if err != nil {
		d.found.Answers = d.memory.known
	}
	return d.found, err
}

// withoutLists leaves out the columns of which a row has any number of values.
func withoutLists(c *catalog.Catalog) *catalog.Catalog {
	many := func(col *catalog.Column) bool { return col.Many }
	if !slices.ContainsFunc(c.Tables(), func(t *catalog.Table) bool { return slices.ContainsFunc(t.Columns, many) }) {
		return c
	}
	c = c.Clone()
	for _, t := range c.Tables() {
		t.Columns = slices.DeleteFunc(t.Columns, many)
	}
	return c
}

type discovery struct {
	ctx        context.Context
	cancel     context.CancelCauseFunc
	o          Options
	c          *catalog.Catalog
	lookup     *catalog.Lookup
	names      *naming
	memory     *memory
	free       chan Asker
	comparable func(catalog.Type) bool
	tables     []*catalog.Table
	parts      map[catalog.Ref]Part
	columns    map[catalog.Ref]map[string]*Column
	keys       map[*catalog.Table][]Key
	unasked    *Column // what is known of every column where nobody is asked; nil: somebody is
	references []Reference
	ranges     *ranges                               // of the keys
	parentAt   map[place]int                         // where a key stands among the parents
	ofPeople   map[catalog.Ref]float64               // how many columns named after roles refer to a table
	learnt     map[string]map[namesake][]catalog.Ref // what columns of a name refer to
	found      *Evidence
	all, rows  int64

	mutex sync.Mutex // over gaps, parts and columns
}

// guards notes what may hide rows of tables.
func (d *discovery) guards() {
	for _, t := range d.c.Tables() {
		if by := t.FiltersRows(); by != "" {
			d.memory.hidden[t.Ref()] = by
		}
	}
	a := <-d.free
	_, asks := a.(remembering).Asker.(Guard)
	d.free <- a
	if !asks {
		return
	}
	d.each("guards", d.tables, "what hides rows of it", func(a Asker, i int) {
		by, err := a.(remembering).Asker.(Guard).Filters(d.ctx, d.tables[i])
		if err != nil {
			d.failed(d.tables[i], "what hides rows of it", err)
			by = "what could not be asked"
		}
		d.memory.mutex.Lock()
		defer d.memory.mutex.Unlock()
		d.memory.hidden[d.tables[i].Ref()] = by
	})
}

// each does the pieces of a step, one for each table, as many side by side as there are askers, in
// their order. A piece that is not begun when the context ends becomes a gap.
func (d *discovery) each(step string, tables []*catalog.Table, what string, do func(a Asker, i int)) {
	alone := make([][]*catalog.Table, len(tables))
	for i := range tables {
		alone[i] = tables[i : i+1]
	}
	d.eachOf(step, alone, what, do)
}

// eachOf does pieces that are each about several tables.
func (d *discovery) eachOf(step string, pieces [][]*catalog.Table, what string, do func(a Asker, i int)) {
	var g errgroup.Group
	g.SetLimit(cap(d.free))
	done := 0
	if d.o.Progress != nil {
		d.o.Progress(Progress{step, 0, len(pieces), d.rows, d.all})
	}
	for i, tables := range pieces {
		g.Go(func() error {
			if d.ctx.Err() != nil {
				for _, t := range tables {
					d.missed(t, what)
				}
				return nil
			}
			a := <-d.free
			d.piece(step, tables, a, func() { do(a, i) })
			d.free <- a
			d.mutex.Lock()
			defer d.mutex.Unlock()
			if done++; d.o.Progress != nil && d.ctx.Err() == nil {
				d.o.Progress(Progress{step, done, len(pieces), d.rows, d.all})
			}
			return nil
		})
	}
	g.Wait()
}

// piece tells of a piece of work, when it begins and when it ends.
func (d *discovery) piece(step string, tables []*catalog.Table, a Asker, do func()) {
	if d.o.Piece == nil {
		do()
		return
	}
	ended, before := d.o.Piece(step, tables), a.Asked()
	do()
	ended(a.Asked() - before)
}

// missed notes what was not asked, since time was up.
func (d *discovery) missed(t *catalog.Table, what string) {
	d.mutex.Lock()
	defer d.mutex.Unlock()
	g := catalog.Gap{Schema: t.Schema, Table: t.Name, What: what, Reason: "not asked any more", Figures: true}
	if !slices.Contains(d.found.Gaps, g) {
		d.found.Gaps = append(d.found.Gaps, g)
	}
}

// failed notes what could not be asked, and reports whether it makes sense to
// go on with the table.
func (d *discovery) failed(t *catalog.Table, what string, err error) {
	switch {
	case over(err):
		d.cancel(err)
		fallthrough
	case d.ctx.Err() != nil:
		d.missed(t, what)
		return
	}
	d.mutex.Lock()
	defer d.mutex.Unlock()
	g := catalog.Gap{Schema: t.Schema, Table: t.Name, What: what, Reason: err.Error(), Figures: true}
	if !slices.Contains(d.found.Gaps, g) {
		d.found.Gaps = append(d.found.Gaps, g)
	}
}

// collect puts what was found in the order of the catalog.
func (d *discovery) collect() {
	for _, t := range d.tables {
		for _, c := range t.Columns {
			if f := d.columns[t.Ref()][c.Name]; f != nil {
				d.found.Columns = append(d.found.Columns, *f)
			}
		}
		d.found.Keys = append(d.found.Keys, d.keys[t]...)
	}
	inOrder := func(a, b Reference) int {
		declared := func(r Reference) int {
			if r.Declared {
				return 0
			}
			return 1
		}
		return cmp.Or(a.From().Compare(b.From()), declared(a)-declared(b), slices.Compare(a.Columns, b.Columns), a.To().Compare(b.To()))
	}
	slices.SortStableFunc(d.references, inOrder)
	slices.SortStableFunc(d.found.Perhaps, inOrder)
	d.found.References = append(d.found.References, d.references...)
	slices.SortFunc(d.found.Gaps, func(a, b catalog.Gap) int {
		return cmp.Or(strings.Compare(a.Schema, b.Schema), strings.Compare(a.Table, b.Table), strings.Compare(a.What, b.What))
	})
}

// part is the rows of the table that are looked at.
func (d *discovery) part(t *catalog.Table) Part {
	d.mutex.Lock()
	defer d.mutex.Unlock()
	return d.parts[t.Ref()]
}

// fact is what is known of a column, or nil.
func (d *discovery) fact(t *catalog.Table, column string) *Column {
	if d.unasked != nil {
		return d.unasked
	}
	return d.columns[t.Ref()][column]
}

func rowsOf(t *catalog.Table) int64 {
	if t.Stats.Rows == nil {
		return 0
	}
	return *t.Stats.Rows
}
