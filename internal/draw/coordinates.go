package draw

import (
	"cmp"
	"math"
	"slices"
)

// The space between things on a sheet.
const (
	gapNodes  = 22.0 // between boxes above one another
	gapDummy  = 9.0  // beside a line that passes
	trackGap  = 9.0  // between lines that run down a channel
	channel   = 46.0 // the least channel between two layers
	gapParts  = 32.0 // between parts that do not hang together
	framePad  = 13.0 // between a schema's tables and its frame
	frameHead = 22.0 // for the schema's name
	loopSpace = 20.0 // for lines that lead back to their own box
)

// heights places the nodes of each layer, in their order, as near as can be to what they
// are joined to: each sweep solves one layer exactly, by least squares under the order
// (isotonic regression, pool adjacent violators), with straight lines through passed
// layers weighing most.
func heights(layers [][]*node) {
	for _, l := range layers {
		y := 0.0
		for i, n := range l {
			if i > 0 {
				y += apart(l[i-1], n)
			}
			n.y = y
			y += n.h
		}
	}
	for sweep := range 24 {
		if sweep%2 == 0 {
			for r := 1; r < len(layers); r++ {
				settle(layers[r], true, sweep > 15)
			}
		} else {
			for r := len(layers) - 2; r >= 0; r-- {
				settle(layers[r], false, sweep > 15)
			}
		}
	}
	top := math.Inf(1)
	for _, l := range layers {
		for _, n := range l {
			top = min(top, n.y)
		}
	}
	for _, l := range layers {
		for _, n := range l {
			n.y = math.Round(n.y - top)
		}
	}
}

func apart(a, b *node) float64 {
	if a.dummy || b.dummy {
		return gapDummy
	}
	return gapNodes
}

// settle moves a layer's nodes towards their neighbours of one side, or of both.
func settle(layer []*node, left, both bool) {
	type block struct{ sum, weight float64 }
	want := make([]float64, len(layer))
	weight := make([]float64, len(layer))
	offset := 0.0
	offsets := make([]float64, len(layer))
	for i, n := range layer {
		if i > 0 {
			offset += layer[i-1].h + apart(layer[i-1], n)
		}
		offsets[i] = offset
		sum, of := 0.0, 0.0
		add := func(other *node, otherY, mine float64) {
			if other.band != n.band {
				return // each band is placed by itself
			}
			w := 1.0
			if n.dummy && other.dummy {
				w = 8
			} else if n.dummy || other.dummy {
				w = 2
			}
			sum, of = sum+w*(other.y+otherY-mine), of+w
		}
		if left || both {
			for _, e := range n.in {
				add(e.from, e.fromY, e.toY)
			}
		}
		if !left || both {
			for _, e := range n.out {
				add(e.to, e.toY, e.fromY)
			}
		}
		if of == 0 {
			sum, of = n.y*0.01, 0.01
		}
		want[i], weight[i] = sum/of-offset, of
	}
	var blocks []block
	var sizes []int
	for i := range layer {
		b, size := block{want[i] * weight[i], weight[i]}, 1
		for len(blocks) > 0 {
			last := blocks[len(blocks)-1]
			if last.sum/last.weight <= b.sum/b.weight {
				break
			}
			b, size = block{last.sum + b.sum, last.weight + b.weight}, size+sizes[len(sizes)-1]
			blocks, sizes = blocks[:len(blocks)-1], sizes[:len(sizes)-1]
		}
		blocks, sizes = append(blocks, b), append(sizes, size)
	}
	i := 0
	for k, b := range blocks {
		for range sizes[k] {
			layer[i].y = b.sum/b.weight + offsets[i]
			i++
		}
	}
}

// widths places the layers beside one another, with a channel between for the lines, and
// gives each line its track there.
func widths(layers [][]*node, loops map[*node]float64) (width float64) {
	x := 0.0
	for r, l := range layers {
		widest := 0.0
		for _, n := range l {
			n.x = x
			widest = max(widest, n.w+loops[n])
		}
		for _, n := range l {
			if n.dummy {
				n.w = widest
			}
		}
		x += widest
		if r+1 < len(layers) {
			x += tracks(l, x)
		}
	}
	return x
}

// tracks routes the lines between a layer and the next through the channel that begins at
// x: each has one vertical piece, and no two that overlap share a track (left-edge
// algorithm, Hashimoto and Stevens 1971). It returns how wide the channel is.
func tracks(layer []*node, x float64) float64 {
	var lines []*edge
	left, right := 0.0, 0.0 // room for the texts at the ends
	for _, n := range layer {
		for _, e := range n.out {
			if e.textLeft > 0 {
				left = max(left, e.textLeft+16)
			}
			if e.textRight > 0 {
				right = max(right, e.textRight+16)
			}
			e.lineFrom, e.lineTo = n.y+e.fromY, e.to.y+e.toY
			if math.Abs(e.lineFrom-e.lineTo) >= 0.5 {
				lines = append(lines, e)
			}
		}
	}
	// Lines that lead down go furthest right first from the top, those that lead up from
	// the bottom: so those beside one another do not cross.
	slices.SortStableFunc(lines, func(a, b *edge) int {
		downA, downB := a.lineTo > a.lineFrom, b.lineTo > b.lineFrom
		if downA != downB {
			if downA {
				return -1
			}
			return 1
		}
		if downA {
			return cmp.Or(cmp.Compare(b.lineFrom, a.lineFrom), cmp.Compare(b.lineTo, a.lineTo))
		}
		return cmp.Or(cmp.Compare(a.lineFrom, b.lineFrom), cmp.Compare(a.lineTo, b.lineTo))
	})
	type span struct {
		top, bottom, from, to float64
		track                 int
	}
	var spans []span
	var rows int
	at := make([]int, len(lines))
	for i, e := range lines {
		s := span{min(e.lineFrom, e.lineTo), max(e.lineFrom, e.lineTo), e.lineFrom, e.lineTo, 0}
		k := 0
		// Those that lead the same way and are beside it lie left of it already: it goes
		// right of them, and does not cross them.
		for _, o := range spans {
			if o.from != s.from && o.to != s.to && (o.to > o.from) == (s.to > s.from) && s.top <= o.bottom+4 && o.top <= s.bottom+4 {
				k = max(k, o.track+1)
			}
		}
		for ; ; k++ {
			if !slices.ContainsFunc(spans, func(o span) bool {
				if o.from == s.from || o.to == s.to {
					return false // lines from one point may run together, or to one
				}
				if o.track == k && s.top <= o.bottom+4 && o.top <= s.bottom+4 {
					return true
				}
				// A line that ends where another begins has to turn behind it.
				return o.track >= k && math.Abs(o.from-s.to) < 3
			}) {
				break
			}
		}
		s.track = k
		spans = append(spans, s)
		rows = max(rows, k+1)
		at[i] = k
	}
	room := max(channel, float64(rows+1)*trackGap+20)
	step := (room - 20) / float64(rows+1)
	for i, e := range lines {
		e.track = math.Round(x + left + 10 + float64(at[i]+1)*step)
	}
	return left + room + right
}

// route is the corners of an edge, from the table referred to towards the one that
// refers.
func route(e *edge) []Point {
	var points []Point
	put := func(x, y float64) {
		n := len(points)
		if n > 1 && (points[n-1].X == points[n-2].X && points[n-1].X == x || points[n-1].Y == points[n-2].Y && points[n-1].Y == y) {
			points[n-1] = Point{x, y}
			return
		}
		if n > 0 && points[n-1] == (Point{x, y}) {
			return
		}
		points = append(points, Point{x, y})
	}
	for _, piece := range e.chain {
		y1, y2 := piece.from.y+piece.fromY, piece.to.y+piece.toY
		put(piece.from.x+piece.from.w*btof(!piece.from.dummy), y1)
		if piece.from.dummy {
			put(piece.from.x+piece.from.w, y1)
		}
		if math.Abs(y1-y2) >= 0.5 {
			put(piece.track, y1)
			put(piece.track, y2)
		} else {
			y2 = y1
		}
		put(piece.to.x, y2)
		if piece.to.dummy && math.Abs(piece.to.y+piece.toY-y2) >= 0.01 {
			piece.to.y = y2 - piece.toY
		}
	}
	return points
}

func btof(b bool) float64 {
	if b {
		return 1
	}
	return 0
}
