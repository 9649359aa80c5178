package test

import (
	"bufio"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
)

// TestPipe: a run goes on to its end when the one who reads its output is gone, and when the
// terminal is.
func TestPipe(t *testing.T) {
	t.Parallel()
	for _, how := range []string{"pipe", "terminal"} {
		t.Run(how, func(t *testing.T) {
			t.Parallel()
			folder := t.TempDir()
			p := places(t)["sqlite"](t, folder)
			p.query(t, unsound+"WITH RECURSIVE n(i) AS (SELECT 3 UNION ALL SELECT i + 1 FROM n WHERE i < 200000) INSERT INTO station SELECT i, 'SAL-' || i FROM n; INSERT INTO visit SELECT id, 7 FROM station WHERE id > 2;")
			must(t, folder, "script", "fix", p.source, "-o", "fix.sql")
			c := command(folder, "run", "fix.sql", "--on", p.source, "--yes")
			out, err := c.StdoutPipe()
			if err != nil {
				t.Fatal(err)
			}
			if err := c.Start(); err != nil {
				t.Fatal(err)
			}
			lines := bufio.NewScanner(out)
			for lines.Scan() && !strings.Contains(lines.Text(), "done") {
			}
			if how == "pipe" {
				out.Close()
			} else if err := c.Process.Signal(syscall.SIGHUP); err != nil {
				t.Fatal(err)
			} else {
				for lines.Scan() {
				}
			}
			if err := c.Wait(); err != nil {
				t.Errorf("the run: %v", err)
			}
			match(t, "the journal", read(t, filepath.Join(folder, "fix.journal.jsonl")), `"finished"`)
			match(t, "the way back", must(t, folder, "run", "fix.reversal.sql", "--on", p.source, "--yes"), "the structure is the one that was planned")
		})
	}
}
