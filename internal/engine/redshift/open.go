package redshift

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ask"
	"nexdal/internal/engine/pgwire"
	"nexdal/internal/evidence"
)

type session struct{ *pgwire.Session }

// Open connects; what the URL leaves out comes from the PG* variables and the password
// file, as with psql.
func (Engine) Open(ctx context.Context, address string, o engine.Options) (engine.Session, error) {
	config, err := pgx.ParseConfig("postgres" + strings.TrimPrefix(address, "redshift"))
	if err != nil {
		return nil, &engine.SourceError{Place: engine.Redact(address), Kind: engine.ErrWrongAddress, Hint: "write redshift://user@host:5439/database"}
	}
	wire, err := pgwire.Connect(ctx, config, o, "cluster")
	if err != nil {
		return nil, err
	}
	s := &session{wire}
	if o.StatementTimeout == 0 {
		s.Options.StatementTimeout = pgwire.StatementTimeout
	}
	if !o.Write {
		if err := s.Exec(ctx, fmt.Sprintf("SET statement_timeout TO %d", s.Options.StatementTimeout.Milliseconds())); err != nil {
			s.Close()
			return nil, err
		}
	}
	return s, nil
}

// inOne is how many rows one INSERT carries.
const inOne = 500

var literals = engine.Literals{Text: literal, True: "TRUE", False: "FALSE", Moment: time.DateTime}

// Load adds rows by INSERT, many to a statement: COPY takes files of the cluster's own
// storage alone.
func (s *session) Load(ctx context.Context, table catalog.Ref, columns []string, next func() []any) error {
	return literals.Batches(inOne, next, func(rows []string) error {
		return s.Exec(ctx, fmt.Sprintf("INSERT INTO %s (%s) VALUES %s", relation(table), idents(columns), engine.Values(rows)))
	})
}

// Asker puts its questions by the session, whose statements are limited.
func (s *session) Asker(context.Context) (evidence.Asker, error) {
	return ask.New(s.Rows, asking), nil
}

// asking: patterns are asked for by REGEXP_INSTR
// (https://docs.aws.amazon.com/redshift/latest/dg/REGEXP_INSTR.html), and no cast leads from a
// boolean to a text (https://docs.aws.amazon.com/redshift/latest/dg/r_Boolean_type.html).
var asking = ask.Dialect{Lexis: Engine{}.Dialect(), Quoting: quoting, Relation: relation, Text: "CAST(%s AS VARCHAR)", Length: "LEN(%s)",
	Truth:   "CASE %s WHEN TRUE THEN 'true' WHEN FALSE THEN 'false' END",
	Number:  `REGEXP_INSTR(%[1]s, '^[-+]?[0-9]+([.][0-9]*)?([eE][-+]?[0-9]+)?$') > 0`,
	Date:    `REGEXP_INSTR(%[1]s, '^[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])([ T][0-2][0-9]:[0-5][0-9].*)?$') > 0`,
	Ordered: func(t catalog.Type) bool { return t.Family != catalog.Boolean },
	Sample: func(t *catalog.Table, columns []string, rows int64) string {
		quoted := make([]string, len(columns))
		for i, c := range columns {
			quoted[i] = ident(c)
		}
		return ask.First(quoting, relation(t.Ref()), quoted, rows)
	},
	Next:  func(*catalog.Table, *catalog.Column) string { return "" },
	Fault: func(err error) error { return pgwire.Fault(err, evidence.ErrTimeout, evidence.ErrLost) },
}

// Build makes a schema and lets unqualified names lead there.
func (e Engine) Build(ctx context.Context, address, schema string) (engine.Loader, string, error) {
	opened, err := e.Open(ctx, address, engine.Options{Write: true})
	if err != nil {
		return nil, "", err
	}
	s := opened.(*session)
	if err := s.BuildIn(ctx, ident(schema)); err != nil {
		return nil, "", err
	}
	return s, schema, nil
}

// Discard has nothing to do: what Build made is part of a transaction.
func (Engine) Discard(context.Context, string, string) error { return nil }
