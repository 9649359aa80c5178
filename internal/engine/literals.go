package engine

import (
	"fmt"
	"strings"
	"time"
)

// Literals are how an engine writes the values of rows that are loaded by statements.
type Literals struct {
	Text        func(string) string
	True, False string
	Moment      string // layout of a moment that is no whole day
}

// Value writes one.
func (l Literals) Value(v any) string {
	switch v := v.(type) {
	case nil:
		return "NULL"
	case string:
		return l.Text(v)
	case bool:
		if v {
			return l.True
		}
		return l.False
	case time.Time:
		layout := l.Moment
		if v.Equal(v.Truncate(24 * time.Hour)) {
			layout = time.DateOnly
		}
		return "'" + v.Format(layout) + "'"
	}
	return fmt.Sprint(v)
}

// Batches hands the rows that next gives to send, at most so many at a time, each as its values with
// commas between. Next ends with nil.
func (l Literals) Batches(most int, next func() []any, send func(rows []string) error) error {
	for {
		var rows []string
		for len(rows) < most {
			row := next()
			if row == nil {
				break
			}
			values := make([]string, len(row))
			for i, v := range row {
				values[i] = l.Value(v)
			}
			rows = append(rows, strings.Join(values, ", "))
		}
		if len(rows) == 0 {
			return nil
		}
		if err := send(rows); err != nil {
			return err
		}
	}
}

// Values lists rows as INSERT takes them.
func Values(rows []string) string { return "(" + strings.Join(rows, "), (") + ")" }
