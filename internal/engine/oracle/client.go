package oracle

import (
	"strings"
)

// longestLine is how many bytes of a statement stand on one line: the client takes no more than
// 4,999 (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqpug/SQL-Plus-limits.html).
const longestLine = 2400

// clientLines are for SQL*Plus: it stops at the first error, replaces nothing, and takes blank
// lines for what they are
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqpug/SET-system-variable-summary.html).
var clientLines = []string{"WHENEVER SQLERROR EXIT FAILURE", "WHENEVER OSERROR EXIT FAILURE", "SET DEFINE OFF", "SET SQLBLANKLINES ON"}

// safe is the statement as SQL*Plus takes it whole: one whose lines it would take for its own, or
// cut, is handed to the server as a text.
func safe(sql string) string {
	if !hazardous(sql) {
		return sql
	}
	var parts []string
	for i, line := range strings.Split(sql, "\n") {
		if i > 0 {
			parts = append(parts, "CHR(10)")
		}
		for len(line) > 0 {
			n := min(len(line), 1000)
			for n < len(line) && line[n]&0xC0 == 0x80 {
				n++ // not within a character
			}
			parts = append(parts, "TO_CLOB("+literal(line[:n])+")")
			line = line[n:]
		}
	}
	return "BEGIN\n  EXECUTE IMMEDIATE " + strings.Join(parts, "\n    || ") + ";\nEND;"
}

// hazardous reports whether the client would not take the statement as it is.
func hazardous(sql string) bool {
	lines := strings.Split(sql, "\n")
	for i, line := range lines {
		plain := strings.TrimSpace(line)
		switch {
		case len(line) > longestLine, strings.Contains(line, "\r"):
			return true
		case i == 0:
		case plain == "/", plain == ".", strings.HasPrefix(plain, "#"), strings.HasPrefix(plain, "@"):
			return true
		}
		// A hyphen at the end of a line joins it to the next, and a semicolon ends a statement that
		// is no block, even in a text.
		if i < len(lines)-1 && (strings.HasSuffix(plain, "-") || strings.HasSuffix(plain, ";") && !block(sql)) {
			return true
		}
	}
	return false
}

// block reports whether the client waits for a slash.
func block(sql string) bool { return strings.HasSuffix(Engine{}.Dialect().Ended(sql), "\n/") }

// safely makes all statements so.
func safely(sql []string) []string {
	all := make([]string, len(sql))
	for i, s := range sql {
		all[i] = safe(s)
	}
	return all
}
