package rule

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// suppressOverlaps drops what another finding says already: a rule that gives way to
// another is silent where that one spoke of the same columns of the same table,
// or of the same object.
func suppressOverlaps(rules []*Rule, findings []Finding) []Finding {
	yields := map[string][]string{}
	for _, r := range rules {
		if len(r.GivesWay) > 0 {
			yields[r.ID] = r.GivesWay
		}
	}
	if len(yields) == 0 {
		return findings
	}
	type place struct {
		rule, at string
		table    catalog.Ref
	}
	said := map[place]bool{}
	for _, f := range findings {
		for _, at := range f.about() {
			said[place{f.Rule, at, f.Table}] = true
		}
	}
	return slices.DeleteFunc(findings, func(f Finding) bool {
		for _, stronger := range yields[f.Rule] {
			for _, at := range f.about() {
				if said[place{stronger, at, f.Table}] {
					return true
				}
			}
		}
		return false
	})
}

// about is what a finding speaks of: its columns, whatever their order, its
// object, or else the table as a whole.
func (f Finding) about() []string {
	var about []string
	if len(f.Columns) > 0 {
		about = append(about, f.columnSet())
	}
	if f.Object != "" && f.Object != f.Table.Table {
		about = append(about, "object "+f.Object)
	}
	if len(about) == 0 {
		about = append(about, "table")
	}
	return about
}

func (f Finding) columnSet() string {
	sorted := slices.Sorted(slices.Values(f.Columns))
	return "columns " + strings.Join(sorted, "\x00")
}

// groupRelated gives each finding that is part of a larger story the identifier of the
// one that leads it, the worst: what is wrong with the same columns of a table
// belongs together (the missing index and the differing type of one reference,
// say). Findings come sorted, and stay so.
func groupRelated(findings []Finding) {
	type place struct {
		table   catalog.Ref
		columns string
	}
	lead := map[place]int{}
	for i := range findings {
		f := &findings[i]
		if len(f.Columns) == 0 || f.Area() == "name" || f.Area() == "note" {
			continue
		}
		at := place{f.Table, f.columnSet()}
		first, ok := lead[at]
		if !ok {
			lead[at] = i
			continue
		}
		findings[first].Story = findings[first].ID()
		f.Story = findings[first].Story
	}
}

// Stories returns the findings so that those of one story stand together, where
// its first one stood.
func Stories(findings []Finding) []Finding {
	parts := map[string][]Finding{}
	for _, f := range findings {
		if f.Story != "" {
			parts[f.Story] = append(parts[f.Story], f)
		}
	}
	told := make([]Finding, 0, len(findings))
	for _, f := range findings {
		switch {
		case f.Story == "":
			told = append(told, f)
		case parts[f.Story] != nil:
			told = append(told, parts[f.Story]...)
			parts[f.Story] = nil
		}
	}
	return told
}
