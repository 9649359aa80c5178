package test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"unicode"

	"nexdal/test/server"
)

// schemas is how many random schemas each engine is tried on.
const schemas = 8

// TestRandomSchemas builds random schemas with rows and faults, and expects of
// each: the script leaves no finding that it answers and brings none about, no
// row is lost, and the reversal brings back structure and rows.
func TestRandomSchemas(t *testing.T) {
	t.Parallel()
	for seed := range uint64(schemas / 2) { // its client takes long
		t.Run(fmt.Sprintf("firebird/%d", seed), func(t *testing.T) {
			t.Parallel()
			w := ofFirebird{server.StartFirebird(t), ""}
			w.name = w.f.Database(t)
			path := filepath.Join(t.TempDir(), "random.sql")
			write(t, path, randomSchema(seed, "firebird")+"COMMIT;\n")
			w.f.FileAs("SYSDBA", "masterkey", w.name, path)
			healAndBack(t, w.source(), func() string { return w.dump(t) }, w.client)
		})
	}
	for seed := range uint64(schemas) {
		t.Run(fmt.Sprintf("sqlite/%d", seed), func(t *testing.T) {
			t.Parallel()
			db := filepath.Join(t.TempDir(), "a.db")
			c := exec.Command("sqlite3", db)
			c.Stdin = strings.NewReader(randomSchema(seed, "sqlite"))
			c.Run() // rows that a constraint refuses are left out
			healAndBack(t, db, func() string { return insertsOnly(sqlite(t, db, ".dump")) }, func(path string) (string, error) {
				c := exec.Command("sqlite3", db, ".read "+path)
				out, err := c.CombinedOutput()
				return string(out), err
			})
		})
		t.Run(fmt.Sprintf("postgres/%d", seed), func(t *testing.T) {
			t.Parallel()
			p := server.StartPostgres(t)
			name := p.Database(t)
			c := exec.Command(server.Psql(), "-X", "-q", "-h", p.Folder, "-U", "postgres", "-d", name)
			c.Stdin = strings.NewReader(randomSchema(seed, "postgres"))
			c.Run()
			healAndBack(t, p.URL(name), func() string {
				return sorted(strings.Split(p.Dump(t, name, "--inserts"), "\n"), "restrict")
			}, func(path string) (string, error) { return p.File(name, path) })
		})
		t.Run(fmt.Sprintf("mariadb/%d", seed), func(t *testing.T) {
			t.Parallel()
			m := server.StartMariaDB(t)
			name := m.Database(t)
			c := exec.Command("mariadb", "--no-defaults", "--force", "--socket="+m.Socket(), "-uroot", "--default-character-set=utf8mb4", name)
			c.Stdin = strings.NewReader("SET sql_mode = 'ANSI_QUOTES,STRICT_ALL_TABLES';\n" + randomSchema(seed, "mariadb"))
			c.Run()
			healAndBack(t, m.URL(name), func() string {
				out, err := exec.Command("mariadb-dump", "--no-defaults", "-u", "root", "-S", m.Socket(), "--skip-extended-insert", "--skip-comments", "--complete-insert", name).Output()
				if err != nil {
					t.Fatal(err)
				}
				// A key or foreign key that is put back stands behind the others.
				return sorted(strings.Split(strings.ReplaceAll(string(out), ",\n", "\n"), "\n"), "\x00")
			}, func(path string) (string, error) { return m.File(name, path) })
		})
	}
}

// healAndBack fixes, checks, reverses and compares; dump is the witness. The same is
// done again by the engine's own client.
func healAndBack(t *testing.T, source string, dump func() string, client func(path string) (string, error)) {
	folder := t.TempDir()
	before, rows := structure(t, folder, source), dump()
	fixable := map[string]bool{}
	for _, f := range findings(t, source) {
		if len(f.Fixes) > 0 && !f.Fixes[0].Ask {
			fixable[f.Rule+" "+f.Table] = true
		}
	}
	must(t, folder, "script", "fix", source, "-o", "fix.sql")
	r := nexdal(t, folder, "run", "fix.sql", "--on", source, "--yes")
	if r.status == 1 && strings.Contains(r.err, "stands in the way") {
		if structure(t, folder, source) != before || dump() != rows {
			t.Error("the pre-flight stopped the run, but something was changed")
		}
		return
	}
	if r.status != 0 {
		t.Fatalf("%s%s\n%s", r.out, r.err, read(t, filepath.Join(folder, "fix.sql")))
	}
	for _, f := range findings(t, source) {
		if len(f.Fixes) > 0 && !f.Fixes[0].Ask {
			t.Errorf("after the fix: %s %s: %s (there before: %v)", f.Rule, f.Table, f.Message, fixable[f.Rule+" "+f.Table])
		}
	}
	if len(fixable) == 0 {
		return
	}
	healed := structure(t, folder, source)
	must(t, folder, "run", "fix.reversal.sql", "--on", source, "--yes")
	same := func(by, want string) {
		if now := structure(t, folder, source); numberless(now) != numberless(want) {
			t.Errorf("%s: not the structure that was: %s\n--- was\n%s", by, now, want)
		}
	}
	same("the reversal", before)
	if now := dump(); now != rows {
		t.Errorf("the reversal does not bring back the dump:\n%s\n--- was\n%s", now, rows)
	}
	for _, step := range []struct{ file, want string }{{"fix.sql", healed}, {"fix.reversal.sql", before}} {
		if out, err := client(filepath.Join(folder, step.file)); err != nil {
			t.Fatalf("%s by the engine's own client: %v: %s", step.file, err, out)
		}
		same(step.file+" by the engine's own client", step.want)
	}
	if now := dump(); now != rows {
		t.Errorf("the engine's own client does not bring back the dump:\n%s\n--- was\n%s", now, rows)
	}
}

var numbersOfFirebird = regexp.MustCompile(`"RDB\$(PRIMARY|FOREIGN)?\d+"`)

// numberless leaves out the numbers by which Firebird tells what has no name.
func numberless(survey string) string { return numbersOfFirebird.ReplaceAllString(survey, `"RDB$$$1"`) }

// insertsOnly leaves the rows of a dump; a rebuilt table's statement is written
// with its name in quotes, so that the rest of a dump differs.
func insertsOnly(dump string) string {
	var rows []string
	for _, line := range strings.Split(dump, "\n") {
		if strings.HasPrefix(line, "INSERT INTO") {
			rows = append(rows, line)
		}
	}
	return sorted(rows, "\x00")
}

func sorted(lines []string, without string) string {
	lines = slices.DeleteFunc(lines, func(s string) bool { return strings.Contains(s, without) })
	slices.Sort(lines)
	return strings.Join(lines, "\n")
}

// oddNames are what people call things.
var oddNames = []string{"a", "b", "order", "group", "Ümlaut", "with space", `quo"te`, "semi;colon", "line\nfeed", "--dash", "CamelCase", "x'y", "select", "key", "_u", "1st", "emoji😀", "Ⱥ", "[br]", "tick`"}

func quoted(name string) string { return `"` + strings.ReplaceAll(name, `"`, `""`) + `"` }

// maker writes one random schema.
type maker struct {
	*rand.Rand
	engine string
	tables []string
	keys   map[string][]keyColumn
	rows   map[string]int
	sql    strings.Builder
	after  []string // indexes, views, triggers, rows
}

type keyColumn struct{ name, kind, native string }

func randomSchema(seed uint64, engine string) string {
	m := &maker{Rand: rand.New(rand.NewPCG(seed, 7)), engine: engine, keys: map[string][]keyColumn{}, rows: map[string]int{}}
	used := map[string]bool{}
	for i := range 2 + m.IntN(5) {
		name := m.name()
		if m.Float64() < 0.8 || used[strings.ToLower(name)] {
			name += fmt.Sprint(i)
		}
		used[strings.ToLower(name)] = true
		m.table(i, name)
		m.tables = append(m.tables, name)
	}
	return m.sql.String() + strings.Join(m.after, "\n") + "\n"
}

func pick[T any](m *maker, from []T) T { return from[m.IntN(len(from))] }

// name picks one that the engine takes.
func (m *maker) name() string {
	name := pick(m, oddNames)
	if m.engine == "mariadb" || m.engine == "firebird" {
		return strings.ReplaceAll(name, "😀", "é")
	}
	return name
}

func (m *maker) kind(of string, strict bool) string {
	switch {
	case m.engine == "mariadb" || m.engine == "firebird": // no index on a text without a bound
		return pick(m, map[string][]string{"int": {"int", "bigint"}, "text": {"varchar(20)", "varchar(40)"}, "num": {"decimal(10,2)"}}[of])
	case m.engine == "postgres":
		return pick(m, map[string][]string{"int": {"integer", "bigint"}, "text": {"text", "varchar(20)"}, "num": {"numeric(10,2)"}}[of])
	case strict:
		return pick(m, map[string][]string{"int": {"INT", "INTEGER"}, "text": {"TEXT"}, "num": {"REAL"}}[of])
	}
	return pick(m, map[string][]string{"int": {"INT", "INTEGER", "BIGINT"}, "text": {"TEXT", "VARCHAR(20)", "TEXT COLLATE NOCASE"}, "num": {"NUMERIC", "DECIMAL(10, 2)"}}[of])
}

func (m *maker) table(i int, name string) {
	strict := m.engine == "sqlite" && m.Float64() < 0.2
	withoutRowid := m.engine == "sqlite" && m.Float64() < 0.2
	var columns, constraints []string
	key := pick(m, []string{"number", "number", "number", "text", "none", "pair", "unique", "index"})
	if withoutRowid && (key == "none" || key == "unique" || key == "index") {
		key = "text"
	}
	switch key {
	case "number":
		id := pick(m, []string{"id", "ID", "the id"})
		words := "INTEGER PRIMARY KEY"
		if m.engine == "mariadb" {
			words = "bigint AUTO_INCREMENT PRIMARY KEY"
		} else if m.engine == "postgres" || m.engine == "firebird" {
			words = "bigint GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY"
		} else if !withoutRowid && m.Float64() < 0.3 {
			words += " AUTOINCREMENT"
		}
		columns = append(columns, quoted(id)+" "+words)
		m.keys[name] = []keyColumn{{id, "int", "bigint"}}
	case "text":
		kind := m.kind("text", strict)
		columns = append(columns, "code "+kind+" NOT NULL PRIMARY KEY")
		m.keys[name] = []keyColumn{{"code", "text", kind}}
	case "unique":
		kind := m.kind("text", strict)
		if m.engine == "mariadb" {
			columns = append(columns, "code "+kind+" NOT NULL")
			constraints = append(constraints, fmt.Sprintf(`CONSTRAINT "uq %d" UNIQUE (code)`, i))
		} else {
			columns = append(columns, fmt.Sprintf(`code %s NOT NULL CONSTRAINT "uq %d" UNIQUE`, kind, i))
		}
		m.keys[name] = []keyColumn{{"code", "text", kind}}
	case "index":
		kind := m.kind("int", strict)
		columns = append(columns, "num "+kind+" NOT NULL")
		m.after = append(m.after, fmt.Sprintf("CREATE UNIQUE INDEX ui%d ON %s (num);", i, quoted(name)))
		m.keys[name] = []keyColumn{{"num", "int", kind}}
	case "pair":
		first, second := m.kind("int", strict), m.kind("text", strict)
		columns = append(columns, "p1 "+first+" NOT NULL", "p2 "+second+" NOT NULL")
		constraints = append(constraints, fmt.Sprintf(`CONSTRAINT "pk %d" PRIMARY KEY (p1, p2)`, i))
		m.keys[name] = []keyColumn{{"p1", "int", first}, {"p2", "text", second}}
	}
	var plain []string
	for j := range 1 + m.IntN(4) {
		plain = append(plain, fmt.Sprintf("%s_%d", m.name(), j))
		columns = append(columns, m.column(plain[j], strict))
	}
	references := m.references(i, strict, &columns, &constraints)
	if m.engine == "sqlite" && m.Float64() < 0.3 {
		columns = append(columns, "gen INTEGER GENERATED ALWAYS AS (1 + 1) "+pick(m, []string{"STORED", "VIRTUAL"}))
	}
	separator := pick(m, []string{",\n  ", ", "})
	body := strings.Join(append(columns, constraints...), separator)
	if m.Float64() < 0.3 {
		body += " -- a comment, with ) and ;\n"
	}
	var options []string
	if strict {
		options = append(options, "STRICT")
	}
	if withoutRowid {
		options = append(options, "WITHOUT ROWID")
	}
	fmt.Fprintf(&m.sql, "CREATE TABLE %s (%s) %s;\n", quoted(name), body, strings.Join(options, ", "))
	all := slices.Clone(plain)
	for _, k := range m.keys[name] {
		all = append(all, k.name)
	}
	for _, r := range references {
		all = append(all, r.columns...)
	}
	m.extras(i, name, all)
	m.insert(name, references)
}

func (m *maker) column(name string, strict bool) string {
	kind := pick(m, []string{"int", "text", "num"})
	d := quoted(name) + " " + m.kind(kind, strict)
	if m.Float64() < 0.4 {
		d += " DEFAULT " + map[string]string{"int": "-1", "text": "'it''s; -- x'", "num": "1.5"}[kind]
		if m.Float64() < 0.5 {
			d += " NOT NULL"
		}
	}
	if m.Float64() < 0.2 {
		if m.engine == "firebird" {
			return d + fmt.Sprintf(" CHECK (%s IS NULL OR char_length(CAST(%s AS varchar(100))) < 100)", quoted(name), quoted(name))
		}
		d += fmt.Sprintf(" CHECK (%s IS NULL OR length(CAST(%s AS %s)) < 100)", quoted(name), quoted(name), map[bool]string{true: "char", false: "text"}[m.engine == "mariadb"])
	}
	return d
}

type reference struct {
	columns []string
	target  string
}

func (m *maker) references(i int, strict bool, columns, constraints *[]string) []reference {
	var all []reference
	for j := range m.IntN(4) {
		if len(m.tables) == 0 {
			break
		}
		target := pick(m, m.tables)
		if len(m.keys[target]) == 0 {
			continue
		}
		r := reference{target: target}
		var to, from []string
		for a, k := range m.keys[target] {
			name := fmt.Sprintf("fk%d_%d", j, a)
			kind := m.kind(k.kind, strict)
			if m.engine == "sqlite" && k.kind == "int" && m.Float64() < 0.25 {
				kind = "TEXT"
			}
			if m.engine == "mariadb" && k.kind == "int" {
				kind = k.native // the engine lets whole numbers differ in nothing
			}
			*columns = append(*columns, name+" "+kind+pick(m, []string{"", " NOT NULL"}))
			r.columns, from, to = append(r.columns, name), append(from, name), append(to, quoted(k.name))
		}
		named := ""
		if m.Float64() < 0.5 {
			named = fmt.Sprintf(`CONSTRAINT "fk %d %d" `, i, j)
		}
		if m.engine == "mariadb" {
			*constraints = append(*constraints, fmt.Sprintf("%sFOREIGN KEY (%s) REFERENCES %s (%s)%s", named, strings.Join(from, ", "), quoted(target), strings.Join(to, ", "),
				pick(m, []string{"", " ON DELETE CASCADE", " ON UPDATE CASCADE ON DELETE RESTRICT"})))
			all = append(all, r)
			continue
		}
		*constraints = append(*constraints, fmt.Sprintf("%sFOREIGN KEY (%s) REFERENCES %s (%s)%s%s", named, strings.Join(from, ", "), quoted(target), strings.Join(to, ", "),
			pick(m, []string{"", " ON DELETE CASCADE", " ON DELETE SET NULL", " ON UPDATE CASCADE ON DELETE SET NULL", " ON DELETE SET DEFAULT"}),
			pick(m, map[bool][]string{true: {""}, false: {"", "", "", " DEFERRABLE INITIALLY DEFERRED"}}[m.engine == "firebird"])))
		all = append(all, r)
	}
	return all
}

// extras are indexes, a view, a trigger.
func (m *maker) extras(i int, name string, columns []string) {
	for j := range m.IntN(5) {
		var parts []string
		for _, at := range m.Perm(len(columns))[:min(len(columns), 1+m.IntN(3))] {
			parts = append(parts, quoted(columns[at])+pick(m, []string{"", "", " DESC"}))
		}
		if m.engine == "firebird" { // an index goes one way
			plain := strings.ReplaceAll(strings.Join(parts, ", "), " DESC", "")
			m.after = append(m.after, fmt.Sprintf("CREATE %sINDEX ix%d_%d ON %s (%s);", pick(m, []string{"", "", "DESCENDING "}), i, j, quoted(name), plain))
			continue
		}
		where := ""
		if m.engine != "mariadb" && m.Float64() < 0.2 {
			where = fmt.Sprintf(" WHERE %s IS NOT NULL", quoted(columns[0]))
		}
		m.after = append(m.after, fmt.Sprintf("CREATE INDEX ix%d_%d ON %s (%s)%s;", i, j, quoted(name), strings.Join(parts, ", "), where))
	}
	if m.Float64() < 0.3 {
		m.after = append(m.after, fmt.Sprintf("CREATE VIEW v%d AS SELECT %s AS x FROM %s;", i, pick(m, []string{"1", quoted(columns[0])}), quoted(name)))
	}
	if m.engine == "sqlite" && m.Float64() < 0.3 {
		m.after = append(m.after, fmt.Sprintf("CREATE TRIGGER t%d AFTER UPDATE ON %s BEGIN SELECT CASE WHEN 1 THEN 2 END; UPDATE %s SET %s = %s WHERE 0; END;", i, quoted(name), quoted(name), quoted(columns[0]), quoted(columns[0])))
	}
}

func (m *maker) insert(name string, references []reference) {
	rows := pick(m, []int{0, 1, 5})
	m.rows[name] = rows
	for n := 1; n <= rows; n++ {
		var into, values []string
		add := func(column, kind string, n int) {
			value := fmt.Sprint(n)
			if kind == "text" {
				value = "'" + value + "'"
			}
			into, values = append(into, quoted(column)), append(values, value)
		}
		for _, k := range m.keys[name] {
			add(k.name, k.kind, n)
		}
		for _, r := range references {
			for a, k := range m.keys[r.target] {
				if there := m.rows[r.target]; there > 0 {
					add(r.columns[a], k.kind, 1+n%there)
				}
			}
		}
		if len(into) == 0 {
			m.after = append(m.after, fmt.Sprintf("INSERT INTO %s %s;", quoted(name), map[bool]string{true: "VALUES ()", false: "DEFAULT VALUES"}[m.engine == "mariadb"]))
			continue
		}
		m.after = append(m.after, fmt.Sprintf("INSERT INTO %s (%s) VALUES (%s);", quoted(name), strings.Join(into, ", "), strings.Join(values, ", ")))
	}
}

// TestHostileNames: whatever a name holds, nothing raw reaches the terminal,
// and what is meant for programs stays well-formed.
func TestHostileNames(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	db := filepath.Join(folder, "a.db")
	hostile := func(r rune) bool {
		return unicode.Is(unicode.Cc, r) || unicode.Is(unicode.Zl, r) || unicode.Is(unicode.Zp, r) || unicode.Is(unicode.Bidi_Control, r)
	}
	evil := "e\x1b[31mvil\nname"
	for r := rune(1); r < 0x10000; r++ { // none stands beyond
		if hostile(r) {
			evil += string(r)
		}
	}
	sqlite(t, db, fmt.Sprintf(`CREATE TABLE %[1]s (%[1]s TEXT COLLATE NOCASE DEFAULT 'x%[2]s', other INTEGER CHECK (other <> 'y%[2]s'));
		CREATE TABLE child (id INTEGER PRIMARY KEY, %[1]s INTEGER NOT NULL CONSTRAINT %[1]s REFERENCES station (id) ON DELETE SET NULL);
		CREATE TABLE station (id INTEGER PRIMARY KEY);
		CREATE INDEX %[3]s ON %[1]s (other); CREATE INDEX other ON %[1]s (other);
		CREATE VIEW v AS SELECT %[1]s AS x FROM %[1]s;`, quoted(evil), evil, quoted(evil+"i")))
	sqlite(t, filepath.Join(folder, "b.db"), "CREATE TABLE a (b)")
	for _, args := range [][]string{{"outline", "a.db"}, {"describe", "a.db", evil}, {"describe", "a.db", "child"}, {"describe", "a.db", "*"}, {"outline", "a.db", "--format", "markdown"},
		{"outline", "a.db", "--format", "csv"}, {"compare", "a.db", "b.db", "--ignore", "comments,statistics,z*"}, {"script", "create", "a.db", "-o", "create.sql"}, {"script", "create", "a.db", "child", "-o", "part.sql"}, {"check", "a.db", "--fail-on", "never"}, {"script", "fix", "a.db", "-o", "fix.sql"}, {"run", "fix.sql", "--on", "a.db", "--yes"}, {"describe", "a.db", "evil"}} {
		r := nexdal(t, folder, args...)
		for _, text := range []string{r.out, r.err} {
			if i := strings.IndexFunc(text, func(r rune) bool {
				return hostile(r) && r != '\n' && !(r == '\r' && strings.Contains(strings.Join(args, " "), "csv"))
			}); i >= 0 {
				t.Errorf("nexdal %s lets %q through", args[0], text[max(0, i-20):i+1])
			}
		}
	}
	// Neither in what goes to a file: scripts aside, whose statements need the names as they are.
	for _, args := range [][]string{{"report", "a.db", "-o", "page.html"}, {"draw", "a.db", "-o", "d.svg"}, {"draw", "a.db", "-o", "d.dot"}, {"draw", "a.db", "-o", "d.mmd"}, {"survey", "a.db", "-o", "s.json"}, {"survey", "a.db", "-o", "s.rows"},
		{"check", "a.db", "--format", "json", "-o", "c.json"}, {"check", "a.db", "--format", "sarif", "-o", "c.sarif"}, {"check", "a.db", "--format", "junit", "-o", "c.xml"}, {"check", "a.db", "--format", "markdown", "-o", "c.md"}, {"check", "a.db", "--write-baseline", "b.json"},
		{"probe", "a.db", "-o", "p.json"}, {"outline", "a.db", "--format", "json", "-o", "o.json"}, {"describe", "a.db", "*", "--format", "json", "-o", "t.json"}, {"compare", "a.db", "b.db", "--format", "json", "-o", "cmp.json"}} {
		if args[0] == "check" {
			args = append(args, "--fail-on", "never")
		}
		if r := nexdal(t, folder, args...); r.status > 1 { // 1: it differs
			t.Errorf("nexdal %s: %s", strings.Join(args, " "), r.err)
		}
	}
	files, err := filepath.Glob(filepath.Join(folder, "*.*"))
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range files {
		if ext := filepath.Ext(f); ext == ".db" || ext == ".sql" {
			continue
		}
		text := read(t, f)
		if i := strings.IndexFunc(text, func(r rune) bool { return hostile(r) && r != '\n' && r != '\t' }); i >= 0 {
			t.Errorf("%s holds %q", filepath.Base(f), text[max(0, i-20):i+3])
		}
	}
	match(t, "the run", must(t, folder, "check", "a.db", "--fail-on", "never"), "findings: 4 notices")
	for _, args := range [][]string{{"check", "a.db", "--format", "json", "--fail-on", "never"}, {"outline", "a.db", "--format", "json"}, {"survey", "a.db"}, {"describe", "a.db", "child", "--format", "json"}} {
		if text := must(t, folder, args...); !json.Valid([]byte(text)) {
			t.Errorf("nexdal %s is no JSON", args[0])
		}
	}
}
