package sqllex

import (
	"fmt"
	"strings"
)

// Selected cuts a query into what it selects, of its first SELECT, and the rest, from FROM on.
func Selected(d Dialect, query string) (list []string, rest string) {
	depth, start, end := 0, -1, len(query)
	d.Each(query, func(t Token) bool {
		switch {
		case start < 0:
			if t.Is("SELECT") {
				start = t.End
			}
		case t.Is("(") || t.Is("["):
			depth++
		case t.Is(")") || t.Is("]"):
			depth--
		case depth == 0 && t.Is(","):
			list, start = append(list, strings.TrimSpace(query[start:t.Start])), t.End
		case depth == 0 && t.Is("FROM"):
			end = t.Start
			return false
		}
		return true
	})
	return append(list, strings.TrimSpace(query[start:end])), query[end:]
}

// Columns gives the columns of a query names, c1, c2 and so on, for WITH q (c1, c2) AS (query). Of
// one whose number of columns its text does not tell, as SELECT *, it makes a query of as many
// rows with one column.
func Columns(d Dialect, query string) (names []string, of string) {
	list, _ := Selected(d, query)
	for i, value := range list {
		if value == "*" || strings.HasSuffix(value, ".*") {
			return []string{"c1"}, "SELECT 'a row' FROM (\n" + query + "\n) s"
		}
		list[i] = fmt.Sprintf("c%d", i+1)
	}
	return list, query
}

// CutLast splits a text at the last of the words outside brackets; without them all of it comes
// before.
func (d Dialect) CutLast(text, words string) (before, after string) {
	wanted := strings.Fields(words)
	depth, at, end := 0, -1, 0
	var last []Token
	d.Each(text, func(t Token) bool {
		if t.Blank() {
			return true
		}
		switch {
		case t.Is("("):
			depth++
		case t.Is(")"):
			depth--
		}
		if last = append(last, t); len(last) > len(wanted) {
			last = last[1:]
		}
		if depth != 0 || len(last) < len(wanted) {
			return true
		}
		for i, w := range wanted {
			if !last[i].Is(w) {
				return true
			}
		}
		at, end = last[0].Start, t.End
		return true
	})
	if at < 0 {
		return text, ""
	}
	return strings.TrimSpace(text[:at]), strings.TrimSpace(text[end:])
}
