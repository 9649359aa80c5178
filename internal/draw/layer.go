package draw

import (
	"slices"
)

// A graph is what is laid out: nodes of a size, and edges from the table referred to, on
// the left, to the one that refers, on the right.
type graph struct {
	nodes []*node
	edges []*edge
}

type node struct {
	w, h   float64
	x, y   float64
	rank   int
	at     int // place within its layer
	band   int // of its schema: those of one stand together in each layer
	dummy  bool
	in     []*edge // segments that end here
	out    []*edge
	weight float64 // for the order
}

// An edge joins two nodes at a height of each, counted from the node's top.
type edge struct {
	from, to         *node
	fromY, toY       float64
	reversed         bool    // it runs against the layers
	chain            []*edge // its segments from layer to layer, once it was cut
	track            float64 // x of its vertical part
	label            float64 // how wide the text beside the end of who refers is
	textLeft         float64 // of a piece: how wide the text at its left end is, and
	textRight        float64 // at its right end
	lineFrom, lineTo float64 // heights on the sheet
}

// breakCycles turns round the edges that lead back, found by a walk in depth; so the
// graph has no cycle (Sugiyama, Tagawa, Toda 1981).
func breakCycles(g *graph) {
	const (
		white = iota
		grey
		black
	)
	colour := map[*node]int{}
	out := map[*node][]*edge{}
	indegree := map[*node]int{}
	back := map[*edge]bool{}
	for _, e := range g.edges {
		out[e.from] = append(out[e.from], e)
		indegree[e.to]++
	}
	var walk func(n *node)
	walk = func(n *node) {
		colour[n] = grey
		for _, e := range out[n] {
			switch colour[e.to] {
			case white:
				walk(e.to)
			case grey:
				back[e] = true
			}
		}
		colour[n] = black
	}
	order := slices.Clone(g.nodes)
	slices.SortStableFunc(order, func(a, b *node) int { return indegree[a] - indegree[b] })
	for _, n := range order {
		if colour[n] == white {
			walk(n)
		}
	}
	for _, e := range g.edges {
		if back[e] {
			e.turn()
		}
	}
}

// turn makes an edge run the other way.
func (e *edge) turn() {
	e.from, e.to, e.fromY, e.toY = e.to, e.from, e.toY, e.fromY
	e.reversed = !e.reversed
}

// rank gives every node its layer so that the edges together are as short as can be: the
// network simplex of Gansner, Koutsofios, North, Vo, "A Technique for Drawing Directed
// Graphs" (1993), section 2.
func rank(g *graph) {
	s := &simplex{g: g, in: map[*node][]*edge{}, out: map[*node][]*edge{}, tree: map[*edge]bool{}}
	for _, e := range g.edges {
		s.out[e.from] = append(s.out[e.from], e)
		s.in[e.to] = append(s.in[e.to], e)
	}
	s.start()
	s.tighten()
	for range 50 + 4*len(g.nodes) { // each turn shortens the edges, or ends
		leave, cut := s.leaving()
		if leave == nil {
			break
		}
		enter := s.entering(leave, cut)
		if enter == nil {
			break
		}
		delete(s.tree, leave)
		s.tree[enter] = true
		s.fromTree()
	}
	least := slices.MinFunc(g.nodes, func(a, b *node) int { return a.rank - b.rank }).rank
	for _, n := range g.nodes {
		n.rank -= least
	}
}

type simplex struct {
	g       *graph
	in, out map[*node][]*edge
	tree    map[*edge]bool
}

func slack(e *edge) int { return e.to.rank - e.from.rank - 1 }

// start ranks every node behind all that lead to it.
func (s *simplex) start() {
	left := map[*node]int{}
	var ready []*node
	for _, n := range s.g.nodes {
		n.rank = 0
		if left[n] = len(s.in[n]); left[n] == 0 {
			ready = append(ready, n)
		}
	}
	for len(ready) > 0 {
		n := ready[0]
		ready = ready[1:]
		for _, e := range s.out[n] {
			e.to.rank = max(e.to.rank, n.rank+1)
			if left[e.to]--; left[e.to] == 0 {
				ready = append(ready, e.to)
			}
		}
	}
}

// tighten grows a tree of edges without slack until it spans the graph.
func (s *simplex) tighten() {
	for {
		s.tree = map[*edge]bool{}
		inside := map[*node]bool{}
		var grow func(n *node)
		grow = func(n *node) {
			inside[n] = true
			for _, list := range [][]*edge{s.out[n], s.in[n]} {
				for _, e := range list {
					m := e.to
					if m == n {
						m = e.from
					}
					if !inside[m] && slack(e) == 0 {
						s.tree[e] = true
						grow(m)
					}
				}
			}
		}
		grow(s.g.nodes[0])
		if len(inside) == len(s.g.nodes) {
			return
		}
		var best *edge
		for _, e := range s.g.edges {
			if inside[e.from] != inside[e.to] && (best == nil || slack(e) < slack(best)) {
				best = e
			}
		}
		if best == nil {
			return // the parts do not hang together; each is laid out alone
		}
		by := slack(best)
		if inside[best.to] {
			by = -by
		}
		for n := range inside {
			n.rank += by
		}
	}
}

// leaving is a tree edge whose cut value is below nought: more edges lead over it the
// other way. The value is what leads out of the tail's side less what leads in, which the
// nodes of that side add up to.
func (s *simplex) leaving() (*edge, map[*node]bool) {
	root := s.g.nodes[0]
	parent := map[*node]*edge{}
	order := []*node{root}
	seen := map[*node]bool{root: true}
	for i := 0; i < len(order); i++ {
		n := order[i]
		for _, list := range [][]*edge{s.out[n], s.in[n]} {
			for _, e := range list {
				m := e.to
				if m == n {
					m = e.from
				}
				if s.tree[e] && !seen[m] {
					seen[m], parent[m] = true, e
					order = append(order, m)
				}
			}
		}
	}
	sum := map[*node]int{}
	for i := len(order) - 1; i > 0; i-- {
		n := order[i]
		sum[n] += len(s.out[n]) - len(s.in[n])
		e := parent[n]
		up, value := e.to, sum[n] // what lies below n is the tail's side
		if up == n {
			up, value = e.from, -sum[n]
		}
		sum[up] += sum[n]
		if value >= 0 {
			continue
		}
		below := map[*node]bool{n: true}
		for _, m := range order[i+1:] {
			if q := parent[m]; below[q.from] || below[q.to] {
				below[m] = true
			}
		}
		if e.from == n {
			return e, below
		}
		side := map[*node]bool{}
		for _, m := range order {
			side[m] = !below[m]
		}
		return e, side
	}
	return nil, nil
}

// entering is the tightest edge that leads the other way over the cut.
func (s *simplex) entering(leave *edge, side map[*node]bool) *edge {
	var best *edge
	for _, e := range s.g.edges {
		if e != leave && !side[e.from] && side[e.to] && (best == nil || slack(e) < slack(best)) {
			best = e
		}
	}
	return best
}

// fromTree ranks the nodes again by the edges of the tree.
func (s *simplex) fromTree() {
	done := map[*node]bool{s.g.nodes[0]: true}
	stack := []*node{s.g.nodes[0]}
	for len(stack) > 0 {
		n := stack[len(stack)-1]
		stack = stack[:len(stack)-1]
		for _, e := range s.out[n] {
			if s.tree[e] && !done[e.to] {
				e.to.rank, done[e.to] = n.rank+1, true
				stack = append(stack, e.to)
			}
		}
		for _, e := range s.in[n] {
			if s.tree[e] && !done[e.from] {
				e.from.rank, done[e.from] = n.rank-1, true
				stack = append(stack, e.from)
			}
		}
	}
}
