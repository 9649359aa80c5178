package engine

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// writes is a statement in a program of the catalog that writes rows.
type writes struct {
	catalog.Module
	does       string
	leavesNull func(*catalog.Table, *catalog.Column) bool
	moves      func(*catalog.Column) bool
}

// writesOf are those of the catalog's programs by the table's name in small letters.
func writesOf(c *catalog.Catalog, d sqllex.Dialect) map[string][]writes {
	of := map[string][]writes{}
	for m := range c.Modules() {
		for _, in := range sqllex.Inserts(d, m.Text) {
			name := strings.ToLower(in.Table.Name())
			of[name] = append(of[name], writes{m, "inserts into", func(t *catalog.Table, c *catalog.Column) bool { return insertsNull(in, t, c) }, func(*catalog.Column) bool { return false }})
		}
		for _, u := range sqllex.Updates(d, m.Text) {
			name := strings.ToLower(u.Table.Name())
			sets := func(c *catalog.Column, what func(sqllex.Assignment) bool) bool {
				return slices.ContainsFunc(u.Sets, func(a sqllex.Assignment) bool { return strings.EqualFold(a.Column.Name(), c.Name) && what(a) })
			}
			of[name] = append(of[name], writes{m, "updates", func(_ *catalog.Table, c *catalog.Column) bool { return sets(c, sqllex.Assignment.Null) },
				func(c *catalog.Column) bool { return sets(c, sqllex.Assignment.Moves) }})
		}
	}
	return of
}

// names is the place of the column among those that are named, or -1.
func names(list []sqllex.Token, c *catalog.Column) int {
	return slices.IndexFunc(list, func(k sqllex.Token) bool { return strings.EqualFold(k.Name(), c.Name) })
}

// insertsNull reports whether the insert puts null into the column, which the table need not show.
func insertsNull(in sqllex.Insert, t *catalog.Table, c *catalog.Column) bool {
	at := names(in.Columns, c)
	if !in.Listed {
		at = slices.IndexFunc(t.Columns, func(o *catalog.Column) bool { return strings.EqualFold(o.Name, c.Name) })
	}
	if at >= 0 {
		return slices.Contains(in.Nulls, at)
	}
	return c.Default == "" && c.Generated == "" && c.Identity == catalog.NoIdentity
}

// nulled says which program puts null into the column, by one of the ways into its table.
func nulled(into []*catalog.Table, c *catalog.Column, programs map[string][]writes) string {
	for _, t := range into {
		for _, by := range programs[strings.ToLower(t.Name)] {
			if by.leavesNull(t, c) {
				return fmt.Sprintf("%s %s %s %s and leaves \"%s\" null: it would fail", by.Kind, by.Name, by.does, t.Name, c.Name)
			}
		}
	}
	for _, by := range programs[""] { // of any table
		if by.leavesNull(into[0], c) {
			return fmt.Sprintf("%s %s %s %s and leaves \"%s\" null: it would fail", by.Kind, by.Name, by.does, into[0].Name, c.Name)
		}
	}
	return ""
}

// halved says which program leaves some of the columns null, and others not, or as they are.
func halved(into []*catalog.Table, columns []*catalog.Column, programs map[string][]writes) string {
	for _, t := range into {
		for _, by := range programs[strings.ToLower(t.Name)] {
			nulls := 0
			for _, c := range columns {
				if by.leavesNull(t, c) {
					nulls++
				}
			}
			if nulls > 0 && nulls < len(columns) {
				return fmt.Sprintf("%s %s %s %s and leaves some of its columns null that go together: it would fail", by.Kind, by.Name, by.does, t.Name)
			}
		}
	}
	return ""
}

// moved says which program reckons values of the columns from what they held: on the way two rows are
// alike, where the engine looks at each row by itself.
func moved(into []*catalog.Table, columns []string, programs map[string][]writes) string {
	for _, t := range into {
		for _, by := range programs[strings.ToLower(t.Name)] {
			for _, name := range columns {
				if c := t.Column(name); c != nil && by.moves(c) {
					return fmt.Sprintf("%s %s moves the values of \"%s\" in %s, and may meet one that is there", by.Kind, by.Name, name, t.Name)
				}
			}
		}
	}
	return ""
}

// barred says what writes a value that the condition refuses: a default, or a program.
func barred(c *catalog.Catalog, into []*catalog.Table, reads catalog.Expressions, k *catalog.Check) string {
	for _, col := range into[0].Columns {
		if !reads.Mentions(k.Expression, col.Name) {
			continue
		}
		if v, ok := reads.Constant(col.Default); ok && col.Default != "" && reads.Refuses(k.Expression, col.Name, v) {
			return fmt.Sprintf("the default %s of \"%s\" would be refused", col.Default, col.Name)
		}
		for _, t := range into {
			by := t.Column(col.Name)
			if by == nil {
				continue
			}
			for _, w := range reads.Written(c.Modules(), t, by) {
				if reads.Refuses(k.Expression, col.Name, w.Value) {
					return fmt.Sprintf("%s %s writes %s into \"%s\" of %s: it would fail", w.By.Kind, w.By.Name, w.Value.Text, col.Name, t.Name)
				}
			}
		}
	}
	return ""
}
