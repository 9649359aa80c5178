package filter

import (
	"bytes"
	"cmp"
	"fmt"
	"math/big"
	"strings"

	"go.mongodb.org/mongo-driver/v2/bson"
)

// TypeOf is what the type of a value is called in queries.
func TypeOf(v any) string {
	switch v := v.(type) {
	case absent:
		return "missing"
	case nil, bson.Null:
		return "null"
	case string:
		return "string"
	case int32:
		return "int"
	case int64:
		return "long"
	case float64:
		return "double"
	case bool:
		return "bool"
	case bson.D:
		return "object"
	case bson.A:
		return "array"
	case bson.ObjectID:
		return "objectId"
	case bson.DateTime:
		return "date"
	case bson.Decimal128:
		return "decimal"
	case bson.Binary:
		return "binData"
	case bson.Timestamp:
		return "timestamp"
	case bson.Regex:
		return "regex"
	case bson.MinKey:
		return "minKey"
	case bson.MaxKey:
		return "maxKey"
	default:
		return fmt.Sprintf("%T", v)
	}
}

// fits reports whether a value is of the type that a query names.
func fits(v any, name string) bool {
	is := TypeOf(v)
	return is == name || name == "number" && bracket(v) == 1
}

// bracket is the place of a value's type in the order of types
// (https://www.mongodb.com/docs/manual/reference/bson-type-comparison-order/).
func bracket(v any) int {
	switch TypeOf(v) {
	case "minKey":
		return -1
	case "null", "missing":
		return 0
	case "int", "long", "double", "decimal":
		return 1
	case "string":
		return 2
	case "object":
		return 3
	case "array":
		return 4
	case "binData":
		return 5
	case "objectId":
		return 6
	case "bool":
		return 7
	case "date":
		return 8
	case "timestamp":
		return 9
	case "regex":
		return 10
	}
	return 11
}

// Compare orders two values as the engine does.
func Compare(a, b any) int {
	if n := cmp.Compare(bracket(a), bracket(b)); n != 0 {
		return n
	}
	switch x := a.(type) {
	case string:
		if y, ok := b.(string); ok {
			return strings.Compare(x, y)
		}
	case bool:
		y, _ := b.(bool)
		switch {
		case x == y:
			return 0
		case y:
			return -1
		}
		return 1
	case bson.ObjectID:
		if y, ok := b.(bson.ObjectID); ok {
			return bytes.Compare(x[:], y[:])
		}
	case bson.DateTime:
		if y, ok := b.(bson.DateTime); ok {
			return cmp.Compare(x, y)
		}
	case bson.A:
		y, _ := b.(bson.A)
		for i := range min(len(x), len(y)) {
			if n := Compare(x[i], y[i]); n != 0 {
				return n
			}
		}
		return cmp.Compare(len(x), len(y))
	case bson.D:
		y, _ := b.(bson.D)
		for i := range min(len(x), len(y)) {
			if n := strings.Compare(x[i].Key, y[i].Key); n != 0 {
				return n
			}
			if n := Compare(x[i].Value, y[i].Value); n != 0 {
				return n
			}
		}
		return cmp.Compare(len(x), len(y))
	case nil:
		return 0
	}
	if bracket(a) == 1 {
		x, y := number(a), number(b)
		if x != nil && y != nil {
			return x.Cmp(y)
		}
	}
	return strings.Compare(fmt.Sprint(a), fmt.Sprint(b))
}

func number(v any) *big.Float {
	switch v := v.(type) {
	case int32:
		return big.NewFloat(float64(v))
	case int64:
		return new(big.Float).SetInt64(v)
	case float64:
		if v != v {
			return nil
		}
		return big.NewFloat(v)
	case bson.Decimal128:
		f, _, err := big.ParseFloat(v.String(), 10, 120, big.ToNearestEven)
		if err != nil {
			return nil
		}
		return f
	}
	return nil
}
