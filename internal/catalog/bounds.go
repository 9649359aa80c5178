package catalog

import "time"

// Bounds are what part of a partitioned table takes, read from the engine's
// words.
type Bounds struct {
	Default  bool    // what no other part takes
	From, To []Bound // of a range: from the one on, up to but without the other
	Values   []Bound // of a list
	// Of a part by hash: it takes the rows whose hash leaves the remainder. Modulus 0: it
	// is none.
	Modulus, Remainder int
}

// UpTo gives the bounds of a part of a range that says only where it ends, as all parts of the
// table do: it begins where the one before it ends. ends reads where a part ends from its text.
func (t *Table) UpTo(text string, ends func(string) ([]Bound, bool)) (Bounds, bool) {
	var from []Bound
	for _, p := range t.Partitions {
		to, ok := ends(p.Bounds)
		if !ok {
			return Bounds{}, false
		}
		if from == nil {
			for range to {
				from = append(from, Bound{Text: "MINVALUE", Least: true})
			}
		}
		if p.Bounds == text {
			return Bounds{From: from, To: to}, true
		}
		from = to
	}
	return Bounds{}, false
}

// A Bound is one value in the bounds of a partition.
type Bound struct {
	Text     string // as the engine writes it, without quotes
	Least    bool   // below all values
	Greatest bool   // above all values
	// At is the moment that the value stands for, UTC, where the table is partitioned
	// by time; nil otherwise.
	At *time.Time
}
