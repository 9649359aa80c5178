package filter

import (
	"fmt"
	"regexp"
	"slices"

	"go.mongodb.org/mongo-driver/v2/bson"
)

// Schema reports whether a value is as a $jsonSchema says, by the keywords that MongoDB takes
// (https://www.mongodb.com/docs/manual/reference/operator/query/jsonSchema/).
func Schema(v any, schema bson.D) (bool, error) {
	for _, e := range schema {
		ok, err := keyword(v, schema, e)
		if !ok || err != nil {
			return false, err
		}
	}
	return true, nil
}

func keyword(v any, schema bson.D, e bson.E) (bool, error) {
	doc, isDoc := v.(bson.D)
	list, isList := v.(bson.A)
	text, isText := v.(string)
	switch e.Key {
	case "title", "description":
		return true, nil
	case "bsonType", "type":
		for _, t := range listOf(e.Value) {
			if name := fmt.Sprint(t); fits(v, name) || e.Key == "type" && fits(v, jsonTypes[name]) {
				return true, nil
			}
		}
		return false, nil
	case "enum":
		return slices.ContainsFunc(listOf(e.Value), func(x any) bool { return Compare(v, x) == 0 }), nil
	case "required":
		return !isDoc || !slices.ContainsFunc(listOf(e.Value), func(name any) bool { return !has(doc, fmt.Sprint(name)) }), nil
	case "properties":
		of, _ := e.Value.(bson.D)
		for _, p := range of {
			inner, ok := p.Value.(bson.D)
			if !isDoc || !ok || !has(doc, p.Key) {
				continue
			}
			if is, err := Schema(Get(doc, p.Key), inner); !is || err != nil {
				return false, err
			}
		}
		return true, nil
	case "additionalProperties":
		if allowed, ok := e.Value.(bool); ok && !allowed && isDoc {
			known, _ := Get(schema, "properties").(bson.D)
			return !slices.ContainsFunc(doc, func(f bson.E) bool { return !has(known, f.Key) }), nil
		}
		return true, nil
	case "items":
		inner, ok := e.Value.(bson.D)
		if !isList || !ok {
			return true, nil
		}
		for _, x := range list {
			if is, err := Schema(x, inner); !is || err != nil {
				return false, err
			}
		}
		return true, nil
	case "minimum":
		return bracket(v) != bracket(e.Value) || Compare(v, e.Value) >= 0, nil
	case "maximum":
		return bracket(v) != bracket(e.Value) || Compare(v, e.Value) <= 0, nil
	case "minLength":
		return !isText || Compare(int64(len([]rune(text))), e.Value) >= 0, nil
	case "maxLength":
		return !isText || Compare(int64(len([]rune(text))), e.Value) <= 0, nil
	case "minItems":
		return !isList || Compare(int64(len(list)), e.Value) >= 0, nil
	case "maxItems":
		return !isList || Compare(int64(len(list)), e.Value) <= 0, nil
	case "pattern":
		p, err := regexp.Compile(fmt.Sprint(e.Value))
		return err == nil && (!isText || p.MatchString(text)), err
	case "allOf", "anyOf", "oneOf":
		held := 0
		all := listOf(e.Value)
		for _, x := range all {
			inner, _ := x.(bson.D)
			is, err := Schema(v, inner)
			if err != nil {
				return false, err
			}
			if is {
				held++
			}
		}
		return e.Key == "allOf" && held == len(all) || e.Key == "anyOf" && held > 0 || e.Key == "oneOf" && held == 1, nil
	case "not":
		inner, _ := e.Value.(bson.D)
		is, err := Schema(v, inner)
		return !is, err
	}
	return false, &UnknownError{e.Key + " of $jsonSchema"}
}

var jsonTypes = map[string]string{"string": "string", "number": "number", "boolean": "bool", "object": "object", "array": "array", "null": "null"}

func listOf(v any) []any {
	if list, ok := v.(bson.A); ok {
		return list
	}
	return []any{v}
}

func has(d bson.D, name string) bool {
	return slices.ContainsFunc(d, func(e bson.E) bool { return e.Key == name })
}

// Get is the value of a field of the name; nil: there is none, or it is null.
func Get(d bson.D, name string) any {
	for _, e := range d {
		if e.Key == name {
			return e.Value
		}
	}
	return nil
}
