package script_test

import (
	"fmt"
	"reflect"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/compare"
	"nexdal/internal/engine"
	"nexdal/internal/engine/mariadb"
	"nexdal/internal/engine/postgres"
	"nexdal/internal/engine/sqlite"
	"nexdal/internal/script"
	"nexdal/test/golden"
	"nexdal/test/model"
)

// writer is an engine that scripts are written for here.
type writer interface {
	engine.Writer
	script.Quoter
}

var writers = map[string]writer{"postgres": postgres.Engine{}, "mariadb": mariadb.Engine{}}

var versions = map[string]string{"postgres": "15.0", "mariadb": "10.11.6"}

func catalogFor(name string, seed uint64) *catalog.Catalog {
	c := model.Random(seed)
	c.Engine = catalog.Engine{Name: name, Version: versions[name]}
	return c
}

// carried makes a script of each change alone that the engine can be sent.
func carried(t *testing.T, visit func(t *testing.T, w writer, can catalog.Abilities, ch change.Change, p *script.Pair)) {
	for name, w := range writers {
		c, can := catalogFor(name, 1), w.Abilities(versions[name])
		n := 0
		for _, ch := range few(model.Changes(c), 6) {
			if p, err := script.Carry(w, c, can, []change.Change{ch}, "changes"); err == nil {
				n++
				visit(t, w, can, ch, p)
			}
		}
		if n < 20 {
			t.Errorf("%s: %d changes alone can be carried out", name, n)
		}
	}
}

// few takes so many of each kind, and with -short one.
func few(all []change.Change, most int) (some []change.Change) {
	if testing.Short() {
		most = 1
	}
	seen := map[string]int{}
	for _, ch := range all {
		if seen[model.Shape(ch)]++; seen[model.Shape(ch)] <= most {
			some = append(some, ch)
		}
	}
	return some
}

var place = regexp.MustCompile(`\d+`)

// TestPairs: a script fits what it was made for and not what it leads to, its reversal the
// other way about; both are read back as they were written; each step of the one says which
// of the other take it back, and every one of those is named; and what is not taken back is
// said.
func TestPairs(t *testing.T) {
	t.Parallel()
	carried(t, func(t *testing.T, w writer, can catalog.Abilities, ch change.Change, p *script.Pair) {
		title := w.Name() + ": " + ch.Title()
		if !p.Forth.Fits(p.Before) || !p.Back.Fits(p.After) {
			t.Errorf("%s: fits what it was made for: %v, its reversal: %v", title, p.Forth.Fits(p.Before), p.Back.Fits(p.After))
		}
		moved := false // what the script tells by is altered
		for _, ref := range p.Forth.Tables {
			moved = moved || !reflect.DeepEqual(p.Before.Comparable().Table(ref), p.After.Comparable().Table(ref))
		}
		if moved && (p.Forth.Fits(p.After) || p.Back.Fits(p.Before)) {
			t.Errorf("%s: fits what it leads to: %v, its reversal what was before: %v", title, p.Forth.Fits(p.After), p.Back.Fits(p.Before))
		}
		if on := ch.On(); on != (catalog.Ref{}) && !slices.Contains(p.Forth.Tables, on) {
			t.Errorf("%s: the script is not about %s: %s", title, on, p.Forth.Tables)
		}
		if p.Forth.Back != "reversal" || p.Back.Back != "undoes" || p.Forth.Kind != "Script of changes" || p.Back.Kind != "Reversal of a script of changes" {
			t.Errorf("%s: it is a %q with a %s, and a %q that %s", title, p.Forth.Kind, p.Forth.Back, p.Back.Kind, p.Back.Back)
		}
		for _, s := range []*script.Script{p.Forth, p.Back} {
			back, err := script.Read(s.Text([]string{"nexdal run x.sql"}), w.Dialect())
			if err != nil {
				t.Errorf("%s: %v", title, err)
				continue
			}
			if len(back.Steps) != len(s.Steps) || len(back.Preflight) != len(s.Preflight) || back.Structure != s.Structure || back.Edited {
				t.Errorf("%s: is read back as %d steps, %d questions, edited: %v", title, len(back.Steps), len(back.Preflight), back.Edited)
				continue
			}
			for i := range s.Steps {
				if !slices.EqualFunc(back.Steps[i].SQL, s.Steps[i].SQL, func(a, b string) bool { return a == strings.TrimSpace(b) }) {
					t.Errorf("%s: step %d is read back as %q, was %q", title, i+1, back.Steps[i].SQL, s.Steps[i].SQL)
				}
			}
		}
		_, isColumn := ch.(change.DropColumn)
		back, err := change.Plan{{Change: ch}}.Reverse(p.Before, can)
		if err != nil {
			t.Fatal(err)
		}
		_, none := back[0].Change.(change.NoReversal)
		if (len(p.Forth.Stays) > 0) != (none || isColumn) {
			t.Errorf("%s: of what stays it says %q", title, p.Forth.Stays)
		}
		if (p.Returned != nil) && !none && len(p.Forth.Stays) == 0 {
			t.Errorf("%s: does not lead back, and it does not say so: %s", title, model.Diff(p.Before.Comparable(), p.Returned.Comparable()))
		}
		named := map[string]bool{}
		for _, s := range p.Forth.Places {
			for _, n := range place.FindAllString(s, -1) {
				named[n] = true
			}
		}
		taking := 0 // steps that take something back
		for _, st := range p.Back.Steps {
			if !st.Passing {
				taking++
			}
		}
		if len(p.Forth.Places) != len(p.Forth.Steps) || len(named) != taking {
			t.Errorf("%s: of %d steps back, %d are named: %q", title, len(p.Back.Steps), len(named), p.Forth.Places)
		}
	})
}

// TestCarryRefuses: what cannot be written, and what does not fit, is an error that says so,
// and nothing is written of the rest.
func TestCarryRefuses(t *testing.T) {
	t.Parallel()
	for name, w := range writers {
		c, can := catalogFor(name, 1), w.Abilities(versions[name])
		station := catalog.Ref{Schema: "saltmere", Table: "station"}
		fine := change.SetNullable{Table: station, Column: "name", Nullable: !c.Table(station).Column("name").Nullable}
		for _, ch := range []change.Change{
			change.SetNullable{Table: catalog.Ref{Schema: "saltmere", Table: "nowhere"}, Column: "x"},
			change.DropIndex{Table: station, Name: "nowhere"},
			change.SetSpread{Table: station},
		} {
			p, err := script.Carry(w, c, can, []change.Change{fine, ch}, "changes")
			if err == nil || !strings.HasPrefix(err.Error(), ch.Title()+": ") || p != nil {
				t.Errorf("%s: %s: %v", name, ch.Title(), err)
			}
		}
	}
}

// TestParts: the parts of a script, one after the other, lead where the whole does; each fits
// what the one before leads to.
func TestParts(t *testing.T) {
	t.Parallel()
	for name, w := range writers {
		c, can := catalogFor(name, 1), w.Abilities(versions[name])
		pair := several(t, w, c, can)
		for how, split := range map[string]func(engine.Writer, *script.Pair, catalog.Abilities) ([]script.Part, error){"table": script.ByTable, "phase": script.ByPhase} {
			parts, err := split(w, pair, can)
			if err != nil || len(parts) < 2 {
				t.Fatalf("%s by %s: %d parts, %v", name, how, len(parts), err)
			}
			at, steps, names, findings := pair.Before, 0, []string{}, 0
			for i, part := range parts {
				if !part.Forth.Fits(at) {
					t.Errorf("%s by %s: part %s does not fit what is there then", name, how, part.Name)
				}
				at, steps, names = part.After, steps+len(part.Forth.Steps), append(names, part.Name)
				findings += part.Forth.Findings
				if want := fmt.Sprintf("Script of changes, part %d of %d: %s", i+1, len(parts), part.Name); part.Forth.Kind != want {
					t.Errorf("%s by %s: %q, want %q", name, how, part.Forth.Kind, want)
				}
				if (len(part.Forth.Left) > 0) != (i == len(parts)-1 && len(pair.Forth.Left) > 0) {
					t.Errorf("%s by %s: part %s leaves %v", name, how, part.Name, part.Forth.Left)
				}
				for _, ref := range part.Forth.Tables {
					for _, other := range parts[i+1:] {
						if how == "table" && slices.Contains(other.Forth.Tables, ref) {
							t.Errorf("%s: %s is in the parts %s and %s", name, ref, part.Name, other.Name)
						}
					}
				}
			}
			if d := model.Diff(at.Comparable(), pair.After.Comparable()); d != "" {
				t.Errorf("%s by %s: the parts lead elsewhere: %s", name, how, d)
			}
			if s := slices.Clone(names); len(slices.Compact(s)) != len(names) || steps < len(parts) { // a part may do at once what stood apart
				t.Errorf("%s by %s: %v, %d steps of %d", name, how, names, steps, len(pair.Forth.Steps))
			}
		}
	}
	if _, err := script.ByPhase(sqlite.Engine{}, nil, sqlite.Engine{}.Abilities("3.45.0")); err == nil {
		t.Error("SQLite rebuilds a table once: there are no phases")
	}
}

// several is a script of changes of every phase.
func several(t *testing.T, w engine.Writer, c *catalog.Catalog, can catalog.Abilities) *script.Pair {
	t.Helper()
	var all []change.Change
	taken := map[string]bool{}
	for _, ch := range model.Changes(c) {
		switch ch.(type) {
		case change.AddColumn, change.AlterType, change.AddCheck, change.CreateIndex, change.AddForeignKey, change.DropForeignKey, change.DropColumn, change.SetComment, change.SetDefault, change.AddLookupTable, change.DropCheck:
		default:
			continue
		}
		kind := model.Shape(ch) + ch.On().String()
		if taken[kind] || len(all) >= 24 {
			continue
		}
		if p, err := script.Carry(w, c, can, append(slices.Clone(all), ch), "changes"); err == nil && p != nil {
			taken[kind] = true
			all = append(all, ch)
		}
	}
	p, err := script.Carry(w, c, can, all, "changes")
	if err != nil {
		t.Fatal(err)
	}
	p.Forth.Left = []script.Left{{Finding: "name/x saltmere.y", Message: "is called oddly", Why: "names are yours to choose"}}
	return p
}

// TestChangeLeaves: what a script of changes does not bring about, it says.
func TestChangeLeaves(t *testing.T) {
	t.Parallel()
	for name, w := range writers {
		from, can := catalogFor(name, 1), w.Abilities(versions[name])
		for _, ch := range few(model.Changes(from), 2) {
			to := from.Clone()
			if change.Apply(ch, to, can) != nil {
				continue
			}
			for _, drops := range []bool{true, false} {
				p, err := script.Change(w, from, to, can, compare.Wanted{Drops: drops})
				if err != nil {
					t.Errorf("%s: towards %s: %v", name, ch.Title(), err)
					continue
				}
				left := compare.Catalogs(p.After.Comparable(), to.Comparable(), compare.Options{Without: []string{"order"}})
				if len(p.Forth.Left) < len(left) || p.Forth.LeftAs != "difference" || p.Forth.Kind != "Script of changes" || p.Back.Kind != "Reversal of a script of changes" {
					t.Errorf("%s: towards %s: %d differences are left, %v said", name, ch.Title(), len(left), p.Forth.Left)
				}
				for _, l := range p.Forth.Left {
					if l.Finding == "" || l.Message == "" {
						t.Errorf("%s: towards %s: %+v", name, ch.Title(), l)
					}
				}
				if only, err := script.Change(w, from, to, can, compare.Wanted{Drops: drops, Tables: []string{"nowhere.*"}}); err != nil || len(only.Forth.Steps)+len(only.Forth.Left) > 0 {
					t.Errorf("%s: towards %s: nothing is wanted, and there are %d steps and %v is left (%v)", name, ch.Title(), len(only.Forth.Steps), only.Forth.Left, err)
				}
			}
		}
	}
}

// TestLoads: what is put aside for a load is put back as it was; what does not stand in the
// way stays; unchecked references are said to be so.
func TestLoads(t *testing.T) {
	t.Parallel()
	gauge := catalog.Ref{Schema: "saltmere", Table: "gauge"}
	for name, w := range writers {
		c, can := catalogFor(name, 1), w.Abilities(versions[name])
		for _, load := range []script.Load{{}, {Indexes: true}, {Triggers: true}, {Unchecked: true}, {Indexes: true, Triggers: true, Unchecked: true}} {
			load.Tables = []catalog.Ref{gauge}
			p, orphans, err := script.Bulkload(w, c, can, load)
			if err != nil {
				t.Fatalf("%s: %+v: %v", name, load, err)
			}
			loaded := p.After.Table(gauge)
			if n := len(loaded.ForeignKeys); n > 0 {
				t.Errorf("%s: %+v: %d foreign keys stand in the way", name, load, n)
			}
			for _, other := range p.After.Tables() {
				for _, f := range other.ForeignKeys {
					if f.Target == gauge && !f.Inherited {
						t.Errorf("%s: %+v: %s of %s stands in the way", name, load, f.Name, other.Ref())
					}
				}
			}
			on := slices.ContainsFunc(loaded.Triggers, func(g *catalog.Trigger) bool { return g.Enabled != "disabled" })
			if on == load.Triggers && name == "postgres" {
				t.Errorf("%s: %+v: triggers fire: %v", name, load, on)
			}
			if d := model.Diff(c.Table(catalog.Ref{Schema: "saltmere", Table: "station"}).Indexes, p.After.Table(catalog.Ref{Schema: "saltmere", Table: "station"}).Indexes); d != "" && name == "postgres" {
				t.Errorf("%s: %+v: station is not loaded: %s", name, load, d)
			}
			if len(orphans) == 0 {
				t.Errorf("%s: %+v: nothing is asked about rows that refer to nothing", name, load)
			}
			if unchecked := len(p.Back.Left) > 0; unchecked != load.Unchecked || load.Unchecked != (len(p.Back.Preflight) == 0) {
				t.Errorf("%s: %+v: %v is left, %d questions", name, load, p.Back.Left, len(p.Back.Preflight))
			}
			if p.Forth.Kind != "Script before a bulk load" || p.Back.Kind != "Script after a bulk load" {
				t.Errorf("%q and %q", p.Forth.Kind, p.Back.Kind)
			}
		}
	}
}

// TestTexts: whole scripts, as a DBA gets them. The files are to be read when they change.
func TestTexts(t *testing.T) {
	t.Parallel()
	for name, w := range writers {
		c, can := catalogFor(name, 1), w.Abilities(versions[name])
		c.Database, c.Surveyed = "salt;mere", time.Date(2026, 11, 23, 8, 0, 0, 0, time.UTC)
		p := several(t, w, c, can)
		p.Forth.Program, p.Forth.Reversal, p.Forth.Before, p.Forth.After, p.Forth.Findings = "nexdal", "fix.reversal.sql", "fix.before.json", "fix.after.json", 3
		p.Forth.Losses = []engine.Loss{{What: catalog.ObjectRef{Kind: "view", Schema: "saltmere", Name: "open_station"}, Why: "its query was not read"}}
		golden.Hold(t, "testdata/"+name+"_changes.golden", p.Forth.Text([]string{"nexdal run fix.sql", "psql -f fix.sql"}))
		load, _, err := script.Bulkload(w, c, can, script.Load{Tables: []catalog.Ref{{Schema: "saltmere", Table: "gauge"}}, Indexes: true, Triggers: true})
		if err != nil {
			t.Fatal(err)
		}
		golden.Hold(t, "testdata/"+name+"_load.golden", load.Forth.Text(nil)+"\n"+load.Back.Text(nil))
		var b strings.Builder
		script.Repair(&b, w, c, wrongs(c), can.MaxName, "nexdal")
		script.Repair(&b, w, c, nil, can.MaxName, "nexdal")
		golden.Hold(t, "testdata/"+name+"_repair.golden", b.String())
	}
}

// wrongs is something wrong with references and columns of some tables.
func wrongs(c *catalog.Catalog) (all []script.Wrong) {
	for _, t := range c.Tables() {
		if !slices.Contains([]string{"gauge", "station", "visit", "coast_section"}, t.Name) {
			continue
		}
		for i, f := range t.ForeignKeys {
			all = append(all, script.Wrong{Table: t.Ref(), Columns: f.Columns, Target: f.Target, Keys: f.TargetColumns, Rows: int64(i), Samples: []string{"7", "8", "9\n", "10"}[:2*i%5]})
		}
		if n := len(t.Columns); n > 2 {
			all = append(all, script.Wrong{Table: t.Ref(), Columns: []string{t.Columns[n-2].Name, t.Columns[n-1].Name}, Samples: []string{"a, b"}})
		}
	}
	return append(all, script.Wrong{Table: catalog.Ref{Schema: "saltmere", Table: "gone"}, Columns: []string{"a"}, Target: catalog.Ref{Schema: "saltmere", Table: "gone"}, Keys: []string{"b"}})
}
