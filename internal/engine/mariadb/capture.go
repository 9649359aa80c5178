package mariadb

import (
	"context"
	"fmt"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
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
	return row(captured{}.scan([][]byte{[]byte(l.version), []byte("1"), {}, {}, {}}))
}

func (l *listing) show(string, string, []string, map[string]string) error { return nil }
func (l *listing) over() bool                                             { return false }

// whole is the question about all that it may be about.
func (q question) whole() string {
	if q.column == "" {
		return q.text
	}
	return fmt.Sprintf(q.text, fmt.Sprintf("(%[1]s = DATABASE() OR DATABASE() IS NULL AND %[1]s NOT IN %[2]s)", q.column, systems))
}

// CaptureClient is MariaDB's; MySQL's server has no blocks outside routines.
func (e Engine) CaptureClient() string {
	if e.is != nil {
		return ""
	}
	return "mariadb"
}

// CaptureScript is a script of the client mariadb that puts the questions of a survey
// (https://mariadb.com/kb/en/begin-end/, BEGIN NOT ATOMIC).
func (e Engine) CaptureScript() (string, error) {
	var b strings.Builder
	b.WriteString(captureBegins("what one database, or all of them, are made of; reads the server's views\n-- alone, and alters nothing", ""))
	b.WriteString(posed("head", headQuery, ""))
	seen := map[string]bool{}
	for i, version := range captureVersions {
		l := &listing{version: version}
		if _, err := newReader(e.family(), l, "").read(); err != nil {
			return "", err
		}
		when := "@from = " + fmt.Sprint(i)
		for _, q := range l.asked {
			if seen[q.text] || strings.HasPrefix(q.text, "SHOW ") {
				continue
			}
			seen[q.text] = true
			switch {
			case q.about:
				b.WriteString(capturedSequences)
			case i == 0 && l.inEach(e.family(), q):
				b.WriteString(posed(capture.Key(q.text), q.whole(), ""))
			default:
				b.WriteString(posed(capture.Key(q.text), q.whole(), when))
			}
		}
	}
	b.WriteString(capturedTexts)
	return b.String(), nil
}

// headQuery says what database it is, and when and as whom it is asked.
const headQuery = "SELECT VERSION(), COALESCE(DATABASE(), 'all databases'), CONCAT(DATE_FORMAT(UTC_TIMESTAMP(), '%Y-%m-%dT%H:%i:%s'), 'Z'), CURRENT_USER()"

// captureBegins is the head of a script that asks about something.
func captureBegins(what, kind string) string {
	return fmt.Sprintf(captureHead, what, capture.Form, kind, strings.NewReplacer(`\`, `\\\\`, "'", "''", `"`, `\\"`).Replace(capture.Probe))
}

// DataScript puts questions about the data.
func (Engine) DataScript(asked []capture.Question) string {
	var b strings.Builder
	b.WriteString(captureBegins("about its data, and alters nothing", capture.OfData))
	b.WriteString(posed("head", headQuery, ""))
	for _, q := range asked {
		names, query := sqllex.Columns(Engine{}.Dialect(), q.SQL)
		row := "JSON_ARRAY(" + sqllex.Each(names, func(n string) string { return "CAST(" + n + " AS CHAR)" }, ", ") + ")"
		put := fmt.Sprintf("WITH q (%s) AS (\n%s\n) SELECT CONCAT('@row ', CHAR_LENGTH(%[3]s), ' ', %[3]s) AS answer FROM q LIMIT %[4]d", strings.Join(names, ", "), query, row, q.Most)
		b.WriteString(block(capture.Key(q.SQL), put, "SELECT CONCAT('@end "+capture.Key(q.SQL)+" ', FOUND_ROWS()) AS answer;", ""))
	}
	b.WriteString(captureEnds)
	return b.String()
}

// Questions are those that a session would put.
func (e Engine) Questions(rows func(context.Context, string, int) ([]string, []evidence.Row, error)) evidence.Asker {
	return e.family().asker(rows)
}

// inEach reports whether every version is asked the question.
func (l *listing) inEach(family *Family, q question) bool {
	for _, version := range captureVersions {
		other := &listing{version: version}
		newReader(family, other, "").read()
		found := false
		for _, o := range other.asked {
			found = found || o.text == q.text
		}
		if !found {
			return false
		}
	}
	return true
}

const captureHead = `-- Asks a MariaDB server %s. Written by Nexdal, which reads the result. Run it with MariaDB's own
-- client; without DATABASE it asks about all that the account may see:
--
--   mariadb --batch --force --default-character-set=utf8mb4 DATABASE < FILE > result.txt
SET NAMES utf8mb4;
SET SESSION sql_mode = 'NO_ENGINE_SUBSTITUTION';
SET SESSION group_concat_max_len = 4294967295;
START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY;
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
	return block(key, put, "SELECT CONCAT('@end "+key+" ', FOUND_ROWS()) AS answer;", when)
}

// block wraps statements that answer a question.
func block(key, put, end, when string) string {
	if when != "" {
		put, end = "IF "+when+" THEN\n"+put, end+"\nEND IF;"
	}
	ask := fmt.Sprintf("SELECT '@ask %s' AS answer; SET @asked = @asked + 1;\n", key)
	if when != "" {
		put = strings.Replace(put, "THEN\n", "THEN\n"+ask, 1)
		ask = ""
	}
	return fmt.Sprintf(`
BEGIN NOT ATOMIC
DECLARE EXIT HANDLER FOR SQLEXCEPTION
BEGIN
  GET DIAGNOSTICS CONDITION 1 @state = RETURNED_SQLSTATE;
  SELECT CONCAT('@failed %s ', @state) AS answer;
END;
%s%s;
%s
END$$
`, key, ask, put, end)
}

// capturedSequences asks each sequence for its row.
var capturedSequences = block(capture.Key(sequencesQuery), `BEGIN
  DECLARE n INT DEFAULT 0;
  FOR o IN (SELECT TABLE_SCHEMA AS s, TABLE_NAME AS t FROM information_schema.TABLES WHERE TABLE_TYPE = 'SEQUENCE' AND (TABLE_SCHEMA = DATABASE() OR DATABASE() IS NULL AND TABLE_SCHEMA NOT IN `+systems+`)) DO
    SET @s = o.s, @t = o.t, n = n + 1;
    EXECUTE IMMEDIATE CONCAT('SELECT CONCAT(''@row '', CHAR_LENGTH(@j := JSON_ARRAY(@s, @t, minimum_value, maximum_value, start_value, increment, cache_size, cycle_option, next_not_cached_value)), '' '', @j) AS answer FROM `+"`', REPLACE(o.s, '`', '``'), '`.`', REPLACE(o.t, '`', '``'), '`'"+`);
  END FOR;
  SET @n = n;
END`, "SELECT CONCAT('@end "+capture.Key(sequencesQuery)+" ', @n) AS answer;", "")

// capturedTexts lets the server show what it tells in statements alone.
var capturedTexts = func() string {
	var b strings.Builder
	b.WriteString(`
SELECT '@show GRANTS []' AS answer$$
SHOW GRANTS$$
`)
	ours := func(column string) string {
		return "(" + column + " = DATABASE() OR DATABASE() IS NULL AND " + column + " NOT IN " + systems + ")"
	}
	for _, o := range [][2]string{
		{"TABLE", "SELECT TABLE_SCHEMA AS s, TABLE_NAME AS t FROM information_schema.TABLES WHERE TABLE_TYPE NOT IN ('VIEW', 'SYSTEM VIEW', 'SEQUENCE') AND " + ours("TABLE_SCHEMA")},
		{"FUNCTION", "SELECT ROUTINE_SCHEMA AS s, ROUTINE_NAME AS t FROM information_schema.ROUTINES WHERE ROUTINE_TYPE = 'FUNCTION' AND " + ours("ROUTINE_SCHEMA")},
		{"PROCEDURE", "SELECT ROUTINE_SCHEMA AS s, ROUTINE_NAME AS t FROM information_schema.ROUTINES WHERE ROUTINE_TYPE = 'PROCEDURE' AND " + ours("ROUTINE_SCHEMA")},
		{"TRIGGER", "SELECT TRIGGER_SCHEMA AS s, TRIGGER_NAME AS t FROM information_schema.TRIGGERS WHERE " + ours("TRIGGER_SCHEMA")},
	} {
		fmt.Fprintf(&b, `
BEGIN NOT ATOMIC
DECLARE CONTINUE HANDLER FOR SQLEXCEPTION BEGIN END;
FOR o IN (%[2]s) DO
  SELECT CONCAT('@show %[1]s ', JSON_ARRAY(o.s, o.t)) AS answer;
  EXECUTE IMMEDIATE CONCAT('SHOW CREATE %[1]s %[3]s', REPLACE(o.s, '%[3]s', '%[3]s%[3]s'), '%[3]s.%[3]s', REPLACE(o.t, '%[3]s', '%[3]s%[3]s'), '%[3]s');
END FOR;
END$$
`, o[0], o[1], "`")
	}
	b.WriteString(captureEnds)
	return b.String()
}()

const captureEnds = "\nDELIMITER ;\nSELECT CONCAT('@done ', @asked) AS answer;\nROLLBACK;\n"

// Captured reads the catalog from a capture.
func (e Engine) Captured(c *capture.Capture) (*catalog.Catalog, error) {
	at, err := time.Parse(time.RFC3339, c.Head.Moment)
	if err != nil {
		return nil, fmt.Errorf("the capture was made at %q: %w", c.Head.Moment, err)
	}
	r := newReader(e.family(), captured{c}, c.Head.Database)
	r.catalog.Surveyed = at
	return r.read()
}

// captured are the answers in a file.
type captured struct{ *capture.Capture }

func (captured) over() bool { return false }

func (captured) scan(row [][]byte) func(...any) error {
	return func(into ...any) error {
		return capture.Scan(row, func(i int, p any) error { return capture.Put(row[i], p) }, into...)
	}
}

func (c captured) rows(q question, row func(scan func(...any) error) error) error {
	if q.text == "SHOW GRANTS" {
		for _, line := range c.Shown("GRANTS") {
			if err := row(c.scan(line)); err != nil {
				return err
			}
		}
		return nil
	}
	a, err := c.Answer(q.text)
	switch {
	case err != nil:
		return err
	case a.Failed != "":
		return fmt.Errorf("the server refused question %s (%s)", capture.Key(q.text), a.Failed)
	}
	for _, v := range a.Rows {
		if err := row(c.scan(v)); err != nil {
			return err
		}
	}
	return nil
}

func (c captured) show(kind, schema string, names []string, shown map[string]string) error {
	for _, name := range names {
		if rows := c.Shown(kind, schema, name); len(rows) > 0 && textAt(kind) < len(rows[0]) {
			shown[name] = string(rows[0][textAt(kind)])
		}
	}
	return nil
}
