package test

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"nexdal/test/server"
)

// evidence is what the tests read of an evidence file.
type evidence struct {
	Format, Questions int
	Ended             string
	Limit_Rows        int64
	Columns           []struct {
		Table, Column, Least, Greatest string
		Rows, Nulls, Distinct          int64
		Most, Fewest, Empty            *int64
		Dates, Numbers                 *int64
		Sampled                        bool
	}
	Keys []struct {
		Table              string
		Columns            []string
		Declared, Verified bool
		Rows               int64
	}
	References []struct {
		Table, Target                  string
		Columns, Target_Columns        []string
		Coverage, Score                float64
		Rows_Checked, Orphans          int64
		Orphan_Samples                 []string
		Children_Fewest, Children_Most *int64
		Verified, Declared             bool
		Score_Parts                    map[string]float64
	}
	Promises []struct {
		Origin, Kind, Table, Object, Says string
		Columns, Findings, Samples        []string
		Offenders                         int64
		Verified                          bool
	}
	Counters []struct {
		Table, Column  string
		Greatest, Next *int64
		Behind         bool
	}
	Gaps    []struct{ Table, What, Reason string }
	Answers map[string]json.RawMessage
}

// readEvidence reads a file, which must be as the schema in docs says.
func readEvidence(t *testing.T, path string) (e evidence) {
	t.Helper()
	schema, err := jsonschema.NewCompiler().Compile("../docs/evidence.schema.json")
	if err != nil {
		t.Fatal(err)
	}
	value, err := jsonschema.UnmarshalJSON(strings.NewReader(read(t, path)))
	if err != nil {
		t.Fatal(err)
	}
	if err := schema.Validate(value); err != nil {
		t.Errorf("%s: %v", path, err)
	}
	if err := json.Unmarshal([]byte(read(t, path)), &e); err != nil || e.Format != 1 {
		t.Fatalf("%s: format %d: %v", path, e.Format, err)
	}
	return e
}

// promised says of each promise what came of it.
func (e evidence) promised() string {
	s := ""
	for _, p := range e.Promises {
		s += fmt.Sprintf("%s %s of %s %v: %d %v\n", p.Origin, p.Kind, p.Table, p.Columns, p.Offenders, p.Samples)
	}
	return s
}

// references says what refers to what.
func (e evidence) references() []string {
	var all []string
	for _, r := range e.References {
		cardinality := ""
		if r.Children_Fewest != nil {
			cardinality = fmt.Sprintf(" %d to %d", *r.Children_Fewest, *r.Children_Most)
		}
		all = append(all, fmt.Sprintf("%s %v > %s %v %d/%d%s", r.Table, r.Columns, r.Target, r.Target_Columns, r.Orphans, r.Rows_Checked, cardinality))
	}
	slices.Sort(all)
	return all
}

// each engine loads a script and gives the address of what it made.
func onEachEngine(t *testing.T, script func(engine string) string, test func(t *testing.T, engine, folder, source string)) {
	t.Helper()
	p, m := server.StartPostgres(t), server.StartMariaDB(t)
	for _, engine := range []string{"sqlite", "postgres", "mariadb"} {
		t.Run(engine, func(t *testing.T) {
			folder := t.TempDir()
			source := filepath.Join(folder, "a.db")
			switch engine {
			case "sqlite":
				sqlite(t, source, script(engine))
			case "postgres":
				name := p.Database(t)
				p.Query(t, name, script(engine))
				source = p.URL(name)
			case "mariadb":
				name := m.Database(t)
				m.Query(t, name, script(engine))
				source = m.URL(name)
			}
			test(t, engine, folder, source)
		})
	}
}

// many inserts rows whose values are made of their number, %[1]d.
func many(into string, rows int, values string) string {
	var w strings.Builder
	for i := range rows {
		if i%500 == 0 {
			fmt.Fprintf(&w, "INSERT INTO %s VALUES ", into)
		}
		fmt.Fprintf(&w, "("+values+")", i+1)
		if w.WriteByte(','); i%500 == 499 || i == rows-1 {
			text := strings.TrimSuffix(w.String(), ",") + ";\n"
			w.Reset()
			w.WriteString(text)
		}
	}
	return w.String()
}

// TestCombinedReferences: references of several columns are found, those that
// they imply are not reported beside them, and cardinalities are measured.
func TestCombinedReferences(t *testing.T) {
	t.Parallel()
	onEachEngine(t, func(string) string {
		var w strings.Builder
		w.WriteString(`CREATE TABLE visit (id integer NOT NULL PRIMARY KEY, minutes integer);
			CREATE TABLE visit_task (visit_id integer NOT NULL, position integer NOT NULL, what varchar(30), PRIMARY KEY (visit_id, position));
			CREATE TABLE task_note (id integer NOT NULL PRIMARY KEY, visit_id integer NOT NULL, position integer NOT NULL, note varchar(30));
			CREATE TABLE repeat_of (id integer NOT NULL PRIMARY KEY, earlier_visit_id integer, earlier_position integer, later_visit_id integer, later_position integer);
			CREATE TABLE station (code varchar(10) NOT NULL PRIMARY KEY, name varchar(20));
			CREATE TABLE station_sheet (station_code varchar(10) NOT NULL PRIMARY KEY, pages integer);
			CREATE TABLE level (id integer NOT NULL PRIMARY KEY, station_code varchar(10) NOT NULL, mm integer);
			CREATE TABLE item_note (id integer NOT NULL PRIMARY KEY, visit_ref_id integer, item_id integer NOT NULL, item_type varchar(10) NOT NULL);
			CREATE TABLE item (id integer NOT NULL PRIMARY KEY, title varchar(10));`)
		w.WriteString(many("visit", 60, "%[1]d, 5"))
		for v := 1; v <= 60; v++ {
			for p := 1; p <= 1+v%4; p++ {
				fmt.Fprintf(&w, "INSERT INTO visit_task VALUES (%d, %d, 'clean');\n", v, p)
			}
			fmt.Fprintf(&w, "INSERT INTO task_note VALUES (%d, %d, %d, 'n'), (%d, %d, 1, 'n');\n", 2*v, v, 1+v%4, 2*v+1, v)
			fmt.Fprintf(&w, "INSERT INTO repeat_of VALUES (%d, %d, %d, %d, 1);\n", v, v, 1+v%4, 61-v)
		}
		w.WriteString(many("station", 40, "'ST%03[1]d', 'x'"))
		w.WriteString(many("station_sheet", 30, "'ST%03[1]d', 3"))
		for i := 1; i <= 90; i++ {
			fmt.Fprintf(&w, "INSERT INTO level VALUES (%d, 'ST%03d', 7);\n", i, 1+i%30)
		}
		w.WriteString(many("item", 80, "%[1]d, 'x'"))
		for i := 1; i <= 50; i++ { // of now this table, now that: items and visits
			fmt.Fprintf(&w, "INSERT INTO item_note VALUES (%d, NULL, %d, '%s');\n", i, 30+i, []string{"item", "visit"}[i%2])
		}
		return w.String()
	}, func(t *testing.T, _, folder, source string) {
		must(t, folder, "probe", source, "-o", "e.json")
		want := []string{
			"item_note [item_id] > item [id] 0/50 0 to 1",       // there is a table of that name
			"level [station_code] > station [code] 0/90 0 to 3", // not to the sheet, which refers to it too
			"repeat_of [earlier_visit_id earlier_position] > visit_task [visit_id position] 0/60 0 to 1",
			"repeat_of [later_visit_id later_position] > visit_task [visit_id position] 0/60 0 to 1",
			"station_sheet [station_code] > station [code] 0/30 0 to 1",
			"task_note [visit_id position] > visit_task [visit_id position] 0/120 0 to 2",
			"visit_task [visit_id] > visit [id] 0/150 1 to 4",
		}
		if got := readEvidence(t, filepath.Join(folder, "e.json")).references(); !slices.Equal(got, want) {
			t.Errorf("found\n%s\nnot\n%s", strings.Join(got, "\n"), strings.Join(want, "\n"))
		}
	})
}

// TestPromises: what is declared without having been checked, what a fix would
// add and what is nearly unique is tried; counters are held against the
// numbers in use.
func TestPromises(t *testing.T) {
	t.Parallel()
	onEachEngine(t, func(engine string) string {
		number := map[string]string{"sqlite": "INTEGER", "postgres": "integer GENERATED BY DEFAULT AS IDENTITY", "mariadb": "integer AUTO_INCREMENT"}[engine]
		sql := `CREATE TABLE keeper (id integer NOT NULL PRIMARY KEY, badge_number varchar(20), day varchar(20), amount varchar(20));
			CREATE TABLE station (id integer NOT NULL PRIMARY KEY, name varchar(20));
			CREATE TABLE station_keeper (id ` + number + ` PRIMARY KEY, station_id integer NOT NULL REFERENCES station (id), keeper_id integer NOT NULL REFERENCES keeper (id));
			` + many("keeper", 120, "%[1]d, 'K%04[1]d', '2026-02-15', '%[1]d.5'") + `UPDATE keeper SET badge_number = 'K0007' WHERE id = 9;
			UPDATE keeper SET day = '2026-02-30' WHERE id = 3;
			` + many("station", 40, "%[1]d, 'x'") + many("station_keeper", 40, "%[1]d, %[1]d, %[1]d") + "INSERT INTO station_keeper VALUES (41, 5, 5), (42, 5, 5), (43, 6, 6);\n"
		switch engine {
		case "sqlite":
			sql += "CREATE TABLE part (code TEXT PRIMARY KEY, n INTEGER); INSERT INTO part VALUES (NULL, 1), (NULL, 2), ('a', 3);"
		case "postgres":
			sql += `CREATE TABLE gauge (id serial PRIMARY KEY, station_id integer, height integer);
				INSERT INTO gauge SELECT n, n, n FROM generate_series(1, 50) n;
				ALTER TABLE gauge ADD CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) NOT VALID, ADD CONSTRAINT gauge_height CHECK (height < 45) NOT VALID;`
		case "mariadb":
			sql += `CREATE SEQUENCE numbers START WITH 5; CREATE TABLE gauge (id integer PRIMARY KEY DEFAULT NEXTVAL(numbers), height integer); INSERT INTO gauge VALUES (50, 1), (51, 2);`
		}
		return sql
	}, func(t *testing.T, engine, folder, source string) {
		out := must(t, folder, "probe", source, "-o", "e.json")
		e := readEvidence(t, filepath.Join(folder, "e.json"))
		all := e.promised()
		match(t, "nearly unique", all, `undeclared unique of keeper \[badge_number\]: 1 \[K0007 \(2 times\)\]`)
		match(t, "what a fix adds", all, `proposed fix of station_keeper \[\]: 2 \[`)
		match(t, "the page", out, `(?s)Promises that the data does not keep.*keeper \(badge_number\) +1 value more than once`)
		for _, c := range e.Columns {
			if c.Table != "keeper" {
				continue
			}
			switch c.Column {
			case "day":
				if c.Dates == nil || *c.Dates != 119 || *c.Numbers != 0 || *c.Most != 119 || *c.Fewest != 1 {
					t.Errorf("dates: %+v", c)
				}
			case "amount":
				if c.Numbers == nil || *c.Numbers != 120 || *c.Dates != 0 {
					t.Errorf("numbers: %+v", c)
				}
			}
		}
		switch engine {
		case "sqlite":
			match(t, "a key with nulls", all, `declared not null of part \[code\]: 2 `)
		case "postgres":
			match(t, "a reference never checked", all, `declared foreign key of gauge \[station_id\]: 10 \[41 42`)
			match(t, "a check never checked", all, `declared check of gauge \[\]: 6 \[id 45, height 45`)
			match(t, "a serial left behind", out, `gauge \(id\) +gives 1 next, and 50 is in use`)
		case "mariadb":
			match(t, "a sequence left behind", out, `gauge \(id\) +gives 5 next, and 51 is in use`)
		}
	})
}

// TestSample: above the limit a sample is looked at, by each engine's own
// means, and what rests on it says so; --full looks at everything.
func TestSample(t *testing.T) {
	t.Parallel()
	onEachEngine(t, func(engine string) string {
		sql := "CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL);\nCREATE TABLE level (id integer NOT NULL PRIMARY KEY, station_id integer NOT NULL, mm integer);\n" +
			many("station", 200, "%[1]d, 'S%04[1]d'") + many("level", 8000, "%[1]d, 1 + %[1]d * 7 %% 200, %[1]d")
		if engine != "sqlite" {
			sql += map[string]string{"postgres": "ANALYZE;", "mariadb": "ANALYZE TABLE level;"}[engine]
		}
		return sql
	}, func(t *testing.T, _, folder, source string) {
		must(t, folder, "probe", source, "-o", "s.json", "--limit-rows", "1000")
		must(t, folder, "probe", source, "-o", "f.json", "--full")
		s, f := readEvidence(t, filepath.Join(folder, "s.json")), readEvidence(t, filepath.Join(folder, "f.json"))
		if s.Limit_Rows != 1000 || f.Limit_Rows != 0 {
			t.Errorf("limits %d, %d", s.Limit_Rows, f.Limit_Rows)
		}
		for _, c := range append(s.Columns, f.Columns...) {
			if c.Sampled && (c.Table != "level" || c.Rows < 300 || c.Rows > 3000) || !c.Sampled && c.Rows != 200 && c.Rows != 8000 {
				t.Errorf("%+v", c)
			}
		}
		if len(s.References) != 1 || s.References[0].Verified || s.References[0].Rows_Checked >= 8000 || s.References[0].Children_Most != nil {
			t.Errorf("sampled: %+v", s.References)
		}
		if got := f.references(); len(got) != 1 || got[0] != "level [station_id] > station [id] 0/8000 40 to 40" || !f.References[0].Verified {
			t.Errorf("full: %q", got)
		}
		for _, c := range s.Columns {
			if c.Table == "level" && c.Column == "mm" && c.Distinct != c.Rows {
				t.Error("a row is twice in the sample")
			}
		}
	})
}

// TestGoingOn: a probe that its budget ended writes what is known and lists the
// rest; going on puts no question twice and ends with the same evidence.
func TestGoingOn(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	sqlite(t, filepath.Join(folder, "a.db"), undeclared("TEXT"))
	must(t, folder, "probe", "a.db", "-o", "whole.json")
	whole := readEvidence(t, filepath.Join(folder, "whole.json"))

	r := nexdal(t, folder, "probe", "a.db", "-o", "e.json", "--budget", "1ns")
	e := evidence{}
	if r.status != 0 { // too little for a single question: what is known is written
		t.Fatalf("status %d: %s", r.status, r.err)
	}
	e = readEvidence(t, filepath.Join(folder, "e.json"))
	if match(t, "what is said", r.out+r.err, "the budget of 1ns was used up"); len(e.Gaps) == 0 || e.Ended == "" {
		t.Errorf("%+v", e)
	}
	// Half of what was answered, as after an end in the middle.
	must(t, folder, "probe", "a.db", "-o", "e.json")
	half := map[string]any{}
	if err := json.Unmarshal([]byte(read(t, filepath.Join(folder, "e.json"))), &half); err != nil {
		t.Fatal(err)
	}
	match(t, "a file that is complete", nexdal(t, folder, "probe", "a.db", "-o", "e.json", "--resume").err, "is complete")
	for _, budget := range []string{"15ms", "25ms", "40ms"} {
		r := nexdal(t, folder, "probe", "a.db", "-o", "part.json", "--budget", budget)
		if r.status != 0 {
			continue
		}
		part := readEvidence(t, filepath.Join(folder, "part.json"))
		if part.Ended == "" {
			continue
		}
		must(t, folder, "probe", "a.db", "-o", "part.json", "--resume")
		after := readEvidence(t, filepath.Join(folder, "part.json"))
		if got, want := after.references(), whole.references(); !slices.Equal(got, want) || after.Ended != "" || len(after.Answers) > 0 || len(after.Gaps) != len(whole.Gaps) {
			t.Errorf("after %s: %d references, not %d; ended %q", budget, len(got), len(want), after.Ended)
		}
		if after.Questions > whole.Questions+10 { // what was under way on both connections is put again, all columns of it
			t.Errorf("%d questions in all, %d in one go", after.Questions, whole.Questions)
		}
	}
	os.Remove(filepath.Join(folder, "part.json"))
	match(t, "no file", nexdal(t, folder, "probe", "a.db", "-o", "part.json", "--resume").err, "cannot be read")
	sqlite(t, filepath.Join(folder, "b.db"), "CREATE TABLE x (a)")
	write(t, filepath.Join(folder, "part.json"), strings.Replace(read(t, filepath.Join(folder, "e.json")), `"questions"`, `"ended": "interrupted", "questions"`, 1))
	match(t, "another database", nexdal(t, folder, "probe", "b.db", "-o", "part.json", "--resume").err, "is of sqlite a.db, and this is sqlite b.db")
}

// TestProbeInterrupted: what is known when somebody interrupts is kept, and a
// table that is held is a gap.
func TestProbeInterrupted(t *testing.T) {
	p := server.StartPostgres(t)
	name, folder := p.Database(t), t.TempDir()
	p.Query(t, name, undeclared("text")+"ANALYZE;")
	release := hold(t, p, name, "LOCK TABLE gauge IN ACCESS EXCLUSIVE MODE;")
	some(t, p, name, "SELECT count(*) FROM pg_locks WHERE relation = 'gauge'::regclass AND granted")
	must(t, folder, "probe", p.URL(name), "-o", "held.json", "--lock-timeout", "200ms")
	held := readEvidence(t, filepath.Join(folder, "held.json"))
	if len(held.Gaps) == 0 || held.Gaps[0].Table != "gauge" || len(held.References) < 4 {
		t.Errorf("%+v, %q", held.Gaps, held.references())
	}
	r := interrupted(t, folder, 1500*time.Millisecond, "probe", p.URL(name), "-o", "cut.json", "--lock-timeout", "30s", "--connections", "1")
	if match(t, "an interrupt", r.err, `cut.json: interrupted, and what is known was written; --resume goes on`); r.status != 130 {
		t.Errorf("status %d", r.status)
	}
	if cut := readEvidence(t, filepath.Join(folder, "cut.json")); cut.Ended != "interrupted" || len(cut.Columns) == 0 || len(cut.Gaps) == 0 {
		t.Errorf("%q, %d columns, %d gaps", cut.Ended, len(cut.Columns), len(cut.Gaps))
	}
	release()
	must(t, folder, "probe", p.URL(name), "-o", "cut.json", "--resume")
	if got := readEvidence(t, filepath.Join(folder, "cut.json")).references(); len(got) != 7 {
		t.Errorf("%q", got)
	}

	// A table that goes while it is waited for.
	drop := holdUntil(t, p, name, "DROP TABLE gauge;")
	some(t, p, name, "SELECT count(*) FROM pg_locks WHERE mode = 'AccessExclusiveLock' AND granted AND locktype = 'relation'")
	c := command(folder, "probe", p.URL(name), "-o", "gone.json")
	ended := make(chan result, 1)
	go func() { ended <- call(t, c) }()
	some(t, p, "postgres", "SELECT count(*) FROM pg_stat_activity WHERE datname = '"+name+"' AND application_name = 'nexdal' AND wait_event_type = 'Lock'")
	drop("COMMIT;")
	if r := <-ended; r.status != 0 {
		t.Fatalf("status %d: %s", r.status, r.err)
	}
	gone := readEvidence(t, filepath.Join(folder, "gone.json"))
	if len(gone.References) < 4 {
		t.Errorf("%q, %+v", gone.references(), gone.Gaps)
	}
}

// TestWithheld: values of columns stay out of the file, and so do those kept
// for going on.
func TestWithheld(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	sqlite(t, filepath.Join(folder, "a.db"), "CREATE TABLE keeper (id INTEGER PRIMARY KEY, phone TEXT, name TEXT);\n"+many("keeper", 30, "%[1]d, '0555 %03[1]d', 'Ada %[1]d'"))
	must(t, folder, "probe", "a.db", "-o", "e.json", "--withhold", "*.phone")
	if text := read(t, filepath.Join(folder, "e.json")); strings.Contains(text, "0555") || !strings.Contains(text, "Ada 1") {
		t.Error("not the phone alone is withheld")
	}
}

// TestOddColumns: columns that cannot be compared or looked at, more columns
// than a question holds, texts that are none, numbers that are none.
func TestOddColumns(t *testing.T) {
	t.Parallel()
	wide := func(n int) string {
		var w strings.Builder
		w.WriteString("CREATE TABLE wide (c0 integer")
		for i := 1; i < n; i++ {
			fmt.Fprintf(&w, ", c%d integer", i)
		}
		return w.String() + "); INSERT INTO wide (c0, c7) VALUES (1, 2), (2, 3);\n"
	}
	onEachEngine(t, func(engine string) string {
		switch engine {
		case "sqlite":
			return wide(1600) + "CREATE TABLE odd (id INTEGER PRIMARY KEY, t TEXT, x, v INTEGER AS (id * 2) VIRTUAL, b BLOB); INSERT INTO odd (t, x, b) VALUES (CAST(x'ff41' AS TEXT), 9e999, x'00'), ('a', 'b', NULL); CREATE TABLE bare (a TEXT);"
		case "postgres":
			return wide(1600) + `CREATE COLLATION loose (provider = icu, locale = 'und-u-ks-level2', deterministic = false);
				CREATE TABLE odd (id integer PRIMARY KEY, j json, p point, x xml, n numeric, f float8, d date, t text COLLATE loose, v integer GENERATED ALWAYS AS (id * 2) STORED);
				INSERT INTO odd VALUES (1, '{}', '(1,2)', '<a/>', 'NaN', 'Infinity', 'infinity', '1a'), (2, '{}', '(1,2)', '<a/>', 1, '-Infinity', '0044-03-15 BC', '1A');
				CREATE TABLE bare (a text); CREATE TABLE less ();`
		}
		return wide(900) + `SET sql_mode = ''; CREATE TABLE odd (id integer PRIMARY KEY, j json, p point, d date, v integer AS (id * 2) VIRTUAL, e enum('a', 'b'), t varchar(10) COLLATE utf8mb4_general_ci);
			INSERT INTO odd (id, j, p, d, e, t) VALUES (1, '{}', POINT(1, 2), '0000-00-00', 'a', '1a'), (2, '{}', POINT(1, 2), '2026-01-31', 'b', '1A'); CREATE TABLE bare (a text);`
	}, func(t *testing.T, engine, folder, source string) {
		must(t, folder, "probe", source, "-o", "e.json")
		e := readEvidence(t, filepath.Join(folder, "e.json"))
		count := map[string]int{}
		for _, c := range e.Columns {
			count[c.Table]++
		}
		want := map[string][2]int{"sqlite": {1600, 5}, "postgres": {1600, 9}, "mariadb": {900, 7}}[engine]
		if count["wide"] != want[0] || count["odd"] != want[1] || count["bare"] != 1 || len(e.Gaps) > 0 {
			t.Errorf("%v, gaps %v", count, e.Gaps)
		}
	})
}
