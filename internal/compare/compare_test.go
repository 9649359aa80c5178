package compare

import (
	"fmt"
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

var letters, number = catalog.Type{Native: "text", Family: catalog.Text}, catalog.Type{Native: "bigint", Family: catalog.Integer, Bits: 64}

func sample() *catalog.Catalog {
	c := &catalog.Catalog{Engine: catalog.Engine{Name: "one"}, Schemas: []*catalog.Schema{{Name: "s",
		Views: []*catalog.View{{Name: "v", Definition: "SELECT  1\n FROM x"}},
		Tables: []*catalog.Table{
			{Schema: "s", Name: "gauge", Kind: catalog.Ordinary, Definition: "(id)",
				Columns:     []*catalog.Column{{Name: "id", Type: number}, {Name: "code", Type: letters, Nullable: true, Default: "'x'"}},
				PrimaryKey:  &catalog.Key{Name: "gauge_pkey", Columns: []string{"id"}},
				UniqueKeys:  []*catalog.Key{{Columns: []string{"code"}}},
				ForeignKeys: []*catalog.ForeignKey{{Columns: []string{"code"}, Target: catalog.Ref{Schema: "s", Table: "station"}, TargetColumns: []string{"code"}, OnDelete: catalog.NoAction, OnUpdate: catalog.NoAction}},
				Checks:      []*catalog.Check{{Name: "c", Expression: "id > 0"}},
				Indexes:     []*catalog.Index{{Name: "i", Origin: catalog.ByPerson, Method: "btree", Parts: []catalog.IndexPart{{Column: "code"}}}, {Name: "auto", Origin: catalog.ByUniqueKey}},
				Triggers:    []*catalog.Trigger{{Name: "t", Definition: "x"}}},
			{Schema: "s", Name: "station", Kind: catalog.Ordinary, Columns: []*catalog.Column{{Name: "code", Type: letters}, {Name: "name", Type: letters}}},
		}}}}
	c.Sort()
	return c
}

// TestCatalogs: one change at a time, and what is said of it.
func TestCatalogs(t *testing.T) {
	gauge := func(c *catalog.Catalog) *catalog.Table { return c.Table(catalog.Ref{Schema: "s", Table: "gauge"}) }
	for _, c := range []struct {
		name  string
		alter func(*catalog.Catalog)
		o     Options
		want  string
	}{
		{"nothing", func(*catalog.Catalog) {}, Options{}, ""},
		{"what is no structure", func(c *catalog.Catalog) {
			c.Database = "other"
			gauge(c).Definition, gauge(c).Stats.Exact = "(ID)", true
			gauge(c).Indexes[0].Name = "auto2"
			c.Schemas[0].Views[0].Definition = "SELECT 1 FROM x"
		}, Options{}, ""},
		{"type", func(c *catalog.Catalog) { gauge(c).Columns[1].Type = number }, Options{}, "altered column s.gauge code [type: text>bigint]"},
		{"null and default", func(c *catalog.Catalog) { gauge(c).Columns[1].Nullable, gauge(c).Columns[1].Default = false, "" }, Options{}, "altered column s.gauge code [null: allowed>forbidden, default: 'x'>]"},
		{"column renamed", func(c *catalog.Catalog) { gauge(c).Columns[1].Name = "label" }, Options{}, "removed column s.gauge code []; added column s.gauge label [] (has the type of code, which is gone: a new name?)"},
		{"column order", func(c *catalog.Catalog) {
			x := gauge(c).Columns
			x[0], x[1] = x[1], x[0]
		}, Options{}, "altered table s.gauge gauge [order: id, code>code, id]"},
		{"column order left out", func(c *catalog.Catalog) {
			x := gauge(c).Columns
			x[0], x[1] = x[1], x[0]
		}, Options{Without: []string{"order"}}, ""},
		{"primary key gone", func(c *catalog.Catalog) { gauge(c).PrimaryKey = nil }, Options{}, "removed primary key s.gauge gauge_pkey [columns: (id)>]"},
		{"primary key renamed", func(c *catalog.Catalog) { gauge(c).PrimaryKey.Name = "pk" }, Options{}, "altered primary key s.gauge gauge_pkey [name: gauge_pkey>pk]"},
		{"names left out", func(c *catalog.Catalog) { gauge(c).PrimaryKey.Name = "pk" }, Options{Without: []string{"name"}}, ""},
		{"unnamed key named", func(c *catalog.Catalog) { gauge(c).UniqueKeys[0].Name = "u" }, Options{}, "altered unique key s.gauge (code) [name: >u]"},
		{"unnamed reference altered", func(c *catalog.Catalog) { gauge(c).ForeignKeys[0].OnDelete = catalog.Cascade }, Options{}, "altered foreign key s.gauge (code) [on delete: no action>cascade]"},
		{"check altered", func(c *catalog.Catalog) { gauge(c).Checks[0].Expression = "id > 1" }, Options{}, "altered check s.gauge c [condition: id > 0>id > 1]"},
		{"index renamed", func(c *catalog.Catalog) { gauge(c).Index("i").Name = "j" }, Options{}, "altered index s.gauge i [name: i>j]"},
		{"index altered", func(c *catalog.Catalog) { gauge(c).Index("i").Parts[0].Descending = true }, Options{}, "altered index s.gauge i [columns: (code)>(code desc)]"},
		{"indexes left out", func(c *catalog.Catalog) { gauge(c).Index("i").Parts[0].Descending = true }, Options{Without: []string{"index"}}, ""},
		{"trigger gone", func(c *catalog.Catalog) { gauge(c).Triggers = nil }, Options{}, "removed trigger s.gauge t [definition: x>]"},
		{"view altered", func(c *catalog.Catalog) { c.Schemas[0].Views[0].Definition = "SELECT 2" }, Options{}, "altered view s. v [definition: SELECT 1 FROM x>SELECT 2]"},
		{"comment", func(c *catalog.Catalog) { gauge(c).Comment = "x" }, Options{}, "altered table s.gauge gauge [comment: >x]"},
		{"table renamed", func(c *catalog.Catalog) { c.Table(catalog.Ref{Schema: "s", Table: "station"}).Name = "post" }, Options{}, "removed table s.station station [] (has the columns of post, which is new: its new name?); added table s.post post [] (has the columns of station, which is gone: a new name?)"},
		{"table left out", func(c *catalog.Catalog) { gauge(c).Columns[1].Type = number }, Options{Except: []string{"g*"}}, ""},
		{"schema renamed", func(c *catalog.Catalog) {
			c.Schemas[0].Name = "z"
			for _, t := range c.Schemas[0].Tables {
				t.Schema = "z"
				for _, f := range t.ForeignKeys {
					f.Target.Schema = "z"
				}
			}
		}, Options{}, "altered schema s. s [name: s>z]"},
		{"another engine", func(c *catalog.Catalog) {
			c.Engine.Name = "two"
			gauge(c).Columns[0].Type = catalog.Type{Native: "INTEGER", Family: catalog.Integer}
			gauge(c).Columns[1].Default = "CAST('x' AS text)"
		}, Options{}, ""},
		{"schema added", func(c *catalog.Catalog) {
			c.Schemas = append(c.Schemas, &catalog.Schema{Name: "z", Tables: []*catalog.Table{{Schema: "z", Name: "new"}}})
		}, Options{}, "added schema z. z []; added table z.new new []"},
	} {
		to := sample()
		c.alter(to)
		var got []string
		for _, d := range Catalogs(sample(), to, c.o) {
			var what []string
			for _, p := range d.What {
				what = append(what, fmt.Sprintf("%s: %s>%s", p.Name, p.From, p.To))
			}
			s := fmt.Sprintf("%s %s %s.%s %s [%s]", d.Kind, d.Object, d.Schema, d.Table, d.Name, strings.Join(what, ", "))
			if d.Hint != "" {
				s += " (" + d.Hint + ")"
			}
			got = append(got, s)
		}
		if strings.Join(got, "; ") != c.want {
			t.Errorf("%s:\n %s\n %s", c.name, strings.Join(got, "; "), c.want)
		}
	}
}
