package catalog

import (
	"slices"
	"strconv"
	"strings"
)

// A Spread is how a table's rows are laid out over the slices of a cluster.
type Spread struct {
	Style  string `json:"style"`            // "key", "even", "all", "auto"
	Column string `json:"column,omitempty"` // whose values tell where a row goes, of style key
}

// String is how people write it: "by station_id", "evenly", "on every node".
func (s *Spread) String() string {
	switch {
	case s == nil:
		return "not known"
	case s.Style == "key":
		return "by " + s.Column
	case s.Style == "all":
		return "on every node"
	case s.Style == "even":
		return "evenly"
	}
	return "as the engine chooses"
}

// A SortKey is the order in which a table's rows are kept.
type SortKey struct {
	Columns     []string `json:"columns"`
	Interleaved bool     `json:"interleaved,omitempty"` // all columns weigh the same
}

// String is how people write it.
func (k *SortKey) String() string {
	if k == nil || len(k.Columns) == 0 {
		return "none"
	}
	if k.Interleaved {
		return "interleaved by " + strings.Join(k.Columns, ", ")
	}
	return "by " + strings.Join(k.Columns, ", ")
}

// Equal reports whether two orders are one.
func (k *SortKey) Equal(o *SortKey) bool {
	if k == nil || o == nil {
		return k == o
	}
	return k.Interleaved == o.Interleaved && slices.Equal(k.Columns, o.Columns)
}

// Slices is how many parts the cluster works in; 0: it is none.
func (c *Catalog) Slices() int { return c.number("slices") }

// Nodes is how many machines the cluster has; 0: it is none.
func (c *Catalog) Nodes() int { return c.number("nodes") }

func (c *Catalog) number(setting string) int {
	s, _ := c.Setting(setting)
	n, err := strconv.Atoi(s.Value)
	if err != nil {
		return 0
	}
	return n
}

// Skew is how many times the mean the fullest slice holds; 0: it is not known.
func (t *Table) Skew() float64 {
	var sum, most int64
	for _, n := range t.Stats.Slices {
		sum, most = sum+n, max(most, n)
	}
	if sum == 0 {
		return 0
	}
	return float64(most) * float64(len(t.Stats.Slices)) / float64(sum)
}
