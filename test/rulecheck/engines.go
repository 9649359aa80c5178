package rulecheck

import (
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"go.mongodb.org/mongo-driver/v2/bson"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/bigquery"
	"nexdal/internal/engine/firebird"
	"nexdal/internal/engine/mariadb"
	"nexdal/internal/engine/mongodb"
	"nexdal/internal/engine/mysql"
	"nexdal/internal/engine/postgres"
	"nexdal/internal/engine/redshift"
	"nexdal/internal/engine/sqlite"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/engine/sqlserver"
	projects "nexdal/internal/standin/bigquery"
	stores "nexdal/internal/standin/mongodb"
	"nexdal/internal/standin/oracle"
	standin "nexdal/internal/standin/redshift"
	servers "nexdal/internal/standin/sqlserver"
	"nexdal/test/server"
)

// engines makes a throwaway database of each engine.
var engines = map[string]func(*testing.T) (engine.Engine, database){
	"sqlite": func(t *testing.T) (engine.Engine, database) {
		if _, err := exec.LookPath("sqlite3"); err != nil {
			t.Fatalf("the engine's own client is needed: %v", err)
		}
		return sqlite.Engine{}, sqliteFile(filepath.Join(t.TempDir(), "test.db"))
	},
	"postgres": func(t *testing.T) (engine.Engine, database) {
		p := server.StartPostgres(t)
		return postgres.Engine{}, postgresDatabase{p, p.Database(t), new(kept)}
	},
	"mariadb": func(t *testing.T) (engine.Engine, database) {
		m := server.StartMariaDB(t)
		return mariadb.Engine{}, mariadbDatabase{m, m.Database(t)}
	},
	"mysql": func(t *testing.T) (engine.Engine, database) {
		m := server.StartMySQL(t)
		return mysql.Engine, mysqlDatabase{m, m.Database(t)}
	},
	"firebird": func(t *testing.T) (engine.Engine, database) {
		f := server.StartFirebird(t)
		return firebird.Engine{}, firebirdDatabase{f, f.Database(t)}
	},
	"sqlserver": func(t *testing.T) (engine.Engine, database) {
		return sqlserver.Engine{}, sqlServerDatabase{server.StartSQLServer(t, servers.Developer), "Saltmere"}
	},
	"oracle": func(t *testing.T) (engine.Engine, database) {
		d, err := oracle.New(oracle.Enterprise, "SALTDB", "SALTMERE")
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(d.Close)
		return onPaper{d: d}, paperDatabase{d}
	},
	"bigquery": func(t *testing.T) (engine.Engine, database) {
		p, err := projects.Start("saltmere-agency")
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(p.Close)
		if err := p.Run("CREATE SCHEMA saltmere"); err != nil {
			t.Fatal(err)
		}
		return bigquery.Engine{}, projectDatabase{p}
	},
	"mongodb": func(t *testing.T) (engine.Engine, database) {
		s, err := stores.Start()
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(s.Close)
		s.Shards = 3
		return mongodb.Engine{}, documentDatabase{s}
	},
	"redshift": func(t *testing.T) (engine.Engine, database) {
		c, err := standin.Start(2, 2)
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(c.Close)
		return redshift.Engine{}, simulated{c}
	},
}

// ofServers are the engines that a script which names none is for.
var ofServers = []string{"sqlite", "postgres", "mariadb", "mysql", "sqlserver", "firebird"}

type sqliteFile string

func (f sqliteFile) address() string { return "sqlite:" + string(f) }

func (f sqliteFile) shell(input string) (string, error) {
	c := exec.Command("sqlite3", "-bail", string(f))
	c.Stdin = strings.NewReader(input)
	out, err := c.CombinedOutput()
	return string(out), err
}

func (f sqliteFile) build(t *testing.T, sql string) {
	if out, err := f.shell(sql); err != nil {
		t.Fatalf("sqlite3: %v: %s", err, out)
	}
}

// client feeds the script as a DBA would, without -bail: the script has to see
// to it itself that an error stops it.
func (f sqliteFile) client(path string) (string, error) {
	out, err := exec.Command("sqlite3", string(f), ".read "+path).CombinedOutput()
	return string(out), err
}

func (f sqliteFile) count(t *testing.T, table *catalog.Table) string {
	name := `"` + strings.ReplaceAll(table.Name, `"`, `""`) + `"`
	var columns []string
	for _, c := range table.Columns {
		columns = append(columns, `quote("`+strings.ReplaceAll(c.Name, `"`, `""`)+`")`)
	}
	out, err := f.shell(fmt.Sprintf("SELECT %s FROM %s ORDER BY 1;", strings.Join(columns, "||','||"), name))
	if err != nil {
		t.Fatalf("sqlite3: %v: %s", err, out)
	}
	return out
}

type postgresDatabase struct {
	server *server.Postgres
	name   string
	open   *kept
}

// kept is the session that reads a catalog throughout: a new one would have to learn the system
// tables again.
type kept struct {
	session engine.Session
	anew    bool // a new one finds other settings
}

// reads is the session, opened by open where it has to be.
func (d postgresDatabase) reads(t *testing.T, open func() engine.Session) engine.Session {
	if d.open.session != nil && d.open.anew {
		d.open.session.Close()
		d.open.session = nil
	}
	if d.open.session == nil {
		s := open()
		d.open.session = s
		t.Cleanup(func() { s.Close() })
	}
	return d.open.session
}

func (d postgresDatabase) address() string { return d.server.URL(d.name) }

func (d postgresDatabase) build(t *testing.T, sql string) { d.server.Query(t, d.name, sql) }

func (d postgresDatabase) client(path string) (string, error) { return d.server.File(d.name, path) }

func (d postgresDatabase) count(t *testing.T, table *catalog.Table) string {
	var columns []string
	for _, c := range table.Columns {
		columns = append(columns, `"`+strings.ReplaceAll(c.Name, `"`, `""`)+`"`)
	}
	return d.server.Query(t, d.name, fmt.Sprintf(`SELECT ROW(%s) FROM "%s"."%s" ORDER BY 1`, strings.Join(columns, ", "), strings.ReplaceAll(table.Schema, `"`, `""`), strings.ReplaceAll(table.Name, `"`, `""`)))
}

type simulated struct{ cluster *standin.Cluster }

func (d simulated) address() string { return d.cluster.URL() }

func (d simulated) psql(input string, args ...string) (string, error) {
	c := exec.Command(server.Psql(), append([]string{"-X", "-q", "-A", "-t", "-v", "ON_ERROR_STOP=1", "-d", strings.Replace(d.address(), "redshift:", "postgres:", 1)}, args...)...)
	c.Stdin = strings.NewReader(input)
	out, err := c.CombinedOutput()
	return string(out), err
}

func (d simulated) build(t *testing.T, sql string) {
	if out, err := d.psql(sql); err != nil {
		t.Fatalf("psql: %v: %s", err, out)
	}
}

func (d simulated) client(path string) (string, error) { return d.psql("", "-f", path) }

func (d simulated) count(t *testing.T, table *catalog.Table) string {
	var columns []string
	for _, c := range table.Columns {
		columns = append(columns, `"`+c.Name+`"`)
	}
	out, err := d.psql(fmt.Sprintf(`SELECT %s FROM "%s"."%s" ORDER BY %[1]s`, strings.Join(columns, ", "), table.Schema, table.Name))
	if err != nil {
		t.Fatalf("psql: %v: %s", err, out)
	}
	return out
}

type mariadbDatabase struct {
	server *server.MariaDB
	name   string
}

func (d mariadbDatabase) address() string { return d.server.URL(d.name) }

func (d mariadbDatabase) build(t *testing.T, sql string) { d.server.Query(t, d.name, sql) }

func (d mariadbDatabase) client(path string) (string, error) { return d.server.File(d.name, path) }

func (d mariadbDatabase) count(t *testing.T, table *catalog.Table) string {
	return d.server.Query(t, d.name, rowsOf(table))
}

type mysqlDatabase struct {
	server *server.MySQL
	name   string
}

func (d mysqlDatabase) address() string { return d.server.URL(d.name) }

func (d mysqlDatabase) build(t *testing.T, sql string) {
	d.server.Query(t, d.name, sql)
	d.server.Settle(t, d.name)
}

func (d mysqlDatabase) client(path string) (string, error) { return d.server.File(d.name, path) }

func (d mysqlDatabase) count(t *testing.T, table *catalog.Table) string {
	return d.server.Query(t, d.name, rowsOf(table))
}

// rowsOf is the query for all rows of a table, as MariaDB and MySQL quote it.
func rowsOf(table *catalog.Table) string {
	quoted := func(name string) string { return "`" + strings.ReplaceAll(name, "`", "``") + "`" }
	var columns []string
	for _, c := range table.Columns {
		columns = append(columns, quoted(c.Name))
	}
	return fmt.Sprintf("SELECT %s FROM %s ORDER BY 1", strings.Join(columns, ", "), quoted(table.Name))
}

type sqlServerDatabase struct {
	server *server.SQLServer
	name   string
}

func (d sqlServerDatabase) address() string { return d.server.URL(d.name) }

func (d sqlServerDatabase) build(t *testing.T, sql string) {
	t.Helper()
	if _, err := d.server.Run(d.name, sql); err != nil {
		t.Fatal(err)
	}
}

func (d sqlServerDatabase) client(path string) (string, error) { return d.server.File(d.name, path) }

func (d sqlServerDatabase) count(t *testing.T, table *catalog.Table) string {
	t.Helper()
	quoted := func(name string) string { return "[" + strings.ReplaceAll(name, "]", "]]") + "]" }
	var columns []string
	for _, c := range table.Columns {
		columns = append(columns, quoted(c.Name))
	}
	out, err := d.server.Run(d.name, fmt.Sprintf("SELECT %s FROM %s.%s ORDER BY 1", strings.Join(columns, ", "), quoted(table.Schema), quoted(table.Name)))
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// onPaper is Oracle, whose databases are paper dictionaries.
type onPaper struct {
	oracle.Stage
	d *oracle.Dictionary
}

func (e onPaper) Open(context.Context, string, engine.Options) (engine.Session, error) {
	return e.d.Paper(), nil
}

type paperDatabase struct{ d *oracle.Dictionary }

func (d paperDatabase) address() string { return "" }

func (d paperDatabase) build(t *testing.T, sql string) {
	t.Helper()
	s := d.d.As("SALTMERE", true)
	for _, st := range (oracle.Stage{}).Dialect().Statements(sql) {
		if st.Text == "" {
			continue
		}
		if err := s.Exec(t.Context(), st.Text); err != nil {
			t.Fatalf("%v: %s", err, st.Text)
		}
	}
}

func (d paperDatabase) client(path string) (string, error) {
	text, err := os.ReadFile(path)
	if err != nil {
		return "", err
	}
	return d.d.As("SYSTEM", true).Run(context.Background(), string(text))
}

func (d paperDatabase) count(t *testing.T, table *catalog.Table) string {
	t.Helper()
	var columns []string
	for _, c := range table.Columns {
		columns = append(columns, `"`+c.Name+`"`)
	}
	_, rows, err := d.d.Paper().Rows(t.Context(), fmt.Sprintf(`SELECT %s FROM "%s"."%s" ORDER BY 1`, strings.Join(columns, ", "), table.Schema, table.Name), 1<<30)
	if err != nil {
		t.Fatal(err)
	}
	var b strings.Builder
	for _, r := range rows {
		fmt.Fprintln(&b, r.Texts())
	}
	return b.String()
}

// bySystem are names that the engine gives anew, and the moment of a capture.
var bySystem = regexp.MustCompile(`(SYS_C|ISEQ\$\$_)\d+|"\d{4}-\d\d-\d\dT[\d:]+Z"|@row \d+`)

// dump is all that the dictionary shows.
func (d paperDatabase) dump(t *testing.T) string {
	t.Helper()
	var b strings.Builder
	if err := d.d.Paper().Capture(t.Context(), &b); err != nil {
		t.Fatal(err)
	}
	// What was renamed, and renamed back; and a default that was taken away again.
	text := strings.NewReplacer("GENERATED NAME", "USER NAME", `,"NULL",`, `,null,`).Replace(b.String())
	lines := strings.Split(bySystem.ReplaceAllString(text, "$1"), "\n")
	// What forbids null in a column that a key forbade it in alone stays behind.
	lines = slices.DeleteFunc(lines, func(l string) bool {
		return strings.Contains(l, `\u0022 IS NOT NULL"`) || strings.HasPrefix(l, " [\"SALTMERE\",\"SYS_C\",\"") && strings.HasSuffix(l, ",null]") || strings.HasPrefix(l, "@end")
	})
	slices.Sort(lines) // constraints come in the order of their names
	return strings.Join(lines, "\n")
}

type firebirdDatabase struct {
	server *server.Firebird
	name   string
}

func (d firebirdDatabase) address() string { return d.server.URL(d.name) }

// build adapts what scripts for all engines have that this one writes otherwise: a list of rows is
// one INSERT each, and a text has a length.
func (d firebirdDatabase) build(t *testing.T, sql string) {
	t.Helper()
	dialect := firebird.Engine{}.Dialect()
	var b strings.Builder
	for _, st := range dialect.Statements(remainder.ReplaceAllString(sql, "MOD($1, $2)")) {
		for _, text := range single(dialect, st.Text) {
			b.WriteString(dialect.Ended(adapted(dialect, text)) + "\nCOMMIT;\n")
		}
	}
	d.server.Query(t, d.name, b.String()+dialect.Ended(settle))
}

// settle drops the indexes that repeat those which the engine built for foreign keys: scripts for all
// engines have them since others build none.
const settle = `EXECUTE BLOCK AS
DECLARE n VARCHAR(63);
BEGIN
  FOR SELECT TRIM(x.rdb$index_name) FROM rdb$indices x WHERE x.rdb$system_flag = 0 AND NOT EXISTS (SELECT 1 FROM rdb$relation_constraints k WHERE k.rdb$index_name = x.rdb$index_name)
    AND EXISTS (SELECT 1 FROM rdb$indices f WHERE f.rdb$relation_name = x.rdb$relation_name AND f.rdb$foreign_key IS NOT NULL
      AND (SELECT LIST(TRIM(s.rdb$field_name) || s.rdb$field_position) FROM rdb$index_segments s WHERE s.rdb$index_name = f.rdb$index_name) = (SELECT LIST(TRIM(s.rdb$field_name) || s.rdb$field_position) FROM rdb$index_segments s WHERE s.rdb$index_name = x.rdb$index_name)) INTO :n DO
    EXECUTE STATEMENT 'DROP INDEX "' || n || '"';
END`

// remainder is an operator that is a function here.
var remainder = regexp.MustCompile(`(\w+) % (\d+)`)

// empty is a database without anything: a twin is built in one that is given.
func (d firebirdDatabase) empty(t *testing.T) string { return d.server.URL(d.server.Database(t)) }

var ofRows = regexp.MustCompile(`(?is)^(INSERT\s+INTO\s+.*?\bVALUES)\s*\(`)

// adapted writes names that are words of its own in quotes, texts with a length, and what is selected
// from nothing from the table of one row.
func adapted(d sqllex.Dialect, text string) string {
	tokens := d.Tokens(text)
	next := func(i int) sqllex.Token {
		for _, t := range tokens[i+1:] {
			if !t.Blank() {
				return t
			}
		}
		return sqllex.Token{}
	}
	var b strings.Builder
	bare := []bool{false} // by depth: a SELECT has met no FROM
	flush := func() {
		if n := len(bare) - 1; bare[n] {
			b.WriteString(" FROM rdb$database ")
			bare[n] = false
		}
	}
	last := sqllex.Token{}
	for i, t := range tokens {
		switch {
		case t.Is("("):
			bare = append(bare, false)
		case t.Is(")"):
			flush()
			bare = bare[:len(bare)-1]
		case t.Is("union"):
			flush()
		case t.Is("select"):
			bare[len(bare)-1] = true
		case t.Is("from"):
			bare[len(bare)-1] = false
		}
		switch {
		case t.Kind == sqllex.Word && slices.Contains([]string{"day", "year", "month", "position", "plan"}, strings.ToLower(t.Text)) && (!next(i).Is("(") || last.Is("table") || last.Is("into") || last.Is("references") || last.Is("on")):
			b.WriteString(`"` + strings.ToUpper(t.Text) + `"`)
		case t.Is("text") && !last.Is("sub_type") && (last.Kind == sqllex.Word || last.Kind == sqllex.Quoted):
			b.WriteString("varchar(200)")
		default:
			b.WriteString(t.Text)
		}
		if !t.Blank() {
			last = t
		}
	}
	flush()
	return b.String()
}

// single makes one statement for each row of an INSERT.
func single(d sqllex.Dialect, text string) []string {
	if text == "" {
		return nil
	}
	m := ofRows.FindStringSubmatch(text)
	if m == nil {
		return []string{text}
	}
	var rows []string
	depth, start := 0, 0
	body := text[len(m[1]):]
	d.Each(body, func(t sqllex.Token) bool {
		switch {
		case t.Is("("):
			if depth++; depth == 1 {
				start = t.Start
			}
		case t.Is(")"):
			if depth--; depth == 0 {
				rows = append(rows, m[1]+" "+body[start:t.End])
			}
		}
		return true
	})
	return rows
}

func (d firebirdDatabase) client(path string) (string, error) { return d.server.File(d.name, path) }

func (d firebirdDatabase) count(t *testing.T, table *catalog.Table) string {
	t.Helper()
	var columns []string
	for _, c := range table.Columns {
		columns = append(columns, `"`+strings.ReplaceAll(c.Name, `"`, `""`)+`"`)
	}
	out := d.server.Query(t, d.name, fmt.Sprintf("SET BLOBDISPLAY ALL;\nSELECT %s FROM \"%s\" ORDER BY 1;", strings.Join(columns, ", "), strings.ReplaceAll(table.Name, `"`, `""`)))
	lines := strings.Split(out, "\n")
	for i, l := range lines { // columns are as wide as their types
		lines[i] = strings.Join(strings.Fields(l), " ")
	}
	return strings.Join(lines, "\n")
}

// projectDatabase is a dataset of a simulated project of BigQuery.
type projectDatabase struct{ p *projects.Project }

func (d projectDatabase) address() string { return d.p.URL("saltmere") }

func (d projectDatabase) build(t *testing.T, sql string) {
	t.Helper()
	if err := d.p.Run(sql); err != nil {
		t.Fatal(err)
	}
}

// client runs the script as bq does, up to the first error.
func (d projectDatabase) client(path string) (string, error) {
	text, err := os.ReadFile(path)
	if err != nil {
		return "", err
	}
	return "", d.p.Run(string(text))
}

func (d projectDatabase) count(t *testing.T, table *catalog.Table) string {
	t.Helper()
	var columns []string
	for _, c := range table.Columns {
		if c.Within == "" {
			columns = append(columns, "`"+c.Name+"`")
		}
	}
	where := ""
	if p := table.PartitionBy; p != nil {
		where = fmt.Sprintf(" WHERE `%s` IS NOT NULL OR `%[1]s` IS NULL", p.Columns[0])
	}
	rows, err := d.p.Rows(fmt.Sprintf("SELECT %s FROM `%s`.`%s`%s ORDER BY %[1]s", strings.Join(columns, ", "), table.Schema, table.Name, where))
	if err != nil {
		t.Fatal(err)
	}
	var b strings.Builder
	for _, r := range rows {
		fmt.Fprintln(&b, r)
	}
	return b.String()
}

// documentDatabase is a database of a simulated MongoDB.
type documentDatabase struct{ s *stores.Server }

func (d documentDatabase) address() string { return d.s.URL("saltmere") }

// sharded is a line "// shard COLLECTION FIELD": it is spread over the machines by the field.
var sharded = regexp.MustCompile(`(?m)^// shard (\w+) (\w+)$`)

func (d documentDatabase) build(t *testing.T, script string) {
	t.Helper()
	if err := d.s.Script("saltmere", script); err != nil {
		t.Fatal(err)
	}
	d.s.Age()
	for _, m := range sharded.FindAllStringSubmatch(script, -1) {
		d.s.Shard("saltmere", m[1], bson.D{{Key: m[2], Value: 1}})
	}
}

// client runs the script as mongosh does, up to the first error.
func (d documentDatabase) client(path string) (string, error) {
	text, err := os.ReadFile(path)
	if err != nil {
		return "", err
	}
	return "", d.s.Script("saltmere", string(text))
}

func (d documentDatabase) count(t *testing.T, table *catalog.Table) string {
	t.Helper()
	var b strings.Builder
	for _, doc := range d.s.Documents("saltmere", table.Name) {
		fmt.Fprintln(&b, doc)
	}
	return b.String()
}
