package catalog

import (
	"slices"
	"testing"
)

// TestModules: every program is met once, in an order that stays, and no more once the first is enough.
func TestModules(t *testing.T) {
	c := &Catalog{Schemas: []*Schema{{Name: "a",
		Tables:   []*Table{{Name: "t", Triggers: []*Trigger{{Name: "t1", Definition: "of t1"}, {Name: "t2"}}, Objects: []*Object{{Kind: "rule", Name: "r1", Definition: "of r1"}, {Kind: "policy", Name: "p"}}}},
		Views:    []*View{{Name: "v", Triggers: []*Trigger{{Name: "t3"}}, Objects: []*Object{{Kind: "rule", Name: "r2"}}}},
		Routines: []*Routine{{Kind: "function", Name: "f", Definition: "of f", Returns: "int"}},
		Objects:  []*Object{{Kind: "extension", Name: "x"}, {Kind: "event", Name: "e", Definition: "of e"}},
	}, {Name: "b", Routines: []*Routine{{Kind: "procedure", Name: "g"}}}}}
	want := []Module{{"trigger", "t1", "of t1", ""}, {"trigger", "t2", "", ""}, {"rule", "r1", "of r1", ""}, {"trigger", "t3", "", ""}, {"rule", "r2", "", ""}, {"function", "f", "of f", "int"}, {"event", "e", "of e", ""}, {"procedure", "g", "", ""}}
	got := slices.Collect(c.Modules())
	if !slices.Equal(got, want) {
		t.Errorf("%+v", got)
	}
	for i := range want {
		n := 0
		for range c.Modules() {
			if n++; n == i+1 {
				break
			}
		}
		if n != i+1 {
			t.Errorf("%d of the first %d", n, i+1)
		}
	}
}
