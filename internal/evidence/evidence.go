// Package evidence finds out from the data what the catalog does not tell:
// what is unique, what is never empty, what refers to what. It pulls no rows
// out of a database: every question is one that the engine answers with a few
// numbers. Who asks it is behind the small interface [Asker].
package evidence

import (
	"context"
	"time"

	"nexdal/internal/catalog"
)

// Format is the number of the evidence file's form.
const Format = 1

// Evidence is what the data said.
type Evidence struct {
	Format     int            `json:"format"`
	Kind       string         `json:"kind"` // always "evidence"
	Probed     time.Time      `json:"probed"`
	Engine     catalog.Engine `json:"engine"`
	Database   string         `json:"database"`
	Questions  int            `json:"questions"` // how many statements were sent
	Columns    []Column       `json:"columns"`
	Keys       []Key          `json:"keys"`
	References []Reference    `json:"references"`
	Gaps       []catalog.Gap  `json:"gaps"`
}

// A Column is what its values are like. Figures that were not asked for, since
// the type has no order or no equality, are nil.
type Column struct {
	Schema   string  `json:"schema"`
	Table    string  `json:"table"`
	Column   string  `json:"column"`
	Rows     int64   `json:"rows"`
	Nulls    int64   `json:"nulls"`
	Distinct *int64  `json:"distinct"`
	Empty    *int64  `json:"empty,omitempty"` // texts without a letter
	Shortest *int64  `json:"shortest,omitempty"`
	Longest  *int64  `json:"longest,omitempty"`
	Least    *string `json:"least,omitempty"`
	Greatest *string `json:"greatest,omitempty"`
}

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
	Coverage      float64  `json:"coverage"`     // share of the rows checked that have a parent
	RowsChecked   int64    `json:"rows_checked"` // those without null
	Orphans       int64    `json:"orphans"`
	Samples       []string `json:"orphan_samples,omitempty"`
	Verified      bool     `json:"verified"`
	Declared      bool     `json:"declared"`
	Score         float64  `json:"score"`
	Parts         Parts    `json:"score_parts"`
}

// Parts are what a reference's score is made of, each from 0 to 1.
type Parts struct {
	Name     float64 `json:"name"`     // the column speaks of the target
	Coverage float64 `json:"coverage"` // values that have a parent
	Type     float64 `json:"type"`     // the very type of the key
	Spread   float64 `json:"spread"`   // how much of the key is referred to
}

// Asker puts questions to one database. An answer is exact: all rows were
// looked at.
type Asker interface {
	// Profile looks at all the columns in one pass over the table.
	Profile(ctx context.Context, t *catalog.Table, columns []*catalog.Column) ([]Column, error)
	// Distinct counts the different values of the columns together, rows with a
	// null left out.
	Distinct(ctx context.Context, t *catalog.Table, columns []string) (int64, error)
	// Orphans counts the rows of the table that are not null in the columns and
	// have no parent, and gives a few of their values.
	Orphans(ctx context.Context, t *catalog.Table, columns []string, parent *catalog.Table, target []string) (orphans int64, samples []string, err error)
	// Asked is how many statements were sent so far.
	Asked() int
}
