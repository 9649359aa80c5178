package evidence

import (
	"context"
	"errors"

	"nexdal/internal/catalog"
)

// What an [Asker] may fail with, besides what the engine says.
var (
	// ErrTimeout: the question took longer than is allowed. Others may be put.
	ErrTimeout = errors.New("the answer took longer than is allowed")
	// ErrLost: the connection is gone, and no other question can be put.
	ErrLost = errors.New("the connection broke")
	// ErrSpent: the question would have the engine read more than is allowed. Another may read
	// less, but the end is near: none is put any more.
	ErrSpent = errors.New("it would read more than is allowed")
)

// over reports whether no further question can be put after the error.
func over(err error) bool { return errors.Is(err, ErrLost) || errors.Is(err, ErrSpent) }

// A Row is the values of one row of an answer as text; nil is a NULL.
type Row []*string

// Texts are the values as they are shown to people: a NULL as NULL.
func (r Row) Texts() []string { return r.Or("NULL") }

// Or are the values with a text in the place of each NULL.
func (r Row) Or(null string) []string {
	all := make([]string, len(r))
	for i, v := range r {
		if all[i] = null; v != nil {
			all[i] = *v
		}
	}
	return all
}

// A Part is the rows of a table that a question looks at.
type Part struct {
	Table  *catalog.Table
	Sample int64 // about so many, chosen by the engine's own means; 0: all
	// Once: each value of the columns asked about is looked at once, however
	// many rows have it.
	Once bool
	// Period: the last columns are ranges, and a row has a parent where its range lies within
	// those of the parents that are alike in the rest.
	Period bool
}

// Variety is how the values of a column repeat, nulls left out.
type Variety struct {
	Distinct     int64
	Fewest, Most int64 // rows with the rarest and with the most common value
}

// Orphans are the rows of a child without a parent.
type Orphans struct {
	Checked int64 // rows without null; -1: all that the column's profile counts
	Rows    int64
	Values  int64    // different ones
	Samples []string // a few of them
}

// Parsed is how many values of a text column read as what.
type Parsed struct{ Dates, Numbers int64 }

// Offenders are what breaks a promise.
type Offenders struct {
	Rows    int64
	AtLeast bool // the count ended at a limit
	Samples []string
}

// Asker puts questions to one database. It is used for one question at a time.
type Asker interface {
	// There fails where the table cannot be read at all.
	There(ctx context.Context, t *catalog.Table) error
	// Profile looks at all the columns in one pass over the rows: everything
	// but Distinct, Fewest, Most and what texts read as.
	Profile(ctx context.Context, p Part, columns []*catalog.Column) ([]Column, error)
	// Varieties tells, for each of the columns, how its values repeat.
	Varieties(ctx context.Context, p Part, columns []*catalog.Column) ([]Variety, error)
	// Parses tells, for each of the text columns, what its values read as.
	Parses(ctx context.Context, p Part, columns []*catalog.Column) ([]Parsed, error)
	// Values lists, for each of the columns, the values that occur, in order; no
	// more than so many.
	Values(ctx context.Context, t *catalog.Table, columns []*catalog.Column, most int) ([][]string, error)
	// Together tells how the columns' values together repeat, rows with a null
	// left out, and how many rows there are.
	Together(ctx context.Context, p Part, columns []string) (v Variety, rows int64, err error)
	// Orphans looks for the rows that are not null in the columns and have no
	// parent among all rows of the other table.
	Orphans(ctx context.Context, p Part, columns []string, parent *catalog.Table, target []string) (Orphans, error)
	// Whole reports whether all values of an integer column are whole numbers,
	// as its type says. Only engines whose types bind nobody ask for it.
	Whole(ctx context.Context, t *catalog.Table, column string) (bool, error)
	// Repeated counts the values that occur more than once.
	Repeated(ctx context.Context, t *catalog.Table, columns []string) (Offenders, error)
	// Breaks counts the rows for which the condition, in the engine's words, is
	// false.
	Breaks(ctx context.Context, t *catalog.Table, condition string, columns []string) (Offenders, error)
	// Counts tells how many rows of the table meet each of the conditions, which are in
	// the engine's words, in one pass for every sixty.
	Counts(ctx context.Context, t *catalog.Table, conditions []string) ([]int64, error)
	// Rows counts the rows of a query's answer, in the engine's words.
	Rows(ctx context.Context, query string) (Offenders, error)
	// Next is the number that the column's counter gives next; nil: the engine
	// does not tell, or always finds one that is free.
	Next(ctx context.Context, t *catalog.Table, c *catalog.Column) (*int64, error)
	// Comparable reports whether values of the type can be told apart.
	Comparable(catalog.Type) bool
	// Asked is how many statements were sent so far.
	Asked() int
}

// A Guard is an asker that has to ask what hides rows of a table from who asks, since the catalog
// does not tell (see [catalog.RowFilter]). It answers "" where nothing does.
type Guard interface {
	Filters(ctx context.Context, t *catalog.Table) (by string, err error)
}

// A Gatherer is an asker that asks the same of several tables in one statement, which fails as a
// whole. It is an interface of its own, since small tables alone gain by it.
type Gatherer interface {
	// Profiles are those of all columns of each table.
	Profiles(ctx context.Context, parts []Part) ([][]Column, error)
	// VarietiesOf are those of some columns of each table.
	VarietiesOf(ctx context.Context, parts []Part, columns [][]*catalog.Column) ([][]Variety, error)
}
