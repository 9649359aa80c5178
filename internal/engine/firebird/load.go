package firebird

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
)

// Build fills the empty database of the address.
func (e Engine) Build(ctx context.Context, address, _ string) (engine.Loader, string, error) {
	opened, err := e.Open(ctx, address, engine.Options{Write: true})
	if err != nil {
		return nil, "", err
	}
	s := opened.(*session)
	c, err := s.Survey(ctx)
	if err == nil && c.Schemas[0].Size() > 0 {
		err = errors.New("it is not empty")
	}
	if err != nil {
		s.Close()
		return nil, "", &engine.SourceError{Place: s.place, Err: err, Hint: "give an empty database: isql-fb, CREATE DATABASE 'saltmere.fdb' DEFAULT CHARACTER SET UTF8"}
	}
	return s, schema, nil
}

// Discard empties the database that Build filled.
func (e Engine) Discard(ctx context.Context, address, _ string) error {
	opened, err := e.Open(ctx, address, engine.Options{Write: true})
	if err != nil {
		return err
	}
	defer opened.Close()
	return opened.(*session).empty(ctx)
}

// Load adds rows by a prepared statement, in a transaction of their own.
func (s *session) Load(ctx context.Context, table catalog.Ref, columns []string, next func() []any) error {
	if err := s.commit(); err != nil { // what made the table
		return s.said(ctx, err)
	}
	if err := s.begin(ctx, forWriting); err != nil {
		return s.said(ctx, err)
	}
	marks := strings.TrimSuffix(strings.Repeat("?, ", len(columns)), ", ")
	st, err := s.conn.PrepareContext(ctx, fmt.Sprintf("INSERT INTO %s (%s) VALUES (%s)", relation(table), idents(columns), marks))
	if err != nil {
		return s.said(ctx, err)
	}
	defer st.Close()
	for row := next(); row != nil; row = next() {
		if _, err := st.ExecContext(ctx, row...); err != nil {
			return s.said(ctx, err)
		}
	}
	return nil
}
