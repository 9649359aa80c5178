package draw

import (
	"cmp"
	"math"
	"slices"
)

// A part is boxes and lines that were placed together.
type part struct {
	w, h   float64
	boxes  []*drawn
	lines  []Line
	frames []Frame
}

func (p *part) shift(x, y float64) {
	for _, d := range p.boxes {
		d.n.x += x
		d.n.y += y
	}
	for i := range p.lines {
		for k := range p.lines[i].Points {
			p.lines[i].Points[k].X += x
			p.lines[i].Points[k].Y += y
		}
	}
	for i := range p.frames {
		p.frames[i].X += x
		p.frames[i].Y += y
	}
}

// framed puts a frame round a part.
func framed(p *part, name string) *part {
	const pad, head = 18.0, 22.0
	p.shift(pad, pad+head)
	p.w, p.h = p.w+2*pad, p.h+2*pad+head
	p.frames = append([]Frame{{0, 0, p.w, p.h, name}}, p.frames...)
	return p
}

// layered lays out one part that hangs together.
func (s *sheet) layered(members []*drawn) *part {
	p := &part{boxes: members}
	if len(members) == 1 && !slices.ContainsFunc(s.refs, func(r *drawnReference) bool { return r.child == members[0] && r.parent == members[0] }) {
		members[0].n.x, members[0].n.y = 0, 0
		p.w, p.h = members[0].n.w, members[0].n.h
		return p
	}
	inside := map[*drawn]bool{}
	g := &graph{}
	for _, d := range members {
		inside[d] = true
		g.nodes = append(g.nodes, d.n)
	}
	loops := map[*node]float64{}
	var within []*drawnReference
	for _, r := range s.refs {
		if !inside[r.child] || !inside[r.parent] {
			continue
		}
		within = append(within, r)
		if r.child == r.parent {
			loops[r.child.n] = loopSpace
			if r.line.Label != "" {
				loops[r.child.n] += textWidth(r.line.Label, false) + 10
			}
			continue
		}
		r.e = &edge{from: r.parent.n, to: r.child.n, fromY: r.fromY, toY: r.toY}
		if r.line.Label != "" {
			r.e.label = textWidth(r.line.Label, false)
		}
		g.edges = append(g.edges, r.e)
	}
	breakCycles(g)
	rank(g)
	layers := cut(g)
	arrange(layers)
	heights(layers)
	p.w = widths(layers, loops)
	for _, l := range layers {
		for _, n := range l {
			p.h = max(p.h, n.y+n.h)
		}
	}
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
		p.lines = append(p.lines, line)
	}
	return p
}

// pack puts parts side by side in shelves, the tallest first, so that the whole has about
// the ratio that is wanted.
func pack(parts []*part, ratio float64) *part {
	if len(parts) == 1 {
		return parts[0]
	}
	slices.SortStableFunc(parts, func(a, b *part) int { return cmp.Or(cmp.Compare(b.h, a.h), cmp.Compare(b.w, a.w)) })
	area, widest := 0.0, 0.0
	for _, p := range parts {
		area += (p.w + gapParts) * (p.h + gapParts)
		widest = max(widest, p.w)
	}
	var best *part
	bestScore := math.Inf(1)
	var bestAt []Point
	for _, stretch := range []float64{0.8, 0.9, 1, 1.1, 1.2, 1.35, 1.5} {
		limit := max(widest, math.Sqrt(area*ratio)*stretch)
		at, w, h := shelves(parts, limit)
		score := max(w/ratio, h) // the side of the sheet that it takes
		if score < bestScore {
			bestScore, bestAt = score, at
			best = &part{w: w, h: h}
		}
	}
	for i, p := range parts {
		p.shift(bestAt[i].X, bestAt[i].Y)
		best.boxes = append(best.boxes, p.boxes...)
		best.lines = append(best.lines, p.lines...)
		best.frames = append(best.frames, p.frames...)
	}
	return best
}

// shelves places the parts in a skyline: each as high up, then as far left, as it fits.
func shelves(parts []*part, limit float64) (at []Point, w, h float64) {
	type step struct{ x, y, w float64 }
	sky := []step{{0, 0, limit}}
	for _, p := range parts {
		pw, ph := p.w+gapParts, p.h+gapParts
		bestY, bestX, bestI := math.Inf(1), 0.0, -1
		for i := range sky {
			x, y, left := sky[i].x, 0.0, pw
			if x+p.w > limit+0.5 {
				continue
			}
			for k := i; k < len(sky) && left > 0; k++ {
				y = max(y, sky[k].y)
				left -= sky[k].w
			}
			if y < bestY {
				bestY, bestX, bestI = y, x, i
			}
		}
		if bestI < 0 {
			bestX, bestY = 0, 0
			for _, s := range sky {
				bestY = max(bestY, s.y)
			}
			bestI = 0
		}
		at = append(at, Point{bestX, bestY})
		w, h = max(w, bestX+p.w), max(h, bestY+p.h)
		var next []step
		for _, s := range sky {
			from, to := s.x, s.x+s.w
			if to <= bestX || from >= bestX+pw {
				next = append(next, s)
				continue
			}
			if from < bestX {
				next = append(next, step{from, s.y, bestX - from})
			}
			if to > bestX+pw {
				next = append(next, step{bestX + pw, s.y, to - bestX - pw})
			}
		}
		next = append(next, step{bestX, bestY + ph, min(pw, limit-bestX)})
		slices.SortFunc(next, func(a, b step) int { return cmp.Compare(a.x, b.x) })
		sky = next
	}
	return at, w, h
}

// finish adds the legend below, and counts names whose letters the font lacks.
func (s *sheet) finish() {
	s.scene.Legend = s.o.Legend
	if len(s.scene.Legend) > 0 {
		s.scene.H += 30
		w := 2 * margin
		for _, m := range s.scene.Legend {
			w += textWidth(m.Says, false) + 34
		}
		s.scene.W = max(s.scene.W, w)
	}
	if s.o.Title != "" {
		s.scene.W = max(s.scene.W, textWidth(s.o.Title, true)*1.3+2*margin)
	}
	for i := range s.scene.Boxes {
		b := &s.scene.Boxes[i]
		short := lacking(b.Head)
		b.Head = fitted(b.Head, b.W-2*boxPad-btof(b.Note != "")*(10+textWidth(b.Note, false)), true)
		room := b.W - 2*boxPad
		for k := range b.Rows {
			r := &b.Rows[k]
			short = short || lacking(r.Name)
			taken := 0.0
			if r.Mark != "" {
				r.Mark = fitted(r.Mark, room*0.4, false)
				taken = 12 + textWidth(r.Mark, false)
			}
			if r.Type != "" { // what the name leaves, or half
				left := room - taken - 14
				r.Type = fitted(r.Type, max(left-textWidth(r.Name, r.Strong), left/2), false)
				taken += 14 + textWidth(r.Type, false)
			}
			r.Name = fitted(r.Name, room-taken, r.Strong)
		}
		if short {
			s.scene.Lacking++
		}
	}
}
