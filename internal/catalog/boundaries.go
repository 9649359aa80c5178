package catalog

// Boundaries are the values at which an object of the database, a partition function, cuts up the
// tables that share it. Of parts that own their bounds there are none.
type Boundaries struct {
	Object string   // its name
	Tables []Ref    // that share it
	Values []string // as the engine writes them, in their order
	// Objects are the function and what places the parts, where a plain table is to be cut up by
	// them; otherwise they are there.
	Objects []*Object
	// Place is where an index lies that is cut up like the table, in the engine's words.
	Place string
	// Refused says why it can be given no other values, or "".
	Refused string
	// At is what the function and the parts come to be with such values.
	At func(values []string) (definition string, parts []*Partition)
}
