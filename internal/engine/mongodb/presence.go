package mongodb

import (
	"slices"
	"strings"

	"go.mongodb.org/mongo-driver/v2/bson"

	"nexdal/internal/catalog"
)

// presence is a validator that says what documents were seen to be: the types of each field, and which
// all of them have. What is read from a sample alone may be stricter than all documents are.
func presence(t *catalog.Table) *catalog.Check {
	schema := bson.D{{Key: "bsonType", Value: ofObject}}
	schema = append(schema, level(t, "")...)
	return &catalog.Check{Name: validatorName, Expression: compactD(bson.D{{Key: "$jsonSchema", Value: schema}})}
}

// level is what is said of the fields within a path.
func level(t *catalog.Table, within string) bson.D {
	var required bson.A
	var properties bson.D
	for _, c := range t.Columns {
		if c.Within != within || strings.HasSuffix(c.Name, everyName) {
			continue
		}
		name := c.Leaf()
		if name == "_id" && within == "" || strings.Contains(name, `\`) || strings.Contains(name, `"`) {
			continue
		}
		if c.Stats.Absent != nil && *c.Stats.Absent == 0 {
			required = append(required, name)
		}
		types := typesOf(c)
		if len(types) == 0 {
			continue
		}
		var of bson.D
		if of = append(of, bson.E{Key: "bsonType", Value: types}); len(types) == 1 {
			of = bson.D{{Key: "bsonType", Value: types[0]}}
		}
		inner := level(t, c.Name)
		switch {
		case len(inner) == 0:
		case slices.Contains(types, any(ofArray)) && !slices.Contains(types, any(ofObject)):
			of = append(of, bson.E{Key: "items", Value: append(bson.D{{Key: "bsonType", Value: ofObject}}, inner...)})
		case slices.Contains(types, any(ofObject)) && !slices.Contains(types, any(ofArray)):
			of = append(of, inner...)
		}
		properties = append(properties, bson.E{Key: name, Value: of})
	}
	var schema bson.D
	if len(required) > 0 {
		schema = append(schema, bson.E{Key: "required", Value: required})
	}
	if len(properties) > 0 {
		schema = append(schema, bson.E{Key: "properties", Value: properties})
	}
	return schema
}

// compares: numbers of all kinds compare
// (https://www.mongodb.com/docs/manual/reference/bson-type-comparison-order/).
func compares(kind string) string {
	switch kind {
	case "int", "long", "double", "decimal":
		return "number"
	}
	return kind
}

// typesOf are the types of a field's values, null among them where one was seen.
func typesOf(c *catalog.Column) bson.A {
	var types bson.A
	if c.Stats.Types == nil {
		return nil
	}
	for _, s := range *c.Stats.Types {
		name := s.Of
		if name == ofUUID {
			name = "binData"
		}
		name = compares(name) // which kind of number a program sends is mostly chance
		if !slices.Contains(types, any(name)) {
			types = append(types, name)
		}
	}
	if c.Stats.Nulls != nil && *c.Stats.Nulls > 0 {
		types = append(types, ofNull)
	}
	return types
}
