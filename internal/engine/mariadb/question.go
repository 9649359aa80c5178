package mariadb

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/go-sql-driver/mysql"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/mariadb/traits"
	"nexdal/internal/engine/sqllex"
)

// A question is a query of the server's views.
type question struct {
	text string
	// column is what the condition %s is on, that the schema is one of those that are read; "":
	// there is none.
	column string
	// now are the queries that are sent of a question about what is known by then; one that the
	// server refuses is left out. text is what all of them have in common.
	now   []string
	about bool
}

// Answers come from a connection, or from a file with what a client has shown.
type answers interface {
	// rows hands each row of the answer to scan.
	rows(q question, row func(scan func(...any) error) error) error
	// show asks for the statements that make objects of one schema, and leaves out those that the
	// server does not show.
	show(kind, schema string, names []string, shown map[string]string) error
	// over reports whether nothing can be asked any more.
	over() bool
}

// live is a connection that answers.
type live struct {
	ctx    context.Context
	conn   *sql.Conn
	family *traits.Family
	only   []string // the databases that are read; none: all but the engine's own
}

func (l *live) over() bool { return l.ctx.Err() != nil }

func (l *live) rows(q question, row func(scan func(...any) error) error) error {
	switch {
	case q.about:
		return l.each(q.now, row)
	case q.column != "":
		return l.query(fmt.Sprintf(q.text, l.ours(q.column)), row)
	}
	return l.query(q.text, row)
}

// each puts the queries as one; where the server refuses that, one by one.
func (l *live) each(queries []string, row func(scan func(...any) error) error) error {
	if len(queries) == 0 {
		return nil
	}
	err := l.query(strings.Join(queries, " UNION ALL "), row)
	if !refused(err) {
		return err
	}
	for _, query := range queries {
		if err := l.query(query, row); err != nil && !refused(err) {
			return err
		}
	}
	return nil
}

func (l *live) query(query string, row func(scan func(...any) error) error) error {
	rows, err := l.conn.QueryContext(l.ctx, query)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		if err := row(rows.Scan); err != nil {
			return err
		}
	}
	return rows.Err()
}

func (l *live) ours(column string) string {
	if len(l.only) > 0 {
		return column + " IN (" + sqllex.Each(l.only, traits.Literal, ", ") + ")"
	}
	return column + " NOT IN " + systems
}

// systems are the databases that are the server's own.
const systems = "('information_schema', 'mysql', 'performance_schema', 'sys')"

// shownAtOnce is how many texts one question asks for.
const shownAtOnce = 200

func (l *live) show(kind, schema string, names []string, shown map[string]string) error {
	for asked := range slices.Chunk(names, shownAtOnce) {
		if err := l.showAtOnce(kind, schema, asked, shown); err != nil {
			return err
		}
	}
	return nil
}

// showAtOnce asks for some of them at once. Where the server stops at the first that it refuses,
// those that are left are asked for one by one.
func (l *live) showAtOnce(kind, schema string, names []string, shown map[string]string) error {
	statements := make([]string, len(names))
	for i, name := range names {
		statements[i] = "SHOW CREATE " + kind + " " + traits.Relation(catalog.Ref{Schema: schema, Table: name})
	}
	query, goesOn := l.family.Several(statements)
	err := l.results(query, func(row []sql.NullString) {
		if text := textAt(kind); text < len(row) && row[text].Valid {
			shown[row[0].String] = row[text].String
		}
	})
	if goesOn || !refused(err) {
		return err
	}
	for _, name := range names {
		if _, ok := shown[name]; !ok && len(names) > 1 {
			if err := l.showAtOnce(kind, schema, []string{name}, shown); err != nil {
				return err
			}
		}
	}
	return nil
}

// textAt is the column that SHOW CREATE has the statement in: of what is not a table it stands
// behind the sql_mode.
func textAt(kind string) int {
	if kind == "TABLE" {
		return 1
	}
	return 2
}

// results calls row with each row of each result.
func (l *live) results(query string, row func([]sql.NullString)) error {
	rows, err := l.conn.QueryContext(l.ctx, query)
	if err != nil {
		return err
	}
	defer rows.Close()
	for more := true; more; more = rows.NextResultSet() {
		columns, err := rows.Columns()
		if err != nil {
			return err
		}
		values := make([]sql.NullString, len(columns))
		into := make([]any, len(columns))
		for i := range values {
			into[i] = &values[i]
		}
		for rows.Next() {
			if err := rows.Scan(into...); err != nil {
				return err
			}
			row(values)
		}
	}
	return rows.Err()
}

// refused reports whether the server was asked for what it does not show: not that it was
// stopped, waited too long or was lost
// (https://dev.mysql.com/doc/mysql-errors/8.4/en/server-error-reference.html).
func refused(err error) bool {
	var said *mysql.MySQLError
	if !errors.As(err, &said) {
		return false
	}
	switch said.Number {
	case 1053, 1205, 1317, 3024: // shutting down, lock wait, interrupted, over its time
		return false
	}
	return true
}
