package run

import (
	"context"
	"fmt"

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
	Lost            []string // tables that hold fewer rows after a script than before
}

// load carries the sample over, parents first.
func (s *Sample) load(ctx context.Context, by Sampler, twin engine.Runner, c *catalog.Catalog, into *Rows) error {
	for _, sql := range by.Kept() {
		if err := twin.Exec(ctx, sql); err != nil {
			return err
		}
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
func counts(ctx context.Context, by Sampler, twin engine.Runner, c *catalog.Catalog) (map[catalog.Ref]string, error) {
	n := map[catalog.Ref]string{}
	for _, t := range c.Tables() {
		if t.PartitionOf != nil || !t.IsOwn() {
			continue
		}
		_, rows, err := twin.Rows(ctx, by.CountOf(t.Ref()), 1)
		if err != nil {
			return nil, err
		}
		n[t.Ref()] = rows[0].Or("")[0]
	}
	return n, nil
}

// lost names the tables whose rows are not as many as before.
func lost(before, after map[catalog.Ref]string) []string {
	var names []string
	for ref, n := range after {
		if was, ok := before[ref]; ok && was != n {
			names = append(names, fmt.Sprintf("%s: %s, now %s", ref, was, n))
		}
	}
	return names
}
