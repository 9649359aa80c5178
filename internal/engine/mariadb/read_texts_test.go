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

	"nexdal/internal/catalog"
	"nexdal/internal/engine/mariadb/traits"
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
			family := traits.MariaDB
			family.Several = func(statements []string) (string, bool) { return strings.Join(statements, ";"), false }
			r := &reader{Family: &family, answers: &live{ctx: context.Background(), conn: conn, family: &family}}
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

// TestDeclared: what stands in a comment that is code is read, and what nobody knows there is
// a gap (https://dev.mysql.com/doc/refman/8.4/en/show-create-table.html).
func TestDeclared(t *testing.T) {
	family := traits.MariaDB
	family.Unused = "INVISIBLE"
	for _, c := range []struct{ name, text, gap string }{
		{"plain", "CREATE TABLE `t` (`a` int DEFAULT NULL, KEY `x` (`a`)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_0900_ai_ci", ""},
		{"known", "CREATE TABLE `t` (`a` int NOT NULL /*!80023 INVISIBLE */, KEY `x` (`a`) /*!80000 INVISIBLE */, CONSTRAINT `c` CHECK ((`a` > 0)) /*!80016 NOT ENFORCED */)\n/*!50100 PARTITION BY HASH (`a`)\nPARTITIONS 2 */", ""},
		{"place", "CREATE TABLE `t` (`a` point NOT NULL /*!80003 SRID 4326 */)", "column a"},
		{"column format", "CREATE TABLE `t` (`a` int /*!50606 COLUMN_FORMAT DYNAMIC */ DEFAULT NULL)", "column a"},
		{"tablespace", "CREATE TABLE `t` (`a` int) /*!50100 TABLESPACE `fast` */ ENGINE=InnoDB", "option TABLESPACE"},
		{"plain comment", "CREATE TABLE `t` (`a` int /* SRID 4326 */)", ""},
	} {
		table := &catalog.Table{Name: "t", Columns: []*catalog.Column{{Name: "a"}}, Indexes: []*catalog.Index{{Name: "x"}}}
		r := &reader{Family: &family, catalog: &catalog.Catalog{}}
		r.declared(table, c.text)
		got := ""
		for _, g := range r.catalog.Gaps {
			got += g.What
		}
		if got != c.gap {
			t.Errorf("%s: the gap is %q, and not %q", c.name, got, c.gap)
		}
		if storage := table.Indexes[0].Storage; storage != "" {
			t.Errorf("%s: the index is said to have the options %q", c.name, storage)
		}
	}
}
