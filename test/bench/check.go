package main

import (
	"cmp"
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"slices"
	"syscall"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/all"
	"nexdal/internal/evidence"
	"nexdal/internal/rule"
	"nexdal/internal/rule/allrules"
	"nexdal/internal/rule/fk"
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

// planning times a script of ten thousand fixes, with its reversal and the structures
// before and after.
func planning(folder string) error {
	survey := filepath.Join(folder, "faulty.json")
	f, err := os.Create(survey)
	if err != nil {
		return err
	}
	if err := faulty(3334).Write(f, true); err != nil {
		return err
	}
	if err := f.Close(); err != nil {
		return err
	}
	fix, _, err := inTurn(5, []string{program, "script", "fix", survey, "-o", filepath.Join(folder, "fix.sql")}, nil)
	if err != nil {
		return err
	}
	row("  script of 10,000 fixes", "%.0f ms", "under 2000 ms", ms(fix))
	return nil
}

// faulty is a catalog with three findings a table.
func faulty(n int) *catalog.Catalog {
	key := catalog.Type{Native: "bigint", Family: catalog.Integer, Bits: 64}
	s := &catalog.Schema{Name: "public"}
	for i := range n {
		name := fmt.Sprintf("t%05d", i)
		t := &catalog.Table{Schema: "public", Name: name, Kind: catalog.Ordinary, PrimaryKey: &catalog.Key{Name: name + "_pkey", Columns: []string{"id"}, Index: name + "_pkey"}}
		for _, c := range []string{"id", "code", "parent_id", "other_id"} {
			t.Columns = append(t.Columns, &catalog.Column{Name: c, Type: key, Nullable: c != "id" && c != "code"})
		}
		index := func(name string, origin catalog.Origin, columns ...string) {
			x := &catalog.Index{Name: name, Origin: origin, Method: "btree", Unique: origin != catalog.ByPerson}
			for _, c := range columns {
				x.Parts = append(x.Parts, catalog.IndexPart{Column: c})
			}
			t.Indexes = append(t.Indexes, x)
		}
		index(name+"_pkey", catalog.ByPrimaryKey, "id")
		index(name+"_a", catalog.ByPerson, "code")
		index(name+"_b", catalog.ByPerson, "code", "id")
		for k, c := range []string{"parent_id", "other_id"} {
			target := fmt.Sprintf("t%05d", []int{max(0, i-1), i / 2}[k])
			t.ForeignKeys = append(t.ForeignKeys, &catalog.ForeignKey{Name: name + "_" + c + "_fkey", Columns: []string{c}, Target: catalog.Ref{Schema: "public", Table: target},
				TargetColumns: []string{"id"}, TargetIndex: target + "_pkey", OnDelete: catalog.NoAction, OnUpdate: catalog.NoAction})
		}
		s.Tables = append(s.Tables, t)
	}
	c := &catalog.Catalog{Engine: catalog.Engine{Name: "postgres", Version: "15.0"}, Database: "faulty", Surveyed: time.Date(2026, 11, 25, 8, 0, 0, 0, time.UTC), Schemas: []*catalog.Schema{s}}
	c.Sort()
	return c
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
	lookup := c.Lookup()
	for range 3 {
		runtime.GC()
		j := rule.Checker{Abilities: all.ByName(c.Engine.Name).Abilities(c.Engine.Version), Rules: allrules.Rules(), Watch: func(r *rule.Rule, d time.Duration) {
			took[r.ID] += d
			sum += d
		}}
		j.Run(context.Background(), c)
		began := time.Now() // what is gathered beside the rules is one's own all the same
		evidence.Suspects(c, lookup)
		took[fk.Missing.ID] += time.Since(began)
		sum += time.Since(began)
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
