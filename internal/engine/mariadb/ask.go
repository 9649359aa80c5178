package mariadb

import (
	"context"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/ask"
	"nexdal/internal/evidence"
)

// Asker needs nothing more: the session was opened read-only, with time-outs.
func (s *session) Asker(context.Context) (evidence.Asker, error) {
	return ask.New(s.Rows, ask.Dialect{Ident: ident, Relation: relation, Text: "CAST(%s AS CHAR)", Length: "char_length(%s)",
		Ordered: func(catalog.Type) bool { return true }}), nil
}
