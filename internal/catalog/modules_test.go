package catalog

import (
	"slices"
	"testing"
)

// TestModules: every program is given, those of views and those without a text included, and who
// has seen enough gets no more.
func TestModules(t *testing.T) {
	t.Parallel()
	c := &Catalog{Schemas: []*Schema{
		{Name: "a", Tables: []*Table{{Name: "station", Triggers: []*Trigger{{Name: "t1", Definition: "x"}, {Name: "t2"}}}}, Views: []*View{{Name: "v", Triggers: []*Trigger{{Name: "t3", Definition: "y"}}}},
			Routines: []*Routine{{Kind: "procedure", Name: "p", Definition: "z"}}},
		{Name: "b", Routines: []*Routine{{Kind: "function", Name: "f", Returns: "integer"}}},
	}}
	want := []Module{{"trigger", "t1", "x", ""}, {"trigger", "t2", "", ""}, {"trigger", "t3", "y", ""}, {"procedure", "p", "z", ""}, {"function", "f", "", "integer"}}
	if got := slices.Collect(c.Modules()); !slices.Equal(got, want) {
		t.Errorf("%v, want %v", got, want)
	}
	for stop := range want {
		seen := 0
		for range c.Modules() {
			if seen++; seen > stop {
				break
			}
		}
		if seen != stop+1 {
			t.Errorf("after %d modules %d were seen", stop+1, seen)
		}
	}
}
