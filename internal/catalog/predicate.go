package catalog

import "strings"

// onlyNotNull reports whether a partial index's predicate says no more than
// that its columns are not null. Such an index holds every row that a search
// by value can mean.
func onlyNotNull(predicate string, columns []string) bool {
	fold := strings.NewReplacer("(", " ", ")", " ", `"`, "", "`", "", "[", "", "]", "")
	words := strings.Fields(fold.Replace(predicate))
	for len(words) > 0 {
		if len(words) < 4 || !strings.EqualFold(strings.Join(words[1:4], " "), "is not null") {
			return false
		}
		known := false
		for _, c := range columns {
			known = known || strings.EqualFold(c, words[0])
		}
		if !known {
			return false
		}
		if words = words[4:]; len(words) > 0 {
			if !strings.EqualFold(words[0], "and") || len(words) == 1 {
				return false
			}
			words = words[1:]
		}
	}
	return true
}
