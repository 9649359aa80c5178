package draw

import (
	"math"
	"slices"
)

// layered lays out one part that hangs together. A table that many others refer to makes
// a layer that is far higher than wide; then half of those that refer to it alone go to
// its other side, if the part is smaller for it and no more lines cross.
func (s *sheet) layered(members []*drawn) *part {
	p, crossed := s.lay(members, nil)
	if len(members) > mostTurned || p.h*s.o.Ratio < 1.3*p.w {
		return p
	}
	turned := leaves(s.between(members))
	if len(turned) == 0 {
		return p
	}
	side := func(p *part) float64 { return max(p.w/s.o.Ratio, p.h) }
	before := side(p)
	if q, n := s.lay(members, turned); n <= crossed && side(q) < 0.85*before {
		return q
	}
	p, _ = s.lay(members, nil)
	return p
}

const (
	mostTurned  = 150 // tables in a part for which both ways are tried
	fewestLeafs = 6   // of one table, from which on half of them may go to its other side
)

// leaves are the boxes that are joined to one other alone, the second half of those of
// each box that has many.
func leaves(refs []*drawnReference) map[*drawn]bool {
	hub := map[*drawn]*drawn{}
	several := map[*drawn]bool{}
	meet := func(a, b *drawn) {
		if hub[a] != nil && hub[a] != b {
			several[a] = true
		}
		hub[a] = b
	}
	var order []*drawn
	for _, r := range refs {
		if r.child != r.parent {
			meet(r.child, r.parent)
			meet(r.parent, r.child)
			order = append(order, r.child)
		}
	}
	of := map[*drawn][]*drawn{}
	seen := map[*drawn]bool{}
	for _, d := range order {
		if !several[d] && !seen[d] {
			seen[d] = true
			of[hub[d]] = append(of[hub[d]], d)
		}
	}
	turned := map[*drawn]bool{}
	for _, all := range of {
		if len(all) < fewestLeafs {
			continue
		}
		total, sofar := 0.0, 0.0
		for _, d := range all {
			total += d.n.h + gapNodes
		}
		for _, d := range all {
			if sofar += d.n.h + gapNodes; sofar > total/2 {
				turned[d] = true
			}
		}
	}
	return turned
}

// between are the references among the members.
func (s *sheet) between(members []*drawn) []*drawnReference {
	inside := map[*drawn]bool{}
	for _, d := range members {
		inside[d] = true
	}
	var within []*drawnReference
	for _, r := range s.refs {
		if inside[r.child] && inside[r.parent] {
			within = append(within, r)
		}
	}
	return within
}

// lay places the members in layers, those turned on the left of what they refer to, and
// counts the crossings.
func (s *sheet) lay(members []*drawn, turned map[*drawn]bool) (*part, int) {
	p := &part{boxes: members}
	within := s.between(members)
	if len(members) == 1 && len(within) == 0 {
		members[0].n.x, members[0].n.y = 0, 0
		p.w, p.h = members[0].n.w, members[0].n.h
		return p, 0
	}
	g, loops := graphOf(members, within, turned)
	breakCycles(g)
	rank(g)
	layers := cut(g)
	arrange(layers)
	heights(layers)
	p.w = widths(layers, loops)
	p.h = bottom(layers)
	p.lines = routes(within)
	return p, crossings(layers)
}

// graphOf makes the graph of the members and the references among them, and tells how
// much room lines back to their own box take beside a node.
func graphOf(members []*drawn, within []*drawnReference, turned map[*drawn]bool) (*graph, map[*node]float64) {
	g := &graph{}
	for _, d := range members {
		d.n.in, d.n.out = nil, nil
		g.nodes = append(g.nodes, d.n)
	}
	loops := map[*node]float64{}
	for _, r := range within {
		r.e = nil
		if r.child == r.parent {
			loops[r.child.n] = loopSpace
			if r.line.Label != "" {
				loops[r.child.n] += textWidth(r.line.Label, false) + 10
			}
			continue
		}
		r.e = &edge{from: r.parent.n, to: r.child.n, fromY: r.fromY, toY: r.toY}
		if turned[r.child] {
			r.e.turn()
		}
		if r.line.Label != "" {
			r.e.label = textWidth(r.line.Label, false)
		}
		g.edges = append(g.edges, r.e)
	}
	return g, loops
}

func bottom(layers [][]*node) float64 {
	h := 0.0
	for _, l := range layers {
		for _, n := range l {
			h = max(h, n.y+n.h)
		}
	}
	return h
}

// routes are the lines of the references, once their boxes are placed.
func routes(within []*drawnReference) []Line {
	var lines []Line
	for _, r := range within {
		line := r.line
		if r.e == nil { // back to its own box
			x, y1, y2 := r.child.n.x+r.child.n.w, r.child.n.y+r.fromY, r.child.n.y+r.toY
			if math.Abs(y1-y2) < 4 {
				y2 += 8
			}
			line.Points = []Point{{x, y1}, {x + 14, y1}, {x + 14, y2}, {x, y2}}
		} else {
			line.Points = route(r.e)
			if r.e.reversed {
				slices.Reverse(line.Points)
			}
		}
		lines = append(lines, line)
	}
	return lines
}
