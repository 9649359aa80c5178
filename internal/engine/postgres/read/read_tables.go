package read

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/postgres/traits"
)

var tableKinds = map[string]catalog.TableKind{"r": catalog.Ordinary, "p": catalog.Partitioned, "f": catalog.Foreign}

// relations reads tables, views and sequences.
func (r *reader) relations() {
	access := map[uint32]string{}
	r.ask(`SELECT oid, amname::text FROM pg_am WHERE amtype = 't' AND amname <> 'heap'`, named(access))
	// What a session changed and vacuumed, or analyzed, at once is counted as dead and changed for
	// good: the counters are told later. So they mean nothing right after it.
	// Asking for a size makes the engine gather all it knows of the relation; so
	// it is asked only where it has not noted one itself. Held is what somebody
	// holds so strongly that it could not be opened without waiting.
	bounds := map[uint32]bool{}
	r.ask(`SELECT c.oid, c.relnamespace, c.relname::text, c.relkind::text, c.relpersistence = 'u', c.relpartbound IS NOT NULL, c.reltuples::float8, c.relpages,
			c.relam, c.reltablespace, concat_ws(', ', array_to_string(c.reloptions, ', '), CASE WHEN x.reloptions IS NOT NULL THEN (SELECT string_agg('toast.' || o, ', ') FROM unnest(x.reloptions) o) END), c.relrowsecurity, c.relforcerowsecurity, c.relreplident::text,
			coalesce(CASE WHEN c.reloftype <> 0 THEN format_type(c.reloftype, -1) END, ''), CASE WHEN greatest(pg_stat_get_last_vacuum_time(c.oid), pg_stat_get_last_autovacuum_time(c.oid)) > now() - interval '1 minute' THEN 0 ELSE pg_stat_get_dead_tuples(c.oid) END,
			CASE WHEN greatest(pg_stat_get_last_analyze_time(c.oid), pg_stat_get_last_autoanalyze_time(c.oid)) > now() - interval '1 minute' THEN 0 ELSE pg_stat_get_mod_since_analyze(c.oid) END, pg_stat_get_tuples_updated(c.oid) + pg_stat_get_tuples_deleted(c.oid),
			greatest(pg_stat_get_last_analyze_time(c.oid), pg_stat_get_last_autoanalyze_time(c.oid))
		FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace LEFT JOIN pg_class x ON x.oid = c.reltoastrelid AND x.reloptions IS NOT NULL
		WHERE c.relkind IN ('r', 'p', 'f', 'v', 'm', 'S') AND c.relpersistence <> 't' AND `+ours,
		func(scan func(...any) error) error {
			var oid, space, method, tablespace uint32
			var name, kind, storage, identity, ofType string
			var unlogged, bounded, secured, forced bool
			var rows float64
			var pages, dead, since, replaced int64
			var looked *time.Time
			if err := scan(&oid, &space, &name, &kind, &unlogged, &bounded, &rows, &pages, &method, &tablespace, &storage, &secured, &forced, &identity, &ofType, &dead, &since, &replaced, &looked); err != nil {
				return err
			}
			schema := r.names[space]
			s := r.schemas[schema]
			if s == nil {
				return nil
			}
			o := object{class: classClass, oid: oid}
			comment, extension := r.comments[o], r.members[o]
			switch kind {
			case "v", "m":
				v := &catalog.View{Name: name, Materialised: kind == "m", Comment: comment, Extension: extension, Tablespace: r.spaces[tablespace]}
				if storage != "" {
					v.Options = append(v.Options, storage)
				}
				s.Views = append(s.Views, v)
				r.views[oid], r.things[o] = v, catalog.ObjectRef{Kind: catalog.KindView, Schema: schema, Name: name}
				return nil
			case "S":
				q := &catalog.Sequence{Name: name, Unlogged: unlogged, Comment: comment, Extension: extension}
				s.Sequences = append(s.Sequences, q)
				r.sequences[oid], r.things[o] = q, catalog.ObjectRef{Kind: catalog.KindSequence, Schema: schema, Name: name}
				return nil
			}
			t := &catalog.Table{Schema: schema, Name: name, Kind: tableKinds[kind], Comment: comment, Extension: extension, OfType: ofType,
				Storage: storage, Tablespace: r.spaces[tablespace]}
			for _, o := range []struct {
				is   bool
				name string
			}{{unlogged, "unlogged"}, {access[method] != "", "access method " + access[method]}, {ofType != "", "of a type"},
				{secured, "row security"}, {forced, "forced row security"},
				{identity == "f" && kind != "f", "replica identity full"}, {identity == "n" && kind != "f", "replica identity nothing"}} {
				if o.is {
					t.Options = append(t.Options, o.name)
				}
			}
			if r.held[oid] {
				r.gap(schema, name, "size, policies, and texts of indexes, checks and partitions", heldByOthers)
			}
			// Never vacuumed or analysed: -1 from version 14 on, 0 with no pages before.
			if rows > 0 || rows == 0 && (pages > 0 || r.version >= 140000) {
				n := int64(rows)
				t.Stats.Rows = &n
				r.analysed[oid] = true
			}
			if kind == "r" {
				t.Stats.DeadRows = &dead
				t.Stats.Stale = stale(t.Stats.Rows, since, replaced, looked)
			}
			if looked != nil {
				utc := looked.UTC().Truncate(time.Second)
				t.Stats.Analysed = &utc
			}
			switch size := pages * r.block; {
			case kind == "p":
			case kind == "f":
				t.Stats.Rows = nil
			case r.analysed[oid]:
				t.Stats.Bytes = &size
			case !r.held[oid]:
				r.unsized = append(r.unsized, oid)
			}
			bounds[oid] = bounded
			s.Tables = append(s.Tables, t)
			r.tables[oid], r.things[o] = t, catalog.ObjectRef{Kind: catalog.KindTable, Schema: schema, Name: name}
			return nil
		})
	r.texts(`SELECT oid, pg_get_expr(relpartbound, oid) FROM pg_class WHERE oid = ANY(%s)`, among{`SELECT oid FROM pg_class WHERE relpartbound IS NOT NULL`, chosen(bounds)}, r.tableThing, func(oid uint32, text string) {
		r.tables[oid].Bounds = text
	})
	r.servers()
}

// sizes asks for what the engine has not noted itself.
func (r *reader) sizes() question {
	return question{text: `SELECT oid, pg_relation_size(oid) FROM unnest(%s) oid`, of: &among{`SELECT oid FROM pg_class WHERE relkind IN ('r', 'm') AND reltuples <= 0 AND oid >= ` + own, r.unsized}}
}

func (r *reader) readSizes() {
	r.put(r.sizes(), func(v row) {
		if v[1] == nil {
			return // it went meanwhile
		}
		size := v.int(1)
		r.tables[v.oid(0)].Stats.Bytes = &size
	})
}

func (r *reader) tableThing(oid uint32) catalog.ObjectRef {
	return r.things[object{class: classClass, oid: oid}]
}

// chosen lists the oids that are true, in order.
func chosen(oids map[uint32]bool) []uint32 {
	var list []uint32
	for oid, yes := range oids {
		if yes {
			list = append(list, oid)
		}
	}
	slices.Sort(list)
	return list
}

// servers reads where foreign tables lie.
func (r *reader) servers() {
	r.ask(`SELECT f.ftrelid, s.srvname::text, `+fmt.Sprintf(openOptions, "f.ftoptions")+`
		FROM pg_foreign_table f JOIN pg_foreign_server s ON s.oid = f.ftserver`, func(scan func(...any) error) error {
		var oid uint32
		var server string
		var options []string
		err := scan(&oid, &server, &options)
		if t := r.tables[oid]; t != nil {
			t.Server = "SERVER " + traits.Ident(server) + foreignOptions(options)
			t.Needs = append(t.Needs, catalog.ObjectRef{Kind: "server", Name: server})
		}
		return err
	})
}

func foreignOptions(options []string) string {
	if len(options) == 0 {
		return ""
	}
	return " OPTIONS (" + strings.Join(options, ", ") + ")"
}

// kinship reads which table is a part or an heir of which.
func (r *reader) kinship() {
	pending := "false"
	if r.version >= 140000 {
		pending = "i.inhdetachpending"
	}
	r.ask(`SELECT i.inhrelid, i.inhparent, `+pending+` FROM pg_inherits i JOIN pg_class c ON c.oid = i.inhrelid WHERE c.relkind IN ('r', 'p', 'f') ORDER BY i.inhrelid, i.inhseqno`,
		func(scan func(...any) error) error {
			var child, parent uint32
			var pending bool
			if err := scan(&child, &parent, &pending); err != nil {
				return err
			}
			t, p := r.tables[child], r.tables[parent]
			if t == nil || p == nil {
				return nil
			}
			if pending {
				r.gap(t.Schema, t.Name, "place among the partitions", "its detaching from "+p.Name+" was begun and never finished: ALTER TABLE ... DETACH PARTITION ... FINALIZE")
			}
			ref := p.Ref()
			if p.Kind == catalog.Partitioned {
				t.PartitionOf = &ref
			} else {
				t.Inherits = append(t.Inherits, ref)
			}
			return nil
		})
}

// partitionKeys reads how the partitioned tables are cut up.
func (r *reader) partitionKeys() {
	r.ask(`SELECT partrelid, partstrat::text, partattrs::int2[], pg_get_partkeydef(partrelid) FROM pg_partitioned_table`,
		func(scan func(...any) error) error {
			var oid uint32
			var method, definition string
			var columns []int64
			if err := scan(&oid, &method, &columns, &definition); err != nil {
				return err
			}
			if t := r.tables[oid]; t != nil {
				t.PartitionBy = &catalog.PartitionKey{Definition: definition, Method: map[string]string{"r": "range", "l": "list", "h": "hash"}[method],
					Columns: r.columnNames(oid, columns)}
			}
			return nil
		})
}

// sumPartitions gives each partitioned table the figures of its partitions
// together, once all of them are known.
func (r *reader) sumPartitions() {
	lookup := r.catalog.Lookup()
	var sum func(t *catalog.Table) catalog.TableStats
	sum = func(t *catalog.Table) catalog.TableStats {
		if t.Kind != catalog.Partitioned {
			return t.Stats
		}
		var rows, bytes, index int64
		known := true
		for _, p := range lookup.Partitions(t.Ref()) {
			s := sum(p)
			known = known && s.Rows != nil
			add(&rows, s.Rows)
			add(&bytes, s.Bytes)
			add(&index, s.IndexBytes)
		}
		t.Stats = catalog.TableStats{Bytes: &bytes, IndexBytes: &index}
		if known {
			t.Stats.Rows = &rows
		}
		return t.Stats
	}
	for _, t := range r.catalog.Tables() {
		if t.PartitionOf == nil {
			sum(t)
		}
	}
}

func add(sum *int64, more *int64) {
	if more != nil {
		*sum += *more
	}
}

// stale is the share of rows that changed since the engine looked at their values; nil: it never
// did, or they only grew, which it takes into account by the table's size. The counters are told
// late: what a session loads and analyzes at once may be counted as changed since
// (https://www.postgresql.org/docs/current/monitoring-stats.html).
func stale(rows *int64, since, replaced int64, looked *time.Time) *float64 {
	if rows == nil || *rows == 0 || looked == nil || 2*replaced < since {
		return nil
	}
	share := min(1, float64(since)/float64(*rows))
	return &share
}
