package all

import (
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/test/golden"
	"nexdal/test/model"
)

// versions are what the engines are taken for.
var versions = map[string]string{"sqlite": "3.45.0", "postgres": "15.0", "mariadb": "10.11.6", "mysql": "8.0.36", "redshift": "1.0", "sqlserver": "16.0.4105.2", "oracle": "19.0.0.0.0", "bigquery": "v2", "mongodb": "7.0.5"}

// silent are changes for which there may be no statement: the engine does it by itself, or
// there is nothing to do.
var silent = map[string]bool{"NoReversal": true, "Undo of BackfillColumn": true}

// TestEachIsWrittenOrRefused: every engine writes a change and its way back, or says why
// it does not. docs/changes.md tells which.
func TestEachIsWrittenOrRefused(t *testing.T) {
	type outcome struct {
		written int
		refused map[string]int
	}
	table := map[string]map[string]*outcome{}
	var writers []engine.Writer
	for _, e := range Engines() {
		w, ok := e.(engine.Writer)
		if !ok {
			continue
		}
		writers = append(writers, w)
		can := e.Abilities(versions[e.Name()])
		for seed := range uint64(3) {
			c := model.Random(seed)
			c.Engine = catalog.Engine{Name: e.Name(), Version: versions[e.Name()]}
			fit(c, e)
			for _, ch := range model.Changes(c) {
				plan := change.Plan{{Change: ch, Answers: []string{"x/y"}}}
				after, err := plan.Apply(c, can)
				if err != nil {
					continue // it does not fit
				}
				if table[model.Shape(ch)] == nil {
					table[model.Shape(ch)] = map[string]*outcome{}
				}
				o := table[model.Shape(ch)][e.Name()]
				if o == nil {
					o = &outcome{refused: map[string]int{}}
					table[model.Shape(ch)][e.Name()] = o
				}
				if why := engine.Refuses(w, c, ch); why != "" {
					if strings.TrimSpace(why) != why || strings.HasSuffix(why, ".") {
						t.Errorf("%s: %s: %q is no part of a sentence", e.Name(), ch.Title(), why)
					}
					o.refused[general(why)]++
					continue
				}
				work, err := w.Write(c, after, plan)
				if err != nil {
					o.refused[general(err.Error())]++
					continue
				}
				o.written++
				written(t, e.Name(), plan, work)
				back, err := plan.Reverse(c, can)
				if err != nil {
					t.Errorf("%s: %s: %v", e.Name(), ch.Title(), err)
					continue
				}
				undo, err := w.Write(after, c, back)
				if err != nil {
					t.Errorf("%s: %s is written, and its way back is not: %v", e.Name(), ch.Title(), err)
					continue
				}
				written(t, e.Name(), back, undo)
			}
		}
	}
	var b strings.Builder
	b.WriteString("# Changes and engines\n\nWhich changes of a structure each engine is sent, and why it is not sent the others. Made by\n`go test ./internal/engine/all -update` from what the engines say of random structures: a reason\nmay hold for some tables alone.\n\n| change |")
	for _, w := range writers {
		b.WriteString(" " + w.Title() + " |")
	}
	b.WriteString("\n|---|" + strings.Repeat("---|", len(writers)) + "\n")
	for _, k := range sorted(table) {
		b.WriteString("| " + k + " |")
		for _, w := range writers {
			o := table[k][w.Name()]
			var says []string
			if o == nil {
				says = append(says, "does not fit")
			} else {
				if o.written > 0 {
					says = append(says, "yes")
				}
				for _, why := range sorted(o.refused) {
					says = append(says, "no: "+why)
				}
			}
			b.WriteString(" " + strings.ReplaceAll(strings.Join(says, "<br>"), "|", "\\|") + " |")
		}
		b.WriteString("\n")
	}
	golden.Hold(t, "../../../docs/changes.md", b.String())
}

// fit leaves of a random structure what the engine could hold, and gives tables the texts
// that SQLite keeps of them.
func fit(c *catalog.Catalog, e engine.Engine) {
	if e.Name() == "sqlserver" { // where every default has a name
		for _, t := range c.Tables() {
			for _, col := range t.Columns {
				if col.Default != "" {
					col.DefaultName = "DF_" + col.Name
				}
			}
		}
	}
	if e.Name() == "mongodb" { // where conditions are documents
		for _, t := range c.Tables() {
			for _, x := range t.Indexes {
				if x.Predicate != "" {
					x.Predicate = `{"level":{"$gt":0}}`
				}
			}
		}
	}
	if e.Name() != "sqlite" {
		return
	}
	s := c.Schema("saltmere")
	*c = catalog.Catalog{Engine: c.Engine, Schemas: []*catalog.Schema{{Name: s.Name, Tables: s.Tables, Views: s.Views}}}
	s = c.Schemas[0]
	s.Tables = slices.DeleteFunc(s.Tables, func(t *catalog.Table) bool {
		return t.Kind != catalog.Ordinary || t.PartitionBy != nil || t.PartitionOf != nil
	})
	for _, t := range s.Tables {
		t.Definition = ""
		for _, col := range t.Columns {
			col.Default = "" // from sequences, which SQLite has none of
		}
		for _, x := range t.Indexes {
			x.Definition = ""
		}
	}
	made, _ := e.(engine.Creator).Create(c)
	var texts []string
	for _, st := range made.Steps {
		for _, sql := range st.SQL {
			if strings.HasPrefix(sql, "CREATE TABLE") {
				texts = append(texts, sql[strings.IndexByte(sql, '('):])
			}
		}
	}
	for i, t := range s.Tables {
		t.Definition = texts[i]
	}
}

// general takes the names out of a reason, so that it is told once.
func general(why string) string {
	why, _, _ = strings.Cut(why, " by range (")
	words := strings.Fields(why)
	for i, w := range words {
		bare := strings.Trim(w, "(),.:;\"")
		if strings.ContainsAny(bare, "_.") || slices.Contains([]string{"station", "gauge", "reading", "visit", "id", "code", "name"}, bare) || strings.HasPrefix(bare, "note_") {
			words[i] = strings.Replace(w, bare, "…", 1)
		}
	}
	return strings.Join(words, " ")
}

func sorted[T any](m map[string]T) []string {
	var keys []string
	for k := range m {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}

// written holds the steps of a plan to what every step must have.
func written(t *testing.T, name string, plan change.Plan, work *engine.Work) {
	t.Helper()
	title := plan[0].Change.Title()
	if len(work.Steps) == 0 && !silent[model.Kind(plan[0].Change)] {
		t.Errorf("%s: %s: nothing is sent", name, title)
	}
	for i, st := range work.Steps {
		switch {
		case st.Title == "" || st.Lock == "" || len(st.SQL) == 0:
			t.Errorf("%s: %s, step %d lacks a title, its lock or statements: %+v", name, title, i+1, st)
		case len(st.Changes) == 0 || st.Changes[0] != 0:
			t.Errorf("%s: %s, step %d carries out %v", name, title, i+1, st.Changes)
		case len(st.Answers) != 1 || st.Answers[0] != "x/y":
			t.Errorf("%s: %s, step %d answers %v", name, title, i+1, st.Answers)
		}
		begins, commits := 0, 0
		for _, sql := range st.SQL {
			if strings.HasPrefix(sql, "SET TRANSACTION READ WRITE") {
				begins++
			}
			if sql == "COMMIT" {
				commits++
			}
		}
		begun := begins > 0 || slices.ContainsFunc(st.SQL, func(sql string) bool {
			return strings.HasPrefix(sql, "BEGIN") && !strings.HasPrefix(sql, "BEGIN NOT ATOMIC") && !strings.HasSuffix(sql, "END;") // a block
		})
		ended := slices.Contains(st.SQL, "COMMIT")
		if begins > 0 && begins != commits || begins < 2 && (begun != ended || begun && !st.Transaction) || begins > 1 && (st.Transaction || st.CleanUp == "") {
			t.Errorf("%s: %s, step %d: begun %v, ended %v, a transaction %v", name, title, i+1, begun, ended, st.Transaction)
		}
		for _, sql := range st.SQL {
			if strings.TrimSpace(sql) == "" || strings.Contains(sql, "%!") {
				t.Errorf("%s: %s, step %d sends %q", name, title, i+1, sql)
			}
		}
	}
	for _, q := range work.Preflight {
		if q.Step < 1 || q.Step > len(work.Steps) || q.Title == "" || q.SQL == "" || strings.Contains(q.SQL, "%!") || len(q.Answers) != 1 {
			t.Errorf("%s: %s asks %+v", name, title, q)
		}
	}
}
