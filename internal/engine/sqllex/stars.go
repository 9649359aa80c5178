package sqllex

import "slices"

// Stars reports whether a text asks for all columns, whatever these are: by a star that no function
// has. What stands in strings, which may be a routine's body, counts.
func Stars(d Dialect, text string) bool {
	var before Token
	for _, t := range Inner(d, text) {
		if t.Is("*") && (before.Is("select") || before.Is("distinct") || before.Is("all") || before.Is(",") || before.Is(".")) {
			return true
		}
		before = t
	}
	return false
}

// Names reports whether a text holds the name, bare in any case or quoted; in strings too.
func (d Dialect) Names(text, name string) bool {
	return slices.ContainsFunc(Inner(d, text), func(t Token) bool { return t.Names(name) })
}
