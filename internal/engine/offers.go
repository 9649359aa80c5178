package engine

import (
	"fmt"
	"slices"
	"strings"
	"sync"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/sqllex"
)

// Offers returns why a change is not offered, or "": the engine cannot make it, or a program of
// the catalog would fail afterwards. What somebody asks for by name is up to [Writer].Refuses alone.
func Offers(w Writer, c *catalog.Catalog) func(change.Change) string {
	programs := sync.OnceValue(func() map[string][]writes { return writesOf(c, w.Dialect()) })
	counting := sync.OnceValue(func() []counts { return countsOf(c, w.Dialect()) })
	widened := func(by *catalog.Column, t *catalog.Table) string {
		if by.Invisible {
			return ""
		}
		return counted(c, t, counting())
	}
	return func(ch change.Change) string {
		if why := w.Refuses(c, ch); why != "" {
			return why
		}
		t := c.Table(ch.On())
		if t == nil {
			return ""
		}
		switch ch := ch.(type) {
		case change.SetNullable:
			if !ch.Nullable && t.Column(ch.Column) != nil {
				return nulled(t, t.Column(ch.Column), slices.Concat(programs()[strings.ToLower(t.Name)], programs()[""])) // or of any
			}
		case change.AddColumn:
			return widened(ch.Column, t)
		case change.AddSurrogateKey:
			return widened(ch.Column, t)
		}
		return ""
	}
}

// nulled says which program puts null into the column.
func nulled(t *catalog.Table, c *catalog.Column, programs []writes) string {
	for _, by := range programs {
		if by.leavesNull(t, c) {
			return fmt.Sprintf("%s %s %s %s and leaves \"%s\" null: it would fail", by.Kind, by.Name, by.does, t.Name, c.Name)
		}
	}
	return ""
}

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
		if slices.ContainsFunc(s.Tables, func(t *catalog.Table) bool { return rowsOf(t, returns) }) ||
			slices.ContainsFunc(s.Types, func(y *catalog.UserType) bool { return len(y.Attributes) > 0 && ended(returns, y.Name) }) {
			return true
		}
	}
	return false
}

// rowsOf reports whether what a routine returns is rows of the table.
func rowsOf(t *catalog.Table, returns string) bool {
	if set := "setof "; len(returns) > len(set) && strings.EqualFold(returns[:len(set)], set) {
		returns = returns[len(set):]
	}
	return ended(returns, t.Name)
}

// ended reports whether a type is the one of that name, in whatever schema.
func ended(native, name string) bool {
	native = strings.ReplaceAll(native, `"`, "")
	return native == name || strings.HasSuffix(native, "."+name)
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
			called, _, _ := strings.Cut(g.Calls, "(")
			if strings.HasSuffix(called, "."+by.Name) && by.Row || by.Kind == "trigger" && by.Name == g.Name && (by.Of("inserted") || by.Of("deleted")) {
				return fmt.Sprintf("trigger %s takes all columns of %s, and would fail with one more", g.Name, t.Name)
			}
		}
		if by.Returned && rowsOf(t, by.Returns) {
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

// writes is a statement in a program of the catalog that writes rows.
type writes struct {
	catalog.Module
	does       string
	leavesNull func(*catalog.Table, *catalog.Column) bool
}

// writesOf are those of the catalog's programs by the table's name in small letters.
func writesOf(c *catalog.Catalog, d sqllex.Dialect) map[string][]writes {
	of := map[string][]writes{}
	for m := range c.Modules() {
		for _, in := range sqllex.Inserts(d, m.Text) {
			name := strings.ToLower(in.Table.Name())
			of[name] = append(of[name], writes{m, "inserts into", func(t *catalog.Table, c *catalog.Column) bool { return insertsNull(in, t, c) }})
		}
		for _, u := range sqllex.Updates(d, m.Text) {
			name := strings.ToLower(u.Table.Name())
			of[name] = append(of[name], writes{m, "updates", func(_ *catalog.Table, c *catalog.Column) bool { return names(u.Nulls, c) >= 0 }})
		}
	}
	return of
}

// names is the place of the column among those that are named, or -1.
func names(list []sqllex.Token, c *catalog.Column) int {
	return slices.IndexFunc(list, func(k sqllex.Token) bool { return strings.EqualFold(k.Name(), c.Name) })
}

// insertsNull reports whether the insert puts null into the column.
func insertsNull(in sqllex.Insert, t *catalog.Table, c *catalog.Column) bool {
	if !in.Listed {
		return slices.ContainsFunc(in.Nulls, func(i int) bool { return i < len(t.Columns) && t.Columns[i] == c })
	}
	if at := names(in.Columns, c); at >= 0 {
		return slices.Contains(in.Nulls, at)
	}
	return c.Default == "" && c.Generated == "" && c.Identity == catalog.NoIdentity
}
