package test

import (
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"nexdal/test/server"
)

// shell runs a command line as people paste it, with the program on the path, and answers what it
// asks with yes.
func shell(t *testing.T, folder, line string, env ...string) result {
	t.Helper()
	c := exec.Command("sh", "-c", line)
	c.Dir = folder
	c.Env = append(command(folder).Env, append(env, "PATH="+filepath.Dir(program)+":"+os.Getenv("PATH"))...)
	c.Stdin = strings.NewReader("y\n")
	return call(t, c)
}

// TestTour: the tour of the README works line by line, in an empty folder.
func TestTour(t *testing.T) {
	t.Parallel()
	_, tour, _ := strings.Cut(read(t, "../README.md"), "\n## A tour\n")
	tour, _, _ = strings.Cut(tour, "\n## ")
	lines := regexp.MustCompile(`(?m)^    (nexdal .*)$`).FindAllStringSubmatch(tour, -1)
	if len(lines) < 15 {
		t.Fatalf("%d lines in the tour", len(lines))
	}
	folder, ran := t.TempDir(), ""
	for _, l := range lines {
		line, status := l[1], 0
		if strings.Contains(line, "# exit status 1") {
			status = 1
		}
		r := shell(t, folder, line)
		if r.status != status || r.out == "" && !strings.Contains(line, " -o ") {
			t.Fatalf("%s: status %d: %s%s", line, r.status, r.out, r.err)
		}
		ran += line + "\n" + r.out
	}
	for _, want := range []string{`What to do first`, `[0-9]+ of [0-9]+ findings gone`, `nothing else has moved`, `leads to where it began`} {
		match(t, "what the tour tells", ran, want)
	}
	for _, file := range []string{"saltmere.svg", "visit.png", "saltmere.html", "fix.reversal.sql", "create.sql", "repair.sql", "load.sql", "nexdal.decisions.yaml"} {
		if info, err := os.Stat(filepath.Join(folder, file)); err != nil || info.Size() == 0 {
			t.Errorf("the tour leaves no %s", file)
		}
	}
}

// TestNewcomer: three commands put the worst fault of the demo right, on each engine: a check, what
// its first finding says to type, and the run that this names. The engine itself shows that the
// fault is there before, and not after.
func TestNewcomer(t *testing.T) {
	t.Parallel()
	p, m := server.StartPostgres(t), server.StartMariaDB(t)
	name := p.Database(t)
	for _, c := range []struct {
		engine, source string
		fails          func(folder string) string // what the engine says of it
	}{
		{"sqlite", "saltmere.db", func(folder string) string {
			return sqlite(t, filepath.Join(folder, "saltmere.db"), "SELECT group_concat(on_delete) FROM pragma_foreign_key_list('gauge') WHERE \"table\" = 'station'")
		}},
		{"postgres", p.URL(name), func(string) string {
			return p.Query(t, name, "SELECT string_agg(confdeltype::text, ',') FROM pg_constraint WHERE conrelid = 'newcomer.gauge'::regclass AND confrelid = 'newcomer.station'::regclass")
		}},
		{"mariadb", m.URL(""), func(string) string {
			return m.Query(t, "newcomer", "SELECT COUNT(*) FROM information_schema.statistics WHERE table_schema = 'newcomer' AND table_name = 'weather_sign' AND non_unique = 0")
		}},
	} {
		folder := t.TempDir()
		build := []string{"demo", "--build-only", "--engine", c.engine, "--folder", "."}
		only := ""
		if c.engine != "sqlite" {
			build = append(build, "--on", c.source, "--schema", "newcomer")
			only = " --schema newcomer"
		}
		must(t, folder, build...)
		r := shell(t, folder, "nexdal check '"+c.source+"'"+only)
		if r.status != 1 {
			t.Fatalf("%s: status %d: %s", c.engine, r.status, r.err)
		}
		first := regexp.MustCompile(`(?s)\n  1  .*?\n     (nexdal script fix [^\n]*)`).FindStringSubmatch(r.out)
		if first == nil || strings.Contains(first[0], "\n  2  ") {
			t.Fatalf("%s: the first finding names no command:\n%.900s", c.engine, r.out)
		}
		id := regexp.MustCompile(`--finding ('[^']*'|\S+)`).FindStringSubmatch(first[1])[1]
		was := c.fails(folder)
		r = shell(t, folder, first[1])
		if r.status != 0 {
			t.Fatalf("%s: %s: status %d: %s", c.engine, first[1], r.status, r.err)
		}
		run := regexp.MustCompile(`(?m)^carry it out: (nexdal run .*)$`).FindStringSubmatch(r.err)
		if run == nil {
			t.Fatalf("%s: the script names no run: %s", c.engine, r.err)
		}
		r = shell(t, folder, run[1])
		if r.status != 0 || !strings.Contains(r.out, "1 of 1 finding gone") || !strings.Contains(r.out, "nothing else has moved") {
			t.Fatalf("%s: %s: status %d: %s%s", c.engine, run[1], r.status, r.out, r.err)
		}
		if is := c.fails(folder); is == was {
			t.Errorf("%s: to the engine nothing has changed: %s", c.engine, is)
		}
		left := shell(t, folder, "nexdal check '"+c.source+"'"+only+" --format json --fail-on never").out
		for _, f := range findingsIn(t, left) {
			if "'"+f.ID+"'" == id || f.ID == id {
				t.Errorf("%s: %s is still there", c.engine, f.ID)
			}
		}
	}
}

// block is a piece of shell in a page of docs, by its name.
func block(t *testing.T, page, name string) string {
	t.Helper()
	_, rest, ok := strings.Cut(read(t, page), "```sh "+name+"\n")
	if !ok {
		t.Fatalf("%s holds no block %s", page, name)
	}
	text, _, _ := strings.Cut(rest, "```")
	return "set -e\n" + text
}

// TestGate: the gate of docs/ci.md lets the structure of the baseline through under another name,
// stops a change that adds a fault, and lets it through once the fault is taken back.
func TestGate(t *testing.T) {
	t.Parallel()
	p, m := server.StartPostgres(t), server.StartMariaDB(t)
	base := `CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(12) NOT NULL);
CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY, station_id integer NOT NULL, FOREIGN KEY (station_id) REFERENCES station (id));
CREATE TABLE visit_log (note varchar(40));
`
	fault := "CREATE TABLE feed_log (line varchar(40));\n"
	live, build, liveM, buildM := p.Database(t), p.Database(t), m.Database(t), m.Database(t)
	folders := t.TempDir()
	for _, c := range []struct {
		engine, live, test string
		sql                func(where, sql string)
	}{
		{"sqlite", "live.db", "build-4711.db", func(where, sql string) { sqlite(t, filepath.Join(folders, where), sql) }},
		{"postgres", p.URL(live), p.URL(build), func(where, sql string) {
			p.Query(t, map[string]string{p.URL(live): live, p.URL(build): build}[where], sql)
		}},
		{"mariadb", m.URL(liveM), m.URL(buildM), func(where, sql string) {
			m.Query(t, map[string]string{m.URL(liveM): liveM, m.URL(buildM): buildM}[where], sql)
		}},
	} {
		c.sql(c.live, base)
		c.sql(c.test, base)
		env := []string{"PRODUCTION=" + c.live, "TEST=" + c.test}
		run := func(name string) result { return shell(t, folders, block(t, "../docs/ci.md", name), env...) }
		if r := run("baseline"); r.status != 0 || r.err != "" {
			t.Fatalf("%s: the baseline: status %d: %s", c.engine, r.status, r.err)
		}
		if r := run("gate"); r.status != 0 || !strings.Contains(r.out, "known from the baseline") {
			t.Errorf("%s: nothing is new, and the status is %d: %s%s", c.engine, r.status, r.out, r.err)
		}
		c.sql(c.test, fault)
		if r := run("gate"); r.status != 1 {
			t.Errorf("%s: a new fault, and the status is %d: %s%s", c.engine, r.status, r.out, r.err)
		}
		junit := read(t, filepath.Join(folders, "nexdal-junit.xml"))
		if strings.Count(junit, "<failure") != 1 || !strings.Contains(junit, "feed_log") {
			t.Errorf("%s: the build's page: %s", c.engine, junit)
		}
		c.sql(c.test, "DROP TABLE feed_log;\n")
		if r := run("gate"); r.status != 0 {
			t.Errorf("%s: the fault is taken back, and the status is %d: %s", c.engine, r.status, r.out)
		}
		// What is put right in the test is gone, and is taken out when asked.
		c.sql(c.test, "DROP TABLE visit_log;\n")
		r := run("gate")
		match(t, c.engine+": what is gone", r.out, `(?s)Gone since the baseline.*key/none \S*visit_log`)
		if r := run("renew"); r.status != 0 || regexp.MustCompile(`key/none \S*visit_log`).MatchString(read(t, filepath.Join(folders, "nexdal.baseline.json"))) {
			t.Errorf("%s: the baseline still holds it, status %d", c.engine, r.status)
		}
	}
}
