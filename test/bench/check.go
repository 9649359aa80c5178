package main

import (
	"cmp"
	"fmt"
	"os"
	"os/exec"
	"runtime"
	"slices"
	"syscall"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/all"
	"nexdal/internal/rule"
	"nexdal/internal/rule/book"
)

// judgement times check of a survey file as a whole, and each rule by itself.
func judgement(survey string) error {
	call := []string{program, "check", survey, "--fail-on", "never", "-o", os.DevNull}
	check, _, err := inTurn(5, call, nil)
	if err != nil {
		return err
	}
	row("  check of that file", "%.0f ms", "under 1500 ms", ms(check))
	c := exec.Command(call[0], call[1:]...)
	if err := c.Run(); err != nil {
		return err
	}
	if used, ok := c.ProcessState.SysUsage().(*syscall.Rusage); ok {
		row("  memory of the check", "%.0f MB", "under 500 MB", float64(used.Maxrss)/1024)
	}
	return ruleTimes(survey)
}

// ruleTimes prints what each rule takes of the whole, the dearest first.
func ruleTimes(survey string) error {
	f, err := os.Open(survey)
	if err != nil {
		return err
	}
	defer f.Close()
	c, err := catalog.Read(f)
	if err != nil {
		return err
	}
	took := map[string]time.Duration{}
	var sum time.Duration
	for range 3 {
		runtime.GC()
		j := rule.Judge{Can: all.ByName(c.Engine.Name).Abilities(c.Engine.Version), Rules: book.Rules(), Watch: func(r *rule.Rule, d time.Duration) {
			took[r.ID] += d
			sum += d
		}}
		j.Run(c)
	}
	ids := make([]string, 0, len(took))
	for id := range took {
		ids = append(ids, id)
	}
	slices.SortFunc(ids, func(a, b string) int { return cmp.Compare(took[b], took[a]) })
	fmt.Printf("  all rules %.0f ms; the dearest of %d:\n", ms(sum/3), len(ids))
	for _, id := range ids[:12] {
		fmt.Printf("    %-28s %6.1f ms  %4.1f %%\n", id, ms(took[id]/3), 100*float64(took[id])/float64(sum))
	}
	return nil
}
