package oracle

import (
	"context"
	"fmt"
	"strings"
	"time"
	"unicode/utf16"

	"nexdal/internal/engine"
	"nexdal/internal/engine/capture"
)

// CaptureClient is the maker's.
func (Engine) CaptureClient() string { return "sqlplus" }

// CaptureScript is a script of SQL*Plus.
func (Engine) CaptureScript() (string, error) {
	l := &engine.Listing{}
	if _, err := read(context.Background(), l, time.Time{}); err != nil {
		return "", err
	}
	var b strings.Builder
	b.WriteString(captureBegins("what a database is made of; reads the dictionary alone", ""))
	for _, q := range l.Asked {
		b.WriteString(posed(capture.Key(q), "q'["+q+"]'"))
	}
	b.WriteString(captureEnds(1 + len(l.Asked)))
	return b.String(), nil
}

// DataScript puts questions about the data.
func (Engine) DataScript(asked []capture.Question) string {
	var b strings.Builder
	b.WriteString(captureBegins("about the data of a database", capture.OfData))
	for _, q := range asked {
		b.WriteString(posedAsIs(capture.Key(q.SQL), ascii(q.SQL)))
	}
	b.WriteString(captureEnds(1 + len(asked)))
	return b.String()
}

const captureHead = `-- Asks an Oracle database %s,
-- and alters nothing. Written by Nexdal, which reads the result. Run it with the maker's client:
--
--   sqlplus -S -L USER@DATABASE @FILE %s
--
-- The answers are in ASCII, whatever the client's character set is.
WHENEVER SQLERROR CONTINUE
SET DEFINE OFF
SET SQLBLANKLINES ON
SET ECHO OFF
SET FEEDBACK OFF
SET VERIFY OFF
SET TAB OFF
SET LINESIZE 32767
SET TRIMOUT ON
SET TRIMSPOOL ON
SET SERVEROUTPUT ON SIZE UNLIMITED FORMAT WRAPPED
SET TRANSACTION READ ONLY;

-- An account that may not see the administrators' views is asked by those of what it may see.
VARIABLE views VARCHAR2(3)
DECLARE
  n NUMBER;
BEGIN
  DBMS_OUTPUT.PUT_LINE('@nexdal %d oracle%s');
  DBMS_OUTPUT.PUT_LINE('@probe "' || REPLACE(REPLACE(ASCIISTR(%s), '\', '\u'), '"', '\u0022') || '"');
  :views := 'ALL';
  EXECUTE IMMEDIATE 'SELECT COUNT(*) FROM dba_tables WHERE ROWNUM = 0' INTO n;
  :views := 'DBA';
EXCEPTION
  WHEN OTHERS THEN NULL;
END;
/
`

// headQuery says what database it is, and when and as whom it is asked.
const headQuery = `SELECT (SELECT MAX(p.version) FROM product_component_version p WHERE p.product LIKE 'Oracle%') AS version, SYS_CONTEXT('USERENV', 'CON_NAME') AS name,
  TO_CHAR(SYS_EXTRACT_UTC(SYSTIMESTAMP), 'YYYY-MM-DD"T"HH24:MI:SS"Z"') AS moment, SYS_CONTEXT('USERENV', 'SESSION_USER') AS account FROM dual`

func captureBegins(what, kind string) string {
	return fmt.Sprintf(captureHead, what, capture.Into(kind), capture.Form, kind, ascii(capture.Probe)) + posed("head", "q'["+headQuery+"]'")
}

func captureEnds(questions int) string {
	return fmt.Sprintf("\nBEGIN\n  DBMS_OUTPUT.PUT_LINE('@done %d');\nEND;\n/\nROLLBACK;\nEXIT\n", questions)
}

// asking is a block that puts one question. A row is written as JSON: ASCIISTR gives what is not
// ASCII by its UTF-16 units, and a column of type LONG is fetched apart
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/arpls/DBMS_SQL.html).
const asking = `
DECLARE
  TYPE texts IS TABLE OF VARCHAR2(32767) INDEX BY PLS_INTEGER;
  pieces texts;
  filled PLS_INTEGER;
  letters PLS_INTEGER;
  PROCEDURE put(s VARCHAR2) IS
  BEGIN
    letters := letters + LENGTH(s);
    IF LENGTH(pieces(filled)) + LENGTH(s) > 8000 THEN
      filled := filled + 1;
      pieces(filled) := '';
    END IF;
    pieces(filled) := pieces(filled) || s;
  END put;
  PROCEDURE put_text(s VARCHAR2) IS
    t VARCHAR2(32767);
  BEGIN
    put('"');
    FOR i IN 0 .. TRUNC((LENGTH(s) - 1) / 1000) LOOP
      t := REPLACE(REPLACE(ASCIISTR(SUBSTR(s, i * 1000 + 1, 1000)), '\', '\u'), '"', '\u0022');
      FOR c IN 0 .. 31 LOOP
        t := REPLACE(t, CHR(c), '\u00' || TO_CHAR(c, 'FM0X'));
      END LOOP;
      put(t);
    END LOOP;
    put('"');
  END put_text;
  PROCEDURE ask(key VARCHAR2, query CLOB) IS
    c INTEGER;
    columns_ INTEGER;
    described DBMS_SQL.DESC_TAB2;
    s VARCHAR2(32767);
    n INTEGER;
    total INTEGER := 0;
  BEGIN
    DBMS_OUTPUT.PUT_LINE('@ask ' || key);
    c := DBMS_SQL.OPEN_CURSOR;
    DBMS_SQL.PARSE(c, %s, DBMS_SQL.NATIVE);
    DBMS_SQL.DESCRIBE_COLUMNS2(c, columns_, described);
    FOR i IN 1 .. columns_ LOOP
      IF described(i).col_type = 8 THEN
        DBMS_SQL.DEFINE_COLUMN_LONG(c, i);
      ELSE
        DBMS_SQL.DEFINE_COLUMN(c, i, s, 32767);
      END IF;
    END LOOP;
    n := DBMS_SQL.EXECUTE(c);
    WHILE DBMS_SQL.FETCH_ROWS(c) > 0 LOOP
      total := total + 1;
      letters := 0;
      filled := 0;
      pieces(0) := '';
      FOR i IN 1 .. columns_ LOOP
        put(CASE i WHEN 1 THEN '[' ELSE ',' END);
        IF described(i).col_type = 8 THEN
          DBMS_SQL.COLUMN_VALUE_LONG(c, i, 32760, 0, s, n);
        ELSE
          DBMS_SQL.COLUMN_VALUE(c, i, s);
        END IF;
        IF s IS NULL THEN
          put('null');
        ELSE
          put_text(s);
        END IF;
      END LOOP;
      put(']');
      DBMS_OUTPUT.PUT('@row ' || letters || ' ');
      FOR i IN 0 .. filled LOOP
        DBMS_OUTPUT.PUT_LINE(pieces(i));
      END LOOP;
    END LOOP;
    DBMS_SQL.CLOSE_CURSOR(c);
    DBMS_OUTPUT.PUT_LINE('@end ' || key || ' ' || total);
  EXCEPTION
    WHEN OTHERS THEN
      IF DBMS_SQL.IS_OPEN(c) THEN
        DBMS_SQL.CLOSE_CURSOR(c);
      END IF;
      DBMS_OUTPUT.PUT_LINE('@failed ' || key || ' ORA-' || LPAD(TO_CHAR(ABS(SQLCODE)), 5, '0'));
  END ask;
BEGIN
  ask('%s', %s);
END;
/
`

// posed is a question of a survey, which names the views of administrators.
func posed(key, query string) string {
	return fmt.Sprintf(asking, "REPLACE(query, 'DBA_', :views || '_')", key, query)
}

// posedAsIs is one about the data.
func posedAsIs(key, query string) string { return fmt.Sprintf(asking, "query", key, query) }

// pieceLength is how many letters of a text stand on one line of a script.
const pieceLength = 1000

// ascii writes a text as an expression of ASCII in which the client finds no line of its own:
// pieces of it, and what else is in it by numbers
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/UNISTR.html).
func ascii(text string) string {
	var parts []string
	var b strings.Builder
	flush := func() {
		if b.Len() > 0 {
			parts = append(parts, literal(b.String()))
			b.Reset()
		}
	}
	for _, r := range text {
		switch {
		case r >= ' ' && r <= '~':
			if b.WriteRune(r); b.Len() >= pieceLength {
				flush()
			}
		case r < ' ':
			flush()
			parts = append(parts, fmt.Sprintf("CHR(%d)", r))
		default:
			flush()
			units := ""
			for _, u := range utf16.Encode([]rune{r}) {
				units += fmt.Sprintf(`\%04X`, u)
			}
			parts = append(parts, "UNISTR('"+units+"')")
		}
	}
	flush()
	if len(parts) > 1 {
		parts[0] = "TO_CLOB(" + parts[0] + ")"
	}
	return strings.Join(parts, "\n    || ")
}
