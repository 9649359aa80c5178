package catalog

import (
	"cmp"
	"fmt"
	"strings"
)

// A Column of a table.
type Column struct {
	Name     string `json:"name"`
	Type     Type   `json:"type"`
	Nullable bool   `json:"nullable"`          // rows may hold null, or nobody has made sure that none does
	Default  string `json:"default,omitempty"` // expression, in the engine's words
	// DefaultName is what the default is called, where it is a constraint with a name.
	DefaultName string   `json:"default_name,omitempty"`
	Identity    Identity `json:"identity,omitempty"` // how values are numbered
	// Generated is the expression of a computed column; Stored tells whether
	// it is kept on disk or computed when read.
	Generated string `json:"generated,omitempty"`
	Stored    bool   `json:"stored,omitempty"`
	// Within is the column that this one is a field of, where values have fields: its name then
	// begins with the path to it, "position.latitude".
	Within string `json:"within,omitempty"`
	// Many: a row has any number of values of it, in a list or in the fields of what a list holds.
	Many      bool   `json:"many,omitempty"`
	Inherited bool   `json:"inherited,omitempty"` // defined by a parent table
	Local     bool   `json:"local,omitempty"`     // inherited, and defined here too
	Sequence  *Ref   `json:"sequence,omitempty"`  // that numbers it
	OnUpdate  string `json:"on_update,omitempty"` // expression that a change of the row sets
	Invisible bool   `json:"invisible,omitempty"` // left out of SELECT *
	// Options are what else it was made with, in the engine's words:
	// "storage external", "compression lz4".
	Options []string `json:"options,omitempty"`
	Comment string   `json:"comment,omitempty"`
	// NotNull is the constraint that forbids null, where it is more than that.
	NotNull *NotNull `json:"not_null,omitempty"`
	// Encoding is how the values are compressed, where each column has a way of its own.
	Encoding string `json:"encoding,omitempty"`

	Stats ColumnStats `json:"-"`
}

// Leaf is the column's own name: of a field, the last step of the path to it.
func (c *Column) Leaf() string {
	if c.Within == "" {
		return c.Name
	}
	return strings.TrimPrefix(c.Name, c.Within+".")
}

// ColumnStats are what the engine's own statistics say of a column. A nil
// pointer means that they say nothing.
type ColumnStats struct {
	Nulls    *float64 `json:"nulls,omitempty"`    // share of rows, 0 to 1
	Distinct *float64 `json:"distinct,omitempty"` // different values, an estimate
	Common   *float64 `json:"common,omitempty"`   // share of the most common value, 0 to 1
	Bytes    *int64   `json:"bytes,omitempty"`    // on disk, where columns are kept apart
	// Of what has no declared structure: the share of the rows that do not have it at all, nulls
	// apart; of those that have it, the share of each type, by the engine's names; and how many
	// values the longest list holds.
	Absent *float64 `json:"absent,omitempty"`
	Types  *Shares  `json:"types,omitempty"`
	Items  *int64   `json:"items,omitempty"`
}

// Shares are parts of a whole, the largest first.
type Shares []Share

// A Share is one of them, 0 to 1.
type Share struct {
	Of   string  `json:"of"`
	Part float64 `json:"part"`
}

// Identity tells how the engine numbers a column by itself.
type Identity string

// The ways of numbering.
const (
	NoIdentity        Identity = ""
	IdentityAlways    Identity = "always"        // values cannot be given
	IdentityByDefault Identity = "by default"    // values may be given
	IdentityRowid     Identity = "rowid"         // SQLite: INTEGER PRIMARY KEY
	IdentityCounter   Identity = "autoincrement" // numbered, never reused
	IdentitySequence  Identity = "sequence"      // default draws from a sequence
	// IdentityTrigger asks for a column that a trigger numbers from a sequence, both made with it. A
	// column that is there has no such identity: it has its sequence.
	IdentityTrigger Identity = "trigger"
)

// Family groups native types by what they hold.
type Family string

// The families.
const (
	Integer   Family = "integer"
	Decimal   Family = "decimal"
	Float     Family = "float"
	Text      Family = "text"
	Binary    Family = "binary"
	Boolean   Family = "boolean"
	Date      Family = "date"
	Time      Family = "time"
	Timestamp Family = "timestamp"
	Interval  Family = "interval"
	UUID      Family = "uuid"
	JSON      Family = "json"
	Enum      Family = "enum"
	Array     Family = "array"
	Other     Family = "other"
	Untyped   Family = "untyped" // SQLite column without a declared type
)

// A Type is a column's data type.
type Type struct {
	Native     string `json:"native"`               // as the engine writes it: "character varying(40)"
	Underlying string `json:"underlying,omitempty"` // native type beneath a domain
	Family     Family `json:"family"`
	// Class is set by engines that compare values by storage class and not by
	// declared type: two columns of one class compare as they are.
	Class     string `json:"class,omitempty"`
	Bits      int    `json:"bits,omitempty"`      // width of an integer or float
	Unsigned  bool   `json:"unsigned,omitempty"`  // integer without negative values
	Length    int    `json:"length,omitempty"`    // most characters or bytes; 0: unlimited or not enforced
	Padded    bool   `json:"padded,omitempty"`    // fixed length, padded with blanks
	Precision int    `json:"precision,omitempty"` // digits of a decimal; 0: unlimited
	Scale     int    `json:"scale,omitempty"`
	Zoned     bool   `json:"zoned,omitempty"`     // time with time zone
	Collation string `json:"collation,omitempty"` // where it is not the database's default
}

// Largest is the largest number of a whole-number type, as far as 64 bits hold it: by its digits
// where those are what is declared.
func (t Type) Largest() int64 {
	if t.Precision > 0 && t.Precision < 19 {
		n := int64(1)
		for range t.Precision {
			n *= 10
		}
		return n - 1
	}
	bits := t.Bits
	if bits == 0 || bits > 64 {
		bits = 64
	}
	if t.Unsigned && bits < 64 {
		return 1<<bits - 1
	}
	return 1<<(bits-1) - 1
}

// base is the native type that values are stored as.
func (t Type) base() string { return cmp.Or(t.Underlying, t.Native) }

// A TypeGap says how the type of a referring column falls short of the type
// of the column it refers to.
type TypeGap int

// From harmless to grave.
const (
	TypesAgree   TypeGap = iota
	TypeLooser           // holds every value of the other and more
	TypeUnlike           // compared only after conversion, or under another collation
	TypeTooSmall         // cannot hold every value of the other
)

// GapTo compares a referring column's type with the type referred to and says
// in words what differs; the words are empty when the types agree.
func (t Type) GapTo(target Type) (TypeGap, string) {
	if t.Class != "" && target.Class != "" {
		switch {
		case t.Class != target.Class:
			return TypeUnlike, fmt.Sprintf("%s is stored as %s, %s as %s", named(t), t.Class, named(target), target.Class)
		case t.Collation != target.Collation && t.Class == "text":
			return TypeUnlike, collations(t, target)
		}
		return TypesAgree, ""
	}
	differ := fmt.Sprintf("%s against %s", t.Native, target.Native)
	switch {
	case t.Family != target.Family && t.number() && target.number() && t.sameName(target):
		return t.decimalGap(target, differ)
	case t.Family != target.Family:
		return TypeUnlike, differ
	case t.Collation != target.Collation:
		return TypeUnlike, collations(t, target)
	case t.base() == target.base():
		return TypesAgree, ""
	}
	switch t.Family {
	case Integer, Float:
		switch {
		case t.Unsigned != target.Unsigned, t.Bits < target.Bits:
			return TypeTooSmall, differ
		case t.Bits > target.Bits:
			return TypeLooser, differ
		}
		return TypesAgree, ""
	case Text, Binary:
		switch {
		case t.Padded != target.Padded:
			return TypeUnlike, differ
		case t.Length == target.Length:
			if t.sameName(target) {
				return TypesAgree, ""
			}
			return TypeLooser, differ
		case t.Length == 0, target.Length != 0 && t.Length > target.Length:
			return TypeLooser, differ
		}
		return TypeTooSmall, differ
	case Decimal:
		return t.decimalGap(target, differ)
	}
	return TypeUnlike, differ
}

// number reports whether the type holds exact numbers: those of one name hold whole ones or
// others by their digits alone.
func (t Type) number() bool { return t.Family == Integer || t.Family == Decimal }

func (t Type) decimalGap(target Type, differ string) (TypeGap, string) {
	whole, wholeTarget := t.Precision-t.Scale, target.Precision-target.Scale
	switch {
	case t.Precision == 0:
		return TypeLooser, differ
	case target.Precision == 0, whole < wholeTarget, t.Scale < target.Scale:
		return TypeTooSmall, differ
	}
	return TypeLooser, differ
}

// sameName reports whether the type names agree once lengths are set aside.
func (t Type) sameName(o Type) bool { return bareName(t.base()) == bareName(o.base()) }

func bareName(native string) string {
	for i, r := range native {
		if r == '(' {
			return native[:i]
		}
	}
	return native
}

func named(t Type) string {
	if t.Native == "" {
		return "a column without a type"
	}
	return t.Native
}

func collations(t, target Type) string {
	return fmt.Sprintf("collation %s against %s", cmp.Or(t.Collation, "default"), cmp.Or(target.Collation, "default"))
}
