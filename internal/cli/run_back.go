package cli

import (
	"fmt"
	"path/filepath"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/job"
	"nexdal/internal/run"
	"nexdal/internal/script"
)

// A wayBack is what a reversal has to take back, by the record of the runs of the script
// that it belongs to.
type wayBack struct {
	recorded bool             // runs of the script on this database are recorded
	fits     bool             // the structure is the one that the last of them left
	instead  map[int][]string // steps that are not carried out, and what is in their place
}

// wayBack reads the journal of the script that the reversal takes back. Where no run is
// recorded, as when the engine's own client carried it out, the model alone says what
// there should be.
func (r *running) wayBack(path string, back *script.Script, place string, is *catalog.Catalog) (wayBack, error) {
	if back.Back != "undoes" || back.Reversal == "" {
		return wayBack{}, nil
	}
	at := filepath.Join(filepath.Dir(path), filepath.Base(back.Reversal))
	forth, text, err := job.ReadScript(at)
	if err != nil {
		return wayBack{}, nil // it is not beside the reversal any more
	}
	journal, err := run.OpenJournal(job.JournalOf(at), text, place)
	if err != nil {
		return wayBack{}, wrong("%v", err)
	}
	done, left, doubt := journal.Done()
	switch {
	case len(done) == 0 && !doubt:
		return wayBack{}, nil
	case doubt:
		return wayBack{}, wrong("a step of %s is in doubt: run that script once more, which finds out, and then the reversal", at)
	case left == "":
		return wayBack{}, wrong("the run of %s on %s was cut short before what it left could be recorded; run it once more, and then the reversal", at, place)
	}
	w := wayBack{recorded: true, fits: is.Fingerprint(back.Tables) == left, instead: map[int][]string{}}
	for i := range back.Steps {
		of := back.TakenBackBy(i)
		n := len(of)
		of = slices.DeleteFunc(of, func(step int) bool { return !done[step] })
		if len(of) == n {
			continue // all of it, or what no single step is behind
		}
		var clear []string
		for _, step := range slices.Backward(of) { // half of what it takes back: the steps say how that is cleared away
			if step < 1 || step > len(forth.Steps) || forth.Steps[step-1].CleanUp == "" {
				return wayBack{}, wrong("step %d of %s was done, and what follows on it was not: carry it out to its end first, or to the end of step %d (--stop-after)", step, at, lastOf(back.TakenBackBy(i)))
			}
			clear = append(clear, forth.Steps[step-1].CleanUp)
		}
		w.instead[i+1] = clear
	}
	return w, nil
}

func lastOf(steps []int) int { return slices.Max(steps) }

// told says what a reversal leaves out.
func (w wayBack) told(steps int) string {
	if len(w.instead) == 0 {
		return ""
	}
	return fmt.Sprintf("%d of its %d steps take back what was not done, and are left out", len(w.instead), steps)
}
