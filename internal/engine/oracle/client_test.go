package oracle_test

import (
	"context"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/engine/oracle"
	standin "nexdal/internal/standin/oracle"
)

// TestSafe: what SQL*Plus would cut, join or take for a command of its own is handed over as a
// text, and comes out as it was.
func TestSafe(t *testing.T) {
	for name, c := range map[string]struct {
		text   string
		handed bool
	}{
		"plain":                  {"where a gauge stands", false},
		"a blank line":           {"a\n\nb", false},
		"a slash alone":          {"a\n/\nb", true},
		"a slash within":         {"a / b\nc/d", false},
		"a point alone":          {"a\n.\nb", true},
		"a hyphen at the end":    {"a -\nb", true},
		"a hyphen at the last":   {"a -", false},
		"a semicolon at the end": {"a;\nb", true},
		"a semicolon within":     {"a; b", false},
		"a command":              {"a\n#exit\nb", true},
		"a script":               {"a\n@exit\nb", true},
		"a variable":             {"a &b &&c", false},
		"a carriage return":      {"a\r\nb", true},
		"a long line":            {strings.Repeat("水", 900), true},
		"quotes":                 {"it's\n/\n''", true},
		"a quote chosen":         {"q'[a]'\n/\n", true},
		"beyond the first plane": {"🌊\n/\n" + strings.Repeat("🌊", 400), true},
	} {
		sql := "COMMENT ON TABLE SALTMERE.RAFT IS " + oracle.Literal(c.text)
		if got := oracle.Safe(sql) != sql; got != c.handed {
			t.Errorf("%s: handed over as a text: %v", name, got)
		}
		d, err := standin.New(standin.Enterprise, "SALTDB", "SALTMERE")
		if err != nil {
			t.Fatal(err)
		}
		s := d.As("SALTMERE", true)
		if err := s.Exec(t.Context(), "CREATE TABLE raft (id NUMBER(10))"); err != nil {
			t.Fatal(err)
		}
		script := strings.Join(append(slices.Clone(oracle.ClientLines), oracle.Engine{}.Dialect().Ended(oracle.Safe(sql))), "\n") + "\n"
		if out, err := s.Run(context.Background(), script); err != nil {
			t.Errorf("%s: %v %s\n%s", name, err, out, script)
		}
		if got := d.Catalog.Schema("SALTMERE").Tables[0].Comment; got != c.text {
			t.Errorf("%s: the comment is %q, want %q", name, got, c.text)
		}
		d.Close()
	}
}
