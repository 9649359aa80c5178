package draw

import (
	"cmp"
	"container/heap"
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/text"
)

// Split cuts tables into groups of at most so many, by how tightly they hang together:
// the two groups that share most references for their size are joined, again and again,
// as long as they fit on one sheet. Tables that nothing ties are put together at the end.
func Split(c *catalog.Catalog, tables []catalog.Ref, most int) [][]catalog.Ref {
	if len(tables) <= most {
		return [][]catalog.Ref{tables}
	}
	group := map[catalog.Ref]int{}
	members := make([][]catalog.Ref, len(tables))
	for i, ref := range tables {
		group[ref], members[i] = i, []catalog.Ref{ref}
	}
	between := make([]map[int]int, len(tables))
	for i := range between {
		between[i] = map[int]int{}
	}
	lookup := c.Lookup()
	for _, ref := range tables {
		t := lookup.Table(ref)
		for _, f := range append(slices.Clone(t.ForeignKeys), t.Accepted...) {
			if to, ok := group[f.Target]; ok && to != group[ref] {
				between[group[ref]][to]++
				between[to][group[ref]]++
			}
		}
	}
	var ties tied
	tie := func(i, k int) {
		if size := len(members[i]) + len(members[k]); size <= most {
			heap.Push(&ties, bond{min(i, k), max(i, k), size, between[i][k], len(members[i]) * len(members[k])})
		}
	}
	for i := range between {
		for k := range between[i] {
			if i < k {
				tie(i, k)
			}
		}
	}
	for len(ties) > 0 {
		t := heap.Pop(&ties).(bond)
		a, b := t.a, t.b
		if len(members[a])+len(members[b]) != t.size || between[a][b] != t.shared {
			continue // one of them has grown, or is gone, since
		}
		members[a] = append(members[a], members[b]...)
		for k, n := range between[b] {
			delete(between[k], b)
			if k != a {
				between[a][k] += n
				between[k][a] += n
			}
		}
		members[b], between[b] = nil, nil
		for k := range between[a] {
			tie(a, k)
		}
	}
	members = slices.DeleteFunc(members, func(m []catalog.Ref) bool { return len(m) == 0 })
	slices.SortStableFunc(members, func(a, b []catalog.Ref) int { return len(b) - len(a) })
	// Small groups fill sheets together, in their order.
	var sheets [][]catalog.Ref
	var rest []catalog.Ref
	for _, m := range members {
		if len(m)*2 > most {
			sheets = append(sheets, m)
			continue
		}
		if len(rest)+len(m) > most {
			sheets = append(sheets, rest)
			rest = nil
		}
		rest = append(rest, m...)
	}
	if len(rest) > 0 {
		sheets = append(sheets, rest)
	}
	for _, s := range sheets {
		slices.SortFunc(s, catalog.Ref.Compare)
	}
	slices.SortStableFunc(sheets, func(a, b []catalog.Ref) int {
		return cmp.Or(cmp.Compare(len(b), len(a)), a[0].Compare(b[0]))
	})
	return sheets
}

// A bond is two groups that share references.
type bond struct {
	a, b    int // a < b
	size    int // of both together
	shared  int // references between them
	product int // of their sizes
}

// tied is a heap of pairs, those that share most references for their size first.
type tied []bond

func (h tied) Len() int      { return len(h) }
func (h tied) Swap(i, j int) { h[i], h[j] = h[j], h[i] }
func (h tied) Less(i, j int) bool {
	x, y := h[i], h[j]
	return cmp.Or(cmp.Compare(y.shared*x.product, x.shared*y.product), cmp.Compare(x.a, y.a), cmp.Compare(x.b, y.b)) < 0
}
func (h *tied) Push(x any) { *h = append(*h, x.(bond)) }
func (h *tied) Pop() any {
	last := (*h)[len(*h)-1]
	*h = (*h)[:len(*h)-1]
	return last
}

// Index draws one box for each sheet: all names on it, the one that most others of the
// sheet refer to in bold, and how many references lead to which other sheets.
func Index(c *catalog.Catalog, sheets [][]catalog.Ref, title string, link func(i int) string) *Scene {
	s := &Scene{Title: title}
	at := map[catalog.Ref]int{}
	several := false
	for i, refs := range sheets {
		for _, ref := range refs {
			at[ref] = i
			several = several || ref.Schema != sheets[0][0].Schema
		}
	}
	const across, wide = 4, 250.0
	lookup := c.Lookup()
	x, y, tall := margin, margin+30, 0.0
	for i, refs := range sheets {
		within, leaving := map[catalog.Ref]int{}, map[int]int{}
		for _, ref := range refs {
			for _, f := range lookup.Table(ref).ForeignKeys {
				if k, ok := at[f.Target]; ok && k == i {
					within[f.Target]++
				} else if ok {
					leaving[k]++
				}
			}
		}
		most := refs[0]
		for _, ref := range refs {
			if within[ref] > within[most] {
				most = ref
			}
		}
		b := Box{ID: fmt.Sprintf("sheet %d", i+1), Head: fmt.Sprintf("Sheet %d", i+1), Note: text.Plural(int64(len(refs)), "table"), Fill: "plain", Link: link(i), X: x, Y: y, W: wide}
		b.Tip = b.Head + ", around " + text.Line(most.Table)
		add := func(r Row) {
			r.Y = y + headHeight + (float64(len(b.Rows))+0.5)*rowHeight
			r.Name = fitted(r.Name, wide-2*boxPad, r.Strong)
			b.Rows = append(b.Rows, r)
		}
		for _, ref := range slices.SortedFunc(slices.Values(refs), catalog.Ref.Compare) {
			name := text.Line(ref.Table)
			if several {
				name = text.Line(ref.String())
			}
			add(Row{Name: name, Strong: ref == most && within[most] > 0})
		}
		for k := range sheets {
			if n := leaving[k]; n > 0 {
				add(Row{Name: fmt.Sprintf("%s to sheet %d", text.Plural(int64(n), "reference"), k+1), Faint: true})
			}
		}
		b.H = headHeight + float64(len(b.Rows))*rowHeight + 6
		s.Boxes = append(s.Boxes, b)
		tall = max(tall, b.H)
		s.W, s.H = max(s.W, x+b.W+margin), max(s.H, y+b.H+margin)
		if x += b.W + gapParts; (i+1)%across == 0 {
			x, y, tall = margin, y+tall+gapParts, 0
		}
	}
	return s
}
