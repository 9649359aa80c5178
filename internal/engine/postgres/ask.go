package postgres

import (
	"context"
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/ask"
	"nexdal/internal/evidence"
)

// Asker makes the session read-only and limits its statements.
func (s *session) Asker(ctx context.Context) (evidence.Asker, error) {
	statement := s.options.StatementTimeout
	if statement == 0 {
		statement = statementTimeout
	}
	err := s.Exec(ctx, fmt.Sprintf("SET SESSION CHARACTERISTICS AS TRANSACTION READ ONLY; SET statement_timeout = %d; SET search_path = pg_catalog", statement.Milliseconds()))
	return ask.New(s.Rows, ask.Dialect{Ident: ident, Relation: relation, Text: "(%s)::text", Length: "length(%s)",
		Ordered: func(t catalog.Type) bool {
			return t.Family != catalog.Boolean && t.Family != catalog.UUID && t.Family != catalog.Enum
		}}), err
}
