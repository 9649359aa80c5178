package firebird

import (
	"context"
	"errors"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ask"
	"nexdal/internal/engine/firebird/traits"
	"nexdal/internal/evidence"
)

// How texts that are numbers and dates read. No cast can be tried here: what has the form of a
// date is taken for one, the 30th of February too.
const (
	readsAsNumber = `TRIM(%[1]s) SIMILAR TO '[+\-]?([0-9]+(.[0-9]*)?|.[0-9]+)([eE][+\-]?[0-9]+)?' ESCAPE '\'`
	readsAsDate   = `%[1]s SIMILAR TO '[0-9]{4}\-(0[1-9]|1[0-2])\-(0[1-9]|[12][0-9]|3[01])([ T][0-9:. ]*)?' ESCAPE '\'`
)

// A row of an answer may take 64 kilobytes, and a letter four bytes: texts are cut, and few columns
// looked at at a time.
const (
	asShownText = "CAST(SUBSTRING(%s FROM 1 FOR 250) AS VARCHAR(250))"
	inOnePass   = 20
)

// Asker needs no preparation: the session is in a transaction that only reads.
func (s *session) Asker(context.Context) (evidence.Asker, error) { return asker(s.Rows), nil }

// single asks of each table by itself: the rows of several would take too many bytes in one answer.
type single struct{ evidence.Asker }

func asker(rows ask.Rows) evidence.Asker {
	return single{ask.New(rows, ask.Dialect{Lexis: Engine{}.Dialect(), Quoting: traits.Quoting, Relation: traits.Relation, Text: asShownText, Length: "CHAR_LENGTH(TRIM(TRAILING FROM %s))",
		Number: readsAsNumber, Date: readsAsDate, Unlike: traits.Uncompared, Pass: inOnePass,
		Ordered: func(t catalog.Type) bool { return true }, Sample: sample, Next: next, Fault: fault})}
}

// sample is spread over the key where that is one whole number; otherwise it is the rows that
// come first.
func sample(t *catalog.Table, columns []string, rows int64) string {
	return ask.ByKey(traits.Quoting, traits.Relation(t.Ref()), t, columns, rows)
}

// next is the number that a column's counter gives next. That of an identity has no name that
// would last, and is not asked.
func next(t *catalog.Table, c *catalog.Column) string {
	if c.Sequence == nil {
		return ""
	}
	return "SELECT GEN_ID(" + traits.Ident(c.Sequence.Table) + ", 0) + 1 FROM rdb$database"
}

// fault tells a time-out, and a connection that is lost.
func fault(err error) error {
	var said *engine.StatementError
	var source *engine.SourceError
	switch {
	case errors.Is(err, engine.ErrTime):
		return evidence.ErrTimeout
	case errors.As(err, &said) && said.Busy:
		return evidence.ErrTimeout
	case errors.As(err, &source) && errors.Is(err, engine.ErrUnreachable):
		return evidence.ErrLost
	}
	return nil
}
