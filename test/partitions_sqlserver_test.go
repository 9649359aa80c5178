package test

import (
	"fmt"
	"path/filepath"
	"strings"
	"testing"

	"nexdal/internal/standin/sqlserver"
	"nexdal/test/server"
)

// TestPartitionsSQLServer cuts plain tables up, of every way in which rows can lie, and back: by the
// server's own views they are what they were, and no row is lost.
func TestPartitionsSQLServer(t *testing.T) {
	t.Parallel()
	for _, edition := range []sqlserver.Edition{sqlserver.Developer, sqlserver.Standard} {
		t.Run(edition.Name, func(t *testing.T) {
			s := server.StartSQLServer(t, edition)
			for name, c := range map[string]struct {
				table, says string
			}{
				"clustered key":      {"CREATE TABLE reading (id int NOT NULL, taken_at datetime2(0) NOT NULL, mm int, CONSTRAINT reading_pk PRIMARY KEY (id, taken_at)); CREATE INDEX reading_mm ON reading (mm) INCLUDE (id) WITH (FILLFACTOR = 80)", "CREATE UNIQUE CLUSTERED INDEX reading_pk ON dbo.reading"},
				"key without it":     {"CREATE TABLE reading (id int NOT NULL CONSTRAINT reading_pk PRIMARY KEY, taken_at date NOT NULL, mm int); CREATE INDEX reading_mm ON reading (mm) WHERE mm > 3", `ADD CONSTRAINT reading_pk PRIMARY KEY CLUSTERED \(id, taken_at\)`},
				"heap":               {"CREATE TABLE reading (id int NOT NULL, taken_at date NOT NULL, mm int)", `(?s)CREATE CLUSTERED INDEX nexdal_passing.*DROP INDEX nexdal_passing`},
				"heap with a key":    {"CREATE TABLE reading (id int NOT NULL, taken_at date NOT NULL, mm int, CONSTRAINT reading_pk PRIMARY KEY NONCLUSTERED (id, taken_at)); CREATE UNIQUE INDEX reading_mm ON reading (taken_at, mm)", `CREATE UNIQUE NONCLUSTERED INDEX reading_pk`},
				"heap, key to alter": {"CREATE TABLE reading (id int NOT NULL CONSTRAINT reading_pk PRIMARY KEY NONCLUSTERED, taken_at date NOT NULL, mm int)", `PRIMARY KEY NONCLUSTERED \(id, taken_at\)`},
				"clustered index":    {"CREATE TABLE reading (id int NOT NULL, taken_at date, mm int); CREATE CLUSTERED INDEX reading_mm ON reading (mm, id) WITH (DATA_COMPRESSION = PAGE)", "CREATE CLUSTERED INDEX reading_mm"},
				"compressed heap":    {"CREATE TABLE reading (id int NOT NULL, taken_at date NOT NULL, mm int) WITH (DATA_COMPRESSION = ROW)", `nexdal_passing .*DATA_COMPRESSION = ROW`},
				"hard names":         {"CREATE TABLE reading (id int NOT NULL CONSTRAINT [p]]k] PRIMARY KEY, taken_at date NOT NULL, mm int); CREATE INDEX [i d;x] ON reading (mm)", `ADD CONSTRAINT \[p\]\]k\] PRIMARY KEY`},
			} {
				t.Run(name, func(t *testing.T) {
					db, folder := s.Database(t), t.TempDir()
					query := func(sql string) string {
						t.Helper()
						out, err := s.Run(db, sql)
						if err != nil {
							t.Fatal(out)
						}
						return strings.Join(strings.Fields(out), " ")
					}
					query(c.table)
					var rows []string
					for i := range 90 {
						rows = append(rows, fmt.Sprintf("(%d, '2024-%02d-%02d', %d)", i, i%4+1, i%27+2, i*7919%400))
					}
					query("INSERT INTO reading VALUES " + strings.Join(rows, ", "))
					sum := func() string { return query("SELECT count(*), sum(id), sum(mm), min(taken_at) FROM reading") }
					parts := func() string {
						return query("SELECT p.rows FROM sys.partitions p JOIN sys.objects o ON o.object_id = p.object_id WHERE o.name = 'reading' AND p.index_id < 2 ORDER BY p.partition_number")
					}
					carry := func(name string) {
						t.Helper()
						match(t, name, must(t, folder, "run", name, "--on", s.URL(db), "--yes"), "the structure is the one that was planned; nothing else has moved")
						if name = strings.TrimSuffix(name, ".sql") + "|"; sum() == "" {
							t.Error(name)
						}
					}
					before, held := s.Dump(t, db), sum()
					r := nexdal(t, folder, "script", "partitions", s.URL(db), "reading", "--by", "taken_at", "--every", "month", "--first-ends", "2024-02-01", "--until", "2024-05-01", "-o", "cut.sql")
					match(t, "the rows of each period", r.err, `from 2024-01-01  23 rows\n  from 2024-02-01  23 rows\n  from 2024-03-01  22 rows`)
					match(t, "the script", read(t, filepath.Join(folder, "cut.sql")), c.says)
					carry("cut.sql")
					if got := parts(); got != "23 23 22 22 0" || sum() != held {
						t.Errorf("rows by partition: %s, in all %s, before %s", got, sum(), held)
					}
					if out := query("SELECT ds.name FROM sys.indexes i JOIN sys.objects o ON o.object_id = i.object_id JOIN sys.data_spaces ds ON ds.data_space_id = i.data_space_id WHERE o.name = 'reading' AND ds.type <> 'PS'"); out != "" {
						t.Errorf("not all lies on the scheme: %s", out)
					}
					cut := s.Dump(t, db)
					must(t, folder, "script", "partitions", s.URL(db), "reading", "--until", "2024-08-01", "-o", "ahead.sql")
					carry("ahead.sql")
					query("INSERT INTO reading VALUES (1000, '2024-06-15', 1), (1001, '2024-12-24', 1)")
					if got := parts(); got != "23 23 22 22 0 1 0 1" {
						t.Errorf("rows by partition: %s", got)
					}
					must(t, folder, "script", "partitions", s.URL(db), "reading", "--empty-rest", "-o", "rest.sql")
					carry("rest.sql")
					if got := parts(); got != "23 23 22 22 0 1 0 0 0 0 0 1 0" {
						t.Errorf("rows by partition: %s", got)
					}
					carry("rest.reversal.sql")
					carry("ahead.reversal.sql")
					if now := s.Dump(t, db); now != cut || parts() != "23 23 22 22 2" {
						t.Errorf("the parts are %s:\n%s", parts(), changedLines(cut, now))
					}
					carry("cut.reversal.sql")
					query("DELETE FROM reading WHERE id >= 1000")
					if now := s.Dump(t, db); now != before || sum() != held {
						t.Errorf("it is not what it was: %s, was %s\n%s", sum(), held, changedLines(before, now))
					}
				})
			}
		})
	}
}

// TestPartitionsRefusedSQLServer: what cannot be cut up, or not given more parts, and why.
func TestPartitionsRefusedSQLServer(t *testing.T) {
	t.Parallel()
	s := server.StartSQLServer(t, sqlserver.Developer)
	for name, c := range map[string]struct{ sql, says string }{
		"a unique key without it":    {"CREATE TABLE reading (id int NOT NULL, taken_at date NOT NULL, code int CONSTRAINT u UNIQUE)", `unique key u \(code\) does not hold taken_at`},
		"a key that others refer to": {"CREATE TABLE reading (id int NOT NULL CONSTRAINT pk PRIMARY KEY, taken_at date NOT NULL); CREATE TABLE flag (id int CONSTRAINT f REFERENCES reading (id))", "foreign key f of dbo.flag refers to the primary key, which would have to hold taken_at"},
		"a moment in a zone":         {"CREATE TABLE reading (id int NOT NULL, taken_at datetimeoffset NOT NULL)", "taken_at is a datetimeoffset.7.: ranges of time need a day or a moment"},
		"a disabled index":           {"CREATE TABLE reading (id int NOT NULL, taken_at date NOT NULL); CREATE INDEX x ON reading (id); ALTER INDEX x ON reading DISABLE", "index x is disabled, and would be built"},
		"kept by columns":            {"CREATE TABLE reading (id int NOT NULL, taken_at date NOT NULL); CREATE NONCLUSTERED COLUMNSTORE INDEX x ON reading (id)", "index x is of kind columnstore"},
		"a name that is taken":       {"CREATE TABLE reading (id int NOT NULL, taken_at date NOT NULL); CREATE PARTITION FUNCTION reading_by_taken_at (int) AS RANGE LEFT FOR VALUES (1)", "a partition function or scheme called reading_by_taken_at is there already"},
	} {
		t.Run(name, func(t *testing.T) {
			db := s.Database(t)
			if out, err := s.Run(db, c.sql); err != nil {
				t.Fatal(out)
			}
			before := s.Dump(t, db)
			r := nexdal(t, t.TempDir(), "script", "partitions", s.URL(db), "reading", "--by", "taken_at", "--every", "month", "--ahead", "2", "-o", "cut.sql")
			if r.status == 0 {
				t.Errorf("it is written:\n%s", r.out)
			}
			match(t, "why", r.err, c.says)
			if s.Dump(t, db) != before {
				t.Error("something has moved")
			}
		})
	}
	// Own references stay, and rows are still held to them.
	t.Run("references", func(t *testing.T) {
		db, folder := s.Database(t), t.TempDir()
		if out, err := s.Run(db, "CREATE TABLE gauge (id int CONSTRAINT g PRIMARY KEY); CREATE TABLE reading (id int NOT NULL, taken_at date NOT NULL, gauge_id int CONSTRAINT r REFERENCES gauge (id), CONSTRAINT pk PRIMARY KEY (id, taken_at)); CREATE TABLE flag (id int, taken_at date, CONSTRAINT f FOREIGN KEY (id, taken_at) REFERENCES reading (id, taken_at)); INSERT INTO gauge VALUES (1); INSERT INTO reading VALUES (1, '2026-01-01', 1); INSERT INTO flag VALUES (1, '2026-01-01')"); err != nil {
			t.Fatal(out)
		}
		must(t, folder, "script", "partitions", s.URL(db), "reading", "--by", "taken_at", "--every", "year", "--ahead", "2", "-o", "cut.sql")
		must(t, folder, "run", "cut.sql", "--on", s.URL(db), "--yes")
		for sql, says := range map[string]string{"INSERT INTO reading VALUES (2, '2026-01-01', 9)": "547", "DELETE FROM reading": "547", "INSERT INTO reading VALUES (1, '2026-01-01', 1)": "2627"} {
			out, err := s.Run(db, sql)
			if err == nil {
				t.Errorf("%s is taken", sql)
			}
			match(t, sql, out, says)
		}
	})
	// Several filegroups: which of them takes the next part is not told.
	t.Run("filegroups", func(t *testing.T) {
		db := s.Database(t)
		if out, err := s.Run(db, "CREATE PARTITION FUNCTION f (date) AS RANGE RIGHT FOR VALUES ('2024-01-01', '2025-01-01', '2026-01-01'); CREATE PARTITION SCHEME a AS PARTITION f ALL TO ([PRIMARY]); CREATE PARTITION SCHEME b AS PARTITION f TO ([PRIMARY], [PRIMARY], [PRIMARY], [PRIMARY]); CREATE TABLE reading (taken_at date NOT NULL) ON a(taken_at); CREATE TABLE visit (on_day date NOT NULL) ON b(on_day)"); err != nil {
			t.Fatal(out)
		}
		folder := t.TempDir()
		must(t, folder, "script", "partitions", s.URL(db), "reading", "--until", "2028-01-01", "-o", "ahead.sql")
		match(t, "the script", read(t, filepath.Join(folder, "ahead.sql")), `(?s)ALTER PARTITION SCHEME a NEXT USED \[PRIMARY\];\s+GO\s+ALTER PARTITION SCHEME b NEXT USED \[PRIMARY\];\s+GO\s+ALTER PARTITION FUNCTION f\(\) SPLIT RANGE \('2027-01-01'\)`)
		match(t, "the run", must(t, folder, "run", "ahead.sql", "--on", s.URL(db), "--yes"), "nothing else has moved")
		match(t, "the other table", must(t, folder, "describe", s.URL(db), "visit"), `2028-01-01`)
	})
}
