package catalog

import "slices"

// Origin tells what made an index.
type Origin string

// The origins.
const (
	ByPerson     Origin = "person"      // CREATE INDEX
	ByPrimaryKey Origin = "primary key" // stands behind the primary key
	ByUniqueKey  Origin = "unique key"  // stands behind a unique constraint
	ByForeignKey Origin = "foreign key" // made by the engine for a foreign key
	ByExclusion  Origin = "exclusion"   // stands behind an exclusion constraint
)

// An Index of a table.
type Index struct {
	Name             string      `json:"name"`
	SystemNamed      bool        `json:"system_named,omitempty"` // the name is the engine's own and cannot be chosen
	Origin           Origin      `json:"origin"`
	Method           string      `json:"method,omitempty"` // "btree", "hash", "gin", ...
	Unique           bool        `json:"unique,omitempty"`
	Clustered        bool        `json:"clustered,omitempty"` // the table's rows are kept in its order
	NullsNotDistinct bool        `json:"nulls_not_distinct,omitempty"`
	Parts            []IndexPart `json:"parts"`
	Include          []string    `json:"include,omitempty"`   // columns carried along, not ordered by
	Predicate        string      `json:"predicate,omitempty"` // of a partial index, in the engine's words
	Invalid          bool        `json:"invalid,omitempty"`   // not usable by queries
	Ignored          bool        `json:"ignored,omitempty"`   // kept, but not used by queries
	Inherited        bool        `json:"inherited,omitempty"` // belongs to an index of the partitioned parent
	PartOf           string      `json:"part_of,omitempty"`   // that index
	Pinned           string      `json:"pinned,omitempty"`    // why it must stay: "replica identity", "clustering order"
	Storage          string      `json:"storage,omitempty"`   // storage parameters, in the engine's words
	Tablespace       string      `json:"tablespace,omitempty"`
	Comment          string      `json:"comment,omitempty"`
	Definition       string      `json:"definition,omitempty"` // the engine's own text

	Bytes *int64 `json:"-"` // size; nil: not known
	Scans *int64 `json:"-"` // times read since statistics began; nil: not known
}

// PinnedByReference is why an index stays that goes with a foreign key alone.
const PinnedByReference = "foreign key"

// BuiltFor is the index that an engine builds for the foreign key, where it builds one for each.
func BuiltFor(f *ForeignKey) *Index {
	x := &Index{Name: f.Name, SystemNamed: f.Name == "", Origin: ByForeignKey, Method: "btree", Pinned: PinnedByReference}
	for _, name := range f.Columns {
		x.Parts = append(x.Parts, IndexPart{Column: name})
	}
	return x
}

// Behind is the index that the engine built for a foreign key of the table, where it builds one for
// each and the index goes with it alone: it is called like the foreign key, unless the engine called it, or
// somebody chose another name. Nil: there is none.
func (t *Table) Behind(f *ForeignKey) *Index {
	var found *Index
	for _, x := range t.Indexes {
		if x.Origin != ByForeignKey || x.Pinned != PinnedByReference || !slices.Equal(x.Columns(), f.Columns) {
			continue
		}
		if x.Name == f.Name {
			return x
		}
		named := slices.ContainsFunc(t.ForeignKeys, func(o *ForeignKey) bool { return o.Name == x.Name })
		if found == nil && !named && x.SystemNamed == (f.Name == "") {
			found = x
		}
	}
	return found
}

// An IndexPart is one ordered part of an index: a column or an expression.
type IndexPart struct {
	Column     string `json:"column,omitempty"`
	Expression string `json:"expression,omitempty"`
	Descending bool   `json:"descending,omitempty"`
	Nulls      string `json:"nulls,omitempty"`     // "first" or "last" where that is not the engine's default
	Collation  string `json:"collation,omitempty"` // where it is not the column's
	OpClass    string `json:"operator_class,omitempty"`
	Length     int    `json:"length,omitempty"`     // only so many characters or bytes of the column; 0: all
	Statistics string `json:"statistics,omitempty"` // how many values of an expression are noted, where it is not the engine's choice
}

// Columns returns the names of the ordered parts; an expression gives "".
func (x *Index) Columns() []string {
	names := make([]string, len(x.Parts))
	for i, p := range x.Parts {
		names[i] = p.Column
	}
	return names
}

// NamedColumns returns the columns that it is ordered by, without expressions.
func (x *Index) NamedColumns() []string {
	var names []string
	for _, p := range x.Parts {
		if p.Column != "" {
			names = append(names, p.Column)
		}
	}
	return names
}

// LeadsWith reports whether the index begins with the columns, in any order:
// then an equality search on all of them is a single descent.
func (x *Index) LeadsWith(columns []string) bool {
	return len(x.Parts) >= len(columns) && SameColumns(x.Columns()[:len(columns)], columns)
}

// FindsRows reports whether the engine can find the rows with given values of
// the columns through this index, whichever rows those are. An index that leaves out
// rows in which one of the columns is null holds every row that a value can mean.
func (x *Index) FindsRows(columns []string, e Expressions) bool {
	if x.Invalid || !x.LeadsWith(columns) {
		return false
	}
	switch x.Method {
	case "", "btree":
	case "hash":
		if len(columns) > 1 {
			return false
		}
	default:
		return false // gin, gist, brin: no plain equality on a key
	}
	if x.Predicate == "" {
		return true
	}
	required := e.NotNull(x.Predicate)
	return len(required) > 0 && Within(required, columns)
}

// FindsRows reports whether some index, or the table's own order, leads to
// the rows with given values of the columns.
func (t *Table) FindsRows(columns []string, e Expressions) bool {
	if k := t.PrimaryKey; k != nil && k.Index == "" && len(k.Columns) >= len(columns) && SameColumns(k.Columns[:len(columns)], columns) {
		return true
	}
	for _, x := range t.Indexes {
		if x.FindsRows(columns, e) {
			return true
		}
	}
	return false
}

// Clustering returns the index in whose order the rows are kept, or nil.
func (t *Table) Clustering() *Index {
	for _, x := range t.Indexes {
		if x.Clustered {
			return x
		}
	}
	return nil
}

// KeyOn returns the index behind the key, or the whole unique index, that is on
// just these columns; it may be "" where the table's own order keeps them. ok
// is false where there is none.
func (t *Table) KeyOn(columns []string) (index string, ok bool) {
	for _, k := range t.Keys() {
		if SameColumns(k.Columns, columns) {
			return k.Index, true
		}
	}
	for _, x := range t.Indexes {
		if x.Unique && !x.Invalid && x.Predicate == "" && SameColumns(x.Columns(), columns) {
			return x.Name, true
		}
	}
	return "", false
}

// UniqueOn reports whether a key or a whole unique index keeps exactly these
// columns, or some of them, unique.
func (t *Table) UniqueOn(columns []string) bool {
	for _, k := range t.Keys() {
		if Within(k.Columns, columns) {
			return true
		}
	}
	for _, x := range t.Indexes {
		if x.Unique && !x.Invalid && x.Predicate == "" && Within(x.Columns(), columns) {
			return true
		}
	}
	return false
}
