package mongodb

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"go.mongodb.org/mongo-driver/v2/bson"

	"nexdal/internal/catalog"
)

// sampled is how many documents of a collection are looked at for its structure, where not all are
// asked for.
const sampled = 2000

// Survey looks at some documents of each collection, or all of them.
func (s *session) Survey(ctx context.Context) (*catalog.Catalog, error) {
	version, database, err := s.about(ctx)
	if err != nil {
		return nil, err
	}
	c := &catalog.Catalog{Engine: catalog.Engine{Name: "mongodb", Version: version}, Database: database, Surveyed: time.Now().UTC().Truncate(time.Second)}
	schema := &catalog.Schema{Name: database}
	c.Schemas = []*catalog.Schema{schema}
	if strings.HasSuffix(version, "(simulated)") {
		c.Settings = append(c.Settings, catalog.Setting{Name: "simulated", Value: "yes", Source: "buildInfo"})
	}
	list, err := s.collections(ctx)
	if err != nil {
		return nil, err
	}
	spread, err := s.sharding(ctx)
	if err != nil && ctx.Err() == nil { // whoever reads one database may not read that of the cluster
		c.Gaps = append(c.Gaps, catalog.Gap{What: "how collections are spread over a cluster", Reason: err.Error()})
	}
	r := &reader{ctx: ctx, s: s, c: c, spread: spread}
	for i, x := range list {
		if s.o.Fetched != nil {
			s.o.Fetched(x.name, int64(i), int64(len(list)))
		}
		if x.view {
			schema.Views = append(schema.Views, viewOf(x))
			continue
		}
		t, err := r.table(x)
		if err != nil {
			return nil, err
		}
		schema.Tables = append(schema.Tables, t)
	}
	r.counted()
	if r.shards > 1 {
		c.Settings = append(c.Settings, catalog.Setting{Name: "slices", Value: strconv.Itoa(r.shards), Source: "$collStats"})
	}
	c.Sort()
	s.read = c
	return c, nil
}

func viewOf(x collection) *catalog.View {
	on, _ := x.options.Lookup("viewOn").StringValueOK()
	v := &catalog.View{Name: x.name, Definition: compact(x.options)}
	if on != "" {
		v.Reads = []catalog.ObjectRef{{Kind: catalog.KindTable, Name: on}}
	}
	return v
}

type reader struct {
	ctx    context.Context
	s      *session
	c      *catalog.Catalog
	spread map[string]*sharding
	counts []count
	shards int
}

// A count of an index's uses begins when the index is made, or the server starts.
type count struct {
	of    *catalog.Index
	since time.Time
}

// counted says from when on uses of indexes are counted: of those made later nothing is known that
// compares.
func (r *reader) counted() {
	var first time.Time
	for _, c := range r.counts {
		if first.IsZero() || c.since.Before(first) {
			first = c.since
		}
	}
	if first.IsZero() {
		return
	}
	for _, c := range r.counts {
		if c.since.Sub(first) > 24*time.Hour {
			c.of.Scans = nil
		}
	}
	r.c.Settings = append(r.c.Settings, catalog.Setting{Name: "statistics_since", Value: first.UTC().Format(time.RFC3339), Source: "$indexStats"})
}

func (r *reader) gap(t *catalog.Table, what, reason string, figures bool) {
	r.c.Gaps = append(r.c.Gaps, catalog.Gap{Schema: t.Schema, Table: t.Name, What: what, Reason: reason, Figures: figures})
}

func (r *reader) table(x collection) (*catalog.Table, error) {
	t := &catalog.Table{Schema: r.c.Schemas[0].Name, Name: x.name, Kind: catalog.Ordinary, Observed: true}
	if x.kind == "timeseries" {
		t.Options = append(t.Options, "time series")
	}
	if capped, ok := x.options.Lookup("capped").BooleanOK(); ok && capped {
		t.Options = append(t.Options, "capped")
	}
	var made bson.D
	options, _ := x.options.Elements()
	for _, e := range options {
		if !strings.HasPrefix(e.Key(), "valid") {
			made = append(made, bson.E{Key: e.Key(), Value: e.Value()})
		}
	}
	if len(made) > 0 {
		t.Storage = compactD(made)
	}
	if err := r.structure(t); err != nil {
		return nil, err
	}
	validator(t, x.options)
	f, err := r.s.figures(r.ctx, x.name)
	switch {
	case r.ctx.Err() != nil:
		return nil, r.ctx.Err()
	case err != nil:
		r.gap(t, "number and size of documents", err.Error(), true)
	default:
		t.Stats.Rows, t.Stats.Exact, t.Stats.Bytes, t.Stats.IndexBytes = f.documents, f.exact, f.bytes, f.indexBytes
		if len(f.shards) > 1 {
			t.Stats.Slices = f.shards
			r.shards = max(r.shards, len(f.shards))
		}
	}
	r.sure(t)
	if err := r.indexes(t, f); err != nil {
		return nil, err
	}
	if sh := r.spread[x.name]; sh != nil {
		r.sharded(t, sh)
	}
	return t, nil
}

// optional is a document within another, or an empty one.
func optional(of bson.Raw, name string) bson.Raw {
	if d, ok := of.Lookup(name).DocumentOK(); ok {
		return d
	}
	return bson.Raw{5, 0, 0, 0, 0}
}

// anything is the type of a field of which no value was seen.
var anything = catalog.Type{Native: "any", Family: catalog.Other}

// structure looks at documents.
func (r *reader) structure(t *catalog.Table) error {
	some := int64(sampled)
	if r.s.o.Full {
		some = 0
	}
	all, largest := newShape(), int64(0)
	var told []kept
	err := r.s.documents(r.ctx, t.Name, some, func(doc bson.Raw) error {
		all.add(doc)
		largest = max(largest, int64(len(doc)))
		if len(told) < mostTold {
			told = append(told, keptOf(doc))
		}
		return r.ctx.Err()
	})
	if err != nil {
		return err
	}
	all.finish()
	t.Columns = columnsOf(all)
	if all.n == 0 { // the key is there before any document is
		t.Columns = []*catalog.Column{{Name: "_id", Type: anything}}
	}
	t.Stats.Looked, t.Stats.LargestRow = &all.n, &largest
	if name, says := kindsOf(told); name != "" {
		t.Objects = append(t.Objects, &catalog.Object{Kind: "kinds", Name: name, Definition: says})
	}
	return nil
}

// keptOf is what is told of a document: the names that it has, and its short texts.
func keptOf(doc bson.Raw) kept {
	k := kept{has: map[string]bool{}, values: map[string]string{}}
	elements, err := doc.Elements()
	if err != nil || len(elements) > mostNames {
		return k
	}
	for _, e := range elements {
		name := e.Key()
		k.has[name] = true
		if v := e.Value(); v.Type == bson.TypeString && len(v.StringValue()) <= 40 {
			k.values[name] = v.StringValue()
		}
	}
	return k
}

// sure says how rare a field may be and was still seen, but for one time in twenty: 3 divided by the
// number of documents.
func (r *reader) sure(t *catalog.Table) {
	looked, rows := *t.Stats.Looked, t.Stats.Rows
	if r.s.o.Full || rows != nil && *rows <= looked || looked == 0 {
		return
	}
	of := "an unknown number of"
	if rows != nil {
		of = fmt.Sprint(*rows)
	}
	r.gap(t, "fields that few documents have", fmt.Sprintf("%d of %s documents were looked at: one that fewer than 1 in %d has may not have been met; --full looks at all", looked, of, looked/3), true)
}

// validatorName is what the one check of a collection is called here.
const validatorName = "validator"

// validation begins the option that says at which level a collection is validated, unless strictly.
const validation = "validation "

// validator: https://www.mongodb.com/docs/manual/core/schema-validation/
func validator(t *catalog.Table, options bson.Raw) {
	condition, ok := options.Lookup("validator").DocumentOK()
	if !ok {
		return
	}
	if elements, err := condition.Elements(); err != nil || len(elements) == 0 {
		return
	}
	notes(t, condition)
	k := &catalog.Check{Name: validatorName, Expression: compact(condition)}
	level, _ := options.Lookup("validationLevel").StringValueOK()
	action, _ := options.Lookup("validationAction").StringValueOK()
	k.NotEnforced = action == "warn" || level == "off"
	if level == "moderate" || level == "off" {
		t.Options = append(t.Options, validation+level)
	}
	t.Checks = append(t.Checks, k)
}

func (r *reader) indexes(t *catalog.Table, f *figures) error {
	list, err := r.s.indexes(r.ctx, t.Name)
	switch {
	case r.ctx.Err() != nil:
		return r.ctx.Err()
	case errors.Is(err, errNotTold):
		r.gap(t, "indexes", "files say nothing of them; write what getIndexes() shows to "+t.Name+ofIndexes, false)
	case err != nil && list == nil:
		r.gap(t, "indexes", err.Error(), false)
	case err != nil:
		r.gap(t, "how often indexes are used", err.Error(), true)
	}
	for _, x := range list {
		made := indexOf(x.spec)
		if made.Scans = x.used; x.used != nil {
			r.counts = append(r.counts, count{made, x.since})
		}
		if f != nil {
			if n, ok := f.indexes[made.Name]; ok {
				made.Bytes = &n
			}
		}
		t.Indexes = append(t.Indexes, made)
		switch made.Origin {
		case catalog.ByPrimaryKey:
			t.PrimaryKey = &catalog.Key{Name: idIndex, Columns: []string{"_id"}, Index: made.Name}
		case catalog.ByUniqueKey:
			t.UniqueKeys = append(t.UniqueKeys, &catalog.Key{Name: made.Name, Columns: made.Columns(), Index: made.Name})
		}
		for _, name := range made.NamedColumns() {
			unseen(t, name)
		}
	}
	if t.PrimaryKey == nil && errors.Is(err, errNotTold) && t.Column("_id") != nil { // every collection has it
		t.Indexes = append(t.Indexes, &catalog.Index{Name: idIndex, Origin: catalog.ByPrimaryKey, Method: "btree", Unique: true, SystemNamed: true, Parts: []catalog.IndexPart{{Column: "_id"}}})
		t.PrimaryKey = &catalog.Key{Name: idIndex, Columns: []string{"_id"}, Index: idIndex}
	}
	if c := t.Column("_id"); c != nil && t.PrimaryKey != nil {
		c.Nullable = false
	}
	return nil
}

// unseen adds a field that is named, and that none of the documents has.
func unseen(t *catalog.Table, path string) {
	if t.Column(path) != nil {
		return
	}
	none := 1.0
	t.Columns = append(t.Columns, &catalog.Column{Name: path, Type: anything, Nullable: true, Stats: catalog.ColumnStats{Absent: &none}})
}

// shardKey begins the option that says by what a collection is spread.
const shardKey = "shard key "

// growsAtEnd: identifiers begin with the moment at which they were made
// (https://www.mongodb.com/docs/manual/core/sharding-choose-a-shard-key/).
func growsAtEnd(t *catalog.Table) bool {
	if t.Spread == nil {
		return false
	}
	hashed := slices.ContainsFunc(t.Options, func(o string) bool { return strings.HasPrefix(o, shardKey) && strings.Contains(o, "hashed") })
	c := t.Column(t.Spread.Column)
	return !hashed && c != nil && (c.Type.Family == catalog.Timestamp || c.Type.Native == "objectId")
}

// sharded: https://www.mongodb.com/docs/manual/core/sharding-shard-key/
func (r *reader) sharded(t *catalog.Table, sh *sharding) {
	if len(sh.key) == 0 {
		return
	}
	for _, e := range sh.key {
		unseen(t, e.Key)
	}
	t.Spread = &catalog.Spread{Style: "key", Column: sh.key[0].Key}
	t.Options = append(t.Options, shardKey+compactD(sh.key))
	var serve []*catalog.Index
	for _, x := range t.Indexes {
		if servesShards(x, sh.key) {
			serve = append(serve, x)
		}
	}
	if len(serve) == 1 {
		serve[0].Pinned = keepsShards
	}
}

// keepsShards is why the one index that begins with the shard key stays.
const keepsShards = "the documents are spread by it"

// servesShards reports whether the index begins with the shard key, as one of every sharded
// collection must (https://www.mongodb.com/docs/manual/core/sharding-shard-key/#shard-key-indexes).
func servesShards(x *catalog.Index, key bson.D) bool {
	if len(x.Parts) < len(key) || x.Predicate != "" || x.Ignored || strings.Contains(x.Storage, `"sparse"`) {
		return false
	}
	for i, e := range key {
		if x.Parts[i].Column != e.Key {
			return false
		}
	}
	return true
}
