package sqlite

import (
	"context"
	"database/sql"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"time"

	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"

	"nexdal/internal/engine"
	"nexdal/internal/engine/trace"
)

// magic begins every database file (https://www.sqlite.org/fileformat.html
// section 1.3).
const magic = "SQLite format 3\x00"

// Owns reports whether a file beginning like this is a SQLite database.
func (Engine) Owns(head []byte) bool { return strings.HasPrefix(string(head), magic) }

// FileURL makes sqlite:path.
func (Engine) FileURL(path string) string { return "sqlite:" + path }

// session is one connection to one file.
type session struct {
	db    *sql.DB
	conn  *sql.Conn
	place string
	// timeout is how long one question about the data may take; 0: the default.
	timeout time.Duration
	// file is the same file, for counting its pages. It is closed after the
	// connection: closing any handle of a file gives up all locks that the
	// process has on it (https://www.sqlite.org/howtocorrupt.html section 2.2).
	file *os.File
	// claim is the file that keeps other runs away, while a run does.
	claim *os.File
}

// Open opens the file, read-only unless told otherwise. It never creates one.
func (e Engine) Open(ctx context.Context, address string, o engine.Options) (engine.Session, error) {
	path := strings.TrimPrefix(strings.TrimPrefix(address, "sqlite:"), "//")
	file, err := inspect(path)
	if err != nil {
		return nil, err
	}
	mode, only := "ro", "&_pragma=query_only(1)"
	if o.Write {
		mode, only = "rw", ""
	}
	wait := o.LockTimeout
	if wait == 0 {
		wait = 5 * time.Second
	}
	s, err := e.connect(ctx, path, file, mode, only, wait, o.Watch)
	if err != nil {
		return nil, err
	}
	s.timeout = o.StatementTimeout
	return s, nil
}

func (Engine) connect(ctx context.Context, path string, file *os.File, mode, only string, wait time.Duration, watch engine.Watch) (*session, error) {
	full, err := filepath.Abs(path)
	if err != nil {
		file.Close()
		return nil, err
	}
	dsn := (&url.URL{Scheme: "file", Path: full}).String() + fmt.Sprintf("?mode=%s&_pragma=busy_timeout(%d)%s", mode, wait.Milliseconds(), only)
	connector, err := sqlite.NewConnector(dsn)
	if err != nil {
		file.Close()
		return nil, &engine.SourceError{Place: path, Kind: engine.ErrUnreachable, Err: err}
	}
	db := trace.Open(connector, watch)
	s := &session{db: db, place: path, file: file}
	if s.conn, err = db.Conn(ctx); err == nil {
		// Reads the head alone; the schema is parsed once it is asked for.
		_, err = s.conn.ExecContext(ctx, "PRAGMA schema_version")
	}
	if err != nil {
		db.Close()
		file.Close()
		return nil, s.wrap(err)
	}
	return s, nil
}

// inspect looks at the file before the engine does, for plainer errors: the
// engine would make a missing file, and notice a cut one only on the way.
func inspect(path string) (f *os.File, err error) {
	f, err = os.Open(path)
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return nil, &engine.SourceError{Place: path, Kind: engine.ErrUnreachable, Err: errors.New("no such file"), Hint: "check the path"}
	case err != nil:
		return nil, &engine.SourceError{Place: path, Kind: engine.ErrUnreachable, Err: errors.Unwrap(err), Hint: "check the path and your rights on it"}
	}
	defer func() {
		if err != nil {
			f.Close()
		}
	}()
	info, err := f.Stat()
	if err != nil {
		return nil, &engine.SourceError{Place: path, Kind: engine.ErrUnreachable, Err: err}
	}
	if info.IsDir() {
		return nil, &engine.SourceError{Place: path, Kind: engine.ErrNotDatabase, Err: errors.New("it is a folder"), Hint: "name the file in it"}
	}
	head := make([]byte, 100)
	n, err := io.ReadFull(f, head)
	if !(Engine{}).Owns(head[:n]) {
		why := "it does not begin like one"
		if n == 0 {
			why = "it is empty"
		}
		return nil, &engine.SourceError{Place: path, Kind: engine.ErrNotDatabase, Err: errors.New(why), Hint: "name a SQLite file or a survey file"}
	}
	if err != nil {
		return nil, cut(path, 0, info.Size())
	}
	page := pageSize(head)
	pages := int64(binary.BigEndian.Uint32(head[28:]))
	// The page count holds only if it was written by the last writer too.
	current := binary.BigEndian.Uint32(head[24:]) == binary.BigEndian.Uint32(head[92:])
	if _, err := os.Stat(path + "-wal"); err != nil && current && pages*page > info.Size() {
		return nil, cut(path, pages*page, info.Size())
	}
	return f, nil
}

func cut(path string, want, have int64) error {
	why := fmt.Errorf("it ends after %d bytes", have)
	if want > 0 {
		why = fmt.Errorf("it should hold %d bytes but ends after %d", want, have)
	}
	return &engine.SourceError{Place: path, Kind: engine.ErrDamaged, Err: why, Hint: "take a whole copy, or restore it from a backup"}
}

// wrap turns the driver's errors into sentences.
func (s *session) wrap(err error) error {
	if err == nil || errors.Is(err, context.Canceled) || errors.Is(err, context.DeadlineExceeded) {
		return err
	}
	e := &engine.SourceError{Place: s.place, Err: err}
	var said *sqlite.Error
	if errors.As(err, &said) {
		switch said.Code() & 0xff {
		case sqlite3.SQLITE_NOTADB:
			e.Kind, e.Hint = engine.ErrNotDatabase, "it may be encrypted, or not be a SQLite file at all"
		case sqlite3.SQLITE_CORRUPT:
			e.Kind, e.Hint = engine.ErrDamaged, "restore it from a backup"
		case sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED:
			e.Kind, e.Hint = engine.ErrBusy, "try again when the writer is done"
		case sqlite3.SQLITE_CANTOPEN, sqlite3.SQLITE_READONLY, sqlite3.SQLITE_PERM, sqlite3.SQLITE_AUTH:
			e.Kind, e.Hint = engine.ErrUnreachable, "check your rights on the file and its folder, and whether a writer left a journal behind"
		}
	}
	return e
}

// Place is the path as it was given.
func (s *session) Place() string { return s.place }

// Close ends the session.
func (s *session) Close() error {
	s.release()
	s.conn.Close()
	err := s.db.Close()
	s.file.Close()
	return err
}

// ClientLine is a call of the engine's shell.
func (Engine) ClientLine(address, file string) string {
	path := strings.TrimPrefix(address, "sqlite:")
	if path == "" {
		path = "DATABASE"
	}
	return fmt.Sprintf("sqlite3 %s < %s", path, file)
}

// Build makes a new database file.
func (e Engine) Build(ctx context.Context, address, schema string) (engine.Loader, string, error) {
	path := strings.TrimPrefix(address, "sqlite:")
	f, err := os.OpenFile(path, os.O_CREATE|os.O_EXCL|os.O_RDWR, 0o644)
	if err != nil {
		return nil, "", &engine.SourceError{Place: path, Err: errors.Unwrap(err), Hint: "name a file that does not exist yet"}
	}
	s, err := e.connect(ctx, path, f, "rw", "", 5*time.Second, nil)
	if err == nil {
		// What fails is thrown away whole, so that nothing need be kept to go back by.
		err = s.Exec(ctx, "PRAGMA journal_mode = OFF; PRAGMA synchronous = OFF; PRAGMA temp_store = MEMORY; BEGIN")
	}
	if err != nil {
		return nil, "", err
	}
	return s, "main", nil
}

// Discard removes the file that Build made.
func (Engine) Discard(_ context.Context, address, _ string) error {
	return os.Remove(strings.TrimPrefix(address, "sqlite:"))
}
