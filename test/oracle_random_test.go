package test

import (
	"fmt"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/standin/oracle"
)

// leftAsIs is what a dictionary shows, but for what a reversal may leave otherwise: a name that
// was given, a default that is null, and what forbids null in a key's column by itself.
func leftAsIs(t *testing.T, d *oracle.Dictionary) string {
	t.Helper()
	text := strings.NewReplacer("GENERATED NAME", "USER NAME", `,"NULL",`, `,null,`).Replace(shown(t, d))
	lines := slices.DeleteFunc(strings.Split(text, "\n"), func(l string) bool {
		return strings.Contains(l, `\u0022 IS NOT NULL"`) || regexp.MustCompile(`^ \["[^"]*","SYS_C",".*,null\]$`).MatchString(l) || strings.HasPrefix(l, "@end")
	})
	slices.Sort(lines)
	return strings.Join(lines, "\n")
}

// runPlus carries a script out as SQL*Plus would.
func runPlus(t *testing.T, d *oracle.Dictionary, path string) {
	t.Helper()
	script := read(t, path)
	if out, err := d.As("SYSTEM", true).Run(t.Context(), script); err != nil {
		t.Fatalf("%v: %s\n%s", err, out, script)
	}
}

// randomDictionary holds a random structure, which was taken over from SQLite; a.db is that one,
// and create.sql the script.
func randomDictionary(t *testing.T, folder string, seed uint64) *oracle.Dictionary {
	t.Helper()
	c := exec.Command("sqlite3", filepath.Join(folder, "a.db"))
	c.Stdin = strings.NewReader(inserts.ReplaceAllString(randomSchema(seed, "sqlite"), ""))
	c.Run()
	must(t, folder, "script", "create", "a.db", "--for", "oracle", "-o", "create.sql")
	d, err := oracle.New(oracle.Standard, "SALTDB", "MAIN")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(d.Close)
	runPlus(t, d, filepath.Join(folder, "create.sql"))
	return d
}

// TestOracleChange brings one random structure to another, and back.
func TestOracleChange(t *testing.T) {
	t.Parallel()
	for seed := range uint64(8) {
		t.Run(fmt.Sprint(seed), func(t *testing.T) {
			t.Parallel()
			folder := t.TempDir()
			d, other := randomDictionary(t, folder, 5000+seed), randomDictionary(t, t.TempDir(), 5100+seed)
			captured(t, d.As("SYSTEM", true), filepath.Join(folder, "from.txt"))
			captured(t, other.As("SYSTEM", true), filepath.Join(folder, "to.txt"))
			before := leftAsIs(t, d)
			must(t, folder, "script", "change", "from.txt", "to.txt", "--drops", "-o", "c.sql")
			script := read(t, filepath.Join(folder, "c.sql"))
			if strings.Contains(script, "-- steps:      0,") {
				return
			}
			runPlus(t, d, filepath.Join(folder, "c.sql"))
			captured(t, d.As("SYSTEM", true), filepath.Join(folder, "now.txt"))
			if r := nexdal(t, folder, "compare", "now.txt", "to.txt", "--ignore", "order"); r.status != 0 && !strings.Contains(script, "-- Not scripted:") {
				t.Errorf("differs, and the script does not say so: %s\n%s", r.out, script)
			}
			runPlus(t, d, filepath.Join(folder, "c.reversal.sql"))
			if after := leftAsIs(t, d); after != before {
				t.Errorf("the way back leads elsewhere: %s\n%s", changedLines(before, after), read(t, filepath.Join(folder, "c.reversal.sql")))
			}
		})
	}
}

// TestOracleRandom takes random structures over, with what people call things: the script makes
// them whole, a fix leaves nothing that it answers, and the way back leads to where it began; all
// by what SQL*Plus makes of the scripts, and by what the dictionary then shows.
func TestOracleRandom(t *testing.T) {
	t.Parallel()
	for seed := range uint64(12) {
		t.Run(fmt.Sprint(seed), func(t *testing.T) {
			t.Parallel()
			folder := t.TempDir()
			d := randomDictionary(t, folder, 3000+seed)
			run := func(file string) { t.Helper(); runPlus(t, d, filepath.Join(folder, file)) }
			captured(t, d.As("SYSTEM", true), filepath.Join(folder, "before.txt"))
			stated(t, read(t, filepath.Join(folder, "create.sql")), nexdal(t, folder, "compare", "a.db", "before.txt", "--ignore", "name", "--format", "json").out)
			before := leftAsIs(t, d)
			must(t, folder, "script", "fix", "before.txt", "--proposals", "-o", "fix.sql")
			if r := nexdal(t, folder, "rehearse", "fix.sql", "--on", "before.txt"); r.status != 0 {
				t.Errorf("the rehearsal: %s%s\n%s", r.out, r.err, read(t, filepath.Join(folder, "fix.sql")))
			}
			run("fix.sql")
			captured(t, d.As("SYSTEM", true), filepath.Join(folder, "after.txt"))
			_, left, _ := strings.Cut(read(t, filepath.Join(folder, "fix.sql")), "-- Not scripted:")
			for _, f := range findings(t, filepath.Join(folder, "after.txt")) {
				if len(f.Fixes) > 0 && !f.Fixes[0].Ask && !strings.Contains(left, f.Rule+" MAIN."+strings.ReplaceAll(f.Table, "\n", `\n`)) {
					t.Errorf("after the fix: %s %s: %s\n%s", f.Rule, f.Table, f.Message, read(t, filepath.Join(folder, "fix.sql")))
				}
			}
			run("fix.reversal.sql")
			if after := leftAsIs(t, d); after != before {
				t.Errorf("the way back leads elsewhere: %s\n%s", changedLines(before, after), read(t, filepath.Join(folder, "fix.reversal.sql")))
			}
		})
	}
}
