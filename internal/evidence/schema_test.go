package evidence

import (
	"flag"
	"reflect"
	"testing"

	"nexdal/test/schema"
)

var update = flag.Bool("update", false, "write docs/evidence.schema.json anew")

// TestSchema: the JSON Schema in docs is the one of the evidence.
func TestSchema(t *testing.T) {
	schema.File{Path: "../../docs/evidence.schema.json", Title: "Evidence file of Nexdal", Page: "evidence-format.md", Kind: "evidence", Format: Format}.Hold(t, reflect.TypeFor[Evidence](), *update)
}
