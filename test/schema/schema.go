// Package schema makes JSON Schemas of Go types, for the files in docs, and
// holds them to what lies there.
package schema

import (
	"bytes"
	"cmp"
	"encoding/json"
	"reflect"
	"strings"
	"testing"
	"time"

	"nexdal/test/golden"
)

// Object is a JSON object.
type Object = map[string]any

// A File is a schema in docs.
type File struct {
	Path, Title, Page string
	Kind              string
	Format            int
	Words             map[reflect.Type][]string // the values that a member may have, where they are few
	Forms             map[reflect.Type]string   // formats of texts: "date"
	Tag               string                    // that names members; "": json
}

// Hold fails the test where the file is not the schema of the type, or of any of several; -update
// writes it.
func (f File) Hold(t *testing.T, root reflect.Type, others ...reflect.Type) {
	t.Helper()
	definitions := Object{}
	top := f.describe(root, definitions)
	if len(others) > 0 {
		any := []any{top}
		for _, o := range others {
			any = append(any, f.describe(o, definitions))
		}
		top = Object{"anyOf": any}
	}
	top["$schema"] = "https://json-schema.org/draft/2020-12/schema"
	top["title"] = f.Title
	top["description"] = "See " + f.Page + " for what the members mean."
	properties := definitions[strings.ToLower(root.Name())].(Object)["properties"].(Object)
	if f.Kind != "" {
		properties["kind"] = Object{"const": f.Kind}
	}
	if f.Format > 0 {
		properties["format"] = Object{"type": "integer", "minimum": 1, "maximum": f.Format}
	}
	top["$defs"] = definitions
	var want bytes.Buffer
	e := json.NewEncoder(&want)
	e.SetIndent("", "  ")
	if err := e.Encode(top); err != nil {
		t.Fatal(err)
	}
	golden.Hold(t, f.Path, want.String())
}

// describe turns a type into a schema; structs become definitions.
func (f File) describe(t reflect.Type, definitions Object) Object {
	if list, ok := f.Words[t]; ok {
		return Object{"type": "string", "enum": list}
	}
	if form, ok := f.Forms[t]; ok {
		return Object{"type": "string", "format": form}
	}
	if t == reflect.TypeFor[json.RawMessage]() {
		return Object{}
	}
	switch t.Kind() {
	case reflect.Pointer:
		return f.describe(t.Elem(), definitions)
	case reflect.Slice:
		return Object{"type": "array", "items": f.describe(t.Elem(), definitions)}
	case reflect.Map:
		return Object{"type": "object", "additionalProperties": f.describe(t.Elem(), definitions)}
	case reflect.String:
		return Object{"type": "string"}
	case reflect.Bool:
		return Object{"type": "boolean"}
	case reflect.Float64:
		return Object{"type": "number"}
	case reflect.Int, reflect.Int64:
		return Object{"type": "integer"}
	}
	if t == reflect.TypeFor[time.Time]() {
		return Object{"type": "string", "format": "date-time"}
	}
	name := strings.ToLower(t.Name())
	if _, known := definitions[name]; !known {
		definitions[name] = nil
		properties, required := Object{}, []string{}
		f.members(t, definitions, properties, &required)
		definitions[name] = Object{"type": "object", "properties": properties, "required": required, "additionalProperties": false}
	}
	return Object{"$ref": "#/$defs/" + name}
}

func (f File) members(t reflect.Type, definitions, properties Object, required *[]string) {
	for i := range t.NumField() {
		field := t.Field(i)
		if field.Anonymous {
			f.members(field.Type, definitions, properties, required)
			continue
		}
		name, rest, _ := strings.Cut(field.Tag.Get(cmp.Or(f.Tag, "json")), ",")
		if name == "" || name == "-" {
			continue
		}
		member := f.describe(field.Type, definitions)
		if !strings.Contains(rest, "omitempty") {
			*required = append(*required, name)
			if field.Type.Kind() == reflect.Pointer {
				if of, ok := member["type"].(string); ok {
					member["type"] = []string{of, "null"}
				} else {
					member = Object{"oneOf": []any{member, Object{"type": "null"}}}
				}
			}
		}
		properties[name] = member
	}
}
