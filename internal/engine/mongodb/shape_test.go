package mongodb

import (
	"fmt"
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

func shapeOf(t *testing.T, docs ...string) *shape {
	t.Helper()
	s := newShape()
	for _, d := range docs {
		s.add(raw(t, d))
	}
	s.finish()
	return s
}

// told is a line for each field: its path, type, share of absence and of nulls, longest list.
func told(s *shape) string {
	var b strings.Builder
	for _, c := range columnsOf(s) {
		fmt.Fprintf(&b, "%s %s", c.Name, c.Type.Native)
		if c.Stats.Absent != nil && *c.Stats.Absent > 0 {
			fmt.Fprintf(&b, " absent %.2f", *c.Stats.Absent)
		}
		if c.Stats.Nulls != nil && *c.Stats.Nulls > 0 {
			fmt.Fprintf(&b, " null %.2f", *c.Stats.Nulls)
		}
		if c.Nullable {
			b.WriteString(" nullable")
		}
		if c.Many {
			b.WriteString(" many")
		}
		if c.Stats.Items != nil {
			fmt.Fprintf(&b, " items %d", *c.Stats.Items)
		}
		if c.Within != "" {
			b.WriteString(" within " + c.Within)
		}
		b.WriteString("\n")
	}
	return b.String()
}

// TestShape: null is told from absent, a field within from one of its name elsewhere, and lists of all
// depths are opened.
func TestShape(t *testing.T) {
	for _, x := range []struct {
		name string
		docs []string
		want string
	}{
		{"null and absent", []string{`{"_id":1,"a":null}`, `{"_id":2}`, `{"_id":3,"a":1}`, `{"_id":4,"a":1}`}, "_id int\na int absent 0.25 null 0.25 nullable\n"},
		{"the key first, then by letters", []string{`{"b":1,"a":1,"_id":1}`}, "_id int\na int\nb int\n"},
		{"within", []string{`{"_id":1,"p":{"lat":1.5}}`, `{"_id":2}`, `{"_id":3,"p":{"lat":2,"lon":3}}`}, "_id int\np object absent 0.33 nullable\np.lat double|int within p\np.lon int absent 0.50 nullable within p\n"},
		{"lists", []string{`{"_id":1,"a":[1,2,3],"m":[{"n":"x"},{"n":null}]}`, `{"_id":2,"a":[],"m":[]}`}, "_id int\na array<int> many items 3\nm array<object> many items 2\nm.n string nullable many within m\n"},
		{"lists of lists", []string{`{"_id":1,"a":[[{"b":1}],[{"b":2},{"b":3}]]}`}, "_id int\na array<array<object>> many items 2\na.b int nullable many within a\n"},
		{"types", []string{`{"_id":1,"a":1,"u":{"$uuid":"c8edabc3-f738-4ca3-b68d-ab92a91478a3"},"d":{"$date":"2026-01-01T00:00:00Z"}}`, `{"_id":2,"a":"x"}`, `{"_id":3,"a":"y"}`}, "_id int\na string|int\nd date absent 0.67 nullable\nu uuid absent 0.67 nullable\n"},
		{"names", []string{`{"_id":1,"a.b":1,"":2,"x\\y":3}`}, "_id int\n\"\" int\na\\.b int\nx\\\\y int\n"},
		{"nothing", nil, ""},
	} {
		if got := told(shapeOf(t, x.docs...)); got != x.want {
			t.Errorf("%s:\n%swant\n%s", x.name, got, x.want)
		}
	}
}

// TestFold: names that are values are put together; many that most documents have are not.
func TestFold(t *testing.T) {
	var days, wide []string
	for i := range 300 {
		days = append(days, fmt.Sprintf(`{"_id":%d,"code":1,"2026-%02d-%02d":{"level":1}}`, i, i%12+1, i%28+1))
		var fields []string
		for j := range 100 {
			fields = append(fields, fmt.Sprintf(`"field_%c%c":1`, 'a'+j/10, 'a'+j%10))
		}
		wide = append(wide, fmt.Sprintf(`{"_id":%d,%s}`, i, strings.Join(fields, ",")))
	}
	if got, want := told(shapeOf(t, days...)), "_id int\n* object nullable many\n*.level int nullable many within *\ncode int\n"; got != want {
		t.Errorf("days:\n%swant\n%s", got, want)
	}
	if n := len(columnsOf(shapeOf(t, wide...))); n != 101 {
		t.Errorf("a wide document has %d fields", n)
	}
}

// TestKinds: the field that says which others there are, and none where nothing hangs on one.
func TestKinds(t *testing.T) {
	of := func(n int, doc func(i int) string) []kept {
		var all []kept
		for i := range n {
			all = append(all, keptOf(raw(t, doc(i))))
		}
		return all
	}
	kinds := func(i int) string {
		return []string{`{"_id":1,"kind":"tide","level":1,"quality":1}`, `{"_id":1,"kind":"wave","height":1}`}[i%2]
	}
	for _, x := range []struct {
		name string
		docs []kept
		want string
	}{
		{"two", of(40, kinds), "kind: tide: level, quality; wave: height"},
		{"too few documents", of(10, kinds), ": "},
		{"one field hangs on it", of(40, func(i int) string {
			return []string{`{"kind":"a","x":1}`, `{"kind":"b"}`}[i%2]
		}), ": "},
		{"fields come as they like", of(40, func(i int) string {
			return []string{`{"kind":"a","x":1}`, `{"kind":"b","y":1}`, `{"kind":"b","x":1,"y":1}`, `{"kind":"a"}`}[i%4]
		}), ": "},
		{"a text of its own in each", of(40, func(i int) string {
			return fmt.Sprintf(`{"kind":"k%d","x":1%s}`, i, map[bool]string{true: `,"y":1,"z":1`}[i%2 == 0])
		}), ": "},
	} {
		name, says := kindsOf(x.docs)
		if got := name + ": " + says; got != x.want {
			t.Errorf("%s: %s, want %s", x.name, got, x.want)
		}
	}
}

// TestPresence: a validator holds for the documents that it was made from, whatever their fields are.
func TestPresence(t *testing.T) {
	for _, x := range []struct {
		docs []string
		want string
	}{
		{[]string{`{"_id":1,"a":1,"b":"x"}`, `{"_id":2,"a":1.5,"b":null}`}, `{"$jsonSchema":{"bsonType":"object","required":["a","b"],"properties":{"a":{"bsonType":"number"},"b":{"bsonType":["string","null"]}}}}`},
		{[]string{`{"_id":1,"p":{"lat":1},"l":[{"n":1}]}`, `{"_id":2}`}, `{"$jsonSchema":{"bsonType":"object","properties":{"l":{"bsonType":"array","items":{"bsonType":"object","properties":{"n":{"bsonType":"number"}}}},"p":{"bsonType":"object","required":["lat"],"properties":{"lat":{"bsonType":"number"}}}}}}`},
		{[]string{`{"_id":1,"a":1,"x.y":2}`, `{"_id":2,"a":"x"}`}, `{"$jsonSchema":{"bsonType":"object","required":["a"],"properties":{"a":{"bsonType":["number","string"]}}}}`},
	} {
		k := presence(&catalog.Table{Columns: columnsOf(shapeOf(t, x.docs...))})
		if k.Expression != x.want || k.Name != validatorName {
			t.Errorf("%v:\n%s\nwant\n%s", x.docs, k.Expression, x.want)
		}
	}
}
