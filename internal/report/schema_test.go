package report

import (
	"reflect"
	"testing"

	"nexdal/test/schema"
)

// TestSchema: the JSON Schemas in docs are those of the findings, and of what a run and a rehearsal
// came to.
func TestSchema(t *testing.T) {
	schema.File{Path: "../../docs/findings.schema.json", Title: "Findings of nexdal check --format json", Page: "findings-format.md", Kind: "findings", Format: findingsFormat}.
		Hold(t, reflect.TypeFor[findingsFile](), reflect.TypeFor[checksFile]())
	schema.File{Path: "../../docs/record.schema.json", Title: "What a run or a rehearsal of Nexdal came to", Page: "journal-format.md", Format: recordFormat}.Hold(t, reflect.TypeFor[Record]())
}
