// Package filter tells whether a condition, as queries of MongoDB have it, holds for a document: the
// operators that validators and pre-flight queries need
// (https://www.mongodb.com/docs/manual/reference/operator/query/).
package filter

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"go.mongodb.org/mongo-driver/v2/bson"
)

// An UnknownError says that a condition has an operator that is not known here: whether it holds,
// cannot be said.
type UnknownError struct{ Operator string }

// Error names it.
func (e *UnknownError) Error() string { return fmt.Sprintf("the operator %s is not known", e.Operator) }

// Holds reports whether the condition holds for the document.
func Holds(doc, condition bson.D) (bool, error) {
	for _, e := range condition {
		ok, err := one(doc, e)
		if !ok || err != nil {
			return false, err
		}
	}
	return true, nil
}

func one(doc bson.D, e bson.E) (bool, error) {
	list := func(all func(held int, of int) bool) (bool, error) {
		parts, ok := e.Value.(bson.A)
		if !ok {
			return false, fmt.Errorf("%s takes a list", e.Key)
		}
		held := 0
		for _, p := range parts {
			d, ok := p.(bson.D)
			if !ok {
				return false, fmt.Errorf("%s takes a list of conditions", e.Key)
			}
			is, err := Holds(doc, d)
			if err != nil {
				return false, err
			}
			if is {
				held++
			}
		}
		return all(held, len(parts)), nil
	}
	switch e.Key {
	case "$and":
		return list(func(held, of int) bool { return held == of })
	case "$or":
		return list(func(held, _ int) bool { return held > 0 })
	case "$nor":
		return list(func(held, _ int) bool { return held == 0 })
	case "$jsonSchema":
		d, ok := e.Value.(bson.D)
		if !ok {
			return false, fmt.Errorf("$jsonSchema takes a schema")
		}
		return Schema(doc, d)
	case "$comment":
		return true, nil
	}
	if strings.HasPrefix(e.Key, "$") {
		return false, &UnknownError{e.Key}
	}
	values := At(doc, strings.Split(e.Key, "."))
	ops, ok := e.Value.(bson.D)
	if !ok || len(ops) == 0 || !strings.HasPrefix(ops[0].Key, "$") {
		return equalsAny(values, e.Value), nil
	}
	for _, op := range ops {
		is, err := operator(values, op)
		if !is || err != nil {
			return false, err
		}
	}
	return true, nil
}

// absent stands for what a document does not have.
type absent struct{}

// At are the values at the path: several where a list is on the way, absent{} where there is none.
func At(v any, path []string) []any {
	if len(path) == 0 {
		return []any{v}
	}
	switch v := v.(type) {
	case bson.D:
		for _, e := range v {
			if e.Key == path[0] {
				return At(e.Value, path[1:])
			}
		}
	case bson.A:
		var all []any
		for _, e := range v {
			if _, is := e.(bson.D); is {
				for _, x := range At(e, path) {
					if _, none := x.(absent); !none {
						all = append(all, x)
					}
				}
			}
		}
		if len(all) > 0 {
			return all
		}
	}
	return []any{absent{}}
}

// Present leaves out what is not there.
func Present(values []any) []any {
	return slices.DeleteFunc(slices.Clone(values), func(v any) bool { _, none := v.(absent); return none })
}

// spread are the values, and the elements of those that are lists.
func spread(values []any) []any {
	var all []any
	for _, v := range values {
		all = append(all, v)
		if list, ok := v.(bson.A); ok {
			all = append(all, list...)
		}
	}
	return all
}

func equalsAny(values []any, to any) bool {
	return slices.ContainsFunc(spread(values), func(v any) bool {
		if _, none := v.(absent); none {
			return to == nil
		}
		return Compare(v, to) == 0
	})
}

func operator(values []any, op bson.E) (bool, error) {
	compared := func(is func(int) bool) bool {
		return slices.ContainsFunc(spread(values), func(v any) bool {
			_, none := v.(absent)
			return !none && bracket(v) == bracket(op.Value) && is(Compare(v, op.Value))
		})
	}
	switch op.Key {
	case "$eq":
		return equalsAny(values, op.Value), nil
	case "$ne":
		return !equalsAny(values, op.Value), nil
	case "$gt":
		return compared(func(n int) bool { return n > 0 }), nil
	case "$gte":
		return compared(func(n int) bool { return n >= 0 }), nil
	case "$lt":
		return compared(func(n int) bool { return n < 0 }), nil
	case "$lte":
		return compared(func(n int) bool { return n <= 0 }), nil
	case "$in", "$nin":
		list, ok := op.Value.(bson.A)
		if !ok {
			return false, fmt.Errorf("%s takes a list", op.Key)
		}
		in := slices.ContainsFunc(list, func(v any) bool { return equalsAny(values, v) })
		return in == (op.Key == "$in"), nil
	case "$exists":
		there := len(Present(values)) > 0
		return there == truth(op.Value), nil
	case "$type":
		wanted := bson.A{op.Value}
		if list, ok := op.Value.(bson.A); ok {
			wanted = list
		}
		return slices.ContainsFunc(spread(values), func(v any) bool {
			return slices.ContainsFunc(wanted, func(t any) bool { return fits(v, fmt.Sprint(t)) })
		}), nil
	case "$not":
		d, ok := op.Value.(bson.D)
		if !ok {
			return false, &UnknownError{"$not of a pattern"}
		}
		for _, inner := range d {
			is, err := operator(values, inner)
			if err != nil || !is {
				return !is, err
			}
		}
		return false, nil
	case "$regex":
		p, err := regexp.Compile(fmt.Sprint(op.Value))
		if err != nil {
			return false, err
		}
		return slices.ContainsFunc(spread(values), func(v any) bool { s, ok := v.(string); return ok && p.MatchString(s) }), nil
	case "$size":
		return slices.ContainsFunc(values, func(v any) bool { list, ok := v.(bson.A); return ok && Compare(int64(len(list)), op.Value) == 0 }), nil
	case "$elemMatch":
		d, ok := op.Value.(bson.D)
		if !ok {
			return false, fmt.Errorf("$elemMatch takes a condition")
		}
		for _, v := range values {
			list, _ := v.(bson.A)
			for _, e := range list {
				if inner, ok := e.(bson.D); ok {
					if is, err := Holds(inner, d); is || err != nil {
						return is, err
					}
				}
			}
		}
		return false, nil
	}
	return false, &UnknownError{op.Key}
}

func truth(v any) bool {
	switch v := v.(type) {
	case bool:
		return v
	case int32:
		return v != 0
	case int64:
		return v != 0
	case float64:
		return v != 0
	}
	return v != nil
}
