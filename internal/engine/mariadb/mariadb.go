// Package mariadb reads MariaDB databases, version 10.5 and later, and writes
// what concerns their indexes and keys.
package mariadb

import (
	"nexdal/internal/engine/mariadb/traits"
	"nexdal/internal/engine/mariadb/write"
)

// Engine is MariaDB, or another server of its family ([Of]).
type Engine struct{ write.Writer }

// Of is the engine of another server of the family.
func Of(f *traits.Family) Engine { return Engine{write.Writer{Traits: traits.Traits{Is: f}}} }
