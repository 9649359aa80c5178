package cli

import (
	"strings"

	"nexdal/internal/catalog"
)

// table finds the table that the call named, with or without its schema; in
// doubt it says what there is.
func table(c *catalog.Catalog, name string) (*catalog.Table, error) {
	found := named(c, name)
	switch len(found) {
	case 1:
		return found[0], nil
	case 0:
		return nil, absent(name, c)
	}
	var refs []string
	for _, t := range found {
		ref := t.Ref().String()
		if strings.Contains(t.Schema, ".") || strings.Contains(t.Name, ".") {
			ref = quotedPart(t.Schema) + "." + quotedPart(t.Name)
		}
		refs = append(refs, ref)
	}
	return nil, wrong("%s is the name of several tables: %s; give one with its schema", name, strings.Join(refs, ", "))
}

// named returns the tables that a name can mean, by its best reading: in double quotes
// part by part, as SQL has it; schema.table; a table's whole name, points and all; and
// last without regard to case.
func named(c *catalog.Catalog, name string) []*catalog.Table {
	parts := quotedParts(name)
	readings := []func(t *catalog.Table) bool{
		func(t *catalog.Table) bool {
			return len(parts) == 1 && t.Name == parts[0] || len(parts) == 2 && t.Schema == parts[0] && t.Name == parts[1]
		},
		func(t *catalog.Table) bool { return t.Ref().String() == name },
		func(t *catalog.Table) bool { return t.Name == name },
		func(t *catalog.Table) bool {
			return strings.EqualFold(t.Name, name) || strings.EqualFold(t.Ref().String(), name)
		},
	}
	for _, reads := range readings {
		var found []*catalog.Table
		for _, t := range c.Tables() {
			if reads(t) {
				found = append(found, t)
			}
		}
		if len(found) > 0 {
			return found
		}
	}
	return nil
}

// quotedParts takes a name apart at the points outside double quotes: "a.b" is one part,
// main."a.b" two. It is nil for a name without quotes, or with one that does not end.
func quotedParts(name string) []string {
	if !strings.Contains(name, `"`) {
		return nil
	}
	var parts []string
	for rest := name; ; {
		var part strings.Builder
		if !strings.HasPrefix(rest, `"`) {
			plain, _, _ := strings.Cut(rest, ".")
			if strings.Contains(plain, `"`) {
				return nil
			}
			part.WriteString(plain)
			rest = rest[len(plain):]
		}
		for again := false; strings.HasPrefix(rest, `"`); again = true {
			if again {
				part.WriteByte('"') // a doubled quote is one of the name
			}
			inside, after, found := strings.Cut(rest[1:], `"`)
			if !found {
				return nil
			}
			part.WriteString(inside)
			rest = after
		}
		parts = append(parts, part.String())
		if rest == "" {
			return parts
		}
		if rest[0] != '.' {
			return nil
		}
		rest = rest[1:]
	}
}

func quotedPart(name string) string { return `"` + strings.ReplaceAll(name, `"`, `""`) + `"` }
