package write

import (
	"slices"
	"strings"
	"testing"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
)

// TestFunctionOf: the text of a partition function is read as it is written, whatever its values and
// names hold.
func TestFunctionOf(t *testing.T) {
	for _, c := range []struct {
		name, native string
		right        bool
		values       []string
		bounds       string
	}{
		{"by_day", "date", true, []string{"'2026-01-01'", "'2026-02-01'"}, "< '2026-01-01'; >= '2026-01-01' AND < '2026-02-01'; >= '2026-02-01'"},
		{"left", "int", false, []string{"-5", "100"}, "<= -5; > -5 AND <= 100; > 100"},
		{"odd ] (name) AS RANGE RIGHT", "decimal(9, 2)", true, []string{"1.5"}, "< 1.5; >= 1.5"},
		{"texts", "nvarchar(20)", true, []string{"N'a, b'", "N'it''s) FOR VALUES ('"}, "< N'a, b'; >= N'a, b' AND < N'it''s) FOR VALUES ('; >= N'it''s) FOR VALUES ('"},
		{"moments", "datetime2(0)", true, []string{"'2026-01-01 06:00:00'"}, "< '2026-01-01 06:00:00'; >= '2026-01-01 06:00:00'"},
		{"one part", "int", true, nil, ""},
	} {
		text := FunctionText(c.name, c.native, c.right, c.values)
		f, ok := functionOf(&catalog.Object{Kind: KindFunction, Name: c.name, Definition: text})
		if !ok || f.name != c.name || f.native != c.native || f.right != c.right || !slices.Equal(f.values, c.values) {
			t.Errorf("%s: %v %+v", text, ok, f)
			continue
		}
		var bounds []string
		for i, p := range f.parts() {
			if bounds = append(bounds, p.Bounds); p.Name != string(rune('1'+i)) {
				t.Errorf("%s: part %d is called %s", c.name, i, p.Name)
			}
		}
		if got := strings.Join(bounds, "; "); got != c.bounds {
			t.Errorf("%s: %s", c.name, got)
		}
	}
	for _, text := range []string{"", "CREATE PARTITION FUNCTION x", "CREATE PARTITION FUNCTION x (int) FOR VALUES (1)"} {
		if f, ok := functionOf(&catalog.Object{Kind: KindFunction, Name: "x", Definition: text}); ok {
			t.Errorf("%q is a function: %+v", text, f)
		}
	}
}

// shared is a database in which one function cuts up two tables, by two schemes.
func shared() *catalog.Catalog {
	values := []string{"'2025-01-01'", "'2026-01-01'"}
	f := function{name: "f", native: "date", right: true, values: values}
	definition, _ := f.at(values)
	c := &catalog.Catalog{Engine: catalog.Engine{Name: "sqlserver", Version: "16.0"}, Schemas: []*catalog.Schema{{Name: "dbo"}}, Objects: []*catalog.Object{{Kind: KindFunction, Name: "f", Definition: definition}}}
	for _, scheme := range []string{"a", "b"} {
		c.Objects = append(c.Objects, &catalog.Object{Kind: KindScheme, Name: scheme, Definition: "CREATE PARTITION SCHEME " + scheme + " AS PARTITION f ALL TO ([fg " + scheme + "])", Needs: []catalog.ObjectRef{{Kind: KindFunction, Name: "f"}}})
		c.Schemas[0].Tables = append(c.Schemas[0].Tables, &catalog.Table{Schema: "dbo", Name: "t_" + scheme, Kind: catalog.Ordinary, Columns: []*catalog.Column{{Name: "day", Type: catalog.Type{Native: "date", Family: catalog.Date}}},
			PartitionBy: &catalog.PartitionKey{Method: "range", Columns: []string{"day"}, Definition: scheme + "(day)"}, Partitions: f.parts()})
	}
	c.Schemas[0].Tables = append(c.Schemas[0].Tables, &catalog.Table{Schema: "dbo", Name: "plain", Kind: catalog.Ordinary, Columns: []*catalog.Column{{Name: "day", Type: catalog.Type{Native: "date", Family: catalog.Date}}}})
	return c
}

// TestBoundaries: whose parts begin where, and what bars others.
func TestBoundaries(t *testing.T) {
	c := shared()
	a := c.Schemas[0].Tables[0]
	b := boundaries(c, a)
	if b == nil || b.Refused != "" || b.Object != "f" || b.Place != "a(day)" || len(b.Tables) != 2 || len(b.Objects) != 0 || len(b.Values) != 2 {
		t.Fatalf("%+v", b)
	}
	plain := c.Schemas[0].Tables[2].Clone()
	if plain.PartitionBy, _ = rangeKey(plain, "day"); plain.PartitionBy == nil {
		t.Fatal("no range of days")
	}
	fresh := boundaries(c, plain)
	if fresh.Object != "plain_by_day" || len(fresh.Objects) != 2 || fresh.Refused != "" || len(fresh.Tables) != 0 || fresh.Objects[1].Definition != "CREATE PARTITION SCHEME plain_by_day AS PARTITION plain_by_day ALL TO ([PRIMARY])" {
		t.Errorf("%+v", fresh)
	}
	plain.Tablespace = "slow ] disk"
	if got := boundaries(c, plain).Objects[1].Definition; !strings.HasSuffix(got, "ALL TO ([slow ]] disk])") {
		t.Error(got)
	}
	c.Objects = append(c.Objects, &catalog.Object{Kind: KindFunction, Name: "plain_by_day"})
	if got := boundaries(c, plain); !strings.Contains(got.Refused, "plain_by_day is there already") {
		t.Errorf("%+v", got)
	}
	c.Objects[2].Definition = "CREATE PARTITION SCHEME b AS PARTITION f TO ([x], [y], [z])"
	if got := boundaries(c, a); !strings.Contains(got.Refused, "partition scheme b lays parts in several filegroups") {
		t.Errorf("%+v", got)
	}
	c = shared()
	c.Schemas[0].Tables[1].Options = []string{"memory optimized"}
	if got := boundaries(c, c.Schemas[0].Tables[0]); special(c.Schemas[0].Tables[1]) != "" && !strings.Contains(got.Refused, "dbo.t_b is cut up by the same function, and ") {
		t.Errorf("%+v", got)
	}
	c.Objects = c.Objects[1:]
	if got := boundaries(c, c.Schemas[0].Tables[0]); got != nil {
		t.Errorf("without the function: %+v", got)
	}
	for native, family := range map[string]catalog.Family{"int": catalog.Integer, "time": catalog.Time, "nvarchar(9)": catalog.Text} {
		plain.Columns[0].Type = catalog.Type{Native: native, Family: family}
		if by, _ := rangeKey(plain, "day"); by != nil {
			t.Errorf("%s: %+v", native, by)
		}
	}
	moment := time.Date(2026, 3, 1, 6, 30, 0, 0, time.UTC)
	for family, want := range map[catalog.Family]string{catalog.Date: "'2026-03-01'", catalog.Timestamp: "'2026-03-01 06:30:00'"} {
		a.Columns[0].Type.Family = family
		if got := boundAt(a, moment, catalog.Bound{}); got.Text != want || !got.At.Equal(moment) {
			t.Errorf("%v: %+v", family, got)
		}
	}
}

// TestSetBoundaries: every scheme names a filegroup before every split, and rows that may have to
// move are told.
func TestSetBoundaries(t *testing.T) {
	c := shared()
	a := c.Schemas[0].Tables[0]
	b := boundaries(c, a)
	at := func(values ...string) change.Boundaries {
		definition, parts := b.At(values)
		return change.Boundaries{Values: values, Definition: definition, Parts: parts}
	}
	ch := change.SetBoundaries{Object: "f", Of: b.Tables, From: at(b.Values...), To: at("'2026-01-01'", "'2027-01-01'")}
	write := func() engine.Step {
		t.Helper()
		plan := change.Plan{{Change: ch}}
		to, err := plan.Apply(c, catalog.Abilities{})
		if err != nil {
			t.Fatal(err)
		}
		for _, ref := range b.Tables {
			if of := to.Table(ref); len(of.Partitions) != 3 || of.Partitions[0].Bounds != "< '2026-01-01'" {
				t.Errorf("%s: %+v", ref, of.Partitions)
			}
		}
		w, err := Writer{}.Write(c, to, plan)
		if err != nil || len(w.Steps) != 1 {
			t.Fatalf("%v: %+v", err, w)
		}
		return w.Steps[0]
	}
	want := []string{"BEGIN TRANSACTION", "ALTER PARTITION FUNCTION f() MERGE RANGE ('2025-01-01')", "ALTER PARTITION SCHEME a NEXT USED [fg a]", "ALTER PARTITION SCHEME b NEXT USED [fg b]", "ALTER PARTITION FUNCTION f() SPLIT RANGE ('2027-01-01')", "COMMIT"}
	if got := write(); !slices.Equal(got.SQL, want) || !strings.Contains(got.Lock, "while rows of dbo.t_a, dbo.t_b are moved") {
		t.Errorf("%q, %s", got.SQL, got.Lock)
	}
	none, some := int64(0), int64(3)
	for _, ref := range b.Tables {
		for _, p := range c.Table(ref).Partitions {
			p.Rows = &none
		}
	}
	if got := write(); strings.Contains(got.Lock, "moved") {
		t.Errorf("of parts without rows: %s", got.Lock)
	}
	c.Table(b.Tables[1]).Partitions[2].Rows = &some
	if got := write(); !strings.Contains(got.Lock, "while rows of dbo.t_b are moved") {
		t.Errorf("of one with rows: %s", got.Lock)
	}
	if title := ch.Title(); title != "split the partitions at '2027-01-01', merge the partitions at '2025-01-01' of dbo.t_a, dbo.t_b" {
		t.Error(title)
	}
	if back, err := change.Reverse(ch, c); err != nil || back.Title() != "split the partitions at '2025-01-01', merge the partitions at '2027-01-01' of dbo.t_a, dbo.t_b" {
		t.Errorf("%v, %v", back, err)
	}
}
