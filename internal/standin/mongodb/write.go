package mongodb

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"go.mongodb.org/mongo-driver/v2/bson"

	"nexdal/internal/engine/mongodb/filter"
)

func (s *Server) insert(database, name string, c *collection, command bson.D) (bson.D, error) {
	if c == nil {
		c = s.make(database, name)
	}
	if c.kind == "view" {
		return nil, refuse(166, "CommandNotSupportedOnView", "Namespace %s.%s is a view, not a collection", database, name)
	}
	n, failed := 0, bson.A{}
	for i, v := range list(filter.Get(command, "documents")) {
		d := document(v)
		if filter.Get(d, "_id") == nil {
			d = append(bson.D{{Key: "_id", Value: bson.NewObjectID()}}, d...)
		}
		if err := c.takes(d); err != nil {
			f, ok := err.(*fault)
			if !ok {
				return nil, err
			}
			failed = append(failed, bson.D{{Key: "index", Value: int32(i)}, {Key: "code", Value: f.code}, {Key: "errmsg", Value: f.says}})
			break // in their order
		}
		c.docs = append(c.docs, d)
		n++
	}
	answer := bson.D{{Key: "n", Value: int32(n)}}
	if len(failed) > 0 {
		answer = append(answer, bson.E{Key: "writeErrors", Value: failed})
	}
	return append(answer, bson.E{Key: "ok", Value: 1.0}), nil
}

// takes says why a collection does not take a document.
func (c *collection) takes(d bson.D) error {
	if condition := document(filter.Get(c.options, "validator")); condition != nil && text(filter.Get(c.options, "validationAction")) != "warn" && text(filter.Get(c.options, "validationLevel")) != "off" {
		is, err := filter.Holds(d, condition)
		if err != nil {
			return err
		}
		if !is {
			return refuse(121, "DocumentValidationFailure", "Document failed validation")
		}
	}
	added := map[string][]string{}
	for _, x := range c.indexes {
		name := text(filter.Get(x, "name"))
		if name != "_id_" && number(filter.Get(x, "unique")) == 0 {
			continue
		}
		mine, err := entries(x, d)
		if err != nil {
			return err
		}
		for _, e := range mine {
			if c.held[name][e] {
				return refuse(11000, "DuplicateKey", "E11000 duplicate key error index: %s dup key: %s", name, e)
			}
		}
		added[name] = mine
	}
	for name, mine := range added {
		c.hold(name, mine)
	}
	return nil
}

func (c *collection) hold(name string, entries []string) {
	if c.held == nil {
		c.held = map[string]map[string]bool{}
	}
	if c.held[name] == nil {
		c.held[name] = map[string]bool{}
	}
	for _, e := range entries {
		c.held[name][e] = true
	}
}

// entries are what an index holds of a document: what is not there is a null, each value of a list has
// one of its own (https://www.mongodb.com/docs/manual/core/index-unique/).
func entries(x, d bson.D) ([]string, error) {
	if partial := document(filter.Get(x, "partialFilterExpression")); partial != nil {
		if is, err := filter.Holds(d, partial); !is || err != nil {
			return nil, err
		}
	}
	all, there := []string{""}, false
	for _, k := range document(filter.Get(x, "key")) {
		values := filter.At(d, strings.Split(k.Key, "."))
		there = there || len(filter.Present(values)) > 0
		var next []string
		for _, v := range values {
			elements := []any{v}
			if a, ok := v.(bson.A); ok && len(a) > 0 {
				elements = a
			}
			if len(filter.Present([]any{v})) == 0 {
				elements = []any{nil}
			}
			for _, e := range elements {
				for _, before := range all {
					next = append(next, before+written(e)+";")
				}
			}
		}
		all = next
	}
	if number(filter.Get(x, "sparse")) == 1 && !there {
		return nil, nil
	}
	slices.Sort(all)
	return slices.Compact(all), nil
}

// written is a value so that those which compare as equal are alike.
func written(v any) string {
	kind := filter.TypeOf(v)
	switch kind {
	case "int", "long", "double":
		return fmt.Sprintf("number %v", asFloat(v))
	}
	return fmt.Sprintf("%s %v", kind, v)
}

func asFloat(v any) float64 {
	switch v := v.(type) {
	case int32:
		return float64(v)
	case int64:
		return float64(v)
	case float64:
		return v
	}
	return 0
}

// indexFields are what an index may be made with.
var indexFields = []string{"key", "name", "unique", "sparse", "hidden", "partialFilterExpression", "expireAfterSeconds", "collation", "v", "background", "weights", "default_language", "language_override"}

func (s *Server) createIndexes(database, name string, c *collection, command bson.D) (bson.D, error) {
	if c == nil {
		c = s.make(database, name)
	}
	if c.kind == "view" {
		return nil, refuse(166, "CommandNotSupportedOnView", "Namespace %s.%s is a view, not a collection", database, name)
	}
	before := len(c.indexes)
	made := slices.Clone(c.indexes)
	for _, v := range list(filter.Get(command, "indexes")) {
		x := document(v)
		key := document(filter.Get(x, "key"))
		switch {
		case len(key) == 0:
			return nil, refuse(67, "CannotCreateIndex", "Index keys cannot be empty.")
		case text(filter.Get(x, "name")) == "":
			return nil, refuse(9, "FailedToParse", "The 'name' field is a required property of an index specification")
		}
		for _, e := range x {
			if !slices.Contains(indexFields, e.Key) {
				return nil, refuse(197, "InvalidIndexSpecificationOption", "The field '%s' is not valid for an index specification", e.Key)
			}
		}
		there := false
		for _, o := range made {
			sameName, sameKey := text(filter.Get(o, "name")) == text(filter.Get(x, "name")), filter.Compare(document(filter.Get(o, "key")), key) == 0
			same := number(filter.Get(o, "unique")) == number(filter.Get(x, "unique")) && filter.Compare(document(filter.Get(o, "partialFilterExpression")), document(filter.Get(x, "partialFilterExpression"))) == 0
			switch {
			case sameName && sameKey && same:
				there = true
			case sameName:
				return nil, refuse(86, "IndexKeySpecsConflict", "An existing index has the same name as the requested index: %s", filter.Get(x, "name"))
			case sameKey && same:
				return nil, refuse(85, "IndexOptionsConflict", "Index already exists with a different name: %s", filter.Get(o, "name"))
			}
		}
		if there {
			continue
		}
		if err := c.built(x); err != nil {
			return nil, err
		}
		made = append(made, append(bson.D{{Key: "v", Value: int32(2)}}, stored(x)...))
		c.since[text(filter.Get(x, "name"))], c.used[text(filter.Get(x, "name"))] = time.Now(), 0
	}
	c.indexes = made
	return bson.D{{Key: "numIndexesBefore", Value: int32(before)}, {Key: "numIndexesAfter", Value: int32(len(c.indexes))}, {Key: "ok", Value: 1.0}}, nil
}

// stored is an index as it is kept: of one for texts the fields are in its weights alone
// (https://www.mongodb.com/docs/manual/core/indexes/index-types/index-text/).
func stored(x bson.D) bson.D {
	key, weights := bson.D{}, bson.D{}
	for _, k := range document(filter.Get(x, "key")) {
		if k.Value != "text" {
			key = append(key, k)
			continue
		}
		if len(weights) == 0 {
			key = append(key, bson.E{Key: "_fts", Value: "text"}, bson.E{Key: "_ftsx", Value: int32(1)})
		}
		weight := filter.Get(document(filter.Get(x, "weights")), k.Key)
		if weight == nil {
			weight = int32(1)
		}
		weights = append(weights, bson.E{Key: k.Key, Value: weight})
	}
	if len(weights) == 0 {
		return x
	}
	kept := bson.D{{Key: "key", Value: key}}
	for _, e := range x {
		if e.Key != "key" && e.Key != "weights" {
			kept = append(kept, e)
		}
	}
	return append(kept, bson.E{Key: "weights", Value: weights}, bson.E{Key: "textIndexVersion", Value: int32(3)})
}

// built refuses an index that the documents break.
func (c *collection) built(x bson.D) error {
	seen := map[string]bool{}
	key := document(filter.Get(x, "key"))
	for _, d := range c.docs {
		lists := 0
		for _, k := range key {
			for _, v := range filter.At(d, strings.Split(k.Key, ".")) {
				if _, is := v.(bson.A); is {
					lists++
				}
			}
		}
		if lists > 1 {
			return refuse(171, "CannotIndexParallelArrays", "cannot index parallel arrays")
		}
		if number(filter.Get(x, "unique")) == 0 {
			continue
		}
		all, err := entries(x, d)
		if err != nil {
			return err
		}
		for _, e := range all {
			if seen[e] {
				return refuse(11000, "DuplicateKey", "E11000 duplicate key error index: %s dup key: %s", filter.Get(x, "name"), e)
			}
			seen[e] = true
		}
	}
	if number(filter.Get(x, "unique")) == 1 {
		c.hold(text(filter.Get(x, "name")), slices.Collect(maps.Keys(seen)))
	}
	return nil
}

func (c *collection) dropIndexes(command bson.D) (bson.D, error) {
	name := text(filter.Get(command, "index"))
	i := slices.IndexFunc(c.indexes, func(x bson.D) bool { return text(filter.Get(x, "name")) == name })
	switch {
	case name == "_id_":
		return nil, refuse(72, "InvalidOptions", "cannot drop _id index")
	case i < 0:
		return nil, refuse(27, "IndexNotFound", "index not found with name [%s]", name)
	case c.servesShards(c.indexes[i]) && !slices.ContainsFunc(c.indexes, func(x bson.D) bool { return text(filter.Get(x, "name")) != name && c.servesShards(x) }):
		return nil, refuse(303, "CannotDropShardKeyIndex", "Cannot drop the only compatible index for this collection's shard key")
	}
	before := len(c.indexes)
	c.indexes = slices.Delete(slices.Clone(c.indexes), i, i+1)
	delete(c.held, name)
	return bson.D{{Key: "nIndexesWas", Value: int32(before)}, {Key: "ok", Value: 1.0}}, nil
}

// servesShards reports whether the index begins with what the collection is spread by.
func (c *collection) servesShards(x bson.D) bool {
	by, key := document(filter.Get(c.options, "shardKey")), document(filter.Get(x, "key"))
	return len(by) > 0 && len(key) >= len(by) && filter.Get(x, "sparse") == nil && filter.Get(x, "partialFilterExpression") == nil && !slices.ContainsFunc(by, func(e bson.E) bool { return filter.Get(key[:len(by)], e.Key) == nil })
}

// modify alters what is kept of a collection: an empty validator is none.
func (c *collection) modify(command bson.D) (bson.D, error) {
	options := slices.Clone(c.options)
	for _, e := range command[1:] {
		if strings.HasPrefix(e.Key, "$") || e.Key == "lsid" {
			continue
		}
		if !strings.HasPrefix(e.Key, "valid") {
			return nil, refuse(40415, "Location40415", "BSON field 'collMod.%s' is an unknown field.", e.Key)
		}
		options = slices.DeleteFunc(options, func(o bson.E) bool { return o.Key == e.Key })
		if d, is := e.Value.(bson.D); is {
			if _, err := filter.Holds(bson.D{}, d); err != nil {
				return nil, err
			}
			if len(d) == 0 {
				options = slices.DeleteFunc(options, func(o bson.E) bool { return strings.HasPrefix(o.Key, "valid") })
				continue
			}
		}
		options = append(options, e)
	}
	c.options = options
	return done, nil
}
