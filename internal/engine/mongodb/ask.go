package mongodb

import (
	"context"
	"errors"
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
)

// Asker fetches the documents first.
func (s *session) Asker(ctx context.Context) (evidence.Asker, error) {
	if s.read == nil {
		if _, err := s.Survey(ctx); err != nil {
			return nil, err
		}
	}
	if s.fetched == nil {
		var err error
		if s.fetched, err = s.fetch(ctx, s.read, s.o.Rows); err != nil {
			return nil, err
		}
	}
	return &asker{Asker: s.fetched.asker, s: s, f: s.fetched}, nil
}

// asker puts questions about collections to the file that their documents were fetched into, and
// answers those about conditions by the store.
type asker struct {
	evidence.Asker
	s     *session
	f     *fetched
	asked int
}

var (
	errNotLaid = errors.New("it was not among the fields that were fetched")
	errLists   = errors.New("values of several lists are not asked about together")
)

func (a *asker) laid(t *catalog.Table) (*laid, error) {
	if l := a.f.tables[t.Ref()]; l != nil {
		return l, nil
	}
	return nil, fmt.Errorf("collection %s was not fetched", t.Name)
}

// in is what is asked in place of a part and its columns: that of the file.
func (a *asker) in(p evidence.Part, columns []string) (evidence.Part, []string, error) {
	l, err := a.laid(p.Table)
	if err != nil {
		return p, nil, err
	}
	p.Table = l.table
	names := make([]string, len(columns))
	for i, name := range columns {
		c := l.columns[name]
		if c == nil {
			return p, nil, errNotLaid
		}
		if list := l.lists[name]; list != nil {
			if len(columns) > 1 {
				return p, nil, errLists
			}
			p.Table, p.Sample = list, 0
		}
		names[i] = c.Name
	}
	return p, names, nil
}

// There has nothing to ask: what was fetched is there.
func (a *asker) There(_ context.Context, t *catalog.Table) error {
	_, err := a.laid(t)
	return err
}

// apart does the columns of lists one by one, and the others together.
func apart[T any](a *asker, p evidence.Part, columns []*catalog.Column, do func(p evidence.Part, columns []*catalog.Column) ([]T, error)) ([]T, error) {
	l, err := a.laid(p.Table)
	if err != nil {
		return nil, err
	}
	all := make([]T, len(columns))
	var once []*catalog.Column
	var places []int
	for i, c := range columns {
		in := l.columns[c.Name]
		if in == nil {
			return nil, errNotLaid
		}
		list := l.lists[c.Name]
		if list == nil {
			once, places = append(once, in), append(places, i)
			continue
		}
		found, err := do(evidence.Part{Table: list}, list.Columns)
		if err != nil {
			return nil, err
		}
		all[i] = found[0]
	}
	if len(once) > 0 {
		p.Table = l.table
		found, err := do(p, once)
		if err != nil {
			return nil, err
		}
		for k, i := range places {
			all[i] = found[k]
		}
	}
	return all, nil
}

// Profile names the facts as the collection does.
func (a *asker) Profile(ctx context.Context, p evidence.Part, columns []*catalog.Column) ([]evidence.Column, error) {
	of := p.Table
	facts, err := apart(a, p, columns, func(p evidence.Part, in []*catalog.Column) ([]evidence.Column, error) {
		return a.Asker.Profile(ctx, p, in)
	})
	for i := range facts {
		facts[i].Schema, facts[i].Table, facts[i].Column = of.Schema, of.Name, columns[i].Name
		facts[i].Strays = nil // types are told by the structure
		if a.f.tables[of.Ref()].partial {
			facts[i].Sampled = true
		}
	}
	return facts, err
}

func (a *asker) Varieties(ctx context.Context, p evidence.Part, columns []*catalog.Column) ([]evidence.Variety, error) {
	return apart(a, p, columns, func(p evidence.Part, in []*catalog.Column) ([]evidence.Variety, error) {
		return a.Asker.Varieties(ctx, p, in)
	})
}

func (a *asker) Parses(ctx context.Context, p evidence.Part, columns []*catalog.Column) ([]evidence.Parsed, error) {
	return apart(a, p, columns, func(p evidence.Part, in []*catalog.Column) ([]evidence.Parsed, error) {
		return a.Asker.Parses(ctx, p, in)
	})
}

func (a *asker) Values(ctx context.Context, t *catalog.Table, columns []*catalog.Column, most int) ([][]string, error) {
	return apart(a, evidence.Part{Table: t}, columns, func(p evidence.Part, in []*catalog.Column) ([][]string, error) {
		return a.Asker.Values(ctx, p.Table, in, most)
	})
}

func (a *asker) Together(ctx context.Context, p evidence.Part, columns []string) (evidence.Variety, int64, error) {
	in, names, err := a.in(p, columns)
	if err != nil {
		return evidence.Variety{}, 0, err
	}
	return a.Asker.Together(ctx, in, names)
}

// Orphans: of a parent all documents have to be there, or some would seem to be missing.
func (a *asker) Orphans(ctx context.Context, p evidence.Part, columns []string, parent *catalog.Table, target []string) (evidence.Orphans, error) {
	in, names, err := a.in(p, columns)
	if err != nil {
		return evidence.Orphans{}, err
	}
	to, keys, err := a.in(evidence.Part{Table: parent}, target)
	if err != nil {
		return evidence.Orphans{}, err
	}
	if a.f.tables[parent.Ref()].partial {
		return evidence.Orphans{}, fmt.Errorf("only some documents of %s were fetched; --full or a higher --limit-rows fetches all", parent.Name)
	}
	return a.Asker.Orphans(ctx, in, names, to.Table, keys)
}

// Whole: what a field holds is told by its types.
func (a *asker) Whole(context.Context, *catalog.Table, string) (bool, error) { return true, nil }

func (a *asker) Repeated(ctx context.Context, t *catalog.Table, columns []string) (evidence.Offenders, error) {
	in, names, err := a.in(evidence.Part{Table: t}, columns)
	if err != nil {
		return evidence.Offenders{}, err
	}
	return a.Asker.Repeated(ctx, in.Table, names)
}

// Breaks asks the store itself: a condition is in its words.
func (a *asker) Breaks(ctx context.Context, t *catalog.Table, condition string, _ []string) (evidence.Offenders, error) {
	a.asked++
	filter, err := document(condition)
	if err != nil {
		return evidence.Offenders{}, err
	}
	n, samples, err := a.s.breaks(ctx, t.Name, filter)
	return evidence.Offenders{Rows: n, Samples: samples}, err
}

// Counts and Rows are of conditions in the engine's words as well.
func (a *asker) Counts(ctx context.Context, t *catalog.Table, conditions []string) ([]int64, error) {
	return nil, errors.New("conditions are not counted here")
}

func (a *asker) Rows(ctx context.Context, query string) (evidence.Offenders, error) {
	const most = 1000
	if a.s.live == nil {
		return evidence.Offenders{}, errors.New("files answer no queries")
	}
	a.asked++
	_, rows, err := a.s.Rows(ctx, query, most)
	o := evidence.Offenders{Rows: int64(len(rows)), AtLeast: len(rows) == most}
	for _, row := range rows[:min(5, len(rows))] {
		o.Samples = append(o.Samples, row.Texts()[0])
	}
	return o, err
}

// Next: no field is numbered.
func (a *asker) Next(context.Context, *catalog.Table, *catalog.Column) (*int64, error) {
	return nil, nil
}

// Asked counts questions to the file and to the store.
func (a *asker) Asked() int { return a.Asker.Asked() + a.asked }
