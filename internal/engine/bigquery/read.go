package bigquery

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// Survey reads the datasets one after another, each in eleven questions. The service answers each as
// of its own moment.
func (s *session) Survey(ctx context.Context) (*catalog.Catalog, error) {
	r := &reader{ctx: ctx, s: s, c: &catalog.Catalog{Engine: catalog.Engine{Name: "bigquery", Version: "v2"}, Database: s.at.project, Surveyed: time.Now().UTC().Truncate(time.Second)}}
	names := []string{s.at.dataset}
	if s.at.dataset == "" {
		var err error
		if names, err = s.datasets(ctx); err != nil {
			return nil, s.wrap(ctx, err)
		}
	}
	for _, name := range names {
		if err := r.dataset(name); err != nil {
			return nil, s.wrap(ctx, err)
		}
	}
	r.reads()
	r.c.Sort()
	return r.c, nil
}

type reader struct {
	ctx context.Context
	s   *session
	c   *catalog.Catalog
	err error

	// Of the dataset that is being read.
	schema *catalog.Schema
	tables map[string]*catalog.Table
	views  map[string]*catalog.View
	ddl    map[string]string
}

func (r *reader) dataset(name string) error {
	d, err := r.s.dataset(r.ctx, name)
	if err != nil {
		return err
	}
	r.schema = &catalog.Schema{Name: name, Comment: d.Description}
	if d.Collation != "" {
		r.schema.Options = append(r.schema.Options, "default_collation="+literal(d.Collation))
	}
	if len(d.Labels) > 0 {
		r.schema.Options = append(r.schema.Options, "labels="+labels(d.Labels))
	}
	r.c.Schemas = append(r.c.Schemas, r.schema)
	r.setting("location", d.Location)
	if d.Simulated {
		r.setting("simulated", "yes")
	}
	r.tables, r.views, r.ddl = map[string]*catalog.Table{}, map[string]*catalog.View{}, map[string]string{}
	for _, step := range []func(){r.readTables, r.readViews, r.columns, r.fields, r.options, r.constraints, r.routines, r.partitions} {
		step()
	}
	r.storage(d.Location)
	return r.err
}

func (r *reader) setting(name, value string) {
	if !slices.ContainsFunc(r.c.Settings, func(s catalog.Setting) bool { return s.Name == name && s.Value == value }) {
		r.c.Settings = append(r.c.Settings, catalog.Setting{Name: name, Value: value, Source: "dataset"})
	}
}

// labels writes them as an option takes them, in order.
func labels(of map[string]string) string {
	var parts []string
	for name, value := range of {
		parts = append(parts, "("+literal(name)+", "+literal(value)+")")
	}
	slices.Sort(parts)
	return "[" + strings.Join(parts, ", ") + "]"
}

// ask puts a question about the dataset. Nulls are empty texts.
func (r *reader) ask(question string, take func(v []string)) {
	r.rows(fmt.Sprintf(question, whole(r.schema.Name)+".INFORMATION_SCHEMA"), take)
}

func (r *reader) rows(sql string, take func(v []string)) {
	if r.err != nil {
		return
	}
	at, cancel := context.WithTimeout(r.ctx, max(r.s.limit, statementTimeout))
	defer cancel()
	began := time.Now()
	_, r.err = r.s.query(at, sql, 0, math.MaxInt, func(columns []column, row []any) {
		v := make([]string, len(row))
		for i := range row {
			if s := textOf(columns[i], row[i]); s != nil {
				v[i] = *s
			}
		}
		take(v)
	})
	if r.s.watch != nil {
		r.s.watch(sql, time.Since(began), r.err)
	}
}

// optional asks what the account may not be let see; what is not told becomes a gap.
func (r *reader) optional(what, sql string, figures bool, take func(v []string)) {
	if r.err != nil {
		return
	}
	r.rows(sql, take)
	var f *fault
	if errors.As(r.err, &f) && !f.forNow() && f.code != 401 {
		r.c.Gaps = append(r.c.Gaps, catalog.Gap{Schema: r.schema.Name, What: what, Reason: f.message, Figures: figures})
		r.err = nil
	}
}

// readTables: what is no table of rows of its own is another kind
// (https://cloud.google.com/bigquery/docs/information-schema-tables#schema).
func (r *reader) readTables() {
	r.ask(askTables, func(v []string) {
		name, kind, ddl := v[0], v[1], v[2]
		switch kind {
		case "VIEW", "MATERIALIZED VIEW":
			view := &catalog.View{Name: name, Materialised: kind != "VIEW", Definition: queryOf(ddl)}
			r.schema.Views = append(r.schema.Views, view)
			r.views[name] = view
		case "SNAPSHOT":
			r.schema.Objects = append(r.schema.Objects, &catalog.Object{Kind: "snapshot", Name: name, Definition: ddl})
		default:
			t := &catalog.Table{Schema: r.schema.Name, Name: name, Kind: catalog.Ordinary}
			if kind == "EXTERNAL" {
				t.Kind, t.Server = catalog.Foreign, "external"
			}
			if ddl == "" {
				r.c.Gaps = append(r.c.Gaps, catalog.Gap{Schema: t.Schema, Table: t.Name, What: "its statement", Reason: "it is not shown to this account"})
			}
			r.ddl[name] = ddl
			r.schema.Tables = append(r.schema.Tables, t)
			r.tables[name] = t
		}
	})
}

// queryOf is what stands behind AS in the statement of a view.
func queryOf(ddl string) string {
	depth := 0
	for _, t := range (Engine{}).Dialect().Tokens(ddl) {
		switch {
		case t.Is("("):
			depth++
		case t.Is(")"):
			depth--
		case depth == 0 && t.Is("AS"):
			return strings.TrimSuffix(strings.TrimSpace(ddl[t.End:]), ";")
		}
	}
	return ""
}

// readViews: the query of a plain view is in a view of its own.
func (r *reader) readViews() {
	r.ask(askViews, func(v []string) {
		if view := r.views[v[0]]; view != nil && v[1] != "" {
			view.Definition = strings.TrimSpace(v[1])
		}
	})
}

// given is a text of the views; what is not there is written NULL by some.
func given(v string) string {
	if v == "NULL" {
		return ""
	}
	return v
}

func (r *reader) columns() {
	order := map[*catalog.Table]map[int]string{}
	r.ask(askColumns, func(v []string) {
		if view := r.views[v[0]]; view != nil {
			view.Columns = append(view.Columns, &catalog.ViewColumn{Name: v[1], Type: v[3]})
			return
		}
		t := r.tables[v[0]]
		if t == nil {
			return
		}
		if v[7] == "YES" {
			t.PartitionBy = &catalog.PartitionKey{Method: "range", Columns: []string{v[1]}}
		}
		if v[6] == "YES" { // the moment when a row came, which nobody declared
			if t.PartitionBy != nil && v[7] == "YES" {
				t.PartitionBy.Columns = nil
			}
			return
		}
		c := &catalog.Column{Name: v[1], Type: typeOf(v[3]), Nullable: v[2] == "YES", Default: given(v[10])}
		c.Many = c.Type.Family == catalog.Array
		c.Type.Collation = given(v[9])
		if v[4] == "ALWAYS" {
			c.Generated, c.Stored = given(v[5]), true
		}
		t.Columns = append(t.Columns, c)
		if n, err := strconv.Atoi(v[8]); err == nil && n > 0 {
			if order[t] == nil {
				order[t] = map[int]string{}
			}
			order[t][n] = c.Name
		}
	})
	for t, places := range order {
		t.SortKey = &catalog.SortKey{}
		for n := 1; n <= len(places); n++ {
			t.SortKey.Columns = append(t.SortKey.Columns, places[n])
		}
	}
	for _, t := range r.tables {
		if t.PartitionBy != nil {
			t.PartitionBy.Definition = clauses(r.ddl[t.Name]).partition
			if t.PartitionBy.Definition == "" {
				t.PartitionBy.Definition = strings.Join(t.PartitionBy.Columns, ", ")
				r.c.Gaps = append(r.c.Gaps, catalog.Gap{Schema: t.Schema, Table: t.Name, What: "how long its partitions are", Reason: "its statement is not shown to this account"})
			}
		}
		r.nested(t)
	}
}

// nested puts the fields of a column behind it.
func (r *reader) nested(t *catalog.Table) {
	var all []*catalog.Column
	var walk func(within string, many bool, list []field)
	walk = func(within string, many bool, list []field) {
		for _, f := range list {
			all = append(all, &catalog.Column{Name: f.path, Type: typeOf(f.typ), Nullable: true, Within: within, Many: many || f.many})
			walk(f.path, many || f.many, f.inner)
		}
	}
	for _, c := range t.Columns {
		all = append(all, c)
		walk(c.Name, c.Many, fieldsOf(c.Name, c.Type.Native))
	}
	t.Columns = all
}

// policyTags begins the option of a column whose values not everybody may read
// (https://cloud.google.com/bigquery/docs/column-level-security-intro).
const policyTags = "policy_tags="

// fields brings the descriptions.
func (r *reader) fields() {
	r.ask(askFields, func(v []string) {
		t := r.tables[v[0]]
		if t == nil {
			return
		}
		c := t.Column(v[2])
		if c == nil {
			return
		}
		c.Comment = given(v[4])
		if mode := given(v[5]); mode != "" {
			c.Options = append(c.Options, "rounding_mode="+literal(mode))
		}
		if tags := given(v[6]); tags != "" && tags != "[]" {
			c.Options = append(c.Options, policyTags+tags)
		}
	})
}

func (r *reader) options() {
	r.ask(askOptions, func(v []string) {
		name, value := v[1], v[2]
		t, view := r.tables[v[0]], r.views[v[0]]
		switch {
		case name == "description" && t != nil:
			t.Comment = unquoted(value)
		case name == "description" && view != nil:
			view.Comment = unquoted(value)
		case name == "require_partition_filter" && t != nil && t.PartitionBy != nil:
			t.PartitionBy.FilterRequired = value == "true"
		case t != nil:
			t.Options = append(t.Options, name+"="+value)
		case view != nil:
			view.Options = append(view.Options, name+"="+value)
		}
	})
}

// local is a constraint's own name: the views write the table's in front.
func ownName(table, name string) string { return strings.TrimPrefix(name, table+".") }

func (r *reader) constraints() {
	keys, references := map[string]*catalog.Key{}, map[string]*catalog.ForeignKey{}
	r.ask(askConstraints, func(v []string) {
		t := r.tables[v[0]]
		switch {
		case t == nil:
		case v[2] == "PRIMARY KEY":
			t.PrimaryKey = &catalog.Key{Name: ownName(t.Name, v[1])}
			keys[v[1]] = t.PrimaryKey
		case v[2] == "FOREIGN KEY":
			f := &catalog.ForeignKey{Name: ownName(t.Name, v[1]), OnDelete: catalog.NoAction, OnUpdate: catalog.NoAction}
			t.ForeignKeys = append(t.ForeignKeys, f)
			references[v[1]] = f
		}
	})
	places := map[string][]int{} // of the key's columns that a foreign key refers to, in its order
	r.ask(askKeyColumns, func(v []string) {
		if k := keys[v[0]]; k != nil {
			k.Columns = append(k.Columns, v[1])
		}
		if f := references[v[0]]; f != nil {
			n, _ := strconv.Atoi(v[2])
			f.Columns, places[v[0]] = append(f.Columns, v[1]), append(places[v[0]], n)
		}
	})
	named := map[string][]string{}
	r.ask(askTargets, func(v []string) {
		if f := references[v[0]]; f != nil {
			f.Target = catalog.Ref{Schema: v[1], Table: v[2]}
			named[v[0]] = append(named[v[0]], v[3])
		}
	})
	for name, f := range references {
		// The view has no order: it is the key's.
		if to := r.tables[f.Target.Table]; to != nil && to.PrimaryKey != nil && catalog.SameColumns(to.PrimaryKey.Columns, named[name]) {
			for _, n := range places[name] {
				if n >= 1 && n <= len(to.PrimaryKey.Columns) {
					f.TargetColumns = append(f.TargetColumns, to.PrimaryKey.Columns[n-1])
				}
			}
		} else if len(named[name]) == 1 {
			f.TargetColumns = named[name]
		}
	}
	for _, t := range r.tables {
		t.ForeignKeys = slices.DeleteFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool {
			if len(f.TargetColumns) == len(f.Columns) && len(f.Columns) > 0 {
				return false
			}
			r.c.Gaps = append(r.c.Gaps, catalog.Gap{Schema: t.Schema, Table: t.Name, What: "foreign key " + f.Name, Reason: "which columns it refers to is not told"})
			return true
		})
	}
}

func (r *reader) routines() {
	kinds := map[string]string{"FUNCTION": "function", "PROCEDURE": "procedure", "TABLE FUNCTION": "function", "AGGREGATE FUNCTION": "function"}
	r.optional("routines", fmt.Sprintf(askRoutines, whole(r.schema.Name)+".INFORMATION_SCHEMA"), false, func(v []string) {
		kind := kinds[v[1]]
		if kind == "" {
			kind = strings.ToLower(v[1])
		}
		r.schema.Routines = append(r.schema.Routines, &catalog.Routine{Name: v[0], Kind: kind, Language: v[2], Definition: v[3]})
	})
}

// partitions counts them: they come and go with the rows, and are no structure.
func (r *reader) partitions() {
	r.optional("number of partitions", fmt.Sprintf(askPartitions, whole(r.schema.Name)+".INFORMATION_SCHEMA"), true, func(v []string) {
		if t := r.tables[v[0]]; t != nil && t.PartitionBy != nil {
			t.Stats.Parts = number(v[1])
		}
	})
}

// storage reads rows and sizes, which the region keeps.
func (r *reader) storage(location string) {
	r.optional("rows and sizes of tables", fmt.Sprintf(askStorage, strings.ToLower(location), literal(r.schema.Name)), true, func(v []string) {
		if t := r.tables[v[0]]; t != nil {
			t.Stats.Rows, t.Stats.Bytes = number(v[1]), number(v[2])
		}
	})
}

func number(v string) *int64 {
	n, err := strconv.ParseInt(v, 10, 64)
	if err != nil {
		return nil
	}
	return &n
}

// reads finds what views and routines name.
func (r *reader) reads() {
	names := sqllex.NewNames(sqllex.AsIs, sqllex.AsIs)
	for _, s := range r.c.Schemas {
		for _, t := range s.Tables {
			names.Add(catalog.ObjectRef{Kind: catalog.KindTable, Schema: s.Name, Name: t.Name}, t.Name)
		}
		for _, v := range s.Views {
			names.Add(catalog.ObjectRef{Kind: catalog.KindView, Schema: s.Name, Name: v.Name}, v.Name)
		}
	}
	d := Engine{}.Dialect()
	for _, s := range r.c.Schemas {
		for _, v := range s.Views {
			by := catalog.ObjectRef{Kind: catalog.KindView, Schema: s.Name, Name: v.Name}
			for _, o := range names.In(d, apart(v.Definition), s.Name) {
				if o == by {
					continue
				}
				v.Reads = append(v.Reads, o)
				if t := r.c.Table(catalog.Ref{Schema: o.Schema, Table: o.Name}); t != nil && v.Materialised {
					t.Dependants = append(t.Dependants, catalog.Dependant{Kind: "materialized view", Name: s.Name + "." + v.Name})
				}
			}
		}
		for _, f := range s.Routines {
			f.Touches = names.In(d, apart(f.Definition), s.Name)
		}
	}
}

// apart writes paths that are quoted as one, project.dataset.table, as their steps.
func apart(sql string) string {
	var b strings.Builder
	Engine{}.Dialect().Each(sql, func(t sqllex.Token) bool {
		if t.Kind == sqllex.Quoted && strings.Contains(t.Text, ".") {
			b.WriteString(strings.ReplaceAll(t.Text, ".", "`.`"))
		} else {
			b.WriteString(t.Text)
		}
		return true
	})
	return b.String()
}
