package redshift

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ask"
	"nexdal/internal/evidence"
)

// The default time-outs: a survey must never be what others wait for.
const (
	connectTimeout   = 10 * time.Second
	statementTimeout = 5 * time.Minute
)

type session struct {
	conn    *pgx.Conn
	place   string
	options engine.Options
}

// Open connects; what the URL leaves out comes from the PG* variables and the password
// file, as with psql.
func (Engine) Open(ctx context.Context, address string, o engine.Options) (engine.Session, error) {
	config, err := pgx.ParseConfig("postgres" + strings.TrimPrefix(address, "redshift"))
	if err != nil {
		return nil, &engine.SourceError{Place: engine.Redact(address), Kind: engine.ErrWrongAddress, Hint: "write redshift://user@host:5439/database"}
	}
	if config.ConnectTimeout == 0 {
		config.ConnectTimeout = connectTimeout
	}
	config.RuntimeParams["application_name"] = "nexdal"
	place := fmt.Sprintf("%s at %s:%d", config.Database, config.Host, config.Port)
	conn, err := pgx.ConnectConfig(ctx, config)
	if err != nil {
		return nil, unreachable(ctx, place, err)
	}
	s := &session{conn: conn, place: place, options: o}
	if o.StatementTimeout == 0 {
		s.options.StatementTimeout = statementTimeout
	}
	if !o.Write {
		if err := s.Exec(ctx, fmt.Sprintf("SET statement_timeout TO %d", s.options.StatementTimeout.Milliseconds())); err != nil {
			s.Close()
			return nil, err
		}
	}
	return s, nil
}

func unreachable(ctx context.Context, place string, err error) error {
	if ctx.Err() != nil {
		return ctx.Err()
	}
	e := &engine.SourceError{Place: place, Kind: engine.ErrUnreachable, Err: err, Hint: "check host, port (5439) and whether the cluster lets you in"}
	var said *pgconn.PgError
	if errors.As(err, &said) {
		e.Err = errors.New(said.Message)
		if strings.HasPrefix(said.Code, "28") {
			e.Kind, e.Hint = engine.ErrRefused, "check the user and the password (PGPASSWORD, or the password file)"
		}
	} else if i := strings.LastIndex(err.Error(), ": "); i >= 0 {
		e.Err = errors.New(err.Error()[i+2:])
	}
	return e
}

// Place names database and cluster.
func (s *session) Place() string { return s.place }

// Close ends the session.
func (s *session) Close() error {
	ctx, cancel := context.WithTimeout(context.Background(), 2*time.Second)
	defer cancel()
	return s.conn.Close(ctx)
}

// Exec carries out one statement as it stands.
func (s *session) Exec(ctx context.Context, sql string) error {
	_, err := s.conn.PgConn().Exec(ctx, sql).ReadAll()
	return s.statement(ctx, err)
}

func (s *session) statement(ctx context.Context, err error) error {
	var said *pgconn.PgError
	switch {
	case err == nil || ctx.Err() != nil:
		return err
	case errors.As(err, &said):
		e := &engine.StatementError{Code: said.Code, Err: errors.New(said.Message)}
		switch said.Code {
		case "42701", "42710", "42P06", "42P07":
			e.Exists = true
		case "42703", "42704", "42P01", "3F000":
			e.Missing = true
		case "55P03":
			e.Busy = true
		}
		return e
	}
	return &engine.SourceError{Place: s.place, Kind: engine.ErrUnreachable, Err: errors.New("the connection broke"), Hint: "see whether the cluster still runs, and try again"}
}

// Rows sends a query and takes the answer as text.
func (s *session) Rows(ctx context.Context, sql string, max int) (names []string, all [][]string, err error) {
	results, err := s.conn.PgConn().Exec(ctx, sql).ReadAll()
	if err != nil {
		return nil, nil, s.statement(ctx, err)
	}
	if len(results) == 0 {
		return nil, nil, nil
	}
	for _, f := range results[0].FieldDescriptions {
		names = append(names, f.Name)
	}
	for _, row := range results[0].Rows {
		if len(all) == max {
			break
		}
		values := make([]string, len(row))
		for i, v := range row {
			if values[i] = string(v); v == nil {
				values[i] = "null"
			}
		}
		all = append(all, values)
	}
	return names, all, nil
}

// Rollback ends an open transaction.
func (s *session) Rollback(ctx context.Context) error { return s.Exec(ctx, "ROLLBACK") }

// inOne is how many rows one INSERT carries.
const inOne = 500

// Load adds rows by INSERT, many to a statement: COPY takes files of the cluster's own
// storage alone.
func (s *session) Load(ctx context.Context, table catalog.Ref, columns []string, next func() []any) error {
	for {
		var rows []string
		for len(rows) < inOne {
			row := next()
			if row == nil {
				break
			}
			values := make([]string, len(row))
			for i, v := range row {
				values[i] = written(v)
			}
			rows = append(rows, "("+strings.Join(values, ", ")+")")
		}
		if len(rows) == 0 {
			return nil
		}
		if err := s.Exec(ctx, fmt.Sprintf("INSERT INTO %s (%s) VALUES %s", relation(table), idents(columns), strings.Join(rows, ", "))); err != nil {
			return err
		}
	}
}

func written(v any) string {
	switch v := v.(type) {
	case nil:
		return "NULL"
	case string:
		return literal(v)
	case time.Time:
		if v.Equal(v.Truncate(24 * time.Hour)) {
			return literal(v.Format(time.DateOnly))
		}
		return literal(v.Format(time.DateTime))
	case bool:
		return strings.ToUpper(fmt.Sprint(v))
	}
	return fmt.Sprint(v)
}

// Asker limits the session's statements. Patterns are asked for by REGEXP_INSTR
// (https://docs.aws.amazon.com/redshift/latest/dg/REGEXP_INSTR.html).
func (s *session) Asker(ctx context.Context) (evidence.Asker, error) {
	return ask.New(s.Rows, ask.Dialect{Quoting: quoting, Relation: relation, Text: "CAST(%s AS VARCHAR)", Length: "LEN(%s)",
		Number:  `REGEXP_INSTR(%[1]s, '^[-+]?[0-9]+([.][0-9]*)?([eE][-+]?[0-9]+)?$') > 0`,
		Date:    `REGEXP_INSTR(%[1]s, '^[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])([ T][0-2][0-9]:[0-5][0-9].*)?$') > 0`,
		Ordered: func(t catalog.Type) bool { return t.Family != catalog.Boolean },
		Sample: func(t *catalog.Table, columns []string, rows int64) string {
			quoted := make([]string, len(columns))
			for i, c := range columns {
				quoted[i] = ident(c)
			}
			return ask.First(relation(t.Ref()), quoted, rows)
		},
		Next: func(*catalog.Table, *catalog.Column) string { return "" },
		Fault: func(err error) error {
			var said *engine.StatementError
			switch {
			case errors.As(err, &said) && said.Code == "57014":
				return evidence.ErrTimeout
			case errors.Is(err, engine.ErrUnreachable):
				return evidence.ErrLost
			}
			return nil
		}}), nil
}

// Build makes a schema and lets unqualified names lead there.
func (e Engine) Build(ctx context.Context, address, schema string) (engine.Loader, string, error) {
	opened, err := e.Open(ctx, address, engine.Options{Write: true})
	if err != nil {
		return nil, "", err
	}
	s := opened.(*session)
	for _, sql := range []string{"BEGIN", "CREATE SCHEMA " + ident(schema), "SET search_path TO " + ident(schema)} {
		if err := s.Exec(ctx, sql); err != nil {
			s.Close()
			return nil, "", &engine.SourceError{Place: s.place, Err: err, Hint: "drop the schema first, or give another with --schema"}
		}
	}
	return s, schema, nil
}

// Discard has nothing to do: what Build made is part of a transaction.
func (Engine) Discard(context.Context, string, string) error { return nil }
