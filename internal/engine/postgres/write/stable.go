package write

import (
	"strings"

	"nexdal/internal/pattern"
)

// listed is how the engine writes an IN over a column of type character
// varying. Read again, that becomes another expression of the same meaning; the
// IN itself becomes this one.
var listed = pattern.New(`\((` + columnName + `(?:\.` + columnName + `)*)\)::text (= ANY|<> ALL) \(\(ARRAY\[((?:'(?:[^']|'')*'::character varying(?:, )?)+)\]\)::text\[\]\)`)

const columnName = `(?:[A-Za-z_][\w$]*|"(?:[^"]|"")*")`

// stable rewrites an expression of the engine's so that the engine, when it
// has read it, writes it as it was.
func stable(text string) string {
	if !strings.Contains(text, "::text[]") {
		return text
	}
	return listed.ReplaceAllStringFunc(text, func(s string) string {
		m := listed.FindStringSubmatch(s)
		in := " IN ("
		if m[2] != "= ANY" {
			in = " NOT IN ("
		}
		return m[1] + in + strings.ReplaceAll(m[3], "'::character varying", "'") + ")"
	})
}
