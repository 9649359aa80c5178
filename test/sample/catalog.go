package sample

import (
	"fmt"
	"math/rand/v2"

	"nexdal/internal/catalog"
)

// Catalog makes a structure of so many tables in the given schemas that refer to one
// another as tables do: mostly to a few that many refer to, some to themselves, some in
// rings; the same for the same seed. It returns the tables' names in the order in which
// they were made.
func Catalog(seed uint64, n int, schemas ...string) (*catalog.Catalog, []catalog.Ref) {
	r := rand.New(rand.NewPCG(seed, 11))
	number := catalog.Type{Native: "bigint", Family: catalog.Integer, Bits: 64}
	c := &catalog.Catalog{Engine: catalog.Engine{Name: "postgres", Version: "15.0"}, Database: "saltmere"}
	if len(schemas) == 0 {
		schemas = []string{"public"}
	}
	for _, s := range schemas {
		c.Schemas = append(c.Schemas, &catalog.Schema{Name: s})
	}
	var refs []catalog.Ref
	refer := func(t *catalog.Table, name string, to catalog.Ref) {
		t.Columns = append(t.Columns, &catalog.Column{Name: name, Type: number, Nullable: r.IntN(2) == 0})
		t.ForeignKeys = append(t.ForeignKeys, &catalog.ForeignKey{Name: fmt.Sprintf("%s_%s_fkey", t.Name, name), Columns: []string{name}, Target: to, TargetColumns: []string{"id"}, OnDelete: catalog.NoAction, OnUpdate: catalog.NoAction})
	}
	for i := range n {
		s := c.Schemas[i%len(c.Schemas)]
		t := &catalog.Table{Schema: s.Name, Name: fmt.Sprintf("%s_%d", []string{"station", "gauge", "a<b>&\"c", "visit", "änderung_mit_einem_sehr_langen_namen"}[r.IntN(5)], i), Kind: catalog.Ordinary,
			Columns: []*catalog.Column{{Name: "id", Type: number}}}
		t.PrimaryKey = &catalog.Key{Name: t.Name + "_pkey", Columns: []string{"id"}, Index: t.Name + "_pkey"}
		t.Indexes = []*catalog.Index{{Name: t.Name + "_pkey", Origin: catalog.ByPrimaryKey, Unique: true, Method: "btree", Parts: []catalog.IndexPart{{Column: "id"}}}}
		rows, bytes := int64(r.IntN(1_000_000)), int64(r.IntN(100_000_000))
		t.Stats = catalog.TableStats{Rows: &rows, Bytes: &bytes}
		for k := range r.IntN(9) {
			t.Columns = append(t.Columns, &catalog.Column{Name: fmt.Sprintf("c%d", k), Type: catalog.Type{Native: []string{"text", "timestamp with time zone", "numeric(10,2)"}[r.IntN(3)], Family: []catalog.Family{catalog.Text, catalog.Timestamp, catalog.Decimal}[r.IntN(3)]}, Nullable: r.IntN(2) == 0})
		}
		s.Tables = append(s.Tables, t)
		refs = append(refs, t.Ref())
		for k := range r.IntN(4) {
			to := refs[r.IntN(len(refs))]
			if r.IntN(8) == 0 {
				to = refs[0]
			}
			refer(t, fmt.Sprintf("r%d", k), to)
		}
	}
	for range n / 10 { // some rings
		a := c.Table(refs[r.IntN(n)])
		refer(a, fmt.Sprintf("ring%d", len(a.Columns)), refs[r.IntN(n)])
	}
	return c, refs
}
