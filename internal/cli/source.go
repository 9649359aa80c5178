package cli

import (
	"strings"

	"nexdal/internal/catalog"
)

// table finds the table that the call named, with or without its schema; in
// doubt it says what there is.
func table(c *catalog.Catalog, name string) (*catalog.Table, error) {
	var same, folded []*catalog.Table
	for _, t := range c.Tables() {
		switch {
		case t.Name == name || t.Ref().String() == name:
			same = append(same, t)
		case strings.EqualFold(t.Name, name) || strings.EqualFold(t.Ref().String(), name):
			folded = append(folded, t)
		}
	}
	if len(same) == 0 {
		same = folded
	}
	switch len(same) {
	case 1:
		return same[0], nil
	case 0:
		if near := nearest(c, name); len(near) > 0 {
			return nil, wrong("there is no table %s; near it are %s", name, strings.Join(near, ", "))
		}
		return nil, wrong("there is no table %s; nexdal outline lists what there is", name)
	}
	var refs []string
	for _, t := range same {
		refs = append(refs, t.Ref().String())
	}
	return nil, wrong("%s is the name of several tables: %s; give one with its schema", name, strings.Join(refs, ", "))
}
