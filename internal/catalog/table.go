package catalog

import (
	"cmp"
	"slices"
	"strings"
	"time"
)

// TableKind tells how a table stores its rows.
type TableKind string

// The kinds of table.
const (
	Ordinary    TableKind = "table"
	Partitioned TableKind = "partitioned" // holds no rows itself, only partitions
	Foreign     TableKind = "foreign"     // rows live on another server
	Virtual     TableKind = "virtual"     // rows are made by a module
	Shadow      TableKind = "shadow"      // belongs to a virtual table's module
)

// A Table is a base table of any kind.
type Table struct {
	Schema     string    `json:"-"`
	Name       string    `json:"name"`
	Kind       TableKind `json:"kind"`
	Comment    string    `json:"comment,omitempty"`
	Extension  string    `json:"extension,omitempty"` // the add-on that owns the table
	Options    []string  `json:"options,omitempty"`   // "strict", "without rowid", "unlogged", "row security"
	OfType     string    `json:"of_type,omitempty"`   // the composite type that it is made of
	Collation  string    `json:"collation,omitempty"` // of new text columns, where the table has one
	Storage    string    `json:"storage,omitempty"`   // storage parameters, in the engine's words
	Tablespace string    `json:"tablespace,omitempty"`
	Server     string    `json:"server,omitempty"` // of a foreign table: where, in the engine's words
	// Observed: nothing declares the columns. They are what rows were seen to hold, and another look
	// may see others: scripts do not go by them.
	Observed    bool          `json:"observed,omitempty"`
	Columns     []*Column     `json:"columns"`
	PrimaryKey  *Key          `json:"primary_key,omitempty"`
	UniqueKeys  []*Key        `json:"unique_keys,omitempty"`
	ForeignKeys []*ForeignKey `json:"foreign_keys,omitempty"`
	Checks      []*Check      `json:"checks,omitempty"`
	Exclusions  []*Exclusion  `json:"exclusions,omitempty"`
	Indexes     []*Index      `json:"indexes,omitempty"`
	Triggers    []*Trigger    `json:"triggers,omitempty"`
	Inherits    []Ref         `json:"inherits,omitempty"`     // parents by inheritance, partitions excepted
	PartitionOf *Ref          `json:"partition_of,omitempty"` // the table that this one is a part of
	PartitionBy *PartitionKey `json:"partition_by,omitempty"` // set on kind partitioned
	Bounds      string        `json:"bounds,omitempty"`       // of a partition, in the engine's words
	Spread      *Spread       `json:"spread,omitempty"`       // over the slices of a cluster
	SortKey     *SortKey      `json:"sort_key,omitempty"`     // where rows are kept in an order of the table's own
	Partitions  []*Partition  `json:"partitions,omitempty"`   // where parts are no tables of their own
	Objects     []*Object     `json:"objects,omitempty"`      // rules, policies, extended statistics
	Dependants  []Dependant   `json:"dependants,omitempty"`
	Needs       []ObjectRef   `json:"needs,omitempty"` // what types, defaults and checks use
	// Definition is the engine's own text of the table, where the engine keeps
	// one (SQLite), from the opening parenthesis on; the name stands in Name.
	// It is empty on a table that a change has been applied to.
	Definition string `json:"definition,omitempty"`
	// NameText is how that text writes the name, and what stands between it and the
	// parenthesis, where it is not as we would write it.
	NameText string `json:"name_text,omitempty"`

	Rights

	// Accepted are references that nothing declares and that was accepted.
	// They are no part of the structure.
	Accepted []*ForeignKey `json:"-"`

	Stats TableStats `json:"-"` // figures, apart from the structure
}

// TableStats are figures that change as rows come and go. A nil pointer means
// that the figure is not known.
type TableStats struct {
	Rows     *int64 // rows, an estimate unless Exact
	Exact    bool
	DeadRows *int64     // deleted or replaced, not yet reclaimed
	Counter  *int64     // the next number that the table's own counter gives
	Analysed *time.Time // when the engine last looked at the values
	// IndexOrder names the indexes in the order in which the engine lists them,
	// where that is worth knowing. It has no meaning, and changes when one is
	// dropped and put back.
	IndexOrder []string
	Bytes      *int64   // the table's own pages, indexes excepted
	IndexBytes *int64   // all indexes together
	Orphans    *int64   // orphaned rows: those whose declared references have no parent
	Slices     []int64  // rows on each slice of a cluster, in their order
	Unsorted   *float64 // share of the rows that are out of the table's order, 0 to 1
	Stale      *float64 // share by which the engine's statistics are off, 0 to 1
	Parts      *int64   // partitions, where the engine makes them as rows come
	Looked     *int64   // rows that the structure was read from, where nothing declares it
	LargestRow *int64   // bytes of the largest of them
}

// dropObserved leaves out what rows were only seen to hold.
func (t *Table) dropObserved() {
	if t.Observed {
		t.Columns, t.Objects = []*Column{}, nil
	}
}

// A PartitionKey says how a partitioned table is partitioned.
type PartitionKey struct {
	Method     string   `json:"method"`            // "range", "list", "hash"
	Columns    []string `json:"columns,omitempty"` // those that are plain columns
	Definition string   `json:"definition"`        // the whole key in the engine's words
	// FilterRequired: a query has to say which parts it reads, or is refused.
	FilterRequired bool `json:"filter_required,omitempty"`
	// Sub is how the parts are cut up again, where they are no tables.
	Sub *PartitionKey `json:"sub,omitempty"`
}

// CutBy returns the columns that the table is partitioned by, those that an expression
// works on and those of the parts' parts among them.
func (t *Table) CutBy(e Expressions) []string {
	var columns []string
	for k := t.PartitionBy; k != nil; k = k.Sub {
		for _, c := range t.Columns {
			if !slices.Contains(columns, c.Name) && (slices.Contains(k.Columns, c.Name) || len(k.Columns) == 0 && e.Mentions(k.Definition, c.Name)) {
				columns = append(columns, c.Name)
			}
		}
	}
	return columns
}

// Parents lists the tables that this one is a partition or an heir of.
func (t *Table) Parents() []Ref {
	if t.PartitionOf == nil {
		return t.Inherits
	}
	return append([]Ref{*t.PartitionOf}, t.Inherits...)
}

// A Partition is a part of a table that is no table of its own.
type Partition struct {
	Name    string       `json:"name"`
	Bounds  string       `json:"bounds,omitempty"` // in the engine's words
	Comment string       `json:"comment,omitempty"`
	Options []string     `json:"options,omitempty"`
	Parts   []*Partition `json:"parts,omitempty"` // sub-partitions
	Rows    *int64       `json:"-"`
}

// A Trigger is a stored action on row or statement events.
type Trigger struct {
	Name       string   `json:"name"`
	Timing     string   `json:"timing,omitempty"` // "before", "after", "instead of"
	Events     []string `json:"events,omitempty"` // "insert", "update", "delete", "truncate"
	PerRow     bool     `json:"per_row,omitempty"`
	Calls      string   `json:"calls,omitempty"`     // the routine, where it calls one
	Enabled    string   `json:"enabled,omitempty"`   // where it is not simply on: "disabled", "replica", "always"
	Inherited  bool     `json:"inherited,omitempty"` // comes from the partitioned parent
	Order      int      `json:"order,omitempty"`     // among those of the same event, where the engine counts them
	Mode       string   `json:"mode,omitempty"`      // how its text is to be read, where that varies
	Definer    string   `json:"definer,omitempty"`   // whose rights it acts with, where triggers have one
	Comment    string   `json:"comment,omitempty"`
	Definition string   `json:"definition,omitempty"`
}

// SameEvent reports whether both act on the same events at the same time, one after the other.
func (g *Trigger) SameEvent(o *Trigger) bool {
	return g.Timing == o.Timing && slices.Equal(g.Events, o.Events)
}

// A Dependant is something outside the table that leans on it and that the
// engine will not let us pull the table's columns from under.
type Dependant struct {
	Kind    string   `json:"kind"`              // "view", "policy", "generated column", ...
	Name    string   `json:"name"`              // schema-qualified where it has a schema
	Columns []string `json:"columns,omitempty"` // empty: the whole table, or On
	On      string   `json:"on,omitempty"`      // the index or constraint that it leans on, where it is one
}

// TextOf begins the kind of a dependant of which the engine keeps no record: what it leans on stands
// in its text, by name.
const TextOf = "the text of "

// Ref names the table.
func (t *Table) Ref() Ref { return Ref{t.Schema, t.Name} }

// RowFilter begins the option of a table of which the engine hides rows from some who ask, without
// a word: what filters them.
const RowFilter = "rows filtered by "

// FiltersRows is what hides rows of the table from some who ask, without a word; or "".
func (t *Table) FiltersRows() string {
	for _, o := range t.Options {
		if by, ok := strings.CutPrefix(o, RowFilter); ok {
			return by
		}
	}
	return ""
}

// LeansOn reports whether something of the kind and name leans on the table.
func (t *Table) LeansOn(kind, name string) bool {
	return slices.ContainsFunc(t.Dependants, func(d Dependant) bool { return d.Kind == kind && d.Name == name })
}

// Has reports whether the table was created with the option.
func (t *Table) Has(option string) bool { return slices.Contains(t.Options, option) }

// Column returns the column of that name, or nil.
func (t *Table) Column(name string) *Column {
	for _, c := range t.Columns {
		if c.Name == name {
			return c
		}
	}
	return nil
}

// HasColumns reports whether the table has all of the columns.
func (t *Table) HasColumns(names []string) bool {
	return !slices.ContainsFunc(names, func(name string) bool { return t.Column(name) == nil })
}

// Index returns the index of that name, or nil.
func (t *Table) Index(name string) *Index {
	for _, x := range t.Indexes {
		if x.Name == name {
			return x
		}
	}
	return nil
}

// Keys returns the primary key, if any, and the unique keys.
func (t *Table) Keys() []*Key {
	if t.PrimaryKey == nil {
		return t.UniqueKeys
	}
	return append([]*Key{t.PrimaryKey}, t.UniqueKeys...)
}

// ConstraintNames are the names of the keys, foreign keys, checks and constraints that forbid null
// that have one.
func (t *Table) ConstraintNames() []string {
	var names []string
	for _, k := range t.Keys() {
		names = append(names, k.Name)
	}
	for _, f := range t.ForeignKeys {
		names = append(names, f.Name)
	}
	for _, k := range t.Checks {
		names = append(names, k.Name)
	}
	for _, c := range t.Columns {
		if c.NotNull != nil {
			names = append(names, c.NotNull.Name)
		}
	}
	return slices.DeleteFunc(names, func(name string) bool { return name == "" })
}

// IsOwn reports whether the table's structure is the owner's to change: not a
// module's shadow table, nor part of an extension, nor on another server.
func (t *Table) IsOwn() bool {
	return t.Extension == "" && (t.Kind == Ordinary || t.Kind == Partitioned)
}

// Refers reports whether a declared foreign key holds the column.
func (t *Table) Refers(column string) bool {
	return slices.ContainsFunc(t.ForeignKeys, func(f *ForeignKey) bool { return slices.Contains(f.Columns, column) })
}

// NotNull reports whether none of the columns may be null.
func (t *Table) NotNull(columns []string) bool {
	for _, name := range columns {
		if c := t.Column(name); c == nil || c.Nullable {
			return false
		}
	}
	return true
}

// DependantsOf returns what leans on the index or the constraint of that name.
func (t *Table) DependantsOf(name string) []Dependant {
	var of []Dependant
	for _, d := range t.Dependants {
		if d.On == name {
			of = append(of, d)
		}
	}
	return of
}

// DependantsOn returns what leans on the named column, or on the whole table; not what leans on an
// index or a constraint.
func (t *Table) DependantsOn(column string) []Dependant {
	var on []Dependant
	for _, d := range t.Dependants {
		if d.On == "" && len(d.Columns) == 0 || slices.Contains(d.Columns, column) {
			on = append(on, d)
		}
	}
	return on
}

func (t *Table) sort() {
	byKey := func(a, b *Key) int { return strings.Compare(a.Name, b.Name) }
	slices.SortStableFunc(t.UniqueKeys, byKey)
	slices.SortStableFunc(t.ForeignKeys, func(a, b *ForeignKey) int { return strings.Compare(a.Name, b.Name) })
	slices.SortStableFunc(t.Checks, func(a, b *Check) int { return strings.Compare(a.Name, b.Name) })
	slices.SortFunc(t.Exclusions, func(a, b *Exclusion) int { return strings.Compare(a.Name, b.Name) })
	slices.SortFunc(t.Indexes, byIndexName)
	slices.SortFunc(t.Needs, ObjectRef.Compare)
	sortObjects(t.Objects)
	slices.SortFunc(t.Triggers, func(a, b *Trigger) int { return strings.Compare(a.Name, b.Name) })
	sortDependants(t.Dependants)
	t.sortRights()
}

func sortDependants(list []Dependant) {
	slices.SortFunc(list, func(a, b Dependant) int {
		return cmp.Or(strings.Compare(a.Kind, b.Kind), strings.Compare(a.Name, b.Name), strings.Compare(a.On, b.On))
	})
}
