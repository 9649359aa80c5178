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
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
)

const program = "bin/nexdal"

func main() {
	only := flag.String("style", "", "only styles whose name holds this")
	show := flag.Bool("show", false, "list what was missed and what was made up")
	keyless := flag.Bool("keyless", false, "drop the primary keys as well")
	flag.Parse()
	if err := run(*only, *show, *keyless); err != nil {
		fmt.Fprintln(os.Stderr, "evidence:", err)
		os.Exit(1)
	}
}

func run(only string, show, keyless bool) error {
	things, err := model()
	if err != nil {
		return err
	}
	folder, err := os.MkdirTemp("", "nexdal-evidence")
	if err != nil {
		return err
	}
	defer os.RemoveAll(folder)
	fmt.Printf("%-32s %-12s %6s %6s %6s %6s %6s %6s   %s\n", "style", "rows", "P", "R", "F1", "keys P", "R", "F1", "questions")
	var all, allKeys score
	for i, s := range styles {
		if !strings.Contains(s.name, only) {
			continue
		}
		for j, z := range sizes {
			path := filepath.Join(folder, fmt.Sprintf("%d-%d.db", i, j))
			tables := build(things, s, z, uint64(i*10+j))
			if err := load(path, script(tables, keyless)); err != nil {
				return err
			}
			e, err := probe(path)
			if err != nil {
				return err
			}
			refs, keys := compare(tables, e, show)
			all.add(refs)
			allKeys.add(keys)
			columns := 0
			for _, t := range tables {
				columns += len(t.columns)
			}
			fmt.Printf("%-32s %-12s %s %s   %d of %d columns\n", s.name, z.name, refs, keys, e.Questions, columns)
		}
	}
	fmt.Printf("%-32s %-12s %s %s\n", "all", "", all, allKeys)
	return nil
}

// script builds the tables without foreign keys and without other indexes.
func script(tables []*table, keyless bool) string {
	var w strings.Builder
	w.WriteString("BEGIN;\n")
	for _, t := range tables {
		fmt.Fprintf(&w, "CREATE TABLE %q (", t.name)
		for i, c := range t.columns {
			if i > 0 {
				w.WriteString(", ")
			}
			fmt.Fprintf(&w, "%q %s", c.name, c.sql)
			if c.required {
				w.WriteString(" NOT NULL")
			}
		}
		if !keyless {
			fmt.Fprintf(&w, ", PRIMARY KEY (\"%s\")", strings.Join(t.key, `", "`))
		}
		w.WriteString(");\n")
		for i, r := range t.rows {
			switch {
			case i%200 == 0:
				fmt.Fprintf(&w, "INSERT INTO %q VALUES\n", t.name)
			default:
				w.WriteString(",\n")
			}
			w.WriteString("(" + strings.Join(r, ", ") + ")")
			if i%200 == 199 || i == len(t.rows)-1 {
				w.WriteString(";\n")
			}
		}
	}
	w.WriteString("COMMIT;\n")
	return w.String()
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
	References []struct {
		Table          string
		Columns        []string
		Target         string
		Target_Columns []string
		Score          float64
		Score_Parts    map[string]float64
	}
}

func probe(source string) (*found, error) {
	c := exec.Command(program, "probe", source)
	c.Stderr = os.Stderr
	out, err := c.Output()
	if err != nil {
		return nil, fmt.Errorf("probe %s: %w", source, err)
	}
	var e found
	return &e, json.Unmarshal(out, &e)
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

// compare holds what was found against what was there. Of each table the first
// key counts.
func compare(tables []*table, e *found, show bool) (refs, keys score) {
	truth := map[string]bool{}
	primary := map[string]string{}
	for _, t := range tables {
		for _, r := range t.refs {
			truth[r.String()] = true
		}
		if len(t.rows) > 1 {
			primary[t.name] = sorted(t.key)
		}
	}
	for _, r := range e.References {
		says := reference{r.Table, r.Columns, r.Target, r.Target_Columns}.String()
		if truth[says] {
			refs.right++
			delete(truth, says)
			continue
		}
		refs.wrong++
		if show {
			fmt.Printf("  made up: %s  %.2f %v\n", says, r.Score, r.Score_Parts)
		}
	}
	refs.missed = len(truth)
	if show {
		var list []string
		for says := range truth {
			list = append(list, says)
		}
		slices.Sort(list)
		for _, says := range list {
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
	return refs, keys
}

func sorted(columns []string) string {
	c := slices.Sorted(slices.Values(columns))
	return strings.Join(c, ", ")
}
