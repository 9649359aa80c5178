package catalog

// Notes are what people know of tables and columns and no catalog holds, by table and, within it,
// by column; that of the table itself is under "".
type Notes map[Ref]map[string]string

// Of is the note on a column, or on the table where the column is ""; "" where there is none.
func (n Notes) Of(t Ref, column string) string { return n[t][column] }

// Put keeps a note.
func (n Notes) Put(t Ref, column, note string) {
	if n[t] == nil {
		n[t] = map[string]string{}
	}
	n[t][column] = note
}
