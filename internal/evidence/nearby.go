package evidence

import (
	"slices"
	"strings"
	"sync"

	"nexdal/internal/catalog"
)

// A nearby finds the keys that a column's name may speak of without comparing it
// with all: by their words, by how these begin, by people for roles.
type nearby struct {
	words  map[string][]int // of table and key, whole, joined, their first letters together
	starts map[string][]int // the first three letters of a table's words, and the first alone
	people []int
	own    map[catalog.Ref][]int // the keys of a table

	mutex sync.Mutex       // over what follows
	known map[string][]int // what was found for a name, which many columns have
}

// crowd is how many keys a beginning may be shared by to be worth a look.
const crowd = 300

// shared is how many keys may share a word before it tells nothing.
const shared = 1000

func (d *discovery) nearbyOf(parents []parentKey) *nearby {
	n := &nearby{words: map[string][]int{}, starts: map[string][]int{}, own: map[catalog.Ref][]int{}, known: map[string][]int{}}
	put := func(m map[string][]int, w string, i int) {
		if list := m[w]; len(list) == 0 || list[len(list)-1] != i {
			m[w] = append(list, i)
		}
	}
	for i, k := range parents {
		ref := k.table.Ref()
		tab := d.names.tables[ref]
		n.own[ref] = append(n.own[ref], i)
		if d.names.people(tab) {
			n.people = append(n.people, i)
		}
		for _, w := range tab {
			put(n.words, w, i)
			put(n.starts, w[:min(3, len(w))], i)
			put(n.starts, w[:1], i)
		}
		put(n.words, strings.Join(tab, ""), i)
		put(n.words, initials(tab), i)
		for _, x := range d.names.of(ref, k.column.Name) {
			put(n.words, x.name, i)
			for _, w := range x.words {
				if !handles[w] {
					put(n.words, w, i)
				}
			}
			put(n.words, strings.Join(x.stem, ""), i)
		}
	}
	return n
}

// of lists the keys near a column, each once and in their order.
func (n *nearby) of(t *catalog.Table, terms []term) []int {
	if len(terms) != 1 {
		return merged(n.own[t.Ref()], n.byWords(terms))
	}
	return merged(n.own[t.Ref()], n.named(terms))
}

// named lists the keys near a name, of whatever table.
func (n *nearby) named(terms []term) []int {
	n.mutex.Lock()
	defer n.mutex.Unlock()
	list, ok := n.known[terms[0].name]
	if !ok {
		list = merged(n.byWords(terms), nil)
		n.known[terms[0].name] = list
	}
	return list
}

// merged joins two lists, each number once and in order.
func merged(a, b []int) []int {
	list := append(slices.Clone(a), b...)
	slices.Sort(list)
	return slices.Compact(list)
}

// byWords lists the keys that share a word, or the beginning of one, with a
// column.
func (n *nearby) byWords(terms []term) []int {
	var list []int
	add := func(keys []int) {
		if len(keys) <= shared {
			list = append(list, keys...)
		}
	}
	for _, x := range terms {
		add(n.words[x.name])
		add(n.words[strings.Join(x.stem, "")])
		for _, w := range append(slices.Clone(x.stem), x.words...) {
			if handles[w] {
				continue
			}
			add(n.words[w])
			for _, start := range []string{w[:min(3, len(w))], w[:1]} {
				if s := n.starts[start]; len(s) <= crowd {
					list = append(list, s...)
				}
			}
			for i := 1; i <= len(w)-4; i++ { // replacedbystation, in one word
				add(n.words[w[i:]])
				add(n.words[w[:len(w)-i]])
			}
		}
		if person(x) {
			add(n.people)
		}
	}
	return list
}
