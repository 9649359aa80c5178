package standin

import (
	"context"
	"database/sql"
	"errors"
	"strings"
	"time"

	"nexdal/internal/catalog"
)

// ErrBusy says that another session was within a transaction for longer than this one waits.
var ErrBusy = errors.New("another session is within a transaction")

// A Session is what one client has of a machine. Whoever is within a transaction has the machine
// alone.
type Session struct {
	Path []string // schemas that names without one are looked for in
	// Fold is what a name without quotes stands for; nil: what is written.
	Fold func(string) string
	Wait time.Duration // how long it waits for others; 0: until they are done
	Of   any           // the client that it belongs to

	m       *Machine
	inside  bool
	before  *catalog.Catalog // as it was when the transaction began
	wear    any
	systems bool // the text reads from the system's own views
}

// Open begins a session.
func (m *Machine) Open(path ...string) *Session { return &Session{m: m, Path: path} }

// Machine is what it is a session of.
func (s *Session) Machine() *Machine { return s.m }

// Inside reports whether a transaction is open.
func (s *Session) Inside() bool { return s.inside }

func (s *Session) lock() error {
	if s.inside {
		return nil
	}
	if s.Wait == 0 {
		s.m.turn <- struct{}{}
		return nil
	}
	select {
	case s.m.turn <- struct{}{}:
		return nil
	case <-time.After(s.Wait):
		return ErrBusy
	}
}

func (s *Session) unlock() {
	if !s.inside {
		<-s.m.turn
	}
}

// Begin opens a transaction.
func (s *Session) Begin(ctx context.Context) error {
	if s.inside {
		return nil
	}
	if err := s.lock(); err != nil {
		return err
	}
	if err := s.m.Do(ctx, "BEGIN"); err != nil {
		<-s.m.turn
		return err
	}
	s.inside, s.before, s.wear = true, s.m.Catalog.Clone(), s.m.kind.Wear()
	return nil
}

// End closes it, and keeps what it did or not.
func (s *Session) End(ctx context.Context, keep bool) error {
	if !s.inside {
		return nil
	}
	err := s.m.Do(ctx, map[bool]string{true: "COMMIT", false: "ROLLBACK"}[keep])
	if !keep || err != nil {
		s.m.Catalog, s.m.shown = s.before, false
		s.m.kind.Rewear(s.wear)
	}
	s.inside, s.before, s.wear = false, nil, nil
	<-s.m.turn
	return err
}

// Alter lets do alter the structure: whole, or not at all.
func (s *Session) Alter(ctx context.Context, do func() error) error {
	if err := s.lock(); err != nil {
		return err
	}
	defer s.unlock()
	before, wear := s.m.Catalog.Clone(), s.m.kind.Wear()
	if err := s.m.Do(ctx, "SAVEPOINT statement"); err != nil {
		return err
	}
	s.m.shown = false
	err := do()
	if err != nil {
		s.m.Catalog = before
		s.m.kind.Rewear(wear)
		err = errors.Join(err, s.m.Do(ctx, "ROLLBACK TO statement"))
		if joined, ok := err.(interface{ Unwrap() []error }); ok && len(joined.Unwrap()) == 1 {
			err = joined.Unwrap()[0]
		}
	}
	if end := s.m.Do(ctx, "RELEASE statement"); err == nil {
		err = end
	}
	return err
}

// An Answer is what a query gave.
type Answer struct {
	Names []string
	Types []string // as SQLite has them declared; "" of what is computed
	Rows  [][]any
}

// Query asks.
func (s *Session) Query(ctx context.Context, text string, args ...any) (*Answer, error) {
	if err := s.lock(); err != nil {
		return nil, err
	}
	defer s.unlock()
	return s.Ask(ctx, text, args...)
}

// Ask is Query of one who has the machine already.
func (s *Session) Ask(ctx context.Context, text string, args ...any) (*Answer, error) {
	s.systems = false
	text = s.readable(text)
	if s.systems {
		if err := s.m.show(ctx); err != nil {
			return nil, err
		}
	}
	found, err := s.m.rows.QueryContext(ctx, text, args...)
	if err != nil {
		return nil, err
	}
	defer found.Close()
	return read(found)
}

func read(found *sql.Rows) (*Answer, error) {
	types, err := found.ColumnTypes()
	if err != nil {
		return nil, err
	}
	a := &Answer{}
	for _, t := range types {
		a.Names, a.Types = append(a.Names, t.Name()), append(a.Types, t.DatabaseTypeName())
	}
	for found.Next() {
		values, into := make([]any, len(types)), make([]any, len(types))
		for i := range values {
			into[i] = &values[i]
		}
		if err := found.Scan(into...); err != nil {
			return nil, err
		}
		a.Rows = append(a.Rows, values)
	}
	return a, found.Err()
}

// Write adds, alters or removes rows of the table, and tells how many.
func (s *Session) Write(ctx context.Context, text string, args ...any) (int64, error) {
	if err := s.lock(); err != nil {
		return 0, err
	}
	defer s.unlock()
	done, err := s.m.rows.ExecContext(ctx, s.readable(text), args...)
	s.m.shown = false // counts are shown too
	if err != nil {
		return 0, err
	}
	return done.RowsAffected()
}

// Peek names the columns of what can be read, without asking for rows. The machine is the
// caller's for the time being.
func (s *Session) Peek(ctx context.Context, ref catalog.Ref) ([]string, error) {
	found, err := s.m.rows.QueryContext(ctx, "SELECT * FROM "+stored(ref)+" LIMIT 0")
	if err != nil {
		return nil, err
	}
	defer found.Close()
	return found.Columns()
}

// Fill adds rows to a table, as they are. The machine is the caller's for the time being.
func (s *Session) Fill(ctx context.Context, ref catalog.Ref, rows [][]any) error {
	for _, row := range rows {
		if err := s.m.Do(ctx, "INSERT INTO "+stored(ref)+" VALUES (?"+strings.Repeat(", ?", len(row)-1)+")", row...); err != nil {
			return err
		}
	}
	return nil
}
