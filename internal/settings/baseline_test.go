package settings

import (
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// structure is a database of these schemas, each with the tables a and b.
func structure(engine, database string, schemas ...string) *catalog.Catalog {
	c := &catalog.Catalog{Engine: catalog.Engine{Name: engine}, Database: database}
	for _, name := range schemas {
		c.Schemas = append(c.Schemas, &catalog.Schema{Name: name, Tables: []*catalog.Table{{Schema: name, Name: "a"}, {Schema: name, Name: "b"}}})
	}
	return c
}

func findingAt(r, schema, table string) rule.Finding {
	return rule.Finding{Rule: r, Table: catalog.Ref{Schema: schema, Table: table}}
}

func ids(findings []rule.Finding) string {
	var all []string
	for _, f := range findings {
		all = append(all, f.ID())
	}
	return strings.Join(all, ", ")
}

// TestBaseline: what a baseline holds is known, what it does not hold is new, and what is there no
// more is gone, unless the rule could not be judged; the name of the database does not matter, and
// a schema of another name is the one that is missing, where it is one alone.
func TestBaseline(t *testing.T) {
	was := []rule.Finding{findingAt("key/none", "s", "b"), findingAt("key/none", "s", "a"), findingAt("key/none", "s", "a"), findingAt("fk/violated", "s", "a"), {Rule: "fk/enforcement-off"}}
	b := BaselineOf(structure("sqlite", "d", "s"), was)
	if got := strings.Join(b.Findings, ", "); got != "fk/enforcement-off, fk/violated s.a, key/none s.a, key/none s.b" || b.Format != 2 || strings.Join(b.Tables, " ") != "s.a s.b" || strings.Join(b.Schemas, " ") != "s" {
		t.Errorf("%s %+v", got, b)
	}
	two := BaselineOf(structure("sqlite", "d", "p", "s"), was)
	old := &Baseline{Format: 1, Engine: "sqlite", Database: "d", Findings: b.Findings}
	for _, c := range []struct {
		name            string
		b               *Baseline
		c               *catalog.Catalog
		r               rule.Result
		fresh, known, g string
		fails           string
	}{
		{"the same", b, structure("sqlite", "d", "s"), rule.Result{Findings: was}, "", ids(was), "", ""},
		{"another name", b, structure("sqlite", "copy", "s"), rule.Result{Findings: []rule.Finding{findingAt("key/none", "s", "a"), findingAt("key/none", "s", "c"), findingAt("fk/missing", "s", "a")}, Unjudged: []rule.Unjudged{{Rule: "fk/violated"}}},
			"key/none s.c, fk/missing s.a", "key/none s.a", "fk/enforcement-off, key/none s.b", ""},
		{"another schema", b, structure("sqlite", "ci_7", "ci_7"), rule.Result{Findings: []rule.Finding{findingAt("key/none", "ci_7", "a"), findingAt("x/y", "ci_7", "a")}}, "x/y ci_7.a", "key/none ci_7.a", "fk/enforcement-off, fk/violated s.a, key/none s.b", ""},
		{"one of two", two, structure("sqlite", "d", "p", "q"), rule.Result{Findings: []rule.Finding{findingAt("key/none", "q", "a"), findingAt("key/none", "p", "a")}}, "key/none p.a", "key/none q.a", "fk/enforcement-off, fk/violated s.a, key/none s.b", ""},
		{"two for two", two, structure("sqlite", "d", "q", "r"), rule.Result{}, "", "", "", "no table in common"},
		{"another engine", b, structure("postgres", "d", "s"), rule.Result{}, "", "", "", "it is of sqlite"},
		{"format 1", old, structure("sqlite", "other", "s"), rule.Result{Findings: was[:1]}, "", "key/none s.b", "fk/enforcement-off, fk/violated s.a, key/none s.a", ""},
	} {
		s, err := c.b.Since(c.c, c.r)
		if (err == nil) != (c.fails == "") || err != nil && !strings.Contains(err.Error(), c.fails) {
			t.Errorf("%s: %v", c.name, err)
		}
		if ids(s.New) != c.fresh || ids(s.Known) != c.known || strings.Join(s.Gone, ", ") != c.g {
			t.Errorf("%s: new %s; known %s; gone %s", c.name, ids(s.New), ids(s.Known), s.Gone)
		}
	}
	for text, want := range map[string]string{`{"format":1,"kind":"baseline","findings":[]}`: "", `{"format":2,"kind":"baseline"}`: "", `{"format":3,"kind":"baseline"}`: "format 3", `{"format":0,"kind":"baseline"}`: "format 0", `{"format":1,"kind":"survey"}`: "no baseline", `{`: "not JSON", ``: "not JSON"} {
		_, err := ReadBaseline(strings.NewReader(text))
		if (err == nil) != (want == "") || err != nil && !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v", text, err)
		}
	}
}

// TestSources: a source is an address, or has all that belongs to it; its files lie where the
// settings do.
func TestSources(t *testing.T) {
	s, err := Read("house/nexdal.yaml", files(map[string]string{"house/nexdal.yaml": `sources:
  plain: a.db
  live:
    address: postgres://dba@db1/saltmere
    schemas: [salt*, tide]
    without: "*_old"
    evidence: live.json
    baseline: /known/live.json
    scratch: postgres://dba@test1/postgres
`}), nil)
	if err != nil {
		t.Fatal(err)
	}
	live := s.Sources["live"]
	if live.Address != "postgres://dba@db1/saltmere" || !slices.Equal(live.Schemas, []string{"salt*", "tide"}) || !slices.Equal(live.Without, []string{"*_old"}) ||
		live.Scratch != "postgres://dba@test1/postgres" || live.From != "house/nexdal.yaml, line 3" {
		t.Errorf("%+v", live)
	}
	if live.Beside(live.Evidence) != "house/live.json" || live.Beside(live.Baseline) != "/known/live.json" || live.Beside("") != "" || s.Sources["plain"].Beside(s.Sources["plain"].Address) != "house/a.db" {
		t.Errorf("the files of %+v", live)
	}
	for text, want := range map[string]string{
		"sources: {live: {schemas: [a]}}":                "line 1: source live takes an address",
		"sources: {live: }":                              "source live takes an address",
		"sources:\n  live: {address: a, schema: b}":      "line 2: a source has no key schema; nearest is schemas",
		"sources: {live: {address: [a]}}":                "address takes a text",
		"sources: {live: {address: a, without: {b: c}}}": "without takes a list of patterns",
		"sources: {live: {address: a, address: b}}":      "address is there twice",
	} {
		if _, err := Read("n.yaml", files(map[string]string{"n.yaml": text}), nil); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v", text, err)
		}
	}
}

// TestStrays: a pattern of tables that fits none is told, with its place, unless the engine cannot
// break the rule.
func TestStrays(t *testing.T) {
	rules := []*rule.Rule{{ID: "a/one"}, {ID: "b/two", Applies: func(can catalog.Abilities) bool { return can.Bounds != nil }}}
	s := &Settings{Rules: []Placed{
		{rule.Setting{Rule: "a/one", Table: "a"}, "n.yaml, line 1"}, {rule.Setting{Rule: "a/one", Table: "s.*"}, "n.yaml, line 2"}, {rule.Setting{Rule: "a/one"}, "n.yaml, line 3"},
		{rule.Setting{Rule: "a/*", Table: "pier*"}, "n.yaml, line 4"}, {rule.Setting{Rule: "a/*", Table: "pier*"}, "n.yaml, line 4"}, {rule.Setting{Rule: "b/two", Table: "quay"}, "n.yaml, line 5"}}}
	c := structure("sqlite", "d", "s")
	if got := strings.Join(s.Strays(c, rules, catalog.Abilities{}), "; "); got != `n.yaml, line 4: no table fits "pier*"` {
		t.Error(got)
	}
	bounds := catalog.Abilities{Bounds: func(*catalog.Table, string) (catalog.Bounds, bool) { return catalog.Bounds{}, false }}
	if got := s.Strays(c, rules, bounds); len(got) != 2 {
		t.Errorf("%q", got)
	}
}
