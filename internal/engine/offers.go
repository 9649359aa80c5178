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
	inserts := sync.OnceValue(func() map[string][]insert { return insertsOf(c, w.Dialect()) })
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
		for _, in := range inserts()[strings.ToLower(t.Name)] {
			if in.leavesNull(t, t.Column(n.Column)) {
				return fmt.Sprintf("%s %s inserts into %s and leaves \"%s\" null: it would fail", in.by.Kind, in.by.Name, t.Name, n.Column)
			}
		}
		return ""
	}
}

// insert is one in a program of the catalog.
type insert struct {
	sqllex.Insert
	by catalog.Module
}

// insertsOf are those of the catalog's programs by the table's name in small letters.
func insertsOf(c *catalog.Catalog, d sqllex.Dialect) map[string][]insert {
	of := map[string][]insert{}
	for m := range c.Modules() {
		for _, in := range sqllex.Inserts(d, m.Text) {
			name := strings.ToLower(in.Table.Name())
			of[name] = append(of[name], insert{in, m})
		}
	}
	return of
}

// leavesNull reports whether the insert puts null into the column.
func (in insert) leavesNull(t *catalog.Table, c *catalog.Column) bool {
	same := func(k sqllex.Token) bool { return strings.EqualFold(k.Name(), c.Name) }
	if !in.Listed {
		return slices.ContainsFunc(in.Nulls, func(i int) bool { return i < len(t.Columns) && t.Columns[i] == c })
	}
	if at := slices.IndexFunc(in.Columns, same); at >= 0 {
		return slices.Contains(in.Nulls, at)
	}
	return c.Default == "" && c.Generated == "" && c.Identity == catalog.NoIdentity
}
