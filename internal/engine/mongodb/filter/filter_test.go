package filter_test

import (
	"errors"
	"testing"

	"go.mongodb.org/mongo-driver/v2/bson"

	"nexdal/internal/engine/mongodb/filter"
)

func document(t *testing.T, text string) bson.D {
	t.Helper()
	var d bson.D
	if err := bson.UnmarshalExtJSON([]byte(text), false, &d); err != nil {
		t.Fatalf("%s: %v", text, err)
	}
	return d
}

// gauge has of everything: nulls, lists, lists of objects, numbers of two kinds.
const gauge = `{"_id": 7, "name": "Ansholm", "level": 12.5, "none": null, "tags": ["old", "stone"], "empty": [], "place": {"lat": 54.5}, "marks": [{"name": "bolt", "height": 3}, {"name": "ring", "height": 5}], "key": {"$oid": "65f000000000000000000001"}, "at": {"$date": "2026-01-01T00:00:00Z"}}`

// TestHolds: the cases are those of the manual's pages of the operators.
func TestHolds(t *testing.T) {
	doc := document(t, gauge)
	for condition, want := range map[string]bool{
		`{}`:                                    true,
		`{"_id": 7.0}`:                          true, // numbers of two kinds compare
		`{"_id": "7"}`:                          false,
		`{"name": "Ansholm", "_id": 8}`:         false,
		`{"none": null}`:                        true,
		`{"missing": null}`:                     true, // what is not there is a null
		`{"missing": {"$ne": null}}`:            false,
		`{"missing": {"$exists": false}}`:       true,
		`{"none": {"$exists": true}}`:           true,
		`{"none": {"$exists": 0}}`:              false,
		`{"tags": "stone"}`:                     true, // one of the list
		`{"tags": ["old", "stone"]}`:            true, // or all of it
		`{"tags": ["stone", "old"]}`:            false,
		`{"tags": {"$size": 2}}`:                true,
		`{"empty": {"$size": 0}}`:               true,
		`{"name": {"$size": 1}}`:                false,
		`{"place.lat": {"$gt": 54, "$lt": 55}}`: true,
		`{"place.lat": {"$gte": 54.5}}`:         true,
		`{"place.lat": {"$lte": 54.4}}`:         false,
		`{"name": {"$gt": 1}}`:                  false, // of another type
		`{"missing": {"$gt": 1}}`:               false,
		`{"marks.name": "ring"}`:                true,
		`{"marks.height": {"$gt": 5}}`:          false,
		`{"marks": {"$elemMatch": {"name": "bolt", "height": 3}}}`: true,
		`{"marks": {"$elemMatch": {"name": "bolt", "height": 5}}}`: false, // not of one element
		`{"marks.name": "bolt", "marks.height": 5}`:                true,  // of any
		`{"_id": {"$in": [1, 7]}}`:                                 true,
		`{"_id": {"$nin": [1, 7]}}`:                                false,
		`{"missing": {"$nin": [1]}}`:                               true,
		`{"_id": {"$not": {"$gt": 5, "$lt": 9}}}`:                  false,
		`{"_id": {"$not": {"$gt": 5, "$lt": 6}}}`:                  true,
		`{"name": {"$regex": "^Ans"}}`:                             true,
		`{"level": {"$type": "double"}}`:                           true,
		`{"level": {"$type": "number"}}`:                           true,
		`{"level": {"$type": ["string", "int"]}}`:                  false,
		`{"tags": {"$type": "string"}}`:                            true, // of an element
		`{"tags": {"$type": "array"}}`:                             true,
		`{"$or": [{"_id": 1}, {"name": "Ansholm"}]}`:               true,
		`{"$and": [{"_id": 7}, {"name": "x"}]}`:                    false,
		`{"$nor": [{"_id": 1}, {"name": "x"}]}`:                    true,
		`{"$comment": "why", "_id": 7}`:                            true,
		`{"key": {"$oid": "65f000000000000000000001"}}`:            true,
		`{"key": "65f000000000000000000001"}`:                      false, // a text is no identifier
		`{"at": {"$gt": {"$date": "2025-12-31T00:00:00Z"}}}`:       true,
	} {
		if is, err := filter.Holds(doc, document(t, condition)); is != want || err != nil {
			t.Errorf("%s: %v (%v), want %v", condition, is, err, want)
		}
	}
	for _, condition := range []string{`{"$where": "1"}`, `{"a": {"$mod": [2, 0]}}`, `{"$expr": {}}`, `{"$jsonSchema": {"dependencies": {}}}`} {
		var unknown *filter.UnknownError
		if _, err := filter.Holds(doc, document(t, condition)); !errors.As(err, &unknown) {
			t.Errorf("%s: %v, though nobody knows what it means", condition, err)
		}
	}
	for _, condition := range []string{`{"$or": 1}`, `{"$and": [1]}`, `{"_id": {"$in": 1}}`, `{"marks": {"$elemMatch": 1}}`, `{"name": {"$regex": "("}}`, `{"$jsonSchema": 1}`} {
		if _, err := filter.Holds(doc, document(t, condition)); err == nil {
			t.Errorf("%s is taken", condition)
		}
	}
}

// TestSchema: each keyword, for a document that keeps it and for one that does not.
func TestSchema(t *testing.T) {
	for _, c := range []struct{ schema, good, bad string }{
		{`{"bsonType": "object", "required": ["a"]}`, `{"a": null}`, `{"b": 1}`},
		{`{"properties": {"a": {"bsonType": "number"}}}`, `{"a": 1.5}`, `{"a": "1"}`},
		{`{"properties": {"a": {"bsonType": ["string", "null"]}}}`, `{"a": null}`, `{"a": 1}`},
		{`{"properties": {"a": {"type": "boolean"}}}`, `{"a": true}`, `{"a": 1}`},
		{`{"properties": {"a": {"bsonType": "long"}}}`, `{"a": {"$numberLong": "1"}}`, `{"a": 1}`},
		{`{"properties": {"a": {"enum": ["x", 2, null]}}}`, `{"a": 2.0}`, `{"a": "y"}`},
		{`{"properties": {"a": {"minimum": 1, "maximum": 3}}}`, `{"a": 3}`, `{"a": 4}`},
		{`{"properties": {"a": {"minimum": 1}}}`, `{"a": "text"}`, `{"a": 0.5}`},
		{`{"properties": {"a": {"minLength": 2, "maxLength": 3}}}`, `{"a": "äöü"}`, `{"a": "äöüß"}`},
		{`{"properties": {"a": {"minLength": 2}}}`, `{"a": 1}`, `{"a": "x"}`},
		{`{"properties": {"a": {"pattern": "^S[0-9]"}}}`, `{"a": "S1"}`, `{"a": "T1"}`},
		{`{"properties": {"a": {"minItems": 1, "maxItems": 2, "items": {"bsonType": "string"}}}}`, `{"a": ["x"]}`, `{"a": ["x", 1]}`},
		{`{"properties": {"a": {"minItems": 1}}}`, `{"a": 1}`, `{"a": []}`},
		{`{"properties": {"a": {"maxItems": 1}}}`, `{"a": [1]}`, `{"a": [1, 2]}`},
		{`{"properties": {"a": {"properties": {"b": {"bsonType": "string"}}, "required": ["b"]}}}`, `{"a": 5}`, `{"a": {"c": 1}}`},
		{`{"properties": {"a": {}}, "additionalProperties": false}`, `{"a": 1}`, `{"b": 1}`},
		{`{"allOf": [{"required": ["a"]}, {"required": ["b"]}]}`, `{"a": 1, "b": 1}`, `{"a": 1}`},
		{`{"anyOf": [{"required": ["a"]}, {"required": ["b"]}]}`, `{"b": 1}`, `{"c": 1}`},
		{`{"oneOf": [{"required": ["a"]}, {"required": ["b"]}]}`, `{"b": 1}`, `{"a": 1, "b": 1}`},
		{`{"not": {"required": ["a"]}, "title": "x", "description": "y"}`, `{"b": 1}`, `{"a": 1}`},
	} {
		schema := document(t, c.schema)
		if is, err := filter.Schema(document(t, c.good), schema); !is || err != nil {
			t.Errorf("%s refuses %s (%v)", c.schema, c.good, err)
		}
		if is, err := filter.Schema(document(t, c.bad), schema); is || err != nil {
			t.Errorf("%s takes %s (%v)", c.schema, c.bad, err)
		}
	}
}

// TestCompare: the order of types and of values within them
// (https://www.mongodb.com/docs/manual/reference/bson-type-comparison-order/).
func TestCompare(t *testing.T) {
	list, _ := document(t, `{"all": [null, -1.5, 2, {"$numberLong": "3"}, "a", "b", {"a": 1}, [1], {"$oid": "65f000000000000000000001"}, false, true, {"$date": "2026-01-01T00:00:00Z"}]}`)[0].Value.(bson.A)
	for i, a := range list {
		for j, b := range list {
			got := filter.Compare(a, b)
			if (got < 0) != (i < j) || (got == 0) != (i == j) {
				t.Errorf("%v and %v: %d", a, b, got)
			}
		}
	}
}
