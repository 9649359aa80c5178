package engine

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// counts is a statement in a program of the catalog that rests on how many columns something has.
type counts struct {
	catalog.Module
	sqllex.Whole
}

func countsOf(c *catalog.Catalog, d sqllex.Dialect) []counts {
	var all []counts
	for m := range c.Modules() {
		if !strings.Contains(m.Text, "*") && !d.Names(m.Text, "table") {
			continue // most, and soon told
		}
		for _, w := range sqllex.Wholes(d, m.Text, returnsRows(c, m.Returns)) {
			all = append(all, counts{m, w})
		}
	}
	return all
}

// returnsRows reports whether a routine that returns this returns rows of several columns.
func returnsRows(c *catalog.Catalog, returns string) bool {
	low := strings.ToLower(returns)
	if strings.HasPrefix(low, "setof ") || strings.HasPrefix(low, "table") || low == "record" {
		return true
	}
	for _, s := range c.Schemas {
		if slices.ContainsFunc(s.Tables, func(t *catalog.Table) bool { return ReturnsRowsOf(returns, t.Schema, t.Name) }) ||
			slices.ContainsFunc(s.Types, func(y *catalog.UserType) bool { return len(y.Attributes) > 0 && ReturnsRowsOf(returns, s.Name, y.Name) }) {
			return true
		}
	}
	return false
}

// ReturnsRowsOf reports whether what a routine returns is one or many rows of the table, or of the
// type with attributes.
func ReturnsRowsOf(returns, schema, name string) bool {
	if set := "setof "; len(returns) > len(set) && strings.EqualFold(returns[:len(set)], set) {
		returns = returns[len(set):]
	}
	returns = strings.ReplaceAll(returns, `"`, "")
	return returns == name || returns == schema+"."+name
}

// counted says which of the programs rests on how many columns the table has. Through a view whose
// columns follow it sees the table's.
func counted(c *catalog.Catalog, t *catalog.Table, programs []counts) string {
	if len(programs) == 0 {
		return ""
	}
	names := []string{t.Name}
	for i := 0; i < len(names); i++ {
		for _, s := range c.Schemas {
			for _, v := range s.Views {
				if v.Follows && !slices.Contains(names, v.Name) && slices.ContainsFunc(v.Reads, func(o catalog.ObjectRef) bool { return o.Name == names[i] }) {
					names = append(names, v.Name)
				}
			}
		}
	}
	for _, by := range programs {
		for _, g := range t.Triggers { // the program itself, or what calls it for the table's rows
			if runsFor(by.Module, g) && (by.Row || by.Of("inserted") || by.Of("deleted")) {
				return fmt.Sprintf("trigger %s takes all columns of %s, and would fail with one more", g.Name, t.Name)
			}
		}
		if by.Returned && ReturnsRowsOf(by.Returns, t.Schema, t.Name) {
			continue // it returns one more
		}
		for _, name := range names {
			if by.Of(name) {
				return fmt.Sprintf("%s %s takes all columns of %s, and would fail with one more", by.Kind, by.Name, name)
			}
		}
	}
	return ""
}
