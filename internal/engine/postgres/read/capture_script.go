package read

import (
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"nexdal/internal/engine/ask"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/pgwire"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/evidence"
	"nexdal/internal/pattern"
)

// Versions that a capture tells apart; a later one is asked what the last is.
const oldest, newest = 12, 18

// listing notes the questions instead of answering them.
type listing struct {
	version int
	asked   []question
}

func (l *listing) put(q question, take func(v row) error) error {
	l.asked = append(l.asked, q)
	if q.text == whichQuery {
		return take(row{[]byte(strconv.Itoa(l.version)), []byte(strconv.Itoa(l.version * 10000)), []byte("")})
	}
	return nil
}

func (l *listing) texts(q question, take func(v row) error, _ func(uint32, string)) error {
	return l.put(q, take)
}

// questionsOf are those of a survey of a server of the version.
func questionsOf(version int) ([]question, error) {
	l := &listing{version: version}
	_, err := newReader(l).read(func() error { return nil })
	return l.asked, err
}

// whole is the question about all that it may be about. The server looks through an array for
// every row, but not through the rows of a query.
func (q question) whole() string {
	if q.of == nil {
		return q.text
	}
	text := strings.ReplaceAll(q.text, "= ANY(%s)", "IN ("+q.of.all+")")
	return unnested.ReplaceAllString(text, "("+q.of.all+") u ($1)")
}

var unnested = pattern.New(`unnest\(%s\) (\w+)`)

// CaptureClient is psql.
func (Reader) CaptureClient() string { return "psql" }

// CaptureScript is a script of psql (version 11 and later) that puts the questions of a survey,
// in one transaction that reads only
// (https://www.postgresql.org/docs/current/app-psql.html#APP-PSQL-META-COMMANDS).
func (Reader) CaptureScript() (string, error) {
	asked, err := capture.Versions(newest-oldest+1, func(i int) ([]question, error) { return questionsOf(oldest + i) }, question.whole)
	if err != nil {
		return "", err
	}
	slices.SortStableFunc(asked, func(a, b capture.Asked[question]) int { return strings.Compare(versionsOf(a), versionsOf(b)) })
	var b strings.Builder
	b.WriteString(captureBegins("what it is made of; reads the system tables alone, and alters\n-- nothing", ""))
	told := ""
	for _, q := range asked {
		if name := versionsOf(q); name != "" && name != told {
			told = name
			fmt.Fprintf(&b, "SELECT least(current_setting('server_version_num')::int / 10000, %d) BETWEEN %d AND %d AS %s \\gset\n", newest, oldest+q.First, oldest+q.Last, name)
		}
	}
	b.WriteString(posed("head", headQuery, 0))
	open := ""
	for _, q := range asked {
		if name := versionsOf(q); name != open {
			if open != "" {
				b.WriteString("\\endif\n")
			}
			open = name
			fmt.Fprintf(&b, "\n\\if :%s\n", name)
		}
		b.WriteString(posed(capture.Key(q.Question.whole()), q.Question.whole(), 0))
	}
	if open != "" {
		b.WriteString("\\endif\n")
	}
	b.WriteString(captureEnds)
	return b.String(), nil
}

// versionsOf names the versions that a question is put to; "" is all of them, which come first.
func versionsOf(q capture.Asked[question]) string {
	if q.Always(newest - oldest + 1) {
		return ""
	}
	return fmt.Sprintf("from_%d_to_%d", oldest+q.First, oldest+q.Last)
}

const captureHead = `-- Asks a PostgreSQL database %s. Written by Nexdal, which reads
-- the result. Run it with psql, version 11 or later:
--
--   psql -X -d DATABASE -f FILE %s
\set QUIET on
\set ECHO none
\set ON_ERROR_STOP off
\set ON_ERROR_ROLLBACK on
\set FETCH_COUNT 0
\pset pager off
\pset tuples_only on
\pset format unaligned
\pset expanded off
\encoding UTF8
BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY;
\echo '@nexdal %d postgres%s'
\echo '@probe "%s"'
%s;
`

// headQuery says what database it is, and when and as whom it is asked.
const headQuery = `SELECT current_setting('server_version'), current_database(), to_char(now() AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"'), current_user`

const captureEnds = "\n\\echo @done :asked\nROLLBACK;\n"

// captureBegins is the head of a script that asks about something.
func captureBegins(what, kind string) string {
	return fmt.Sprintf(captureHead, what, capture.Into(kind), capture.Form, kind, capture.ProbeEscaped, strings.ReplaceAll(Spelling, "; ", ";\n")) +
		fmt.Sprintf("SET LOCAL statement_timeout = %d;\nSET LOCAL lock_timeout = %d;\nSELECT 0 AS asked \\gset\n", pgwire.StatementTimeout.Milliseconds(), pgwire.LockTimeout.Milliseconds())
}

// DataScript puts questions about the data.
func (Reader) DataScript(asked []capture.Question) string {
	var b strings.Builder
	b.WriteString(captureBegins("about its data, and alters nothing", capture.OfData))
	b.WriteString(posed("head", headQuery, 0))
	for _, q := range asked {
		b.WriteString(posed(capture.Key(q.SQL), q.SQL, q.Most))
	}
	b.WriteString(captureEnds)
	return b.String()
}

// Questions are those that a session would put.
func (Reader) Questions(rows func(context.Context, string, int) ([]string, []evidence.Row, error)) evidence.Asker {
	return ask.New(rows, Asking)
}

// posed is one question as psql puts it: each row as JSON, then how many there were, or the
// error's code.
func posed(key, query string, most int) string {
	var values []string
	limit := ""
	if most > 0 {
		limit = fmt.Sprintf(" LIMIT %d", most)
	}
	names, query := sqllex.Columns(Reader{}.Dialect(), query)
	for _, name := range names {
		values = append(values, name+"::text")
	}
	return fmt.Sprintf(`
\echo @ask %[1]s
SELECT '@row ' || length(j) || ' ' || j FROM (SELECT json_build_array(%[2]s)::text AS j FROM (
%[3]s
) q (%[4]s)%[5]s) r;
\if :ERROR
\echo @failed %[1]s :SQLSTATE
\else
\echo @end %[1]s :ROW_COUNT
\endif
SELECT :asked + 1 AS asked \gset
`, key, strings.Join(values, ", "), query, strings.Join(names, ", "), limit)
}
