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
