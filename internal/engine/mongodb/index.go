package mongodb

import (
	"fmt"
	"slices"
	"strings"

	"go.mongodb.org/mongo-driver/v2/bson"

	"nexdal/internal/catalog"
)

// Options of an index that are the model's own, or that listIndexes adds.
var ownOptions = []string{"v", "key", "name", "ns", "unique", "partialFilterExpression", "hidden", "background"}

// indexOf reads an index as listIndexes tells of it. What it was made with besides is kept in the
// engine's words.
func indexOf(spec bson.Raw) *catalog.Index {
	x := &catalog.Index{Origin: catalog.ByPerson, Method: "btree"}
	x.Name, _ = spec.Lookup("name").StringValueOK()
	keys, _ := optional(spec, "key").Elements()
	for _, e := range keys {
		name, v := e.Key(), e.Value()
		if kind, ok := v.StringValueOK(); ok {
			x.Method = kind // text, hashed, 2dsphere
			if name == "_fts" {
				x.Parts = append(x.Parts, weighed(spec)...)
				continue
			}
			x.Parts = append(x.Parts, catalog.IndexPart{Column: name, OpClass: kind})
			continue
		}
		if name == "_ftsx" {
			continue
		}
		n, _ := v.AsInt64OK()
		part := catalog.IndexPart{Column: name, Descending: n < 0}
		if strings.HasSuffix(name, "$**") {
			part = catalog.IndexPart{Expression: name}
		}
		x.Parts = append(x.Parts, part)
	}
	x.Unique, _ = spec.Lookup("unique").BooleanOK()
	x.Ignored, _ = spec.Lookup("hidden").BooleanOK()
	if partial, ok := spec.Lookup("partialFilterExpression").DocumentOK(); ok {
		x.Predicate = compact(partial)
	}
	var more bson.D
	rest, _ := spec.Elements()
	for _, e := range rest {
		if !slices.Contains(ownOptions, e.Key()) {
			more = append(more, bson.E{Key: e.Key(), Value: e.Value()})
		}
	}
	if len(more) > 0 {
		x.Storage = compactD(more)
	}
	if lives(x) {
		x.Pinned = "rows expire by it"
	}
	switch {
	case x.Name == idIndex:
		x.Origin, x.Unique, x.SystemNamed = catalog.ByPrimaryKey, true, true
	case x.Unique && x.Predicate == "" && !strings.Contains(x.Storage, `"sparse"`) && x.Method == "btree":
		x.Origin = catalog.ByUniqueKey
	}
	return x
}

// lives reports whether rows live for a time that the index says
// (https://www.mongodb.com/docs/manual/core/index-ttl/).
func lives(x *catalog.Index) bool { return strings.Contains(x.Storage, "expireAfterSeconds") }

// expires: moments alone let rows expire, and of an index on one field.
func expires(x *catalog.Index) string {
	if !lives(x) || len(x.Parts) != 1 {
		return ""
	}
	return "date"
}

// weighed are the fields of a text index, which only its weights name
// (https://www.mongodb.com/docs/manual/core/indexes/index-types/index-text/).
func weighed(spec bson.Raw) []catalog.IndexPart {
	var parts []catalog.IndexPart
	elements, _ := optional(spec, "weights").Elements()
	for _, e := range elements {
		part := catalog.IndexPart{Column: e.Key(), OpClass: "text"}
		if strings.HasSuffix(e.Key(), "$**") {
			part = catalog.IndexPart{Expression: e.Key(), OpClass: "text"}
		}
		parts = append(parts, part)
	}
	return parts
}

// specOf is what createIndexes takes to make the index.
func specOf(x *catalog.Index) (bson.D, error) {
	var key bson.D
	for _, p := range x.Parts {
		name := p.Column
		if name == "" {
			name = p.Expression
		}
		var value any = 1
		switch {
		case p.OpClass != "":
			value = p.OpClass
		case p.Descending:
			value = -1
		}
		key = append(key, bson.E{Key: name, Value: value})
	}
	spec := bson.D{{Key: "key", Value: key}, {Key: "name", Value: x.Name}}
	if x.Unique {
		spec = append(spec, bson.E{Key: "unique", Value: true})
	}
	if x.Ignored {
		spec = append(spec, bson.E{Key: "hidden", Value: true})
	}
	for _, more := range []struct{ name, text string }{{"partialFilterExpression", x.Predicate}, {"", x.Storage}} {
		if more.text == "" {
			continue
		}
		d, err := document(more.text)
		if err != nil {
			return nil, fmt.Errorf("%s of index %s: %w", more.text, x.Name, err)
		}
		if more.name != "" {
			spec = append(spec, bson.E{Key: more.name, Value: d})
			continue
		}
		for _, e := range d {
			if e.Key != "textIndexVersion" && e.Key != "2dsphereIndexVersion" {
				spec = append(spec, e)
			}
		}
	}
	return spec, nil
}
