package firebird

import (
	"context"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/capture"
)

// Captured reads the catalog from a capture.
func (Engine) Captured(c *capture.Capture) (*catalog.Catalog, error) {
	return read(context.Background(), engine.Captured{Capture: c}, c.Head.Database, c.Head.Moment)
}
