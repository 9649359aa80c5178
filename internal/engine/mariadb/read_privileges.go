package mariadb

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/pattern"
)

// granted reads a line of SHOW GRANTS that is about whole databases
// (https://mariadb.com/kb/en/show-grants/).
var granted = pattern.New("^GRANT (.+?) ON (\\*|`(?:[^`]|``)*`)\\.\\* TO ")

const grantsQuery = "SHOW GRANTS"

// privileges says what the server does not show to this user: the views leave out, without
// a word, what one has no privilege for, by oneself or by the role that one has taken
// (https://mariadb.com/kb/en/information-schema-triggers-table/ and its kin).
func (r *reader) privileges() {
	held := map[string][]string{} // of each pattern of databases; "*" is all of them
	r.ask(grantsQuery, "", func(scan func(...any) error) error {
		var line string
		err := scan(&line)
		if m := granted.FindStringSubmatch(line); m != nil {
			pattern := strings.ReplaceAll(strings.Trim(m[2], "`"), "``", "`")
			held[pattern] = append(held[pattern], strings.Split(m[1], ", ")...)
		}
		return err
	})
	may := func(schema, privilege string) bool {
		for pattern, privileges := range held {
			if (slices.Contains(privileges, privilege) || slices.Contains(privileges, "ALL PRIVILEGES")) && (pattern == "*" || like(pattern, schema)) {
				return true
			}
		}
		return false
	}
	for _, s := range r.catalog.Schemas {
		for _, o := range [][2]string{{"triggers", "TRIGGER"}, {"events", "EVENT"}, {"functions and procedures", "EXECUTE"}} {
			if !may(s.Name, o[1]) {
				r.gap(s.Name, "", o[0], fmt.Sprintf("those that are there are not shown without the privilege %s", o[1]))
			}
		}
	}
}
