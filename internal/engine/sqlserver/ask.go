package sqlserver

import (
	"context"
	"errors"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ask"
	"nexdal/internal/engine/sqlserver/traits"
	"nexdal/internal/evidence"
)

// How texts that are numbers and dates read. What is converted has to be there: an empty text
// would be 0 (https://learn.microsoft.com/en-us/sql/t-sql/functions/try-convert-transact-sql).
const (
	readsAsNumber = `%[1]s <> '' AND %[1]s NOT LIKE '%%[^-+0-9.eE ]%%' AND TRY_CONVERT(float, %[1]s) IS NOT NULL`
	readsAsDate   = `%[1]s LIKE '[0-9][0-9][0-9][0-9]-[0-1][0-9]-[0-3][0-9]%%' AND TRY_CONVERT(date, left(%[1]s, 10), 23) IS NOT NULL`
)

// Asker needs no preparation: nothing is sent but queries, with time-outs.
func (s *session) Asker(context.Context) (evidence.Asker, error) { return asker(s.Rows), nil }

func asker(rows ask.Rows) evidence.Asker {
	return ask.New(rows, ask.Dialect{Lexis: Engine{}.Dialect(), Quoting: traits.Quoting, Relation: traits.Relation, Text: "CONVERT(nvarchar(max), %s, 121)", Length: "len(%s + '.') - 1",
		Number: readsAsNumber, Date: readsAsDate, Unlike: traits.Uncompared,
		Ordered: func(t catalog.Type) bool { return t.Family != catalog.Boolean }, Sample: sample, Next: next, Fault: fault})
}

// sample is spread over the key where that is one whole number; otherwise it is the rows that
// come first. TABLESAMPLE takes whole pages, and of a small table none or all.
func sample(t *catalog.Table, columns []string, rows int64) string {
	return ask.ByKey(traits.Quoting, traits.Relation(t.Ref()), t, columns, rows)
}

// next is the number that a column's counter gives next
// (https://learn.microsoft.com/en-us/sql/relational-databases/system-catalog-views/sys-identity-columns-transact-sql).
func next(t *catalog.Table, c *catalog.Column) string {
	if c.Sequence != nil {
		return "SELECT CAST(q.current_value AS bigint) + CAST(q.increment AS bigint) FROM sys.sequences q WHERE q.object_id = OBJECT_ID(" + traits.Literal(traits.Relation(*c.Sequence)) + ")"
	}
	if c.Identity != catalog.IdentityAlways {
		return ""
	}
	return "SELECT coalesce(CAST(i.last_value AS bigint) + CAST(i.increment_value AS bigint), CAST(i.seed_value AS bigint)) FROM sys.identity_columns i WHERE i.object_id = OBJECT_ID(" + traits.Literal(traits.Relation(t.Ref())) + ")"
}

// fault: 1222 is a lock that was not had in time.
func fault(err error) error {
	var said *engine.StatementError
	var source *engine.SourceError
	switch {
	case errors.Is(err, engine.ErrTime):
		return evidence.ErrTimeout
	case errors.As(err, &said) && said.Code == "1222":
		return evidence.ErrTimeout
	case errors.As(err, &source) && errors.Is(err, engine.ErrUnreachable):
		return evidence.ErrLost
	}
	return nil
}
