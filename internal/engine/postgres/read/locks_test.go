package read

import (
	"cmp"
	"os"
	"strings"
	"testing"

	"github.com/jackc/pgx/v5"

	"nexdal/internal/engine"
	"nexdal/internal/engine/pgwire"
	"nexdal/test/server"
)

// watched has somebody look at the server once a question is answered.
type watched struct {
	*live
	asked    func(query string)
	answered int    // questions for texts
	last     string // question
}

func (w *watched) put(q question, take func(v row) error) error {
	err := w.live.put(q, take)
	if !q.vain && (q.of == nil || len(q.of.oids) > 0) {
		w.last = q.text
		w.asked(q.text)
	}
	return err
}

func (w *watched) texts(q question, take func(v row) error, lost func(uint32, string)) error {
	err := w.live.texts(q, take, lost)
	w.answered++
	w.asked(q.text)
	return err
}

// TestLocksLetGo: a survey holds no lock on a relation of the database once a question is answered:
// whoever alters two of those that a view reads would otherwise meet it in a deadlock.
func TestLocksLetGo(t *testing.T) {
	p := server.StartPostgres(t)
	db := p.Database(t)
	text, err := os.ReadFile("../../../../test/testdata/everything.postgres.sql")
	if err != nil {
		t.Fatal(err)
	}
	p.Query(t, db, string(text))
	config, err := pgx.ParseConfig(p.URL(db))
	if err != nil {
		t.Fatal(err)
	}
	connect := func() *pgx.Conn {
		t.Helper()
		s, err := pgwire.Connect(t.Context(), config, engine.Options{}, "server")
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(func() { s.Close() })
		return s.Conn
	}
	conn, other := connect(), connect()
	tx, err := conn.BeginTx(t.Context(), pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly})
	if err != nil {
		t.Fatal(err)
	}
	defer tx.Rollback(t.Context())
	if _, err := tx.Exec(t.Context(), Spelling, pgx.QueryExecModeSimpleProtocol); err != nil {
		t.Fatal(err)
	}
	w := &watched{live: &live{ctx: t.Context(), tx: tx}, asked: func(query string) {
		var held *string
		err := other.QueryRow(t.Context(), "SELECT string_agg(DISTINCT relation::regclass || ' ' || mode, ', ') FROM pg_locks WHERE pid = $1 AND relation >= "+own, conn.PgConn().PID()).Scan(&held)
		if strings.Contains(query, "pg_sequence_last_value") {
			return // the last of all
		}
		if err != nil || held != nil {
			t.Errorf("behind %.120s: %v, locks on %v", query, err, *cmp.Or(held, new(string)))
		}
	}}
	c, err := newReader(w).read(func() error { return nil })
	if err != nil {
		t.Fatal(err)
	}
	if w.answered == 0 || len(c.Schemas) == 0 || !strings.Contains(w.last, "pg_sequence_last_value") {
		t.Fatalf("%d texts were asked for, and last of all %s", w.answered, w.last)
	}
}
