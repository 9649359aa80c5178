package mongodb

import (
	"slices"
	"strings"
	"testing"

	"go.mongodb.org/mongo-driver/v2/bson"

	"nexdal/internal/catalog"
)

func raw(t *testing.T, text string) bson.Raw {
	t.Helper()
	d, err := document(text)
	if err != nil {
		t.Fatalf("%s: %v", text, err)
	}
	r, err := bson.Marshal(d)
	if err != nil {
		t.Fatal(err)
	}
	return r
}

// TestIndexes: what listIndexes tells of an index makes the same index again.
func TestIndexes(t *testing.T) {
	for _, x := range []struct {
		spec   string // as it is listed
		again  string // as it is made, where that is otherwise
		origin catalog.Origin
		parts  string
	}{
		{`{"key":{"code":1},"name":"c"}`, "", catalog.ByPerson, "code"},
		{`{"key":{"code":1,"at":-1},"name":"c"}`, "", catalog.ByPerson, "code, at desc"},
		{`{"key":{"code":1},"name":"c","unique":true}`, "", catalog.ByUniqueKey, "code"},
		{`{"key":{"code":1},"name":"c","unique":true,"sparse":true}`, "", catalog.ByPerson, "code"},
		{`{"key":{"code":1},"name":"c","unique":true,"partialFilterExpression":{"a":{"$gt":5}}}`, "", catalog.ByPerson, "code"},
		{`{"key":{"code":1},"name":"c","hidden":true}`, "", catalog.ByPerson, "code"},
		{`{"key":{"at":1},"name":"ttl","expireAfterSeconds":60}`, "", catalog.ByPerson, "at"},
		{`{"key":{"code":"hashed"},"name":"h"}`, "", catalog.ByPerson, "code hashed"},
		{`{"key":{"place":"2dsphere","kind":-1},"name":"p"}`, "", catalog.ByPerson, "place 2dsphere, kind desc"},
		{`{"key":{"$**":1},"name":"w"}`, "", catalog.ByPerson, "($**)"},
		{`{"key":{"old":1,"_fts":"text","_ftsx":1},"name":"t","weights":{"note":1,"name":5},"textIndexVersion":3}`, `{"key":{"old":1,"note":"text","name":"text"},"name":"t","weights":{"note":1,"name":5}}`, catalog.ByPerson, "old, note text, name text"},
		{`{"key":{"name":1},"name":"c","collation":{"locale":"de","strength":2}}`, "", catalog.ByPerson, "name"},
	} {
		made := indexOf(raw(t, x.spec))
		var parts []string
		for _, p := range made.Parts {
			part := p.Column
			if p.Expression != "" {
				part = "(" + p.Expression + ")"
			}
			if p.OpClass != "" {
				part += " " + p.OpClass
			}
			if p.Descending {
				part += " desc"
			}
			parts = append(parts, part)
		}
		if got := strings.Join(parts, ", "); got != x.parts || made.Origin != x.origin {
			t.Errorf("%s: (%s) made by %s", x.spec, got, made.Origin)
		}
		if x.again == "" {
			x.again = x.spec
		}
		spec, err := specOf(made)
		if got := compactD(spec); err != nil || !alike(t, got, x.again) {
			t.Errorf("%s is made again as %s (%v)", x.spec, got, err)
		}
	}
	if made := indexOf(raw(t, `{"v":2,"key":{"_id":1},"name":"_id_"}`)); made.Origin != catalog.ByPrimaryKey || !made.Unique {
		t.Errorf("the index of the key: %+v", made)
	}
	if _, err := specOf(&catalog.Index{Name: "c", Predicate: "a > 5"}); err == nil {
		t.Error("a condition in SQL is taken")
	}
}

// alike compares documents whose members may stand in any order, but for those of a key.
func alike(t *testing.T, a, b string) bool {
	t.Helper()
	sorted := func(text string) string {
		d, err := document(text)
		if err != nil {
			t.Fatal(err)
		}
		slices.SortFunc(d, func(a, b bson.E) int { return strings.Compare(a.Key, b.Key) })
		return compactD(d)
	}
	return sorted(a) == sorted(b)
}

// TestParse: a statement of a script is one call with a document, and nothing else is taken for one.
func TestParse(t *testing.T) {
	for text, want := range map[string]string{
		`db.runCommand({"drop":"a"});`:                                                 `{"drop":"a"}`,
		"// why\ndb.runCommand({\"drop\":\"a\"}) // and so\n":                          `{"drop":"a"}`,
		`db.runCommand({"drop":"it's // no comment"});`:                                `{"drop":"it's // no comment"}`,
		`db.runCommand(EJSON.deserialize({"a":{"$oid":"65f000000000000000000001"}}));`: `{"a":{"$oid":"65f000000000000000000001"}}`,
	} {
		d, err := parse(text)
		if err != nil || compactD(d) != want {
			t.Errorf("%q: %v (%v)", text, d, err)
		}
	}
	for _, text := range []string{"db.station.drop()", "db.runCommand({drop: 'a'})", `db.runCommand({"drop":"a"}); db.runCommand({"drop":"b"})`, `db.runCommand({"drop":"a"}`, "DROP TABLE a", "// nothing", "", "db.runCommand({\"drop\":\"a\"})\ndb.runCommand({\"drop\":\"b\"})"} {
		if d, err := parse(text); err == nil {
			t.Errorf("%q is taken for %v", text, d)
		}
	}
}
