package catalog

import (
	"cmp"
	"slices"
	"strings"
)

// A ObjectRef names any object: a table, a view, a routine, ... Names of routines
// carry their argument types: "level(integer)".
type ObjectRef struct {
	Kind   string `json:"kind"`
	Schema string `json:"schema,omitempty"` // empty: belongs to the whole database
	Name   string `json:"name"`
}

// The kinds of thing, as they stand in surveys and messages.
const (
	KindSchema   = "schema"
	KindTable    = "table"
	KindView     = "view"
	KindSequence = "sequence"
	KindType     = "type"
	KindRoutine  = "routine"
	// KindDisabledKey is a primary or unique key of a table that is switched off, or whose rows were
	// never checked: no key that anything could rest on, and so one of its objects.
	KindDisabledKey = "disabled key"
)

// String gives kind schema.name, unquoted, for messages.
func (o ObjectRef) String() string {
	switch {
	case o.Schema == "":
		return strings.TrimSpace(o.Kind + " " + o.Name)
	case o.Name == "":
		return o.Kind + " in " + o.Schema
	}
	return o.Kind + " " + o.Schema + "." + o.Name
}

// Compare orders things by kind, schema and name.
func (o ObjectRef) Compare(p ObjectRef) int {
	return cmp.Or(strings.Compare(o.Kind, p.Kind), strings.Compare(o.Schema, p.Schema), strings.Compare(o.Name, p.Name))
}

// An Object is something that the engine has and the model knows no more of
// than its text: an extension, a cast, a rewrite rule, a row policy, ...
type Object struct {
	Kind       string      `json:"kind"` // in the engine's words: "extension", "policy"
	Name       string      `json:"name"`
	Extension  string      `json:"extension,omitempty"`  // the add-on that it belongs to
	Definition string      `json:"definition,omitempty"` // statements that make it, ended by semicolons except for the last
	Mode       string      `json:"mode,omitempty"`       // how its text is to be read, where that varies
	Definer    string      `json:"definer,omitempty"`    // whose rights it acts with, where such objects have one
	Comment    string      `json:"comment,omitempty"`
	Needs      []ObjectRef `json:"needs,omitempty"` // what must be there before
}

// A View is a stored query.
type View struct {
	Name         string        `json:"name"`
	Materialised bool          `json:"materialised,omitempty"`
	Extension    string        `json:"extension,omitempty"`
	Options      []string      `json:"options,omitempty"` // "security_barrier=true", "with check option local"
	Columns      []*ViewColumn `json:"columns,omitempty"`
	Follows      bool          `json:"follows,omitempty"` // its columns are all those of what it reads, whatever these are by then
	Comment      string        `json:"comment,omitempty"`
	Definition   string        `json:"definition,omitempty"` // the query, in the engine's own text
	Indexes      []*Index      `json:"indexes,omitempty"`    // of a materialised one
	Triggers     []*Trigger    `json:"triggers,omitempty"`
	Objects      []*Object     `json:"objects,omitempty"` // rules
	Tablespace   string        `json:"tablespace,omitempty"`
	Reads        []ObjectRef   `json:"reads,omitempty"` // what the query and its rules use
	Dependants   []Dependant   `json:"dependants,omitempty"`
	Rights
}

// Extends reports whether the view has the columns of another, of the same types and in
// their places, and perhaps more behind them.
func (v *View) Extends(old *View) bool {
	return len(v.Columns) >= len(old.Columns) && slices.EqualFunc(v.Columns[:len(old.Columns)], old.Columns, func(a, b *ViewColumn) bool {
		return a.Name == b.Name && a.Type == b.Type
	})
}

// A ViewColumn is a column of a view.
type ViewColumn struct {
	Name    string `json:"name"`
	Type    string `json:"type,omitempty"`
	Default string `json:"default,omitempty"`
	Comment string `json:"comment,omitempty"`
}

// A Sequence hands out numbers.
type Sequence struct {
	Name      string        `json:"name"`
	Type      string        `json:"type"` // native
	Start     int64         `json:"start"`
	Increment int64         `json:"increment"`
	Least     int64         `json:"least"`
	Most      int64         `json:"most"`
	Cache     int64         `json:"cache,omitempty"`
	Cycle     bool          `json:"cycle,omitempty"`
	Unlogged  bool          `json:"unlogged,omitempty"`
	Identity  bool          `json:"identity,omitempty"` // made by an identity column, and goes with it
	OwnedBy   *ColumnRef    `json:"owned_by,omitempty"` // the column that it goes with
	UsedBy    []SequenceUse `json:"feeds,omitempty"`
	Extension string        `json:"extension,omitempty"`
	Comment   string        `json:"comment,omitempty"`
	// Dependants are what leans on it besides the columns that it numbers.
	Dependants []Dependant `json:"dependants,omitempty"`
	Rights

	Last *int64 `json:"-"` // handed out last; nil: none yet, or not known
}

// A ColumnRef names a column of a table.
type ColumnRef struct {
	Schema string `json:"schema"`
	Table  string `json:"table"`
	Column string `json:"column"`
}

// Ref names the table.
func (r ColumnRef) Ref() Ref { return Ref{r.Schema, r.Table} }

// String gives schema.table.column, unquoted, for messages.
func (r ColumnRef) String() string { return r.Ref().String() + "." + r.Column }

// A SequenceUse is a column that takes its numbers from a sequence.
type SequenceUse struct {
	ColumnRef
	How string `json:"how"` // "identity", "default", "trigger"
	// Alone: what the trigger calls does nothing but number the column.
	Alone bool `json:"alone,omitempty"`
}

// A UserType is a data type that somebody made.
type UserType struct {
	Name       string      `json:"name"`
	Kind       TypeKind    `json:"kind"`
	Labels     []string    `json:"labels,omitempty"`   // of an enum, in order
	Base       *Type       `json:"base,omitempty"`     // of a domain
	Required   bool        `json:"required,omitempty"` // a domain that refuses null
	NotNull    *NotNull    `json:"not_null,omitempty"` // the constraint that does, where it is more than that
	Default    string      `json:"default,omitempty"`
	Checks     []*Check    `json:"checks,omitempty"`
	Attributes []*Column   `json:"attributes,omitempty"` // of a composite
	Definition string      `json:"definition,omitempty"` // what else it is made of, in the engine's words
	Extension  string      `json:"extension,omitempty"`
	Comment    string      `json:"comment,omitempty"`
	Needs      []ObjectRef `json:"needs,omitempty"`
	Rights
}

// TypeKind tells what a user's type is.
type TypeKind string

// The kinds of user type.
const (
	EnumType      TypeKind = "enum"
	DomainType    TypeKind = "domain"
	CompositeType TypeKind = "composite"
	RangeType     TypeKind = "range"
	BaseType      TypeKind = "base" // made of routines in another language
)

// A Routine is a stored function or procedure, known by its text.
type Routine struct {
	Name       string      `json:"name"`
	Arguments  string      `json:"arguments"` // those that tell it from its namesakes
	Kind       string      `json:"kind"`      // "function", "procedure", "aggregate", "window function", "event"
	Returns    string      `json:"returns,omitempty"`
	Language   string      `json:"language,omitempty"`
	Mode       string      `json:"mode,omitempty"`       // how its text is to be read, where that varies
	Definition string      `json:"definition,omitempty"` // the statement that makes it
	Extension  string      `json:"extension,omitempty"`
	Comment    string      `json:"comment,omitempty"`
	Needs      []ObjectRef `json:"needs,omitempty"`   // what must be there before
	Touches    []ObjectRef `json:"touches,omitempty"` // tables and other relations that its text names
	Rights
}

// Signature is the name with the arguments: "level(integer)".
func (r *Routine) Signature() string { return r.Name + "(" + r.Arguments + ")" }

// An Exclusion is a constraint that no two rows compare alike.
type Exclusion struct {
	Name       string `json:"name"`
	Index      string `json:"index"`      // the one behind it
	Definition string `json:"definition"` // in the engine's words
	// Operators compare the parts of the index, one for each.
	Operators  []string `json:"operators,omitempty"`
	Deferrable bool     `json:"deferrable,omitempty"`
	Deferred   bool     `json:"deferred,omitempty"`
	Comment    string   `json:"comment,omitempty"`
}
