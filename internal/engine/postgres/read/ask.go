package read

import (
	"errors"
	"fmt"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ask"
	"nexdal/internal/engine/postgres/traits"
	"nexdal/internal/evidence"
)

// How texts that are numbers and dates read. There is no cast that fails
// without an error, so the days of the month are spelt out
// (https://www.postgresql.org/docs/current/functions-matching.html). The
// collation is set since patterns do not work under every one.
const (
	readsAsNumber = `%[1]s COLLATE "C" ~ '^\s*[-+]?(\d+(\.\d*)?|\.\d+)([eE][-+]?\d+)?\s*$'`
	readsAsDate   = `(%[1]s COLLATE "C" ~ '^\d{4}-((0[13578]|1[02])-(0[1-9]|[12]\d|3[01])|(0[469]|11)-(0[1-9]|[12]\d|30)|02-(0[1-9]|1\d|2\d))([ T][0-2]\d:[0-5]\d(:[0-5]\d(\.\d+)?)?(Z|[-+]\d{2}(:?\d{2})?)?)?$'
    AND CASE WHEN %[1]s COLLATE "C" ~ '^\d{4}-02-29' THEN substr(%[1]s, 1, 4)::int %% 4 = 0 AND (substr(%[1]s, 1, 4)::int %% 100 <> 0 OR substr(%[1]s, 1, 4)::int %% 400 = 0) ELSE true END)`
)

// Asking is how questions about the data are put.
var Asking = ask.Dialect{Lexis: Reader{}.Dialect(), Quoting: traits.Quoting, Relation: traits.Relation, Own: ownRows, Text: "(%s)::text", Length: "length(%s)",
	Number: readsAsNumber, Date: readsAsDate,
	Ordered: func(t catalog.Type) bool {
		return t.Family != catalog.Boolean && t.Family != catalog.UUID && t.Family != catalog.Enum && t.Family != catalog.Binary
	}, Sample: sample, Next: next, Fault: fault}

// ownRows is the table without those that inherit it, whose rows no key of its own holds
// (https://www.postgresql.org/docs/current/ddl-inherit.html).
func ownRows(t *catalog.Table) string {
	if t.Kind == catalog.Ordinary {
		return "ONLY " + traits.Relation(t.Ref())
	}
	return traits.Relation(t.Ref())
}

// sample takes whole pages, the same at every asking
// (https://www.postgresql.org/docs/current/sql-select.html, TABLESAMPLE).
func sample(t *catalog.Table, columns []string, rows int64) string {
	if t.Stats.Rows == nil || *t.Stats.Rows == 0 || t.Kind != catalog.Ordinary {
		return ask.First(traits.Quoting, ownRows(t), columns, rows)
	}
	share := min(100, 100*float64(rows)/float64(*t.Stats.Rows))
	return fmt.Sprintf("(SELECT * FROM %s TABLESAMPLE SYSTEM (%s) REPEATABLE (1))", ownRows(t), strconv.FormatFloat(share, 'f', 6, 64))
}

// next asks the sequence behind an identity or a serial column.
func next(_ *catalog.Table, c *catalog.Column) string {
	if c.Sequence == nil {
		return ""
	}
	name := traits.Relation(*c.Sequence)
	return fmt.Sprintf("SELECT CASE WHEN s.is_called THEN s.last_value + q.seqincrement ELSE s.last_value END FROM %s s, pg_sequence q WHERE q.seqrelid = %s::regclass",
		name, traits.Literal(name))
}

// fault: 57014 is the statement time-out, 55P03 a lock that was not had in
// time, class 08 and 57P a connection that is gone.
func fault(err error) error {
	var said *engine.StatementError
	switch {
	case errors.As(err, &said) && (said.Code == "57014" || said.Code == "55P03"):
		return evidence.ErrTimeout
	case errors.As(err, &said) && (strings.HasPrefix(said.Code, "57P") || strings.HasPrefix(said.Code, "08")):
		return evidence.ErrLost
	case errors.Is(err, engine.ErrUnreachable):
		return evidence.ErrLost
	}
	return nil
}
