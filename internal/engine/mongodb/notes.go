package mongodb

import (
	"strings"

	"go.mongodb.org/mongo-driver/v2/bson"

	"nexdal/internal/catalog"
)

// notes takes what a validator's schema says of the collection and its fields for their comments: a
// store of documents keeps no others
// (https://www.mongodb.com/docs/manual/reference/operator/query/jsonSchema/#available-keywords).
func notes(t *catalog.Table, condition bson.Raw) {
	schema, ok := condition.Lookup("$jsonSchema").DocumentOK()
	if !ok {
		return
	}
	t.Comment = says(schema)
	notesOf(t, schema, "")
}

// notesOf are those of the fields below a path; what the elements of a list hold has its path.
func notesOf(t *catalog.Table, schema bson.Raw, path string) {
	if items, ok := schema.Lookup("items").DocumentOK(); ok {
		notesOf(t, items, path)
	}
	properties, _ := schema.Lookup("properties").DocumentOK()
	fields, _ := properties.Elements()
	for _, e := range fields {
		inner, ok := e.Value().DocumentOK()
		if !ok {
			continue
		}
		at := strings.TrimPrefix(path+"."+e.Key(), ".")
		if c := t.Column(at); c != nil && c.Comment == "" {
			c.Comment = says(inner)
		}
		notesOf(t, inner, at)
	}
}

// says is the description that a schema gives, or its title.
func says(schema bson.Raw) string {
	for _, keyword := range []string{"description", "title"} {
		if text, ok := schema.Lookup(keyword).StringValueOK(); ok {
			return text
		}
	}
	return ""
}
