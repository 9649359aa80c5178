package mariadb

import (
	"context"
	"errors"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ask"
	"nexdal/internal/engine/mariadb/traits"
	"nexdal/internal/evidence"
)

// How texts that are numbers and dates read. A date is cast, so that the 30th
// of February is none
// (https://mariadb.com/kb/en/regexp/, https://mariadb.com/kb/en/cast/).
const (
	readsAsNumber = `%[1]s REGEXP '^[ ]*[-+]?([0-9]+([.][0-9]*)?|[.][0-9]+)([eE][-+]?[0-9]+)?[ ]*$'`
	readsAsDate   = `(CASE WHEN %[1]s REGEXP '^[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])([ T][0-2][0-9]:[0-5][0-9](:[0-5][0-9]([.][0-9]+)?)?(Z|[-+][0-9]{2}:?[0-9]{2})?)?$' THEN CAST(left(%[1]s, 10) AS DATE) IS NOT NULL ELSE FALSE END)`
)

// Asker needs no preparation: the session was opened read-only, with
// time-outs.
func (s *session) Asker(context.Context) (evidence.Asker, error) { return asker(s.family, s.Rows), nil }

func asker(f *traits.Family, rows ask.Rows) evidence.Asker {
	a := ask.New(rows, ask.Dialect{Lexis: Engine{}.Dialect(), Quoting: traits.Quoting, Relation: traits.Relation, Text: "CAST(%s AS CHAR)", Length: "char_length(%s)",
		Grouping: f.Grouping,
		Number:   readsAsNumber, Date: readsAsDate,
		Ordered: func(catalog.Type) bool { return true }, Sample: sample, Next: next, Fault: fault})
	if f.Apart {
		return struct{ evidence.Asker }{a}
	}
	return a
}

// sample is spread over the key where that is one whole number, since the
// engine has no sampling of its own; otherwise it is the rows that come first.
func sample(t *catalog.Table, columns []string, rows int64) string {
	return ask.ByKey(traits.Quoting, traits.Relation(t.Ref()), t, columns, rows)
}

// next asks a sequence. What AUTO_INCREMENT gives is never in use: the engine
// keeps it above the largest.
func next(_ *catalog.Table, c *catalog.Column) string {
	if c.Sequence == nil {
		return ""
	}
	return "SELECT next_not_cached_value FROM " + traits.Relation(*c.Sequence)
}

// fault: 1969 is the statement time-out, 1205 a lock that was not had in time.
func fault(err error) error {
	var said *engine.StatementError
	var source *engine.SourceError
	switch {
	case errors.As(err, &said) && (said.Code == "1969" || said.Code == "1205" || said.Code == "3024"):
		return evidence.ErrTimeout
	case errors.As(err, &said) && said.Code == "1317":
		return evidence.ErrTimeout
	case errors.As(err, &source) && errors.Is(err, engine.ErrUnreachable):
		return evidence.ErrLost
	}
	return nil
}
