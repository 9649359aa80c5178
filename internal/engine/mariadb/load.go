package mariadb

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/mariadb/traits"
)

// Build makes a database on the server.
func (e Engine) Build(ctx context.Context, address, schema string) (engine.Loader, string, error) {
	opened, err := e.Open(ctx, address, engine.Options{Write: true})
	if err != nil {
		return nil, "", err
	}
	s := opened.(*session)
	if s.database != "" {
		s.Close()
		return nil, "", &engine.SourceError{Place: s.place, Kind: engine.ErrWrongAddress, Err: errors.New("the demo makes a database of its own"), Hint: "leave the database out of the URL"}
	}
	// Rows come in an order that the foreign keys hold to; checking them one
	// by one would only take its time.
	for _, sql := range []string{"CREATE DATABASE " + traits.Ident(schema) + " CHARACTER SET utf8mb4", "USE " + traits.Ident(schema), "SET SESSION foreign_key_checks = 0, unique_checks = 0", "BEGIN"} {
		if err := s.Exec(ctx, sql); err != nil {
			s.Close()
			return nil, "", &engine.SourceError{Place: s.place, Err: err, Hint: "drop the database first, or give another with --schema"}
		}
	}
	return s, schema, nil
}

// Discard drops the database that Build made: it was empty before.
func (e Engine) Discard(ctx context.Context, address, schema string) error {
	s, err := e.Open(ctx, address, engine.Options{Write: true})
	if err != nil {
		return err
	}
	defer s.Close()
	return s.(*session).Exec(ctx, "DROP DATABASE "+traits.Ident(schema))
}

// atOnce is how many rows one INSERT carries.
const atOnce = 500

// Load adds rows, many to a statement.
func (s *session) Load(ctx context.Context, table catalog.Ref, columns []string, next func() []any) error {
	marks := "(" + strings.TrimSuffix(strings.Repeat("?,", len(columns)), ",") + ")"
	insert := fmt.Sprintf("INSERT INTO %s (%s) VALUES ", traits.Relation(table), traits.Idents(columns))
	for {
		var values []any
		rows := 0
		for rows < atOnce {
			row := next()
			if row == nil {
				break
			}
			values = append(values, row...)
			rows++
		}
		if rows == 0 {
			return nil
		}
		if _, err := s.conn.ExecContext(ctx, insert+strings.TrimSuffix(strings.Repeat(marks+",", rows), ","), values...); err != nil {
			return s.statement(ctx, err)
		}
	}
}
