package test

import (
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/standin/oracle"
)

// dictionary is a paper one, in which the script was carried out by the account.
func dictionary(t *testing.T, script string) *oracle.Dictionary {
	t.Helper()
	d, err := oracle.New(oracle.Enterprise, "SALTDB", "SALTMERE", "READER")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(d.Close)
	carryOut(t, d, script)
	return d
}

// carryOut has the account of the demo carry out statements.
func carryOut(t *testing.T, d *oracle.Dictionary, script string) {
	t.Helper()
	s := d.As("SALTMERE", true)
	for _, st := range (oracle.Stage{}).Dialect().Statements(script) {
		if st.Text == "" {
			continue
		}
		if err := s.Exec(t.Context(), st.Text); err != nil {
			t.Fatalf("%v: %s", err, st.Text)
		}
	}
}

// captured writes the capture of a dictionary by an account into a file.
func captured(t *testing.T, s *oracle.Session, file string) {
	t.Helper()
	folder := filepath.Dir(file)
	must(t, folder, "capture", "oracle", "-o", "ask.sql")
	out, err := s.Run(t.Context(), read(t, filepath.Join(folder, "ask.sql")))
	if err != nil {
		t.Fatal(err, out)
	}
	write(t, file, out)
}

// oracleDatabases are paper dictionaries, whose sources are captures of them.
type oracleDatabases struct{}

func (oracleDatabases) make(t *testing.T) (string, string) {
	path := filepath.Join(t.TempDir(), "capture.txt")
	return path, path
}

// account is what the program says of an account that it writes for.
var account = regexp.MustCompile(`(?m)^--   schema (.+): is an account`)

func (oracleDatabases) load(t *testing.T, name, path string) {
	t.Helper()
	script, accounts := read(t, path), []string{"SALTMERE", "READER"}
	for _, m := range account.FindAllStringSubmatch(script, -1) {
		accounts = append(accounts, m[1])
	}
	d, err := oracle.New(oracle.Enterprise, "SALTDB", accounts...)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(d.Close)
	if strings.HasPrefix(script, "WHENEVER") {
		if out, err := d.As("SYSTEM", true).Run(t.Context(), script); err != nil {
			t.Fatal(err, out)
		}
	} else {
		carryOut(t, d, script)
	}
	captured(t, d.As("SYSTEM", true), name)
}

func (oracleDatabases) witness(t *testing.T, name string) string { return read(t, name) }

var byNumber = regexp.MustCompile(`(SYS_C|ISEQ\$\$_)\d+|"\d{4}-\d\d-\d\dT[\d:]+Z"|@row \d+`)

// shown is all that a dictionary shows, without the names that it makes up.
func shown(t *testing.T, d *oracle.Dictionary) string {
	t.Helper()
	var b strings.Builder
	if err := d.Paper().Capture(t.Context(), &b); err != nil {
		t.Fatal(err)
	}
	lines := strings.Split(byNumber.ReplaceAllString(b.String(), "$1"), "\n")
	slices.Sort(lines)
	return strings.Join(lines, "\n")
}

// TestOracleRoundTrip: from a capture alone a structure is made again, with one of everything,
// by a script that SQL*Plus takes whole, and the dictionary shows the same.
func TestOracleRoundTrip(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	d := dictionary(t, read(t, "testdata/everything.oracle.sql"))
	captured(t, d.As("SYSTEM", true), filepath.Join(folder, "result.txt"))
	must(t, folder, "script", "create", "result.txt", "-o", "create.sql")
	must(t, folder, "survey", "result.txt", "-o", "survey.json")
	again := dictionary(t, "")
	if out, err := again.As("SYSTEM", true).Run(t.Context(), read(t, filepath.Join(folder, "create.sql"))); err != nil {
		t.Fatal(err, out)
	}
	// Grants are another script's, and what forbids null in a key's column is written as such.
	without := regexp.MustCompile(`(?m)^( \["SALTMERE","(STATION|TIDY)","READER".*| \["SALTMERE","SYS_C".*u0022 IS NOT NULL".*| \["SALTMERE","SYS_C","[^"]*",null\]|@end .*)\n`)
	want, got := without.ReplaceAllString(shown(t, d), ""), without.ReplaceAllString(shown(t, again), "")
	if got != want {
		t.Errorf("the dictionary shows another structure: %s", changedLines(want, got))
	}
	captured(t, again.As("SYSTEM", true), filepath.Join(folder, "again.txt"))
	if r := nexdal(t, folder, "compare", "result.txt", "again.txt"); r.status != 0 {
		t.Errorf("compare: %s%s", r.out, r.err)
	}
	// The program reads its own script back, and carries it out.
	empty := dictionary(t, "").Paper()
	for _, st := range (oracle.Stage{}).Dialect().Statements(read(t, filepath.Join(folder, "create.sql"))) {
		if st.Text != "" {
			if err := empty.Exec(t.Context(), st.Text); err != nil {
				t.Fatalf("%v: %s", err, st.Text)
			}
		}
	}
	survey := read(t, filepath.Join(folder, "survey.json"))
	for _, wants := range []string{`"invisible": true`, `"definition": "RANGE \(AT\) INTERVAL \(NUMTOYMINTERVAL\(1, 'MONTH'\)\)"`, `REFERENCE \(READING_FLAG_FK\)`, `"ignored": true`, `"disabled": true`, `"identity on null"`, `disabled key`} {
		match(t, "the survey", survey, wants)
	}
}

// TestOracleNotNull: what forbids null in a column keeps its name, there and back.
func TestOracleNotNull(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	d := dictionary(t, `CREATE TABLE raft (id NUMBER(19) CONSTRAINT raft_id_wanted NOT NULL CONSTRAINT raft_pk PRIMARY KEY, colour VARCHAR2(10 CHAR) CONSTRAINT "colour wanted" NOT NULL, oars NUMBER(3), kind NUMBER(1) NOT NULL)`)
	other := dictionary(t, `CREATE TABLE raft (id NUMBER(19) CONSTRAINT raft_id_wanted NOT NULL CONSTRAINT raft_pk PRIMARY KEY, colour VARCHAR2(10 CHAR), oars NUMBER(3) CONSTRAINT has_oars NOT NULL, kind NUMBER(1))`)
	before, after := shown(t, d), shown(t, other)
	captured(t, d.As("SYSTEM", true), filepath.Join(folder, "is.txt"))
	captured(t, other.As("SYSTEM", true), filepath.Join(folder, "to.txt"))
	must(t, folder, "script", "change", "is.txt", "to.txt", "-o", "change.sql")
	for _, x := range []struct{ script, want string }{{"change.sql", after}, {"change.reversal.sql", before}} {
		if out, err := d.As("SYSTEM", true).Run(t.Context(), read(t, filepath.Join(folder, x.script))); err != nil {
			t.Fatal(err, out)
		}
		if got := shown(t, d); got != x.want {
			t.Errorf("after %s the dictionary shows another structure: %s", x.script, changedLines(x.want, got))
		}
	}
	match(t, "the rehearsal", must(t, folder, "rehearse", "change.sql", "--on", "is.txt"), "what the engine reports is what the model says")
}

// TestOracleUnread: what the program does not read it names, and takes no table that the engine
// keeps for itself for one of the house's.
func TestOracleUnread(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	d := dictionary(t, `CREATE TABLE station (id NUMBER(10) PRIMARY KEY, code VARCHAR2(8) NOT NULL, height NUMBER(6));
CREATE MATERIALIZED VIEW LOG ON station WITH PRIMARY KEY;
CREATE DATABASE LINK archive CONNECT TO keeper IDENTIFIED BY "x" USING 'archive';
GRANT UPDATE (code, height), SELECT ON station TO reader WITH GRANT OPTION;
BEGIN
  DBMS_RLS.ADD_POLICY('SALTMERE', 'STATION', 'OWN_ROWS', 'SALTMERE', 'OWN_ROWS');
END;
/
`)
	for account, admin := range map[string]bool{"SYSTEM": true, "READER": false} {
		captured(t, d.As(account, admin), filepath.Join(folder, "result.txt"))
		must(t, folder, "survey", "result.txt", "-o", "survey.json")
		survey := strings.Join(strings.Fields(read(t, filepath.Join(folder, "survey.json"))), " ")
		for _, says := range []string{`"table": "STATION", "what": "materialized view log"`, `"what": "policy OWN_ROWS", "reason": "no question asks for its text, and it may hide rows`, `"rows filtered by policy OWN_ROWS"`, `"what": "1 database link"`,
			`{"to":"READER","what":"UPDATE","column":"HEIGHT","grantable":true}`, `{"to":"READER","what":"SELECT","grantable":true}`} {
			if !strings.Contains(survey, says) {
				t.Errorf("%s: the survey does not say %s", account, says)
			}
		}
		if strings.Contains(survey, "MLOG$_") {
			t.Errorf("%s: the log is taken for a table", account)
		}
		if out := nexdal(t, folder, "check", "result.txt").out; !strings.Contains(out, "OWN_ROWS") {
			t.Errorf("%s: check does not say what was not read: %s", account, out)
		}
	}
}

// TestOracleAccounts: an account that is no administrator is asked by the views of what it may
// see, and the survey says what it lacks.
func TestOracleAccounts(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	d := dictionary(t, read(t, "testdata/everything.oracle.sql"))
	captured(t, d.As("SYSTEM", true), filepath.Join(folder, "all.txt"))
	captured(t, d.As("READER", false), filepath.Join(folder, "some.txt"))
	some := read(t, filepath.Join(folder, "some.txt"))
	if strings.Count(some, "@failed") != 4 {
		t.Errorf("refused were %d questions", strings.Count(some, "@failed"))
	}
	if r := nexdal(t, folder, "compare", "all.txt", "some.txt", "--ignore", "storage"); r.status != 0 {
		t.Errorf("compare: %s%s", r.out, r.err)
	}
	match(t, "who asked", some, `"READER"`)
}

// TestOracleDemo walks the whole demo, and holds its script to what SQL*Plus makes of it.
func TestOracleDemo(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	out := must(t, folder, "demo", "--engine", "oracle")
	for _, says := range []string{"no Oracle takes part in this demo", "The simulated dictionary answers", "simulated: no Oracle has seen the script", "what the engine reports is what the model says", "the way back, [0-9]+ steps, leads to where it began", "All of it was simulated"} {
		match(t, "the demo", out, says)
	}
	at := filepath.Join(folder, "saltmere-demo")
	fix := read(t, filepath.Join(at, "fix.sql"))
	for _, has := range []string{"^WHENEVER SQLERROR EXIT", "ENABLE NOVALIDATE;", "MODIFY CONSTRAINT [A-Z_]+ VALIDATE;", "CREATE INDEX [A-Z_.]+ ON .* ONLINE;", "ALTER INDEX [A-Z_.]+ INVISIBLE;", `DEFAULT ON NULL "SALTMERE"."RAFT_NO"."NEXTVAL"`, "RESTART START WITH ' \\|\\| n;", "\n/\n", "ADD PARTITION P2027"} {
		match(t, "the script", fix, has)
	}
	match(t, "the first capture", nexdal(t, at, "check", "result.txt", "--all").out, "sequence/by-trigger")
	after := nexdal(t, at, "check", "after.txt", "--all").out
	for _, gone := range []string{"sequence/by-trigger", "fk/not-indexed", "index/broken", "fk/disabled", "partition/horizon", "column/obsolete-type"} {
		if strings.Contains(after, gone) {
			t.Errorf("%s is there after the script", gone)
		}
	}
	if r := nexdal(t, at, "demo", "--engine", "oracle", "--on", "x"); r.status != 2 || !strings.Contains(r.err, "has no server") {
		t.Errorf("a server for it: %d %s", r.status, r.err)
	}
}

// TestOracleBadInput: what is wrong with a capture is said, by question.
func TestOracleBadInput(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	d := dictionary(t, read(t, "testdata/everything.oracle.sql"))
	captured(t, d.As("SYSTEM", true), filepath.Join(folder, "result.txt"))
	whole := read(t, filepath.Join(folder, "result.txt"))
	lines := strings.SplitAfter(whole, "\n")
	for i := 0; i < len(lines); i += 17 { // cut off in the middle, of every question some time
		write(t, filepath.Join(folder, "cut.txt"), strings.Join(lines[:i], ""))
		if r := nexdal(t, folder, "survey", "cut.txt"); r.status == 0 {
			t.Fatalf("cut off behind line %d, it passes for whole", i)
		}
	}
	for name, c := range map[string]struct{ text, says string }{
		"another engine":    {strings.Replace(whole, "@nexdal 1 oracle", "@nexdal 1 postgres", 1), "another version of Nexdal"},
		"an unknown engine": {strings.Replace(whole, "@nexdal 1 oracle", "@nexdal 1 abacus", 1), "abacus"},
		"a newer form":      {strings.Replace(whole, "@nexdal 1 oracle", "@nexdal 9 oracle", 1), "newer"},
		"two of one":        {whole + whole, "captures of SALTDB, SALTDB"},
	} {
		write(t, filepath.Join(folder, "bad.txt"), c.text)
		r := nexdal(t, folder, "survey", "bad.txt")
		if r.status == 0 || !strings.Contains(r.err, c.says) {
			t.Errorf("%s: %d %s", name, r.status, r.err)
		}
	}
	must(t, folder, "script", "fix", "result.txt", "-o", "fix.sql")
	if r := nexdal(t, folder, "run", "fix.sql", "--on", "result.txt", "--yes"); r.status == 0 || !strings.Contains(r.err, "capture") {
		t.Errorf("a script run on a capture: %d %s", r.status, r.err)
	}
	text := read(t, filepath.Join(folder, "fix.sql"))
	write(t, filepath.Join(folder, "fix.sql"), strings.Replace(text, "ENABLE NOVALIDATE", "ENABEL NOVALIDATE", 1))
	if r := nexdal(t, folder, "rehearse", "fix.sql", "--on", "result.txt"); r.status == 0 {
		t.Errorf("a misspelt script passes: %s", r.out)
	}
}

// TestOracleFix: a script that SQL*Plus carries out on the database itself, with its rows: numbers
// go on past the largest, what the data refuses stops it, and the way back leads back.
func TestOracleFix(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	d := dictionary(t, `CREATE SEQUENCE raft_no NOCACHE;
CREATE TABLE raft (id NUMBER(19) CONSTRAINT raft_pk PRIMARY KEY, colour VARCHAR2(10 CHAR) NOT NULL CONSTRAINT raft_colour UNIQUE);
CREATE OR REPLACE TRIGGER raft_numbered BEFORE INSERT ON raft FOR EACH ROW
BEGIN
  SELECT raft_no.NEXTVAL INTO :NEW.id FROM dual;
END;
/
INSERT INTO raft VALUES (7000, 'red');
CREATE TABLE oar (id NUMBER(19) GENERATED BY DEFAULT AS IDENTITY CONSTRAINT oar_pk PRIMARY KEY, raft_id NUMBER(19) NOT NULL, note VARCHAR2(9 CHAR) CONSTRAINT oar_note UNIQUE);
INSERT INTO oar (raft_id) VALUES (7000);
ALTER TABLE oar ADD CONSTRAINT oar_raft FOREIGN KEY (raft_id) REFERENCES raft (id) ENABLE NOVALIDATE;
COMMENT ON TABLE oar IS 'has
/
in it';`)
	before := shown(t, d)
	captured(t, d.As("SYSTEM", true), filepath.Join(folder, "result.txt"))
	must(t, folder, "script", "fix", "result.txt", "-o", "fix.sql")
	run := func(file string) {
		t.Helper()
		if out, err := d.As("SYSTEM", true).Run(t.Context(), read(t, filepath.Join(folder, file))); err != nil {
			t.Fatal(err, out)
		}
	}
	user := d.As("SALTMERE", false)
	says := func(sql string) string {
		if err := user.Exec(t.Context(), sql); err != nil {
			return err.Error()
		}
		return "done"
	}
	rows := func(sql string) string {
		t.Helper()
		_, rows, err := user.Rows(t.Context(), sql, 100)
		if err != nil {
			t.Fatal(err)
		}
		var b strings.Builder
		for _, r := range rows {
			for _, v := range r {
				b.WriteString(*v + " ")
			}
		}
		return b.String()
	}
	// A row that nobody has looked at stands in the way: the pre-flight lists it, and VALIDATE stops.
	for _, sql := range []string{"ALTER TABLE oar DISABLE CONSTRAINT oar_raft", "INSERT INTO oar (raft_id) VALUES (1)", "ALTER TABLE oar ENABLE NOVALIDATE CONSTRAINT oar_raft"} {
		if got := says(sql); got != "done" {
			t.Fatal(got)
		}
	}
	if out, err := d.As("SYSTEM", true).Run(t.Context(), read(t, filepath.Join(folder, "fix.sql"))); err == nil || !strings.Contains(err.Error(), "ORA-02298") {
		t.Fatalf("a row without a parent is let pass: %v %s", err, out)
	}
	says("DELETE FROM oar WHERE raft_id = 1")
	must(t, folder, "script", "fix", "result.txt", "-o", "again.sql")
	d2 := shown(t, d)
	if d2 == before {
		t.Error("the steps before the one that failed left nothing")
	}
	captured(t, d.As("SYSTEM", true), filepath.Join(folder, "half.txt"))
	must(t, folder, "script", "fix", "half.txt", "-o", "rest.sql")
	run("rest.sql")
	if got := says("INSERT INTO raft (colour) VALUES ('blue')"); got != "done" {
		t.Error(got)
	}
	if got := rows("SELECT MAX(id) FROM raft"); got != "7001 " {
		t.Errorf("the next raft is %s", got)
	}
	if got := says("INSERT INTO oar (raft_id) VALUES (1)"); !strings.HasPrefix(got, "ORA-02291") {
		t.Errorf("a reference without a parent: %s", got)
	}
	says("DELETE FROM raft WHERE colour = 'blue'")
	run("rest.reversal.sql")
	run("fix.reversal.sql")
}
