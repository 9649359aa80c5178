package catalog

import "time"

// statistics are the figures in a survey file, apart from the structure.
type statistics struct {
	Tables    []tableFigures    `json:"tables"`
	Sequences []sequenceFigures `json:"sequences,omitempty"`
}

type tableFigures struct {
	Schema     string                 `json:"schema"`
	Table      string                 `json:"table"`
	Rows       *int64                 `json:"rows,omitempty"`
	Exact      bool                   `json:"exact,omitempty"`
	DeadRows   *int64                 `json:"dead_rows,omitempty"`
	Bytes      *int64                 `json:"bytes,omitempty"`
	IndexBytes *int64                 `json:"index_bytes,omitempty"`
	Orphans    *int64                 `json:"orphans,omitempty"`
	Counter    *int64                 `json:"counter,omitempty"`
	Analysed   *time.Time             `json:"analysed,omitempty"`
	IndexOrder []string               `json:"index_order,omitempty"`
	Indexes    map[string]int64       `json:"indexes,omitempty"`    // bytes by index name
	Scans      map[string]int64       `json:"scans,omitempty"`      // times read by index name
	Partitions map[string]int64       `json:"partitions,omitempty"` // rows by name of a part that is no table
	Slices     []int64                `json:"slices,omitempty"`
	Unsorted   *float64               `json:"unsorted,omitempty"`
	Stale      *float64               `json:"stale,omitempty"`
	Parts      *int64                 `json:"parts,omitempty"` // partitions that the engine made
	Looked     *int64                 `json:"looked,omitempty"`
	LargestRow *int64                 `json:"largest_row,omitempty"`
	Columns    map[string]ColumnStats `json:"columns,omitempty"`
}

type sequenceFigures struct {
	Schema   string `json:"schema"`
	Sequence string `json:"sequence"`
	Last     int64  `json:"last"`
}

// known is a figure of all members of a list that have one, by name.
func known[T any](list []T, name func(T) string, figure func(T) **int64) map[string]int64 {
	var all map[string]int64
	for _, v := range list {
		if n := *figure(v); n != nil {
			if all == nil {
				all = map[string]int64{}
			}
			all[name(v)] = *n
		}
	}
	return all
}

// learn gives the figures back to the members of the list.
func learn[T any](list []T, name func(T) string, figure func(T) **int64, from map[string]int64) {
	for _, v := range list {
		if n, ok := from[name(v)]; ok {
			*figure(v) = &n
		}
	}
}

func indexName(x *Index) string          { return x.Name }
func indexBytes(x *Index) **int64        { return &x.Bytes }
func indexScans(x *Index) **int64        { return &x.Scans }
func partitionName(p *Partition) string  { return p.Name }
func partitionRows(p *Partition) **int64 { return &p.Rows }

// leaves lists the partitions that hold rows themselves.
func (t *Table) leaves() []*Partition {
	var all []*Partition
	for _, p := range t.Partitions {
		if len(p.Parts) == 0 {
			all = append(all, p)
		} else {
			all = append(all, p.Parts...)
		}
	}
	return all
}

func (c *Catalog) figures() *statistics {
	all := &statistics{Tables: []tableFigures{}}
	for _, s := range c.Schemas {
		for _, t := range s.Tables {
			f := tableFigures{Schema: t.Schema, Table: t.Name, Rows: t.Stats.Rows, Exact: t.Stats.Exact, DeadRows: t.Stats.DeadRows,
				Bytes: t.Stats.Bytes, IndexBytes: t.Stats.IndexBytes, Orphans: t.Stats.Orphans, Counter: t.Stats.Counter, Analysed: t.Stats.Analysed, IndexOrder: t.Stats.IndexOrder,
				Indexes: known(t.Indexes, indexName, indexBytes), Scans: known(t.Indexes, indexName, indexScans),
				Partitions: known(t.leaves(), partitionName, partitionRows), Slices: t.Stats.Slices, Unsorted: t.Stats.Unsorted, Stale: t.Stats.Stale, Parts: t.Stats.Parts, Looked: t.Stats.Looked, LargestRow: t.Stats.LargestRow}
			for _, col := range t.Columns {
				if col.Stats != (ColumnStats{}) {
					if f.Columns == nil {
						f.Columns = map[string]ColumnStats{}
					}
					f.Columns[col.Name] = col.Stats
				}
			}
			all.Tables = append(all.Tables, f)
		}
		for _, q := range s.Sequences {
			if q.Last != nil {
				all.Sequences = append(all.Sequences, sequenceFigures{s.Name, q.Name, *q.Last})
			}
		}
	}
	return all
}

func (c *Catalog) addFigures(s *statistics) {
	if s == nil {
		return
	}
	lookup := c.Lookup()
	for _, f := range s.Tables {
		t := lookup.Table(Ref{f.Schema, f.Table})
		if t == nil {
			continue
		}
		t.Stats = TableStats{Rows: f.Rows, Exact: f.Exact, DeadRows: f.DeadRows, Bytes: f.Bytes, IndexBytes: f.IndexBytes,
			Orphans: f.Orphans, Counter: f.Counter, Analysed: f.Analysed, IndexOrder: f.IndexOrder, Slices: f.Slices, Unsorted: f.Unsorted, Stale: f.Stale, Parts: f.Parts, Looked: f.Looked, LargestRow: f.LargestRow}
		learn(t.Indexes, indexName, indexBytes, f.Indexes)
		learn(t.Indexes, indexName, indexScans, f.Scans)
		learn(t.leaves(), partitionName, partitionRows, f.Partitions)
		for _, col := range t.Columns {
			col.Stats = f.Columns[col.Name]
		}
	}
	last := map[Ref]int64{}
	for _, f := range s.Sequences {
		last[Ref{f.Schema, f.Sequence}] = f.Last
	}
	for _, sc := range c.Schemas {
		for _, q := range sc.Sequences {
			if n, ok := last[Ref{sc.Name, q.Name}]; ok {
				q.Last = &n
			}
		}
	}
}
