package bigquery

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
)

// Build makes a dataset in the project of the address, which names that project alone or this
// dataset.
func (e Engine) Build(ctx context.Context, url, schema string) (engine.Loader, string, error) {
	at, err := parse(url)
	if err != nil {
		return nil, "", err
	}
	if at.dataset != "" && at.dataset != schema {
		return nil, "", &engine.SourceError{Place: at.place(), Kind: engine.ErrWrongAddress, Hint: "name the project alone, or the dataset that is to be made: " + schema}
	}
	project := at
	project.dataset = ""
	opened, err := e.Open(ctx, project.String(), engine.Options{Write: true})
	if err != nil {
		return nil, "", err
	}
	s := opened.(*session)
	list := ""
	if at.location != "" {
		list = options([]string{"location=" + literal(at.location)})
	}
	if err := s.Exec(ctx, "CREATE SCHEMA "+whole(schema)+list); err != nil {
		return nil, "", &engine.SourceError{Place: at.place(), Err: err, Hint: "drop the dataset first, or give another with --schema"}
	}
	return s, schema, nil
}

// Discard takes the dataset away that Build made.
func (e Engine) Discard(ctx context.Context, url, schema string) error {
	opened, err := e.Open(ctx, url, engine.Options{Write: true})
	if err != nil {
		return err
	}
	return opened.(*session).Exec(ctx, "DROP SCHEMA IF EXISTS "+whole(schema)+" CASCADE")
}

// inOne is how many rows one INSERT carries: a statement has a megabyte at most
// (https://cloud.google.com/bigquery/quotas#query_jobs).
const inOne = 1000

var literals = engine.Literals{Text: literal, True: "TRUE", False: "FALSE", Moment: time.DateTime}

// Load adds rows, many to a statement.
func (s *session) Load(ctx context.Context, table catalog.Ref, columns []string, next func() []any) error {
	return literals.Batches(inOne, next, func(rows []string) error {
		return s.Exec(ctx, fmt.Sprintf("INSERT INTO %s (%s) VALUES %s", relation(table), idents(columns), engine.Values(rows)))
	})
}

// GuardsLost lists the row access policies of tables that the statements would copy: a copy shows all
// rows to everybody who may read it.
func (s *session) GuardsLost(ctx context.Context, tables []catalog.Ref, statements []string) ([]string, error) {
	var all []string
	for _, ref := range tables {
		if !slices.ContainsFunc(statements, func(sql string) bool { return strings.HasPrefix(sql, "ALTER TABLE "+relation(ref)+" RENAME TO ") }) {
			continue
		}
		names, err := s.policies(ctx, ref.Schema, ref.Table)
		var f *fault
		if errors.As(err, &f) && f.code == http.StatusNotFound {
			continue // the script makes it
		}
		if err != nil {
			return nil, s.wrap(ctx, err)
		}
		for _, name := range names {
			all = append(all, fmt.Sprintf("row access policy %s of %s", name, ref))
		}
	}
	return all, nil
}
