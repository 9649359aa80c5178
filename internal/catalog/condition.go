package catalog

// A Condition is one that a fix proposes, in no engine's words: just one of its
// members is set.
type Condition struct {
	Together []string // either all of the columns are null or none
	Among    *Among
	Filled   string // the column is not null
}

// Among says that a column, where it is not null, holds one of some values.
type Among struct {
	Column string
	Values []string // as text
}
