package oracle

import (
	"context"
	"errors"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ask"
	"nexdal/internal/evidence"
)

// How texts that are numbers and dates read
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/VALIDATE_CONVERSION.html). An
// empty text is a null.
const (
	readsAsNumber = `REGEXP_LIKE(%[1]s, '^[-+]?[0-9]+([.][0-9]*)?([eE][-+]?[0-9]+)?$')`
	readsAsDate   = `REGEXP_LIKE(%[1]s, '^[0-9]{4}-[01][0-9]-[0-3][0-9]') AND VALIDATE_CONVERSION(SUBSTR(%[1]s, 1, 10) AS DATE, 'YYYY-MM-DD') = 1`
)

// asText gives every value in one form, whatever the session is set to.
const asText = `TO_CHAR(%s)`

// Questions are those that a session would put.
func (Engine) Questions(rows func(context.Context, string, int) ([]string, []evidence.Row, error)) evidence.Asker {
	return ask.New(rows, ask.Dialect{Lexis: Engine{}.Dialect(), Quoting: quoting, Relation: relation, Text: asText, Length: "LENGTH(%s)",
		Number: readsAsNumber, Date: readsAsDate, Unlike: uncompared,
		Ordered: func(t catalog.Type) bool { return t.Family != catalog.Boolean }, Sample: sample, Next: next, Fault: fault})
}

// sample is spread over the key where that is one whole number; otherwise it is the rows that
// come first. SAMPLE takes shares of the rows, and they have to be counted before.
func sample(t *catalog.Table, columns []string, rows int64) string {
	return ask.ByKey(quoting, relation(t.Ref()), t, columns, rows)
}

// next is the number that the dictionary says a sequence goes on with, beyond those that are kept
// in memory.
func next(t *catalog.Table, c *catalog.Column) string {
	if c.Sequence == nil {
		if !numbered(c) {
			return ""
		}
		return "SELECT q.last_number FROM all_tab_identity_cols i JOIN all_sequences q ON q.sequence_owner = i.owner AND q.sequence_name = i.sequence_name WHERE i.owner = " +
			literal(t.Schema) + " AND i.table_name = " + literal(t.Name) + " AND i.column_name = " + literal(c.Name)
	}
	return "SELECT q.last_number FROM all_sequences q WHERE q.sequence_owner = " + literal(c.Sequence.Schema) + " AND q.sequence_name = " + literal(c.Sequence.Table)
}

// fault: ORA-01013 is a statement that was ended, ORA-03113 and ORA-03114 a lost connection.
func fault(err error) error {
	var said *engine.StatementError
	if errors.As(err, &said) {
		switch said.Code {
		case "ORA-01013", "ORA-30006", "ORA-00054":
			return evidence.ErrTimeout
		case "ORA-03113", "ORA-03114":
			return evidence.ErrLost
		}
	}
	return nil
}
