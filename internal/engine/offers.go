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
	return func(ch change.Change) string {
		if why := w.Refuses(c, ch); why != "" {
			return why
		}
		n, ok := ch.(change.SetNullable)
		if !ok || n.Nullable {
			return ""
		}
		t := c.Table(n.Table)
		if t == nil || t.Column(n.Column) == nil {
			return ""
		}
		for _, by := range slices.Concat(programs()[strings.ToLower(t.Name)], programs()[""]) { // or of any
			if by.leavesNull(t, t.Column(n.Column)) {
				return fmt.Sprintf("%s %s %s %s and leaves \"%s\" null: it would fail", by.Kind, by.Name, by.does, t.Name, n.Column)
			}
		}
		return ""
	}
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
