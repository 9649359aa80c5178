package compare

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// members compares one kind of a table's objects: first those of one name,
// then, among the rest, those that are made alike and only called otherwise,
// then those on the same columns.
func members[T any](c *comparison, object string, t *catalog.Table, a, b []*T, name func(*T) string, of func(*T) says) {
	var gone []*T
	taken := map[*T]bool{}
	for _, x := range a {
		y := partner(b, taken, func(y *T) bool { return name(x) != "" && name(x) == name(y) })
		if y == nil {
			gone = append(gone, x)
			continue
		}
		taken[y] = true
		c.add(Difference{Kind: Altered, Object: object, Schema: t.Schema, Table: t.Name, Name: label(name(x), of(x)), What: differ(of(x), of(y))})
	}
	for _, x := range gone {
		d := Difference{Kind: Removed, Object: object, Schema: t.Schema, Table: t.Name, Name: label(name(x), of(x)), What: []Property{went(of(x)[0])}}
		y := partner(b, taken, func(y *T) bool { return fmt.Sprint(of(x)) == fmt.Sprint(of(y)) })
		if y == nil {
			y = partner(b, taken, func(y *T) bool { return of(x)[0] == of(y)[0] && !named(b, name, name(x)) && !named(a, name, name(y)) })
		}
		if y != nil {
			taken[y] = true
			d.Kind, d.What = Altered, append(differ(of(x), of(y)), Property{"name", name(x), name(y)})
		}
		c.add(d)
	}
	for _, y := range b {
		if !taken[y] {
			c.add(Difference{Kind: Added, Object: object, Schema: t.Schema, Table: t.Name, Name: label(name(y), of(y)), What: []Property{of(y)[0]}})
		}
	}
}

// named reports whether something in the list bears the name.
func named[T any](list []*T, name func(*T) string, wanted string) bool {
	return wanted != "" && slices.ContainsFunc(list, func(x *T) bool { return name(x) == wanted })
}

func partner[T any](list []*T, taken map[*T]bool, fits func(*T) bool) *T {
	for _, y := range list {
		if !taken[y] && fits(y) {
			return y
		}
	}
	return nil
}
