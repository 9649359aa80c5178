package sqlite

import (
	"context"
	"fmt"
	"strings"

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
--   sqlite3 -readonly DATABASE < FILE %s
--
-- An error means that the database has nothing to answer a question with, as one that was never
-- analysed; it harms nothing.
.bail off
.headers off
.mode list
.timeout 5000
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
		b.WriteString(posed(capture.Key(q), q, -1))
	}
	fmt.Fprintf(&b, "\nSELECT '@done %d';\nROLLBACK;\n", 1+len(captureQuestions))
	return b.String(), nil
}

// headQuery says what database it is, by the name of its file, and when it is asked.
const headQuery = `SELECT sqlite_version(), substr(f, 1 + length(rtrim(f, replace(f, '/', '')))), strftime('%Y-%m-%dT%H:%M:%SZ', 'now'), ''
  FROM (SELECT replace(file, '\', '/') AS f FROM pragma_database_list WHERE name = 'main')`

// captureBegins is the head of a script that asks about something.
func captureBegins(what, kind string) string {
	return fmt.Sprintf(captureHead, what, capture.Into(kind), capture.Form, kind, strings.NewReplacer(`\`, `\\`, "'", "''", `"`, `\"`).Replace(capture.Probe)) +
		posed("head", headQuery, -1)
}

// DataScript puts questions about the data.
func (Engine) DataScript(asked []capture.Question) string {
	var b strings.Builder
	b.WriteString(captureBegins("about its data", capture.OfData))
	for _, q := range asked {
		b.WriteString(posed(capture.Key(q.SQL), q.SQL, q.Most))
	}
	fmt.Fprintf(&b, "\nSELECT '@done %d';\nROLLBACK;\n", 1+len(asked))
	return b.String()
}

// Questions are those that a session would put.
func (Engine) Questions(rows func(context.Context, string, int) ([]string, []evidence.Row, error)) evidence.Asker {
	return ask.New(rows, asking)
}

// posed is one question: each row as JSON, at most so many where that is not negative, then how
// many there are.
func posed(key, query string, most int) string {
	names, query := sqllex.Columns(Engine{}.Dialect(), query)
	return fmt.Sprintf(`
SELECT '@ask %[1]s';
WITH q (%[2]s) AS (
%[3]s
), r (j) AS (SELECT json_array(%[4]s) FROM q LIMIT %[5]d)
SELECT '@row ' || length(j) || ' ' || j FROM r UNION ALL SELECT '@end %[1]s ' || count(*) FROM r;
`, key, strings.Join(names, ", "), query, sqllex.Each(names, func(n string) string { return "CAST(" + n + " AS TEXT)" }, ", "), most)
}
