package test

import (
	"os/exec"
	"strings"
	"testing"
	"time"

	"nexdal/test/server"
)

// TestHeld: a table that somebody holds is told as not read, and costs the survey of the others
// nothing; no script alters it.
func TestHeld(t *testing.T) {
	t.Parallel()
	p := server.StartPostgres(t)
	name, folder := p.Database(t), t.TempDir()
	p.Query(t, name, `CREATE TABLE station (id int PRIMARY KEY, code text, depth int CHECK (depth > 0)); CREATE TABLE gauge (id int PRIMARY KEY, station_id int REFERENCES station); CREATE TABLE visit (id int PRIMARY KEY, station_id int REFERENCES station);
		CREATE TABLE reading (id int, at date NOT NULL) PARTITION BY RANGE (at); CREATE TABLE reading_1 PARTITION OF reading FOR VALUES FROM ('2026-01-01') TO ('2026-02-01'); CREATE TABLE reading_2 PARTITION OF reading DEFAULT;
		CREATE INDEX low ON visit (lower(id::text)) WHERE id > 3; ALTER TABLE visit ENABLE ROW LEVEL SECURITY; CREATE POLICY own ON visit USING (id > 3); CREATE VIEW seen AS SELECT id FROM visit; CREATE RULE r AS ON DELETE TO visit DO INSTEAD NOTHING`)
	holder := exec.Command(server.Psql(), "-X", "-q", "-h", p.Folder, "-U", "postgres", "-d", name, "-c", "BEGIN; LOCK TABLE visit, reading_1 IN ACCESS EXCLUSIVE MODE; SELECT pg_sleep(60)")
	if err := holder.Start(); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { holder.Process.Kill(); holder.Wait() })
	for range 100 {
		if strings.TrimSpace(p.Query(t, name, "SELECT count(*) FROM pg_locks WHERE mode = 'AccessExclusiveLock' AND relation = 'visit'::regclass")) == "1" {
			break
		}
		time.Sleep(20 * time.Millisecond)
	}
	r := nexdal(t, folder, "survey", p.URL(name), "-o", "s.json", "--lock-timeout", "200ms")
	if r.status != 0 {
		t.Fatalf("status %d: %s", r.status, r.err)
	}
	match(t, "what is not read", r.err, `(?s)view seen: somebody holds.*reading_1 .*somebody holds.*visit .*somebody holds`)
	script := must(t, folder, "script", "fix", "s.json")
	if !strings.Contains(script, "ON public.gauge") || strings.Contains(script, "ON public.visit") {
		t.Errorf("the script:\n%s", script)
	}
	match(t, "what is left", strings.Join(strings.Fields(strings.ReplaceAll(script, "\n--", " ")), " "), `not scripted: not everything of visit was read`)
}
