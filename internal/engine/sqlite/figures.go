package sqlite

import (
	"errors"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
)

// Counting rows and pages reads the file once; checking references looks up
// every row. Beyond these sizes a survey leaves them out and says so.
const (
	countUpTo = 1 << 30 // bytes of file
	checkUpTo = 64 << 20
)

// figures reads rows and sizes: exactly, from the pages themselves
// (https://www.sqlite.org/dbstat.html), or as ANALYZE left them.
func (r *reader) figures(size int64) {
	indexes := map[string]*catalog.Index{}
	owner := map[string]*catalog.Table{}
	for _, t := range r.tables {
		for _, x := range t.Indexes {
			indexes[x.Name], owner[x.Name] = x, t
		}
	}
	r.analysed()
	if r.err != nil {
		return
	}
	if size > countUpTo {
		r.gap("", "sizes and exact rows", errors.New("the file is over 1 GiB; ANALYZE gives estimates of rows"))
		return
	}
	r.ask(`SELECT name, sum(pgsize), sum(CASE WHEN pagetype = 'leaf' THEN ncell ELSE 0 END), sum(CASE WHEN pagetype = 'internal' THEN ncell ELSE 0 END)
		FROM dbstat GROUP BY name`, func(scan func(...any) error) error {
		var name string
		var bytes, leaves, inner int64
		if err := scan(&name, &bytes, &leaves, &inner); err != nil {
			return err
		}
		if x := indexes[name]; x != nil {
			x.Bytes = &bytes
			t := owner[name]
			sum := bytes
			if t.Stats.IndexBytes != nil {
				sum += *t.Stats.IndexBytes
			}
			t.Stats.IndexBytes = &sum
			return nil
		}
		if t := r.tables[fold(name)]; t != nil {
			if t.Has(withoutRowid) {
				leaves += inner // an index-organised tree keeps rows on inner pages too
			}
			t.Stats.Rows, t.Stats.Exact, t.Stats.Bytes = &leaves, true, &bytes
		}
		return nil
	})
	r.orphans(size)
}

// analysed takes row counts from ANALYZE
// (https://www.sqlite.org/fileformat2.html#stat1tab), where it was run.
func (r *reader) analysed() {
	there := false
	r.ask(`SELECT 1 FROM sqlite_schema WHERE name = 'sqlite_stat1'`, func(scan func(...any) error) error { there = true; return nil })
	if !there {
		return
	}
	r.ask(`SELECT tbl, stat FROM sqlite_stat1`, func(scan func(...any) error) error {
		var table, stat string
		if err := scan(&table, &stat); err != nil {
			return err
		}
		first, _, _ := strings.Cut(stat, " ")
		n, err := strconv.ParseInt(first, 10, 64)
		if t := r.tables[fold(table)]; err == nil && t != nil && (t.Stats.Rows == nil || *t.Stats.Rows < n) {
			t.Stats.Rows = &n
		}
		return nil
	})
}

// orphans counts the rows that refer to nothing. A schema whose references
// lead to no key cannot be checked; the engine says which.
func (r *reader) orphans(size int64) {
	if r.err != nil {
		return
	}
	if size > checkUpTo {
		r.gap("", "rows without a parent", errors.New("the file is over 64 MiB, so its references were not followed"))
		return
	}
	for _, t := range r.tables {
		if len(t.ForeignKeys) > 0 {
			t.Stats.Orphans = new(int64)
		}
	}
	err := r.try(`SELECT "table", count(*) FROM pragma_foreign_key_check GROUP BY 1`, func(scan func(...any) error) error {
		var name string
		var n int64
		err := scan(&name, &n)
		if t := r.tables[fold(name)]; err == nil && t != nil {
			t.Stats.Orphans = &n
		}
		return err
	})
	if err != nil {
		if r.ctx.Err() != nil {
			r.err = err
			return
		}
		for _, t := range r.tables {
			t.Stats.Orphans = nil
		}
		r.gap("", "rows without a parent", err)
	}
}
