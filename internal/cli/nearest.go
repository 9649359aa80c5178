package cli

import (
	"cmp"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/text"
)

// matching returns the tables of that name, or all that a pattern with * and ?
// fits, with or without their schema.
func matching(c *catalog.Catalog, pattern string) ([]*catalog.Table, error) {
	if !strings.ContainsAny(pattern, "*?") || len(named(c, pattern)) > 0 {
		t, err := table(c, pattern)
		if err != nil {
			return nil, err
		}
		return []*catalog.Table{t}, nil
	}
	var found []*catalog.Table
	for _, t := range c.Tables() {
		if catalog.FitsTable(pattern, t.Schema, t.Name) {
			found = append(found, t)
		}
	}
	if len(found) == 0 {
		return nil, wrong("no table fits %q", pattern)
	}
	return found, nil
}

// nearest returns the table names most like the one given, at most three.
func nearest(c *catalog.Catalog, name string) []string {
	type near struct {
		name string
		far  int
	}
	var all []near
	for _, t := range c.Tables() {
		far := text.Distance(strings.ToLower(t.Name), strings.ToLower(name))
		if strings.Contains(strings.ToLower(t.Name), strings.ToLower(name)) {
			far = 1
		}
		if far <= 1+len(name)/3 {
			all = append(all, near{t.Name, far})
		}
	}
	slices.SortStableFunc(all, func(a, b near) int { return cmp.Compare(a.far, b.far) })
	var names []string
	for _, n := range all[:min(3, len(all))] {
		names = append(names, n.name)
	}
	return names
}

// among lists the owner's tables that the patterns name; all of them without one. A pattern that
// names none is a mistake.
func among(c *catalog.Catalog, patterns []string) ([]catalog.Ref, error) {
	var refs []catalog.Ref
	add := func(tables []*catalog.Table) {
		for _, t := range tables {
			if t.IsOwn() && !slices.Contains(refs, t.Ref()) {
				refs = append(refs, t.Ref())
			}
		}
	}
	if len(patterns) == 0 {
		add(c.Tables())
	}
	for _, p := range patterns {
		found, err := matching(c, p)
		if err != nil {
			return nil, err
		}
		add(found)
	}
	slices.SortFunc(refs, catalog.Ref.Compare)
	return refs, nil
}

// strange is the first of the patterns that fits nothing with a name in any of the catalogs: no
// table, view, sequence, type or routine; "" where each fits something.
func strange(patterns []string, catalogs ...*catalog.Catalog) string {
	for _, p := range patterns {
		fits := func(s *catalog.Schema, name string) bool { return catalog.FitsTable(p, s.Name, name) }
		found := slices.ContainsFunc(catalogs, func(c *catalog.Catalog) bool {
			return slices.ContainsFunc(c.Schemas, func(s *catalog.Schema) bool {
				return slices.ContainsFunc(s.Tables, func(x *catalog.Table) bool { return fits(s, x.Name) }) ||
					slices.ContainsFunc(s.Views, func(x *catalog.View) bool { return fits(s, x.Name) }) ||
					slices.ContainsFunc(s.Sequences, func(x *catalog.Sequence) bool { return fits(s, x.Name) }) ||
					slices.ContainsFunc(s.Types, func(x *catalog.UserType) bool { return fits(s, x.Name) }) ||
					slices.ContainsFunc(s.Routines, func(x *catalog.Routine) bool { return fits(s, x.Name) })
			})
		})
		if !found {
			return p
		}
	}
	return ""
}

// absent says that nothing has the name, or fits the pattern, and what is near.
func absent(pattern string, catalogs ...*catalog.Catalog) error {
	if strings.ContainsAny(pattern, "*?") {
		return wrong("nothing fits %q", pattern)
	}
	var near []string
	for _, c := range catalogs {
		for _, name := range nearest(c, pattern) {
			if !slices.Contains(near, name) {
				near = append(near, name)
			}
		}
	}
	if len(near) > 0 {
		return wrong("there is no table %s; near it are %s", pattern, strings.Join(near, ", "))
	}
	return wrong("there is no table %s; nexdal outline lists what there is", pattern)
}
