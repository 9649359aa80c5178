package write

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlserver/traits"
)

// PartBounds are those of a part, counted from 1, of what is cut at the values
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/create-partition-function-transact-sql).
func PartBounds(right bool, values []string, number int) string {
	at := func(i int) string {
		if i < 0 || i >= len(values) {
			return ""
		}
		return values[i]
	}
	return between(right, at(number-2), at(number-1))
}

// between are the bounds of a part from one value to another; empty: it has none.
func between(right bool, low, high string) string {
	from, to := ">= ", "< "
	if !right {
		from, to = "> ", "<= "
	}
	var parts []string
	if low != "" {
		parts = append(parts, from+low)
	}
	if high != "" {
		parts = append(parts, to+high)
	}
	return strings.Join(parts, " AND ")
}

func lower(b catalog.Bound) string {
	if b.Least {
		return ""
	}
	return b.Text
}

func upper(b catalog.Bound) string {
	if b.Greatest {
		return ""
	}
	return b.Text
}

// FunctionText is the statement that makes a partition function.
func FunctionText(name, native string, right bool, values []string) string {
	side := "LEFT"
	if right {
		side = "RIGHT"
	}
	return fmt.Sprintf("CREATE PARTITION FUNCTION %s (%s) AS RANGE %s FOR VALUES (%s)", traits.Ident(name), native, side, strings.Join(values, ", "))
}

// A function is what cuts tables up, taken from its text.
type function struct {
	name, native string
	right        bool
	values       []string
}

// functionOf reads the text of a partition function, as functionText writes it.
func functionOf(o *catalog.Object) (f function, ok bool) {
	head, list, found := strings.Cut(o.Definition, " FOR VALUES (")
	_, rest, typed := strings.Cut(head, traits.Ident(o.Name)+" (")
	native, side, sided := strings.Cut(rest, ") AS RANGE ")
	if !found || !typed || !sided {
		return f, false
	}
	f = function{name: o.Name, native: native, right: side == "RIGHT"}
	value := ""
	for _, t := range (Writer{}).Dialect().Tokens(strings.TrimSuffix(list, ")")) {
		if t.Is(",") {
			f.values, value = append(f.values, strings.TrimSpace(value)), ""
			continue
		}
		value += t.Text
	}
	if value != "" {
		f.values = append(f.values, strings.TrimSpace(value))
	}
	return f, true
}

// parts are those of a table that the function cuts up.
func (f function) parts() []*catalog.Partition {
	all := make([]*catalog.Partition, len(f.values)+1)
	for i := range all {
		all[i] = &catalog.Partition{Name: fmt.Sprint(i + 1), Bounds: PartBounds(f.right, f.values, i+1)}
	}
	return all
}

// schemeOf is the name of the scheme that a table or an index lies on.
func schemeOf(place string) string {
	for _, t := range (Writer{}).Dialect().Tokens(place) {
		return t.Name()
	}
	return ""
}

func object(c *catalog.Catalog, kind, name string) *catalog.Object {
	if i := slices.IndexFunc(c.Objects, func(o *catalog.Object) bool { return o.Kind == kind && o.Name == name }); i >= 0 {
		return c.Objects[i]
	}
	return nil
}

// Kinds of objects by which tables are cut up.
const (
	KindFunction = "partition function"
	KindScheme   = "partition scheme"
)

// boundaries are those of the function behind the table's scheme, and all tables that it cuts up;
// of a plain table they are those of a function that is to be made.
func boundaries(c *catalog.Catalog, t *catalog.Table) *catalog.Boundaries {
	name := schemeOf(t.PartitionBy.Definition)
	scheme := object(c, KindScheme, name)
	if own := c.Table(t.Ref()); own == nil || own.PartitionBy == nil {
		return newBoundaries(c, t, name)
	}
	if scheme == nil || len(scheme.Needs) == 0 {
		return nil
	}
	o := object(c, KindFunction, scheme.Needs[0].Name)
	if o == nil {
		return nil
	}
	f, ok := functionOf(o)
	if !ok {
		return nil
	}
	b := &catalog.Boundaries{Object: f.name, Values: f.values, Place: t.PartitionBy.Definition, At: f.at}
	for _, s := range schemesOf(c, f.name) {
		if !strings.Contains(s.Definition, " ALL TO (") {
			b.Refused = fmt.Sprintf("partition scheme %s lays parts in several filegroups: which of them takes a new one is yours to say", s.Name)
		}
	}
	for _, other := range c.Tables() {
		if other.PartitionBy == nil {
			continue
		}
		if s := object(c, KindScheme, schemeOf(other.PartitionBy.Definition)); s != nil && slices.ContainsFunc(s.Needs, func(n catalog.ObjectRef) bool { return n.Name == f.name }) {
			b.Tables = append(b.Tables, other.Ref())
			if why := special(other); why != "" {
				b.Refused = fmt.Sprintf("%s is cut up by the same function, and %s", other.Ref(), why)
			}
		}
	}
	return b
}

// schemesOf are those that lay out the parts of a function.
func schemesOf(c *catalog.Catalog, function string) (all []*catalog.Object) {
	for _, o := range c.Objects {
		if o.Kind == KindScheme && slices.ContainsFunc(o.Needs, func(n catalog.ObjectRef) bool { return n.Name == function }) {
			all = append(all, o)
		}
	}
	return all
}

// newBoundaries are for a table that is not cut up yet: function and scheme share a name.
func newBoundaries(c *catalog.Catalog, t *catalog.Table, name string) *catalog.Boundaries {
	group := t.Tablespace
	if group == "" {
		group = "PRIMARY"
	}
	f := function{name: name, native: t.Column(t.PartitionBy.Columns[0]).Type.Native, right: true}
	b := &catalog.Boundaries{Object: name, Place: t.PartitionBy.Definition, At: f.at, Objects: []*catalog.Object{
		{Kind: KindFunction, Name: name},
		{Kind: KindScheme, Name: name, Definition: fmt.Sprintf("CREATE PARTITION SCHEME %s AS PARTITION %[1]s ALL TO (%s)", traits.Ident(name), traits.Bracket(group)), Needs: []catalog.ObjectRef{{Kind: KindFunction, Name: name}}},
	}}
	if object(c, KindFunction, name) != nil || object(c, KindScheme, name) != nil {
		b.Refused = fmt.Sprintf("a partition function or scheme called %s is there already", name)
	}
	return b
}

// at is the function, and its parts, with other values.
func (f function) at(values []string) (definition string, parts []*catalog.Partition) {
	f.values = values
	return FunctionText(f.name, f.native, f.right, values), f.parts()
}

// rangeKey cuts at days and moments that are in no time zone: what a value in one compares with
// is not told by its text.
func rangeKey(t *catalog.Table, column string) (*catalog.PartitionKey, catalog.Bound) {
	c := t.Column(column)
	if c.Type.Family != catalog.Date && c.Type.Family != catalog.Timestamp || c.Type.Zoned || c.Generated != "" && !c.Stored {
		return nil, catalog.Bound{}
	}
	return &catalog.PartitionKey{Method: "range", Columns: []string{column}, Definition: traits.Ident(traits.CutName(t.Name+"_by_"+column)) + "(" + traits.Ident(column) + ")"}, catalog.Bound{}
}

// boundAt is a moment as the server gives it back: a day, or with the time in whole seconds.
func boundAt(t *catalog.Table, at time.Time, _ catalog.Bound) catalog.Bound {
	layout := time.DateTime
	if c := t.Column(t.PartitionBy.Columns[0]); c != nil && c.Type.Family == catalog.Date {
		layout = time.DateOnly
	}
	return catalog.Bound{Text: "'" + at.Format(layout) + "'", At: &at}
}
