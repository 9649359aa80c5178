// Package evidence finds out from the data what the catalog does not tell:
// what is unique, what is never empty, what refers to what, and which promises
// the data would refuse. It pulls no rows out of a database: every question is
// one that the engine answers with a few numbers. Who asks it is behind the
// small interface [Asker].
package evidence

import (
	"time"

	"nexdal/internal/catalog"
)

// Format is the number of the evidence file's form.
const Format = 1

// Evidence is what the data said.
type Evidence struct {
	Format   int            `json:"format"`
	Kind     string         `json:"kind"` // always "evidence"
	Probed   time.Time      `json:"probed"`
	Engine   catalog.Engine `json:"engine"`
	Database string         `json:"database"`
	// LimitRows: of tables that hold more rows, as the engine counts them, a
	// sample of about so many was looked at. 0: all rows of all tables were.
	LimitRows int64 `json:"limit_rows"`
	Questions int   `json:"questions"` // how many statements were sent
	// Spent is how many seconds each step took.
	Spent      map[string]float64 `json:"seconds,omitempty"`
	Ended      string             `json:"ended,omitempty"` // why before its end; empty: everything was asked
	Columns    []Column           `json:"columns"`
	Keys       []Key              `json:"keys"`
	References []Reference        `json:"references"`
	// Perhaps are undeclared references of which the data and the names leave it in doubt
	// whether they are meant.
	Perhaps  []Reference   `json:"perhaps"`
	Promises []Promise     `json:"promises"`
	Counters []Counter     `json:"counters"`
	Gaps     []catalog.Gap `json:"gaps"`
	// Answers are what was answered before an early end, for going on.
	Answers Answers `json:"answers,omitempty"`
}

// A Column is what its values are like. Figures that were not asked for, since
// the type has no order or no equality, or the values are long texts, are nil.
type Column struct {
	Schema   string  `json:"schema"`
	Table    string  `json:"table"`
	Column   string  `json:"column"`
	Rows     int64   `json:"rows"` // looked at
	Sampled  bool    `json:"sampled,omitempty"`
	Nulls    int64   `json:"nulls"`
	Distinct *int64  `json:"distinct"`
	Most     *int64  `json:"most,omitempty"`   // rows with the most common value
	Fewest   *int64  `json:"fewest,omitempty"` // rows with the rarest
	Empty    *int64  `json:"empty,omitempty"`  // texts without a letter
	Shortest *int64  `json:"shortest,omitempty"`
	Longest  *int64  `json:"longest,omitempty"`
	Least    *string `json:"least,omitempty"`
	Greatest *string `json:"greatest,omitempty"`
	Dates    *int64  `json:"dates,omitempty"`   // texts that read as a date or a moment
	Numbers  *int64  `json:"numbers,omitempty"` // texts that read as a number
	// Strays are values of another kind than the column's type, such as texts among numbers,
	// where the engine lets them in.
	Strays *int64 `json:"strays,omitempty"`
	// Values are all that occur, in order, where they are few and all rows were
	// looked at.
	Values []string `json:"values,omitempty"`
}

// Filled is how many rows are not null.
func (c *Column) Filled() int64 { return c.Rows - c.Nulls }

// A Key is a list of columns that no two rows have alike and that are never
// null.
type Key struct {
	Schema   string   `json:"schema"`
	Table    string   `json:"table"`
	Columns  []string `json:"columns"`
	Rows     int64    `json:"rows"`
	Distinct int64    `json:"distinct"`
	Nulls    int64    `json:"nulls"`
	Verified bool     `json:"verified"` // on all rows
	Declared bool     `json:"declared"`
	Likely   float64  `json:"likely"` // 0 to 1: how much it looks like a key that somebody meant
}

// A Reference is a column list whose values are found among another table's
// key, all or nearly all.
type Reference struct {
	Schema        string   `json:"schema"`
	Table         string   `json:"table"`
	Columns       []string `json:"columns"`
	TargetSchema  string   `json:"target_schema"`
	Target        string   `json:"target"`
	TargetColumns []string `json:"target_columns"`
	Coverage      float64  `json:"coverage"`     // share of the rows checked that have a parent; 1 where there were none
	RowsChecked   int64    `json:"rows_checked"` // those without null
	Orphans       int64    `json:"orphans"`
	Samples       []string `json:"orphan_samples,omitempty"`
	// Fewest and Most rows that refer to one row of the target; nil where only
	// a sample was looked at.
	Fewest   *int64  `json:"children_fewest,omitempty"`
	Most     *int64  `json:"children_most,omitempty"`
	Verified bool    `json:"verified"` // on all rows, and there were some
	Declared bool    `json:"declared"`
	Score    float64 `json:"score"` // how probable it is; 1 where declared
	Parts    Parts   `json:"score_parts"`
}

// Parts are what a reference's score is made of, each from 0 to 1.
type Parts struct {
	Name     float64 `json:"name"`     // the column speaks of the target
	Coverage float64 `json:"coverage"` // values that have a parent
	Type     float64 `json:"type"`     // the very type of the key
	Spread   float64 `json:"spread"`   // how much of the key is referred to
}

// From names the referring table.
func (r *Reference) From() catalog.Ref { return catalog.Ref{Schema: r.Schema, Table: r.Table} }

// Likely reports whether the reference is rather meant than not.
func (r *Reference) Likely() bool { return r.Declared || r.Score >= likely }

// To names the table referred to.
func (r *Reference) To() catalog.Ref { return catalog.Ref{Schema: r.TargetSchema, Table: r.Target} }

// A Promise is something that the catalog says of the data without having
// asked it, or that a fix would have it say.
type Promise struct {
	Origin    string   `json:"origin"` // "declared", "proposed" by a rule's fix, or "undeclared": only the data shows it
	Kind      string   `json:"kind"`   // "unique", "foreign key", "check", "not null"; "fix" where proposed
	Schema    string   `json:"schema"`
	Table     string   `json:"table"`
	Object    string   `json:"object,omitempty"` // the constraint's name
	Columns   []string `json:"columns,omitempty"`
	Findings  []string `json:"findings,omitempty"` // of a proposal: what it answers
	Says      string   `json:"says"`               // in words
	Offenders int64    `json:"offenders"`          // rows, or values that occur more than once, that break it
	AtLeast   bool     `json:"at_least,omitempty"` // the count ended at a limit
	Samples   []string `json:"samples,omitempty"`
	Verified  bool     `json:"verified"`
}

// A Counter is what numbers a column, against the largest number in use.
type Counter struct {
	Schema   string `json:"schema"`
	Table    string `json:"table"`
	Column   string `json:"column"`
	Greatest *int64 `json:"greatest"`       // in use; nil: no rows
	Next     *int64 `json:"next,omitempty"` // the number that comes; nil: not known
	Behind   bool   `json:"behind,omitempty"`
}
