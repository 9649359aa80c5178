package sqlserver

import (
	"context"
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlserver/traits"
)

// Build makes a schema in the database of the address.
func (e Engine) Build(ctx context.Context, address, schema string) (engine.Loader, string, error) {
	opened, err := e.Open(ctx, address, engine.Options{Write: true})
	if err != nil {
		return nil, "", err
	}
	s := opened.(*session)
	for _, sql := range []string{"SET XACT_ABORT ON", "BEGIN TRANSACTION", "CREATE SCHEMA " + traits.Ident(schema)} {
		if err := s.Exec(ctx, sql); err != nil {
			s.Close()
			return nil, "", &engine.SourceError{Place: s.place, Err: err, Hint: "drop the schema first, or give another with --schema"}
		}
	}
	return s, schema, nil
}

// Discard has nothing to do: what Build made is part of a transaction.
func (Engine) Discard(context.Context, string, string) error { return nil }

// atOnce is how many rows one INSERT carries: the server takes 1,000 at most
// (https://learn.microsoft.com/en-us/sql/t-sql/queries/table-value-constructor-transact-sql).
const atOnce = 500

var literals = engine.Literals{Text: traits.Literal, True: "1", False: "0", Moment: "2006-01-02T15:04:05.9999999"}

// Load adds rows, many to a statement. The numbers of identity columns are given.
func (s *session) Load(ctx context.Context, table catalog.Ref, columns []string, next func() []any) error {
	_, rows, err := s.Rows(ctx, fmt.Sprintf("SELECT i.name FROM sys.identity_columns i WHERE i.object_id = OBJECT_ID(%s) AND i.name IN %s", traits.Literal(traits.Relation(table)), idList(columns)), 1)
	if err != nil {
		return err
	}
	numbered := len(rows) > 0
	return literals.Batches(atOnce, next, func(rows []string) error {
		sql := fmt.Sprintf("INSERT INTO %s (%s) VALUES %s", traits.Relation(table), traits.Idents(columns), engine.Values(rows))
		if numbered {
			sql = fmt.Sprintf("SET IDENTITY_INSERT %s ON; %s; SET IDENTITY_INSERT %[1]s OFF", traits.Relation(table), sql)
		}
		return s.Exec(ctx, sql)
	})
}
