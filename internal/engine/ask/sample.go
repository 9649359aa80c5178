package ask

import (
	"fmt"
	"strings"

	"nexdal/internal/engine/sqllex"
)

// blocks is in how many places of a table a sample is taken.
const blocks = 20

// Spread is a sample of a table whose rows lie in the order of a whole number:
// so many rows from each of some places that are equally far apart. No row is
// taken twice. All names come quoted.
func Spread(q sqllex.Quoting, relation, number string, columns []string, rows int64) string {
	list := strings.Join(columns, ", ")
	if list == "" {
		list = "1 AS x"
	}
	// The least and the greatest are asked for apart: together, SQLite reads
	// the whole table for them.
	least, greatest := fmt.Sprintf("(SELECT min(%s) FROM %s)", number, relation), fmt.Sprintf("(SELECT max(%s) FROM %s)", number, relation)
	end := func(i int) string {
		return fmt.Sprintf("%[1]s + (%[2]s - %[1]s) / %[3]d * %[4]d", least, greatest, blocks, i)
	}
	parts := make([]string, blocks)
	for i := range parts {
		where := fmt.Sprintf("%s >= %s", number, end(i))
		if i < blocks-1 {
			where += fmt.Sprintf(" AND %s < %s", number, end(i+1))
		}
		parts[i] = fmt.Sprintf("SELECT * FROM (%s) b%d", q.First(max(1, rows/blocks), fmt.Sprintf("SELECT %s FROM %s WHERE %s ORDER BY %s", list, relation, where, number)), i)
	}
	return "(" + strings.Join(parts, " UNION ALL ") + ")"
}

// First is a sample of the rows that come first.
func First(q sqllex.Quoting, relation string, columns []string, rows int64) string {
	list := strings.Join(columns, ", ")
	if list == "" {
		list = "1 AS x"
	}
	return "(" + q.First(rows, fmt.Sprintf("SELECT %s FROM %s", list, relation)) + ")"
}
