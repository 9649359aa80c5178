package oracle

import (
	"fmt"
	"strings"
	"testing"
)

// TestRefuses: the dictionary refuses what the real one refuses, by its numbers, and takes what
// stands beside it (https://docs.oracle.com/en/error-help/db/).
func TestRefuses(t *testing.T) {
	t.Parallel()
	const made = `WHENEVER SQLERROR EXIT FAILURE
CREATE TABLE station (id NUMBER(9) CONSTRAINT station_pk PRIMARY KEY, code VARCHAR2(8 CHAR) NOT NULL, height NUMBER(5) CONSTRAINT above CHECK (height > 0), CONSTRAINT station_code UNIQUE (code));
CREATE TABLE gauge (id NUMBER(9) NOT NULL, station_id NUMBER(9), kind VARCHAR2(3 CHAR), lines NUMBER(9), CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id));
CREATE INDEX gauge_kind ON gauge (kind);
CREATE SEQUENCE gauge_no;
CREATE TABLE reading (id NUMBER(9) NOT NULL, taken NUMBER(9) NOT NULL) PARTITION BY RANGE (taken) (PARTITION low VALUES LESS THAN (10), PARTITION high VALUES LESS THAN (20));
INSERT INTO station VALUES (1, 'a', 5);
INSERT INTO gauge VALUES (1, 1, 'x', 7);
INSERT INTO gauge VALUES (2, NULL, 'x', NULL);
`
	for _, x := range []struct {
		code      int
		statement string
	}{
		{1, "INSERT INTO station VALUES (1, 'b', 5)"},
		{1, "INSERT INTO station VALUES (2, 'a', 5)"},
		{0, "INSERT INTO station VALUES (2, 'b', 5)"},
		{1400, "INSERT INTO station VALUES (2, NULL, 5)"},
		{2290, "INSERT INTO station VALUES (2, 'b', 0)"},
		{2291, "INSERT INTO gauge VALUES (3, 9, 'x', 1)"},
		{0, "INSERT INTO gauge VALUES (3, NULL, 'x', 1)"},
		{2292, "DELETE FROM station WHERE id = 1"},
		{0, "INSERT INTO reading VALUES (1, 19)"},
		{942, "DROP TABLE nothing"},
		{942, "ALTER TABLE nothing ADD x NUMBER(1)"},
		{955, "CREATE TABLE gauge (id NUMBER(9))"},
		{955, "CREATE SEQUENCE gauge_no"},
		{2289, "DROP SEQUENCE nothing"},
		{1418, "DROP INDEX nothing"},
		{2429, "DROP INDEX station_pk"},
		{0, "DROP INDEX gauge_kind"},
		{1408, "CREATE INDEX again ON gauge (kind)"},
		{0, "CREATE INDEX again ON gauge (kind, id)"},
		{904, "CREATE INDEX again ON gauge (nothing)"},
		{2260, "ALTER TABLE station ADD CONSTRAINT again PRIMARY KEY (code)"},
		{2261, "ALTER TABLE station ADD CONSTRAINT again UNIQUE (id)"},
		{2264, "ALTER TABLE gauge ADD CONSTRAINT station_code CHECK (id > 0)"},
		{2273, "ALTER TABLE station DROP CONSTRAINT station_pk"},
		{0, "ALTER TABLE station DROP CONSTRAINT station_code"},
		{2443, "ALTER TABLE station DROP CONSTRAINT nothing"},
		{2449, "DROP TABLE station"},
		{2270, "ALTER TABLE gauge ADD CONSTRAINT again FOREIGN KEY (kind) REFERENCES reading (id)"},
		{2267, "ALTER TABLE gauge ADD CONSTRAINT again FOREIGN KEY (kind) REFERENCES station (id)"},
		{2275, "ALTER TABLE gauge ADD CONSTRAINT again FOREIGN KEY (station_id) REFERENCES station (id)"},
		{2298, "ALTER TABLE gauge ADD CONSTRAINT again FOREIGN KEY (lines) REFERENCES station (id)"},
		{0, "ALTER TABLE gauge ADD CONSTRAINT again FOREIGN KEY (lines) REFERENCES station (id) ENABLE NOVALIDATE"},
		{2293, "ALTER TABLE gauge ADD CONSTRAINT again CHECK (lines > 7)"},
		{0, "ALTER TABLE gauge ADD CONSTRAINT again CHECK (lines > 6)"},
		{2437, "DROP INDEX gauge_kind;\nALTER TABLE gauge ADD CONSTRAINT again PRIMARY KEY (kind)"},
		{2299, "DROP INDEX gauge_kind;\nALTER TABLE gauge ADD CONSTRAINT again UNIQUE (kind)"},
		{0, "ALTER TABLE gauge ADD CONSTRAINT again PRIMARY KEY (id)"},
		{2296, "ALTER TABLE gauge MODIFY lines NOT NULL"},
		{0, "ALTER TABLE gauge MODIFY kind NOT NULL"},
		{1442, "ALTER TABLE gauge MODIFY id NOT NULL"},
		{1451, "ALTER TABLE gauge MODIFY kind NULL"},
		{1430, "ALTER TABLE gauge ADD kind NUMBER(9)"},
		{1758, "ALTER TABLE gauge ADD more NUMBER(9) NOT NULL"},
		{0, "ALTER TABLE gauge ADD more NUMBER(9) DEFAULT 1 NOT NULL"},
		{1439, "ALTER TABLE gauge MODIFY kind NUMBER(9)"},
		{0, "ALTER TABLE gauge MODIFY kind VARCHAR2(9 CHAR)"},
		{12992, "ALTER TABLE station DROP COLUMN id"},
		{0, "ALTER TABLE gauge DROP COLUMN kind"},
		{972, "CREATE TABLE " + strings.Repeat("n", 129) + " (id NUMBER(9))"},
		{0, "CREATE TABLE " + strings.Repeat("n", 128) + " (id NUMBER(9))"},
		{14074, "ALTER TABLE reading ADD PARTITION more VALUES LESS THAN (15)"},
		{0, "ALTER TABLE reading ADD PARTITION more VALUES LESS THAN (30)"},
		{14013, "ALTER TABLE reading ADD PARTITION high VALUES LESS THAN (30)"},
		{2149, "ALTER TABLE reading DROP PARTITION nothing"},
		{14501, "ALTER TABLE gauge ADD PARTITION more VALUES LESS THAN (30)"},
	} {
		d, err := New(Standard, "SALTDB", "MAIN")
		if err != nil {
			t.Fatal(err)
		}
		out, err := d.As("MAIN", true).Run(t.Context(), made+x.statement+";\n")
		d.Close()
		says := fmt.Sprint(err) + out
		switch {
		case x.code == 0 && (err != nil || strings.Contains(out, "ORA-")):
			t.Errorf("%s is refused: %s", x.statement, says)
		case x.code != 0 && !strings.Contains(says, fmt.Sprintf("ORA-%05d", x.code)):
			t.Errorf("%s: not ORA-%05d: %s", x.statement, x.code, says)
		}
	}
}
