package catalog

import (
	"fmt"
	"slices"
	"strings"
	"time"
)

// Comparable returns a copy that holds structure alone, without what two
// equal structures may differ in: the date, the engine's own texts, and names
// that the engine picks by itself.
func (c *Catalog) Comparable() *Catalog {
	d := c.Clone()
	d.Surveyed, d.Faults = time.Time{}, nil
	for _, t := range d.Tables() { // while all names are still there
		for _, f := range t.ForeignKeys {
			if to := d.Table(f.Target); to != nil && f.TargetIndex != "" {
				if x := to.Index(f.TargetIndex); x != nil && x.SystemNamed {
					f.TargetIndex = byColumns(x)
				}
			}
		}
	}
	for _, t := range d.Tables() {
		t.Definition, t.NameText = "", ""
		t.Needs = nil      // follows from types, defaults and checks
		t.Dependants = nil // follows from views and the like
		t.dropRights()
		t.dropObserved()
		for _, c := range t.Columns {
			if c.Identity == IdentityAlways || c.Identity == IdentityByDefault {
				c.Sequence = nil // the engine names it
			}
			c.Stats = ColumnStats{}
		}
		t.Stats, t.Accepted = TableStats{}, nil
		for _, p := range t.Partitions {
			p.Rows = nil
			for _, part := range p.Parts {
				part.Rows = nil
			}
		}
		picked := map[string]string{}
		for _, x := range t.Indexes {
			x.Definition = ""
			x.Bytes, x.Scans = nil, nil
			if x.SystemNamed {
				name := byColumns(x)
				picked[x.Name] = name
				x.Name = name
			}
		}
		for _, k := range t.Keys() {
			if name, ok := picked[k.Index]; ok && k.Index != "" {
				k.Index = name
			}
		}
	}
	for _, s := range d.Schemas {
		s.dropRights()
		s.Sequences = slices.DeleteFunc(s.Sequences, func(q *Sequence) bool { return q.Identity })
		for _, v := range s.Views {
			v.Dependants = nil
			if v.Follows {
				v.Columns = nil
			}
			for _, c := range v.Columns {
				c.Type = "" // follows from what the view reads
			}
		}
		for _, f := range s.Routines {
			f.Touches = nil // the names in its text
		}
		for _, q := range s.Sequences {
			q.Last, q.UsedBy, q.Dependants = nil, nil, nil
		}
	}
	d.Sort()
	return d
}

// byColumns names an index by what it is on.
func byColumns(x *Index) string { return fmt.Sprintf("(%s)", strings.Join(x.Columns(), ", ")) }
