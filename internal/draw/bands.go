package draw

import (
	"slices"
)

// banded lays out schemas whose tables refer to one another: layers as in one part, in
// which each schema keeps a band of its own from left to right, so that a frame can stand
// round it. Tables that are joined to none of another schema stand beside the band.
func (s *sheet) banded(schemas []string, groups map[string][]*drawn) *part {
	band := s.bandOrder(schemas)
	beside := make([][]*part, len(schemas))
	var all, members []*drawn
	for _, name := range schemas {
		for _, d := range groups[name] {
			d.n.band = band[name]
			all = append(all, d)
		}
	}
	var spanning [][]*drawn
	for _, group := range s.connected(all) {
		if slices.ContainsFunc(group, func(d *drawn) bool { return d.t.Schema != group[0].t.Schema }) {
			spanning = append(spanning, group)
			members = append(members, group...)
		} else {
			b := group[0].n.band
			beside[b] = append(beside[b], s.layered(group))
		}
	}
	within := s.between(members)
	g, loops := graphOf(members, within, nil)
	breakCycles(g)
	for _, group := range spanning {
		rank(g.of(group))
	}
	layers := cut(g)
	arrange(layers)
	p := &part{boxes: members}
	frames := make([]Frame, len(schemas))
	more := make([]*part, len(schemas))
	for name, b := range band {
		frames[b].Name = name
	}
	for b := range frames {
		own := ofBand(layers, b)
		heights(own)
		f := &frames[b]
		f.Y, f.H = p.h, bottom(own)
		if len(beside[b]) > 0 {
			more[b] = pack(beside[b], s.o.Ratio)
			f.H = max(f.H, more[b].h)
		}
		f.H += frameHead + 2*framePad
		for _, l := range own {
			for _, n := range l {
				n.y += f.Y + frameHead + framePad
			}
		}
		p.h += f.H + gapNodes
	}
	p.h -= gapNodes
	p.w = widths(layers, loops)
	p.lines = routes(within)
	joinedWide := p.w
	for b := range frames {
		f := &frames[b]
		left, right := joinedWide, 0.0
		for _, l := range ofBand(layers, b) {
			for _, n := range l {
				if !n.dummy {
					left, right = min(left, n.x), max(right, n.x+n.w+loops[n])
				}
			}
		}
		if m := more[b]; m != nil {
			m.shift(joinedWide+gapParts, f.Y+frameHead+framePad)
			p.boxes, p.lines = append(p.boxes, m.boxes...), append(p.lines, m.lines...)
			right = joinedWide + gapParts + m.w
		}
		f.X, f.W = left-framePad, right-left+2*framePad
		p.w = max(p.w, right)
	}
	p.frames = frames
	p.shift(framePad, 0)
	p.w += 2 * framePad
	return p
}

// bandOrder puts schemas that refer to one another much beside one another: it begins
// with the one that is joined most, and goes on with what is joined most to the last.
func (s *sheet) bandOrder(schemas []string) map[string]int {
	joins := map[[2]string]int{}
	total := map[string]int{}
	for _, r := range s.refs {
		if a, b := r.child.t.Schema, r.parent.t.Schema; a != b {
			joins[[2]string{a, b}]++
			joins[[2]string{b, a}]++
			total[a]++
			total[b]++
		}
	}
	left := slices.Clone(schemas)
	slices.SortStableFunc(left, func(a, b string) int { return total[b] - total[a] })
	at := map[string]int{}
	last := ""
	for len(left) > 0 {
		best := 0
		for i, name := range left {
			if joins[[2]string{last, name}] > joins[[2]string{last, left[best]}] {
				best = i
			}
		}
		last = left[best]
		at[last] = len(at)
		left = slices.Delete(left, best, best+1)
	}
	return at
}

// joined groups the schemas that lines lead between.
func (s *sheet) joined(schemas []string) [][]string {
	group := map[string]int{}
	for i, name := range schemas {
		group[name] = i
	}
	for _, r := range s.refs {
		a, b := group[r.child.t.Schema], group[r.parent.t.Schema]
		for name, g := range group {
			if g == max(a, b) {
				group[name] = min(a, b)
			}
		}
	}
	var all [][]string
	for i := range schemas {
		var some []string
		for _, name := range schemas {
			if group[name] == i {
				some = append(some, name)
			}
		}
		if some != nil {
			all = append(all, some)
		}
	}
	return all
}

// of is the part of the graph that holds the members.
func (g *graph) of(members []*drawn) *graph {
	some := &graph{}
	inside := map[*node]bool{}
	for _, d := range members {
		inside[d.n] = true
		some.nodes = append(some.nodes, d.n)
	}
	for _, e := range g.edges {
		if inside[e.from] {
			some.edges = append(some.edges, e)
		}
	}
	return some
}

// ofBand are the layers' nodes of one band.
func ofBand(layers [][]*node, band int) [][]*node {
	own := make([][]*node, len(layers))
	for i, l := range layers {
		for _, n := range l {
			if n.band == band {
				own[i] = append(own[i], n)
			}
		}
	}
	return own
}
