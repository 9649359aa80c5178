package change

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// SetSpread lays a table's rows out otherwise over the slices.
type SetSpread struct {
	Table    catalog.Ref
	From, To catalog.Spread
}

// SetSortKey keeps a table's rows in another order; nil: in none.
type SetSortKey struct {
	Table    catalog.Ref
	From, To *catalog.SortKey
}

// SetEncoding compresses columns otherwise.
type SetEncoding struct {
	Table    catalog.Ref
	Columns  []string
	From, To []string // for each column
}

// Maintain is upkeep, which changes no structure: sorting the rows, reclaiming the room of
// those that are gone, analyzing it.
type Maintain struct {
	Table catalog.Ref
	What  Maintenance
}

// Maintenance is a kind of upkeep.
type Maintenance string

// The kinds.
const (
	SortRows       Maintenance = "sort"
	ReclaimSpace   Maintenance = "reclaim"
	Analyze        Maintenance = "analyse"
	RebuildIndexes Maintenance = "rebuild" // indexes
)

func (c SetSpread) On() catalog.Ref   { return c.Table }
func (c SetSortKey) On() catalog.Ref  { return c.Table }
func (c SetEncoding) On() catalog.Ref { return c.Table }
func (c Maintain) On() catalog.Ref    { return c.Table }

func (SetSpread) rank() int   { return rankIndex }
func (SetSortKey) rank() int  { return rankIndex }
func (SetEncoding) rank() int { return rankIndex }
func (Maintain) rank() int    { return rankLast }

func (c SetSpread) Title() string { return fmt.Sprintf("spread %s %s", c.Table, &c.To) }

func (c SetSortKey) Title() string {
	if c.To == nil {
		return fmt.Sprintf("keep %s in no order", c.Table)
	}
	return fmt.Sprintf("sort %s %s", c.Table, c.To)
}

func (c SetEncoding) Title() string {
	parts := make([]string, len(c.Columns))
	for i, name := range c.Columns {
		parts[i] = name + " " + c.To[i]
	}
	return fmt.Sprintf("encode %s: %s", c.Table, strings.Join(parts, ", "))
}

func (c Maintain) Title() string {
	switch c.What {
	case SortRows:
		return fmt.Sprintf("sort the rows of %s", c.Table)
	case ReclaimSpace:
		return fmt.Sprintf("reclaim the space of dead rows in %s", c.Table)
	case RebuildIndexes:
		return fmt.Sprintf("rebuild the indexes of %s", c.Table)
	}
	return fmt.Sprintf("analyze %s", c.Table)
}

// apply spreads it.
func (c SetSpread) apply(to *edit, _ catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	if c.To.Column != "" && t.Column(c.To.Column) == nil {
		return fmt.Errorf("column %s of %s does not exist", c.To.Column, c.Table)
	}
	if t.Spread != nil && *t.Spread != c.From {
		return fmt.Errorf("%s is spread %s by now", c.Table, t.Spread)
	}
	s := c.To
	t.Spread, t.Stats.Slices = &s, nil
	return nil
}

// apply sorts it.
func (c SetSortKey) apply(to *edit, _ catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	if !t.SortKey.Equal(c.From) {
		return fmt.Errorf("%s is sorted %s by now", c.Table, t.SortKey)
	}
	if c.To != nil && !t.HasColumns(c.To.Columns) {
		return fmt.Errorf("%s has not the columns to be sorted by", c.Table)
	}
	t.SortKey, t.Stats.Unsorted = nil, nil
	if c.To != nil {
		t.SortKey = &catalog.SortKey{Columns: slices.Clone(c.To.Columns), Interleaved: c.To.Interleaved}
	}
	return nil
}

// apply encodes it.
func (c SetEncoding) apply(to *edit, _ catalog.Abilities) error {
	for i, name := range c.Columns {
		_, col, err := to.column(c.Table, name)
		if err != nil {
			return err
		}
		col.Encoding = c.To[i]
	}
	return nil
}

// apply changes figures alone.
func (c Maintain) apply(to *edit, _ catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	none, zero := 0.0, int64(0)
	switch c.What {
	case SortRows:
		t.Stats.Unsorted = &none
	case ReclaimSpace:
		t.Stats.DeadRows = &zero
	case Analyze:
		t.Stats.Stale = &none
	}
	return nil
}

// inverse spreads it as it was.
func (c SetSpread) inverse(*catalog.Catalog) (Change, error) {
	return SetSpread{c.Table, c.To, c.From}, nil
}

// inverse sorts it as it was.
func (c SetSortKey) inverse(*catalog.Catalog) (Change, error) {
	return SetSortKey{c.Table, c.To, c.From}, nil
}

// inverse encodes it as it was.
func (c SetEncoding) inverse(*catalog.Catalog) (Change, error) {
	return SetEncoding{c.Table, c.Columns, c.To, c.From}, nil
}

// inverse has nothing to take back.
func (c Maintain) inverse(*catalog.Catalog) (Change, error) {
	return NoReversal{c.Table, "what was tended stays so"}, nil
}
