package sqlite

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"os"
	"slices"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlite/ddltext"
)

// Counting rows and pages reads the file once; checking references looks up
// every row. Beyond these sizes a survey leaves them out and says so.
const (
	countUpTo = 1 << 30 // bytes of file
	checkUpTo = 64 << 20
)

// figures are rows and sizes by name of table or index.
type figures struct {
	pages   map[string]pages
	rows    map[string]int64   // as ANALYZE left them, by folded table
	variety map[string]float64 // different values of an index's first column, likewise, by index
	next    map[string]int64   // by folded table, where the engine remembers the last number
	orphans map[string]int64   // by folded table; nil: not counted
	// unfollowed are the tables whose references cannot be checked.
	unfollowed map[string]bool
	gaps       []catalog.Gap
	err        error
}

// pages are what one tree takes.
type pages struct{ bytes, leaves, inner int64 }

func newFigures() figures {
	return figures{pages: map[string]pages{}, rows: map[string]int64{}, next: map[string]int64{}, variety: map[string]float64{}, unfollowed: map[string]bool{}}
}

// gather counts; an error of its own is in the result.
func gather(ctx context.Context, conn *sql.Conn, file *os.File, objects []object) (f figures) {
	r := &reader{ctx: ctx, conn: conn}
	size := int64(0)
	if info, err := file.Stat(); err == nil {
		size = info.Size()
	}
	f = newFigures()
	gap := func(what string, err error) {
		f.gaps = append(f.gaps, catalog.Gap{Schema: "main", What: what, Reason: err.Error(), Figures: true})
	}
	if slices.ContainsFunc(objects, func(o object) bool { return o.name == "sqlite_stat1" }) {
		f.analysed(r.ask)
	}
	if slices.ContainsFunc(objects, func(o object) bool { return o.name == "sqlite_sequence" }) {
		f.counters(r.ask)
	}
	if size > countUpTo {
		gap("sizes and exact rows", errors.New("the file is over 1 GiB; ANALYZE gives estimates of rows"))
	} else if f.pages = walk(ctx, file, objects); f.pages == nil {
		f.pages = map[string]pages{}
		f.count(r.ask)
	}
	if size > checkUpTo {
		gap("rows without a parent", errors.New("the file is over 64 MiB, so its references were not followed"))
	} else if r.err == nil {
		f.orphans = map[string]int64{}
		filled := r.filled(f, objects)
		if err := r.follow(f, filled); err != nil && ctx.Err() == nil {
			// A reference that leads to no key cannot be checked, and stops the whole
			// question: the tables are asked one by one.
			for _, name := range filled {
				if err := r.follow(f, []string{name}); err != nil && ctx.Err() == nil {
					f.unfollowed[fold(name)] = true
					f.gaps = append(f.gaps, catalog.Gap{Schema: "main", Table: name, What: "rows without a parent", Reason: plainly(err), Figures: true})
				}
			}
		} else {
			r.err = err
		}
	}
	f.err = r.err
	return f
}

// filled are the tables that may have references and are not known to be empty.
func (r *reader) filled(f figures, objects []object) []string {
	var filled []string
	for _, o := range objects {
		p, counted := f.pages[o.name]
		if o.kind == "table" && (!counted || p.leaves+p.inner > 0) && strings.Contains(fold(o.text), "references") && !isVirtual(o.text) {
			filled = append(filled, o.name)
		}
	}
	return filled
}

// follow follows the references of the tables.
func (r *reader) follow(f figures, tables []string) error {
	if len(tables) == 0 {
		return nil
	}
	names := make([]string, len(tables))
	for i, name := range tables {
		names[i] = ddltext.Literal(name)
	}
	return r.try(fmt.Sprintf(orphansQuery, strings.Join(names, ", ")), f.orphan)
}

func (f figures) orphan(scan func(...any) error) error {
	var name string
	var n int64
	err := scan(&name, &n)
	f.orphans[fold(name)] = n
	return err
}

// walk counts in the file itself, and gives nil where that cannot be done or
// finds something odd: then the engine is asked, whose word is final.
func walk(ctx context.Context, file *os.File, objects []object) map[string]pages {
	t, err := openTrees(file)
	if err != nil {
		return nil
	}
	all := make(map[string]pages, len(objects))
	for _, o := range objects {
		if o.root == 0 {
			continue
		}
		p, err := t.count(o.root)
		if err != nil || ctx.Err() != nil {
			return nil
		}
		all[o.name] = p
	}
	return all
}

// pages asks the engine to count (https://www.sqlite.org/dbstat.html):
// each tree as a whole, and those of more than one page again by kind of page,
// since only leaves hold a table's rows.
func (f *figures) count(ask asker) {
	ask(treesQuery, func(scan func(...any) error) error {
		var name string
		var n int64
		var p pages
		err := scan(&name, &n, &p.bytes, &p.leaves)
		f.pages[name] = p
		return err
	})
	ask(cellsQuery, func(scan func(...any) error) error {
		var name string
		var leaves, inner int64
		err := scan(&name, &leaves, &inner)
		f.pages[name] = pages{f.pages[name].bytes, leaves, inner}
		return err
	})
}

// The questions for rows and sizes.
const (
	treesQuery = `SELECT name, pageno, pgsize, ncell FROM dbstat WHERE aggregate = TRUE`
	cellsQuery = `SELECT name, sum(CASE WHEN pagetype = 'leaf' THEN ncell ELSE 0 END), sum(CASE WHEN pagetype = 'internal' THEN ncell ELSE 0 END)
		FROM dbstat WHERE name IN (SELECT name FROM dbstat WHERE aggregate = TRUE AND pageno > 1) GROUP BY name`
	analysedQuery = `SELECT tbl, coalesce(idx, ''), coalesce(stat, '') FROM sqlite_stat1`
	countersQuery = `SELECT name, seq FROM sqlite_sequence WHERE typeof(seq) = 'integer'`
	orphansQuery  = `SELECT m.name, count(*) FROM sqlite_schema m JOIN pragma_foreign_key_check(m.name) k
		WHERE m.type = 'table' AND m.name IN (%s) GROUP BY m.name`
)

// analysed takes row counts from ANALYZE
// (https://www.sqlite.org/fileformat2.html#stat1tab), where it was run: the
// rows of an index, then how many of them share its first column's value.
func (f *figures) analysed(ask asker) {
	ask(analysedQuery, func(scan func(...any) error) error {
		var table, index, stat string
		if err := scan(&table, &index, &stat); err != nil {
			return err
		}
		words := strings.Fields(stat)
		if len(words) == 0 {
			return nil
		}
		n, err := strconv.ParseInt(words[0], 10, 64)
		if err == nil && n > f.rows[fold(table)] {
			f.rows[fold(table)] = n
		}
		if len(words) > 1 && err == nil {
			if alike, err := strconv.ParseFloat(words[1], 64); err == nil && alike > 0 {
				f.variety[index] = float64(n) / alike
			}
		}
		return nil
	})
}

// counters reads the numbers that AUTOINCREMENT gives next
// (https://www.sqlite.org/autoinc.html).
func (f *figures) counters(ask asker) {
	ask(countersQuery, func(scan func(...any) error) error {
		var table string
		var last int64
		err := scan(&table, &last)
		f.next[fold(table)] = last + 1
		return err
	})
}

// take puts the figures where they belong.
func (r *reader) take(f figures) {
	r.catalog.Gaps = append(r.catalog.Gaps, f.gaps...)
	for name, t := range r.tables {
		if n, ok := f.rows[name]; ok {
			t.Stats.Rows = &n
		}
		if p, ok := f.pages[t.Name]; ok {
			rows := p.leaves
			if t.Has(ddltext.WithoutRowid) {
				rows += p.inner // an index-organised tree keeps rows on inner pages too
			}
			t.Stats.Rows, t.Stats.Exact, t.Stats.Bytes = &rows, true, &p.bytes
		}
		if n, ok := f.next[name]; ok {
			t.Stats.Counter = &n
		}
		for _, x := range t.Indexes {
			if n, ok := f.variety[x.Name]; ok && len(x.Parts) > 0 && x.Predicate == "" {
				if c := t.Column(x.Parts[0].Column); c != nil {
					c.Stats.Distinct = &n
				}
			}
			p, ok := f.pages[x.Name]
			if !ok {
				continue
			}
			x.Bytes = &p.bytes
			sum := p.bytes
			if t.Stats.IndexBytes != nil {
				sum += *t.Stats.IndexBytes
			}
			t.Stats.IndexBytes = &sum
		}
		if f.orphans != nil && !f.unfollowed[name] && len(t.ForeignKeys) > 0 {
			n := f.orphans[name]
			t.Stats.Orphans = &n
		}
	}
}
