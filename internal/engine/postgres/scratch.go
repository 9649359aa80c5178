package postgres

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/postgres/traits"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/pattern"
)

// Scratch makes a database of a name that nobody has, beside the one of the
// address.
func (e Engine) Scratch(ctx context.Context, address string, like *catalog.Catalog) (engine.Runner, func(context.Context) error, error) {
	config, err := pgx.ParseConfig(address)
	if err != nil {
		return nil, nil, wrongAddress(address)
	}
	server, err := connect(ctx, config, engine.Options{Write: true})
	if err != nil {
		return nil, nil, err
	}
	gone, err := foundations(ctx, server, like)
	if err != nil {
		server.Close()
		return nil, nil, err
	}
	name := fmt.Sprintf("nexdal_rehearsal_%x", time.Now().UnixNano())
	// A template of nobody's making, so that nothing is there already.
	if err := server.Exec(ctx, "CREATE DATABASE "+traits.Ident(name)+" TEMPLATE template0"); err != nil {
		err = errors.Join(&engine.SourceError{Place: server.Place(), Err: err, Hint: "the user needs the right to create databases"}, gone(context.WithoutCancel(ctx)))
		server.Close()
		return nil, nil, err
	}
	drop := func(ctx context.Context) error {
		defer server.Close()
		return errors.Join(server.Exec(ctx, "DROP DATABASE "+traits.Ident(name)), gone(ctx))
	}
	config = config.Copy()
	config.Database = name
	twin, err := connect(ctx, config, engine.Options{Write: true})
	if err != nil {
		return nil, nil, errors.Join(err, drop(context.WithoutCancel(ctx)))
	}
	return twin, func(ctx context.Context) error {
		twin.Close()
		return drop(ctx)
	}, nil
}

// MayNotAlter lists tables of which the user is not the owner, nor of its role
// (https://www.postgresql.org/docs/current/sql-altertable.html: "You must own the
// table").
func (s *session) MayNotAlter(ctx context.Context, tables []catalog.Ref) ([]catalog.Ref, error) {
	_, rows, err := s.Rows(ctx, `SELECT n.nspname, c.relname FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
		WHERE c.relkind IN ('r', 'p', 'f') AND NOT pg_catalog.pg_has_role(c.relowner, 'USAGE')`, math.MaxInt)
	if err != nil {
		return nil, err
	}
	held := map[catalog.Ref]bool{}
	for _, row := range rows {
		r := row.Or("")
		held[catalog.Ref{Schema: r[0], Table: r[1]}] = true
	}
	var not []catalog.Ref
	for _, ref := range tables {
		if held[ref] {
			not = append(not, ref)
		}
	}
	return not, nil
}

// makes finds the statements that need the right to make something in the schema: indexes
// that come with constraints, and new names, among them.
var makes = pattern.New(`(?i)^\s*CREATE\s+(UNIQUE\s+)?(INDEX|TABLE|SEQUENCE|(MATERIALIZED\s+)?VIEW|FUNCTION|TYPE|STATISTICS)\b|\b(PRIMARY KEY|UNIQUE|AS IDENTITY|RENAME TO)\b`)

// MayNotCreate asks for the privilege CREATE on the schemas
// (https://www.postgresql.org/docs/current/ddl-priv.html).
func (s *session) MayNotCreate(ctx context.Context, schemas, statements []string) ([]string, error) {
	if !slices.ContainsFunc(statements, makes.MatchString) || len(schemas) == 0 {
		return nil, nil
	}
	_, rows, err := s.Rows(ctx, "SELECT nspname FROM pg_catalog.pg_namespace WHERE nspname IN ("+sqllex.Each(schemas, traits.Literal, ", ")+") AND NOT pg_catalog.has_schema_privilege(oid, 'CREATE') ORDER BY 1", math.MaxInt)
	var not []string
	for _, row := range rows {
		not = append(not, row.Or("")[0])
	}
	return not, err
}

// SampleOf lets the engine write its values out as literals.
func (Engine) SampleOf(t *catalog.Table, most int) string {
	var names, values []string
	for _, c := range t.Columns {
		if c.Generated == "" {
			names = append(names, traits.Ident(c.Name))
			values = append(values, "quote_nullable("+traits.Ident(c.Name)+"::text)")
		}
	}
	head := fmt.Sprintf("INSERT INTO %s (%s) OVERRIDING SYSTEM VALUE VALUES (", traits.Relation(t.Ref()), strings.Join(names, ", "))
	order := ""
	if t.PrimaryKey != nil {
		order = " ORDER BY " + traits.Idents(t.PrimaryKey.Columns)
	}
	return fmt.Sprintf("SELECT %s || concat_ws(', ', %s) || ')' FROM %s%s LIMIT %d", traits.Literal(head), strings.Join(values, ", "), traits.Relation(t.Ref()), order, most)
}

// CountOf counts.
func (Engine) CountOf(t catalog.Ref) string { return "SELECT count(*) FROM " + traits.Relation(t) }

// Kept: foreign keys are always kept.
func (Engine) Kept() []string { return nil }
