package run

import (
	"reflect"
	"testing"

	"nexdal/test/schema"
)

// TestSchema: the JSON Schema in docs is the one of a line of the journal.
func TestSchema(t *testing.T) {
	schema.File{Path: "../../docs/journal.schema.json", Title: "A line of a journal of Nexdal", Page: "journal-format.md",
		Words: map[reflect.Type][]string{reflect.TypeFor[State](): {string(Begun), string(Done), string(Undone), string(Unknown), string(Finished), string(Ended)}}}.Hold(t, reflect.TypeFor[Entry]())
}
