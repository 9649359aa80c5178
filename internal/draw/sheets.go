package draw

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
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
		for _, f := range append(slices.Clone(t.ForeignKeys), t.Logical...) {
			if to, ok := group[f.Target]; ok && to != group[ref] {
				between[group[ref]][to]++
				between[to][group[ref]]++
			}
		}
	}
	for {
		a, b, best := -1, -1, 0.0
		for i, ties := range between {
			for k, n := range ties {
				if k < i || len(members[i])+len(members[k]) > most {
					continue
				}
				score := float64(n) / float64(len(members[i])*len(members[k]))
				if score > best+1e-12 || score > best-1e-12 && (a < 0 || i < a || i == a && k < b) {
					a, b, best = i, k, score
				}
			}
		}
		if a < 0 {
			break
		}
		members[a] = append(members[a], members[b]...)
		for k, n := range between[b] {
			delete(between[k], b)
			if k != a {
				between[a][k] += n
				between[k][a] += n
			}
		}
		members[b], between[b] = nil, map[int]int{}
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

// Index draws one box for each sheet, with the names on it and lines for the references
// between sheets.
func Index(c *catalog.Catalog, sheets [][]catalog.Ref, title string, link func(i int) string) *Scene {
	s := &Scene{Title: title}
	at := map[catalog.Ref]int{}
	const across = 4
	x, y, tall := margin, margin+30, 0.0
	for i, refs := range sheets {
		b := Box{ID: fmt.Sprintf("sheet %d", i+1), Head: fmt.Sprintf("Sheet %d", i+1), Note: fmt.Sprintf("%d tables", len(refs)), Fill: "plain", Link: link(i), X: x, Y: y, W: 250}
		rowY := y + headHeight
		for n, ref := range refs {
			at[ref] = i
			if n == 14 && len(refs) > 15 {
				b.Rows = append(b.Rows, Row{Name: fmt.Sprintf("… %d more", len(refs)-n), Y: rowY + rowHeight/2, Faint: true})
				rowY += rowHeight
				break
			}
			b.Rows = append(b.Rows, Row{Name: fitted(ref.Table, 250-2*boxPad, false), Y: rowY + rowHeight/2})
			rowY += rowHeight
		}
		b.H = rowY - y + 6
		b.Tip = fmt.Sprintf("%s: %s", b.Head, strings.TrimSpace(refs[0].Table))
		s.Boxes = append(s.Boxes, b)
		tall = max(tall, b.H)
		s.W, s.H = max(s.W, x+b.W+margin), max(s.H, y+b.H+margin)
		if x += b.W + 34; (i+1)%across == 0 {
			x, y, tall = margin, y+tall+34, 0
		}
	}
	// What leads from sheet to sheet is told, not drawn: lines would say little.
	lookup := c.Lookup()
	for i, refs := range sheets {
		to := map[int]int{}
		for _, ref := range refs {
			for _, f := range lookup.Table(ref).ForeignKeys {
				if k, ok := at[f.Target]; ok && k != i {
					to[k]++
				}
			}
		}
		var says []string
		for k := range sheets {
			if n := to[k]; n > 0 {
				says = append(says, fmt.Sprintf("%d references to sheet %d", n, k+1))
			}
		}
		s.Boxes[i].Tip += "; " + strings.Join(says, ", ")
	}
	return s
}
