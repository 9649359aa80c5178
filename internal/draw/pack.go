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
	p.shift(framePad, framePad+frameHead)
	p.w, p.h = p.w+2*framePad, p.h+2*framePad+frameHead
	p.frames = append([]Frame{{0, 0, p.w, p.h, name}}, p.frames...)
	return p
}

// pack places the parts so that the whole takes little of a sheet of the ratio that is
// wanted: the largest first, each of the others where it lets the whole grow least, also
// into the hollows of those that are placed (Freivalds, Dogrusoz, Kikusts, "Disconnected
// Graph Layout and the Polyomino Packing Approach", 2001).
func pack(parts []*part, ratio float64) *part {
	if len(parts) == 1 {
		return parts[0]
	}
	slices.SortStableFunc(parts, func(a, b *part) int { return cmp.Or(cmp.Compare(b.h, a.h), cmp.Compare(b.w, a.w)) })
	area := 0.0
	for _, p := range parts {
		area += (p.w + gapParts) * (p.h + gapParts)
	}
	f := &field{cell: max(10, math.Sqrt(area/finest))}
	whole := &part{}
	for _, p := range parts {
		shape := f.shape(p)
		x, y := f.place(shape, whole, p, ratio)
		f.take(shape, x, y)
		p.shift(float64(x)*f.cell, float64(y)*f.cell)
		whole.w, whole.h = max(whole.w, float64(x)*f.cell+p.w), max(whole.h, float64(y)*f.cell+p.h)
		whole.boxes = append(whole.boxes, p.boxes...)
		whole.lines = append(whole.lines, p.lines...)
		whole.frames = append(whole.frames, p.frames...)
	}
	return whole
}

// finest is about how many cells the parts of a sheet take together.
const finest = 12000

// A field is the sheet in cells, a row of bits each: which are taken.
type field struct {
	cell float64
	rows [][]uint64
}

// A shape is the cells of a part, rows of bits that begin at its upper left corner.
type shape struct {
	rows  [][]uint64
	words int
}

// shape covers what a part holds, with the gap to others on the right of it and below.
func (f *field) shape(p *part) shape {
	cells := func(v float64) int { return int(math.Ceil((v + gapParts) / f.cell)) } // up to there
	s := shape{words: cells(p.w)/64 + 1}
	s.rows = make([][]uint64, cells(p.h))
	for i := range s.rows {
		s.rows[i] = make([]uint64, s.words)
	}
	cover := func(left, top, right, bottom float64) {
		for y := max(0, int(top/f.cell)); y < min(len(s.rows), cells(bottom)); y++ {
			for x := max(0, int(left/f.cell)); x < min(s.words*64, cells(right)); x++ {
				s.rows[y][x/64] |= 1 << (x % 64)
			}
		}
	}
	if len(p.frames) > 0 { // nothing of others stands in a frame
		cover(0, 0, p.w, p.h)
		return s
	}
	for _, d := range p.boxes {
		cover(d.n.x, d.n.y, d.n.x+d.n.w, d.n.y+d.n.h)
	}
	for _, l := range p.lines {
		for i := 1; i < len(l.Points); i++ {
			a, b := l.Points[i-1], l.Points[i]
			cover(min(a.X, b.X), min(a.Y, b.Y), max(a.X, b.X), max(a.Y, b.Y))
		}
	}
	return s
}

// place is the cell at which the part makes the whole grow least, as high up and as far
// left as may be.
func (f *field) place(s shape, whole, p *part, ratio float64) (x, y int) {
	side := func(w, h float64) float64 { return max(w/ratio, h) }
	now := side(whole.w, whole.h)
	best := math.Inf(1)
	for cy := range len(f.rows) + 1 {
		for cx := range int((whole.w+gapParts)/f.cell) + 2 {
			w, h := max(whole.w, float64(cx)*f.cell+p.w), max(whole.h, float64(cy)*f.cell+p.h)
			score := side(w, h) + (w/ratio+h)/1e3
			if score >= best || !f.free(s, cx, cy) {
				continue
			}
			best, x, y = score, cx, cy
			if side(w, h) <= now && w <= whole.w && h <= whole.h {
				return x, y
			}
		}
	}
	return x, y
}

// free reports whether none of the shape's cells is taken.
func (f *field) free(s shape, x, y int) bool {
	for i, row := range s.rows {
		if y+i >= len(f.rows) {
			return true
		}
		taken := f.rows[y+i]
		for k, bits := range row {
			if at := x/64 + k; at < len(taken) && taken[at]&(bits<<(x%64)) != 0 {
				return false
			} else if x%64 > 0 && at+1 < len(taken) && taken[at+1]&(bits>>(64-x%64)) != 0 {
				return false
			}
		}
	}
	return true
}

// take marks the shape's cells.
func (f *field) take(s shape, x, y int) {
	for len(f.rows) < y+len(s.rows) {
		f.rows = append(f.rows, nil)
	}
	for i, row := range s.rows {
		if short := (x/64 + s.words + 1) - len(f.rows[y+i]); short > 0 {
			f.rows[y+i] = append(f.rows[y+i], make([]uint64, short)...)
		}
		for k, bits := range row {
			f.rows[y+i][x/64+k] |= bits << (x % 64)
			if x%64 > 0 {
				f.rows[y+i][x/64+k+1] |= bits >> (64 - x%64)
			}
		}
	}
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
