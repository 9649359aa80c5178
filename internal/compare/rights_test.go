package compare

import (
	"fmt"
	"testing"

	"nexdal/internal/catalog"
)

// TestRights: owners and grants of what both have are compared, where both know them.
func TestRights(t *testing.T) {
	with := func(edit func(s *catalog.Schema)) *catalog.Catalog {
		s := &catalog.Schema{Name: "s", Rights: catalog.Rights{Owner: "o"},
			Tables:    []*catalog.Table{{Schema: "s", Name: "t", Rights: catalog.Rights{Owner: "o", Grants: []catalog.Grant{{To: "r", What: "SELECT"}, {What: "UPDATE", Column: "c", By: "x", Grantable: true}}}}},
			Views:     []*catalog.View{{Name: "v", Rights: catalog.Rights{Owner: "o"}}},
			Sequences: []*catalog.Sequence{{Name: "q", Rights: catalog.Rights{Owner: "o"}}},
			Types:     []*catalog.UserType{{Name: "y", Rights: catalog.Rights{Owner: "o"}}},
			Routines:  []*catalog.Routine{{Name: "f", Rights: catalog.Rights{Owner: "o"}}}}
		edit(s)
		return &catalog.Catalog{Schemas: []*catalog.Schema{s}}
	}
	whole := func(*catalog.Schema) {}
	for name, c := range map[string]struct {
		edit func(s *catalog.Schema)
		says string
	}{
		"alike":           {whole, "[]"},
		"schema":          {func(s *catalog.Schema) { s.Owner = "p" }, "[{altered schema   s [{owner o p}] }]"},
		"table":           {func(s *catalog.Schema) { s.Tables[0].Owner = "p" }, "[{altered table s t t [{owner o p}] }]"},
		"grants":          {func(s *catalog.Schema) { s.Tables[0].Grants = nil }, "[{altered table s t t [{grants SELECT to r; UPDATE (c) to everybody by x, to grant on }] }]"},
		"view":            {func(s *catalog.Schema) { s.Views[0].Owner = "p" }, "[{altered view s  v [{owner o p}] }]"},
		"sequence":        {func(s *catalog.Schema) { s.Sequences[0].Owner = "p" }, "[{altered sequence s  q [{owner o p}] }]"},
		"of an identity":  {func(s *catalog.Schema) { s.Sequences[0].Owner, s.Sequences[0].Identity = "p", true }, "[]"},
		"type":            {func(s *catalog.Schema) { s.Types[0].Owner = "p" }, "[{altered type s  y [{owner o p}] }]"},
		"routine":         {func(s *catalog.Schema) { s.Routines[0].Owner = "p" }, "[{altered routine s  f() [{owner o p}] }]"},
		"gone":            {func(s *catalog.Schema) { s.Views = nil }, "[]"},
		"owner not known": {func(s *catalog.Schema) { s.Tables[0].Rights = catalog.Rights{} }, "[]"},
	} {
		if got := fmt.Sprint(Rights(with(whole), with(c.edit))); got != c.says {
			t.Errorf("%s: %s, not %s", name, got, c.says)
		}
	}
}
