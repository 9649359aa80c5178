package evidence

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

// facts of a column: so many rows, of which so many are null, with so many different values from
// the least to the greatest; fewer than none of them is not known.
func facts(rows, nulls, distinct int64, least, greatest string) *Column {
	f := &Column{Rows: rows, Nulls: nulls, Least: &least, Greatest: &greatest}
	if distinct >= 0 {
		f.Distinct = &distinct
	}
	return f
}

// long says how short and long its texts are.
func (f *Column) long(shortest, longest int64) *Column {
	f.Shortest, f.Longest = &shortest, &longest
	return f
}

var (
	number = catalog.Type{Family: catalog.Integer}
	letter = catalog.Type{Family: catalog.Text}
)

// TestPlausible: values that cannot be among a key's, by how many they are and between what they lie.
func TestPlausible(t *testing.T) {
	sampled := func(f *Column) *Column { f.Sampled = true; return f }
	for name, c := range map[string]struct {
		child, parent *Column
		of            catalog.Type
		want          bool
	}{
		"no values":                           {facts(9, 9, 0, "", ""), facts(0, 0, 0, "", ""), number, true},
		"no key":                              {facts(9, 0, 9, "1", "9"), facts(5, 5, 0, "", ""), number, false},
		"as many as a key that has lost some": {facts(200, 0, 117, "1", "117"), facts(100, 0, 100, "1", "100"), number, true},
		"more than that":                      {facts(200, 0, 118, "1", "118"), facts(100, 0, 100, "1", "100"), number, false},
		"more, of a sample":                   {sampled(facts(200, 0, 150, "1", "150")), facts(100, 0, 100, "1", "100"), number, true},
		"more, than a sample":                 {facts(200, 0, 150, "1", "150"), sampled(facts(100, 0, 100, "1", "100")), number, true},
		"nobody knows how many":               {facts(200, 0, -1, "1", "150"), facts(100, 0, 100, "1", "100"), number, true},
		"touching from below":                 {facts(9, 0, 9, "1", "10"), facts(9, 0, 9, "10", "18"), number, true},
		"below":                               {facts(9, 0, 9, "1", "9"), facts(9, 0, 9, "10", "18"), number, false},
		"touching from above":                 {facts(9, 0, 9, "18", "30"), facts(9, 0, 9, "10", "18"), number, true},
		"above":                               {facts(9, 0, 9, "19", "30"), facts(9, 0, 9, "10", "18"), number, false},
		"above a sample":                      {facts(9, 0, 9, "19", "30"), sampled(facts(9, 0, 9, "10", "18")), number, true},
		"texts apart":                         {facts(9, 0, 9, "a", "b"), facts(9, 0, 9, "x", "y"), letter, true},
		"no numbers":                          {facts(9, 0, 9, "a", "b"), facts(9, 0, 9, "10", "18"), number, true},
	} {
		if got := plausible(c.child, c.parent, c.of); got != c.want {
			t.Errorf("%s: %v", name, got)
		}
	}
}

// TestRanges: what lies within what, and how much of it.
func TestRanges(t *testing.T) {
	for _, c := range []struct {
		child, parent string
		inside        bool
		span          float64
	}{
		{"1 10", "1 10", true, 1}, {"2 10", "1 10", true, 0.9}, {"1 9", "1 10", true, 0.9}, {"0 10", "1 10", false, 1}, {"1 11", "1 10", false, 1},
		{"5 5", "1 10", true, 0.1}, {"11 20", "1 10", false, 0}, {"30 40", "1 10", false, 0}, {"-5 5", "1 10", false, 0.5}, {"6 15", "1 10", false, 0.5},
		{"NaN NaN", "1 10", false, 0.4}, {"10 1", "1 10", false, 0.4}, {"1 Inf", "1 10", false, 0.4}, {"1 10", "-Inf Inf", false, 0.4},
	} {
		ends := func(s string) *Column {
			least, greatest, _ := strings.Cut(s, " ")
			return facts(10, 0, 4, least, greatest)
		}
		child, parent := ends(c.child), ends(c.parent)
		if got := inside(child, parent); got != c.inside {
			t.Errorf("%s lies in %s: %v", c.child, c.parent, got)
		}
		if got := span(child, parent); math.Abs(got-c.span) > 1e-9 {
			t.Errorf("%s spans %.3f of %s, want %.3f", c.child, got, c.parent, c.span)
		}
	}
	if inside(&Column{}, facts(9, 0, 9, "1", "9")) || inside(facts(9, 0, 9, "1", "9"), &Column{}) {
		t.Error("what has no ends lies in something")
	}
	// Of texts how many there are counts, though they look like numbers.
	if got := span(facts(20, 0, 6, "1", "9").long(1, 1), facts(12, 2, 10, "1", "9").long(1, 1)); got != 0.6 {
		t.Errorf("texts span %.2f", got)
	}
	if got := span(facts(20, 0, 30, "a", "b").long(1, 1), facts(0, 0, 0, "a", "b").long(1, 1)); got != 1 {
		t.Errorf("texts span %.2f of none", got)
	}
}

// TestWithin: texts between others, as far as collations agree.
func TestWithin(t *testing.T) {
	text := func(least, greatest string, lengths ...int64) *Column {
		f := facts(9, 0, 9, least, greatest)
		if len(lengths) > 0 {
			f.long(lengths[0], lengths[1])
		}
		return f
	}
	sampled := func(f *Column) *Column { f.Sampled = true; return f }
	for name, c := range map[string]struct {
		child, parent *Column
		want          bool
	}{
		"alike":                      {text("aa", "zz", 2, 2), text("aa", "zz", 2, 2), true},
		"between":                    {text("bb", "yy", 2, 2), text("aa", "zz", 2, 2), true},
		"in other case":              {text("BB", "YY", 2, 2), text("aa", "zz", 2, 2), true},
		"before":                     {text("aa", "yy", 2, 2), text("bb", "zz", 2, 2), false},
		"behind":                     {text("cc", "zz", 2, 2), text("bb", "yy", 2, 2), false},
		"behind those of a sample":   {text("cc", "zz", 2, 2), sampled(text("bb", "yy", 2, 2)), true},
		"shorter":                    {text("b", "yy", 1, 2), text("aa", "zz", 2, 2), false},
		"longer":                     {text("bb", "yyy", 2, 3), text("aa", "zz", 2, 2), false},
		"longer than those a sample": {text("bb", "yyy", 2, 3), sampled(text("aa", "zz", 2, 2)), true},
		"with a sign":                {text("a-", "zz", 2, 2), text("bb", "cc", 2, 2), true},
		"with a sign among the key":  {text("aa", "zz", 2, 2), text("bb", "c_", 2, 2), true},
		"beyond the letters":         {text("aa", "zä", 2, 2), text("bb", "cc", 2, 2), true},
		"between cases":              {text("a^", "zz", 2, 2), text("bb", "cc", 2, 2), true},
		"between digits and letters": {text("1:", "zz", 2, 2), text("bb", "cc", 2, 2), true},
		"digits":                     {text("00", "99", 2, 2), text("10", "80", 2, 2), false},
		"of lengths nobody knows":    {text("00", "99"), text("10", "80", 2, 2), true},
		"than those nobody knows":    {text("00", "99", 2, 2), text("10", "80"), true},
		"of which there are no ends": {(&Column{}).long(2, 2), text("10", "80", 2, 2), true},
	} {
		if got := within(c.child, c.parent); got != c.want {
			t.Errorf("%s: %v", name, got)
		}
	}
}

// TestTells: when it says anything that all values are found in a key.
func TestTells(t *testing.T) {
	column := func(of catalog.Type) *catalog.Column { return &catalog.Column{Name: "x", Type: of} }
	numbered := func(f *Column, n int64) *Column { f.Numbers = &n; return f }
	for name, c := range map[string]struct {
		of      catalog.Type
		f, keys *Column
		want    bool
	}{
		"half of the numbers":        {number, facts(50, 0, 50, "1", "50"), facts(100, 0, 100, "1", "100"), true},
		"fewer than half":            {number, facts(49, 0, 49, "1", "49"), facts(100, 0, 100, "1", "100"), false},
		"one number too many":        {number, facts(90, 0, 90, "12", "101"), facts(100, 0, 100, "1", "100"), false},
		"two identifiers":            {catalog.Type{Family: catalog.UUID}, facts(9, 0, 2, "a", "b"), facts(9, 0, 9, "a", "b"), true},
		"one identifier":             {catalog.Type{Family: catalog.UUID}, facts(9, 0, 1, "a", "a"), facts(9, 0, 9, "a", "b"), false},
		"eight words":                {letter, facts(90, 0, 8, "aaa", "zzz").long(3, 3), facts(80, 0, 80, "aaa", "zzz").long(3, 3), true},
		"seven words":                {letter, facts(90, 0, 7, "aaa", "zzz").long(3, 3), facts(70, 0, 70, "aaa", "zzz").long(3, 3), false},
		"short words":                {letter, facts(90, 0, 8, "aa", "zz").long(2, 2), facts(80, 0, 80, "aa", "zz").long(2, 2), false},
		"of any length":              {letter, facts(90, 0, 8, "aaa", "zzz"), facts(80, 0, 80, "aaa", "zzz"), false},
		"words of many":              {letter, facts(90, 0, 8, "aaa", "zzz").long(3, 3), facts(81, 0, 81, "aaa", "zzz").long(3, 3), false},
		"twenty words of many":       {letter, facts(90, 0, 20, "aaa", "zzz").long(3, 3), facts(900, 0, 900, "aaa", "zzz").long(3, 3), true},
		"nineteen words of many":     {letter, facts(90, 0, 19, "aaa", "zzz").long(3, 3), facts(900, 0, 900, "aaa", "zzz").long(3, 3), false},
		"words that the key has not": {letter, facts(90, 0, 20, "aaa", "zzz").long(3, 3), facts(90, 0, 90, "bbb", "yyy").long(3, 3), false},
		"numbers of five digits":     {letter, numbered(facts(90, 10, 20, "10000", "90000").long(5, 5), 80), facts(90, 0, 90, "10000", "90000").long(5, 5), true},
		"numbers of four":            {letter, numbered(facts(90, 10, 20, "1000", "9000").long(4, 4), 80), facts(90, 0, 90, "1000", "9000").long(4, 4), false},
		"mostly numbers of four":     {letter, numbered(facts(90, 10, 20, "1000", "9000").long(4, 4), 79), facts(90, 0, 90, "1000", "9000").long(4, 4), true},
		"days":                       {catalog.Type{Family: catalog.Date}, facts(90, 0, 20, "2026-01-01", "2026-02-01"), facts(90, 0, 90, "2026-01-01", "2026-02-01"), false},
	} {
		if got := (&discovery{}).tells(column(c.of), c.f, parentKey{facts: c.keys}); got != c.want {
			t.Errorf("%s: %v", name, got)
		}
	}
}

// TestComparable: which types of columns are held against each other.
func TestComparable(t *testing.T) {
	of := func(f catalog.Family, scale int) catalog.Type { return catalog.Type{Family: f, Scale: scale} }
	types := map[string]catalog.Type{"integer": number, "whole decimal": of(catalog.Decimal, 0), "decimal": of(catalog.Decimal, 2), "text": letter, "uuid": of(catalog.UUID, 0),
		"date": of(catalog.Date, 0), "enum": {Family: catalog.Enum, Class: "weather"}, "other enum": {Family: catalog.Enum, Class: "sea"}, "binary": of(catalog.Binary, 0), "float": of(catalog.Float, 0), "moment": of(catalog.Timestamp, 0)}
	pairs := map[string]bool{"integer whole decimal": true, "whole decimal integer": true}
	for a, x := range types {
		for b, y := range types {
			want := a == b && a != "decimal" && a != "float" && a != "moment" || pairs[a+" "+b]
			if got := alike(x, y); got != want {
				t.Errorf("%s and %s: %v", a, b, got)
			}
			parts := comparableParts(&catalog.Column{Type: x}, &catalog.Column{Type: y})
			if parts != (want || a == b && a == "moment") {
				t.Errorf("%s and %s as parts: %v", a, b, parts)
			}
		}
	}
	n := func(n int64) *int64 { return &n }
	for name, c := range map[string]struct {
		c    catalog.Column
		f    Column
		want bool
	}{
		"number": {catalog.Column{Type: number}, Column{}, true}, "decimal": {catalog.Column{Type: types["decimal"]}, Column{}, false}, "whole decimal": {catalog.Column{Type: types["whole decimal"]}, Column{}, true},
		"computed": {catalog.Column{Type: number, Generated: "x + 1"}, Column{}, false}, "computed and stored": {catalog.Column{Type: number, Generated: "x + 1", Stored: true}, Column{}, true},
		"text": {catalog.Column{Type: letter}, Column{Longest: n(128)}, true}, "long text": {catalog.Column{Type: letter}, Column{Longest: n(129)}, false},
		"declared so": {catalog.Column{Type: catalog.Type{Family: catalog.Text, Length: 255}}, Column{}, true}, "declared long": {catalog.Column{Type: catalog.Type{Family: catalog.Text, Length: 256}}, Column{}, false},
		"bytes": {catalog.Column{Type: catalog.Type{Family: catalog.Binary, Length: 64}}, Column{}, true}, "more bytes": {catalog.Column{Type: catalog.Type{Family: catalog.Binary, Length: 65}}, Column{}, false}, "any bytes": {catalog.Column{Type: types["binary"]}, Column{}, false},
		"float": {catalog.Column{Type: types["float"]}, Column{}, false}, "moment": {catalog.Column{Type: types["moment"]}, Column{}, false},
	} {
		if got := referable(&c.c, &c.f); got != c.want {
			t.Errorf("%s: %v", name, got)
		}
	}
}

// TestParentsOf: which keys of a table can be referred to, and how they count among the names of keys.
func TestParentsOf(t *testing.T) {
	h := &heap{}
	station := h.table("station", "id int!", "code text", "name text!", "region text", "zone text!")
	station.UniqueKeys = []*catalog.Key{{Name: "code", Columns: []string{"code"}}, {Name: "name", Columns: []string{"name"}}, {Name: "both", Columns: []string{"region", "code"}}}
	empty := h.table("station_log", "station_log_id int!", "note text")
	other := h.table("remark", "note text!", "at int!")
	loose := h.table("depth", "depth_id int", "note text")
	d := &discovery{tables: h.c.Tables(), names: namesOf(h.c.Tables()), lookup: h.c.Lookup(), keys: map[*catalog.Table][]Key{}, columns: map[catalog.Ref]map[string]*Column{}}
	know := func(of *catalog.Table, rows int64) {
		d.columns[of.Ref()] = map[string]*Column{}
		for _, c := range of.Columns {
			d.columns[of.Ref()][c.Name] = &Column{Rows: rows}
		}
	}
	know(station, 90)
	know(empty, 0)
	know(other, 0)
	know(loose, 0)
	d.keys[station] = []Key{{Columns: []string{"id"}, Declared: true, Likely: 1}, {Columns: []string{"name"}, Likely: 0.5, Rows: 90}, {Columns: []string{"zone"}, Likely: 0.49, Rows: 1}, {Columns: []string{"region", "zone"}, Declared: true, Likely: 0.9, Rows: 90},
		{Columns: []string{"region"}, Likely: 0.4}}
	var got []string
	for _, k := range d.parents() {
		got = append(got, fmt.Sprintf("%s.%s %v %.2f %v", k.table.Name, k.column.Name, k.declared, k.likely, k.supposed))
	}
	want := []string{"station.id true 1.00 false", "station.name false 0.50 false", "station.zone false 0.49 false", "station.code true 0.50 false", "station_log.station_log_id false 0.60 true"}
	if !slices.Equal(got, want) {
		t.Errorf("%q, want %q", got, want)
	}
	for name, want := range map[string]int{"id": 1, "name": 1, "zone": 0, "region": 0, "station_log_id": 0} {
		if d.names.keys[name] != want {
			t.Errorf("%s is the name of %d keys, want %d", name, d.names.keys[name], want)
		}
	}
	know(empty, 1)
	if got := d.parentsOf(nil, empty); len(got) > 0 {
		t.Errorf("of a table with a row: %v", got)
	}
	delete(d.columns, station.Ref())
	if got := d.parentsOf(nil, station); len(got) > 0 {
		t.Errorf("of a table of which nothing is known: %v", got)
	}
}

// TestOwnName: which columns are named as the key of their own table, and which count as one.
func TestOwnName(t *testing.T) {
	h := &heap{}
	model := h.table("gauge_model", "id int!", "gauge_model_id int", "gaugemodelid int", "gaug_mod_no int", "gauge_model int", "model_id int", "station_id int", "note text", "id_note text")
	d := &discovery{names: namesOf(h.c.Tables()), keys: map[*catalog.Table][]Key{model: {{Columns: []string{"note"}, Likely: 0.6}, {Columns: []string{"station_id"}, Likely: 0.59}, {Columns: []string{"model_id"}, Declared: true}, {Columns: []string{"gauge_model", "id_note"}, Declared: true, Likely: 1}}}}
	model.UniqueKeys = []*catalog.Key{{Columns: []string{"gaugemodelid"}}}
	for i, want := range []bool{true, true, true, true, false, false, false, false, false} {
		if got := d.ownName(model, model.Columns[i]); got != want {
			t.Errorf("%s is named as the table's key: %v", model.Columns[i].Name, got)
		}
	}
	for name, want := range map[string]bool{"note": true, "station_id": false, "model_id": true, "gauge_model": false, "id_note": false, "gaugemodelid": true, "id": false} {
		if got := d.isKey(model, name); got != want {
			t.Errorf("%s is a key: %v", name, got)
		}
	}
}

// TestHolders: the keys that a column is held against by its values, the six that it fills best.
func TestHolders(t *testing.T) {
	h := &heap{}
	child := h.table("visit", "keeper_id int", "height int", "mark text", "by int")
	d := &discovery{names: namesOf(h.c.Tables())}
	var parents []parentKey
	for i, end := range []string{"100", "190", "120", "199", "110", "130", "140", "150"} {
		parents = append(parents, parentKey{column: &catalog.Column{Name: fmt.Sprintf("k%d", i), Type: number}, facts: facts(100, 0, 100, "1", end), declared: i%2 == 0, likely: 0.5})
	}
	add := func(f *Column, declared bool, likely float64, of catalog.Type) {
		parents = append(parents, parentKey{column: &catalog.Column{Name: "x", Type: of}, facts: f, declared: declared, likely: likely})
	}
	add(facts(100, 0, 100, "1", "100"), false, 0.49, number)        // unique by accident
	add(facts(100, 100, 0, "1", "100"), true, 1, number)            // without a value
	add(facts(100, 0, 100, "1", "100").long(1, 3), true, 1, letter) // texts
	of := func(column int, f *Column, own bool) []int {
		return d.holders(child, child.Columns[column], f, parents, own)
	}
	all := facts(100, 0, 100, "1", "100")
	for name, c := range map[string]struct {
		got, want []int
	}{
		"the fullest":           {of(0, all, false), []int{0, 2, 4, 5, 6, 7}},
		"by a role":             {of(3, all, false), []int{0, 2, 4, 5, 6, 7}},
		"named after nothing":   {of(1, all, false), nil},
		"its own table's":       {of(0, all, true), nil},
		"few values":            {of(0, facts(100, 0, 4, "1", "100"), false), nil},
		"five values":           {of(0, facts(100, 0, 5, "1", "100"), false), []int{0, 2, 4, 5, 6, 7}},
		"nobody knows how many": {of(0, facts(100, 0, -1, "1", "100"), false), nil},
		"texts":                 {of(2, facts(100, 0, 100, "1", "100").long(1, 3), false), []int{10}},
	} {
		if !slices.Equal(c.got, c.want) {
			t.Errorf("%s: %v, want %v", name, c.got, c.want)
		}
	}
}
