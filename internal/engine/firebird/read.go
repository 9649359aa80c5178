package firebird

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/firebird/traits"
)

// reader fills a catalog.
type reader struct {
	ctx     context.Context
	answers engine.Answers
	c       *catalog.Catalog
	s       *catalog.Schema // the only one
	err     error

	charset    string            // of texts whose own is not said
	charsets   map[int]charset   // by their numbers
	collations map[[2]int]string // names, by character set and number
	domains    map[string]*domain
	tables     map[string]*catalog.Table
	views      map[string]*catalog.View
	order      map[string][]string // the columns of tables and views, in their places
	indexes    map[string]*catalog.Index
	on         map[string]*catalog.Table // the table of an index, by the index's name
	refers     map[string]string         // the index that a foreign key's index leads to
	keys       map[string]string         // the index of a key, by the key's name
	triggers   map[string]*catalog.Trigger
	of         map[string]*catalog.Table // the table of a trigger, by the trigger's name
	checks     map[string]*catalog.Table // the table of a check, by the name of a trigger that keeps it
	checkNames map[string]string
	hidden     map[string]bool             // triggers of checks whose text was taken away
	owners     map[string]string           // of objects, by their kind and name
	routines   map[string]*catalog.Routine // by their kind and name
	sequences  map[string]*catalog.Sequence
	identities map[string]numbered // by the generator
	computed   map[string]numbered // by the domain that the engine made for the column
	objects    map[string]*catalog.Object
	arguments  map[string]*signature // of routines, by kind and name
}

// numbered is a column of a table.
type numbered struct {
	t *catalog.Table
	c *catalog.Column
}

// charset is a character set of texts.
type charset struct {
	name, usual string // its collation
	width       int    // the bytes that a character takes at most
}

// Survey reads the catalog in a fixed number of questions, as of one moment.
func (s *session) Survey(ctx context.Context) (*catalog.Catalog, error) {
	open := s.tx != nil
	if err := s.Rollback(ctx); err != nil {
		return nil, s.said(ctx, err)
	}
	if err := s.begin(ctx, ofOneMoment); err != nil {
		return nil, s.said(ctx, err)
	}
	c, err := read(ctx, engine.Live{Session: s}, s.place, time.Now().UTC().Truncate(time.Second))
	if back := s.Rollback(context.WithoutCancel(ctx)); err == nil && back != nil {
		err = s.said(ctx, back)
	}
	if err == nil && open && !s.write {
		err = s.said(ctx, s.begin(ctx, forReading))
	}
	return c, err
}

func read(ctx context.Context, from engine.Answers, place string, at time.Time) (*catalog.Catalog, error) {
	r := &reader{ctx: ctx, answers: from, c: &catalog.Catalog{Engine: catalog.Engine{Name: "firebird"}, Surveyed: at}, s: &catalog.Schema{Name: traits.Schema},
		charsets: map[int]charset{}, collations: map[[2]int]string{}, domains: map[string]*domain{}, tables: map[string]*catalog.Table{}, views: map[string]*catalog.View{}, order: map[string][]string{},
		indexes: map[string]*catalog.Index{}, on: map[string]*catalog.Table{}, refers: map[string]string{}, keys: map[string]string{}, triggers: map[string]*catalog.Trigger{}, of: map[string]*catalog.Table{},
		checks: map[string]*catalog.Table{}, checkNames: map[string]string{}, hidden: map[string]bool{}, owners: map[string]string{}, routines: map[string]*catalog.Routine{}, sequences: map[string]*catalog.Sequence{}, identities: map[string]numbered{}, objects: map[string]*catalog.Object{}, computed: map[string]numbered{}, arguments: map[string]*signature{}}
	r.c.Schemas = []*catalog.Schema{r.s}
	for _, step := range []func(){r.server, r.readCharsets, r.readDomains, r.readRelations, r.readColumns, r.generators, r.readIndexes, r.constraints, r.readChecks, r.readTriggers, r.exceptions,
		r.procedures, r.functions, r.packages, r.dependencies, r.roles, r.grants, r.others} {
		if step(); r.err != nil {
			return nil, r.err
		}
	}
	r.c.Database = databaseName(place)
	r.c.Sort()
	return r.c, nil
}

// databaseName is what a database is called after its file, or its alias.
func databaseName(place string) string {
	place, _, _ = strings.Cut(place, " at ")
	if i := strings.LastIndexAny(place, `/\`); i >= 0 {
		place = place[i+1:]
	}
	if stem := strings.TrimSuffix(strings.TrimSuffix(place, ".fdb"), ".FDB"); stem != "" {
		return stem
	}
	return place
}

func (r *reader) ask(question string, take func(w *capture.Fields)) {
	if r.err == nil {
		r.err = engine.Each(r.ctx, r.answers, question, take)
	}
}

func (r *reader) gap(table, what, reason string) {
	r.c.Gaps = append(r.c.Gaps, catalog.Gap{Schema: traits.Schema, Table: table, What: what, Reason: reason})
}

func (r *reader) server() {
	r.ask(askServer, func(w *capture.Fields) {
		r.c.Engine.Version = w.Text()
		setting := func(name, value string) {
			if value != "" {
				r.c.Settings = append(r.c.Settings, catalog.Setting{Name: name, Value: value})
			}
		}
		setting("page size", w.Text())
		setting("on-disk structure", w.Text()+"."+w.Text())
		setting("sql dialect", w.Text())
		onOff := func(on bool) string { return map[bool]string{true: "on", false: "off"}[on] }
		setting("read only", onOff(w.Is("1")))
		setting("forced writes", onOff(w.Is("1")))
		r.charset = w.Text()
		setting("character set", r.charset)
		setting("comment", w.Text())
	})
}

func (r *reader) readCharsets() {
	var altered []charset
	r.ask(askCharsets, func(w *capture.Fields) {
		id := w.Number()
		set := charset{name: w.Text(), usual: w.Text(), width: max(1, w.Number())}
		r.charsets[id] = set
		if set.usual != set.name {
			altered = append(altered, set)
		}
	})
	r.ask(askCollations, func(w *capture.Fields) {
		set, id := w.Number(), w.Number()
		name := w.Text()
		r.collations[[2]int{set, id}] = name
		bits, base, specific := w.Number(), w.Text(), w.Text()
		if w.Number() != 0 {
			return
		}
		o := &catalog.Object{Kind: "collation", Name: name, Definition: fmt.Sprintf("CREATE COLLATION %s FOR %s", traits.Ident(name), r.charsets[set].name)}
		switch {
		case base != "":
			o.Definition += " FROM " + traits.Ident(base)
			if base != r.charsets[set].name {
				o.Needs = append(o.Needs, catalog.ObjectRef{Kind: "collation", Schema: traits.Schema, Name: base})
			}
		default:
			o.Definition += " FROM EXTERNAL (" + traits.Literal(name) + ")"
		}
		for i, words := range []string{"PAD SPACE", "CASE INSENSITIVE", "ACCENT INSENSITIVE"} {
			if bits&(1<<i) != 0 {
				o.Definition += " " + words
			}
		}
		if specific != "" {
			o.Definition += " " + traits.Literal(specific)
		}
		o.Comment = w.Text()
		r.object(o)
	})
	for _, set := range altered {
		r.object(&catalog.Object{Kind: "character set", Name: set.name, Definition: "ALTER CHARACTER SET " + set.name + " SET DEFAULT COLLATION " + traits.Ident(set.usual),
			Needs: []catalog.ObjectRef{{Kind: "collation", Schema: traits.Schema, Name: set.usual}}})
	}
}

// object keeps what the model knows no more of than its text.
func (r *reader) object(o *catalog.Object) {
	// What it is made of is there as long as it is no part of the engine.
	o.Needs = slices.DeleteFunc(o.Needs, func(n catalog.ObjectRef) bool { return r.objects[n.Kind+" "+n.Name] == nil })
	r.objects[o.Kind+" "+o.Name] = o
	r.s.Objects = append(r.s.Objects, o)
}

// others are told as not read.
func (r *reader) others() {
	r.ask(askOthers, func(w *capture.Fields) {
		kind := w.Text()
		if many := w.Text(); many != "0" {
			r.gap("", kind+"s", "there are "+many+", and what they are made of is not read")
		}
	})
}
