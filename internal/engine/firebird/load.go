package firebird

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/firebird/traits"
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
	return s, traits.Schema, nil
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

// plain are names of the demo's rows, as the engine has them that write them without quotes.
func plain(names []string) []string {
	folded := make([]string, len(names))
	for i, n := range names {
		folded[i] = strings.ToUpper(n)
	}
	return folded
}

// inOneBlock is how many rows one block adds: each has a statement of its own.
const inOneBlock = 250

var literals = engine.Literals{Text: traits.Literal, True: "TRUE", False: "FALSE", Moment: time.DateTime}

// Load adds rows, many to a block, in a transaction of their own.
func (s *session) Load(ctx context.Context, table catalog.Ref, columns []string, next func() []any) error {
	if err := s.commit(); err != nil { // what made the table
		return s.said(ctx, err)
	}
	if err := s.begin(ctx, forWriting); err != nil {
		return s.said(ctx, err)
	}
	into := fmt.Sprintf("INSERT INTO %s (%s) VALUES (", traits.Ident(strings.ToUpper(table.Table)), traits.Idents(plain(columns)))
	err := literals.Batches(inOneBlock, next, func(rows []string) error {
		return s.Exec(ctx, "EXECUTE BLOCK AS\nBEGIN\n"+into+strings.Join(rows, ");\n"+into)+");\nEND")
	})
	if err != nil {
		return err
	}
	return s.said(ctx, s.commit())
}
