package bigquery

import (
	"context"
	"errors"
	"fmt"
	"math"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ask"
	"nexdal/internal/evidence"
)

// Asker needs no preparation: nothing is sent but queries, each after a dry run.
func (s *session) Asker(context.Context) (evidence.Asker, error) {
	plain := ask.New(s.Rows, ask.Dialect{Lexis: Engine{}.Dialect(), Quoting: quoting, Relation: relation, Text: "CAST(%s AS STRING)", Length: "LENGTH(%s)",
		Own:     func(t *catalog.Table) string { return everything(relation(t.Ref()), t) },
		Number:  `REGEXP_CONTAINS(%[1]s, r'^[-+]?[0-9]+([.][0-9]*)?([eE][-+]?[0-9]+)?$')`,
		Date:    `REGEXP_CONTAINS(%[1]s, r'^[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])([ T][0-2][0-9]:[0-5][0-9].*)?$')`,
		Ordered: func(t catalog.Type) bool { return t.Family != catalog.Boolean },
		Unlike:  uncounted,
		Sample:  sample,
		Next:    func(*catalog.Table, *catalog.Column) string { return "" },
		Fault:   failure,
	})
	return guarded{plain, plain.(evidence.Gatherer), s}, nil
}

// guarded asks which policies a table has: one who is not named in any of them sees no row, and is
// not told (https://cloud.google.com/bigquery/docs/row-level-security-intro).
type guarded struct {
	evidence.Asker
	evidence.Gatherer
	s *session
}

// Filters names the policies of the table.
func (g guarded) Filters(ctx context.Context, t *catalog.Table) (string, error) {
	names, err := g.s.policies(ctx, t.Schema, t.Name)
	if err != nil || len(names) == 0 {
		return "", err
	}
	return "row access policy " + strings.Join(names, ", "), nil
}

// uncounted: neither lists nor STRUCTs are compared.
func uncounted(t catalog.Type) bool {
	return t.Family == catalog.Array || t.Family == catalog.JSON || t.Family == catalog.Other
}

// sample reads a share of the table's blocks, and is billed for these alone
// (https://cloud.google.com/bigquery/docs/table-sampling).
func sample(t *catalog.Table, _ []string, rows int64) string {
	from := relation(t.Ref())
	if n := t.Stats.Rows; n != nil && *n > rows {
		from += fmt.Sprintf(" TABLESAMPLE SYSTEM (%d PERCENT)", max(1, int64(math.Ceil(100*float64(rows)/float64(*n)))))
	}
	if every := everything(from, t); every != from {
		return every
	}
	return "(SELECT * FROM " + from + ")"
}

// failure tells what ends asking from what a question alone fails with.
func failure(err error) error {
	var spent *engine.SpentError
	var said *engine.StatementError
	switch {
	case errors.As(err, &spent):
		return evidence.ErrSpent
	case errors.Is(err, engine.ErrTime):
		return evidence.ErrTimeout
	case errors.As(err, &said) && said.Code == "bytesBilledLimitExceeded":
		return evidence.ErrSpent
	case errors.Is(err, engine.ErrUnreachable), errors.Is(err, engine.ErrRefused), errors.Is(err, engine.ErrBusy):
		return evidence.ErrLost
	}
	return nil
}
