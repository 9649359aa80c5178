package sqlserver

import (
	"context"
	"fmt"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/sqlserver/traits"
)

// reader fills a catalog.
type reader struct {
	ctx     context.Context
	answers engine.Answers
	c       *catalog.Catalog
	err     error

	collation string
	major     int
	schemas   map[string]*catalog.Schema      // by their numbers, as the others
	types     map[string]named                // by user_type_id
	tables    map[string]*catalog.Table       //
	views     map[string]*catalog.View        //
	columns   map[string]map[string]string    // names, by object and column
	indexes   map[[2]string]*catalog.Index    // by object and index
	keys      map[string]*catalog.ForeignKey  //
	refs      map[string]catalog.ObjectRef    // whatever has a number of its own
	routines  map[string]*catalog.Routine     //
	triggers  map[string]*catalog.Trigger     //
	sequences map[string]*catalog.Sequence    //
	checks    map[string]*catalog.Check       //
	uniques   map[string]*catalog.Key         //
	spaces    map[[2]string]string            // where an index lies, as a clause behind ON
	placed    map[*catalog.Table]*placedIndex // heap or clustered index of a table
}

// placedIndex is how the rows of a table lie.
type placedIndex struct{ object, index, scheme string }

// named is a type with what its columns need of it.
type named struct {
	name, base string
	schema     string
	user       bool
	def        catalog.Type
}

// Survey reads the catalog in a fixed number of questions. The views are not kept as of one
// moment by the server, which has no snapshot of them: what is altered meanwhile is a gap.
func (s *session) Survey(ctx context.Context) (*catalog.Catalog, error) {
	return read(ctx, engine.Live{Session: s}, time.Now().UTC().Truncate(time.Second))
}

func read(ctx context.Context, from engine.Answers, at time.Time) (*catalog.Catalog, error) {
	r := &reader{ctx: ctx, answers: from, c: &catalog.Catalog{Engine: catalog.Engine{Name: "sqlserver"}, Surveyed: at},
		schemas: map[string]*catalog.Schema{}, types: map[string]named{}, tables: map[string]*catalog.Table{}, views: map[string]*catalog.View{}, columns: map[string]map[string]string{},
		indexes: map[[2]string]*catalog.Index{}, keys: map[string]*catalog.ForeignKey{}, refs: map[string]catalog.ObjectRef{}, routines: map[string]*catalog.Routine{}, triggers: map[string]*catalog.Trigger{},
		sequences: map[string]*catalog.Sequence{}, checks: map[string]*catalog.Check{}, uniques: map[string]*catalog.Key{}, spaces: map[[2]string]string{}, placed: map[*catalog.Table]*placedIndex{}}
	for _, step := range []func(){r.server, r.readSchemas, r.readTypes, r.readTables, r.modules, r.readColumns, r.readIndexes, r.indexColumns, r.xmlIndexes, r.spatialIndexes, r.fullText, r.tracking, r.policies, r.references, r.readChecks, r.partitions,
		r.readSequences, r.readTriggers, r.reads, r.synonyms, r.comments, r.statistics, r.grants, r.sizes, r.usage} {
		if step(); r.err != nil {
			return nil, r.err
		}
	}
	r.settle()
	r.c.Sort()
	engine.Hints(r.c, Engine{}.Dialect())
	return r.c, nil
}

func (r *reader) ask(question string, take func(w *capture.Fields)) {
	if r.err == nil {
		r.err = engine.Each(r.ctx, r.answers, question, take)
	}
}

// figures asks what a user may not be let see without a permission; without it the figures stay
// unknown.
func (r *reader) figures(what, permission, question string, take func(w *capture.Fields)) (told bool) {
	if r.err != nil {
		return false
	}
	r.ask(question, take)
	if said, ok := r.err.(*engine.StatementError); ok && r.ctx.Err() == nil {
		r.c.Gaps = append(r.c.Gaps, catalog.Gap{What: what, Reason: fmt.Sprintf("the server refused it with error %s; it asks for %s", said.Code, permission), Figures: true})
		r.err = nil
		return false
	}
	return r.err == nil
}

func (r *reader) gap(schema, table, what, reason string) {
	r.c.Gaps = append(r.c.Gaps, catalog.Gap{Schema: schema, Table: table, What: what, Reason: reason})
}

func (r *reader) server() {
	r.ask(askServer, func(w *capture.Fields) {
		r.c.Engine.Version = w.Text()
		r.major = traits.Major(r.c.Engine.Version)
		setting := func(name, value string) {
			if value != "" {
				r.c.Settings = append(r.c.Settings, catalog.Setting{Name: name, Value: value})
			}
		}
		setting("edition", w.Text())
		setting("engine edition", w.Text())
		r.c.Database, r.collation = w.Text(), w.Text()
		setting("collation", r.collation)
		setting("compatibility level", w.Text())
		onOff := func(on bool) string { return map[bool]string{true: "on", false: "off"}[on] }
		setting("read committed snapshot", onOff(w.Is("1")))
		setting("snapshot isolation", onOff(w.Is("1")))
		if strings.Contains(w.Text(), "simulated") {
			setting("simulated", "yes")
		}
	})
	if traits.Azure(r.c) {
		r.major = 17 // whatever it says
	}
}

func (r *reader) readSchemas() {
	r.ask(askSchemas, func(w *capture.Fields) {
		id := w.Text()
		s := &catalog.Schema{Name: w.Text()}
		if owner := w.Text(); owner != s.Name && owner != "dbo" {
			s.Owner = owner
		}
		r.schemas[id] = s
		r.c.Schemas = append(r.c.Schemas, s)
	})
}

// schema returns the one of that number, or nil where it is the server's own.
func (r *reader) schema(id string) *catalog.Schema { return r.schemas[id] }

func (r *reader) readTypes() {
	r.ask(askTypes, func(w *capture.Fields) {
		id, schema, name, base := w.Text(), r.schema(w.Text()), w.Text(), w.Text()
		length, precision, scale, collation := w.Number(), w.Number(), w.Number(), w.Text()
		nullable, user, table, assembly := w.Is("1"), w.Is("1"), w.Is("1"), w.Is("1")
		n := named{name: name, base: name, user: user, def: r.typed(base, length, precision, scale, collation)}
		if base != "" {
			n.base = base
		}
		if schema != nil && user {
			n.schema = schema.Name
			switch {
			case table:
				r.gap(schema.Name, "", "table type "+name, "its columns are not read")
			case assembly:
				r.gap(schema.Name, "", "type "+name, "it is of an assembly")
			default:
				under := n.def
				schema.Types = append(schema.Types, &catalog.UserType{Name: name, Kind: catalog.DomainType, Base: &under, Required: !nullable})
			}
		}
		if name == "sysname" {
			n.base = name
		}
		r.types[id] = n
	})
}

// typed leaves out the collation of the database.
func (r *reader) typed(base string, length, precision, scale int, collation string) catalog.Type {
	if collation == r.collation {
		collation = ""
	}
	return traits.TypeOf(base, length, precision, scale, collation)
}

func (r *reader) readTables() {
	graph, ledger := "CAST(0 AS bit)", "CAST(0 AS int)"
	if r.major >= 14 {
		graph = "CAST(t.is_node | t.is_edge AS bit)"
	}
	if r.major >= 16 {
		ledger = "CAST(t.ledger_type AS int)"
	}
	r.ask(fmt.Sprintf(askTables, graph, ledger), func(w *capture.Fields) {
		id, s := w.Text(), r.schema(w.Text())
		if s == nil {
			return
		}
		t := &catalog.Table{Schema: s.Name, Name: w.Text(), Kind: catalog.Ordinary}
		option := func(on bool, says string) {
			if on {
				t.Options = append(t.Options, says)
			}
		}
		option(w.Is("1"), "memory optimized")
		switch w.Number() { // temporal_type
		case 1:
			t.Options = append(t.Options, "history table")
		case 2:
			t.Options = append(t.Options, "system versioned")
		}
		if w.Is("1") {
			t.Kind = catalog.Foreign
		}
		option(w.Is("1"), "file table")
		option(w.Is("1"), "graph")
		option(w.Number() > 0, "ledger")
		option(w.Is("1"), "replicated")
		option(w.Is("1"), "change data capture")
		t.Owner = w.Text()
		if space, kind := w.Text(), w.Text(); kind == "PS" {
			r.placed[t] = &placedIndex{scheme: space}
		} else if space != "" && space != "PRIMARY" {
			t.Tablespace = space
		}
		s.Tables = append(s.Tables, t)
		r.tables[id], r.refs[id] = t, catalog.ObjectRef{Kind: catalog.KindTable, Schema: s.Name, Name: t.Name}
	})
}

func (r *reader) readColumns() {
	r.ask(askColumns, func(w *capture.Fields) {
		object, id, name := w.Text(), w.Text(), w.Text()
		if r.columns[object] == nil {
			r.columns[object] = map[string]string{}
		}
		r.columns[object][id] = name
		y := r.types[w.Text()]
		length, precision, scale, collation := w.Number(), w.Number(), w.Number(), w.Text()
		c := &catalog.Column{Name: name, Type: r.typed(y.base, length, precision, scale, collation)}
		if y.user {
			c.Type.Underlying, c.Type.Native = c.Type.Native, traits.Ident(y.schema)+"."+traits.Ident(y.name)
		}
		c.Nullable = w.Is("1")
		numbered := w.Is("1")
		option := func(on bool, says string) {
			if on {
				c.Options = append(c.Options, says)
			}
		}
		option(w.Is("1"), "sparse")
		option(w.Is("1"), "column set")
		option(w.Is("1"), "rowguidcol")
		option(w.Is("1"), "filestream")
		c.Invisible = w.Is("1")
		w.Is("1")
		option(w.Number() > 0, "generated always")
		seed, step, last := w.Big(), w.Big(), w.Big()
		option(w.Is("1"), "not for replication")
		t := r.tables[object]
		if numbered {
			c.Identity = catalog.IdentityAlways
			if seed != nil && step != nil {
				if *seed != 1 || *step != 1 {
					c.Options = append(c.Options, fmt.Sprintf("identity(%d,%d)", *seed, *step))
				}
				next := *seed
				if last != nil {
					next = *last + *step
				}
				if t != nil {
					t.Stats.Counter = &next
				}
			}
		}
		c.Generated = plain(w.Text())
		c.Stored = w.Is("1")
		c.DefaultName, c.Default = w.Text(), plain(w.Text())
		w.Is("1")
		function, encryption, rule, bound, collection := w.Text(), w.Text(), w.Text(), w.Text(), w.Text()
		option(function != "", traits.Masked+function)
		option(encryption != "", traits.Encrypted+strings.ToLower(encryption))
		option(rule != "", traits.BoundRule+rule)
		option(bound != "", traits.BoundDefault+bound)
		option(collection != "", traits.Typed+collection)
		switch v := r.views[object]; {
		case t != nil:
			t.Columns = append(t.Columns, c)
		case v != nil:
			v.Columns = append(v.Columns, &catalog.ViewColumn{Name: c.Name, Type: c.Type.Native})
		}
	})
}

// plain takes the brackets off that the server puts around every expression.
func plain(expression string) string { return traits.Expressions.Plain(expression) }
