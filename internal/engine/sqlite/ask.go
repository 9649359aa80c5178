package sqlite

import (
	"context"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/ask"
	"nexdal/internal/evidence"
)

// Asker needs nothing more: the file was opened read-only.
func (s *session) Asker(context.Context) (evidence.Asker, error) {
	return ask.New(s.Rows, ask.Dialect{Ident: ident, Relation: func(r catalog.Ref) string { return ident(r.Table) }, Text: "CAST(%s AS TEXT)", Length: "length(%s)",
		Ordered: func(catalog.Type) bool { return true }}), nil
}
