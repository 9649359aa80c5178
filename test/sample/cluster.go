package sample

import (
	"fmt"
	"math/rand/v2"
	"time"

	"nexdal/internal/catalog"
)

// Cluster makes a random schema of so many tables and references.
func Cluster(seed uint64, tables, references int) *catalog.Catalog {
	r := rand.New(rand.NewPCG(seed, 5))
	c := &catalog.Catalog{Engine: catalog.Engine{Name: "redshift", Version: "1.0"}, Settings: []catalog.Setting{{Name: "nodes", Value: "4"}, {Name: "slices", Value: "16"}}}
	s := &catalog.Schema{Name: "public"}
	number := catalog.Type{Native: "bigint", Family: catalog.Integer, Bits: 64}
	for i := range tables {
		rows := int64(10) << r.IntN(24)
		distinct := float64(rows)
		t := &catalog.Table{Schema: "public", Name: fmt.Sprintf("t%d", i), Kind: catalog.Ordinary, Spread: &catalog.Spread{Style: "even"}, Stats: catalog.TableStats{Rows: &rows},
			Columns: []*catalog.Column{{Name: "id", Type: number, Stats: catalog.ColumnStats{Distinct: &distinct}}}}
		s.Tables = append(s.Tables, t)
	}
	for n := range references {
		i := r.IntN(tables)
		to := r.IntN(tables)
		if to == i {
			continue
		}
		t := s.Tables[i]
		name := fmt.Sprintf("r%d", n)
		distinct, common := float64(min(*s.Tables[to].Stats.Rows, *t.Stats.Rows)), r.Float64()*r.Float64()*0.5
		t.Columns = append(t.Columns, &catalog.Column{Name: name, Type: number, Stats: catalog.ColumnStats{Distinct: &distinct, Common: &common}})
		t.ForeignKeys = append(t.ForeignKeys, &catalog.ForeignKey{Name: name, Columns: []string{name}, Target: s.Tables[to].Ref(), TargetColumns: []string{"id"}})
	}
	c.Schemas = []*catalog.Schema{s}
	return c
}

// Days makes a table that is partitioned by day, with so many partitions, each with the key
// and the index of the whole.
func Days(n int) *catalog.Catalog {
	number, moment := catalog.Type{Native: "bigint", Family: catalog.Integer, Bits: 64}, catalog.Type{Native: "timestamp with time zone", Family: catalog.Timestamp, Zoned: true}
	made := func(name, key, index string) *catalog.Table {
		rows, bytes := int64(240), int64(40_960)
		return &catalog.Table{Schema: "saltmere", Name: name, Kind: catalog.Ordinary, Stats: catalog.TableStats{Rows: &rows, Bytes: &bytes},
			Columns:    []*catalog.Column{{Name: "id", Type: number}, {Name: "taken_at", Type: moment}, {Name: "level_mm", Type: number}, {Name: "gauge_id", Type: number}, {Name: "note", Type: catalog.Type{Native: "text", Family: catalog.Text}, Nullable: true}},
			PrimaryKey: &catalog.Key{Name: key, Columns: []string{"id", "taken_at"}, Index: key},
			Indexes: []*catalog.Index{{Name: key, Origin: catalog.ByPrimaryKey, Unique: true, Method: "btree", Parts: []catalog.IndexPart{{Column: "id"}, {Column: "taken_at"}}},
				{Name: index, Method: "btree", Parts: []catalog.IndexPart{{Column: "taken_at"}}}}}
	}
	whole := made("reading", "reading_pkey", "reading_taken_at_idx")
	whole.PartitionBy = &catalog.PartitionKey{Method: "range", Columns: []string{"taken_at"}, Definition: "RANGE (taken_at)"}
	of := whole.Ref()
	s := &catalog.Schema{Name: "saltmere", Tables: []*catalog.Table{whole}}
	const layout = "2006-01-02 15:04:05-07"
	day := time.Date(2026, 12, 10, 0, 0, 0, 0, time.UTC).AddDate(0, 0, -n)
	for range n {
		name := "reading_" + day.Format("2006_01_02")
		t := made(name, name+"_pkey", name+"_taken_at_idx")
		t.PartitionOf, t.Bounds = &of, fmt.Sprintf("FOR VALUES FROM ('%s') TO ('%s')", day.Format(layout), day.AddDate(0, 0, 1).Format(layout))
		t.PrimaryKey.Index, t.Indexes[0].PartOf, t.Indexes[1].PartOf = name+"_pkey", "reading_pkey", "reading_taken_at_idx"
		for _, c := range t.Columns {
			c.Inherited = true
		}
		for _, x := range t.Indexes {
			x.Inherited = true
		}
		s.Tables = append(s.Tables, t)
		day = day.AddDate(0, 0, 1)
	}
	return &catalog.Catalog{Engine: catalog.Engine{Name: "postgres", Version: "15.0"}, Database: "saltmere", Schemas: []*catalog.Schema{s}}
}
