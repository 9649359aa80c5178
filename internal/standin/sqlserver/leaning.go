package sqlserver

import (
	"context"
	"slices"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/standin/grammar"
)

// What leans on tables besides keys and plain indexes: XML and spatial indexes, full-text indexes,
// policies, the tracking of changes.
type leaning struct {
	words    map[catalog.Ref]words
	tracked  map[catalog.Ref]bool
	policies []policy
}

// words is a full-text index.
type words struct {
	key     string
	columns []string
}

type policy struct {
	name, on            catalog.Ref
	predicate, kind, is string
}

// xmlIndex reads CREATE [PRIMARY] XML INDEX
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/create-xml-index-transact-sql).
func xmlIndex(primary bool) func(*client, context.Context, *grammar.Cursor) error {
	return func(s *client, ctx context.Context, c *grammar.Cursor) error {
		x := &catalog.Index{Name: c.Name(), Origin: catalog.ByPerson, Method: "xml"}
		t, p, err := s.ofColumn(c, x, "xml")
		if err != nil {
			return err
		}
		if primary {
			p.OpClass = "PRIMARY"
		} else {
			for _, word := range []string{"USING", "XML", "INDEX"} {
				c.Need(word)
			}
			under := t.Index(c.Name())
			c.Need("FOR")
			if under == nil || under.Method != "xml" || under.Parts[0].OpClass != "PRIMARY" || under.Parts[0].Column != p.Column {
				return refuse(6391, "Secondary XML index '%s' cannot be created: there is no such primary XML index on the column.", x.Name)
			}
			p.OpClass, p.Collation = strings.ToUpper(c.OneOf("VALUE", "PATH", "PROPERTY")), under.Name
		}
		return s.finished(ctx, c, t, x)
	}
}

// spatialIndex reads CREATE SPATIAL INDEX
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/create-spatial-index-transact-sql).
func (s *client) spatialIndex(ctx context.Context, c *grammar.Cursor) error {
	x := &catalog.Index{Name: c.Name(), Origin: catalog.ByPerson, Method: "spatial"}
	t, p, err := s.ofColumn(c, x, "geometry", "geography")
	if err != nil {
		return err
	}
	p.OpClass = strings.ToUpper(t.Column(p.Column).Type.Native) + "_AUTO_GRID"
	if c.Take("USING") {
		p.OpClass = strings.ToUpper(c.OneOf("GEOMETRY_AUTO_GRID", "GEOMETRY_GRID", "GEOGRAPHY_AUTO_GRID", "GEOGRAPHY_GRID"))
	}
	if !c.Take("WITH") {
		return s.finished(ctx, c, t, x)
	}
	c.List(func() {
		name := strings.ToUpper(c.Word())
		c.Need("=")
		if !c.Is("(") {
			x.Storage += name + " = " + c.Peek(0).Text + ", "
			c.Skip()
			return
		}
		var list []string
		c.List(func() {
			if strings.HasPrefix(strings.ToUpper(c.Peek(0).Text), "LEVEL_") {
				c.Skip()
				c.Need("=")
			}
			sign := ""
			if c.Take("-") {
				sign = "-"
			}
			list = append(list, sign+strings.ToUpper(c.Peek(0).Text))
			c.Skip()
		})
		x.Storage += name + " = (" + strings.Join(list, " ") + "), "
	})
	x.Storage = strings.TrimSuffix(x.Storage, ", ")
	if strings.HasPrefix(p.OpClass, "GEOMETRY") && option(x.Storage, "BOUNDING_BOX") == "" {
		return refuse(12016, "Creating a spatial index requires that the BOUNDING_BOX parameter be specified.")
	}
	return s.finished(ctx, c, t, x)
}

// ofColumn reads the one column of an index, which rests on a primary key that the rows lie by.
func (s *client) ofColumn(c *grammar.Cursor, x *catalog.Index, kinds ...string) (*catalog.Table, *catalog.IndexPart, error) {
	c.Need("ON")
	t, err := s.db.Table(c.Ref("dbo"))
	if err != nil {
		return nil, nil, err
	}
	columns := c.Names()
	col := t.Column(columns[0])
	clustered := t.Clustering()
	switch {
	case col == nil:
		return nil, nil, refuse(1911, "Column name '%s' does not exist in the target table or view.", columns[0])
	case !slices.Contains(kinds, col.Type.Native):
		return nil, nil, refuse(6350, "The definition for %s index '%s' is not valid for column '%s'.", x.Method, x.Name, col.Name)
	case clustered == nil || clustered.Origin != catalog.ByPrimaryKey:
		return nil, nil, refuse(6332, "Table '%s' needs to have a clustered primary key with less than 16 columns in it in order to create a primary XML index on it.", t.Name)
	case t.Index(x.Name) != nil:
		return nil, nil, refuse(1913, "The operation failed because an index or statistics with name '%s' already exists on table '%s'.", x.Name, t.Ref())
	}
	x.Parts = []catalog.IndexPart{{Column: col.Name}}
	return t, &x.Parts[0], nil
}

func (s *client) finished(ctx context.Context, c *grammar.Cursor, t *catalog.Table, x *catalog.Index) error {
	if x.Method == "xml" && c.Take("WITH") {
		x.Storage = s.options(c)
	}
	return s.AddIndex(ctx, t.Ref(), x)
}

// rests refuses to drop the primary key that XML and spatial indexes rest on.
func rests(t *catalog.Table, constraint string) error {
	if k := t.PrimaryKey; k != nil && k.Name == constraint && slices.ContainsFunc(t.Indexes, func(x *catalog.Index) bool { return x.Method == "xml" || x.Method == "spatial" }) {
		return refuse(3734, "Could not drop the primary key constraint '%s' because the table has an XML or spatial index.", constraint)
	}
	return nil
}

// under are the XML indexes that rest on the primary one, and go with it.
func under(t *catalog.Table, name string) []string {
	var all []string
	for _, x := range t.Indexes {
		if x.Method == "xml" && x.Parts[0].Collation == name {
			all = append(all, x.Name)
		}
	}
	return all
}

// createWords reads CREATE FULLTEXT INDEX
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/create-fulltext-index-transact-sql).
func (s *client) createWords(_ context.Context, c *grammar.Cursor) error {
	c.Need("ON")
	t, err := s.db.Table(c.Ref("dbo"))
	if err != nil {
		return err
	}
	var w words
	c.List(func() {
		w.columns = append(w.columns, c.Name())
		if c.Take("LANGUAGE") {
			c.Number()
		}
	})
	c.Need("KEY")
	c.Need("INDEX")
	w.key = c.Name()
	if x := t.Index(w.key); x == nil || !x.Unique || len(x.Parts) != 1 {
		return refuse(7653, "'%s' is not a valid index to enforce a full-text search key.", w.key)
	}
	s.db.more.words[t.Ref()] = w
	return nil
}

// createPolicy reads CREATE SECURITY POLICY; no rows are hidden here
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/create-security-policy-transact-sql).
func (s *client) createPolicy(_ context.Context, c *grammar.Cursor) error {
	name := c.Ref("dbo")
	var all []policy
	for c.Take("ADD") {
		p := policy{name: name, kind: strings.ToUpper(c.OneOf("FILTER", "BLOCK")), is: "1"}
		c.Need("PREDICATE")
		function := c.Ref("dbo")
		p.predicate = "[" + function.Schema + "].[" + function.Table + "](" + c.Bracketed() + ")"
		c.Need("ON")
		t, err := s.db.Table(c.Ref("dbo"))
		if err != nil {
			return err
		}
		p.on = t.Ref()
		all = append(all, p)
		c.Take(",")
	}
	if c.Take("WITH") {
		c.List(func() {
			c.Need("STATE")
			c.Need("=")
			if c.OneOf("ON", "OFF") == "OFF" {
				for i := range all {
					all[i].is = "0"
				}
			}
		})
	}
	s.db.more.policies = append(s.db.more.policies, all...)
	return nil
}

// maskedBy begins the option of a column whose values not everybody sees.
const maskedBy = "masked by "

func mask(c *catalog.Column) string {
	for _, o := range c.Options {
		if by, ok := strings.CutPrefix(o, maskedBy); ok {
			return by
		}
	}
	return ""
}

// leaning shows them.
func (sh *shower) leaning(t *catalog.Table, id, schema int) {
	more := sh.d.more
	for _, x := range t.Indexes {
		number := indexID(t, x)
		switch p := x.Parts; x.Method {
		case "xml":
			if p[0].OpClass == "PRIMARY" {
				sh.add("xml_indexes", id, number, nil, nil, 0)
			} else {
				sh.add("xml_indexes", id, number, indexID(t, t.Index(p[0].Collation)), p[0].OpClass, 1)
			}
		case "spatial":
			row := []any{id, number, p[0].OpClass}
			list := func(name string, n int) {
				values := strings.Fields(strings.Trim(option(x.Storage, name), "()"))
				for i := range n {
					if i < len(values) {
						row = append(row, values[i])
					} else {
						row = append(row, nil)
					}
				}
			}
			list("BOUNDING_BOX", 4)
			list("GRIDS", 4)
			cells, _ := strconv.Atoi(option(x.Storage, "CELLS_PER_OBJECT"))
			sh.add("spatial_index_tessellations", append(row, max(cells, 8))...)
		}
	}
	if w, ok := more.words[t.Ref()]; ok {
		sh.add("fulltext_indexes", id, indexID(t, t.Index(w.key)))
		for _, name := range w.columns {
			sh.add("fulltext_index_columns", id, columnID(t, name))
		}
	}
	if more.tracked[t.Ref()] {
		sh.add("change_tracking_tables", id)
	}
	for i, p := range more.policies {
		if p.on == t.Ref() {
			number := sh.d.id("policy", p.name.Schema, p.name.Table)
			if i == 0 || more.policies[i-1].name != p.name {
				sh.object("security_policies", object(number, p.name.Table, schema, 0, "SP", "SECURITY_POLICY"), p.is)
			}
			sh.add("security_predicates", number, i+1, id, p.predicate, p.kind)
		}
	}
}
