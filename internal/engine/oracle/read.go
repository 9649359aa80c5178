package oracle

import (
	"context"
	"errors"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/capture"
)

// A name is an object of a schema.
type name struct{ owner, name string }

// reader fills a catalog.
type reader struct {
	ctx     context.Context
	answers engine.Answers
	c       *catalog.Catalog
	err     error

	schemas map[string]*catalog.Schema
	space   map[string]string // where the objects of an owner lie, as long as nothing is said
	tables  map[name]*catalog.Table
	views   map[name]*catalog.View
	routine map[[3]string]*catalog.Routine // by owner, name and kind
	indexes map[name]*catalog.Index
	indexed map[name]*catalog.Table // by the index
	counter map[name]*catalog.Column
	trigger map[name]*catalog.Trigger
	source  map[[3]string]*strings.Builder // by owner, name and kind
}

// Captured reads the catalog from a capture.
func (Engine) Captured(c *capture.Capture) (*catalog.Catalog, error) {
	return read(context.Background(), engine.Captured{Capture: c}, c.Head.Moment)
}

func read(ctx context.Context, from engine.Answers, at time.Time) (*catalog.Catalog, error) {
	r := &reader{ctx: ctx, answers: from, c: &catalog.Catalog{Engine: catalog.Engine{Name: "oracle"}, Surveyed: at}, schemas: map[string]*catalog.Schema{}, space: map[string]string{},
		tables: map[name]*catalog.Table{}, views: map[name]*catalog.View{}, routine: map[[3]string]*catalog.Routine{}, indexes: map[name]*catalog.Index{}, indexed: map[name]*catalog.Table{},
		counter: map[name]*catalog.Column{}, trigger: map[name]*catalog.Trigger{}, source: map[[3]string]*strings.Builder{}}
	for _, step := range []func(){r.server, r.users, r.readTables, r.readViews, r.readColumns, r.identities, r.readIndexes, r.constraints, r.partitions, r.sequences, r.sources, r.triggers, r.synonyms,
		r.comments, r.dependencies, r.invalid, r.unread, r.grants, r.segments} {
		if step(); r.err != nil {
			return nil, r.err
		}
	}
	r.settle()
	r.c.Sort()
	return r.c, nil
}

func (r *reader) ask(question string, take func(w *capture.Fields)) {
	if r.err == nil {
		r.err = engine.Each(r.ctx, r.answers, question, take)
	}
}

// or asks one question or, where the account is refused that, another; told is whether there was
// an answer. Both are put in a capture.
func (r *reader) or(first, second string, take func(w *capture.Fields)) (told bool) {
	if r.err != nil {
		return false
	}
	refused := false
	if r.ask(first, take); errors.Is(r.err, capture.ErrRefused) {
		refused, r.err = true, nil
	}
	instead := take
	if !refused {
		instead = func(*capture.Fields) {}
	}
	if r.ask(second, instead); errors.Is(r.err, capture.ErrRefused) {
		r.err = nil
		return !refused
	}
	return r.err == nil
}

func (r *reader) gap(schema, table, what, reason string) {
	r.c.Gaps = append(r.c.Gaps, catalog.Gap{Schema: schema, Table: table, What: what, Reason: reason})
}

func (r *reader) server() {
	r.ask(askServer, func(w *capture.Fields) {
		setting := func(name, value string) {
			if value != "" {
				r.c.Settings = append(r.c.Settings, catalog.Setting{Name: name, Value: value})
			}
		}
		r.c.Engine.Version = w.Text()
		product := strings.TrimSpace(w.Text())
		setting("product", product)
		if strings.Contains(product, "simulated") {
			setting("simulated", "yes")
		}
		r.c.Database = w.Text()
		w.Text() // the account, which the capture's head names
		setting("character set", w.Text())
	})
}

func (r *reader) users() {
	r.ask(askUsers, func(w *capture.Fields) {
		s := &catalog.Schema{Name: w.Text()}
		r.schemas[s.Name] = s
		r.c.Schemas = append(r.c.Schemas, s)
	})
	r.or(askSpaces, askSpacesOwn, func(w *capture.Fields) { r.space[w.Text()] = w.Text() })
}

// lies is the tablespace of something, where it does not go without saying.
func (r *reader) lies(owner, space string) string {
	if usual, known := r.space[owner]; known && usual == space {
		return ""
	}
	return space
}

func (r *reader) readTables() {
	r.ask(askTables, func(w *capture.Fields) {
		s := r.schemas[w.Text()]
		t := &catalog.Table{Name: w.Text(), Kind: catalog.Ordinary}
		space, cluster, organization, temporary, duration := w.Text(), w.Text(), w.Text(), w.Is("Y"), w.Text()
		compression, compressed, readOnly := w.Text(), w.Text(), w.Is("YES")
		rows, blocks, analyzed, free, logging := w.Big(), w.Big(), w.Text(), w.Text(), w.Text()
		if s == nil || strings.HasPrefix(t.Name, "BIN$") {
			return
		}
		t.Schema = s.Name
		option := func(on bool, says string) {
			if on {
				t.Options = append(t.Options, says)
			}
		}
		option(organization == "IOT", "index organized")
		option(temporary && duration == "SYS$SESSION", "temporary, rows of a session")
		option(temporary && duration != "SYS$SESSION", "temporary, rows of a transaction")
		option(cluster != "", "cluster "+cluster)
		option(readOnly, "read only")
		var storage []string
		if free != "" && free != "10" && free != "0" {
			storage = append(storage, "PCTFREE "+free)
		}
		if compression == "ENABLED" {
			storage = append(storage, compressText(compressed))
		}
		if logging == "NO" && !temporary {
			storage = append(storage, "NOLOGGING")
		}
		t.Storage = strings.Join(storage, " ")
		if !temporary && cluster == "" {
			t.Tablespace = r.lies(s.Name, space)
		}
		t.Stats.Rows = rows
		if blocks != nil {
			bytes := *blocks * blockBytes
			t.Stats.Bytes = &bytes
		}
		if at, err := time.Parse("2006-01-02T15:04:05", analyzed); err == nil {
			t.Stats.Analysed = &at
		}
		s.Tables = append(s.Tables, t)
		r.tables[name{s.Name, t.Name}] = t
	})
	r.ask(askExternal, func(w *capture.Fields) {
		if t := r.tables[name{w.Text(), w.Text()}]; t != nil {
			t.Kind, t.Server = catalog.Foreign, w.Text()
		}
	})
}

// blockBytes is the usual size of a block; what the segments say takes its place where they can
// be seen.
const blockBytes = 8192

// compressText: https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/CREATE-TABLE.html (table_compression).
func compressText(kind string) string {
	switch kind {
	case "BASIC", "ADVANCED":
		return "ROW STORE COMPRESS " + kind
	case "", "OLTP":
		return "ROW STORE COMPRESS ADVANCED"
	}
	return "COLUMN STORE COMPRESS FOR " + kind
}

func (r *reader) readViews() {
	r.ask(askViews, func(w *capture.Fields) {
		s := r.schemas[w.Text()]
		v := &catalog.View{Name: w.Text(), Definition: strings.TrimSpace(w.Text())}
		if readOnly := w.Is("Y"); readOnly {
			v.Options = append(v.Options, "with read only")
			v.Definition = strings.TrimSpace(cutEnd(v.Definition, "WITH READ ONLY"))
		}
		if s != nil {
			s.Views = append(s.Views, v)
			r.views[name{s.Name, v.Name}] = v
		}
	})
	r.ask(askMaterialized, func(w *capture.Fields) {
		at := name{w.Text(), w.Text()}
		s := r.schemas[at.owner]
		v := &catalog.View{Name: at.name, Materialised: true, Definition: strings.TrimSpace(w.Text())}
		mode, method := w.Text(), w.Text()
		v.Options = append(v.Options, strings.ToLower("refresh "+method+" on "+mode))
		if s != nil {
			s.Views = append(s.Views, v)
			r.views[at] = v
		}
		if t := r.tables[at]; t != nil { // what holds its rows
			delete(r.tables, at)
			s.Tables = without(s.Tables, t)
		}
	})
}

func without(list []*catalog.Table, t *catalog.Table) []*catalog.Table {
	kept := list[:0]
	for _, o := range list {
		if o != t {
			kept = append(kept, o)
		}
	}
	return kept
}

func cutEnd(text, end string) string {
	if len(text) >= len(end) && strings.EqualFold(text[len(text)-len(end):], end) {
		return text[:len(text)-len(end)]
	}
	return text
}

func (r *reader) readColumns() {
	r.ask(askColumns, func(w *capture.Fields) {
		at, column := name{w.Text(), w.Text()}, w.Text()
		d := described{base: w.Text(), owner: w.Text(), length: w.Number()}
		d.precision, d.scale = whole(w), whole(w)
		c := &catalog.Column{Name: column, Nullable: w.Is("Y")}
		def := strings.TrimSpace(w.Text())
		if strings.EqualFold(def, "NULL") {
			def = "" // what is left of a default that was taken away
		}
		d.letters = w.Number()
		d.byLetters = w.Is("C")
		hidden, virtual, byUser, onNull := w.Is("YES"), w.Is("YES"), w.Is("YES"), w.Is("YES")
		distinct, nulls := w.Big(), w.Big()
		if collation := w.Text(); collation != "" && collation != "USING_NLS_COMP" {
			d.collation = collation
		}
		if v := r.views[at]; v != nil {
			if !hidden {
				v.Columns = append(v.Columns, &catalog.ViewColumn{Name: column, Type: typeOf(d).Native})
			}
			return
		}
		t := r.tables[at]
		if t == nil || hidden && !byUser {
			return // what an index on an expression is on has a column of its own
		}
		c.Type, c.Invisible = typeOf(d), hidden
		if virtual {
			c.Generated = def
		} else {
			c.Default = def
		}
		if onNull {
			c.Options = append(c.Options, "default on null")
		}
		if distinct != nil {
			n := float64(*distinct)
			c.Stats.Distinct = &n
		}
		if nulls != nil && t.Stats.Rows != nil && *t.Stats.Rows > 0 {
			share := float64(*nulls) / float64(*t.Stats.Rows)
			c.Stats.Nulls = &share
		}
		t.Columns = append(t.Columns, c)
	})
}

func whole(w *capture.Fields) *int {
	n := w.Big()
	if n == nil {
		return nil
	}
	i := int(*n)
	return &i
}

// The options of an identity that go without saying
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/CREATE-TABLE.html, identity_options).
var usualOptions = map[string]string{"INCREMENT BY": "1", "MAX_VALUE": "9999999999999999999999999999", "MIN_VALUE": "1", "CYCLE_FLAG": "N", "CACHE_SIZE": "20", "ORDER_FLAG": "N", "SCALE_FLAG": "N", "EXTEND_FLAG": "N", "SESSION_FLAG": "N", "KEEP_VALUE": "N", "START WITH": ""}

func (r *reader) identities() {
	r.ask(askIdentities, func(w *capture.Fields) {
		t, column := r.tables[name{w.Text(), w.Text()}], w.Text()
		generation, sequence, options := w.Text(), w.Text(), w.Text()
		if t == nil || t.Column(column) == nil {
			return
		}
		c := t.Column(column)
		c.Default = "" // what draws from a sequence that has no name of its own
		if c.Identity = catalog.IdentityByDefault; generation == "ALWAYS" {
			c.Identity = catalog.IdentityAlways
		}
		for i, o := range c.Options {
			if o == "default on null" {
				c.Options[i] = "identity on null"
			}
		}
		for part := range strings.SplitSeq(options, ", ") {
			key, value, _ := strings.Cut(part, ": ")
			if usual, known := usualOptions[key]; known && key != "START WITH" && value != usual {
				c.Options = append(c.Options, strings.ToLower("identity "+key+" "+value))
			}
		}
		r.counter[name{t.Schema, sequence}] = c
	})
}

// settle is what can be said once everything was read.
func (r *reader) settle() {
	kept := r.c.Schemas[:0]
	for _, s := range r.c.Schemas {
		if s.Size() > 0 {
			kept = append(kept, s) // others are accounts
		}
	}
	r.c.Schemas = kept
}
