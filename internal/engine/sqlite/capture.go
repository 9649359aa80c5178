package sqlite

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"path"
	"strings"
	"time"

	"modernc.org/sqlite"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/ask"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/evidence"
)

// CaptureClient is the shell.
func (Engine) CaptureClient() string { return "sqlite3" }

// captureQuestions are those whose answers only the file has: what they leave to doubt an empty
// database of the same statements tells.
var captureQuestions = []string{settingsQuery, objectsQuery, treesQuery, cellsQuery, analysedQuery, countersQuery, virtualColumns, allOrphans}

// What a module knows of its tables, and which rows have no parent.
var (
	virtualColumns = fmt.Sprintf(columnsOf, `(SELECT name FROM sqlite_schema)`) + virtualOnly
	allOrphans     = fmt.Sprintf(orphansQuery, `SELECT name FROM sqlite_schema WHERE sql LIKE '%references%' AND sql NOT LIKE 'create virtual%'`)
)

const captureHead = `-- Asks a SQLite database %s, and alters nothing. Written by Nexdal, which reads
-- the result. Run it with the shell, version 3.38 or later:
--
--   sqlite3 -readonly DATABASE < FILE > result.txt
--
-- An error means that the database has nothing to answer a question with, as one that was never
-- analysed; it harms nothing.
.bail off
.headers off
.mode list
BEGIN;
SELECT '@nexdal %d sqlite%s';
SELECT '@probe "%s"';
`

// CaptureScript is a script of the shell (https://www.sqlite.org/cli.html). A question that fails
// has no end, and the next begins.
func (Engine) CaptureScript() (string, error) {
	var b strings.Builder
	b.WriteString(captureBegins("what it is made of", ""))
	for _, q := range captureQuestions {
		b.WriteString(posed(capture.Key(q), q))
	}
	fmt.Fprintf(&b, "\nSELECT '@done %d';\nROLLBACK;\n", 1+len(captureQuestions))
	return b.String(), nil
}

// captureBegins is the head of a script that asks about something.
func captureBegins(what, kind string) string {
	return fmt.Sprintf(captureHead, what, capture.Form, kind, strings.NewReplacer(`\`, `\\`, "'", "''", `"`, `\"`).Replace(capture.Probe)) +
		posed("head", `SELECT sqlite_version(), file, strftime('%Y-%m-%dT%H:%M:%SZ', 'now'), '' FROM pragma_database_list WHERE name = 'main'`)
}

// DataScript puts questions about the data.
func (Engine) DataScript(asked []capture.Question) string {
	var b strings.Builder
	b.WriteString(captureBegins("about its data", capture.OfData))
	for _, q := range asked {
		key := capture.Key(q.SQL)
		names, query := sqllex.Columns(Engine{}.Dialect(), q.SQL)
		fmt.Fprintf(&b, "\nSELECT '@ask %[1]s';\nWITH q (%[2]s) AS (\n%[3]s\n), r (j) AS (SELECT json_array(%[4]s) FROM q LIMIT %[5]d)\nSELECT '@row ' || length(j) || ' ' || j FROM r UNION ALL SELECT '@end %[1]s ' || count(*) FROM r;\n",
			key, strings.Join(names, ", "), query, sqllex.Each(names, func(n string) string { return "CAST(" + n + " AS TEXT)" }, ", "), q.Most)
	}
	fmt.Fprintf(&b, "\nSELECT '@done %d';\nROLLBACK;\n", 1+len(asked))
	return b.String()
}

// Questions are those that a session would put.
func (Engine) Questions(rows func(context.Context, string, int) ([]string, []evidence.Row, error)) evidence.Asker {
	return ask.New(rows, asking)
}

// posed is one question: each row as JSON, then how many there are.
func posed(key, query string) string {
	list, rest := sqllex.Selected(Engine{}.Dialect(), query)
	return fmt.Sprintf(`
SELECT '@ask %[1]s';
SELECT '@row ' || length(j) || ' ' || j FROM (SELECT json_array(%[2]s) AS j
  %[3]s);
SELECT '@end %[1]s ' || count(*) FROM (
%[4]s);
`, key, strings.Join(list, ", "), rest, query)
}

// Captured reads the catalog from a capture.
func (Engine) Captured(c *capture.Capture) (*catalog.Catalog, error) {
	at, err := time.Parse(time.RFC3339, c.Head.Moment)
	if err != nil {
		return nil, fmt.Errorf("the capture was made at %q: %w", c.Head.Moment, err)
	}
	a := &captured{Capture: c}
	ctx := context.Background()
	r := newReader(ctx, nil, path.Base(strings.ReplaceAll(c.Head.Database, `\`, "/")))
	r.catalog.Surveyed = at
	if r.askObjects(a.ask); a.err != nil {
		return nil, a.err
	}
	db, conn, err := emptied(ctx, r.stored)
	if err != nil {
		return nil, fmt.Errorf("its statements cannot be understood: %w", err)
	}
	defer db.Close()
	defer conn.Close()
	r.conn = conn
	r.virtual = func(row func(scan func(...any) error) error) error { return a.try(virtualColumns, row) }
	return r.read(func() {}, a.figures)
}

// emptied is a database in memory that has the statements and no rows. They are written into
// its table of statements, so that none is carried out
// (https://www.sqlite.org/pragma.html#pragma_writable_schema).
func emptied(ctx context.Context, objects []object) (*sql.DB, *sql.Conn, error) {
	connector, err := sqlite.NewConnector(":memory:")
	if err != nil {
		return nil, nil, err
	}
	db := sql.OpenDB(connector)
	conn, err := db.Conn(ctx)
	if err == nil {
		// Each tree has to be within the file, and nobody else's; nobody looks into it.
		_, err = conn.ExecContext(ctx, "PRAGMA page_size = 512; CREATE TABLE place (x); INSERT INTO place VALUES (zeroblob(?)); PRAGMA writable_schema = 1; BEGIN; DELETE FROM sqlite_schema", (len(objects)+1)*512)
	}
	for i, o := range objects {
		if err != nil {
			break
		}
		root, text := 0, any(o.text)
		if o.root != 0 {
			root = 2 + i
		}
		if o.text == "" {
			text = nil
		}
		_, err = conn.ExecContext(ctx, "INSERT INTO sqlite_schema (type, name, tbl_name, rootpage, sql) VALUES (?, ?, ?, ?, ?)", o.kind, o.name, o.on, root, text)
	}
	if err == nil {
		_, err = conn.ExecContext(ctx, "COMMIT; PRAGMA writable_schema = RESET")
	}
	if err != nil {
		db.Close()
		return nil, nil, err
	}
	return db, conn, nil
}

// captured are the answers in a file.
type captured struct {
	*capture.Capture
	err error
}

func (c *captured) ask(query string, row func(scan func(...any) error) error) {
	if c.err == nil {
		c.err = c.try(query, row)
	}
}

// errRefused says that the client had no answer to a question.
var errRefused = errors.New("the client could not answer")

func (c *captured) try(query string, row func(scan func(...any) error) error) error {
	a, err := c.Answer(query)
	switch {
	case err != nil:
		return err
	case a.Failed != "":
		return fmt.Errorf("%w question %s", errRefused, capture.Key(query))
	}
	for _, v := range a.Rows {
		if err := row(func(into ...any) error {
			return capture.Scan(v, func(i int, p any) error { return capture.Put(v[i], p) }, into...)
		}); err != nil {
			return err
		}
	}
	return nil
}

// figures are what the file counted; what it could not count is a gap.
func (c *captured) figures() figures {
	f := newFigures()
	gap := func(what, why string) {
		f.gaps = append(f.gaps, catalog.Gap{Schema: "main", What: what, Reason: why, Figures: true})
	}
	may := func(ask func(asker)) bool {
		was := c.err
		ask(c.ask)
		if errors.Is(c.err, errRefused) {
			c.err = was
			return false
		}
		return true
	}
	may(f.analysed) // never analysed: there is no such table
	may(f.counters)
	if !may(f.count) {
		f.pages = map[string]pages{}
		gap("sizes and exact rows", "the client was built without the table dbstat")
	}
	f.orphans = map[string]int64{}
	if !may(func(ask asker) { ask(allOrphans, f.orphan) }) {
		f.orphans = nil
		gap("rows without a parent", "a reference leads to no key, and the client could follow none")
	}
	f.err = c.err
	return f
}
