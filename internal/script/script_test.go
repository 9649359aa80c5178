package script

import (
	"reflect"
	"strings"
	"testing"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
)

var dialect = sqllex.Dialect{Backquotes: true, Brackets: true, Directives: "."}

const evil = "a;\n-- Step 9 of 9: DROP TABLE x;\r\x1b[31m\"'\u202e"

// sample is a script whose every text holds what could break out of it.
func sample() *Script {
	return &Script{
		Kind: "Corrective script", Back: "reversal", Program: "nexdal test", Engine: catalog.Engine{Name: "sqlite", Version: "3.46.1"}, Database: evil,
		Surveyed: time.Date(2026, 11, 23, 8, 0, 0, 0, time.UTC), Tables: []catalog.Ref{{Schema: "main", Table: "plain"}, {Schema: "we.ird", Table: evil}, {Schema: "", Table: "a.b"}},
		Structure: "exact-0123", Findings: 3, Reversal: "fix.reversal.sql", Left: []Left{{"x/y " + evil, evil, evil}}, Places: []string{"step 2 of ", ""},
		Work: engine.Work{
			Client: []string{".bail on"}, Setup: []string{"PRAGMA x = 1"},
			Preflight: []engine.Question{{Title: "rows " + evil, Step: 2, SQL: "SELECT 'a;b' -- c;\n  FROM \"x\"\"y\""}},
			Steps: []engine.Step{
				{Title: "first", Answers: []string{"fk/x main.plain", "fk/y " + strings.Repeat("long words ", 20) + "end"}, Lock: strings.Repeat("everybody waits ", 12) + "long", Transaction: true, Notes: []string{"a note"},
					SQL: []string{"BEGIN", "CREATE TRIGGER t AFTER INSERT ON a BEGIN\n-- Step 2 of 2: not a mark\n  DELETE FROM b; END", "COMMIT"}},
				{Title: evil, Lock: "none", CleanUp: "DROP INDEX IF EXISTS " + strings.Repeat("name ", 25) + "end", SQL: []string{"CREATE TABLE x (\n  a -- End of script.\n)"}},
			},
		},
	}
}

// TestThereAndBack: a script that is written is read back as it was, whatever
// its names hold.
func TestThereAndBack(t *testing.T) {
	s := sample()
	text := s.Text([]string{"nexdal run " + evil})
	for line := range strings.Lines(text) {
		if strings.ContainsAny(line, "\r\x1b") && !strings.HasPrefix(line, "SELECT") {
			t.Errorf("raw: %q", line)
		}
	}
	got, err := Read(text, dialect)
	if err != nil {
		t.Fatalf("%v\n%s", err, text)
	}
	if got.Engine != s.Engine || got.Database != s.Database || !got.Surveyed.Equal(s.Surveyed) || got.Structure != s.Structure || got.Reversal != s.Reversal || !reflect.DeepEqual(got.Tables, s.Tables) || !reflect.DeepEqual(got.Setup, s.Setup) {
		t.Errorf("the head: %+v", got)
	}
	if len(got.Preflight) != 1 || got.Preflight[0].SQL != s.Preflight[0].SQL || got.Preflight[0].Step != 2 {
		t.Errorf("the pre-flight: %+v", got.Preflight)
	}
	if len(got.Steps) != 2 {
		t.Fatalf("%d steps", len(got.Steps))
	}
	for i, want := range s.Steps {
		st := got.Steps[i]
		if !reflect.DeepEqual(st.SQL, want.SQL) || !reflect.DeepEqual(st.Answers, want.Answers) || st.Lock != want.Lock || st.Transaction != want.Transaction || st.CleanUp != want.CleanUp || !reflect.DeepEqual(st.Notes, want.Notes) {
			t.Errorf("step %d:\n%+v\n%+v", i+1, st, want)
		}
	}
	if name, err := EngineName(text); name != "sqlite" || err != nil {
		t.Errorf("engine %q, %v", name, err)
	}
}

// TestEdited: what is changed by hand within a step counts; marks that do not
// add up are refused.
func TestEdited(t *testing.T) {
	whole := sample().Text(nil)
	s, err := Read(strings.Replace(whole, "COMMIT;", "DELETE FROM c;\nCOMMIT;", 1), dialect)
	if err != nil || len(s.Steps[0].SQL) != 4 {
		t.Errorf("an edited step: %v", err)
	}
	step2 := strings.Index(whole, "-- Step 2 of 2: a")
	for name, text := range map[string]string{
		"cut off":             whole[:len(whole)-20],
		"a step missing":      whole[:step2] + whole[strings.Index(whole, "-- Not scripted:"):],
		"a mark changed":      strings.Replace(whole, "-- Step 1 of 2", "-- Stepp 1 of 2", 1),
		"a step twice":        whole[:step2] + whole[step2:len(whole)-len("-- End of script.\n")] + whole[step2:],
		"another count":       strings.Replace(whole, "-- steps:      2", "-- steps:      3", 1),
		"a step emptied":      strings.Replace(whole, "CREATE TABLE x (\n  a -- End of script.\n);", "", 1),
		"a question emptied":  strings.Replace(whole, "SELECT 'a;b' -- c;\n  FROM \"x\"\"y\";", "", 1),
		"no engine":           strings.Replace(whole, "-- engine:", "-- motor:", 1),
		"no structure":        strings.Replace(whole, "-- structure:", "-- form:", 1),
		"a damaged date":      strings.Replace(whole, "2026-11-23T", "yesterday ", 1),
		"a damaged table":     strings.Replace(whole, "-- table:      main.plain", `-- table:      "main.plain`, 1),
		"a question too late": strings.Replace(whole, "-- End of script.\n", "", 1) + "-- Pre-flight 2 of 2, for step 1: x\nSELECT 1;\n-- End of script.\n",
		"something else":      "SELECT 1;",
	} {
		if text == whole {
			t.Errorf("%s: the text is as before", name)
		}
		if _, err := Read(text, dialect); err == nil {
			t.Errorf("%s: taken all the same", name)
		}
	}
}
