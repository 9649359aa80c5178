package pgwire

import (
	"context"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"

	"nexdal/internal/engine"
)

// tracer tells of the statements that pgx sends; what goes by the simple protocol is told by
// [Session.simple].
type tracer struct{ watch engine.Watch }

type traced struct{}

type begun struct {
	statement string
	at        time.Time
}

// TraceQueryStart is called by pgx.
func (t tracer) TraceQueryStart(ctx context.Context, _ *pgx.Conn, q pgx.TraceQueryStartData) context.Context {
	return context.WithValue(ctx, traced{}, begun{q.SQL, time.Now()})
}

// TraceQueryEnd is called by pgx.
func (t tracer) TraceQueryEnd(ctx context.Context, _ *pgx.Conn, q pgx.TraceQueryEndData) {
	if b, ok := ctx.Value(traced{}).(begun); ok {
		t.watch(b.statement, time.Since(b.at), q.Err)
	}
}

// simple sends statements as they stand, by the simple protocol, and reads all of the answer.
func (s *Session) simple(ctx context.Context, sql string) ([]*pgconn.Result, error) {
	began := time.Now()
	results, err := s.Conn.PgConn().Exec(ctx, sql).ReadAll()
	if s.Options.Watch != nil {
		s.Options.Watch(sql, time.Since(began), err)
	}
	return results, err
}
