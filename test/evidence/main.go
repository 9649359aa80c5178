// Evidence measures how many of the references and primary keys of databases
// of many styles the program finds again once nothing declares them, and how
// many it makes up. Nothing here fails: the figures are for people.
//
//	make bench-evidence
package main

import (
	"encoding/json"
	"flag"
	"fmt"
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
)

var program = "bin/nexdal"

func main() {
	only := flag.String("style", "", "only styles whose name holds this; for -write, name and rows: the first")
	show := flag.Bool("show", false, "list what was missed and what was made up")
	keyless := flag.Bool("keyless", false, "drop the primary keys as well")
	tables := flag.Int("tables", 0, "agencies of so many tables made up, with traps, instead of the one that is listed")
	declared := flag.Int("declared", 0, "declare so many of a hundred references")
	write := flag.String("write", "", "write the script of one such database to this file, for other engines")
	weights := flag.String("fit", "", "fit the weights of the traits, and write them to this file")
	others := flag.Bool("practice", false, "schemas of other people's programs, filled with rows, instead")
	flag.StringVar(&program, "program", program, "the program that is asked")
	full := flag.Bool("full", true, "look at all rows; else at a sample of a thousand of each table")
	flag.Parse()
	if sampled = !*full; sampled {
		for i := range sizes {
			sizes[i].share *= 8 // so that there is something to sample
		}
	}
	do := func() error { return run(*only, *show, *keyless, *tables, *declared) }
	if *others {
		do = func() error { return practice(*show) }
	}
	if *write != "" {
		do = func() error {
			for i, s := range styles {
				for j, z := range sizes {
					if strings.Contains(s.name+", "+z.name, *only) {
						return os.WriteFile(*write, []byte(script(build(large(*tables, uint64(i*10+j)), s, z, uint64(i*10+j)), *keyless, *declared)), 0o644)
					}
				}
			}
			return fmt.Errorf("no style holds %q", *only)
		}
	}
	if *weights != "" {
		do = func() error { return fit(*weights) }
	}
	if err := do(); err != nil {
		fmt.Fprintln(os.Stderr, "evidence:", err)
		os.Exit(1)
	}
}

func run(only string, show, keyless bool, count, declared int) error {
	listed, err := model()
	if err != nil {
		return err
	}
	folder, err := os.MkdirTemp("", "nexdal-evidence")
	if err != nil {
		return err
	}
	defer os.RemoveAll(folder)
	fmt.Printf("%-32s %-12s %6s %6s %6s %6s %6s %6s   %s\n", "style", "rows", "P", "R", "F1", "keys P", "R", "F1", "questions")
	var all, allKeys, single, combined score
	var told calibration
	for i, s := range styles {
		if !strings.Contains(s.name, only) {
			continue
		}
		for j, z := range sizes {
			path := filepath.Join(folder, fmt.Sprintf("%d-%d.db", i, j))
			things := listed
			if count > 0 {
				things = large(count, uint64(i*10+j))
			}
			tables := build(things, s, z, uint64(i*10+j))
			if err := load(path, script(tables, keyless, declared)); err != nil {
				return err
			}
			e, err := probe(path)
			if err != nil {
				return err
			}
			one, several, keys := compare(tables, e, show, declared, &told)
			refs := one
			refs.add(several)
			single.add(one)
			combined.add(several)
			all.add(refs)
			allKeys.add(keys)
			columns := 0
			for _, t := range tables {
				columns += len(t.columns)
			}
			fmt.Printf("%-32s %-12s %s %s   %d of %d columns\n", s.name, z.name, refs, keys, e.Questions, columns)
		}
	}
	fmt.Printf("%-45s %s\n%-45s %s\n", "single columns", single, "combined", combined)
	fmt.Printf("%-32s %-12s %s %s\n\n%s", "all", "", all, allKeys, &told)
	return nil
}

// script builds the tables without indexes, and without foreign keys but for so many of a hundred.
func script(tables []*table, keyless bool, declared int) string {
	var w strings.Builder
	w.WriteString("BEGIN;\n")
	for _, t := range tables {
		fmt.Fprintf(&w, "CREATE TABLE %q (", t.name)
		if t.beside {
			w.WriteString("id integer NOT NULL, ")
		}
		for i, c := range t.columns {
			if i > 0 {
				w.WriteString(", ")
			}
			fmt.Fprintf(&w, "%q %s", c.name, c.sql)
			if c.required {
				w.WriteString(" NOT NULL")
			}
		}
		switch {
		case keyless:
		case t.beside:
			w.WriteString(", PRIMARY KEY (id)")
		default:
			fmt.Fprintf(&w, ", PRIMARY KEY (\"%s\")", strings.Join(t.key, `", "`))
		}
		for _, r := range t.refs {
			if t.declares(r, declared) {
				fmt.Fprintf(&w, ", FOREIGN KEY (\"%s\") REFERENCES %q (\"%s\")", strings.Join(r.columns, `", "`), r.target, strings.Join(r.keys, `", "`))
			}
		}
		w.WriteString(");\n")
		for i, r := range t.rows {
			switch {
			case i%200 == 0:
				fmt.Fprintf(&w, "INSERT INTO %q VALUES\n", t.name)
			default:
				w.WriteString(",\n")
			}
			if t.beside {
				fmt.Fprintf(&w, "(%d, ", i+1)
			} else {
				w.WriteString("(")
			}
			w.WriteString(strings.Join(r, ", ") + ")")
			if i%200 == 199 || i == len(t.rows)-1 {
				w.WriteString(";\n")
			}
		}
	}
	w.WriteString("COMMIT;\n")
	return w.String()
}

// declares picks so many of a hundred references, the same every time; none where no key is there
// to refer to.
func (t *table) declares(r reference, percent int) bool {
	return !t.beside && hashed(r.String(), 100) < percent
}

func load(path, sql string) error {
	c := exec.Command("sqlite3", "-bail", path)
	c.Stdin = strings.NewReader(sql)
	if out, err := c.CombinedOutput(); err != nil {
		return fmt.Errorf("sqlite3: %v: %s", err, out)
	}
	return nil
}

// found is what we read of an evidence file.
type found struct {
	Questions int
	Keys      []struct {
		Table   string
		Columns []string
	}
	References, Perhaps []foundReference
}

type foundReference struct {
	Declared       bool
	Table          string
	Columns        []string
	Target         string
	Target_Columns []string
	Score          float64
	Score_Parts    map[string]float64
}

// sampled is whether tables of more than a thousand rows are looked at by a sample.
var sampled bool

func probe(source string) (*found, error) {
	c := exec.Command(program, "probe", source)
	if sampled {
		c.Args = append(c.Args, "--limit-rows", "1000")
	}
	c.Stderr = os.Stderr
	out, err := c.Output()
	if err != nil {
		return nil, fmt.Errorf("probe %s: %w", source, err)
	}
	var e found
	return &e, json.Unmarshal(out, &e)
}

// calibration counts, for each tenth of probability, how many references were said to be so
// probable, and how many of them are real.
type calibration [11]struct{ said, real int }

func (c *calibration) note(p float64, real bool) {
	b := &c[int(p*10)]
	if b.said++; real {
		b.real++
	}
}

func (c *calibration) String() string {
	var w strings.Builder
	w.WriteString("said to be    references   real\n")
	for i, b := range c {
		if b.said > 0 {
			fmt.Fprintf(&w, "%3d to %3d %%   %10d  %4.0f %%\n", i*10, min(100, i*10+10), b.said, 100*float64(b.real)/float64(b.said))
		}
	}
	return w.String()
}

// A score counts what was found rightly, made up and missed.
type score struct{ right, wrong, missed int }

func (s *score) add(o score) {
	s.right, s.wrong, s.missed = s.right+o.right, s.wrong+o.wrong, s.missed+o.missed
}

func (s score) String() string {
	p := float64(s.right) / float64(max(1, s.right+s.wrong))
	r := float64(s.right) / float64(max(1, s.right+s.missed))
	f := 0.0
	if p+r > 0 {
		f = 2 * p * r / (p + r)
	}
	return fmt.Sprintf("%6.3f %6.3f %6.3f", p, r, f)
}

// compare holds what was found against what was there, references of single columns and
// combined ones apart. Of each table the first key counts.
func compare(tables []*table, e *found, show bool, declared int, told *calibration) (single, combined, keys score) {
	truth := map[string]*score{}
	of := func(columns []string) *score {
		if len(columns) > 1 {
			return &combined
		}
		return &single
	}
	primary := map[string]string{}
	for _, t := range tables {
		for _, r := range t.refs {
			if !t.declares(r, declared) {
				truth[r.String()] = of(r.columns)
			}
		}
		if len(t.rows) > 1 && !t.beside {
			primary[t.name] = sorted(t.key)
		}
	}
	says := func(r foundReference) string {
		return reference{r.Table, r.Columns, r.Target, r.Target_Columns}.String()
	}
	for _, r := range e.Perhaps {
		told.note(r.Score, truth[says(r)] != nil)
	}
	for _, r := range e.References {
		if r.Declared {
			continue
		}
		s := truth[says(r)]
		if told.note(r.Score, s != nil); s != nil {
			s.right++
			delete(truth, says(r))
			continue
		}
		of(r.Columns).wrong++
		if show {
			fmt.Printf("  made up: %s  %.2f %v\n", says(r), r.Score, r.Score_Parts)
		}
	}
	for _, s := range truth {
		s.missed++
	}
	if show {
		for _, says := range slices.Sorted(maps.Keys(truth)) {
			fmt.Printf("  missed:  %s\n", says)
		}
	}
	for _, k := range e.Keys {
		want, ok := primary[k.Table]
		if !ok {
			continue
		}
		if delete(primary, k.Table); sorted(k.Columns) == want {
			keys.right++
			continue
		}
		keys.wrong++
		keys.missed++
		if show {
			fmt.Printf("  key of %s: %v, not %s\n", k.Table, k.Columns, want)
		}
	}
	keys.missed += len(primary)
	return single, combined, keys
}

func sorted(columns []string) string {
	c := slices.Sorted(slices.Values(columns))
	return strings.Join(c, ", ")
}
