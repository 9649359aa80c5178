package catalog

import "iter"

// Expressions reads the expressions in a catalog: checks, defaults, predicates, parts of
// indexes. They are in the engine's own words, and so is who reads them.
type Expressions interface {
	// Mentions reports whether the expression names the column, bare or quoted. What
	// stands in a text, a comment or before a bracket, as a function does, is no column.
	Mentions(expression, column string) bool
	// NotNull lists the columns that the expression requires to be filled, where it
	// requires nothing else; otherwise it is nil.
	NotNull(expression string) []string
	// Plain is the expression without the brackets around it and without comments, with
	// single blanks: two that differ in nothing else say the same.
	Plain(expression string) string
	// Constant is the value of a plain text, number or null.
	Constant(expression string) (Constant, bool)
	// Refuses reports whether a check on the column is known to refuse the value.
	Refuses(check, column string, value Constant) bool
	// Stamps lists the columns of a new row that a trigger gives the present moment, by its
	// text and that of the routine that it calls, if it does; alone is whether it does nothing
	// else, in each row or in those where the column is null.
	Stamps(trigger, routine string) (columns []string, alone bool)
	// Written are the plain values that programs put into the column of the table.
	Written(programs iter.Seq[Module], t *Table, column *Column) []Written
}

// Written is a value that a program writes.
type Written struct {
	By    Module
	Value Constant
}

// A Constant is the value of an expression that is a plain text, number or null.
type Constant struct {
	Null   bool
	Text   string // of a number, as it is written
	Number bool   // it reads as a number
	Quoted bool   // it stands in quotes
}

// unread is for where nobody reads expressions: nothing is known of any.
type unread struct{}

func (unread) Mentions(string, string) bool   { return false }
func (unread) NotNull(string) []string        { return nil }
func (unread) Plain(expression string) string { return expression }
func (unread) Written(iter.Seq[Module], *Table, *Column) []Written {
	return nil
}
func (unread) Stamps(string, string) ([]string, bool) { return nil, false }
func (unread) Constant(string) (Constant, bool)       { return Constant{}, false }
func (unread) Refuses(string, string, Constant) bool  { return false }

// Reads are the abilities' expressions, or those of which nothing is known.
func (a Abilities) Reads() Expressions {
	if a.Expressions == nil {
		return unread{}
	}
	return a.Expressions
}
