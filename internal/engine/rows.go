package engine

import "database/sql"

// TextRows reads at most so many rows of an answer as text, and closes it. text writes a value of a
// column, whose type is called as the driver calls it; nil is NULL.
func TextRows(rows *sql.Rows, most int, text func(v any, kind string) *string) (names []string, all []Row, err error) {
	defer rows.Close()
	types, err := rows.ColumnTypes()
	if err != nil {
		return nil, nil, err
	}
	for _, t := range types {
		names = append(names, t.Name())
	}
	for len(all) < most && rows.Next() {
		values, into := make([]any, len(names)), make([]any, len(names))
		for i := range values {
			into[i] = &values[i]
		}
		if err := rows.Scan(into...); err != nil {
			return nil, nil, err
		}
		row := make(Row, len(names))
		for i, v := range values {
			row[i] = text(v, types[i].DatabaseTypeName())
		}
		all = append(all, row)
	}
	return names, all, rows.Err()
}
