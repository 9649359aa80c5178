package test

import (
	"encoding/json"
	"fmt"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"nexdal/test/server"
)

// TestBrokenCatalog: what the engine itself cannot show is a gap, and the rest
// is read all the same.
func TestBrokenCatalog(t *testing.T) {
	t.Parallel()
	p, m := server.StartPostgres(t), server.StartMariaDB(t)
	if p.Major() < 13 {
		t.Skip("system tables cannot be altered without a restart")
	}
	pg, maria := p.Database(t), m.Database(t)
	p.Query(t, pg, `CREATE TABLE station (id bigint PRIMARY KEY, code text); CREATE INDEX station_code ON station (lower(code));
		CREATE FUNCTION shout(t text) RETURNS text LANGUAGE sql IMMUTABLE AS 'SELECT upper(t)';
		CREATE VIEW loud AS SELECT shout(code) AS code FROM station; CREATE VIEW quiet AS SELECT code FROM station; CREATE VIEW later AS SELECT id FROM station;
		SET allow_system_table_mods = on; DELETE FROM pg_proc WHERE proname = 'shout'; UPDATE pg_index SET indisvalid = false WHERE indexrelid = 'station_code'::regclass`)
	m.Query(t, maria, "CREATE TABLE station (id bigint PRIMARY KEY, code varchar(9)); CREATE TABLE gone (a int); CREATE VIEW broken AS SELECT a FROM gone; CREATE VIEW quiet AS SELECT code FROM station; DROP TABLE gone")
	folder := t.TempDir()
	for _, c := range []struct{ source, command, want string }{
		{p.URL(pg), "outline", `(?s)1 table, 3 views.*Not read.*definition of view loud: .*cache lookup failed`},
		{p.URL(pg), "describe quiet", `SELECT (station\.)?code`},
		{p.URL(pg), "describe station", `station_code +btree, not valid`},
		{p.URL(pg), "script create", `(?s)CREATE VIEW public.later.*Not as it was:.*index public.station_code: it is broken.*view public.loud: its query was not read`},
		{m.URL(maria), "outline", `1 table, 2 views`},
		{m.URL(maria), "describe quiet", `select .*code.* from`},
		{m.URL(maria), "script create", "(?s)CREATE VIEW `broken` AS .*CREATE VIEW `quiet`"},
	} {
		args := strings.Fields(c.command)
		if args[0] == "script" {
			args = append(args, c.source)
		} else {
			args = append([]string{args[0], c.source}, args[1:]...)
		}
		match(t, c.command, must(t, folder, args...), c.want)
	}
}

// TestChangingCatalog surveys while tables come and go.
func TestChangingCatalog(t *testing.T) {
	t.Parallel()
	p := server.StartPostgres(t)
	name := p.Database(t)
	p.Query(t, name, "CREATE TABLE stays (id bigint PRIMARY KEY, at timestamptz DEFAULT now(), CHECK (id > 0))")
	stop, done := make(chan bool), make(chan error, 1)
	go func() {
		for i := 0; ; i++ {
			select {
			case <-stop:
				done <- nil
				return
			default:
			}
			c := exec.Command(server.Psql(), "-X", "-q", "-v", "ON_ERROR_STOP=1", "-h", p.Folder, "-U", "postgres", "-d", name)
			c.Stdin = strings.NewReader(strings.Repeat(`CREATE TABLE comes (id serial PRIMARY KEY, code text DEFAULT 'x' CHECK (code <> ''), half int GENERATED ALWAYS AS (id / 2) STORED);
				CREATE INDEX comes_code ON comes (lower(code)) WHERE id > 1; CREATE VIEW seen AS SELECT * FROM comes; ALTER TABLE comes ADD more int; DROP TABLE comes CASCADE;`+"\n", 20))
			if out, err := c.CombinedOutput(); err != nil {
				done <- fmt.Errorf("%v: %s", err, out)
				return
			}
		}
	}()
	for range 15 {
		r := nexdal(t, "/", "survey", p.URL(name))
		if r.status != 0 || !strings.Contains(r.out, `"name": "stays"`) {
			t.Errorf("status %d: %s", r.status, r.err)
		}
	}
	close(stop)
	if err := <-done; err != nil {
		t.Fatal(err)
	}
}

// TestServerGone cuts the connection in the middle of a survey.
func TestServerGone(t *testing.T) {
	t.Parallel()
	p := server.StartPostgres(t)
	name, folder := p.Database(t), t.TempDir()
	p.Query(t, name, "CREATE TABLE station (id bigint PRIMARY KEY)")
	release := hold(t, p, name, "LOCK TABLE pg_catalog.pg_attrdef IN ACCESS EXCLUSIVE MODE;")
	defer release()
	some(t, p, name, "SELECT count(*) FROM pg_locks WHERE relation = 'pg_attrdef'::regclass AND mode = 'AccessExclusiveLock' AND granted")
	c := command(folder, "survey", p.URL(name), "-o", "a.json", "--lock-timeout", "30s")
	ended := make(chan result, 1)
	go func() { ended <- call(t, c) }()
	some(t, p, "postgres", "SELECT count(pg_terminate_backend(pid)) FROM pg_stat_activity WHERE datname = '"+name+"' AND application_name = 'nexdal' AND wait_event_type = 'Lock'")
	r := <-ended
	if match(t, "the survey", r.err, `^nexdal: .* at .*; `); r.status != 3 || strings.Count(strings.TrimSpace(r.err), "\n") > 0 {
		t.Errorf("status %d: %s", r.status, r.err)
	}
	if left, err := filepath.Glob(filepath.Join(folder, "*")); err != nil || len(left) > 0 {
		t.Errorf("left behind: %v (%v)", left, err)
	}
}

// TestNullIsNoText: a text that reads null is a value like any other, on every engine, and
// a NULL is none.
func TestNullIsNoText(t *testing.T) {
	t.Parallel()
	p, m := server.StartPostgres(t), server.StartMariaDB(t)
	pg, maria, file := p.Database(t), m.Database(t), filepath.Join(t.TempDir(), "a.db")
	sql := "CREATE TABLE note (id integer NOT NULL PRIMARY KEY, word varchar(10), gone varchar(10));"
	for i, word := range []string{"'a'", "'null'", "'null'", "NULL"} {
		sql += fmt.Sprintf("INSERT INTO note VALUES (%d, %s, NULL);", i, word)
	}
	p.Query(t, pg, sql)
	m.Query(t, maria, sql)
	sqlite(t, file, sql)
	for _, source := range []string{p.URL(pg), m.URL(maria), file} {
		folder := t.TempDir()
		must(t, folder, "probe", source, "-o", "e.json")
		var e struct {
			Columns []struct {
				Column          string
				Nulls           int
				Least, Greatest *string
			}
		}
		if err := json.Unmarshal([]byte(read(t, filepath.Join(folder, "e.json"))), &e); err != nil {
			t.Fatal(err)
		}
		for _, c := range e.Columns {
			switch {
			case c.Column == "word" && (c.Greatest == nil || *c.Greatest != "null" || c.Least == nil || *c.Least != "a" || c.Nulls != 1):
				t.Errorf("%s: %+v", source, c)
			case c.Column == "gone" && (c.Greatest != nil || c.Least != nil || c.Nulls != 4):
				t.Errorf("%s: %+v", source, c)
			}
		}
	}
}
