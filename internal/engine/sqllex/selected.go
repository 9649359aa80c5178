package sqllex

import "strings"

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
