package mariadb

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"errors"
	"io"
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/go-sql-driver/mysql"
)

// TestShown: of a server that stops at the first statement that it refuses, every text that it
// shows is read; a server that is lost is not one that shows nothing.
func TestShown(t *testing.T) {
	lost, late := errors.New("connection reset"), &mysql.MySQLError{Number: 3024, Message: "maximum statement execution time exceeded"}
	noTable := &mysql.MySQLError{Number: 1146, Message: "no such table"}
	all := []string{"alert", "gauge", "keeper", "visit"}
	for _, c := range []struct {
		name  string
		hurt  map[string]error
		shown []string
		fails error
	}{
		{"each", nil, all, nil},
		{"the first refused", map[string]error{"alert": noTable}, []string{"gauge", "keeper", "visit"}, nil},
		{"two refused", map[string]error{"gauge": noTable, "keeper": noTable}, []string{"alert", "visit"}, nil},
		{"all refused", map[string]error{"alert": noTable, "gauge": noTable, "keeper": noTable, "visit": noTable}, nil, nil},
		{"lost", map[string]error{"keeper": lost}, []string{"alert", "gauge"}, lost},
		{"lost behind one that is refused", map[string]error{"alert": noTable, "keeper": lost}, []string{"gauge"}, lost},
		{"too late", map[string]error{"alert": late}, nil, late},
	} {
		t.Run(c.name, func(t *testing.T) {
			db := sql.OpenDB(showing(c.hurt))
			defer db.Close()
			conn, err := db.Conn(context.Background())
			if err != nil {
				t.Fatal(err)
			}
			family := mariaDB
			family.Several = func(statements []string) (string, bool) { return strings.Join(statements, ";"), false }
			r := &reader{Family: &family, ctx: context.Background(), conn: conn}
			got := slices.Sorted(maps.Keys(r.shown("TABLE", "saltmere", all)))
			if !errors.Is(r.err, c.fails) {
				t.Errorf("fails by %v, and not by %v", r.err, c.fails)
			}
			if !slices.Equal(got, c.shown) {
				t.Errorf("shown: %v, and not %v", got, c.shown)
			}
		})
	}
}

// showing is a server that answers SHOW CREATE TABLE, of several up to the first that hurts.
type showing map[string]error

func (s showing) Connect(context.Context) (driver.Conn, error) { return s, nil }
func (s showing) Driver() driver.Driver                        { return nil }
func (s showing) Prepare(string) (driver.Stmt, error)          { return nil, driver.ErrSkip }
func (s showing) Begin() (driver.Tx, error)                    { return nil, driver.ErrSkip }
func (s showing) Close() error                                 { return nil }

func (s showing) QueryContext(_ context.Context, query string, _ []driver.NamedValue) (driver.Rows, error) {
	a := &answer{server: s, asked: strings.Split(query, ";")}
	return a, a.NextResultSet()
}

type answer struct {
	server showing
	asked  []string
	table  string
	read   bool
}

func (a *answer) Columns() []string { return []string{"Table", "Create Table"} }
func (a *answer) Close() error      { return nil }

func (a *answer) Next(row []driver.Value) error {
	if a.read {
		return io.EOF
	}
	row[0], row[1], a.read = a.table, "CREATE TABLE "+a.table, true
	return nil
}

func (a *answer) HasNextResultSet() bool { return len(a.asked) > 0 }

func (a *answer) NextResultSet() error {
	_, quoted, _ := strings.Cut(a.asked[0], ".")
	a.table, a.asked, a.read = strings.Trim(quoted, "`"), a.asked[1:], false
	return a.server[a.table]
}
