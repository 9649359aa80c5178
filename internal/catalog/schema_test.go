package catalog

import (
	"os"
	"reflect"
	"testing"

	"nexdal/test/schema"
)

// words are the values that a member may have, where they are few.
var words = map[reflect.Type][]string{
	reflect.TypeFor[TableKind](): {string(Ordinary), string(Partitioned), string(Foreign), string(Virtual), string(Shadow)},
	reflect.TypeFor[Identity]():  {string(IdentityAlways), string(IdentityByDefault), string(IdentityRowid), string(IdentityCounter), string(IdentitySequence)},
	reflect.TypeFor[Family](): {string(Integer), string(Decimal), string(Float), string(Text), string(Binary), string(Boolean), string(Date), string(Time), string(Timestamp),
		string(Interval), string(UUID), string(JSON), string(Enum), string(Array), string(Other), string(Untyped)},
	reflect.TypeFor[Action]():   {string(NoAction), string(Restrict), string(Cascade), string(SetNull), string(SetDefault)},
	reflect.TypeFor[Origin]():   {string(ByPerson), string(ByPrimaryKey), string(ByUniqueKey), string(ByForeignKey), string(ByExclusion)},
	reflect.TypeFor[TypeKind](): {string(EnumType), string(DomainType), string(CompositeType), string(RangeType), string(BaseType)},
}

// TestSchema: the JSON Schema in docs is the one of the model.
func TestSchema(t *testing.T) {
	schema.File{Path: "../../docs/survey.schema.json", Title: "Survey file of Nexdal", Page: "survey-format.md", Kind: "survey", Format: Format, Words: words}.Hold(t, reflect.TypeFor[survey]())
}

// TestOlder reads a survey of format 1, and finds in it what was there.
func TestOlder(t *testing.T) {
	f, err := os.Open("testdata/format-1.json")
	if err != nil {
		t.Fatal(err)
	}
	defer f.Close()
	c, err := Read(f)
	if err != nil {
		t.Fatal(err)
	}
	gauge := c.Table(Ref{"main", "gauge"})
	if gauge == nil || len(gauge.Columns) != 3 || gauge.ForeignKeys[0].Target.Table != "station" || len(gauge.Triggers) != 1 || *gauge.Stats.Rows != 1 || len(c.Schemas[0].Views) != 1 {
		t.Errorf("read as %+v", gauge)
	}
}
