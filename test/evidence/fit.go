package main

import (
	"context"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"

	"gonum.org/v1/gonum/optimize"

	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlite"
	"nexdal/internal/evidence"
)

// A choice is a column, the traits of each key that it may refer to, and which of them it does
// refer to; -1 is none.
type choice struct {
	traits [][]float64
	right  int
}

// untaught are the styles that nothing is fitted on.
var untaught = []string{"no style", "mislead", "roles behind", "roles both"}

// fit looks at databases of all styles but a few, whose seeds are others than those that are
// measured, and writes the weights by which real references are told best from coincidences.
func fit(output string) error {
	listed, err := model()
	if err != nil {
		return err
	}
	folder, err := os.MkdirTemp("", "nexdal-fit")
	if err != nil {
		return err
	}
	defer os.RemoveAll(folder)
	var asked, unasked []choice
	n := 0
	gather := func(things []*thing, s style, z size, keyless, empty bool, declared int) error {
		n++
		tables := build(things, s, z, uint64(100_000+n))
		if empty {
			for _, t := range tables {
				t.rows = nil
			}
		}
		path := filepath.Join(folder, fmt.Sprintf("%d.db", n))
		if err := load(path, script(tables, keyless, declared)); err != nil {
			return err
		}
		defer os.Remove(path)
		a, u, err := choices(path, tables)
		if asked, unasked = append(asked, a...), append(unasked, u...); err != nil {
			return fmt.Errorf("%s, %s: %w", s.name, z.name, err)
		}
		return nil
	}
	for i, s := range styles {
		skip := false
		for _, name := range untaught {
			skip = skip || strings.Contains(s.name, name)
		}
		if skip {
			continue
		}
		for j, z := range sizes {
			seed := uint64(5000 + i*10 + j)
			for _, err := range []error{
				gather(listed, s, z, false, false, 0),
				gather(listed, s, z, true, false, 0),
				gather(large(60, seed), s, z, false, false, 0),
				gather(large(50, seed+1000), s, z, false, false, 50),
				gather(large(30, seed+2000), s, z, false, true, 0),
			} {
				if err != nil {
					return err
				}
			}
		}
		fmt.Fprintf(os.Stderr, "%s: %d and %d choices so far\n", s.name, len(asked), len(unasked))
	}
	var w strings.Builder
	w.WriteString("package evidence\n\n// These weights are fitted by \"make fit-evidence\"; do not edit them by hand.\n\n")
	w.WriteString("// byValues weighs the traits of candidates of which the data was asked.\n")
	write(&w, "byValues", logit(asked))
	w.WriteString("\n// byNameAlone weighs them where there is no data to ask.\n")
	write(&w, "byNameAlone", logit(unasked))
	return os.WriteFile(output, []byte(w.String()), 0o644)
}

// choices probes a database and lists what its columns may refer to.
func choices(path string, tables []*table) (asked, unasked []choice, err error) {
	ctx := context.Background()
	s, err := sqlite.Engine{}.Open(ctx, sqlite.Engine{}.FileURL(path), engine.Options{})
	if err != nil {
		return nil, nil, err
	}
	defer s.Close()
	c, err := s.Survey(ctx)
	if err != nil {
		return nil, nil, err
	}
	a, err := s.(engine.Prober).Asker(ctx)
	if err != nil {
		return nil, nil, err
	}
	truth := map[string]bool{}
	for _, t := range tables {
		for _, r := range t.refs {
			truth[r.String()] = true
		}
	}
	type last struct {
		choice
		asked bool
	}
	byColumn := map[string]last{} // of those that were looked at twice the second counts
	var order []string
	_, err = evidence.Discover(ctx, []evidence.Asker{a}, c, evidence.Options{KeyColumns: 4, Weighed: func(all []evidence.Reference, traits [][]float64, asked bool) {
		x := last{choice{traits, -1}, asked}
		for i, r := range all {
			if truth[(reference{r.Table, r.Columns, r.Target, r.TargetColumns}).String()] {
				x.right = i
			}
		}
		at := fmt.Sprint(all[0].Table, all[0].Columns, len(all[0].Columns) > 1, all[0].Target, all[0].TargetColumns)
		if len(all[0].Columns) == 1 {
			at = fmt.Sprint(all[0].Table, all[0].Columns)
		}
		if _, ok := byColumn[at]; !ok {
			order = append(order, at)
		}
		byColumn[at] = x
	}})
	for _, at := range order {
		if x := byColumn[at]; x.asked {
			asked = append(asked, x.choice)
		} else {
			unasked = append(unasked, x.choice)
		}
	}
	return asked, unasked, err
}

// given are weights of what the databases made here do not have: keys of several schemas and
// types, and unique constraints beside the primary key.
var given = map[string]float64{"otherType": -0.4, "otherSchema": -1.5, "keyUnique": -0.8}

// ridge keeps the weights of rare traits from growing without end.
const ridge = 1.0

// logit fits a conditional logit: the probability of a choice is its share of the exponents of
// all, with that of none, which is 1.
func logit(all []choice) []float64 {
	n := len(evidence.TraitNames)
	p := optimize.Problem{
		Func: func(w []float64) float64 {
			loss := 0.0
			for _, c := range all {
				shares, none := share(c, w)
				if c.right < 0 {
					loss -= math.Log(max(1e-12, none))
				} else {
					loss -= math.Log(max(1e-12, shares[c.right]))
				}
			}
			for _, v := range w {
				loss += ridge * v * v / 2
			}
			return loss
		},
		Grad: func(grad, w []float64) {
			for i := range grad {
				grad[i] = ridge * w[i]
			}
			for _, c := range all {
				shares, _ := share(c, w)
				for j, x := range c.traits {
					d := shares[j]
					if j == c.right {
						d--
					}
					for i, v := range x {
						grad[i] += d * v
					}
				}
			}
		},
	}
	result, err := optimize.Minimize(p, make([]float64, n), &optimize.Settings{GradientThreshold: 0.05, MajorIterations: 500}, &optimize.LBFGS{})
	if result == nil {
		panic(err)
	}
	fmt.Fprintf(os.Stderr, "%d choices, mean loss %.4f after %d steps\n", len(all), result.F/float64(len(all)), result.Stats.MajorIterations)
	return result.X
}

func share(c choice, w []float64) (shares []float64, none float64) {
	shares = make([]float64, len(c.traits))
	total := 1.0
	for j, x := range c.traits {
		s := 0.0
		for i, v := range x {
			s += v * w[i]
		}
		shares[j] = math.Exp(min(30, s))
		total += shares[j]
	}
	for j := range shares {
		shares[j] /= total
	}
	return shares, 1 / total
}

func write(w *strings.Builder, name string, weights []float64) {
	fmt.Fprintf(w, "var %s = traits{\n", name)
	for i, v := range weights {
		if g, ok := given[evidence.TraitNames[i]]; ok {
			v = g
		}
		fmt.Fprintf(w, "\t%s: %.2f,\n", evidence.TraitNames[i], v)
	}
	w.WriteString("}\n")
}
