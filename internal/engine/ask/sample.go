package ask

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// blocks is in how many places of a table a sample is taken.
const blocks = 20

// Spread is a sample of a table whose rows lie in the order of a whole number:
// so many rows from each of some places that are equally far apart. No row is
// taken twice. The relation and the number come quoted.
func Spread(q sqllex.Quoting, relation, number string, columns []string, rows int64) string {
	list := listed(q, columns)
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

// ByKey is a sample that is spread over the primary key where that is one whole number, and
// otherwise the rows that come first: for an engine that has no sampling of single rows.
func ByKey(q sqllex.Quoting, relation string, t *catalog.Table, columns []string, rows int64) string {
	if k := t.PrimaryKey; k != nil && len(k.Columns) == 1 && t.Column(k.Columns[0]).Type.Family == catalog.Integer {
		return Spread(q, relation, q.Ident(k.Columns[0]), columns, rows)
	}
	return First(q, relation, columns, rows)
}

func listed(q sqllex.Quoting, columns []string) string {
	if len(columns) == 0 {
		return "1 AS x"
	}
	return q.Idents(columns)
}

// First is a sample of the rows that come first. The relation comes quoted.
func First(q sqllex.Quoting, relation string, columns []string, rows int64) string {
	list := listed(q, columns)
	return "(" + q.First(rows, fmt.Sprintf("SELECT %s FROM %s", list, relation)) + ")"
}
