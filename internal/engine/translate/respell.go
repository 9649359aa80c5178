package translate

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/pattern"
)

var plainName = pattern.New(`^[A-Za-z][A-Za-z0-9_]*$`)

// Respelled is the catalog with the names that one engine takes without quotes written as the
// other takes them so: what is "raft" in one is RAFT in the other. Where both write alike it is
// the given one.
func Respelled(c *catalog.Catalog, from, to sqllex.Dialect) *catalog.Catalog {
	if from.Capitals == to.Capitals {
		return c
	}
	d := c.Clone()
	d.Respell(spelling(from, to))
	return d
}

// Likewise are both catalogs with the names that their engines take without quotes in small
// letters, so that they can be compared; where both engines write alike, they are the given ones.
func Likewise(a, b *catalog.Catalog, of, and sqllex.Dialect) (*catalog.Catalog, *catalog.Catalog) {
	if of.Capitals == and.Capitals {
		return a, b
	}
	small := func(c *catalog.Catalog, d sqllex.Dialect) *catalog.Catalog {
		c = c.Clone()
		c.Respell(func(name string) string {
			upper, lower := strings.ToUpper(name), strings.ToLower(name)
			if !plainName.MatchString(name) || d.Capitals && name != upper || d.Small && name != lower {
				return name
			}
			return lower
		})
		return c
	}
	return small(a, of), small(b, and)
}

// spelling tells how the other engine writes a name that the first takes without quotes.
func spelling(from, to sqllex.Dialect) func(string) string {
	return func(name string) string {
		switch {
		case from.Capitals == to.Capitals || !plainName.MatchString(name):
			return name
		case to.Capitals && (!from.Small || strings.ToLower(name) == name):
			return strings.ToUpper(name)
		case from.Capitals && strings.ToUpper(name) == name:
			return strings.ToLower(name)
		}
		return name
	}
}
