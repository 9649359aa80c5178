package redshift

import (
	"context"
	"fmt"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ask"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/pgwire"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/evidence"
	"nexdal/internal/pattern"
)

// Captured reads the catalog from a capture.
func (Engine) Captured(c *capture.Capture) (*catalog.Catalog, error) {
	return read(context.Background(), engine.Captured{Capture: c}, c.Head.Moment)
}

// CaptureClient is psql, which Redshift's guide names as a client
// (https://docs.aws.amazon.com/redshift/latest/mgmt/connect-from-psql.html).
func (Engine) CaptureClient() string { return "psql" }

// CaptureScript is a script of psql.
func (Engine) CaptureScript() (string, error) {
	l := &engine.Listing{}
	if _, err := read(context.Background(), l, time.Time{}); err != nil {
		return "", err
	}
	var b strings.Builder
	b.WriteString(captureBegins("what a database is made of; reads the system views alone, and alters\n-- nothing", ""))
	for _, q := range l.Asked {
		b.WriteString(posed(capture.Key(q), q, 0))
	}
	b.WriteString(captureEnds(1 + len(l.Asked)))
	return b.String(), nil
}

// DataScript puts questions about the data.
func (Engine) DataScript(asked []capture.Question) string {
	var b strings.Builder
	b.WriteString(captureBegins("about the data of a database, and alters nothing", capture.OfData))
	for _, q := range asked {
		b.WriteString(posed(capture.Key(q.SQL), q.SQL, q.Most))
	}
	b.WriteString(captureEnds(1 + len(asked)))
	return b.String()
}

// Questions are those that a session would put.
func (Engine) Questions(rows func(context.Context, string, int) ([]string, []evidence.Row, error)) evidence.Asker {
	return ask.New(rows, asking)
}

const captureHead = `-- Asks a Redshift cluster %s. Written by Nexdal, which reads
-- the result. Run it with psql, version 11 or later:
--
--   psql -X -h HOST -p 5439 -d DATABASE -f FILE %s
\set QUIET on
\set ECHO none
\set ON_ERROR_STOP off
\set FETCH_COUNT 0
\pset pager off
\pset tuples_only on
\pset format unaligned
\pset expanded off
\encoding UTF8
SET statement_timeout TO %d;
SET timezone TO 'UTC';
BEGIN READ ONLY;
\echo '@nexdal %d redshift%s'
\echo '@probe "%s"'
`

// headQuery says what database it is, and when and as whom it is asked, in the session's time zone
// (https://docs.aws.amazon.com/redshift/latest/dg/r_GETDATE.html).
const headQuery = `SELECT version(), current_database(), REPLACE(CAST(getdate() AS VARCHAR), ' ', 'T') || 'Z', current_user`

// captureBegins is the head of a script that asks about something.
func captureBegins(what, kind string) string {
	return fmt.Sprintf(captureHead, what, capture.Into(kind), pgwire.StatementTimeout.Milliseconds(), capture.Form, kind, capture.ProbeEscaped) + posed("head", headQuery, 0)
}

func captureEnds(questions int) string {
	return fmt.Sprintf("\n\\echo @done %d\nROLLBACK;\n", questions)
}

// posed is one question as psql puts it: each row as JSON, then how many there were, or the
// error's code, behind which a transaction begins anew: the engine has no savepoints
// (https://docs.aws.amazon.com/redshift/latest/dg/c_unsupported-postgresql-features.html). The rows
// of a query within another have no order, and so the whole has the question's, which is given by
// the numbers of its columns.
func posed(key, question string, most int) string {
	d := Engine{}.Dialect()
	names, query := sqllex.Columns(d, question)
	_, order := d.CutLast(query, "ORDER BY")
	order, _ = d.CutLast(order, "LIMIT")
	end := ""
	if order != "" {
		end = "\nORDER BY " + ordinal.ReplaceAllString(order, "c$0")
	}
	if most > 0 {
		end += fmt.Sprintf("\nLIMIT %d", most)
	}
	return fmt.Sprintf(`
\echo @ask %[1]s
WITH q (%[2]s) AS (
%[3]s
), r AS (SELECT %[2]s, '[' || %[4]s || ']' AS j FROM q)
SELECT '@row ' || CAST(LEN(j) AS VARCHAR) || ' ' || j FROM r%[5]s;
\if :ERROR
\echo @failed %[1]s :SQLSTATE
ROLLBACK;
BEGIN READ ONLY;
\else
\echo @end %[1]s :ROW_COUNT
\endif
`, key, strings.Join(names, ", "), query, sqllex.Each(names, quoted, "\n  || ',' || "), end)
}

var ordinal = pattern.New(`\b[0-9]+\b`)

// escaped are the characters that stand in no JSON string as they are, and what stands for them
// behind a backslash: their numbers, both.
var escaped = []struct{ char, letter int }{{'\\', '\\'}, {'"', '"'}, {'\n', 'n'}, {'\r', 'r'}, {'\t', 't'}}

// quoted makes a JSON string of a value, or null, by what leader and compute nodes both have. An
// escape in a literal is read in one way by the one and in another by the other, so that characters
// are given by their numbers (https://docs.aws.amazon.com/redshift/latest/dg/r_CHR.html).
func quoted(value string) string {
	v := "CAST(" + value + " AS VARCHAR)"
	for _, e := range escaped {
		v = fmt.Sprintf("REPLACE(%s, CHR(%d), CHR(%d) || CHR(%d))", v, e.char, '\\', e.letter)
	}
	return fmt.Sprintf("COALESCE(CHR(%[1]d) || %[2]s || CHR(%[1]d), 'null')", '"', v)
}
