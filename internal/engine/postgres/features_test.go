package postgres_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/engine/postgres"
	"nexdal/test/server"
)

func TestMain(m *testing.M) { server.Main(m) }

// TestFeatures sends a statement for each feature: the server takes it just where the
// feature is said to be, and where it is not, the statement is known to need it.
func TestFeatures(t *testing.T) {
	p := server.StartPostgres(t)
	version := fmt.Sprintf("%d.1", p.Major())
	statements := map[string]string{
		"gen_random_uuid":                     `SELECT gen_random_uuid()`,
		"ALTER STATISTICS ... SET STATISTICS": `CREATE STATISTICS s ON a, b FROM t; ALTER STATISTICS s SET STATISTICS 5`,
		"COMPRESSION":                         `ALTER TABLE t ALTER COLUMN c SET COMPRESSION pglz`,
		"BEGIN ATOMIC":                        `CREATE FUNCTION one() RETURNS int LANGUAGE sql BEGIN ATOMIC SELECT 1; END`,
		"MULTIRANGE_TYPE_NAME":                `CREATE TYPE span AS RANGE (SUBTYPE = float8, MULTIRANGE_TYPE_NAME = spans)`,
		"statistics on expressions":           `CREATE STATISTICS x ON a, (lower(c)) FROM t`,
		"NULLS NOT DISTINCT":                  `ALTER TABLE t ADD CONSTRAINT k UNIQUE NULLS NOT DISTINCT (a)`,
		"SET NULL of some columns":            `ALTER TABLE t ADD FOREIGN KEY (a, b) REFERENCES parent ON DELETE SET NULL (a)`,
		"security_invoker":                    `CREATE VIEW v WITH (security_invoker = true) AS SELECT 1 AS one`,
		"NOT VALID for NOT NULL":              `ALTER TABLE t ADD CONSTRAINT "a b" NOT NULL a NOT VALID`,
		"NOT ENFORCED":                        `ALTER TABLE t ADD CHECK (a > 0) NOT ENFORCED`,
		"WITHOUT OVERLAPS":                    `ALTER TABLE u ADD UNIQUE (k, span WITHOUT OVERLAPS)`,
		"PERIOD":                              `CREATE TABLE w (k int4range, span int4range, UNIQUE (k, span WITHOUT OVERLAPS)); CREATE TABLE x (k int4range, span int4range, FOREIGN KEY (k, PERIOD span) REFERENCES w (k, PERIOD span))`,
		"GENERATED ... VIRTUAL":               `CREATE TABLE y (a int, b int GENERATED ALWAYS AS (a * 2) VIRTUAL)`,
		"uuidv7":                              `SELECT uuidv7()`,
	}
	all := postgres.Engine{}.Features("99")
	for name := range statements {
		if !slices.Contains(all, name) {
			t.Errorf("%s is no feature", name)
		}
	}
	has := postgres.Engine{}.Features(version)
	for _, name := range all {
		sql, known := statements[name]
		if !known {
			t.Errorf("%s is not tried", name)
			continue
		}
		database := p.Database(t)
		p.Query(t, database, `CREATE TABLE parent (a int, b int, PRIMARY KEY (a, b)); CREATE TABLE t (a int, b int, c text); CREATE TABLE u (k int4range, span int4range)`)
		err := p.Try(database, sql)
		if taken, said := err == nil, slices.Contains(has, name); taken != said {
			t.Errorf("version %s and %s: taken %v, said to be %v: %v", version, name, taken, said, err)
		}
		lacks := strings.Join(postgres.Engine{}.Lacks(version, strings.Split(sql, "; ")), ", ")
		if strings.Contains(lacks, name) != !slices.Contains(has, name) {
			t.Errorf("version %s, %s: lacks %q", version, sql, lacks)
		}
	}
	if lacks := (postgres.Engine{}).Lacks("12.1", []string{`COMMENT ON TABLE "NOT ENFORCED" IS 'WITHOUT OVERLAPS' -- NULLS NOT DISTINCT`}); lacks != nil {
		t.Errorf("texts, names and comments need %q", lacks)
	}
}
