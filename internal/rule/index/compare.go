// Package index holds the rules on indexes.
package index

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// alike reports whether two indexes serve the same searches: same method,
// parts, predicate and carried columns. Whether they are unique is left aside.
func alike(a, b *catalog.Index) bool {
	return a.Method == b.Method && a.Predicate == b.Predicate && slices.Equal(a.Parts, b.Parts) && catalog.SameColumns(a.Include, b.Include)
}

// covers reports whether every search that the narrow index serves is served
// by the wide one too: the same beginning, read forwards or backwards, over
// the same rows, with the carried columns on board.
func covers(wide, narrow *catalog.Index, can catalog.Abilities) bool {
	if wide.Method != narrow.Method || wide.Method != "btree" || wide.Predicate != narrow.Predicate || len(wide.Parts) < len(narrow.Parts) {
		return false
	}
	begin := slices.Clone(wide.Parts[:len(narrow.Parts)])
	if last, n := len(begin)-1, narrow.Parts[len(narrow.Parts)-1].Length; n > 0 && (begin[last].Length == 0 || begin[last].Length > n) {
		begin[last].Length = n // more letters, or all, find what fewer do
	}
	if !slices.Equal(begin, narrow.Parts) && (can.IndexesOneWay || !slices.Equal(turned(begin), narrow.Parts)) {
		return false
	}
	aboard := append(slices.Clone(wide.Include), wide.Columns()...)
	return catalog.Within(narrow.Include, aboard)
}

// turned gives the order that reading the index backwards yields.
func turned(parts []catalog.IndexPart) []catalog.IndexPart {
	back := slices.Clone(parts)
	for i := range back {
		back[i].Descending = !back[i].Descending
	}
	return back
}

// shown writes the parts of an index for a message.
func shown(x *catalog.Index) string {
	parts := make([]string, len(x.Parts))
	for i, p := range x.Parts {
		parts[i] = p.Column
		if p.Column == "" {
			parts[i] = p.Expression
		}
		if p.Length > 0 {
			parts[i] += fmt.Sprintf("(%d)", p.Length)
		}
		if p.Descending {
			parts[i] += " desc"
		}
	}
	return "(" + strings.Join(parts, ", ") + ")"
}

// loose reports whether the index stands behind no key. One that the engine
// made for a foreign key is loose: another that begins alike serves as well.
func loose(x *catalog.Index) bool {
	return x.Origin == catalog.ByPerson || x.Origin == catalog.ByForeignKey
}

// droppable reports whether the index may be dropped as far as it itself is
// concerned: loose, not a share of another, and not pinned.
func droppable(x *catalog.Index) bool {
	return loose(x) && !x.Inherited && x.Pinned == ""
}

// free reports whether a valid index may be dropped as far as it itself is concerned.
func free(x *catalog.Index) bool { return droppable(x) && !x.Invalid }

// leanedOn returns the names of unique indexes that foreign keys are checked
// against; dropping one would drop the foreign keys.
func leanedOn(l *catalog.Lookup, t *catalog.Table) map[string]bool {
	on := map[string]bool{}
	for _, r := range l.Referrers(t.Ref()) {
		on[r.ForeignKey.TargetIndex] = true
	}
	delete(on, "")
	return on
}
