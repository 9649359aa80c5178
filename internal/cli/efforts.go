package cli

import (
	"cmp"
	"fmt"
	"io"
	"maps"
	"slices"
	"sync"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
	"nexdal/internal/text"
)

// An effort is what asking about a table took.
type effort struct {
	table     catalog.Ref
	questions int
	took      time.Duration
}

// efforts adds them up, of pieces that go on side by side.
type efforts struct {
	mutex sync.Mutex
	of    map[catalog.Ref]*effort
}

// piece is told when a piece of work begins. What is asked of several tables at once counts for
// each, and its time in equal shares.
func (e *efforts) piece(_ string, tables []*catalog.Table) func(questions int) {
	began := time.Now()
	return func(questions int) {
		e.mutex.Lock()
		defer e.mutex.Unlock()
		for _, t := range tables {
			x := e.of[t.Ref()]
			if x == nil {
				x = &effort{table: t.Ref()}
				e.of[t.Ref()] = x
			}
			x.questions, x.took = x.questions+questions, x.took+time.Since(began)/time.Duration(len(tables))
		}
	}
}

// tell lists the tables, the one that took longest first.
func (e *efforts) tell(w io.Writer, found *evidence.Evidence) {
	rows := map[catalog.Ref]int64{}
	for _, c := range found.Columns {
		rows[catalog.Ref{Schema: c.Schema, Table: c.Table}] = c.Rows
	}
	all := slices.SortedFunc(maps.Values(e.of), func(a, b *effort) int {
		return cmp.Or(cmp.Compare(b.took, a.took), a.table.Compare(b.table))
	})
	for _, x := range all {
		fmt.Fprintf(w, "%8.3f s %5d questions %12s rows  %s\n", x.took.Seconds(), x.questions, text.Amount(rows[x.table]), text.Line(x.table.String()))
	}
}
