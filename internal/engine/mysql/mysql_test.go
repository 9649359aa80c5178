package mysql

import (
	"testing"

	"nexdal/internal/catalog"
)

// TestDefaultOf: how the views show a default, and how a statement writes it.
func TestDefaultOf(t *testing.T) {
	for _, x := range []struct{ value, data, extra, want string }{
		{"5", "int", "", "5"}, {"1.50", "decimal", "", "1.50"}, {"b'101'", "bit", "", "b'101'"}, {"2026", "year", "", "2026"},
		{"5", "varchar", "", "'5'"}, {"it's", "varchar", "", "'it''s'"}, {`a\b`, "char", "", `'a\\b'`}, {"", "text", "", "''"},
		{"NULL", "varchar", "", "'NULL'"}, {"tide", "enum", "", "'tide'"}, {"2026-01-01", "date", "", "'2026-01-01'"},
		{"CURRENT_TIMESTAMP", "datetime", "DEFAULT_GENERATED", "CURRENT_TIMESTAMP"}, {"CURRENT_TIMESTAMP(6)", "timestamp", "DEFAULT_GENERATED on update CURRENT_TIMESTAMP(6)", "CURRENT_TIMESTAMP(6)"},
		{`concat(_utf8mb4\'a\',1)`, "varchar", "DEFAULT_GENERATED", `(concat(_utf8mb4'a',1))`}, {"uuid()", "char", "DEFAULT_GENERATED", "(uuid())"}, {"(1 + 2)", "int", "DEFAULT_GENERATED", "((1 + 2))"},
		{"0x6162", "varbinary", "", "0x6162"}, {"0x6162", "varchar", "", "'0x6162'"},
	} {
		if got := defaultOf(x.value, x.data, x.extra); got != x.want {
			t.Errorf("%s of %s (%s): %s, not %s", x.value, x.data, x.extra, got, x.want)
		}
	}
}

// TestUnescaped: the views escape what stands in an expression.
func TestUnescaped(t *testing.T) {
	for shown, is := range map[string]string{`(a > 0)`: `(a > 0)`, `(s in (_utf8mb4\'x\',_utf8mb4\'y\'))`: `(s in (_utf8mb4'x',_utf8mb4'y'))`, `s <> \'a\\\\b\'`: `s <> 'a\\b'`, `s <> \'a\nb\'`: "s <> 'a\nb'", `a REGEXP \'\\\\d\'`: `a REGEXP '\\d'`, ``: ``, `\`: `\`} {
		if got := unescaped(shown); got != is {
			t.Errorf("%s is shown of %q, not of %q", shown, is, got)
		}
	}
}

// TestInstant: which actions alter the catalog alone, and from which version on.
func TestInstant(t *testing.T) {
	for _, x := range []struct {
		action, version string
		want            bool
	}{
		{"ADD COLUMN `a` int NULL", "8.0.16", true}, {"ADD COLUMN `a` int NULL AFTER `b`", "8.0.28", false}, {"ADD COLUMN `a` int NULL AFTER `b`", "8.0.29", true}, {"ADD COLUMN `a` int NULL FIRST", "8.4.0", true},
		{"ADD COLUMN `a` int GENERATED ALWAYS AS (1) STORED", "8.4.0", false}, {"ADD COLUMN `a` int GENERATED ALWAYS AS (1) VIRTUAL", "8.4.0", true},
		{"ADD COLUMN `a` bigint NOT NULL AUTO_INCREMENT PRIMARY KEY", "8.4.0", false}, {"DROP COLUMN `a`", "8.0.28", false}, {"DROP COLUMN `a`", "9.1.0", true},
		{"DROP PRIMARY KEY, DROP COLUMN `a`", "9.1.0", false}, {"RENAME COLUMN `a` TO `b`", "8.0.28", true}, {"RENAME COLUMN `a` TO `b`", "8.0.27", false}, {"RENAME INDEX `a` TO `b`", "8.4.0", false}, {"ADD INDEX `x` (`a`)", "8.4.0", false}, {"MODIFY COLUMN `a` int NOT NULL", "8.4.0", false},
	} {
		if got := instant(x.action, x.version); got != x.want {
			t.Errorf("%s on %s: %v", x.action, x.version, got)
		}
	}
}

func TestVersions(t *testing.T) {
	is := func(version string) bool { return atLeast(version, 8, 0, 16) }
	for version, want := range map[string]bool{"8.0.15": false, "8.0.16": true, "8.0.36-0ubuntu0.22.04.1": true, "8.4.2": true, "9.0": true, "5.7.44": false, "": false, "unknown": false, "10.11.6-MariaDB": true} {
		if is(version) != want {
			t.Errorf("%s: %v", version, !want)
		}
	}
	for version, want := range map[string]bool{"8.0.31": true, "8.0.15": false, "10.11.6-MariaDB-0+deb12u1": false, "5.7.44-log": false} {
		e, can := Engine, Engine.Abilities(version)
		if want && (can.InvisibleColumns != atLeast(version, 8, 0, 23) || !can.IndexExpressions || can.PlainAction != catalog.NoAction || can.SequenceMost != 0 || can.Condition != nil) {
			t.Errorf("%s %s: %+v", e.Name(), version, can)
		}
	}
}

// TestBounds: what takes all that no other part does.
func TestBounds(t *testing.T) {
	for _, x := range []struct {
		method, definition string
		columns            []string
		want               string
	}{
		{"range", "range (year(`at`))", []string{"at"}, "VALUES LESS THAN MAXVALUE"}, {"range", "range  columns (`a`,`b`)", []string{"a", "b"}, "VALUES LESS THAN (MAXVALUE, MAXVALUE)"},
		{"list", "list (`a`)", []string{"a"}, ""}, {"hash", "hash (`a`)", []string{"a"}, ""},
	} {
		if got := restBounds(&catalog.Table{PartitionBy: &catalog.PartitionKey{Method: x.method, Definition: x.definition, Columns: x.columns}}); got != x.want {
			t.Errorf("%s: %q", x.definition, got)
		}
	}
	if got := restBounds(&catalog.Table{}); got != "" {
		t.Errorf("of a plain table: %q", got)
	}
	for native, want := range map[string]string{"datetime": "CURRENT_TIMESTAMP", "timestamp(3)": "CURRENT_TIMESTAMP(3)"} {
		if got := now(catalog.Type{Native: native, Family: catalog.Timestamp}); got != want {
			t.Errorf("now of %s: %s", native, got)
		}
	}
	if got := now(catalog.Type{Native: "date", Family: catalog.Date}); got != "" {
		t.Errorf("now of a date: %s", got)
	}
}
