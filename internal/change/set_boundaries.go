package change

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// SetBoundaries gives a partition function other values to cut at, and so other parts to all tables
// that share it. Rows go to the parts that take them then.
type SetBoundaries struct {
	Object   string        // the function
	Of       []catalog.Ref // the tables that share it
	From, To Boundaries
}

// Boundaries are the values, and what the function and the parts of its tables are with them.
type Boundaries struct {
	Values     []string // in the engine's words, in their order
	Definition string
	Parts      []*catalog.Partition
}

// Without are the values that the other boundaries do not have.
func (b Boundaries) Without(other Boundaries) []string {
	return slices.DeleteFunc(slices.Clone(b.Values), func(v string) bool { return slices.Contains(other.Values, v) })
}

// On returns the first of the tables.
func (c SetBoundaries) On() catalog.Ref {
	if len(c.Of) == 0 {
		return catalog.Ref{}
	}
	return c.Of[0]
}

// Tables are those that share the function.
func (c SetBoundaries) Tables() []catalog.Ref { return c.Of }

func (SetBoundaries) rank() int { return rankLast }

// Title says where parts come to begin, or no longer do.
func (c SetBoundaries) Title() string {
	var says []string
	tell := func(does string, values []string) {
		switch n := len(values); {
		case n > 2:
			says = append(says, fmt.Sprintf("%s at %d values from %s to %s", does, n, values[0], values[n-1]))
		case n > 0:
			says = append(says, does+" at "+strings.Join(values, " and "))
		}
	}
	tell("split the partitions", c.To.Without(c.From))
	tell("merge the partitions", c.From.Without(c.To))
	names := make([]string, len(c.Of))
	for i, ref := range c.Of {
		names[i] = ref.String()
	}
	return strings.Join(says, ", ") + " of " + strings.Join(names, ", ")
}

// apply sets them.
func (c SetBoundaries) apply(to *edit, _ catalog.Abilities) error {
	i := slices.IndexFunc(to.Objects, func(o *catalog.Object) bool { return o.Name == c.Object && o.Definition == c.From.Definition })
	if i < 0 {
		return fmt.Errorf("%s is not there as it was", c.Object)
	}
	var tables []*catalog.Table
	for _, ref := range c.Of {
		t, err := table(to.Catalog, ref)
		if err != nil {
			return err
		}
		if len(t.Partitions) != len(c.From.Parts) {
			return fmt.Errorf("%s has %d partitions, and had %d", ref, len(t.Partitions), len(c.From.Parts))
		}
		tables = append(tables, t)
	}
	function := *to.whole().Objects[i]
	function.Definition = c.To.Definition
	to.Objects[i] = &function
	for _, t := range tables {
		t = to.altered(t)
		t.Partitions = nil
		for _, p := range c.To.Parts {
			t.Partitions = append(t.Partitions, p.Clone())
		}
	}
	return nil
}

// inverse sets those that were.
func (c SetBoundaries) inverse(*catalog.Catalog) (Change, error) {
	c.From, c.To = c.To, c.From
	return c, nil
}
