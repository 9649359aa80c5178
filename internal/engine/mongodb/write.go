package mongodb

import (
	"fmt"
	"slices"
	"strings"

	"go.mongodb.org/mongo-driver/v2/bson"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/sqllex"
)

// quoting is asked for by what all engines share; nothing is quoted in a command.
var quoting = sqllex.AlwaysQuoting(`"`)

// dialect is what the commands of the store share with statements of others. None is part of a
// transaction.
var dialect = &ddl.Dialect{Title: "MongoDB", Quoting: quoting, Relation: func(r catalog.Ref) string { return r.Table }, Literal: func(s string) string { return s }, Works: "; reads %s",
	Create: func(_ *ddl.Writer, t *catalog.Table) []string { return created(t) }, Drop: func(m *catalog.Member) string { return shell(bson.D{{Key: "drop", Value: m.Name}}) },
	Made: ddl.Takes("nothing that others use", engine.BlocksNobody), Gone: ddl.Takes("users of what is dropped find nothing from then on", engine.BlocksNobody)}

type writer struct{ *ddl.Writer }

// Write turns the plan into steps, a command each
// (https://www.mongodb.com/docs/manual/reference/command/).
func (e Engine) Write(from, to *catalog.Catalog, plan change.Plan) (*engine.Work, error) {
	w := &writer{ddl.New(dialect, e, from, to, plan, &engine.Work{})}
	err := w.Each(w.change)
	return w.Work, err
}

func (w *writer) change(_ int, ch change.Change) (int, error) {
	on := ch.On()
	switch ch := ch.(type) {
	case change.AddKey:
		return 1, w.unique(ch.Title(), on, w.behind(ch.Key))
	case change.DropKey:
		w.brief(ch.Title(), dropIndex(on, ch.Name))
	case change.ReplaceKey:
		x := ch.To.Index
		if ch.To.Key != nil {
			x = w.behind(ch.To.Key)
		}
		w.brief(ch.Title(), dropIndex(on, ch.From.Name()))
		return 1, w.unique(ch.Title(), on, x)
	case change.CreateIndex:
		if ch.Index.Unique {
			return 1, w.unique(ch.Title(), on, ch.Index)
		}
		return 1, w.builds(ch.Title(), on, ch.Index)
	case change.DropIndex:
		s := w.brief(ch.Title(), dropIndex(on, ch.Name))
		s.Notes = append(s.Notes, "to try how it goes without, hide it first: collMod with index: {name: ..., hidden: true}")
	case change.AddCheck:
		return 1, w.validate(ch)
	case change.DropCheck:
		w.brief(ch.Title(), shell(bson.D{{Key: "collMod", Value: on.Table}, {Key: "validator", Value: bson.D{}}}))
	case change.CreateObjects:
		work, _ := Engine{}.Create(ch.What)
		var sql []string
		for _, st := range work.Steps {
			sql = append(sql, st.SQL...)
		}
		w.Step(ch.Title(), w.Made, sql...).Tables = ch.Tables()
	case change.DropObjects:
		return 1, w.drop(ch)
	default:
		return 0, nil
	}
	return 1, nil
}

// behind is the index of a unique key.
func (w *writer) behind(k *catalog.Key) *catalog.Index {
	x := &catalog.Index{Name: k.Name, Method: "btree", Unique: true}
	for _, name := range k.Columns {
		x.Parts = append(x.Parts, catalog.IndexPart{Column: name})
	}
	return x
}

func (w *writer) brief(title string, commands ...string) *engine.Step {
	return w.Step(title, ddl.Takes("exclusive lock on the collection for a moment", engine.BlocksBriefly), commands...)
}

func dropIndex(on catalog.Ref, name string) string {
	return shell(bson.D{{Key: "dropIndexes", Value: on.Table}, {Key: "index", Value: name}})
}

// builds adds a step that builds an index while others read and write
// (https://www.mongodb.com/docs/manual/core/index-creation/).
func (w *writer) builds(title string, on catalog.Ref, x *catalog.Index) error {
	spec, err := specOf(x)
	if err != nil {
		return err
	}
	w.Step(title, w.Sized(ddl.Takes("readers and writers wait for a moment at the beginning and the end", engine.BlocksBriefly), on), shell(bson.D{{Key: "createIndexes", Value: on.Table}, {Key: "indexes", Value: bson.A{spec}}}))
	return nil
}

// shown is how many offending documents a pre-flight query lists.
const shown = 20

// unique asks for what a unique index would refuse: documents that lack a field are alike in it.
func (w *writer) unique(title string, on catalog.Ref, x *catalog.Index) error {
	key := bson.D{}
	for i, name := range x.Columns() {
		key = append(key, bson.E{Key: fmt.Sprintf("k%d", i), Value: "$" + name})
	}
	pipeline := bson.A{}
	if x.Predicate != "" {
		filter, err := document(x.Predicate)
		if err != nil {
			return err
		}
		pipeline = append(pipeline, bson.D{{Key: "$match", Value: filter}})
	}
	if strings.Contains(x.Storage, `"sparse"`) {
		there := bson.A{}
		for _, name := range x.Columns() {
			there = append(there, bson.D{{Key: name, Value: bson.D{{Key: "$exists", Value: true}}}})
		}
		pipeline = append(pipeline, bson.D{{Key: "$match", Value: bson.D{{Key: "$or", Value: there}}}})
	}
	if t := w.Now.Table(on); t != nil { // each value of a list counts
		for _, name := range x.Columns() {
			if c := t.Column(name); c != nil && c.Many {
				path := name
				for c := t.Column(path); c != nil && c.Stats.Items == nil && c.Within != ""; c = t.Column(path) {
					path = c.Within
				}
				pipeline = append(pipeline, bson.D{{Key: "$unwind", Value: "$" + path}}, bson.D{{Key: "$group", Value: bson.D{{Key: "_id", Value: bson.D{{Key: "d", Value: "$_id"}, {Key: "k0", Value: "$" + name}}}}}})
				key = bson.D{{Key: "k0", Value: "$_id.k0"}}
			}
		}
	}
	pipeline = append(pipeline, bson.D{{Key: "$group", Value: bson.D{{Key: "_id", Value: key}, {Key: "times", Value: bson.D{{Key: "$sum", Value: 1}}}}}},
		bson.D{{Key: "$match", Value: bson.D{{Key: "times", Value: bson.D{{Key: "$gt", Value: 1}}}}}}, bson.D{{Key: "$limit", Value: shown}})
	w.Ask(fmt.Sprintf("values of %s (%s) that occur more than once", on, strings.Join(x.Columns(), ", ")), query(on, pipeline))
	return w.builds(title, on, x)
}

func query(on catalog.Ref, pipeline bson.A) string {
	return shell(bson.D{{Key: "aggregate", Value: on.Table}, {Key: "pipeline", Value: pipeline}, {Key: "cursor", Value: bson.D{}}})
}

// validate gives the collection its validator. One that only warns asks for nothing; one that refuses
// asks for documents that it would refuse the next time they are written
// (https://www.mongodb.com/docs/manual/core/schema-validation/specify-validation-level/).
func (w *writer) validate(ch change.AddCheck) error {
	condition, err := document(ch.Check.Expression)
	if err != nil {
		return err
	}
	action := "error"
	if ch.Check.NotEnforced {
		action = "warn"
	} else {
		w.Ask(fmt.Sprintf("documents of %s that the validator would refuse", ch.Table), query(ch.Table, bson.A{
			bson.D{{Key: "$match", Value: bson.D{{Key: "$nor", Value: bson.A{condition}}}}}, bson.D{{Key: "$limit", Value: shown}}, bson.D{{Key: "$project", Value: bson.D{{Key: "_id", Value: 1}}}}}))
	}
	command := bson.D{{Key: "collMod", Value: ch.Table.Table}, {Key: "validator", Value: condition}, {Key: "validationAction", Value: action}}
	if t := w.Now.Table(ch.Table); t != nil {
		command = append(command, levelOf(t)...)
	}
	s := w.brief(ch.Title(), shell(command))
	if ch.Check.NotEnforced {
		s.Notes = append(s.Notes, "it warns in the server's log and refuses nothing; once nothing breaks it, key/unenforced has it enforced")
	} else {
		s.Notes = append(s.Notes, "writes of documents that break it fail from then on")
	}
	return nil
}

// levelOf is the level of validation, where it is not the strict one.
func levelOf(t *catalog.Table) bson.D {
	for _, o := range t.Options {
		if level, ok := strings.CutPrefix(o, validation); ok {
			return bson.D{{Key: "validationLevel", Value: level}}
		}
	}
	return nil
}

func (w *writer) drop(ch change.DropObjects) error {
	var commands []string
	for _, m := range ch.What.Members() {
		if m.Table == nil && m.View == nil {
			continue
		}
		if ch.Empty && m.Table != nil {
			w.Ask("documents of "+m.Name+", which was made for none yet", query(catalog.Ref{Table: m.Name}, bson.A{bson.D{{Key: "$limit", Value: 1}}}))
		}
		commands = append(commands, shell(bson.D{{Key: "drop", Value: m.Name}}))
	}
	slices.Reverse(commands)
	s := w.Step(ch.Title(), w.Gone, commands...)
	s.Tables = ch.Tables()
	return nil
}

// created are the commands that make a collection with its indexes and its validator.
func created(t *catalog.Table) []string {
	call := bson.D{{Key: "create", Value: t.Name}}
	if with, err := document(t.Storage); err == nil {
		call = append(call, with...)
	}
	for _, k := range t.Checks {
		if condition, err := document(k.Expression); err == nil && k.Name == validatorName {
			action := "error"
			if k.NotEnforced {
				action = "warn"
			}
			call = append(call, bson.E{Key: "validator", Value: condition}, bson.E{Key: "validationAction", Value: action})
			call = append(call, levelOf(t)...)
		}
	}
	commands := []string{shell(call)}
	var specs bson.A
	for _, x := range t.Indexes {
		if spec, err := specOf(x); err == nil && x.Origin != catalog.ByPrimaryKey {
			specs = append(specs, spec)
		}
	}
	if len(specs) > 0 {
		commands = append(commands, shell(bson.D{{Key: "createIndexes", Value: t.Name}, {Key: "indexes", Value: specs}}))
	}
	return commands
}

// Create writes collections with their indexes and validators, and views. What documents hold nothing
// declares.
func (Engine) Create(c *catalog.Catalog) (*engine.Work, []engine.Loss) {
	work := &engine.Work{}
	var losses []engine.Loss
	var collections, views []string
	for _, s := range c.Schemas {
		for _, t := range s.Tables {
			collections = append(collections, created(t)...)
			if t.Spread != nil {
				losses = append(losses, engine.Loss{What: catalog.ObjectRef{Kind: catalog.KindTable, Name: t.Name}, Why: "it has to be spread over the cluster by hand (shardCollection)"})
			}
		}
		for _, v := range s.Views {
			d, err := document(v.Definition)
			if err != nil {
				losses = append(losses, engine.Loss{What: catalog.ObjectRef{Kind: catalog.KindView, Name: v.Name}, Why: "its pipeline was not read"})
				continue
			}
			views = append(views, shell(append(bson.D{{Key: "create", Value: v.Name}}, d...)))
		}
	}
	for _, p := range []struct {
		title string
		sql   []string
	}{{"collections", collections}, {"views", views}} {
		if len(p.sql) > 0 {
			work.Steps = append(work.Steps, engine.Step{Title: "create " + p.title, Lock: "nothing that others use", SQL: p.sql})
		}
	}
	return work, losses
}
