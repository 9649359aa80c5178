package test

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"nexdal/internal/advise"
	"nexdal/internal/catalog"
	facts "nexdal/internal/evidence"
	standin "nexdal/internal/standin/redshift"
	"nexdal/test/server"
)

// TestWarehouse plays the whole job on the simulated cluster: what the script answers is
// gone, the figures are better, and the reversal brings the structure back.
func TestWarehouse(t *testing.T) {
	t.Parallel()
	c, err := standin.Start(2, 2)
	if err != nil {
		t.Fatal(err)
	}
	defer c.Close()
	folder := t.TempDir()
	must(t, folder, "demo", "--engine", "redshift", "--on", c.URL(), "--folder", ".")
	use := []string{"--schema", "saltmere", "--settings", "nexdal.yaml", "--decisions", "decisions.yaml"}
	type table struct {
		Table  string
		Slices []int64
	}
	held := func(file string) map[string][]int64 {
		var survey struct{ Statistics struct{ Tables []table } }
		if err := json.Unmarshal([]byte(read(t, filepath.Join(folder, file))), &survey); err != nil {
			t.Fatal(err)
		}
		all := map[string][]int64{}
		for _, x := range survey.Statistics.Tables {
			all[x.Table] = x.Slices
		}
		return all
	}
	skew := func(rows []int64) float64 {
		var sum, most int64
		for _, n := range rows {
			sum, most = sum+n, max(most, n)
		}
		return float64(most) * float64(len(rows)) / float64(sum)
	}
	must(t, folder, append([]string{"survey", c.URL(), "-o", "after.json"}, "--schema", "saltmere")...)
	if was, is := skew(held("saltmere.json")["reading"]), skew(held("after.json")["reading"]); was < 3 || is > 1.05 {
		t.Errorf("the fullest slice of reading held %.2f times the mean, and holds %.2f times", was, is)
	}
	// The demo breaks every rule that a cluster can break.
	broken := must(t, folder, append([]string{"check", "saltmere.json", "--fail-on", "never", "--format", "lines"}, use...)...) +
		must(t, folder, append([]string{"check", "saltmere.json", "--evidence", "evidence.json", "--fail-on", "never", "--format", "lines"}, use...)...)
	for _, rule := range rules(t) {
		if ofClusters.MatchString(rule) && !ofDocuments.MatchString(rule) && rule != "storage/filter-not-required" && !strings.Contains(broken, rule) {
			t.Errorf("the demo does not break %s", rule)
		}
	}
	check := must(t, folder, append([]string{"check", c.URL(), "--fail-on", "never", "--format", "lines"}, use...)...)
	if m := regexp.MustCompile(`(?m)^.*(distribution|sort|storage)/.*$`).FindAllString(check, -1); len(m) > 1 { // sort/too-many asks
		t.Errorf("still found: %s", strings.Join(m, "\n"))
	}
	match(t, "describe", must(t, folder, "describe", c.URL(), "reading", "--schema", "saltmere"), `(?s)In the cluster.*spread +by id.*sorted +by taken_at.*slice 3.*What its columns take.*size +blocks +encoded +suggested.*taken_at +[0-9.]+ MB +[0-9]+ +raw +as it is`)
	match(t, "describe as it was", must(t, folder, "describe", "saltmere.json", "reading"), `level_mm +[0-9.]+ MB +[0-9]+ +raw +az64`)
	must(t, folder, append([]string{"run", "fix.reversal.sql", "--on", c.URL(), "--yes"}, "--settings", "nexdal.yaml")...)
	must(t, folder, "survey", c.URL(), "-o", "returned.json", "--schema", "saltmere")
	match(t, "the way back", must(t, folder, "compare", "saltmere.json", "returned.json", "--ignore", "statistics"), "no differences")

	// What is advised for all tables together, and what the cluster then measures.
	says := must(t, folder, append([]string{"script", "spread", "saltmere.json", "--evidence", "evidence.json", "-o", "spread.sql"}, use[2:]...)...)
	match(t, "the advice", says, `(?s)reading +54,000 +by quality +→ +by id.*visit_task +6,000 +evenly +→ +by visit_id`)
	must(t, folder, "run", "spread.sql", "--on", c.URL(), "--yes")
	must(t, folder, "survey", c.URL(), "-o", "spread.json", "--schema", "saltmere")
	for _, name := range []string{"reading", "visit_task", "visit"} {
		if got := skew(held("spread.json")[name]); math.Abs(got-1) > 0.1 {
			t.Errorf("%s: the fullest slice holds %.2f times the mean", name, got)
		}
	}
	match(t, "upkeep", must(t, folder, "script", "upkeep", "saltmere.json", "--within", "2s"), `(?s)analyze saltmere.feed_delivery.*1 task more would not fit into 2s`)
}

// TestSkew: what is predicted of a column before anything is moved is what the cluster
// measures once the rows lie by it.
func TestSkew(t *testing.T) {
	t.Parallel()
	c, err := standin.Start(2, 4)
	if err != nil {
		t.Fatal(err)
	}
	defer c.Close()
	folder := t.TempDir()
	columns := []struct {
		name, declared string
		value          func(i int) string
	}{
		{"id", "bigint", strconv.Itoa},
		{"hour", "integer", func(i int) string { return strconv.Itoa(i * 7919 % 3000) }},
		{"station", "integer", func(i int) string { return strconv.Itoa(i % 400) }},
		{"mostly_one", "varchar(20)", func(i int) string {
			if i%10 < 3 {
				return "'SM-0001'"
			}
			return fmt.Sprintf("'SM-%d'", 2+i%600)
		}},
		{"mostly_null", "integer", func(i int) string {
			if i%2 == 0 {
				return "NULL"
			}
			return strconv.Itoa(i)
		}},
		{"flag", "integer", func(i int) string { return "1" }},
	}
	const rows = 12000
	var sql strings.Builder
	var declared []string
	for _, x := range columns {
		declared = append(declared, x.name+" "+x.declared)
	}
	fmt.Fprintf(&sql, "CREATE TABLE level (%s) DISTSTYLE EVEN;\n", strings.Join(declared, ", "))
	for i := range rows {
		if i%1000 == 0 {
			sql.WriteString(";\nINSERT INTO level VALUES ")
		} else {
			sql.WriteString(", ")
		}
		values := make([]string, len(columns))
		for k, x := range columns {
			values[k] = x.value(i)
		}
		fmt.Fprintf(&sql, "(%s)", strings.Join(values, ", "))
	}
	psql := func(sql string) {
		t.Helper()
		cmd := exec.Command(server.Psql(), "-X", "-q", "-v", "ON_ERROR_STOP=1", "-d", strings.Replace(c.URL(), "redshift:", "postgres:", 1))
		cmd.Stdin = strings.NewReader(sql)
		if out, err := cmd.CombinedOutput(); err != nil {
			t.Fatalf("%v: %s", err, out)
		}
	}
	psql(sql.String() + "; ANALYZE level")
	level := func() (*catalog.Catalog, *catalog.Table) {
		t.Helper()
		must(t, folder, "survey", c.URL(), "-o", "s.json")
		f, err := os.Open(filepath.Join(folder, "s.json"))
		if err != nil {
			t.Fatal(err)
		}
		defer f.Close()
		read, err := catalog.Read(f)
		if err != nil {
			t.Fatal(err)
		}
		return read, read.Tables()[0]
	}
	must(t, folder, "probe", c.URL(), "-o", "e.json")
	var known facts.Evidence
	if err := json.Unmarshal([]byte(read(t, filepath.Join(folder, "e.json"))), &known); err != nil {
		t.Fatal(err)
	}
	before, plain := level()
	for _, x := range columns {
		i := slices.IndexFunc(known.Columns, func(k facts.Column) bool { return k.Column == x.name })
		predicted := advise.Skew(plain, x.name, before.Slices(), &known.Columns[i])
		psql("ALTER TABLE level ALTER DISTSTYLE KEY DISTKEY " + x.name)
		_, after := level()
		if measured := after.Skew(); math.Abs(predicted/measured-1) > 0.1 {
			t.Errorf("by %s: %.2f is predicted, and %.2f measured", x.name, predicted, measured)
		}
	}
}

// TestStandIn talks to the simulated cluster as psql does: it says what it is, and
// refuses what it does not know.
func TestStandIn(t *testing.T) {
	t.Parallel()
	c, err := standin.Start(1, 2)
	if err != nil {
		t.Fatal(err)
	}
	defer c.Close()
	psql := func(sql string) string {
		cmd := exec.Command(server.Psql(), "-X", "-q", "-A", "-t", "-d", strings.Replace(c.URL(), "redshift:", "postgres:", 1))
		cmd.Stdin = strings.NewReader(sql)
		out, _ := cmd.CombinedOutput()
		return strings.TrimSpace(string(out))
	}
	for _, x := range []struct{ sql, says string }{
		{"SELECT version()", "simulated by Nexdal"},
		{"CREATE TABLE a (id int, name varchar(9) ENCODE lzo) DISTSTYLE KEY DISTKEY (id) SORTKEY (id); INSERT INTO a VALUES (1, 'x''y'), (2, NULL); SELECT * FROM a ORDER BY id", `^1\|x'y\n2\|$`},
		{`SELECT "table", diststyle, sortkey1, tbl_rows FROM svv_table_info`, `^a\|KEY\(id\)\|id\|2$`},
		{"BEGIN; DELETE FROM a; ROLLBACK; SELECT count(*) FROM a", "^2$"},
		{"BEGIN; ALTER TABLE a ALTER DISTSTYLE ALL; ROLLBACK; SELECT diststyle FROM svv_table_info", `^KEY\(id\)$`},
		{"ALTER TABLE a ALTER SORTKEY (nothing)", `column "nothing" does not exist`},
		{"SELECT * FROM stl_query", "simulated cluster has none"},
		{"SELECT * FROM nowhere", "no such table"},
		{"CREATE MATERIALIZED VIEW v AS SELECT 1", "does not know"},
		{"COPY a FROM 's3://x'", "does not know"},
		{"BEGIN; SELECT * FROM nothing; SELECT 1", "current transaction is aborted"},
		{"BEGIN; VACUUM", "cannot run inside a transaction"},
		{"DROP TABLE a; SELECT count(*) FROM svv_tables", "^0$"},
	} {
		match(t, x.sql, psql(x.sql), x.says)
	}
	one, err := standin.Start(1, 1)
	if err != nil {
		t.Fatal(err)
	}
	defer one.Close()
	match(t, "a cluster of one slice", nexdal(t, t.TempDir(), "script", "spread", one.URL()).err, "one slice")
}

// TestWitness puts the questions of a survey to a real server of the family, which holds
// tables of the documented names and types: so the SQL itself is proven.
func TestWitness(t *testing.T) {
	t.Parallel()
	p := server.StartPostgres(t)
	name := p.Database(t)
	p.Query(t, name, fmt.Sprintf(`CREATE SCHEMA rs; ALTER DATABASE %s SET search_path = rs, pg_catalog, public;
CREATE TABLE rs.stv_slices (node integer, slice integer, localslice integer, type character(1));
CREATE TABLE rs.svv_tables (table_catalog varchar(128), table_schema varchar(128), table_name varchar(128), table_type varchar(128), remarks varchar(128));
CREATE TABLE rs.svv_redshift_columns (database_name varchar(128), schema_name varchar(128), table_name varchar(128), column_name varchar(128), ordinal_position integer, data_type varchar(32), column_default varchar(4000), is_nullable varchar(3), encoding varchar(128), distkey boolean, sortkey integer, column_acl varchar(128), remarks varchar(256));
CREATE TABLE rs.svv_table_info (database text, schema text, table_id oid, "table" text, encoded text, diststyle text, sortkey1 text, max_varchar integer, sortkey1_enc character(32), sortkey_num integer, size bigint, pct_used numeric(10,4), empty bigint, unsorted numeric(5,2), stats_off numeric(5,2), tbl_rows numeric(38,0), skew_sortkey1 numeric(19,2), skew_rows numeric(19,2), estimated_visible_rows numeric(38,0), risk_event text, vacuum_sort_benefit numeric(12,2));
CREATE TABLE rs.stv_tbl_perm (slice integer, id integer, name character(72), rows bigint, sorted_rows bigint, temp integer, db_id integer);
CREATE TABLE rs.stv_blocklist (slice integer, col integer, tbl integer, blocknum integer, num_values integer);
CREATE TABLE rs.pg_class_info (oid oid, relname name, relnamespace oid, relkind "char", reltuples real, releffectivediststyle smallint);
CREATE TABLE public.station (id bigint PRIMARY KEY, code varchar(20) UNIQUE);
CREATE TABLE public.gauge (id bigint PRIMARY KEY, station_id bigint REFERENCES public.station (id));
INSERT INTO rs.stv_slices SELECT i / 2, i, i %% 2, 'D' FROM generate_series(0, 3) i;
INSERT INTO rs.svv_tables SELECT current_database(), 'public', n, 'BASE TABLE', NULL FROM unnest(ARRAY['station', 'gauge']) n;
INSERT INTO rs.svv_redshift_columns SELECT current_database(), 'public', c.relname, a.attname, a.attnum, format_type(a.atttypid, a.atttypmod), NULL, CASE WHEN a.attnotnull THEN 'NO' ELSE 'YES' END, 'az64', a.attname = 'station_id', CASE WHEN a.attname = 'id' THEN 1 ELSE 0 END, NULL, NULL
  FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid WHERE c.relname IN ('station', 'gauge') AND a.attnum > 0;
INSERT INTO rs.svv_table_info (database, schema, table_id, "table", diststyle, sortkey1, sortkey_num, size, tbl_rows, estimated_visible_rows, unsorted, stats_off) VALUES ('dev', 'public', 'public.gauge'::regclass, 'gauge', 'KEY(station_id)', 'id', 1, 12, 1000, 900, 12.5, 3);
INSERT INTO rs.stv_tbl_perm SELECT i, 'public.gauge'::regclass::oid::int, 'gauge', 250, 200, 0, 1 FROM generate_series(0, 3) i;
INSERT INTO rs.stv_blocklist SELECT i, 0, 'public.gauge'::regclass::oid::int, 0, 250 FROM generate_series(0, 3) i;
INSERT INTO rs.pg_class_info SELECT oid, relname, relnamespace, relkind, reltuples, 1 FROM pg_class WHERE relname = 'gauge';`, name))
	url := strings.Replace(p.URL(name), "postgres:", "redshift:", 1)
	text := must(t, t.TempDir(), "survey", url)
	for _, says := range []string{`"spread": \{\s*"style": "key",\s*"column": "station_id"`, `"sort_key": \{\s*"columns": \[\s*"id"`, `"target": \{"schema": "public", "table": "station"\}`, `"dead_rows": 100`, `"slices": \[250,250,250,250\]`, `"unsorted": 0.125`, `"bytes":4194304`} {
		match(t, "the survey", text, says)
	}
	// What the leader node has of functions, and PostgreSQL has not.
	p.Query(t, name, "CREATE FUNCTION rs.len(text) RETURNS int LANGUAGE sql AS 'SELECT length($1)'; CREATE FUNCTION rs.getdate() RETURNS timestamp LANGUAGE sql AS 'SELECT date_trunc(''second'', now() AT TIME ZONE ''UTC'')';")
	captures(t, "redshift", url, psqlClient(p.URL(name)))
	// What an account may not see is a gap, and costs nothing of what comes behind it.
	p.Query(t, name, "DROP TABLE rs.stv_blocklist; DROP TABLE rs.pg_class_info")
	result := captures(t, "redshift", url, psqlClient(p.URL(name)))
	match(t, "the result", result, `@failed [0-9a-f]+ 42P01`)
	text = must(t, t.TempDir(), "survey", url)
	for _, says := range []string{`"what": "blocks by column"`, `"reason": "the cluster refused the question with error 42P01"`, `"target": \{"schema": "public", "table": "station"\}`, `"slices": \[250,250,250,250\]`} {
		match(t, "the survey of what may be seen", text, says)
	}
	p.Query(t, name, "DROP TABLE rs.svv_redshift_columns")
	match(t, "a survey without columns", nexdal(t, t.TempDir(), "survey", url).err, "svv_redshift_columns")
}
