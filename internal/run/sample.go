package run

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"strconv"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
)

// A Sampler is an engine that writes rows out as statements.
type Sampler interface {
	// SampleOf is the query whose rows are INSERT statements, one for each of the
	// first rows of the table, at most so many.
	SampleOf(t *catalog.Table, most int) string
	// CountOf is the query for how many rows the table holds.
	CountOf(t catalog.Ref) string
	// Kept are the statements that have the session keep foreign keys.
	Kept() []string
}

// A Sample is a few rows of the original, for a twin.
type Sample struct {
	Of   engine.Runner // only read
	Most int           // of each table
}

// Rows is what became of a sample.
type Rows struct {
	Loaded, Without int64 // rows that the twin holds, and those that it refused: mostly their parents are not in the sample
	Tables          int64
	// Fewer and More are the tables that hold fewer or more rows after a script than
	// before it, in the order of their names, after each script.
	Fewer, More []string
}

// load carries the sample over, parents first.
func (s *Sample) load(ctx context.Context, by Sampler, twin engine.Runner, c *catalog.Catalog, into *Rows) error {
	keep := func() error {
		for _, sql := range by.Kept() {
			if err := twin.Exec(ctx, sql); err != nil {
				return err
			}
		}
		return nil
	}
	if err := keep(); err != nil {
		return err
	}
	for _, m := range c.Members() {
		t := m.Table
		if t == nil || t.PartitionOf != nil || !t.IsOwn() {
			continue
		}
		_, rows, err := s.Of.Rows(ctx, by.SampleOf(t, s.Most), s.Most)
		if err != nil {
			return fmt.Errorf("the rows of %s could not be read: %w", t.Ref(), err)
		}
		held := into.Loaded
		for _, r := range rows {
			if err := twin.Exec(ctx, r.Or("")[0]); err != nil {
				if ctx.Err() != nil {
					return ctx.Err()
				}
				if err := twin.Rollback(ctx); err != nil {
					return err
				}
				if err := keep(); err != nil { // a session that was rolled back is as a fresh one
					return err
				}
				into.Without++
				continue
			}
			into.Loaded++
		}
		if into.Loaded > held {
			into.Tables++
		}
	}
	return nil
}

// counts asks how many rows each table of the catalog holds.
func counts(ctx context.Context, by Sampler, twin engine.Runner, c *catalog.Catalog) (map[catalog.Ref]int64, error) {
	n := map[catalog.Ref]int64{}
	for _, t := range c.Tables() {
		if t.PartitionOf != nil || !t.IsOwn() {
			continue
		}
		_, rows, err := twin.Rows(ctx, by.CountOf(t.Ref()), 1)
		if err != nil {
			return nil, err
		}
		if len(rows) != 1 || len(rows[0]) != 1 || rows[0][0] == nil {
			return nil, fmt.Errorf("the rows of %s were not counted", t.Ref())
		}
		if n[t.Ref()], err = strconv.ParseInt(*rows[0][0], 10, 64); err != nil {
			return nil, fmt.Errorf("the rows of %s were not counted: %w", t.Ref(), err)
		}
	}
	return n, nil
}

// held compares the rows of tables that were there before.
func (r *Rows) held(before, after map[catalog.Ref]int64) {
	for _, ref := range slices.SortedFunc(maps.Keys(after), catalog.Ref.Compare) {
		was, there := before[ref]
		says := fmt.Sprintf("%s held %d, now %d", ref, was, after[ref])
		switch {
		case !there:
		case after[ref] < was:
			r.Fewer = append(r.Fewer, says)
		case after[ref] > was:
			r.More = append(r.More, says)
		}
	}
}
