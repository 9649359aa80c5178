package draw

import (
	"cmp"
	"slices"
)

// cut puts a node without a size into every layer that an edge passes, so that each
// piece leads from one layer to the next.
func cut(g *graph) [][]*node {
	layers := 0
	for _, n := range g.nodes {
		layers = max(layers, n.rank+1)
	}
	all := make([][]*node, layers)
	for _, n := range g.nodes {
		all[n.rank] = append(all[n.rank], n)
	}
	for _, e := range g.edges {
		from, y := e.from, e.fromY
		for r := e.from.rank + 1; r < e.to.rank; r++ {
			d := &node{dummy: true, rank: r, h: 2, band: e.to.band}
			all[r] = append(all[r], d)
			e.chain = append(e.chain, &edge{from: from, to: d, fromY: y, toY: 1})
			from, y = d, 1
		}
		e.chain = append(e.chain, &edge{from: from, to: e.to, fromY: y, toY: e.toY})
		if e.reversed { // who refers is on the left
			e.chain[0].label = e.label
		} else {
			e.chain[len(e.chain)-1].label = e.label
		}
		for _, piece := range e.chain {
			piece.from.out = append(piece.from.out, piece)
			piece.to.in = append(piece.to.in, piece)
		}
	}
	return all
}

// arrange orders the nodes of each layer so that few edges cross: by the weighted
// medians of their neighbours, sweeping to and fro, and by exchanging neighbours where
// that helps (Gansner et al. 1993, section 3). The best order that was seen is kept.
func arrange(layers [][]*node) {
	var best [][]*node
	least := 0
	count := 0
	for _, l := range layers {
		count += len(l)
	}
	starts := 3
	if count > manyNodes {
		starts = 2
	}
	for start := range starts {
		begin(layers, start)
		seen, last := 0, -1
		for pass := range 24 {
			if (pass+start)%2 == 0 {
				for r := 1; r < len(layers); r++ {
					medians(layers[r], true)
				}
			} else {
				for r := len(layers) - 2; r >= 0; r-- {
					medians(layers[r], false)
				}
			}
			transpose(layers)
			n := crossings(layers)
			if best == nil || n < least {
				best, least = snapshot(layers), n
			}
			if last >= 0 && n >= last {
				if seen++; seen > 5 {
					break
				}
			} else {
				seen, last = 0, n
			}
			if least == 0 {
				break
			}
		}
		if least == 0 {
			break
		}
	}
	for r := range layers {
		layers[r] = best[r]
	}
	number(layers)
}

// begin orders the layers for a start: as they come, or as a walk from the left or from
// the right meets the nodes.
func begin(layers [][]*node, start int) {
	if start > 0 {
		met := map[*node]int{}
		var walk func(n *node)
		walk = func(n *node) {
			if _, ok := met[n]; ok {
				return
			}
			met[n] = len(met)
			for _, e := range n.out {
				if start == 1 {
					walk(e.to)
				}
			}
			for _, e := range n.in {
				if start == 2 {
					walk(e.from)
				}
			}
		}
		for i := range layers {
			l := layers[i]
			if start == 2 {
				l = layers[len(layers)-1-i]
			}
			for _, n := range l {
				walk(n)
			}
		}
		for _, l := range layers {
			slices.SortStableFunc(l, func(a, b *node) int { return met[a] - met[b] })
		}
	}
	for _, l := range layers {
		slices.SortStableFunc(l, func(a, b *node) int { return a.band - b.band })
	}
	number(layers)
}

// manyNodes is from how many on one beginning less is tried.
const manyNodes = 500

func number(layers [][]*node) {
	for _, l := range layers {
		for i, n := range l {
			n.at = i
		}
	}
}

func snapshot(layers [][]*node) [][]*node {
	all := make([][]*node, len(layers))
	for i, l := range layers {
		all[i] = slices.Clone(l)
	}
	return all
}

// place is where an edge meets a node, by the node's place and the height within it.
func place(n *node, y float64) float64 { return float64(n.at) + min(0.99, y/max(1, n.h)*0.99) }

// medians orders a layer by the medians of what its nodes are joined to in the layer
// before (left) or behind.
func medians(layer []*node, left bool) {
	for _, n := range layer {
		list := n.in
		if !left {
			list = n.out
		}
		var at []float64
		for _, e := range list {
			if left {
				at = append(at, place(e.from, e.fromY))
			} else {
				at = append(at, place(e.to, e.toY))
			}
		}
		slices.Sort(at)
		switch k := len(at); {
		case k == 0:
			n.weight = -1
		case k%2 == 1:
			n.weight = at[k/2]
		case k == 2:
			n.weight = (at[0] + at[1]) / 2
		default:
			l, r := at[k/2-1]-at[0], at[k-1]-at[k/2]
			if l+r == 0 {
				n.weight = (at[k/2-1] + at[k/2]) / 2
			} else {
				n.weight = (at[k/2-1]*r + at[k/2]*l) / (l + r)
			}
		}
	}
	for from := 0; from < len(layer); {
		to := from + 1
		for to < len(layer) && layer[to].band == layer[from].band {
			to++
		}
		byWeight(layer[from:to], from)
		from = to
	}
}

// byWeight orders nodes by their weights; those without one keep their places.
func byWeight(some []*node, first int) {
	var free []*node
	for _, n := range some {
		if n.weight >= 0 {
			free = append(free, n)
		}
	}
	slices.SortStableFunc(free, func(a, b *node) int { return cmp.Compare(a.weight, b.weight) })
	k := 0
	for i, n := range some {
		if n.weight >= 0 {
			some[i] = free[k]
			k++
		}
		some[i].at = first + i
	}
}

// transpose exchanges neighbours as long as fewer edges cross.
func transpose(layers [][]*node) {
	for range 8 {
		better := false
		for _, l := range layers {
			for i := 0; i+1 < len(l); i++ {
				if l[i].band == l[i+1].band && pair(l[i+1], l[i]) < pair(l[i], l[i+1]) {
					l[i], l[i+1] = l[i+1], l[i]
					l[i].at, l[i+1].at = i, i+1
					better = true
				}
			}
		}
		if !better {
			return
		}
	}
}

// pair is how many edges of two nodes cross where the first stands above the second.
func pair(a, b *node) int {
	n := 0
	for _, x := range a.in {
		for _, y := range b.in {
			if place(x.from, x.fromY) > place(y.from, y.fromY) {
				n++
			}
		}
	}
	for _, x := range a.out {
		for _, y := range b.out {
			if place(x.to, x.toY) > place(y.to, y.toY) {
				n++
			}
		}
	}
	return n
}

// crossings counts them between all layers, by adding up inversions in a tree of sums
// (Barth, Juenger, Mutzel 2002).
func crossings(layers [][]*node) int {
	total := 0
	for r := 0; r+1 < len(layers); r++ {
		type line struct{ a, b float64 }
		var lines []line
		for _, n := range layers[r] {
			for _, e := range n.out {
				lines = append(lines, line{place(n, e.fromY), place(e.to, e.toY)})
			}
		}
		slices.SortFunc(lines, func(x, y line) int { return cmp.Or(cmp.Compare(x.a, y.a), cmp.Compare(x.b, y.b)) })
		ends := make([]float64, len(lines))
		for i, l := range lines {
			ends[i] = l.b
		}
		slices.Sort(ends)
		ends = slices.Compact(ends)
		sums := make([]int, len(ends)+1)
		for i, l := range lines {
			at, _ := slices.BinarySearch(ends, l.b)
			upTo := 0
			for k := at + 1; k > 0; k -= k & -k {
				upTo += sums[k]
			}
			total += i - upTo
			for k := at + 1; k <= len(ends); k += k & -k {
				sums[k]++
			}
		}
	}
	return total
}
