package script

import (
	"fmt"
	"math/rand/v2"
	"reflect"
	"strings"
	"testing"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/mariadb"
	"nexdal/internal/engine/postgres"
	"nexdal/internal/engine/sqlite"
)

// pieces are what names and texts are made of here: all that could be taken for a mark,
// end a comment, a statement or a line, or be lost where a line is broken.
var pieces = []string{"a", "reading", " ", "  ", "\t", "\n", "\r\n", "\r", "'", "''", `"`, "`", ";", "--", "-- Step 1 of 1: x", "\n-- End of script.\n", "/*", "*/", "$$", "\\", ": ", "ü", "表", "\u202e", "\x1b[2J", "\x00", "%", "{}", ".", "\n.quit\n", "\n\\! true\n", "-- table:      x.y", "DELIMITER //"}

func hostile(r *rand.Rand, without string) string {
	var b strings.Builder
	for range 1 + r.IntN(6) {
		if p := pieces[r.IntN(len(pieces))]; without == "" || !strings.Contains(p, without) {
			b.WriteString(p)
		}
	}
	if b.Len() == 0 {
		return "x"
	}
	return b.String()
}

// TestRandomThereAndBack: whatever names and statements hold, what is carried out is what
// was written: statements, clearing up, questions, tables, database.
func TestRandomThereAndBack(t *testing.T) {
	for name, e := range map[string]engine.Engine{"sqlite": sqlite.Engine{}, "postgres": postgres.Engine{}, "mariadb": mariadb.Engine{}} {
		for seed := range uint64(400) {
			r := rand.New(rand.NewPCG(seed, 8))
			ident := func() string { return quoteFor(name, hostile(r, "\x00")) }
			s := &Script{Kind: "Corrective script", Program: "nexdal test", Engine: catalog.Engine{Name: name, Version: "1.0"}, Database: hostile(r, ""), Surveyed: time.Date(2026, 11, 23, 8, 0, 0, 0, time.UTC),
				Structure: "model-0011", Reversal: "fix.reversal.sql", Back: "reversal", Before: "fix.before.json", After: "fix.after.json", Dialect: e.Dialect(), Findings: 1,
				Left: []Left{{"fk/missing " + hostile(r, ""), hostile(r, ""), hostile(r, "")}, {"key/none " + hostile(r, ""), strings.Repeat("long ", 40), ""}}, LeftAs: "thing", Stays: []string{hostile(r, "")},
				Losses: []engine.Loss{{What: catalog.ObjectRef{Kind: "view", Schema: "s", Name: hostile(r, "")}, Why: hostile(r, "")}}}
			for range 1 + r.IntN(3) {
				s.Tables = append(s.Tables, catalog.Ref{Schema: hostile(r, ""), Table: hostile(r, "")})
			}
			s.Setup = []string{"SET x = 1"}
			for n := range 1 + r.IntN(4) {
				st := engine.Step{Title: hostile(r, ""), Answers: []string{hostile(r, "")}, Lock: hostile(r, ""), Notes: []string{hostile(r, "")}, Transaction: r.IntN(2) == 0,
					SQL: []string{fmt.Sprintf("ALTER TABLE %s ADD COLUMN %s integer", ident(), ident())}}
				if r.IntN(2) == 0 {
					st.SQL = append(st.SQL, fmt.Sprintf("DROP INDEX %s", ident()))
				}
				if !st.Transaction {
					st.CleanUp = fmt.Sprintf("DROP INDEX IF EXISTS %s.%s", ident(), ident())
				}
				s.Steps = append(s.Steps, st)
				s.Preflight = append(s.Preflight, engine.Question{Title: hostile(r, ""), Step: n + 1, SQL: fmt.Sprintf("SELECT * FROM %s WHERE %s IS NULL LIMIT 20", ident(), ident())})
			}
			written := s.Text([]string{"nexdal run " + hostile(r, "")})
			back, err := Read(written, e.Dialect())
			if err != nil {
				t.Fatalf("%s, seed %d: %v\n%q", name, seed, err, written)
			}
			if back.Edited {
				t.Errorf("%s, seed %d: it counts as edited", name, seed)
			}
			if !reflect.DeepEqual(back.Tables, s.Tables) || back.Database != s.Database || !reflect.DeepEqual(back.Setup, s.Setup) || back.Before != s.Before || back.After != s.After || back.Back != s.Back {
				t.Errorf("%s, seed %d: the head: %q %q, want %q %q", name, seed, back.Tables, back.Database, s.Tables, s.Database)
			}
			for _, l := range s.Left {
				if !back.Leaves(l.Finding) || back.Leaves("fk/missing b.c") || back.Leaves("key/non") {
					t.Errorf("%s, seed %d: leaves %q, and says %q", name, seed, l.Finding, back.said)
				}
			}
			if len(back.Steps) != len(s.Steps) || len(back.Preflight) != len(s.Preflight) {
				t.Fatalf("%s, seed %d: %d steps and %d questions\n%s", name, seed, len(back.Steps), len(back.Preflight), written)
			}
			for i, st := range s.Steps {
				got := back.Steps[i]
				if !reflect.DeepEqual(got.SQL, st.SQL) || got.Transaction != st.Transaction {
					t.Errorf("%s, seed %d, step %d: %q, want %q", name, seed, i+1, got.SQL, st.SQL)
				}
				if got.CleanUp != st.CleanUp {
					t.Errorf("%s, seed %d, step %d: clears up by %q, want %q", name, seed, i+1, got.CleanUp, st.CleanUp)
				}
				if q := back.Preflight[i]; q.SQL != s.Preflight[i].SQL || q.Step != s.Preflight[i].Step {
					t.Errorf("%s, seed %d, question %d: %q, want %q", name, seed, i+1, q.SQL, s.Preflight[i].SQL)
				}
			}
		}
	}
}

func quoteFor(engine, name string) string {
	if engine == "mariadb" {
		return "`" + strings.ReplaceAll(name, "`", "``") + "`"
	}
	return `"` + strings.ReplaceAll(name, `"`, `""`) + `"`
}
