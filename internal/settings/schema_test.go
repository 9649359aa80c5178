package settings

import (
	"reflect"
	"testing"

	"nexdal/test/schema"
)

// TestSchema: the JSON Schema in docs is the one of the decisions.
func TestSchema(t *testing.T) {
	schema.File{Path: "../../docs/decisions.schema.json", Title: "Decisions file of Nexdal", Page: "decisions.md", Format: decisionsFormat, Tag: "yaml",
		Words: map[reflect.Type][]string{reflect.TypeFor[Verdict](): {string(Accept), string(Refuse), string(SetAside), string(Choose)}},
		Forms: map[reflect.Type]string{reflect.TypeFor[Day](): "date"}}.Hold(t, reflect.TypeFor[Decisions]())
}
