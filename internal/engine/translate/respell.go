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

// Likewise is the catalog with its names spelled as the other one has them, so that the two can be
// compared.
func Likewise(c, other *catalog.Catalog, from, to sqllex.Dialect) *catalog.Catalog {
	if from.Capitals == to.Capitals {
		return c
	}
	d, as, has := c.Clone(), spelling(from, to), other.Spellings()
	d.Respell(func(name string) string {
		spelled := as(name)
		if known, ok := has[strings.ToLower(name)]; ok && spelled != name && !to.Small {
			return known // whose capitals mean nothing there
		}
		return spelled
	})
	return d
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
