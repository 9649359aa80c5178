// Package standin is a machine that simulates database servers where there are none: it keeps
// a structure in a catalog and the rows in SQLite, in memory. What makes it one system or
// another, its statements, its own views and its way to talk, is a [Kind], one folder each. It
// is made for demonstrations and tests, and says of itself that it is simulated. What it does
// not know it refuses; it makes no answer up.
package standin

import (
	"context"
	"database/sql"
	"fmt"
	"strings"

	_ "modernc.org/sqlite" // holds the rows, in memory

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// A Kind is what makes a machine one database system.
type Kind interface {
	// Lexis cuts its statements.
	Lexis() sqllex.Dialect
	// Views are the system's own views.
	Views() []View
	// Show fills them, as the catalog is.
	Show(ctx context.Context, add func(view string, values ...any) error) error
	// Spell writes an expression or a query as SQLite reads it, names of tables aside.
	Spell(s *Session, tokens []sqllex.Token) []sqllex.Token
	// Wear is what it keeps of its tables besides the catalog, as a copy, and Rewear puts
	// that back: a transaction may end without trace.
	Wear() any
	Rewear(any)
}

// A View is one of the system's own, in which only what a question was seen to need is there.
type View struct {
	Name    string // with its schema
	Columns string // names and types, as in CREATE TABLE
}

// A Machine is one simulated server of one database.
type Machine struct {
	Catalog *catalog.Catalog
	// Keeps: keys, foreign keys and checks are kept, not what columns take alone; nulls are
	// alike in a key, as one more value.
	Keeps, NullsAlike bool
	// AllNullFree: nulls are alike in a key, but a row that is null in all of it is left out.
	AllNullFree bool
	// Step is by what the numbers of a table grow; nil: by one.
	Step func(*catalog.Table) int64

	kind  Kind
	turn  chan struct{} // taken by the session that is within a transaction
	pool  *sql.DB
	rows  *sql.Conn
	shown bool // the views tell what there is
	views map[catalog.Ref]bool
	id    int
}

// New makes a machine without tables, in which the schemas are there.
func New(k Kind, schemas ...string) (*Machine, error) {
	pool, err := sql.Open("sqlite", "file::memory:?_pragma=foreign_keys(0)&_pragma=recursive_triggers(1)&_pragma=legacy_alter_table(1)")
	if err != nil {
		return nil, err
	}
	pool.SetMaxOpenConns(1) // each connection would have a memory of its own
	conn, err := pool.Conn(context.Background())
	if err != nil {
		return nil, err
	}
	m := &Machine{Catalog: &catalog.Catalog{}, kind: k, turn: make(chan struct{}, 1), pool: pool, rows: conn, views: map[catalog.Ref]bool{}}
	m.id = register(m)
	for _, name := range schemas {
		m.Catalog.Schemas = append(m.Catalog.Schemas, &catalog.Schema{Name: name})
	}
	for _, v := range k.Views() {
		schema, name, _ := strings.Cut(v.Name, ".")
		ref := catalog.Ref{Schema: schema, Table: name}
		m.views[ref] = true
		if err := m.Do(context.Background(), fmt.Sprintf("CREATE TABLE %s (%s)", stored(ref), v.Columns)); err != nil {
			return nil, err
		}
	}
	return m, nil
}

// Close ends it; what it held is gone.
func (m *Machine) Close() {
	forget(m.id)
	m.rows.Close()
	m.pool.Close()
}

// Do sends a statement to where the rows are.
func (m *Machine) Do(ctx context.Context, sql string, args ...any) error {
	if _, err := m.rows.ExecContext(ctx, sql, args...); err != nil {
		return fmt.Errorf("%s: %w", sql, err)
	}
	return nil
}

// Many lets send put one statement with the values of many rows.
func (m *Machine) Many(ctx context.Context, sql string, send func(do func(args ...any) error) error) error {
	st, err := m.rows.PrepareContext(ctx, sql)
	if err != nil {
		return fmt.Errorf("%s: %w", sql, err)
	}
	defer st.Close()
	return send(func(args ...any) error {
		_, err := st.ExecContext(ctx, args...)
		return err
	})
}

// Count asks for one number.
func (m *Machine) Count(ctx context.Context, sql string, args ...any) (int64, error) {
	var n int64
	if err := m.rows.QueryRowContext(ctx, sql, args...).Scan(&n); err != nil {
		return 0, fmt.Errorf("%s: %w", sql, err)
	}
	return n, nil
}

// show brings the views up to date.
func (m *Machine) show(ctx context.Context) error {
	if m.shown {
		return nil
	}
	for ref := range m.views {
		if err := m.Do(ctx, "DELETE FROM "+stored(ref)); err != nil {
			return err
		}
	}
	into := map[string]*sql.Stmt{}
	defer func() {
		for _, st := range into {
			st.Close()
		}
	}()
	err := m.kind.Show(ctx, func(view string, values ...any) error {
		st := into[view]
		if st == nil {
			schema, name, _ := strings.Cut(view, ".")
			var err error
			if st, err = m.rows.PrepareContext(ctx, fmt.Sprintf("INSERT INTO %s VALUES (?%s)", stored(catalog.Ref{Schema: schema, Table: name}), strings.Repeat(", ?", len(values)-1))); err != nil {
				return err
			}
			into[view] = st
		}
		_, err := st.ExecContext(ctx, values...)
		return err
	})
	m.shown = err == nil
	return err
}

// View returns the view of that name, or nil.
func (m *Machine) View(ref catalog.Ref) *catalog.View {
	if s := m.Catalog.Schema(ref.Schema); s != nil {
		for _, v := range s.Views {
			if v.Name == ref.Table {
				return v
			}
		}
	}
	return nil
}

// relation reports whether a query can read from it.
func (m *Machine) relation(ref catalog.Ref) bool {
	return m.views[ref] || m.Catalog.Table(ref) != nil || m.View(ref) != nil
}

// Quote writes a name as SQLite reads it.
func Quote(name string) string { return `"` + strings.ReplaceAll(name, `"`, `""`) + `"` }

func quotes(names []string) string { return sqllex.Each(names, Quote, ", ") }

func literal(text string) string { return "'" + strings.ReplaceAll(text, "'", "''") + "'" }

// stored is the name of a table where the rows are: no two tables have the same.
func stored(r catalog.Ref) string {
	return Quote(strings.ReplaceAll(r.Schema, ".", "..") + "." + strings.ReplaceAll(r.Table, ".", ".."))
}

// Stored is that name, for those who count its rows.
func (m *Machine) Stored(r catalog.Ref) string { return stored(r) }

// Each hands every row of an answer to take.
func (m *Machine) Each(ctx context.Context, sql string, take func(row []any)) error {
	found, err := m.rows.QueryContext(ctx, sql)
	if err != nil {
		return fmt.Errorf("%s: %w", sql, err)
	}
	defer found.Close()
	a, err := read(found)
	if err != nil {
		return err
	}
	for _, row := range a.Rows {
		take(row)
	}
	return nil
}

// Kind is what makes it the system that it is.
func (m *Machine) Kind() Kind { return m.kind }

// Number is what functions know the machine by.
func (m *Machine) Number() int { return m.id }
