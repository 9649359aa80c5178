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

// Written are the values as a statement has them: those of a column of text by the literals
// that the engine writes, and others as they are.
func (a *Among) Written(t *Table, literal func(string) string) []string {
	if c := t.Column(a.Column); c == nil || c.Type.Family != Text {
		return a.Values
	}
	values := make([]string, len(a.Values))
	for i, v := range a.Values {
		values[i] = literal(v)
	}
	return values
}
