package test

import (
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

// TestNothingThere: where there are no tables, or an account may see none, every command says so
// or does nothing, and no page calls it sound.
func TestNothingThere(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	if out, err := exec.Command("sqlite3", filepath.Join(folder, "bare.db"), "CREATE TABLE a (b); DROP TABLE a").CombinedOutput(); err != nil {
		t.Fatal(string(out))
	}
	captured(t, dictionary(t, "CREATE TABLE raft (id NUMBER(10) PRIMARY KEY);").As("SYSTEM", true), filepath.Join(folder, "all.txt"))
	// As an account that sees nothing would have it: all questions but that about the server are without rows.
	head, rest, _ := strings.Cut(read(t, filepath.Join(folder, "all.txt")), "SALTDB\",\"SYSTEM\"")
	rest = regexp.MustCompile(`(?m)^@end (\S+) \d+`).ReplaceAllString(regexp.MustCompile(`(?m)^(@row| ).*\n`).ReplaceAllString(rest, ""), "@end $1 0")
	rest = strings.Replace(rest, " 0\n", " 1\n", 1)
	write(t, filepath.Join(folder, "none.txt"), head+"SALTDB\",\"SYSTEM\""+rest)
	for _, source := range []string{"bare.db", "none.txt"} {
		for _, form := range []string{"text", "markdown"} {
			match(t, source, must(t, folder, "check", source, "--format", form), "no findings: there are no tables, or the account may see none")
		}
		match(t, source, must(t, folder, "check", source, source), "no findings: there are no tables")
		match(t, source, must(t, folder, "outline", source), "0 tables")
		must(t, folder, "report", source, "-o", "report.html")
		must(t, folder, "survey", source, "-o", "survey.json")
		must(t, folder, "script", "create", source, "-o", "create.sql")
		must(t, folder, "script", "fix", source, "-o", "fix.sql")
		probe := []string{"probe", source, "-o", "evidence.json"}
		if source == "none.txt" {
			probe = append(probe, "--ask", "more.sql")
		}
		must(t, folder, probe...)
		if r := nexdal(t, folder, "draw", source, "-o", "diagram.svg"); r.status != 2 || !strings.Contains(r.err, "there are no tables, or the account may see none") {
			t.Errorf("%s: draw: %d %s", source, r.status, r.err)
		}
	}
}
