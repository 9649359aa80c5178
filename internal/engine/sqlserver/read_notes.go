package sqlserver

import (
	"fmt"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/sqlserver/traits"
)

// The classes of sys.extended_properties.
const (
	ofDatabase = 0
	ofObject   = 1
	ofSchema   = 3
	ofType     = 6
	ofIndex    = 7
)

func (r *reader) comments() {
	r.ask(askComments, func(w *capture.Fields) {
		class, major, minor, name, value := w.Number(), w.Text(), w.Text(), w.Text(), w.Text()
		if name != traits.Description {
			r.other(class, major, minor, name)
			return
		}
		switch class {
		case ofSchema:
			if s := r.schema(major); s != nil {
				s.Comment = value
			}
		case ofIndex:
			if x := r.indexes[[2]string{major, minor}]; x != nil {
				x.Comment = value
			}
		case ofObject:
			r.comment(major, minor, value)
		}
	})
}

func (r *reader) comment(major, minor, value string) {
	if t := r.tables[major]; t != nil {
		if minor == "0" {
			t.Comment = value
		} else if c := t.Column(r.columns[major][minor]); c != nil {
			c.Comment = value
		}
		return
	}
	if v := r.views[major]; v != nil && minor == "0" {
		v.Comment = value
	}
	if f := r.routines[major]; f != nil && minor == "0" {
		f.Comment = value
	}
	if q := r.sequences[major]; q != nil {
		q.Comment = value
	}
	if f := r.keys[major]; f != nil {
		f.Comment = value
	}
	if k := r.checks[major]; k != nil {
		k.Comment = value
	}
	if k := r.uniques[major]; k != nil {
		k.Comment = value
	}
	if g := r.triggers[major]; g != nil {
		g.Comment = value
	}
}

// other notes that a thing has properties which are not comments.
func (r *reader) other(class int, major, minor, name string) {
	if t := r.tables[major]; class == ofObject && t != nil {
		r.gap(t.Schema, t.Name, "extended property "+name, "only "+traits.Description+" is read")
		return
	}
	if class != ofDatabase {
		r.gap("", "", fmt.Sprintf("extended property %s of class %d", name, class), "only "+traits.Description+" is read")
	}
}

// statistics: those that a person made lean on their columns; the age is that of the oldest.
func (r *reader) statistics() {
	type own struct {
		table   *catalog.Table
		columns []string
		more    string
	}
	made := map[string]*own{}
	var order []string
	r.ask(askStatistics, func(w *capture.Fields) {
		object, _, name := w.Text(), w.Text(), w.Text()
		byPerson, fixed, filter := w.Is("1"), w.Is("1"), plain(w.Text())
		column, updated := w.Text(), w.Text()
		t := r.tables[object]
		if t == nil {
			return
		}
		if byPerson {
			lean(&t.Dependants, "statistics", name, r.columns[object][column])
			key := object + "." + name
			if made[key] == nil {
				made[key] = &own{table: t}
				order = append(order, key)
			}
			of := made[key]
			of.columns = append(of.columns, r.columns[object][column])
			if of.more = ""; filter != "" {
				of.more = " WHERE " + filter
			}
			if fixed {
				of.more += " WITH NORECOMPUTE"
			}
		}
		if at, err := time.Parse("2006-01-02T15:04:05.999999999", updated); err == nil && (t.Stats.Analysed == nil || at.Before(*t.Stats.Analysed)) {
			t.Stats.Analysed = &at
		}
	})
	for _, key := range order {
		of := made[key]
		_, name, _ := strings.Cut(key, ".")
		of.table.Objects = append(of.table.Objects, &catalog.Object{Kind: "statistics", Name: name,
			Definition: fmt.Sprintf("CREATE STATISTICS %s ON %s (%s)%s", traits.Ident(name), traits.Relation(of.table.Ref()), traits.Idents(of.columns), of.more)})
	}
}

func (r *reader) grants() {
	r.ask(askGrants, func(w *capture.Fields) {
		class, major, minor := w.Number(), w.Text(), w.Text()
		g := catalog.Grant{To: w.Text()}
		by := w.Text()
		if g.What = w.Text(); by != "dbo" {
			g.By = by
		}
		switch state := strings.TrimSpace(w.Text()); state {
		case "D":
			g.What = "DENY " + g.What
		case "W":
			g.Grantable = true
		}
		if minor != "0" {
			g.Column = r.columns[major][minor]
		}
		var to *catalog.Rights
		if class == ofSchema {
			if s := r.schema(major); s != nil {
				to = &s.Rights
			}
		} else if t := r.tables[major]; t != nil {
			to = &t.Rights
		} else if v := r.views[major]; v != nil {
			to = &v.Rights
		} else if f := r.routines[major]; f != nil {
			to = &f.Rights
		} else if q := r.sequences[major]; q != nil {
			to = &q.Rights
		}
		if to != nil {
			to.Granted = true
			to.Grants = append(to.Grants, g)
		}
	})
}

// pageBytes is what a page takes.
const pageBytes = 8192

func (r *reader) sizes() {
	r.figures("sizes", "VIEW DATABASE STATE", askSizes, func(w *capture.Fields) {
		object, index := w.Text(), w.Text()
		rows, pages := w.Big(), w.Big()
		t := r.tables[object]
		if t == nil || pages == nil {
			return
		}
		bytes := *pages * pageBytes
		if x := r.indexes[[2]string{object, index}]; x != nil {
			x.Bytes = &bytes
		}
		if index == "0" || index == "1" {
			t.Stats.Bytes, t.Stats.Rows = &bytes, rows
			if t.Stats.IndexBytes == nil {
				t.Stats.IndexBytes = new(int64)
			}
			return
		}
		if t.Stats.IndexBytes == nil {
			t.Stats.IndexBytes = new(int64)
		}
		*t.Stats.IndexBytes += bytes
	})
}

// usage: the server counts since it started, and lists what was read at least once.
func (r *reader) usage() {
	reads := map[[2]string]*int64{}
	told := r.figures("how often indexes were read", "VIEW SERVER STATE", askUsage, func(w *capture.Fields) { reads[[2]string{w.Text(), w.Text()}] = w.Big() })
	told = told && r.figures("since when reads are counted", "VIEW SERVER STATE", askStarted, func(w *capture.Fields) {
		if n := w.Big(); n != nil {
			r.c.Settings = append(r.c.Settings, catalog.Setting{Name: "statistics_since", Value: r.c.Surveyed.Add(-time.Duration(*n) * time.Minute).Truncate(time.Minute).Format(time.RFC3339)})
		}
	})
	if !told {
		return
	}
	for at, x := range r.indexes {
		if x.Scans = reads[at]; x.Scans == nil {
			x.Scans = new(int64)
		}
	}
}

// settle is what can be said once everything was read.
func (r *reader) settle() {
	for t, p := range r.placed {
		if p.scheme != "" && t.PartitionBy == nil {
			r.gap(t.Schema, t.Name, "partitions", "its partition scheme was not read")
		}
	}
}
