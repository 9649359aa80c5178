package sqlite

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ask"
	"nexdal/internal/engine/sqlite/ddltext"
	"nexdal/internal/evidence"
)

// How texts that are numbers and dates read: what the date functions accept in
// the form year-month-day (https://www.sqlite.org/lang_datefunc.html), and what
// holds nothing but digits, one sign and one point. date() takes the 31st of
// every month, and gives the day that it is then.
const (
	readsAsNumber = `(typeof(%[1]s) IN ('integer', 'real') OR trim(%[1]s) GLOB '*[0-9]*' AND NOT ltrim(trim(%[1]s), '+-') GLOB '*[^0-9.]*' AND length(trim(%[1]s)) - length(ltrim(trim(%[1]s), '+-')) <= 1 AND length(%[1]s) - length(replace(%[1]s, '.', '')) <= 1)`
	readsAsDate   = `(%[1]s GLOB '[0-9][0-9][0-9][0-9]-[01][0-9]-[0-3][0-9]*' AND date(substr(%[1]s, 1, 10)) IS substr(%[1]s, 1, 10) AND (length(%[1]s) = 10 OR datetime(%[1]s) IS NOT NULL))`
)

// questionTimeout is how long one question may take.
const questionTimeout = 5 * time.Minute

// Asker gives the session room for the keys that it looks up, and lets it read
// the file as memory: the embedded engine's page cache is one for all sessions
// of the process, and two that look keys up would wait for each other
// (https://www.sqlite.org/mmap.html). The file was opened read-only.
func (s *session) Asker(ctx context.Context) (evidence.Asker, error) {
	if _, err := s.conn.ExecContext(ctx, "PRAGMA cache_size = -65536; PRAGMA mmap_size = 1073741824"); err != nil {
		return nil, err
	}
	limit := s.timeout
	if limit == 0 {
		limit = questionTimeout
	}
	d := asking
	d.Limit = limit
	return ask.New(s.Rows, d), nil
}

var asking = ask.Dialect{Lexis: Engine{}.Dialect(), Quoting: ddltext.Quoting, Relation: func(r catalog.Ref) string { return ddltext.Ident(r.Table) }, Text: "CAST(%s AS TEXT)", Length: "length(%s)",
	Number: readsAsNumber, Date: readsAsDate, NotIn: true, Fraction: "typeof(%s) NOT IN ('integer', 'null')", Stray: "typeof(%s) IN ('text', 'blob')",
	Ordered: func(catalog.Type) bool { return true }, Sample: sample,
	Next:  func(*catalog.Table, *catalog.Column) string { return "" }, // it always finds a free one
	Fault: fault}

// sample is spread over the row numbers, by which tables are ordered
// (https://www.sqlite.org/rowidtable.html).
func sample(t *catalog.Table, columns []string, rows int64) string {
	if !t.Has("without rowid") {
		for _, name := range []string{"rowid", "_rowid_", "oid"} {
			if !slices.ContainsFunc(t.Columns, func(c *catalog.Column) bool { return strings.EqualFold(c.Name, name) }) {
				return ask.Spread(ddltext.Quoting, ddltext.Ident(t.Name), name, columns, rows)
			}
		}
	}
	return ask.First(ddltext.Quoting, ddltext.Ident(t.Name), columns, rows)
}

// fault: 5 and 6 mean that somebody holds the file for longer than we wait.
func fault(err error) error {
	var said *engine.StatementError
	if errors.As(err, &said) && (said.Code == "5" || said.Code == "6" || said.Code == "9") {
		return evidence.ErrTimeout
	}
	return nil
}

// strays lists what is no number in a column (https://www.sqlite.org/datatype3.html).
func strays(t *catalog.Table, c *catalog.Column) string {
	return fmt.Sprintf("SELECT * FROM %s WHERE typeof(%s) IN ('text', 'blob')", ddltext.Ident(t.Name), ddltext.Ident(c.Name))
}
