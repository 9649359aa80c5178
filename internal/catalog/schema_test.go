package catalog

import (
	"bytes"
	"encoding/json"
	"flag"
	"os"
	"reflect"
	"strings"
	"testing"
	"time"
)

var update = flag.Bool("update", false, "write docs/survey.schema.json anew")

const schemaFile = "../../docs/survey.schema.json"

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

type object = map[string]any

// describe turns a type into a schema; structs become definitions.
func describe(t reflect.Type, definitions object) object {
	if list, ok := words[t]; ok {
		return object{"type": "string", "enum": list}
	}
	switch t.Kind() {
	case reflect.Pointer:
		return describe(t.Elem(), definitions)
	case reflect.Slice:
		return object{"type": "array", "items": describe(t.Elem(), definitions)}
	case reflect.Map:
		return object{"type": "object", "additionalProperties": describe(t.Elem(), definitions)}
	case reflect.String:
		return object{"type": "string"}
	case reflect.Bool:
		return object{"type": "boolean"}
	case reflect.Float64:
		return object{"type": "number"}
	case reflect.Int, reflect.Int64:
		return object{"type": "integer"}
	}
	if t == reflect.TypeFor[time.Time]() {
		return object{"type": "string", "format": "date-time"}
	}
	name := strings.ToLower(t.Name())
	if _, known := definitions[name]; !known {
		definitions[name] = nil
		properties, required := object{}, []string{}
		members(t, definitions, properties, &required)
		definitions[name] = object{"type": "object", "properties": properties, "required": required, "additionalProperties": false}
	}
	return object{"$ref": "#/$defs/" + name}
}

func members(t reflect.Type, definitions, properties object, required *[]string) {
	for i := range t.NumField() {
		f := t.Field(i)
		if f.Anonymous {
			members(f.Type, definitions, properties, required)
			continue
		}
		name, rest, _ := strings.Cut(f.Tag.Get("json"), ",")
		if name == "" || name == "-" {
			continue
		}
		properties[name] = describe(f.Type, definitions)
		if !strings.Contains(rest, "omitempty") {
			*required = append(*required, name)
		}
	}
}

// TestSchema: the JSON Schema in docs is the one of the model.
func TestSchema(t *testing.T) {
	definitions := object{}
	root := describe(reflect.TypeFor[survey](), definitions)
	root["$schema"] = "https://json-schema.org/draft/2020-12/schema"
	root["title"] = "Survey file of Nexdal"
	root["description"] = "See survey-format.md for what the members mean."
	definitions["survey"].(object)["properties"].(object)["kind"] = object{"const": "survey"}
	definitions["survey"].(object)["properties"].(object)["format"] = object{"type": "integer", "minimum": 1, "maximum": Format}
	root["$defs"] = definitions
	var want bytes.Buffer
	e := json.NewEncoder(&want)
	e.SetIndent("", "  ")
	if err := e.Encode(root); err != nil {
		t.Fatal(err)
	}
	if *update {
		if err := os.WriteFile(schemaFile, want.Bytes(), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	if got, err := os.ReadFile(schemaFile); err != nil || !bytes.Equal(got, want.Bytes()) {
		t.Errorf("docs/survey.schema.json is stale (%v): go test ./internal/catalog -run Schema -update", err)
	}
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
