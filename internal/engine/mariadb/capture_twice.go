package mariadb

import (
	"fmt"
	"strings"

	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/sqllex"
)

// twiceScript is a capture's script for a server without blocks outside routines, which cannot go
// through its tables by itself: what a first run of it writes is the script of the second.
func (e Engine) twiceScript() (string, error) {
	l := &listing{version: e.Family().Adopts}
	if _, err := newReader(e.Family(), l, "").read(); err != nil {
		return "", err
	}
	var second strings.Builder
	second.WriteString(e.plainBegins(""))
	asked := 1
	second.WriteString(e.plainPosed("head", headQuery))
	for _, q := range l.asked {
		if q.text == grantsQuery || q.about {
			continue // is shown, or about what the server has not
		}
		second.WriteString(e.plainPosed(capture.Key(q.text), q.whole()))
		asked++
	}
	fmt.Fprintf(&second, "\nSELECT '@show GRANTS []' AS answer;\n%s;\n", grantsQuery)
	var b strings.Builder
	fmt.Fprintf(&b, twiceHead, e.Family().Title, e.Family().Client)
	b.WriteString(printed(second.String()))
	for _, o := range objectsShown {
		fmt.Fprintf(&b, "SELECT CONCAT('SELECT ', QUOTE(CONCAT('@show %s ', JSON_ARRAY(o.s, o.t))), ' AS answer;\\nSHOW CREATE %[1]s ', %s, ';') AS answer\n  FROM (%s) o;\n", o.kind, named, o.query)
	}
	b.WriteString(printed(e.plainEnds(asked)))
	b.WriteString("ROLLBACK;\n")
	return b.String(), nil
}

const twiceHead = `-- Asks a %[1]s server what one database, or all of them, are made of; reads the server's views
-- alone, and alters nothing. Written by Nexdal, which reads the result. %[1]s's own client runs it
-- twice: what the first run writes is the script of the second. Without DATABASE it asks about all
-- that the account may see:
--
--   %[2]s --batch --raw --skip-column-names --default-character-set=utf8mb4 DATABASE < FILE > second.sql
--   %[2]s --batch --force --default-character-set=utf8mb4 DATABASE < second.sql > result.txt
SET NAMES utf8mb4;
SET SESSION sql_mode = 'NO_ENGINE_SUBSTITUTION';
START TRANSACTION READ ONLY;
`

// printed lets the server write lines of the second script.
func printed(lines string) string {
	return "SELECT '" + strings.NewReplacer(`\`, `\\`, "'", "''").Replace(strings.TrimSuffix(lines, "\n")) + "' AS answer;\n"
}

// plainBegins is what a script of plain statements begins with, behind its comment.
func (e Engine) plainBegins(kind string) string {
	shown := ""
	for _, s := range e.Family().Shown {
		shown += s + ";\n"
	}
	return fmt.Sprintf(`SET NAMES utf8mb4;
SET SESSION sql_mode = 'NO_ENGINE_SUBSTITUTION';
SET SESSION group_concat_max_len = 4294967295;
%sSTART TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY;
SELECT '@nexdal %d %s%s' AS answer;
SELECT '@probe "%s"' AS answer;
`, patient(e.Family())+shown, capture.Form, e.Family().Name, kind, capture.ProbeEscaped)
}

func (e Engine) plainEnds(asked int) string {
	return fmt.Sprintf("\nSELECT '@done %d' AS answer;\nROLLBACK;\n", asked)
}

// plainPosed is one question, its values as text: what the server holds as bytes would come as
// base64 (https://dev.mysql.com/doc/refman/8.4/en/json.html).
func (e Engine) plainPosed(key, query string) string {
	list, rest := sqllex.Selected(e.Dialect(), query)
	row := "JSON_ARRAY(" + sqllex.Each(list, asText, ", ") + ")"
	return plainCounted(key, fmt.Sprintf("SELECT CONCAT('@row ', CHAR_LENGTH(%[1]s), ' ',\n  %[1]s) AS answer\n  %[2]s", row, rest))
}

func asText(value string) string { return "CAST(CONCAT(" + value + ", '') AS CHAR)" }

// plainCounted says behind an answer how many rows it has. Where the server refused the question
// there is no end: with --force the client goes on. The count of errors is that of the last
// statement that had something to say; one that looks at a table makes it 0 again
// (https://dev.mysql.com/doc/refman/8.4/en/server-system-variables.html#sysvar_error_count).
func plainCounted(key, put string) string {
	return fmt.Sprintf("\nSELECT '@ask %[1]s' AS answer FROM (SELECT COUNT(*) FROM information_schema.ENGINES) one;\n%[2]s;\nSELECT CONCAT('@end %[1]s ', FOUND_ROWS()) AS answer FROM DUAL WHERE @@error_count = 0;\n", key, put)
}

// plainData puts questions about the data.
func (e Engine) plainData(asked []capture.Question) string {
	var b strings.Builder
	fmt.Fprintf(&b, `-- Asks a %s server about its data, and alters nothing. Written by Nexdal, which reads the result:
--
--   %s --batch --force --default-character-set=utf8mb4 DATABASE < FILE %s
`, e.Family().Title, e.Family().Client, capture.Into(capture.OfData))
	b.WriteString(e.plainBegins(capture.OfData))
	b.WriteString(e.plainPosed("head", headQuery))
	for _, q := range asked {
		b.WriteString(plainCounted(capture.Key(q.SQL), e.dataRows(q)))
	}
	b.WriteString(e.plainEnds(1 + len(asked)))
	return b.String()
}
