package evidence

import (
	"reflect"
	"testing"

	"nexdal/test/schema"
)

// TestSchema: the JSON Schema in docs is the one of the evidence.
func TestSchema(t *testing.T) {
	schema.File{Path: "../../docs/evidence.schema.json", Title: "Evidence file of Nexdal", Page: "evidence-format.md", Kind: "evidence", Format: Format}.Hold(t, reflect.TypeFor[Evidence]())
}
