package cli

import (
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

// TestPatterns: commas part patterns, but not within quotes or brackets; names in quotes are the
// names, and a flag that is given twice adds.
func TestPatterns(t *testing.T) {
	for _, c := range []struct {
		given []string
		want  []string
	}{
		{[]string{"a,b"}, []string{"a", "b"}},
		{[]string{" a , b ,", ""}, []string{"a", "b"}},
		{[]string{"a", "b*,c?"}, []string{"a", "b*", "c?"}},
		{[]string{`"a,b",c`}, []string{"a,b", "c"}},
		{[]string{`main."a,b"`}, []string{"main.a,b"}},
		{[]string{`"say ""hello"", twice"`}, []string{`say "hello", twice`}},
		{[]string{"fk/x t (a, b) to c,fk/y"}, []string{"fk/x t (a, b) to c", "fk/y"}},
		{[]string{"a),b"}, []string{"a)", "b"}},
		{[]string{`a"b`}, []string{`a"b`}},
	} {
		var p patterns
		for _, s := range c.given {
			if err := p.Set(s); err != nil {
				t.Fatal(err)
			}
		}
		if !slices.Equal(p, c.want) {
			t.Errorf("%q: %q, want %q", c.given, []string(p), c.want)
		}
	}
	p := patterns{"a", "b"}
	if p.String() != "a,b" || p.Type() != "patterns" {
		t.Error(p.String(), p.Type())
	}
}

// TestFileOf: a file is named after the source, with nothing that a file system minds, and no two alike.
func TestFileOf(t *testing.T) {
	taken := map[string]bool{}
	for _, c := range [][2]string{
		{"saltmere.db", "saltmere"}, {"old/saltmere.json", "saltmere-2"}, {"SALTMERE.db", "SALTMERE-3"}, {"live", "live"}, {"postgres://dba@db1/saltmere_live?sslmode=disable", "saltmere_live"},
		{"mariadb://dba@db1/", "dba_db1"}, {"sqlite:harbours.db", "sqlite_harbours"}, {"a*b?.db", "a_b_"}, {".hidden", "source"}, {"-", "-"},
	} {
		if got := fileOf(c[0], taken); got != c[1] {
			t.Errorf("%s: %s, want %s", c[0], got, c[1])
		}
	}
}

// TestPick: each filter leaves what it names, several leave what all of them name, and what names
// nothing is a mistake that says what is nearest.
func TestPick(t *testing.T) {
	c := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "s", Tables: []*catalog.Table{{Schema: "s", Name: "station"}, {Schema: "s", Name: "gauge"}, {Schema: "s", Name: "gauge_model"}}}}}
	rules := []*rule.Rule{{ID: "key/none"}, {ID: "key/wide"}, {ID: "fk/missing"}}
	at := func(id, table string, s rule.Severity, of rule.Consequence, fixes ...string) rule.Finding {
		f := rule.Finding{Rule: id, Table: catalog.Ref{Schema: "s", Table: table}, Severity: s, Consequence: of}
		for _, x := range fixes {
			f.Fixes = append(f.Fixes, rule.Fix{ID: x, Ask: true, Changes: []change.Change{}})
		}
		return f
	}
	list := []rule.Finding{
		at("key/none", "station", rule.Error, rule.Unprotected, "number", "promote"), at("key/none", "gauge", rule.Error, rule.Unprotected, "number"), at("key/wide", "gauge_model", rule.Warning, rule.Slow, "number"),
		at("fk/missing", "gauge", rule.Notice, rule.FailsNow), {Rule: "fk/missing", Severity: rule.Warning, Consequence: rule.WrongNow, Decision: &rule.Decision{Verdict: "choose"}},
	}
	for _, x := range []struct {
		name, want, fails string
		s                 selection
	}{
		{"all", "key/none s.station, key/none s.gauge, key/wide s.gauge_model, fk/missing s.gauge, fk/missing", "", selection{}},
		{"rule", "key/none s.station, key/none s.gauge", "", selection{rules: patterns{"key/none"}}},
		{"rules", "key/none s.station, key/none s.gauge, key/wide s.gauge_model", "", selection{rules: patterns{"key/*"}}},
		{"area", "fk/missing s.gauge, fk/missing", "", selection{areas: patterns{"fk"}}},
		{"table", "key/none s.gauge, fk/missing s.gauge", "", selection{tables: patterns{"gauge"}}},
		{"tables", "key/none s.gauge, key/wide s.gauge_model, fk/missing s.gauge", "", selection{tables: patterns{"s.gauge*"}}},
		{"consequence", "fk/missing s.gauge, fk/missing", "", selection{consequences: patterns{"* now"}}},
		{"severity", "key/none s.station, key/none s.gauge, key/wide s.gauge_model, fk/missing", "", selection{severity: "warning"}},
		{"finding", "key/none s.gauge", "", selection{findings: []string{"key/none s.gauge"}}},
		{"findings", "key/none s.gauge, fk/missing s.gauge", "", selection{findings: []string{"* s.gauge"}}},
		{"decided", "fk/missing", "", selection{decided: true}},
		{"several", "key/none s.gauge", "", selection{areas: patterns{"key"}, tables: patterns{"gauge"}}},
		{"none of these", "", "", selection{areas: patterns{"fk"}, tables: patterns{"station"}}},
		{"no such rule", "", "nearest is key/none", selection{rules: patterns{"key/non"}}},
		{"no such area", "", "--area: there is no kez; nearest is key", selection{areas: patterns{"kez"}}},
		{"no such consequence", "", "nearest is slow", selection{consequences: patterns{"slo"}}},
		{"no such table", "", "near it are", selection{tables: patterns{"guage"}}},
		{"no such severity", "", "--severity takes", selection{severity: "bad"}},
		{"no such finding", "", "there is no finding key/none s.pier", selection{findings: []string{"key/none s.pier"}}},
		{"a fix for all", "key/none s.station, key/none s.gauge, key/wide s.gauge_model, fk/missing s.gauge, fk/missing", "", selection{choices: []string{"number"}}},
		{"no such fix", "", "there is no fix numbre here; there are number, promote", selection{choices: []string{"numbre"}}},
		{"no such fix of a rule", "", "key/wide offers no fix promote here; it offers number", selection{choices: []string{"key/wide=promote"}}},
		{"none has a fix", "", "none of these findings has a fix", selection{areas: patterns{"fk"}, choices: []string{"number"}}},
		{"two fixes", "", "asks for both promote and number of key/none", selection{choices: []string{"key/none=promote", "key/none=number"}}},
	} {
		picked, err := x.s.pick(c, list, rules)
		if (err == nil) != (x.fails == "") || err != nil && !strings.Contains(err.Error(), x.fails) {
			t.Errorf("%s: %v", x.name, err)
			continue
		}
		var ids []string
		for _, f := range picked {
			ids = append(ids, f.ID())
		}
		if got := strings.Join(ids, ", "); got != x.want {
			t.Errorf("%s: %s, want %s", x.name, got, x.want)
		}
	}
	picked, err := (&selection{choices: []string{"key/none=promote"}}).pick(c, list, rules)
	if err != nil || picked[0].Fixes[0].ID != "promote" || picked[0].Fixes[0].Ask || picked[0].Fixes[1].ID != "number" || picked[1].Fixes[0].ID != "number" || !picked[1].Fixes[0].Ask || list[0].Fixes[0].ID != "number" {
		t.Errorf("%v %+v; the list: %+v", err, picked[0].Fixes, list[0].Fixes)
	}
	s := selection{areas: patterns{"key"}, findings: []string{"key/none s.gauge"}}
	if !s.about("key/none") || s.about("key/wide") || s.about("fk/missing") || !(&selection{}).about("fk/missing") || !s.narrow() || (&selection{choices: []string{"x"}}).narrow() {
		t.Error("which rules findings were asked of")
	}
}
