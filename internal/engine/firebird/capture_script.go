package firebird

import (
	"context"
	"fmt"
	"strings"
	"time"

	"nexdal/internal/engine"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/firebird/traits"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/evidence"
)

// CaptureClient is the maker's.
func (Engine) CaptureClient() string { return "isql-fb" }

// CaptureScript is a script of isql.
func (Engine) CaptureScript() (string, error) {
	l := &engine.Listing{}
	if _, err := read(context.Background(), l, "", time.Time{}); err != nil {
		return "", err
	}
	var b strings.Builder
	b.WriteString(captureBegins("what a database is made of; reads the system tables alone", ""))
	for _, q := range l.Asked {
		b.WriteString(posed(capture.Key(q), q, long(q)))
	}
	b.WriteString(captureEnds(1 + len(l.Asked)))
	return b.String(), nil
}

// DataScript puts questions about the data.
func (Engine) DataScript(asked []capture.Question) string {
	var b strings.Builder
	b.WriteString(captureBegins("about the data of a database", capture.OfData))
	for _, q := range asked {
		names, query := sqllex.Columns(Engine{}.Dialect(), q.SQL)
		b.WriteString(posed(capture.Key(q.SQL), query, make([]bool, len(names))))
	}
	b.WriteString(captureEnds(1 + len(asked)))
	return b.String()
}

// Questions are those that a session would put.
func (Engine) Questions(rows func(context.Context, string, int) ([]string, []evidence.Row, error)) evidence.Asker {
	return asker(rows)
}

const captureHead = `/* Asks a Firebird database %s,
   and alters nothing. Written by Nexdal, which reads the result. Run it with the maker's client:

     isql-fb -q -ch UTF8 -i FILE HOST:DATABASE %s

   The password comes from ISC_PASSWORD. */
SET HEADING OFF;
SET TRANSACTION READ ONLY ISOLATION LEVEL SNAPSHOT;
SET TERM ^ ;
EXECUTE BLOCK RETURNS (line VARCHAR(%d) CHARACTER SET UTF8) AS
BEGIN
  line = '@nexdal %d firebird%s'; SUSPEND;
  line = '@probe "' || %s || '"'; SUSPEND;
END^
`

// headQuery says what database it is, by its file's name, and when and as whom it is asked. The moment is that of the
// server's clock: 3.0 knows no time zone.
const headQuery = `SELECT d.version, CASE WHEN LOWER(RIGHT(d.name, 4)) = '.fdb' AND CHAR_LENGTH(d.name) > 4 THEN LEFT(d.name, CHAR_LENGTH(d.name) - 4) ELSE d.name END, REPLACE(SUBSTRING(CAST(CAST('NOW' AS TIMESTAMP) AS VARCHAR(30)) FROM 1 FOR 19), ' ', 'T') || 'Z', CURRENT_USER
FROM (SELECT rdb$get_context('SYSTEM', 'ENGINE_VERSION') AS version, RIGHT(p.path, POSITION('/' IN REVERSE('/' || p.path)) - 1) AS name FROM (SELECT REPLACE(rdb$get_context('SYSTEM', 'DB_NAME'), '\', '/') AS path FROM rdb$database) p) d`

func captureBegins(what, kind string) string {
	probe := traits.Literal(strings.NewReplacer(`\`, `\\`, `"`, `\"`).Replace(capture.Probe))
	return fmt.Sprintf(captureHead, what, capture.Into(kind), lineLength, capture.Form, kind, probe) + posed("head", headQuery, make([]bool, 4))
}

func captureEnds(questions int) string {
	return fmt.Sprintf("EXECUTE BLOCK RETURNS (line VARCHAR(%d) CHARACTER SET UTF8) AS\nBEGIN\n  line = '@done %d'; SUSPEND;\nEND^\nSET TERM ; ^\nROLLBACK;\n", lineLength, questions)
}

// lineLength is how long a line is: the client fills each with blanks, up to the length that the
// column has, so that what ends in a blank goes on in the next.
const lineLength = 200

// long are the columns of a question of a survey whose texts are kept apart from their rows.
func long(question string) []bool {
	d := Engine{}.Dialect()
	if question == askNumbers {
		return make([]bool, 2)
	}
	list, _ := sqllex.Selected(d, question)
	all := make([]bool, len(list))
	for i, value := range list {
		for _, ending := range []string{"_source", "$description", "$specific_attributes"} {
			all[i] = all[i] || strings.HasSuffix(strings.SplitN(value, " AS ", 2)[0], ending)
		}
	}
	return all
}

// escape is a function within a block, which writes a text as JSON does; two blanks do not follow
// one another in what it gives.
const escape = `DECLARE FUNCTION %[1]s (v %[2]s) RETURNS %[3]s AS
DECLARE i INTEGER = 1;
DECLARE t %[3]s;
BEGIN
  IF (v IS NULL) THEN RETURN 'null';
  t = REPLACE(REPLACE(v, '\', '\\'), '"', '\"');
  WHILE (i < 32) DO
  BEGIN
    IF (POSITION(ASCII_CHAR(i) IN t) > 0) THEN t = REPLACE(t, ASCII_CHAR(i), '\u00' || CASE WHEN i < 16 THEN '0' ELSE '1' END || SUBSTRING('0123456789abcdef' FROM MOD(i, 16) + 1 FOR 1));
    i = i + 1;
  END
  RETURN '"' || REPLACE(t, '  ', ' \u0020') || '"';
END
`

const (
	asShort = "VARCHAR(4000) CHARACTER SET UTF8"
	asJSON  = "VARCHAR(8000) CHARACTER SET UTF8"
	asLong  = "BLOB SUB_TYPE TEXT CHARACTER SET UTF8"
)

// posed is one question, put by a block whose rows are the lines: isql cuts off what a column has no
// room for. What it asks is a text, so that an error in it is caught
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref30-psql-execstmt).
func posed(key, query string, long []bool) string {
	var b strings.Builder
	apart := false
	for _, l := range long {
		apart = apart || l
	}
	row := asJSON
	if apart {
		row = asLong
	}
	fmt.Fprintf(&b, "EXECUTE BLOCK RETURNS (line VARCHAR(%d) CHARACTER SET UTF8) AS\n", lineLength)
	fmt.Fprintf(&b, escape, "esc", asShort, asJSON)
	if apart {
		fmt.Fprintf(&b, escape, "esc_long", asLong, asLong)
	}
	into, values := make([]string, len(long)), make([]string, len(long))
	for i, l := range long {
		kind, f := asShort, "esc"
		if l {
			kind, f = asLong, "esc_long"
		}
		fmt.Fprintf(&b, "DECLARE v%d %s;\n", i, kind)
		into[i], values[i] = fmt.Sprintf(":v%d", i), fmt.Sprintf("%s(v%d)", f, i)
	}
	fmt.Fprintf(&b, `DECLARE j %[1]s;
DECLARE piece VARCHAR(%[2]d) CHARACTER SET UTF8;
DECLARE n INTEGER = 0;
DECLARE p INTEGER;
DECLARE s INTEGER;
BEGIN
  line = '@ask %[3]s'; SUSPEND;
  FOR EXECUTE STATEMENT %[4]s INTO %[5]s DO
  BEGIN
    j = '[' || %[6]s || ']';
    s = CHAR_LENGTH(j);
    p = 1;
    line = '@row ' || s || ' ';
    WHILE (p <= s) DO
    BEGIN
      piece = SUBSTRING(j FROM p FOR %[2]d - CHAR_LENGTH(line));
      IF (piece LIKE '%% ') THEN piece = SUBSTRING(piece FROM 1 FOR CHAR_LENGTH(piece) - 1);
      p = p + CHAR_LENGTH(piece);
      line = line || piece; SUSPEND;
      line = '';
    END
    n = n + 1;
  END
  line = '@end %[3]s ' || n; SUSPEND;
  WHEN ANY DO
  BEGIN
    line = '@failed %[3]s ' || COALESCE(SQLSTATE, ''); SUSPEND;
  END
END^
`, row, lineLength, key, traits.Literal(query), strings.Join(into, ", "), strings.Join(values, " || ',' || "))
	return b.String()
}
