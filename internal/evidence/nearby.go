package evidence

import (
	"slices"
	"strings"
	"sync"

	"nexdal/internal/catalog"
)

// A nearby finds the keys that a column's name may speak of without comparing it
// with all: by their words, by how these begin, by people for roles. Only what
// some column's name asks for is kept.
type nearby struct {
	words, starts index // of table and key, whole, joined, their first letters together; the first three letters of a table's words, and the first alone
	people        []int
	own           map[*catalog.Table][]int // the keys of a table

	mutex sync.Mutex       // over what follows
	known map[string][]int // what was found for a name, which many columns have
}

// crowd is how many keys a beginning may be shared by to be worth a look.
const crowd = 300

// shared is how many keys may share a word before it tells nothing.
const shared = 1000

// An index lists the keys that have a word, for the words that are asked for.
type index struct {
	at   map[string]int // the place of a word's keys
	keys [][]int
	most int // more keys than these tell nothing
}

func indexOf(most int) index { return index{at: map[string]int{}, most: most} }

// ask has the word's keys listed.
func (x *index) ask(word string) {
	if _, ok := x.at[word]; !ok {
		x.at[word] = len(x.keys)
		x.keys = append(x.keys, nil)
	}
}

// put notes a key that has the word.
func (x *index) put(word string, key int) {
	i, ok := x.at[word]
	if !ok {
		return
	}
	if list := x.keys[i]; len(list) <= x.most && (len(list) == 0 || list[len(list)-1] != key) {
		x.keys[i] = append(list, key)
	}
}

// of lists the keys that have the word; none where too many have it.
func (x *index) of(word string) []int {
	if i, ok := x.at[word]; ok && len(x.keys[i]) <= x.most {
		return x.keys[i]
	}
	return nil
}

func (d *discovery) nearbyOf(parents []parentKey) *nearby {
	n := &nearby{words: indexOf(shared), starts: indexOf(crowd), own: make(map[*catalog.Table][]int, len(d.tables)), known: map[string][]int{}}
	for _, x := range d.names.alone {
		asksFor(x, n.words.ask, n.starts.ask)
	}
	for _, columns := range d.names.terms {
		for _, x := range columns {
			asksFor(x, n.words.ask, n.starts.ask)
		}
	}
	number := make([]int, len(parents))
	for i, k := range parents {
		number[i] = i
		// The keys of one table stand together.
		first := i
		for first > 0 && parents[first-1].table == k.table {
			first--
		}
		n.own[k.table] = number[first : i+1 : i+1]
		tab := d.names.tables[k.table]
		if len(n.people) <= shared && d.names.people(tab) {
			n.people = append(n.people, i)
		}
		for _, w := range tab {
			n.words.put(w, i)
			n.starts.put(w[:min(3, len(w))], i)
			n.starts.put(w[:1], i)
		}
		if len(tab) > 1 {
			n.words.put(strings.Join(tab, ""), i)
			n.words.put(initials(tab), i)
		}
		for _, x := range d.names.of(k.table, k.column.Name) {
			n.words.put(x.name, i)
			for _, w := range x.words {
				if !handles.has(w) {
					n.words.put(w, i)
				}
			}
			n.words.put(strings.Join(x.stem, ""), i)
		}
	}
	return n
}

// of lists the keys near a column, each once and in their order.
func (n *nearby) of(t *catalog.Table, terms []term) []int {
	if len(terms) != 1 {
		return merged(n.own[t], n.byWords(terms))
	}
	return merged(n.own[t], n.named(terms))
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
	asksFor(terms, func(w string) { list = append(list, n.words.of(w)...) }, func(w string) { list = append(list, n.starts.of(w)...) })
	if len(n.people) <= shared && slices.ContainsFunc(terms, person) {
		list = append(list, n.people...)
	}
	return list
}

// asksFor gives the words, and the beginnings of words, by which a key that a
// column speaks of is found.
func asksFor(terms []term, word, start func(string)) {
	for _, x := range terms {
		word(x.name)
		word(strings.Join(x.stem, ""))
		for _, w := range append(slices.Clone(x.stem), x.words...) {
			if handles.has(w) {
				continue
			}
			word(w)
			start(w[:min(3, len(w))])
			start(w[:1])
			for i := 1; i <= len(w)-4; i++ { // replacedbystation, in one word
				word(w[i:])
				word(w[:len(w)-i])
			}
		}
	}
}
