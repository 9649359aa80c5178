package mongodb

import (
	"context"
	"errors"
	"maps"
	"slices"
	"strings"

	"go.mongodb.org/mongo-driver/v2/bson"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
)

// Build fills the database of the address, which has to be empty.
func (e Engine) Build(ctx context.Context, address, _ string) (engine.Loader, string, error) {
	opened, err := e.Open(ctx, address, engine.Options{Write: true})
	if err != nil {
		return nil, "", err
	}
	s := opened.(*session)
	there, err := s.collections(ctx)
	if err == nil && len(there) > 0 {
		err = errors.New("it holds collections")
	}
	if err != nil {
		s.Close()
		return nil, "", &engine.SourceError{Place: s.place, Err: err, Hint: "give a database that holds nothing"}
	}
	return s, s.live.db.Name(), nil
}

// Discard empties the database that Build filled.
func (e Engine) Discard(ctx context.Context, address, _ string) error {
	opened, err := e.Open(ctx, address, engine.Options{Write: true})
	if err != nil {
		return err
	}
	defer opened.Close()
	return opened.(*session).live.db.Drop(ctx)
}

// inOne is how many documents one command inserts.
const inOne = 1000

// Load inserts rows as documents: a name with dots is a path, and what is nil is left out.
func (s *session) Load(ctx context.Context, table catalog.Ref, columns []string, next func() []any) error {
	for {
		var documents []any
		for len(documents) < inOne {
			row := next()
			if row == nil {
				break
			}
			doc := bson.D{}
			for i, v := range row {
				if v != nil {
					doc = put(doc, strings.Split(columns[i], "."), stored(v))
				}
			}
			documents = append(documents, doc)
		}
		if len(documents) == 0 {
			return nil
		}
		if _, err := s.live.db.Collection(table.Table).InsertMany(ctx, documents); err != nil {
			return s.said(ctx, err)
		}
	}
}

func put(doc bson.D, path []string, v any) bson.D {
	if len(path) == 1 {
		return append(doc, bson.E{Key: path[0], Value: v})
	}
	for i, e := range doc {
		if inner, ok := e.Value.(bson.D); ok && e.Key == path[0] {
			doc[i].Value = put(inner, path[1:], v)
			return doc
		}
	}
	return append(doc, bson.E{Key: path[0], Value: put(nil, path[1:], v)})
}

// stored is a value as the store has it: twelve bytes are an identifier.
func stored(v any) any {
	switch v := v.(type) {
	case [12]byte:
		return bson.ObjectID(v)
	case []any:
		list := make(bson.A, len(v))
		for i, e := range v {
			list[i] = stored(e)
		}
		return list
	case map[string]any:
		doc := bson.D{}
		for _, name := range slices.Sorted(maps.Keys(v)) {
			doc = append(doc, bson.E{Key: name, Value: stored(v[name])})
		}
		return doc
	}
	return v
}
