package run

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/script"
)

// A stage makes twins: sessions that count the rows of their tables, and keep references
// only once they are told to.
type stage struct {
	engine.Rehearser
	twin      *twin
	fails     string // the step that does
	discarded int
}

type twin struct {
	engine.Runner
	sent  []string
	rows  map[string]int64
	keeps bool
	made  []string
	fail  func(sql string) error
}

func (s *stage) Scratch(context.Context, string, *catalog.Catalog) (engine.Runner, func(context.Context) error, error) {
	if s.fails == "scratch" {
		return nil, nil, errors.New("no room")
	}
	return s.twin, func(context.Context) error {
		if s.discarded++; s.fails == "discard" {
			return errors.New("in use")
		}
		return nil
	}, nil
}

func (s *stage) Twin(*catalog.Catalog) (*engine.Work, []engine.Loss) {
	return &engine.Work{Setup: []string{"setup"}, Steps: []engine.Step{{SQL: []string{"BEGIN", "create station", "create gauge", "create view", "COMMIT"}}}}, []engine.Loss{{Why: "because"}}
}

func (s *stage) SampleOf(t *catalog.Table, most int) string {
	return fmt.Sprintf("sample %s %d", t.Name, most)
}
func (s *stage) CountOf(ref catalog.Ref) string { return "count " + ref.Table }
func (s *stage) Kept() []string                 { return []string{"keep references"} }

func (s *twin) Place() string { return "the twin" }

func (s *twin) Exec(_ context.Context, sql string) error {
	s.sent = append(s.sent, sql)
	if s.fail != nil {
		if err := s.fail(sql); err != nil {
			return err
		}
	}
	verb, what, _ := strings.Cut(sql, " ")
	switch verb {
	case "keep":
		s.keeps = true
	case "create":
		s.made = append(s.made, what)
	case "insert":
		if table, rest, _ := strings.Cut(what, " "); rest == "orphan" && s.keeps {
			return said("787", false, false, false)
		} else {
			s.rows[table]++
		}
	case "lose":
		s.rows[what]--
	case "gain":
		s.rows[what]++
	}
	return nil
}

func (s *twin) Rollback(context.Context) error { s.keeps = false; return nil }

func (s *twin) Survey(context.Context) (*catalog.Catalog, error) {
	c := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "s"}}}
	for _, name := range s.made {
		if name != "view" {
			c.Schemas[0].Tables = append(c.Schemas[0].Tables, table(name))
		}
	}
	c.Sort()
	return c, nil
}

func (s *twin) Rows(_ context.Context, sql string, max int) ([]string, []engine.Row, error) {
	text := func(t string) engine.Row { return engine.Row{&t} }
	switch verb, what, _ := strings.Cut(sql, " "); verb {
	case "count":
		return nil, []engine.Row{text(fmt.Sprint(s.rows[what]))}, nil
	case "sample":
		if strings.HasPrefix(what, "station") {
			return nil, []engine.Row{text("insert station whole"), text("insert station whole")}, nil
		}
		return nil, []engine.Row{text("insert gauge whole"), text("insert gauge orphan"), text("insert gauge orphan"), text("insert gauge whole")}, nil
	}
	return nil, nil, nil
}

func table(name string) *catalog.Table {
	return &catalog.Table{Schema: "s", Name: name, Kind: catalog.Ordinary, Columns: []*catalog.Column{{Name: "id"}}}
}

func of(statements ...string) *script.Script {
	return &script.Script{Work: engine.Work{Steps: []engine.Step{{Title: "a step", SQL: statements}}}}
}

// TestRehearse: what a rehearsal says of rows and scripts is what came of them, and the
// twin is taken away whatever happens.
func TestRehearse(t *testing.T) {
	before := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "s", Tables: []*catalog.Table{table("gauge"), table("station")}}}}
	before.Schemas[0].Tables[0].Indexes = []*catalog.Index{{Name: "broken", Invalid: true}, {Name: "whole"}}
	run := func(s *stage, forth, back *script.Script, sample bool) (*Rehearsal, error) {
		s.twin = &twin{rows: map[string]int64{}, fail: func(sql string) error {
			if s.fails != "" && strings.Contains(sql, s.fails) {
				return said("refused", false, false, false)
			}
			return nil
		}}
		var with *Sample
		if sample {
			with = &Sample{Of: s.twin, Most: 9}
		}
		return Rehearse(t.Context(), s, "address", before, forth, back, with)
	}
	s := &stage{}
	r, err := run(s, of("lose station", "gain gauge"), of("gain station", "lose gauge"), true)
	if err != nil || r.Failed != nil || r.BackFailed != nil || s.discarded != 1 || r.Place != "the twin" || len(r.Losses) != 1 || r.Built == nil || r.After == nil || r.Back == nil {
		t.Fatalf("%v %+v", err, r)
	}
	if len(r.Mended) != 1 || r.Mended[0].Name != "broken" || !before.Schemas[0].Tables[0].Indexes[0].Invalid {
		t.Errorf("mended: %v", r.Mended)
	}
	if x := r.Rows; x.Loaded != 4 || x.Without != 2 || x.Tables != 2 || strings.Join(x.Fewer, "; ") != "s.station held 2, now 1" || strings.Join(x.More, "; ") != "s.gauge held 2, now 3" {
		t.Errorf("rows: %+v", x)
	}
	if strings.Join(s.twin.sent[:3], ", ") != "setup, create station, create gauge" {
		t.Errorf("sent: %v", s.twin.sent)
	}
	s = &stage{}
	if r, err = run(s, of("nothing"), of("gain gauge"), true); err != nil || len(r.Rows.Fewer) > 0 || strings.Join(r.Rows.More, "; ") != "s.gauge held 2, now 3" {
		t.Errorf("the way back gains a row: %v, %+v", err, r.Rows)
	}
	s = &stage{}
	if r, err = run(s, of("a", "b"), nil, false); err != nil || r.Rows != nil || r.Back != nil || r.After == nil || s.discarded != 1 {
		t.Errorf("without rows or way back: %v, %+v", err, r)
	}
	s = &stage{fails: "create view"}
	if r, err = run(s, of("a"), nil, true); err != nil || len(r.Unbuilt) != 1 || r.Unbuilt[0].SQL != "create view" || r.Unbuilt[0].Err == nil || r.Rows.Loaded != 4 {
		t.Errorf("a view that cannot be made: %v, %+v", err, r)
	}
	for _, c := range []struct {
		fails               string
		err, failed, backed bool
	}{{"scratch", true, false, false}, {"setup", true, false, false}, {"create gauge", true, false, false}, {"keep", true, false, false}, {"forth", false, true, false}, {"back", false, false, true}, {"discard", true, false, false}} {
		s := &stage{fails: c.fails}
		r, err := run(s, of("forth"), of("back"), true)
		if (err != nil) != c.err || err == nil && ((r.Failed != nil) != c.failed || (r.BackFailed != nil) != c.backed || (r.After == nil) != c.failed) {
			t.Errorf("%s fails: %v, %+v", c.fails, err, r)
		}
		if want := map[bool]int{true: 0, false: 1}[c.fails == "scratch"]; s.discarded != want {
			t.Errorf("%s fails: the twin is taken away %d times", c.fails, s.discarded)
		}
	}
}
