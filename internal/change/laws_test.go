package change_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"math/rand/v2"
	"path/filepath"
	"reflect"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/test/model"
)

// abilities are those of all kinds of engine; with -short, of the two that differ most.
func abilities() map[string]catalog.Abilities {
	all := model.Abilities()
	if testing.Short() {
		delete(all, "none")
		delete(all, "order")
		delete(all, "cluster")
	}
	return all
}

// seeds is how many catalogs each law is tried on.
const seeds = 1

// kinds are the types of change that the package declares.
func kinds(t *testing.T) []string {
	t.Helper()
	files, err := filepath.Glob("*.go")
	if err != nil {
		t.Fatal(err)
	}
	var names []string
	for _, path := range files {
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
		if err != nil {
			t.Fatal(err)
		}
		for _, d := range file.Decls {
			f, ok := d.(*ast.FuncDecl)
			if !ok || f.Name.Name != "rank" || f.Recv == nil {
				continue
			}
			if id, ok := f.Recv.List[0].Type.(*ast.Ident); ok {
				names = append(names, id.Name)
			}
		}
	}
	slices.Sort(names)
	return names
}

// changes are those that fit the catalog; with -short, a few of each kind,
// from all over it.
func changes(c *catalog.Catalog) []change.Change {
	all := model.Changes(c)
	if !testing.Short() {
		return all
	}
	n, at := map[string]int{}, map[string]int{}
	for _, ch := range all {
		n[model.Kind(ch)]++
	}
	return slices.DeleteFunc(all, func(ch change.Change) bool {
		k := model.Kind(ch)
		at[k]++
		return n[k] > 5 && at[k]*5/n[k] == (at[k]-1)*5/n[k]
	})
}

// each calls f with every change that fits, on every engine's abilities.
func each(t *testing.T, f func(t *testing.T, name string, c *catalog.Catalog, can catalog.Abilities, ch change.Change)) {
	for name, can := range abilities() {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			for seed := range uint64(seeds) {
				c := model.Random(seed)
				for _, ch := range changes(c) {
					f(t, name, c, can, ch)
				}
			}
		})
	}
}

// TestThereAndBack: a change and what takes it back leave the catalog as it was, in
// every field, and a plan leaves the catalog that it is applied to alone.
func TestThereAndBack(t *testing.T) {
	lasting := []string{"CompleteIndex", "RebuildIndex", "AdvanceSequence", "Maintain"} // say that they are not taken back
	for name, can := range abilities() {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			done := map[string]bool{}
			for seed := range uint64(seeds) {
				c := model.Random(seed)
				was := c.Clone()
				for _, ch := range changes(c) {
					plan := change.Plan{{Change: ch, Answers: []string{"a"}}}
					after, err := plan.Apply(c, can)
					if err != nil {
						continue
					}
					done[model.Kind(ch)] = true
					back, err := plan.Reverse(c, can)
					if err != nil {
						t.Errorf("%s: %s: %v", name, ch.Title(), err)
						continue
					}
					if d := model.Diff(was, c); d != "" {
						t.Fatalf("%s: %s alters the catalog that it is planned on: %s", name, ch.Title(), d)
					}
					there := after.Clone()
					returned, err := back.Apply(after, can)
					if err != nil {
						t.Errorf("%s: %s: taking it back: %v", name, ch.Title(), err)
						continue
					}
					if d := model.Diff(there, after); d != "" {
						t.Errorf("%s: taking back %s alters the catalog that it is planned on: %s", name, ch.Title(), d)
					}
					if d := model.Diff(c, returned); d != "" && !slices.Contains(lasting, model.Kind(ch)) {
						t.Errorf("%s: %s and back: %s", name, ch.Title(), d)
					}
					if back[0].Change.Title() == "" || back[0].Answers[0] != "a" || back[0].Change.On() != ch.On() && model.Kind(ch) != "RenameTable" {
						t.Errorf("%s: %s is taken back by %+v", name, ch.Title(), back[0])
					}
					again, err := back.Reverse(after, can)
					if err != nil {
						t.Errorf("%s: %s, back and again: %v", name, ch.Title(), err)
						continue
					}
					if once, err := again.Apply(returned, can); err != nil || model.Diff(after, once) != "" && !slices.Contains(lasting, model.Kind(ch)) {
						t.Errorf("%s: %s, back and again: %v %s", name, ch.Title(), err, model.Diff(after, once))
					}
				}
			}
			for _, k := range kinds(t) {
				if !done[k] && k != "NoReversal" {
					t.Errorf("%s: no change of kind %s was tried", name, k)
				}
			}
		})
	}
}

// TestWhatLastsStays: what is taken back around a change that lasts leaves that change's
// work where it is.
func TestWhatLastsStays(t *testing.T) {
	t.Parallel()
	tried := map[string]int{}
	for name, can := range abilities() {
		for seed := range uint64(seeds) {
			c := model.Random(seed)
			all := changes(c)
			for _, last := range all {
				only, err := change.Plan{{Change: last}}.Apply(c, can)
				if r, failed := change.Reverse(last, c); err != nil || failed != nil || model.Kind(r) != "NoReversal" {
					continue
				}
				for _, ch := range all {
					pair := model.Kind(last) + " " + model.Kind(ch)
					if ch.On() != last.On() || reflect.DeepEqual(ch, last) || tried[pair] >= 6 {
						continue
					}
					plan := change.Plan{{Change: ch}, {Change: last}}
					after, err := plan.Apply(c, can)
					if err != nil {
						continue
					}
					if turned, err := (change.Plan{plan[1], plan[0]}).Apply(c, can); err != nil || model.Diff(turned, after) != "" {
						continue // it lasts only as long as the other does
					}
					if r, err := change.Reverse(ch, c); err != nil || model.Kind(r) == "NoReversal" {
						continue
					}
					back, err := plan.Reverse(c, can)
					if err != nil {
						t.Fatalf("%s: %s, %s: %v", name, ch.Title(), last.Title(), err)
					}
					returned, err := back.Apply(after, can)
					if err != nil {
						t.Fatalf("%s: %s, %s: taking them back: %v", name, ch.Title(), last.Title(), err)
					}
					if d := model.Diff(only, returned); d != "" {
						t.Errorf("%s: %s, %s: what lasts is gone or another: %s", name, ch.Title(), last.Title(), d)
					}
					tried[pair]++
					tried[model.Kind(last)]++
				}
			}
		}
	}
	for _, kind := range []string{"CompleteIndex", "RebuildIndex", "Maintain"} {
		if tried[kind] == 0 {
			t.Errorf("%s stood behind no change: %v", kind, tried)
		}
	}
}

// TestWholeOrNotAtAll: a change that does not fit leaves no trace. Every change is tried
// on catalogs that lack something at random.
func TestWholeOrNotAtAll(t *testing.T) {
	t.Parallel()
	failed := map[string]int{}
	for name, can := range abilities() {
		for seed := range uint64(seeds) {
			c := model.Random(seed)
			all := changes(c)
			r := rand.New(rand.NewPCG(seed, 9))
			bare, full := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "saltmere"}}}, c.Clone()
			for _, ch := range all {
				switch ch.(type) {
				case change.CreateObjects, change.CreateSequence, change.AddLookupTable, change.AddPartition, change.AddColumn, change.SplitSequence:
					change.Apply(ch, full, can) // so that it is there already
				}
			}
			for i := range 8 {
				var damaged *catalog.Catalog
				switch i {
				case 0:
					damaged = bare
				case 1:
					damaged = full
				default:
					damaged = damage(r, c.Clone())
				}
				was := damaged.Clone()
				for _, ch := range all {
					if err := change.Apply(ch, damaged, can); err == nil {
						damaged = was.Clone()
						continue
					} else if strings.TrimSpace(err.Error()) == "" {
						t.Errorf("%s: %s fails without a word", name, ch.Title())
					}
					failed[model.Kind(ch)]++
					if d := model.Diff(was, damaged); d != "" {
						t.Fatalf("%s: %s fails and leaves: %s", name, ch.Title(), d)
					}
				}
			}
		}
	}
	for _, k := range kinds(t) {
		if failed[k] == 0 && k != "NoReversal" {
			t.Errorf("no change of kind %s failed", k)
		}
	}
}

// damage takes some things out of a catalog, and calls others otherwise.
func damage(r *rand.Rand, c *catalog.Catalog) *catalog.Catalog {
	s := c.Schema("saltmere")
	for range 1 + r.IntN(3) {
		t := s.Tables[r.IntN(len(s.Tables))]
		switch r.IntN(10) {
		case 0:
			s.Tables = slices.DeleteFunc(s.Tables, func(x *catalog.Table) bool { return x == t })
		case 1:
			t.Columns = t.Columns[1:]
		case 2:
			t.Columns = t.Columns[:len(t.Columns)-1]
		case 3:
			t.Indexes, t.Checks = nil, nil
		case 4:
			t.ForeignKeys, t.Triggers = nil, nil
		case 5:
			s.Sequences = s.Sequences[:r.IntN(len(s.Sequences)+1)]
		case 6:
			s.Views, s.Routines, c.Settings = nil, nil, nil
		case 7:
			t.PrimaryKey, t.UniqueKeys, t.Partitions, t.PartitionOf = nil, nil, nil, nil
		case 8:
			for _, name := range []string{"a", "reading_2027", t.Name + "_old", t.Name + "_new", t.Name + "_alone", t.Name + "_values"} {
				if c.Table(catalog.Ref{Schema: s.Name, Table: name}) == nil {
					s.Tables = append(s.Tables, &catalog.Table{Schema: s.Name, Name: name, Kind: catalog.Ordinary, Columns: []*catalog.Column{{Name: "number"}, {Name: "added"}}})
				}
			}
			for _, t := range s.Tables {
				t.Columns = append(t.Columns, &catalog.Column{Name: "number"}, &catalog.Column{Name: "added"})
			}
			c.Sort()
		case 9:
			t.SortKey, t.Spread = &catalog.SortKey{Columns: []string{"elsewhere"}}, &catalog.Spread{Style: "even"}
			for _, col := range t.Columns {
				col.Type = catalog.Type{Native: "odd"}
			}
		}
		if len(s.Tables) == 0 {
			return c
		}
	}
	if r.IntN(6) == 0 {
		c.Schemas = slices.DeleteFunc(c.Schemas, func(x *catalog.Schema) bool { return x.Name == "archive" })
	}
	return c
}

// TestSharesNothing: two catalogs that a change was applied to have nothing in common
// with each other, nor with the change.
func TestSharesNothing(t *testing.T) {
	each(t, func(t *testing.T, name string, c *catalog.Catalog, can catalog.Abilities, ch change.Change) {
		a, b := c.Clone(), c.Clone()
		if change.Apply(ch, a, can) != nil || change.Apply(ch, b, can) != nil {
			return
		}
		if d := model.Diff(a, b); d != "" {
			t.Errorf("%s: %s does not do the same twice: %s", name, ch.Title(), d)
		}
		for _, path := range model.Shared(a, b) {
			t.Errorf("%s: %s shares %s", name, ch.Title(), path)
		}
	})
}

// TestOrder: the order of a plan follows from the changes alone, not from chance, is the
// order of work, and leads to the same catalog however the changes come.
func TestOrder(t *testing.T) {
	t.Parallel()
	titles := func(p change.Plan) string {
		var all []string
		for _, it := range p {
			all = append(all, it.Change.Title())
		}
		return strings.Join(all, "\n")
	}
	phases := []string{"columns", "constraints", "indexes", "references", "drops", "rest"}
	for name, can := range abilities() {
		for seed := range uint64(seeds) {
			c := model.Random(seed)
			r := rand.New(rand.NewPCG(seed, 4))
			var items []change.Item
			for _, ch := range changes(c) {
				if r.IntN(12) == 0 {
					items = append(items, change.Item{Change: ch, Answers: []string{ch.Title()}})
				}
			}
			plan, left := change.Order(c, can, slices.Clone(items))
			for range 4 {
				if again, _ := change.Order(c, can, slices.Clone(items)); titles(again) != titles(plan) {
					t.Fatalf("%s, seed %d: two orders of the same changes", name, seed)
				}
			}
			at := 0
			for _, it := range plan {
				now := slices.Index(phases, change.Phase(it.Change))
				if now < at {
					t.Errorf("%s, seed %d: %s comes in phase %s, after %s", name, seed, it.Change.Title(), phases[now], phases[at])
				}
				at = now
			}
			answered := map[string]bool{}
			for _, it := range plan {
				for _, a := range it.Answers {
					answered[a] = true
				}
			}
			for _, l := range left {
				if l.Reason == "" {
					t.Errorf("%s, seed %d: %s is left out without a reason", name, seed, l.Change.Title())
				}
				for _, a := range l.Answers {
					answered[a] = true
				}
			}
			for _, it := range items {
				if !answered[it.Answers[0]] {
					t.Errorf("%s, seed %d: nothing was said of %s", name, seed, it.Answers[0])
				}
			}
			after, err := plan.Apply(c, can)
			if err != nil {
				t.Fatalf("%s, seed %d: %v", name, seed, err)
			}
			back, err := plan.Reverse(c, can)
			if err != nil {
				t.Fatalf("%s, seed %d: %v", name, seed, err)
			}
			if len(back) != len(plan) {
				t.Errorf("%s, seed %d: %d changes are taken back by %d", name, seed, len(plan), len(back))
			}
			lasts := slices.ContainsFunc(back, func(it change.Item) bool { _, is := it.Change.(change.NoReversal); return is })
			returned, err := back.Apply(after, can)
			if err != nil {
				t.Fatalf("%s, seed %d: %v", name, seed, err)
			}
			if d := model.Diff(c, returned); d != "" && !lasts {
				t.Errorf("%s, seed %d: the plan and back: %s", name, seed, d)
			}
			for _, ref := range plan.Tables() {
				if c.Table(ref) == nil && after.Table(ref) == nil {
					t.Errorf("%s, seed %d: the plan names %s, which is in neither catalog", name, seed, ref)
				}
			}
		}
	}
}

// TestTouched: a plan names every table that it alters.
func TestTouched(t *testing.T) {
	each(t, func(t *testing.T, name string, c *catalog.Catalog, can catalog.Abilities, ch change.Change) {
		plan := change.Plan{{Change: ch}}
		after, err := plan.Apply(c, can)
		if err != nil {
			return
		}
		named := plan.Tables()
		for _, table := range c.Tables() {
			if now := after.Table(table.Ref()); !slices.Contains(named, table.Ref()) && (now == nil || model.Diff(table, now) != "") {
				part := table.PartitionOf != nil && slices.Contains(named, *table.PartitionOf)
				refers := slices.ContainsFunc(table.ForeignKeys, func(f *catalog.ForeignKey) bool { return slices.Contains(named, f.Target) })
				if !part && !refers {
					t.Errorf("%s: %s alters %s and does not name it", name, ch.Title(), table.Ref())
				}
			}
		}
	})
}
