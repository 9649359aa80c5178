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
	return fmt.Sprintf(captureHead, what, capture.Into(kind), capture.Form, kind, strings.NewReplacer(`\`, `\\`, "'", "''", `"`, `\"`).Replace(capture.Probe)) +
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
