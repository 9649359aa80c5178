package fk

import (
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
)

// TestLacks: a value is none of the keys only where that is sure.
func TestLacks(t *testing.T) {
	text := func(s string) *string { return &s }
	number := func(s string) catalog.Constant { return catalog.Constant{Text: s, Number: true} }
	numbers := &evidence.Column{Rows: 100, Least: text("1"), Greatest: text("200")}
	few := &evidence.Column{Rows: 3, Values: []string{"a", "b", "7"}, Least: text("7"), Greatest: text("b")}
	for name, x := range map[string]struct {
		keys *evidence.Column
		v    catalog.Constant
		want bool
	}{
		"below":         {numbers, number("0"), true},
		"above":         {numbers, number("200.5"), true},
		"the least":     {numbers, number("1"), false},
		"the greatest":  {numbers, number("200"), false},
		"between":       {numbers, number("77"), false},
		"null":          {numbers, catalog.Constant{Null: true}, false},
		"a text":        {numbers, catalog.Constant{Text: "zz", Quoted: true}, false},
		"one of few":    {few, catalog.Constant{Text: "b", Quoted: true}, false},
		"none of few":   {few, catalog.Constant{Text: "c", Quoted: true}, true},
		"a few number":  {few, number("8"), true},
		"no rows":       {&evidence.Column{}, number("0"), false},
		"withheld":      {&evidence.Column{Rows: 100}, number("0"), false},
		"one end alone": {&evidence.Column{Rows: 100, Least: text("1")}, number("0"), false},
		"texts as ends": {&evidence.Column{Rows: 100, Least: text("a"), Greatest: text("z")}, number("0"), false},
	} {
		if got := lacks(x.keys, x.v); got != x.want {
			t.Errorf("%s: %v", name, got)
		}
	}
}
