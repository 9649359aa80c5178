package mongodb

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"go.mongodb.org/mongo-driver/v2/bson"

	"nexdal/internal/engine/mongodb/filter"
)

// pipeline carries out stages on the documents of a collection, or those of a view
// (https://www.mongodb.com/docs/manual/reference/operator/aggregation-pipeline/).
func (s *Server) pipeline(database, name string, stages bson.A) ([]bson.D, error) {
	c := s.databases[database][name]
	var docs []bson.D
	switch {
	case c == nil:
	case c.kind == "view":
		var err error
		if docs, err = s.pipeline(database, text(filter.Get(c.options, "viewOn")), list(filter.Get(c.options, "pipeline"))); err != nil {
			return nil, err
		}
	default:
		docs = c.docs
	}
	for i, v := range stages {
		stage := document(v)
		if len(stage) != 1 {
			return nil, refuse(40323, "Location40323", "A pipeline stage specification object must contain exactly one field.")
		}
		var err error
		if docs, err = s.stage(database, name, c, docs, stage[0], i == 0); err != nil {
			return nil, err
		}
	}
	return docs, nil
}

func (s *Server) stage(database, name string, c *collection, docs []bson.D, e bson.E, first bool) ([]bson.D, error) {
	spec := document(e.Value)
	switch e.Key {
	case "$match":
		if c != nil && first {
			c.searched(spec)
		}
		return matching(docs, spec)
	case "$limit":
		return docs[:min(number(e.Value), int64(len(docs)))], nil
	case "$count":
		return []bson.D{{{Key: text(e.Value), Value: int64(len(docs))}}}, nil
	case "$sample":
		return sampled(docs, number(filter.Get(spec, "size"))), nil
	case "$project":
		return each(docs, func(d bson.D) (bson.D, error) { return projected(d, spec) })
	case "$unwind":
		return unwound(docs, strings.TrimPrefix(text(e.Value), "$")), nil
	case "$lookup":
		from, err := s.pipeline(database, text(filter.Get(spec, "from")), nil)
		if err != nil {
			return nil, err
		}
		return each(docs, func(d bson.D) (bson.D, error) { return joined(d, from, spec), nil })
	case "$group":
		return grouped(docs, spec)
	case "$collStats":
		if c == nil {
			return nil, refuse(26, "NamespaceNotFound", "Collection [%s.%s] not found.", database, name)
		}
		return s.stats(c)
	case "$indexStats":
		var all []bson.D
		if c != nil {
			for _, x := range c.indexes {
				since := bson.NewDateTimeFromTime(c.since[text(filter.Get(x, "name"))])
				all = append(all, bson.D{{Key: "name", Value: filter.Get(x, "name")}, {Key: "key", Value: filter.Get(x, "key")}, {Key: "accesses", Value: bson.D{{Key: "ops", Value: c.used[text(filter.Get(x, "name"))]}, {Key: "since", Value: since}}}})
			}
		}
		return all, nil
	}
	return nil, refuse(40324, "Location40324", "Unrecognized pipeline stage name: '%s' (the simulated server knows few)", e.Key)
}

func each(docs []bson.D, do func(bson.D) (bson.D, error)) ([]bson.D, error) {
	all := make([]bson.D, len(docs))
	for i, d := range docs {
		var err error
		if all[i], err = do(d); err != nil {
			return nil, err
		}
	}
	return all, nil
}

// sampled draws without putting back.
func sampled(docs []bson.D, n int64) []bson.D {
	all := slices.Clone(docs)
	rand.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
	return all[:min(n, int64(len(all)))]
}

// stats are a collection's, one for each machine that it is spread over.
func (s *Server) stats(c *collection) ([]bson.D, error) {
	var bytes int64
	for _, d := range c.docs {
		data, err := bson.Marshal(d)
		if err != nil {
			return nil, err
		}
		bytes += int64(len(data))
	}
	sizes := bson.D{}
	for _, x := range c.indexes {
		sizes = append(sizes, bson.E{Key: text(filter.Get(x, "name")), Value: int64(len(c.docs)) * 20})
	}
	counts := []int64{int64(len(c.docs))}
	if key := document(filter.Get(c.options, "shardKey")); key != nil && s.Shards > 1 {
		counts = make([]int64, s.Shards)
		for _, d := range c.docs {
			at := uint64(14695981039346656037)
			for _, b := range []byte(fmt.Sprint(filter.At(d, strings.Split(key[0].Key, ".")))) {
				at = (at ^ uint64(b)) * 1099511628211
			}
			at ^= at >> 32
			counts[at%uint64(s.Shards)]++
		}
	}
	var all []bson.D
	for _, n := range counts {
		all = append(all, bson.D{{Key: "storageStats", Value: bson.D{{Key: "count", Value: n}, {Key: "size", Value: bytes * n / max(1, int64(len(c.docs)))}, {Key: "totalIndexSize", Value: n * 20 * int64(len(c.indexes))}, {Key: "indexSizes", Value: sizes}}}})
	}
	return all, nil
}

// field is what an expression gives of a document: a path, or a value as it stands.
func field(d bson.D, expression any) any {
	path, ok := expression.(string)
	if !ok || !strings.HasPrefix(path, "$") {
		return expression
	}
	values := filter.Present(filter.At(d, strings.Split(path[1:], ".")))
	switch len(values) {
	case 0:
		return nil
	case 1:
		return values[0]
	}
	return bson.A(values)
}

func projected(d, spec bson.D) (bson.D, error) {
	out := bson.D{}
	if id := filter.Get(d, "_id"); id != nil && (filter.Get(spec, "_id") == nil || number(filter.Get(spec, "_id")) == 1) {
		out = append(out, bson.E{Key: "_id", Value: id})
	}
	for _, e := range spec {
		switch v := e.Value.(type) {
		case bson.D:
			return nil, refuse(2, "BadValue", "the simulated server knows no expressions")
		case string:
			out = append(out, bson.E{Key: e.Key, Value: field(d, v)})
		default:
			if e.Key == "_id" {
				continue
			}
			if values := filter.Present(filter.At(d, strings.Split(e.Key, "."))); number(v) == 1 && len(values) == 1 {
				out = append(out, bson.E{Key: e.Key, Value: values[0]})
			}
		}
	}
	return out, nil
}

// unwound makes a document of each value of a list; without one there is none.
func unwound(docs []bson.D, path string) []bson.D {
	var all []bson.D
	for _, d := range docs {
		values := filter.Present(filter.At(d, strings.Split(path, ".")))
		for _, v := range values {
			elements, ok := v.(bson.A)
			if !ok {
				elements = bson.A{v}
			}
			for _, e := range elements {
				all = append(all, replaced(d, strings.Split(path, "."), e))
			}
		}
	}
	return all
}

func replaced(d bson.D, path []string, v any) bson.D {
	out := slices.Clone(d)
	for i, e := range out {
		if e.Key != path[0] {
			continue
		}
		if len(path) == 1 {
			out[i].Value = v
		} else if inner, ok := e.Value.(bson.D); ok {
			out[i].Value = replaced(inner, path[1:], v)
		}
	}
	return out
}

func joined(d bson.D, from []bson.D, spec bson.D) bson.D {
	mine := filter.At(d, strings.Split(text(filter.Get(spec, "localField")), "."))
	found := bson.A{}
	for _, o := range from {
		others := filter.At(o, strings.Split(text(filter.Get(spec, "foreignField")), "."))
		if slices.ContainsFunc(mine, func(v any) bool {
			return slices.ContainsFunc(others, func(w any) bool { return filter.Compare(v, w) == 0 })
		}) {
			found = append(found, o)
		}
	}
	return append(slices.Clone(d), bson.E{Key: text(filter.Get(spec, "as")), Value: found})
}

func grouped(docs []bson.D, spec bson.D) ([]bson.D, error) {
	var order []string
	groups := map[string]bson.D{}
	for _, d := range docs {
		id := filter.Get(spec, "_id")
		if inner, ok := id.(bson.D); ok {
			made := bson.D{}
			for _, e := range inner {
				made = append(made, bson.E{Key: e.Key, Value: field(d, e.Value)})
			}
			id = made
		} else {
			id = field(d, id)
		}
		key := written(id)
		g, ok := groups[key]
		if !ok {
			order = append(order, key)
			g = bson.D{{Key: "_id", Value: id}}
		}
		for _, e := range spec {
			if e.Key == "_id" {
				continue
			}
			with := document(e.Value)
			if len(with) != 1 {
				return nil, refuse(40234, "Location40234", "The field '%s' must be an accumulator object", e.Key)
			}
			v := field(d, with[0].Value)
			at := slices.IndexFunc(g, func(x bson.E) bool { return x.Key == e.Key })
			if at < 0 {
				g, at = append(g, bson.E{Key: e.Key}), len(g)
			}
			switch was := g[at].Value; with[0].Key {
			case "$sum":
				g[at].Value = number(was) + number(v)
			case "$min":
				if was == nil || filter.Compare(v, was) < 0 {
					g[at].Value = v
				}
			case "$max":
				if was == nil || filter.Compare(v, was) > 0 {
					g[at].Value = v
				}
			default:
				return nil, refuse(15952, "Location15952", "unknown group operator '%s' (the simulated server knows few)", with[0].Key)
			}
		}
		groups[key] = g
	}
	all := make([]bson.D, len(order))
	for i, key := range order {
		all[i] = groups[key]
	}
	return all, nil
}
