package standin

import (
	"fmt"

	"nexdal/internal/catalog"
)

// FaultKind is why a machine does not do what a statement asks for.
type FaultKind string

// The kinds. Each system has its number and its words for them.
const (
	Exists      FaultKind = "there is already an object"
	Missing     FaultKind = "there is no object"
	NoColumn    FaultKind = "there is no column"
	HasKey      FaultKind = "there is a primary key already"
	Repeats     FaultKind = "rows are alike in the key"
	Orphans     FaultKind = "rows lack a parent"
	Breaks      FaultKind = "rows break the check"
	Nulls       FaultKind = "rows hold null"
	TooLong     FaultKind = "values are too long"
	NoNumber    FaultKind = "values do not fit"
	LeanedOn    FaultKind = "something leans on it"
	NoUniqueKey FaultKind = "no key of the table is on the columns"
	NotEmpty    FaultKind = "there are rows, for which a new column has no value"
)

// A Fault is one such refusal.
type Fault struct {
	Kind  FaultKind
	Name  string // of the object or column
	Table catalog.Ref
	By    string // what leans on it
}

// Error says it in a sentence.
func (f *Fault) Error() string {
	return fmt.Sprintf("%s: %s of %s %s", f.Kind, f.Name, f.Table, f.By)
}
