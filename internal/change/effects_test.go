package change_test

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/change"
	"nexdal/test/golden"
	"nexdal/test/model"
)

// TestEffects: what each kind of change does to the model, field by field, or why it does
// not fit; what it and the way back are called; and the phase that it belongs to. The
// file is to be read when it changes.
func TestEffects(t *testing.T) {
	c := model.Random(1)
	var b strings.Builder
	for _, name := range slices.Sorted(maps.Keys(model.Abilities())) {
		can := model.Abilities()[name]
		told := map[string]bool{} // of kinds that do the same whatever the engine, once
		seen := map[string]int{}
		for _, ch := range model.Changes(c) {
			shape := model.Shape(ch)
			after := c.Clone()
			err := change.Apply(ch, after, can)
			if err != nil {
				shape += " fails"
			}
			if seen[shape]++; seen[shape] > 3 {
				continue
			}
			var text strings.Builder
			fmt.Fprintf(&text, "%s  [%s]\n", ch.Title(), change.Phase(ch))
			if err != nil {
				fmt.Fprintf(&text, "    does not fit: %v\n", err)
			}
			for _, d := range model.Differences(c, after) {
				fmt.Fprintf(&text, "    %s\n", d)
			}
			if err == nil {
				back, err := change.Plan{{Change: ch}}.Reverse(c, can)
				if err != nil {
					t.Fatal(err)
				}
				fmt.Fprintf(&text, "    back: %s  [%s]\n", back[0].Change.Title(), change.Phase(back[0].Change))
			}
			if !told[text.String()] && (name == "cluster" || !strings.Contains(b.String(), text.String())) {
				told[text.String()] = true
				fmt.Fprintf(&b, "%s: %s\n", name, text.String())
			}
		}
	}
	golden.Hold(t, "testdata/effects.txt", b.String())
}
