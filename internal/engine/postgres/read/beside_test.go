package read

import (
	"bytes"
	"context"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"

	"nexdal/internal/engine"
	"nexdal/internal/engine/pgwire"
	"nexdal/test/server"
)

func TestMain(m *testing.M) { server.Main(m) }

// TestBeside: a survey over several connections reads the same as one over a single
// connection, of the snapshot that its first question saw; and one that is given no
// further connection, or loses it half way, does as well.
func TestBeside(t *testing.T) {
	p := server.StartPostgres(t)
	db := p.Database(t)
	text, err := os.ReadFile("../../../../test/testdata/everything.postgres.sql")
	if err != nil {
		t.Fatal(err)
	}
	p.Query(t, db, string(text))
	p.Query(t, db, "CREATE ROLE alone LOGIN SUPERUSER CONNECTION LIMIT 1")
	was := largeCatalog
	defer func() { largeCatalog = was }()
	open := func(ctx context.Context, url string) *pgwire.Session {
		t.Helper()
		config, err := pgx.ParseConfig(url)
		if err != nil {
			t.Fatal(err)
		}
		s, err := pgwire.Connect(ctx, config, engine.Options{}, "server")
		if err != nil {
			t.Fatal(err)
		}
		return s
	}
	read := func(large int, url string) string {
		t.Helper()
		largeCatalog = large
		s := open(t.Context(), url)
		defer s.Close()
		c, err := Survey(t.Context(), s)
		if err != nil {
			t.Fatal(err)
		}
		c.Surveyed = time.Time{}
		var b bytes.Buffer
		if err := c.Write(&b, true); err != nil {
			t.Fatal(err)
		}
		return b.String()
	}
	// The server counts some time after the fact: what two surveys say has to be the same once it has.
	same := func(url string, between func()) bool {
		for range 20 {
			several := read(0, url)
			between()
			if read(1_000_000, url) == several {
				return true
			}
			time.Sleep(250 * time.Millisecond)
		}
		return false
	}
	if !same(p.URL(db), func() {}) {
		t.Error("over several connections the survey is another")
	}
	if p.Major() < 14 {
		return // no role of theirs may read everything without being a superuser, who has no limit
	}
	limited := strings.Replace(p.URL(db), "postgres@", "alone@", 1)
	if limited == p.URL(db) {
		t.Fatalf("no user in %s", p.URL(db))
	}
	p.Query(t, db, "ALTER ROLE alone NOSUPERUSER; GRANT pg_read_all_data TO alone") // superusers have no limit
	// A session that was closed is gone from the server a moment later.
	left := func(where, most string) {
		t.Helper()
		n := ""
		for range 200 {
			n = strings.TrimSpace(p.Query(t, db, "SELECT count(*) FROM pg_stat_activity WHERE "+where))
			if n <= most {
				return
			}
			time.Sleep(50 * time.Millisecond)
		}
		t.Errorf("%s connections are left", n)
	}
	if !same(limited, func() { left("usename = 'alone'", "0") }) {
		t.Error("without a further connection the survey is another")
	}
	// A time-out that ends the questions of the others as well is told, not survived.
	largeCatalog = 0
	ctx, cancel := context.WithCancel(t.Context())
	s := open(ctx, p.URL(db))
	defer s.Close()
	cancel()
	if _, err := Survey(ctx, s); err == nil {
		t.Error("a survey that was called off reads all the same")
	}
	left("application_name = 'nexdal'", "1")
}

// TestAnswer: rows come in order and once, from a question that ends well, fails at once
// or fails half way.
func TestAnswer(t *testing.T) {
	for name, c := range map[string]struct {
		rows int
		err  error
		asks bool // the question is put again
		over bool // the survey starts over
	}{
		"well":      {rows: 1000},
		"nothing":   {},
		"at once":   {err: context.DeadlineExceeded, asks: true},
		"half way":  {rows: 700, err: context.DeadlineExceeded, over: true},
		"first one": {rows: 1, err: context.DeadlineExceeded, over: true},
	} {
		a := newAnswer()
		b := &beside{answers: map[string]*answer{"q": a}}
		go func() {
			for i := range c.rows {
				a.put([]row{{[]byte{byte(i), byte(i >> 8)}}})
			}
			a.end(c.err)
		}()
		n := 0
		ok, err := b.answered("q", func(v row) error {
			if got := int(v[0][0]) | int(v[0][1])<<8; got != n {
				t.Errorf("%s: row %d comes as number %d", name, got, n)
			}
			n++
			return nil
		})
		if ok == c.asks || (err != nil) != c.over || n != c.rows {
			t.Errorf("%s: %d rows, answered %v, %v", name, n, ok, err)
		}
		if ok, _ := b.answered("another", nil); ok {
			t.Error("what was not put is answered")
		}
	}
}
