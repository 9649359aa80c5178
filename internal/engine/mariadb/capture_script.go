package mariadb

import (
	"context"
	"fmt"
	"strings"

	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/mariadb/traits"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/evidence"
)

// captureVersions are those whose questions differ: each stands for the ones up to the next.
var captureVersions = []string{"10.5.0-MariaDB", "10.6.0-MariaDB"}

// listing notes the questions instead of answering them.
type listing struct {
	version string
	asked   []question
}

func (l *listing) rows(q question, row func(scan func(...any) error) error) error {
	l.asked = append(l.asked, q)
	if len(l.asked) > 1 {
		return nil
	}
	return row(capture.Scanner([][]byte{[]byte(l.version), []byte("1"), {}, {}, {}}))
}

func (l *listing) show(string, string, []string, map[string]string) error { return nil }
func (l *listing) over() bool                                             { return false }

// whole is the question about all that it may be about.
func (q question) whole() string {
	if q.column == "" {
		return q.text
	}
	return fmt.Sprintf(q.text, inCapture(q.column))
}

// CaptureClient is the server's own.
func (e Engine) CaptureClient() string { return e.Family().Client }

// CaptureScript is a script of the client mariadb that puts the questions of a survey
// (https://mariadb.com/kb/en/begin-end/, BEGIN NOT ATOMIC).
func (e Engine) CaptureScript() (string, error) {
	if !e.Family().Blocks {
		return e.twiceScript()
	}
	asked, err := capture.Versions(len(captureVersions), func(i int) ([]question, error) {
		l := &listing{version: captureVersions[i]}
		_, err := newReader(e.Family(), l, "").read()
		return l.asked, err
	}, func(q question) string { return q.text })
	if err != nil {
		return "", err
	}
	var b strings.Builder
	b.WriteString(captureBegins("what one database, or all of them, are made of; reads the server's views\n-- alone, and alters nothing", ""))
	b.WriteString(posed("head", headQuery, ""))
	for _, q := range asked {
		when := ""
		if !q.Always(len(captureVersions)) {
			when = fmt.Sprintf("@from BETWEEN %d AND %d", q.First, q.Last)
		}
		switch one := q.Question; {
		case one.text == grantsQuery: // is shown
		case one.about:
			b.WriteString(sequencesPosed())
		default:
			b.WriteString(posed(capture.Key(one.text), one.whole(), when))
		}
	}
	b.WriteString(textsShown())
	b.WriteString(captureEnds)
	return b.String(), nil
}

// headQuery says what database it is, and when and as whom it is asked.
const headQuery = "SELECT VERSION(), COALESCE(DATABASE(), 'all databases'), CONCAT(DATE_FORMAT(UTC_TIMESTAMP(), '%Y-%m-%dT%H:%i:%s'), 'Z'), CURRENT_USER()"

// captureBegins is the head of a script that asks about something.
func captureBegins(what, kind string) string {
	return fmt.Sprintf(captureHead, what, capture.Into(kind), patient(&traits.MariaDB), capture.Form, kind, capture.ProbeEscaped)
}

// patient are the statements that say how long a question may take and wait for a lock.
func patient(f *traits.Family) string {
	return strings.Join(f.Patience(statementTimeout, lockTimeout)[1:], ";\n") + ";\n"
}

// DataScript puts questions about the data.
func (e Engine) DataScript(asked []capture.Question) string {
	if !e.Family().Blocks {
		return e.plainData(asked)
	}
	var b strings.Builder
	b.WriteString(captureBegins("about its data, and alters nothing", capture.OfData))
	b.WriteString(posed("head", headQuery, ""))
	for _, q := range asked {
		b.WriteString(counted(capture.Key(q.SQL), e.dataRows(q), ""))
	}
	b.WriteString(captureEnds)
	return b.String()
}

// dataRows is the query that gives the rows of a question's answer as records.
func (e Engine) dataRows(q capture.Question) string {
	names, query := sqllex.Columns(e.Dialect(), q.SQL)
	row := "JSON_ARRAY(" + sqllex.Each(names, func(n string) string { return "CAST(" + n + " AS CHAR)" }, ", ") + ")"
	return fmt.Sprintf("WITH q (%s) AS (\n%s\n) SELECT CONCAT('@row ', CHAR_LENGTH(%[3]s), ' ', %[3]s) AS answer FROM q LIMIT %[4]d", strings.Join(names, ", "), query, row, q.Most)
}

// Questions are those that a session would put.
func (e Engine) Questions(rows func(context.Context, string, int) ([]string, []evidence.Row, error)) evidence.Asker {
	return asker(e.Family(), rows)
}

const captureHead = `-- Asks a MariaDB server %s. Written by Nexdal, which reads the result. Run it with MariaDB's own
-- client; without DATABASE it asks about all that the account may see:
--
--   mariadb --batch --force --default-character-set=utf8mb4 DATABASE < FILE %s
SET NAMES utf8mb4;
SET SESSION sql_mode = 'NO_ENGINE_SUBSTITUTION';
SET SESSION group_concat_max_len = 4294967295;
%sSTART TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY;
SELECT '@nexdal %d mariadb%s' AS answer;
SELECT '@probe "%s"' AS answer;
SET @asked = 0, @from = IF(CAST(SUBSTRING_INDEX(VERSION(), '.', 1) AS INT) * 100 + CAST(SUBSTRING_INDEX(SUBSTRING_INDEX(VERSION(), '.', 2), '.', -1) AS INT) >= 1006, 1, 0);
DELIMITER $$
`

// posed is one question in a block of its own: each row as JSON, then how many there were, or
// the error's state.
func posed(key, query, when string) string {
	list, rest := sqllex.Selected(Engine{}.Dialect(), query)
	// Not by a variable: where rows are grouped, it is another row's by then.
	put := fmt.Sprintf("SELECT CONCAT('@row ', CHAR_LENGTH(JSON_ARRAY(%[1]s)), ' ',\n  JSON_ARRAY(%[1]s)) AS answer\n  %[2]s", strings.Join(list, ", "), rest)
	return counted(key, put, when)
}

// counted is the block of a question that one query answers.
func counted(key, put, when string) string {
	return block(key, put, "SELECT CONCAT('@end "+key+" ', FOUND_ROWS()) AS answer;", when)
}

// block wraps statements that answer a question of the versions that the condition is true of; ""
// is all of them.
func block(key, put, end, when string) string {
	open, closed := "", ""
	if when != "" {
		open, closed = "IF "+when+" THEN\n", "END IF;\n"
	}
	return fmt.Sprintf(`
BEGIN NOT ATOMIC
DECLARE EXIT HANDLER FOR SQLEXCEPTION
BEGIN
  GET DIAGNOSTICS CONDITION 1 @state = RETURNED_SQLSTATE;
  SELECT CONCAT('@failed %[1]s ', @state) AS answer;
END;
%[2]sSELECT '@ask %[1]s' AS answer; SET @asked = @asked + 1;
%[3]s;
%[4]s
%[5]sEND$$
`, key, open, put, end, closed)
}

// inCapture is the condition that a schema is one of those that the capture is of.
func inCapture(column string) string {
	return fmt.Sprintf("(%[1]s = DATABASE() OR DATABASE() IS NULL AND %[1]s NOT IN %[2]s)", column, systems)
}

// inEach is a block that does something for each object of a query, which gives s and t.
const inEach = "FOR o IN (%s) DO\n%s\nEND FOR"

// named is the name of o in a statement that is put together.
const named = "'`', REPLACE(o.s, '`', '``'), '`.`', REPLACE(o.t, '`', '``'), '`'"

// sequencesPosed asks each sequence for its row.
func sequencesPosed() string {
	const row = "JSON_ARRAY(@s, @t, minimum_value, maximum_value, start_value, increment, cache_size, cycle_option, next_not_cached_value)"
	key := capture.Key(sequencesQuery)
	return block(key, "SET @n = 0;\n"+fmt.Sprintf(inEach, "SELECT TABLE_SCHEMA AS s, TABLE_NAME AS t FROM information_schema.TABLES WHERE TABLE_TYPE = 'SEQUENCE' AND "+inCapture("TABLE_SCHEMA"),
		"  BEGIN\n  DECLARE CONTINUE HANDLER FOR SQLEXCEPTION SET @n = @n - 1;\n  SET @s = o.s, @t = o.t, @n = @n + 1;\n  EXECUTE IMMEDIATE CONCAT('SELECT CONCAT(''@row '', CHAR_LENGTH("+row+"), '' '', "+row+") AS answer FROM ', "+named+");\n  END;"),
		"SELECT CONCAT('@end "+key+" ', @n) AS answer;", "")
}

// objectsShown are the kinds of objects of which the server tells some things in statements alone,
// and the query for their schemas and names.
var objectsShown = []struct{ kind, query string }{
	{"TABLE", "SELECT TABLE_SCHEMA AS s, TABLE_NAME AS t FROM information_schema.TABLES WHERE TABLE_TYPE NOT IN ('VIEW', 'SYSTEM VIEW', 'SEQUENCE') AND " + inCapture("TABLE_SCHEMA")},
	{"FUNCTION", "SELECT ROUTINE_SCHEMA AS s, ROUTINE_NAME AS t FROM information_schema.ROUTINES WHERE ROUTINE_TYPE = 'FUNCTION' AND " + inCapture("ROUTINE_SCHEMA")},
	{"PROCEDURE", "SELECT ROUTINE_SCHEMA AS s, ROUTINE_NAME AS t FROM information_schema.ROUTINES WHERE ROUTINE_TYPE = 'PROCEDURE' AND " + inCapture("ROUTINE_SCHEMA")},
	{"TRIGGER", "SELECT TRIGGER_SCHEMA AS s, TRIGGER_NAME AS t FROM information_schema.TRIGGERS WHERE " + inCapture("TRIGGER_SCHEMA")},
}

// textsShown lets the server show what it tells in statements alone.
func textsShown() string {
	var b strings.Builder
	b.WriteString("\nSELECT '@show GRANTS []' AS answer$$\n" + grantsQuery + "$$\n")
	for _, o := range objectsShown {
		fmt.Fprintf(&b, "\nBEGIN NOT ATOMIC\nDECLARE CONTINUE HANDLER FOR SQLEXCEPTION BEGIN END;\n"+inEach+";\nEND$$\n", o.query,
			"  SELECT CONCAT('@show "+o.kind+" ', JSON_ARRAY(o.s, o.t)) AS answer;\n  EXECUTE IMMEDIATE CONCAT('SHOW CREATE "+o.kind+" ', "+named+");")
	}
	return b.String()
}

const captureEnds = "\nDELIMITER ;\nSELECT CONCAT('@done ', @asked) AS answer;\nROLLBACK;\n"
