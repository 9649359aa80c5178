package catalog

import (
	"slices"
	"strings"
)

// A Key is a primary key or a unique constraint.
type Key struct {
	Name             string   `json:"name,omitempty"` // empty where the engine lets keys go unnamed
	Columns          []string `json:"columns"`
	Index            string   `json:"index,omitempty"` // the index behind it; empty: the table's own order
	Deferrable       bool     `json:"deferrable,omitempty"`
	Deferred         bool     `json:"deferred,omitempty"`           // initially
	NullsNotDistinct bool     `json:"nulls_not_distinct,omitempty"` // two nulls count as equal
	// WithoutOverlaps: the last column is a range, and no two rows that are alike in the
	// others may overlap in it.
	WithoutOverlaps bool   `json:"without_overlaps,omitempty"`
	Comment         string `json:"comment,omitempty"`
}

// Action is what a foreign key does to referring rows.
type Action string

// The actions of the SQL standard.
const (
	NoAction   Action = "no action"
	Restrict   Action = "restrict"
	Cascade    Action = "cascade"
	SetNull    Action = "set null"
	SetDefault Action = "set default"
)

// A ForeignKey is a declared reference.
type ForeignKey struct {
	Name          string   `json:"name,omitempty"`
	Columns       []string `json:"columns"`
	Target        Ref      `json:"target"`
	TargetColumns []string `json:"target_columns"`
	TargetIndex   string   `json:"target_index,omitempty"` // the unique index that the engine checks against
	OnDelete      Action   `json:"on_delete"`
	OnUpdate      Action   `json:"on_update"`
	SetColumns    []string `json:"set_columns,omitempty"` // those that SET NULL or SET DEFAULT touches, if not all
	Match         string   `json:"match,omitempty"`       // "full", "partial"; empty: simple
	Deferrable    bool     `json:"deferrable,omitempty"`
	Deferred      bool     `json:"deferred,omitempty"`
	NotValidated  bool     `json:"not_validated,omitempty"` // rows that were there were not checked
	NotEnforced   bool     `json:"not_enforced,omitempty"`  // declared so that nothing checks it; never validated then
	Period        bool     `json:"period,omitempty"`        // the last columns are ranges: what refers lies within what is referred to
	Disabled      bool     `json:"disabled,omitempty"`      // declared, but switched off
	Inherited     bool     `json:"inherited,omitempty"`     // comes from the partitioned parent
	Comment       string   `json:"comment,omitempty"`
}

// Writes reports whether an action of the foreign key writes its columns, where their
// rows would otherwise only be kept, refused or deleted.
func (f *ForeignKey) Writes() bool {
	return f.OnDelete == SetNull || f.OnDelete == SetDefault || f.OnUpdate == SetNull || f.OnUpdate == SetDefault || f.OnUpdate == Cascade
}

// Label names the foreign key in messages: its name, or else its columns.
func (f *ForeignKey) Label() string {
	if f.Name != "" {
		return f.Name
	}
	return "(" + strings.Join(f.Columns, ", ") + ") to " + f.Target.Table
}

// Touched returns the columns that SET NULL and SET DEFAULT act on.
func (f *ForeignKey) Touched() []string {
	if len(f.SetColumns) > 0 {
		return f.SetColumns
	}
	return f.Columns
}

// SetToNull reports whether a foreign key of the table puts null in the column
// when the row referred to goes or changes: nulls are meant there, though none
// may have come yet.
func (t *Table) SetToNull(column string) bool {
	return slices.ContainsFunc(t.ForeignKeys, func(f *ForeignKey) bool {
		return t.Nulls(f.OnDelete, f.Touched(), column) || t.Nulls(f.OnUpdate, f.Columns, column)
	})
}

// NullsSome reports whether a foreign key of the table puts null in some of the columns
// and leaves the others as they are.
func (t *Table) NullsSome(columns []string) bool {
	some := func(action Action, touched []string) bool {
		nulled := 0
		for _, name := range columns {
			if t.Nulls(action, touched, name) {
				nulled++
			}
		}
		return nulled > 0 && nulled < len(columns)
	}
	return slices.ContainsFunc(t.ForeignKeys, func(f *ForeignKey) bool {
		return some(f.OnDelete, f.Touched()) || some(f.OnUpdate, f.Columns)
	})
}

// Nulls reports whether the action, which acts on the touched columns, puts null in the column:
// a column without a default has null as its default.
func (t *Table) Nulls(action Action, touched []string, column string) bool {
	if !slices.Contains(touched, column) {
		return false
	}
	c := t.Column(column)
	return action == SetNull || action == SetDefault && c != nil && (c.Default == "" || strings.EqualFold(c.Default, "null"))
}

// A Check is a condition that every row must meet.
type Check struct {
	Name         string `json:"name,omitempty"`
	Expression   string `json:"expression"`
	NotValidated bool   `json:"not_validated,omitempty"`
	NotEnforced  bool   `json:"not_enforced,omitempty"` // declared so that nothing checks it; never validated then
	Inherited    bool   `json:"inherited,omitempty"`
	Local        bool   `json:"local,omitempty"`      // inherited, and defined here too
	NoInherit    bool   `json:"no_inherit,omitempty"` // holds for this table alone, not for its heirs
	Column       string `json:"column,omitempty"`     // where it belongs to a column rather than to the table
	Comment      string `json:"comment,omitempty"`
}

// SameColumns reports whether a and b hold the same columns in any order. An index may
// hold one twice.
func SameColumns(a, b []string) bool {
	return len(a) == len(b) && Within(a, b) && Within(b, a)
}

// Within reports whether every one of part is among whole.
func Within(part, whole []string) bool {
	for _, x := range part {
		if !slices.Contains(whole, x) {
			return false
		}
	}
	return true
}
