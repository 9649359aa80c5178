package run

import (
	"bufio"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"time"

	"nexdal/internal/text"
)

// State is what can be said of a step, or of the whole run.
type State string

// The states.
const (
	Untouched State = "untouched"
	Begun     State = "begun"
	Done      State = "done"
	Undone    State = "undone"   // failed, and left no trace
	Unknown   State = "unknown"  // failed, and nobody knows how far it got
	Finished  State = "finished" // the run: all steps are done
	Ended     State = "ended"    // the run, at its end or short of it: what the engine reports then
)

// An Entry is one line of a journal: JSON, one object a line, described in
// docs/journal-format.md.
type Entry struct {
	At      time.Time `json:"at"`
	Script  string    `json:"script"` // digest of the script's text
	On      string    `json:"on"`     // the database, without secrets
	Step    int       `json:"step,omitempty"`
	State   State     `json:"state"`
	Title   string    `json:"title,omitempty"`
	Seconds float64   `json:"seconds,omitempty"`
	Error   string    `json:"error,omitempty"`
	Note    string    `json:"note,omitempty"`   // what else to know
	Edited  bool      `json:"edited,omitempty"` // the script's statements were changed since it was written
	// Left is the fingerprint of the script's tables as the engine reported them when the
	// run ended.
	Left string `json:"left,omitempty"`
}

// A Journal is the record of the runs of one script file, on whatever
// databases.
type Journal struct {
	path   string
	digest string
	on     string
	past   []Entry // of this script on this database
	other  Entry   // the newest of another text of the script on this database
	left   string  // the fingerprint of what the last run left; "": it was not recorded, or a step has begun since
}

// Done are the steps that took place, and Left the fingerprint of what the last run left,
// if it was recorded and nothing has begun since. Doubt: a step may have taken place.
func (j *Journal) Done() (steps map[int]bool, left string, doubt bool) {
	steps = map[int]bool{}
	for _, e := range j.past {
		switch e.State {
		case Done:
			steps[e.Step] = true
		case Begun, Undone, Unknown:
			delete(steps, e.Step)
		}
		doubt = e.State == Begun || e.State == Unknown
	}
	return steps, j.left, doubt
}

// take remembers an entry.
func (j *Journal) take(e Entry) {
	if e.State == Ended {
		j.left = e.Left
		return
	}
	j.left = ""
	j.past = append(j.past, e)
}

// OpenJournal reads what the journal holds of the script on the database. A
// journal that does not exist yet is an empty one.
func OpenJournal(path, scriptText, on string) (*Journal, error) {
	sum := sha256.Sum256([]byte(scriptText))
	j := &Journal{path: path, digest: hex.EncodeToString(sum[:8]), on: on}
	all, err := entries(path)
	if err != nil {
		return nil, err
	}
	for _, e := range all {
		switch {
		case e.On != on:
		case e.Script != j.digest:
			if e.State != Ended {
				j.other = e
			}
		default:
			j.take(e)
		}
	}
	return j, nil
}

// entries reads a journal; one that does not exist yet is empty.
func entries(path string) (all []Entry, err error) {
	f, err := os.Open(path)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	defer f.Close()
	lines := bufio.NewScanner(f)
	lines.Buffer(nil, 1<<20)
	for n := 1; lines.Scan(); n++ {
		if len(lines.Bytes()) == 0 {
			continue
		}
		var e Entry
		if err := json.Unmarshal(lines.Bytes(), &e); err != nil {
			return nil, fmt.Errorf("line %d of the journal %s is damaged; look at it, and move it away to begin again", n, path)
		}
		all = append(all, e)
	}
	return all, lines.Err()
}

// Last returns the newest entry, and false where there is none.
func (j *Journal) Last() (Entry, bool) {
	if len(j.past) == 0 {
		return Entry{}, false
	}
	return j.past[len(j.past)-1], true
}

// Next says with which step the script goes on: 1 where it was never begun. A
// step is in doubt where the journal does not know whether it took place. A
// finished script does not go on.
func (j *Journal) Next() (step int, doubt bool, err error) {
	last, ok := j.Last()
	if !ok {
		if j.other.State != "" && j.other.State != Finished {
			return 0, false, fmt.Errorf("the journal %s tells of an unfinished run, on this database, of another text of this script; see what became of it, then give --from, or move the journal away", j.path)
		}
		return 1, false, nil
	}
	switch last.State {
	case Done:
		return last.Step + 1, false, nil
	case Undone:
		return last.Step, false, nil
	case Finished:
		return 0, false, fmt.Errorf("the script was carried out on %s by %s (journal %s); to run it once more, give --first-step 1", j.on, last.At.Format(time.DateTime), j.path)
	}
	return last.Step, true, nil
}

// Write adds an entry and makes sure that it is on disk. A nil journal keeps
// nothing.
func (j *Journal) Write(e Entry) error {
	if j == nil {
		return nil
	}
	e.At, e.Script, e.On = time.Now().UTC().Truncate(time.Millisecond), j.digest, j.on
	line, err := json.Marshal(e)
	if err != nil {
		return err
	}
	f, err := os.OpenFile(j.path, os.O_APPEND|os.O_CREATE|os.O_WRONLY, 0o644)
	if err != nil {
		return err
	}
	if _, err = f.Write(append(text.JSON(line), '\n')); err == nil {
		err = f.Sync()
	}
	if cerr := f.Close(); err == nil {
		err = cerr
	}
	j.take(e)
	return err
}

// Standing reports whether the journal tells of steps, on some database, that took place
// and that the journal of the reversal does not tell to have been taken back since.
func Standing(journal, reversal string) (bool, error) {
	forth, err := entries(journal)
	if err != nil {
		return false, err
	}
	back, err := entries(reversal)
	if err != nil {
		return false, err
	}
	done := map[string]time.Time{} // by database: the last step
	for _, e := range forth {
		if e.State == Done {
			done[e.On] = e.At
		}
	}
	for _, e := range back {
		if at, ok := done[e.On]; ok && e.State == Finished && !e.At.Before(at) {
			delete(done, e.On)
		}
	}
	return len(done) > 0, nil
}
