package run

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// TestNext: where a run goes on, by what the journal last says.
func TestNext(t *testing.T) {
	for _, c := range []struct {
		name    string
		entries []Entry
		script  string // of the next run
		next    int
		says    string
	}{
		{"never begun", nil, "s", 1, ""},
		{"done so far", []Entry{{Step: 1, State: Begun}, {Step: 1, State: Done}}, "s", 2, ""},
		{"failed without trace", []Entry{{Step: 1, State: Done}, {Step: 2, State: Begun}, {Step: 2, State: Undone}}, "s", 2, ""},
		{"broken off", []Entry{{Step: 1, State: Done}, {Step: 2, State: Begun}}, "s", 2, ""},
		{"connection lost", []Entry{{Step: 2, State: Begun}, {Step: 2, State: Unknown}}, "s", 2, ""},
		{"finished", []Entry{{Step: 1, State: Done}, {State: Finished}}, "s", 0, "was carried out"},
		{"another text, unfinished", []Entry{{Step: 1, State: Done}}, "other", 0, "another text of this script"},
		{"another text, finished", []Entry{{Step: 1, State: Done}, {State: Finished}}, "other", 1, ""},
	} {
		path := filepath.Join(t.TempDir(), "j")
		j, err := OpenJournal(path, "s", "db")
		if err != nil {
			t.Fatal(err)
		}
		for _, e := range c.entries {
			if err := j.Write(e); err != nil {
				t.Fatal(err)
			}
		}
		if j, err = OpenJournal(path, c.script, "db"); err != nil {
			t.Fatal(err)
		}
		next, doubt, err := j.Next()
		if doubt != (c.name == "broken off" || c.name == "connection lost") {
			t.Errorf("%s: in doubt: %v", c.name, doubt)
		}
		if next != c.next || (err == nil) != (c.says == "") || err != nil && !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: %d, %v", c.name, next, err)
		}
		// What happened on one database says nothing of another.
		if j, err = OpenJournal(path, c.script, "elsewhere"); err != nil {
			t.Fatal(err)
		}
		if next, _, err := j.Next(); next != 1 || err != nil {
			t.Errorf("%s, elsewhere: %d, %v", c.name, next, err)
		}
	}
}

func TestDamagedJournal(t *testing.T) {
	path := filepath.Join(t.TempDir(), "j")
	if err := os.WriteFile(path, []byte("{\"state\":\"done\"}\n\nnot json\n"), 0o644); err != nil {
		t.Fatal(err)
	}
	if _, err := OpenJournal(path, "s", "db"); err == nil || !strings.Contains(err.Error(), "line 3") {
		t.Errorf("%v", err)
	}
}
