package sqlserver

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"strings"
	"testing"

	mssql "github.com/microsoft/go-mssqldb"
)

// says sends batches and gives the rows of the last that had some, or the number of its error.
func says(t *testing.T, conn *sql.Conn, batches string) string {
	t.Helper()
	out := ""
	for batch := range strings.SplitSeq(batches, "\nGO\n") {
		rows, err := conn.QueryContext(context.Background(), batch)
		if err == nil {
			var names []string
			for more := true; more; more = rows.NextResultSet() {
				if names, err = rows.Columns(); err != nil || len(names) == 0 {
					continue
				}
				out = ""
				for rows.Next() {
					values, into := make([]any, len(names)), make([]any, len(names))
					for i := range values {
						into[i] = &values[i]
					}
					if err := rows.Scan(into...); err != nil {
						t.Fatal(err)
					}
					for i, v := range values {
						if i > 0 {
							out += "|"
						}
						if v != nil {
							out += fmt.Sprint(v)
						}
					}
					out += "\n"
				}
			}
			err = rows.Err()
			rows.Close()
		}
		if err != nil {
			var said mssql.Error
			if errors.As(err, &said) {
				return fmt.Sprintf("%d: %s", said.Number, said.Message)
			}
			return err.Error()
		}
	}
	return strings.TrimSuffix(out, "\n")
}

func start(t *testing.T) (*Server, *sql.Conn) {
	t.Helper()
	s, err := Start("Saltmere", Developer)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(s.Close)
	db, err := sql.Open("sqlserver", s.URL("Saltmere"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { db.Close() })
	conn, err := db.Conn(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	return s, conn
}

const stations = `CREATE TABLE dbo.station (id int IDENTITY(10,5) NOT NULL CONSTRAINT pk_station PRIMARY KEY, code nvarchar(8) NOT NULL CONSTRAINT uq_station UNIQUE, note nvarchar(20) NULL, height decimal(6,2) NULL CONSTRAINT df_height DEFAULT 1.5)
GO
CREATE TABLE dbo.gauge (id int NOT NULL CONSTRAINT pk_gauge PRIMARY KEY, station_id int NULL CONSTRAINT fk_gauge REFERENCES dbo.station (id), kind char(1) NOT NULL CONSTRAINT ck_kind CHECK (kind IN ('a', 'b')), at datetime2(0) NULL)
GO
INSERT INTO dbo.station (code) VALUES (N'a'), (N'b')
GO
INSERT INTO dbo.gauge VALUES (1, 10, 'a', '2026-01-02T03:04:05'), (2, 15, 'b', NULL)
GO
`

// TestServer: what the server keeps and refuses, with the numbers of the manual.
func TestServer(t *testing.T) {
	for _, x := range []struct{ sql, says string }{
		{"SELECT @@VERSION AS v", "Microsoft SQL Server 2022 (simulated by Nexdal)"},
		{"SELECT id, code, height FROM dbo.station ORDER BY id", "10|a|1.5\n15|b|1.5"},
		{"SELECT TOP (1) s.code, g.at FROM dbo.gauge g JOIN station AS s ON s.id = g.station_id ORDER BY s.code", "a|2026-01-02 03:04:05"},
		{"SELECT [Saltmere].[dbo].[station].[code] FROM [Saltmere].[dbo].[station] WHERE [id] = 10", "a"},
		{"SELECT N'x' + code + N']' AS a, LEN(code + '  ') AS b, ISNULL(note, 'none') AS c FROM dbo.station WHERE id = 10", "xa]|1|none"},
		{"SELECT CAST('12' AS int) + 1 AS a, TRY_CONVERT(int, 'x') AS b, CONVERT(nvarchar(max), 1.5) AS c, TRY_CONVERT(date, '2026-02-30') AS d", "13||1.5|"},
		{"SELECT CONVERT(tinyint, 256) AS a", "50000"},
		// keys, nulls, lengths
		{"INSERT INTO dbo.station (code) VALUES (N'a')", "2627: Violation of UNIQUE KEY constraint 'uq_station'"},
		{"INSERT INTO dbo.station (code) VALUES (NULL)", "515: "}, {"INSERT INTO dbo.station (code) VALUES (N'123456789')", "2628: "},
		{"INSERT INTO dbo.station (id, code) VALUES (1, N'c')", "544: "}, {"SET IDENTITY_INSERT dbo.station ON; INSERT INTO dbo.station (code) VALUES (N'c')", "545: "},
		{"SET IDENTITY_INSERT dbo.station ON; INSERT INTO dbo.station (id, code) VALUES (50, N'c'); SET IDENTITY_INSERT dbo.station OFF; INSERT INTO dbo.station (code) VALUES (N'd'); SELECT max(id) AS m FROM dbo.station", "55"},
		{"INSERT INTO dbo.gauge (id, kind) VALUES (3000000000, 'a')", "8115: "},
		{"CREATE UNIQUE INDEX u ON dbo.gauge (at)\nGO\nINSERT INTO dbo.gauge (id, kind) VALUES (3, 'a')", "2627: "}, // one null alone
		{"CREATE UNIQUE INDEX u ON dbo.gauge (at) WHERE at IS NOT NULL\nGO\nINSERT INTO dbo.gauge (id, kind) VALUES (3, 'a')", ""},
		{"UPDATE dbo.station SET note = N'x'\nGO\nCREATE UNIQUE INDEX u ON dbo.station (note)", "1505: "},
		// references and checks
		{"INSERT INTO dbo.gauge (id, station_id, kind) VALUES (3, 99, 'a')", "547: The INSERT statement conflicted with the FOREIGN KEY constraint \"fk_gauge\""},
		{"DELETE FROM dbo.station WHERE id = 10", "547: The DELETE statement conflicted with the REFERENCE constraint \"fk_gauge\""},
		{"INSERT INTO dbo.gauge (id, kind) VALUES (3, 'c')", "547: The INSERT statement conflicted with the CHECK constraint \"ck_kind\""},
		{"ALTER TABLE dbo.gauge NOCHECK CONSTRAINT fk_gauge\nGO\nINSERT INTO dbo.gauge (id, station_id, kind) VALUES (3, 99, 'a')\nGO\nALTER TABLE dbo.gauge WITH CHECK CHECK CONSTRAINT fk_gauge", "547: The ALTER TABLE statement conflicted"},
		{"ALTER TABLE dbo.gauge NOCHECK CONSTRAINT fk_gauge\nGO\nALTER TABLE dbo.gauge CHECK CONSTRAINT fk_gauge\nGO\nSELECT is_disabled, is_not_trusted FROM sys.foreign_keys", "false|true"},
		{"ALTER TABLE dbo.gauge WITH CHECK ADD CONSTRAINT x CHECK (at > '2026-06-01')", "547: "}, {"ALTER TABLE dbo.gauge WITH NOCHECK ADD CONSTRAINT x CHECK (at > '2026-06-01')\nGO\nSELECT name, is_not_trusted FROM sys.check_constraints ORDER BY name", "ck_kind|false\nx|true"},
		{"ALTER TABLE dbo.gauge ADD CONSTRAINT x FOREIGN KEY (kind) REFERENCES dbo.station (id)", "1778: "}, {"ALTER TABLE dbo.gauge ADD CONSTRAINT x FOREIGN KEY (station_id) REFERENCES dbo.gauge (station_id)", "1776: "},
		{"ALTER TABLE dbo.gauge ADD CONSTRAINT x FOREIGN KEY (id) REFERENCES dbo.gauge (id) ON DELETE CASCADE", "1785: "},
		{"CREATE TABLE a (id int PRIMARY KEY, s int REFERENCES dbo.station (id) ON DELETE CASCADE)\nGO\nCREATE TABLE b (a int REFERENCES a (id) ON DELETE CASCADE, s int REFERENCES dbo.station (id) ON DELETE CASCADE)", "1785: "},
		{"CREATE TABLE a (s int REFERENCES dbo.station (id) ON DELETE CASCADE)\nGO\nDELETE FROM dbo.gauge\nGO\nINSERT INTO a VALUES (10), (15)\nGO\nDELETE FROM dbo.station WHERE id = 10\nGO\nSELECT s FROM a", "15"},
		{"DROP TABLE dbo.station", "3726: "}, {"ALTER TABLE dbo.station DROP CONSTRAINT pk_station", "3725: "}, {"ALTER TABLE dbo.station DROP CONSTRAINT nothing", "3728: "}, {"DROP INDEX uq_station ON dbo.station", "3723: "},
		// columns
		{"ALTER TABLE dbo.station ALTER COLUMN code nvarchar(20) NOT NULL", "5074: The object 'uq_station' is dependent on column 'code'"}, {"ALTER TABLE dbo.station ALTER COLUMN height decimal(8,2) NULL", "5074: The object 'df_height'"},
		{"ALTER TABLE dbo.gauge ALTER COLUMN at datetime2(0) NOT NULL", "515: "}, {"ALTER TABLE dbo.station ADD x int NOT NULL", "4901: "}, {"ALTER TABLE dbo.station ADD id int", "2705: "}, {"ALTER TABLE dbo.station ADD x int IDENTITY", "2744: "},
		{"UPDATE dbo.station SET note = N'12345'\nGO\nALTER TABLE dbo.station ALTER COLUMN note nvarchar(4) NULL", "2628: "}, {"UPDATE dbo.station SET note = N'12'\nGO\nALTER TABLE dbo.station ALTER COLUMN note int NOT NULL\nGO\nSELECT note + 1 AS n FROM dbo.station WHERE id = 10", "13"},
		{"ALTER TABLE dbo.station ADD CONSTRAINT x DEFAULT 2 FOR height", "1781: "}, {"ALTER TABLE dbo.station DROP CONSTRAINT df_height\nGO\nALTER TABLE dbo.station DROP COLUMN height\nGO\nSELECT count(*) AS n FROM sys.columns WHERE object_id = OBJECT_ID(N'dbo.station')", "3"},
		{"ALTER TABLE dbo.station ADD twice AS (id * 2) PERSISTED\nGO\nSELECT max(twice) AS m FROM dbo.station", "30"}, {"ALTER TABLE dbo.station ADD twice AS (id * 2)\nGO\nALTER TABLE dbo.station DROP COLUMN id", "5074: "},
		// indexes
		{"CREATE CLUSTERED INDEX x ON dbo.station (code)", "1902: "}, {"CREATE INDEX x ON dbo.station (nothing)", "1911: "}, {"CREATE TABLE w (a nchar(900))\nGO\nCREATE INDEX x ON w (a)", "1944: "}, {"CREATE TABLE w (a nvarchar(max))\nGO\nCREATE INDEX x ON w (a)", "1919: "},
		{"CREATE INDEX uq_station ON dbo.station (note)", "1913: "}, {"CREATE INDEX x ON dbo.station (note) INCLUDE (height) WITH (FILLFACTOR = 80, ONLINE = ON)\nGO\nSELECT i.fill_factor, c.is_included_column FROM sys.indexes i JOIN sys.index_columns c ON c.object_id = i.object_id AND c.index_id = i.index_id WHERE i.name = 'x' ORDER BY c.index_column_id", "80|false\n80|true"},
		{"ALTER INDEX uq_station ON dbo.station DISABLE\nGO\nSELECT is_disabled FROM sys.indexes WHERE name = 'uq_station'\nGO\nALTER INDEX uq_station ON dbo.station REBUILD\nGO\nSELECT is_disabled FROM sys.indexes WHERE name = 'uq_station'", "false"},
		{"CREATE INDEX x ON dbo.station (note) WITH (DROP_EXISTING = ON)", "7999: "}, {"CREATE INDEX x ON dbo.station (note)\nGO\nCREATE INDEX x ON dbo.station (height, note) WITH (DROP_EXISTING = ON)\nGO\nSELECT count(*) AS n FROM sys.index_columns c JOIN sys.indexes i ON i.object_id = c.object_id AND i.index_id = c.index_id WHERE i.name = 'x'", "2"},
		{"CREATE TABLE w (a int, b int)\nGO\nCREATE CLUSTERED INDEX x ON w (a)\nGO\nCREATE INDEX x ON w (a) WITH (DROP_EXISTING = ON)", "1925: "}, {"CREATE INDEX x ON dbo.gauge (at) WITH (RESUMABLE = ON)", "11438: "},
		{"CREATE INDEX x ON dbo.gauge (at) WITH (ONLINE = ON, RESUMABLE = ON)\nGO\nIF EXISTS (SELECT 1 FROM sys.index_resumable_operations WHERE name = N'x') ALTER INDEX x ON dbo.gauge ABORT\nGO\nSELECT 1 AS n", "1"}, {"BEGIN TRANSACTION\nGO\nCREATE INDEX x ON dbo.gauge (at) WITH (ONLINE = ON, RESUMABLE = ON)", "574: "},
		// transactions
		{"SET XACT_ABORT ON\nGO\nBEGIN TRANSACTION\nGO\nDELETE FROM dbo.gauge\nGO\nALTER TABLE dbo.gauge ADD x int NULL\nGO\nDELETE FROM dbo.nothing", "208: "}, {"COMMIT", "3902: "},
		{"BEGIN TRANSACTION\nGO\nALTER TABLE dbo.gauge DROP CONSTRAINT ck_kind\nGO\nDELETE FROM dbo.gauge\nGO\nROLLBACK\nGO\nSELECT (SELECT count(*) FROM dbo.gauge) AS a, (SELECT count(*) FROM sys.check_constraints) AS b", "2|1"},
		{"BEGIN TRANSACTION\nGO\nIF @@TRANCOUNT > 0 ROLLBACK TRANSACTION\nGO\nSELECT @@TRANCOUNT AS n", "0"},
		// objects
		{"CREATE SCHEMA tide\nGO\nCREATE SEQUENCE tide.s AS int START WITH 7 INCREMENT BY 2\nGO\nCREATE TABLE tide.t (id int NOT NULL DEFAULT (NEXT VALUE FOR tide.s), x int)\nGO\nINSERT INTO tide.t (x) VALUES (1), (2)\nGO\nSELECT max(id) AS m, (SELECT current_value FROM sys.sequences) AS c FROM tide.t", "9|9"},
		{"CREATE VIEW dbo.v WITH SCHEMABINDING AS SELECT s.id, s.code FROM dbo.station s\nGO\nSELECT max(id) AS m FROM dbo.v", "15"}, {"CREATE VIEW dbo.v WITH SCHEMABINDING AS SELECT s.note FROM dbo.station s\nGO\nALTER TABLE dbo.station ALTER COLUMN note nvarchar(40) NULL", "5074: The object 'v'"}, {"CREATE VIEW dbo.v AS SELECT x FROM dbo.station", "207: "},
		{"CREATE TRIGGER dbo.g ON dbo.station AFTER INSERT, UPDATE AS BEGIN SET NOCOUNT ON; DELETE FROM dbo.nothing; END\nGO\nSELECT e.type_desc FROM sys.triggers t JOIN sys.trigger_events e ON e.object_id = t.object_id ORDER BY 1", "INSERT\nUPDATE"}, {"CREATE TRIGGER dbo.g ON dbo.station AFTER INSERT AS SELECT 1\nGO\nINSERT INTO dbo.station (code) VALUES (N'x')", "40517: "},
		{"EXEC sys.sp_addextendedproperty N'MS_Description', N'where it''s kept', N'SCHEMA', N'dbo', N'TABLE', N'station', N'COLUMN', N'code'\nGO\nSELECT minor_id, value FROM sys.extended_properties", "2|where it's kept"},
		{"EXEC sys.sp_rename N'dbo.station.uq_station', N'uq_new', N'INDEX'\nGO\nSELECT name FROM sys.key_constraints WHERE type = 'UQ'", "uq_new"},
		{"DELETE FROM dbo.gauge\nGO\nDELETE FROM dbo.station WHERE id = 15\nGO\nDBCC CHECKIDENT (N'dbo.station', RESEED, 30)\nGO\nINSERT INTO dbo.station (code) VALUES (N'z')\nGO\nSELECT max(id) AS m FROM dbo.station", "35"},
		{"DECLARE @n int = (SELECT max(id) FROM dbo.station) DECLARE @sql nvarchar(max) = N'CREATE SEQUENCE dbo.q START WITH ' + CAST(@n AS nvarchar(20)) EXEC (@sql)\nGO\nSELECT start_value FROM sys.sequences", "15"},
		{"CREATE PARTITION FUNCTION pf (date) AS RANGE RIGHT FOR VALUES ('2026-01-01', '2026-02-01')\nGO\nCREATE PARTITION SCHEME ps AS PARTITION pf ALL TO ([PRIMARY])\nGO\nCREATE TABLE p (d date NOT NULL) ON ps(d)\nGO\nINSERT INTO p VALUES ('2025-12-31'), ('2026-01-01'), ('2026-01-31')\nGO\nSELECT partition_number, rows FROM sys.partitions p JOIN sys.objects o ON o.object_id = p.object_id WHERE o.name = 'p' ORDER BY 1", "1|1\n2|2\n3|0"},
		// what is misspelt or not known
		{"CREATE TABEL x (id int)", "40517: "}, {"CREATE TABLE x (id int", "102: "}, {"CREATE TABLE x (id nonsense)", "2715: "}, {"ALTER TABLE dbo.station ADD CONSTRAINT", "102: "}, {"SELECT * FROM sys.nothing", "208: "}, {"SELECT nonsense(1) AS x", "195: "},
		{"EXEC sys.sp_nothing N'x'", "2812: "}, {"SET NONSENSE ON", "195: "}, {"CREATE INDEX x ON dbo.station (note) WITH (NONSENSE = ON)", "155: "}, {"USE nothing", "911: "}, {"MERGE dbo.station", "40517: "},
	} {
		t.Run("", func(t *testing.T) {
			t.Parallel()
			_, conn := start(t)
			if got := says(t, conn, stations+x.sql); !strings.HasPrefix(got, x.says) || x.says == "" && got != "" {
				t.Errorf("%s\nsays %q, not %q", x.sql, got, x.says)
			}
		})
	}
}

// TestHeld: who is within a transaction has the server alone, and others wait no longer than they
// say; what it did is there, or not at all.
func TestHeld(t *testing.T) {
	s, one := start(t)
	if got := says(t, one, stations+"BEGIN TRANSACTION\nGO\nDELETE FROM dbo.gauge"); got != "" {
		t.Fatal(got)
	}
	db, err := sql.Open("sqlserver", s.URL("Saltmere"))
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	two, err := db.Conn(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	if got := says(t, two, "SET LOCK_TIMEOUT 50\nGO\nSELECT count(*) AS n FROM dbo.gauge"); !strings.HasPrefix(got, "1222: ") {
		t.Errorf("another session reads %q", got)
	}
	one.Raw(func(any) error { return nil })
	one.Close()
	says(t, two, "SET LOCK_TIMEOUT -1")
	if got := says(t, one, "SELECT 1 AS x"); !strings.Contains(got, "closed") {
		t.Errorf("a closed connection says %q", got)
	}
}

// TestLogin: who is nobody, and which database is not there.
func TestLogin(t *testing.T) {
	s, _ := start(t)
	for url, number := range map[string]int32{strings.Replace(s.URL("Saltmere"), "sa@", "nobody:x@", 1): 18456, s.URL("nothing"): 4060} {
		db, err := sql.Open("sqlserver", url)
		if err != nil {
			t.Fatal(err)
		}
		defer db.Close()
		var said mssql.Error
		if err := db.Ping(); !errors.As(err, &said) || said.Number != number {
			t.Errorf("%s: %v", url, err)
		}
	}
}
