// Package postgres reads and writes PostgreSQL databases, version 12 and
// later.
package postgres

import (
	"nexdal/internal/engine/postgres/read"
	"nexdal/internal/engine/postgres/traits"
	"nexdal/internal/engine/postgres/write"
)

// Engine is PostgreSQL.
type Engine struct {
	traits.Traits
	read.Reader
	write.Writer
}
