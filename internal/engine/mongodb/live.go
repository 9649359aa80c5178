package mongodb

import (
	"context"
	"errors"
	"net/url"
	"os"
	"regexp"
	"slices"
	"strings"
	"time"

	"go.mongodb.org/mongo-driver/v2/bson"
	"go.mongodb.org/mongo-driver/v2/event"
	"go.mongodb.org/mongo-driver/v2/mongo"
	"go.mongodb.org/mongo-driver/v2/mongo/options"
	"go.mongodb.org/mongo-driver/v2/mongo/readpref"
	"go.mongodb.org/mongo-driver/v2/x/mongo/driver/topology"

	"nexdal/internal/engine"
)

// live is a database on a server.
type live struct {
	client *mongo.Client
	db     *mongo.Database
	at     string // for people
	limit  time.Duration
}

// passwordOf is where the password comes from that a URL with a user leaves out.
const passwordOf = "NEXDAL_MONGODB_PASSWORD"

// patience is how long a server may be looked for.
const patience = 5 * time.Second

// connect asks the server whether it is there. A session that only reads goes to a secondary where
// there is one, and is in nobody's way
// (https://www.mongodb.com/docs/manual/core/read-preference/).
func connect(ctx context.Context, address string, o engine.Options) (*live, error) {
	wrong := func(hint string) error {
		return &engine.SourceError{Place: engine.Redact(address), Kind: engine.ErrWrongAddress, Hint: hint}
	}
	u, err := url.Parse(address)
	if err != nil || u.Host == "" {
		return nil, wrong("write mongodb://user@host:27017/database")
	}
	name := strings.Trim(u.Path, "/")
	if name == "" || strings.ContainsAny(name, `/\. "$`) {
		return nil, wrong("name the database: mongodb://user@host:27017/database")
	}
	if u.User != nil {
		if _, has := u.User.Password(); !has && os.Getenv(passwordOf) != "" {
			u.User = url.UserPassword(u.User.Username(), os.Getenv(passwordOf))
		}
	}
	to := options.Client().ApplyURI(u.String()).SetAppName("nexdal")
	if !u.Query().Has("serverSelectionTimeoutMS") {
		to.SetServerSelectionTimeout(patience)
	}
	if err := to.Validate(); err != nil {
		return nil, wrong("write mongodb://user@host:27017/database, with the driver's own parameters behind it")
	}
	if !o.Write && !u.Query().Has("readPreference") {
		to.SetReadPreference(readpref.SecondaryPreferred())
	}
	if o.Watch != nil {
		to.SetMonitor(&event.CommandMonitor{
			Succeeded: func(_ context.Context, e *event.CommandSucceededEvent) { o.Watch(e.CommandName, e.Duration, nil) },
			Failed:    func(_ context.Context, e *event.CommandFailedEvent) { o.Watch(e.CommandName, e.Duration, e.Failure) },
		})
	}
	client, err := mongo.Connect(to)
	if err != nil {
		return nil, wrong("write mongodb://user@host:27017/database")
	}
	l := &live{client: client, db: client.Database(name), at: name + " at " + u.Host, limit: o.StatementTimeout}
	if l.limit == 0 && !o.Write {
		l.limit = 5 * time.Minute
	}
	if err := l.command(ctx, bson.D{{Key: "ping", Value: 1}}, nil); err != nil {
		_ = client.Disconnect(context.WithoutCancel(ctx))
		return nil, l.wrap(ctx, err)
	}
	return l, nil
}

// command carries one out. Its answer goes into out, if that is not nil.
func (l *live) command(ctx context.Context, command any, out any) error {
	at, cancel := engine.Within(ctx, l.limit)
	defer cancel()
	r := l.db.RunCommand(at, command)
	if out == nil {
		return r.Err()
	}
	return r.Decode(out)
}

// wrap turns the driver's errors into sentences.
func (l *live) wrap(ctx context.Context, err error) error {
	if err == nil {
		return nil
	}
	if ctx.Err() != nil {
		return ctx.Err()
	}
	e := &engine.SourceError{Place: l.at, Err: err}
	var said mongo.CommandError
	switch {
	case errors.As(err, &said):
		e.Err = errors.New(said.Message)
		switch said.Code { // https://www.mongodb.com/docs/manual/reference/error-codes/
		case 13:
			e.Kind, e.Hint = engine.ErrNoPrivilege, "ask for the role read of this database"
		case 18:
			e.Kind, e.Hint = engine.ErrRefused, "check the user, its password ("+passwordOf+") and authSource"
		case 50:
			e.Err, e.Hint = engine.ErrTime, "give a longer one with --timeout"
		}
		if said.HasErrorLabel("NetworkError") {
			e.Kind, e.Hint = engine.ErrUnreachable, "see whether the server still runs, and try again"
		}
	case strings.Contains(err.Error(), "auth error"), strings.Contains(err.Error(), "Authentication"):
		e.Kind, e.Err, e.Hint = engine.ErrRefused, errors.New("the server does not know the user, or takes another password"), "check the user, its password ("+passwordOf+") and authSource"
	case errors.As(err, &topology.ServerSelectionError{}):
		e.Kind, e.Err, e.Hint = engine.ErrUnreachable, errors.New("no server answers"), "check host, port and whether the server runs and lets you in"
	case errors.Is(err, context.DeadlineExceeded):
		return engine.TookTooLong(l.at)
	case mongo.IsNetworkError(err), mongo.IsTimeout(err), errors.Is(err, mongo.ErrClientDisconnected):
		e.Kind, e.Err, e.Hint = engine.ErrUnreachable, errors.New("no server answers"), "check host, port and whether the server runs and lets you in"
	}
	return e
}

func (l *live) about(ctx context.Context) (version, database string, err error) {
	var built struct {
		Version string
		Modules []string
	}
	if err := l.command(ctx, bson.D{{Key: "buildInfo", Value: 1}}, &built); err != nil {
		return "", "", l.wrap(ctx, err)
	}
	if slices.Contains(built.Modules, "simulated") {
		built.Version += " (simulated)"
	}
	return built.Version, l.db.Name(), nil
}

func (l *live) collections(ctx context.Context) ([]collection, error) {
	found, err := l.db.ListCollections(ctx, bson.D{})
	if err != nil {
		return nil, l.wrap(ctx, err)
	}
	defer found.Close(ctx)
	var all []collection
	for found.Next(ctx) {
		var c struct {
			Name, Type string
			Options    bson.Raw
		}
		if err := found.Decode(&c); err != nil {
			return nil, err
		}
		if !strings.HasPrefix(c.Name, "system.") {
			all = append(all, collection{c.Name, c.Type == "view", c.Type, slices.Clone(c.Options)})
		}
	}
	slices.SortFunc(all, func(a, b collection) int { return strings.Compare(a.name, b.name) })
	return all, l.wrap(ctx, found.Err())
}

func (l *live) documents(ctx context.Context, name string, some int64, take func(bson.Raw) error) error {
	c := l.db.Collection(name)
	var found *mongo.Cursor
	var err error
	if some > 0 { // https://www.mongodb.com/docs/manual/reference/operator/aggregation/sample/
		found, err = c.Aggregate(ctx, mongo.Pipeline{{{Key: "$sample", Value: bson.D{{Key: "size", Value: some}}}}})
	} else {
		found, err = c.Find(ctx, bson.D{})
	}
	if err != nil {
		return l.wrap(ctx, err)
	}
	defer found.Close(context.WithoutCancel(ctx))
	for found.Next(ctx) {
		if err := take(found.Current); err != nil {
			return err
		}
	}
	return l.wrap(ctx, found.Err())
}

func (l *live) indexes(ctx context.Context, name string) ([]index, error) {
	c := l.db.Collection(name)
	found, err := c.Indexes().List(ctx)
	if err != nil {
		return nil, l.wrap(ctx, err)
	}
	var all []index
	for found.Next(ctx) {
		all = append(all, index{spec: slices.Clone(found.Current)})
	}
	if err := found.Err(); err != nil {
		return nil, l.wrap(ctx, err)
	}
	// https://www.mongodb.com/docs/manual/reference/operator/aggregation/indexStats/
	stats, err := c.Aggregate(ctx, mongo.Pipeline{{{Key: "$indexStats", Value: bson.D{}}}})
	if err != nil {
		return all, l.wrap(ctx, err)
	}
	defer stats.Close(ctx)
	for stats.Next(ctx) {
		var s struct {
			Name     string
			Accesses struct {
				Ops   int64
				Since time.Time
			}
		}
		if err := stats.Decode(&s); err != nil {
			return all, err
		}
		for i := range all {
			if all[i].name() == s.Name {
				if all[i].used == nil {
					all[i].used = new(int64)
				}
				*all[i].used += s.Accesses.Ops // of each shard
				if s.Accesses.Since.After(all[i].since) {
					all[i].since = s.Accesses.Since
				}
			}
		}
	}
	return all, l.wrap(ctx, stats.Err())
}

func (x index) name() string {
	name, _ := x.spec.Lookup("name").StringValueOK()
	return name
}

// figures: https://www.mongodb.com/docs/manual/reference/operator/aggregation/collStats/
func (l *live) figures(ctx context.Context, name string) (*figures, error) {
	found, err := l.db.Collection(name).Aggregate(ctx, mongo.Pipeline{{{Key: "$collStats", Value: bson.D{{Key: "storageStats", Value: bson.D{}}}}}})
	if err != nil {
		return nil, l.wrap(ctx, err)
	}
	defer found.Close(ctx)
	f := &figures{indexes: map[string]int64{}}
	var documents, bytes, indexBytes int64
	for found.Next(ctx) { // one for each shard
		var s struct {
			StorageStats struct {
				Count, Size, TotalIndexSize int64
				IndexSizes                  map[string]int64
			}
		}
		if err := found.Decode(&s); err != nil {
			return nil, err
		}
		documents, bytes, indexBytes = documents+s.StorageStats.Count, bytes+s.StorageStats.Size, indexBytes+s.StorageStats.TotalIndexSize
		f.shards = append(f.shards, s.StorageStats.Count)
		for name, n := range s.StorageStats.IndexSizes {
			f.indexes[name] += n
		}
	}
	f.documents, f.bytes, f.indexBytes = &documents, &bytes, &indexBytes
	return f, l.wrap(ctx, found.Err())
}

// sharding reads what the cluster keeps of itself
// (https://www.mongodb.com/docs/manual/reference/config-database/).
func (l *live) sharding(ctx context.Context) (map[string]*sharding, error) {
	found, err := l.client.Database("config").Collection("collections").Find(ctx, bson.D{{Key: "_id", Value: bson.D{{Key: "$regex", Value: "^" + regexp.QuoteMeta(l.db.Name()) + `\.`}}}})
	if err != nil {
		return nil, l.wrap(ctx, err)
	}
	defer found.Close(ctx)
	all := map[string]*sharding{}
	for found.Next(ctx) {
		var c struct {
			ID     string `bson:"_id"`
			Key    bson.D
			Unique bool
		}
		if err := found.Decode(&c); err != nil {
			return nil, err
		}
		all[strings.TrimPrefix(c.ID, l.db.Name()+".")] = &sharding{key: c.Key, unique: c.Unique}
	}
	return all, l.wrap(ctx, found.Err())
}

func (l *live) breaks(ctx context.Context, name string, condition bson.D) (n int64, samples []string, err error) {
	c := l.db.Collection(name)
	not := bson.D{{Key: "$nor", Value: bson.A{condition}}}
	at, cancel := engine.Within(ctx, l.limit)
	defer cancel()
	if n, err = c.CountDocuments(at, not); err != nil || n == 0 {
		return n, nil, l.wrap(ctx, err)
	}
	found, err := c.Find(at, not, options.Find().SetLimit(5).SetProjection(bson.D{{Key: "_id", Value: 1}}))
	if err != nil {
		return n, nil, l.wrap(ctx, err)
	}
	defer found.Close(ctx)
	for found.Next(ctx) {
		samples = append(samples, keyOf(found.Current))
	}
	return n, samples, l.wrap(ctx, found.Err())
}

func (l *live) close() error {
	ctx, cancel := context.WithTimeout(context.Background(), 2*time.Second)
	defer cancel()
	return l.client.Disconnect(ctx)
}
