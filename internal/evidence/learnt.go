package evidence

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// A namesake is what columns of one name refer to in tables where that is declared or proven.
type namesake struct {
	self   bool // each to the key of its own table
	target place
}

// learn gathers, by the name of the column, which tables' columns refer to what: templateid may
// tell of hosts, and its name does not.
func learn(declared []Reference, found [][]Reference) map[string]map[namesake][]catalog.Ref {
	learnt := map[string]map[namesake][]catalog.Ref{}
	note := func(r Reference) {
		name := strings.ToLower(r.Columns[0])
		if learnt[name] == nil {
			learnt[name] = map[namesake][]catalog.Ref{}
		}
		n := namesake{self: r.From() == r.To()}
		if !n.self {
			n.target = place{r.To(), r.TargetColumns[0]}
		}
		learnt[name][n] = append(learnt[name][n], r.From())
	}
	for _, r := range declared {
		if len(r.Columns) == 1 {
			note(r)
		}
	}
	for _, list := range found {
		if len(list) > 0 && list[0].Score >= proven && list[0].RowsChecked > 0 && list[0].Orphans == 0 {
			note(list[0])
		}
	}
	return learnt
}

// proven is how probable a reference must be for others to be told by it.
const proven = 0.8

// taught is how much the columns of the same name of other tables speak for each key, by its
// place: 0.5 where one refers to it, 1 where more do.
func (d *discovery) taught(t *catalog.Table, c *catalog.Column) map[place]float64 {
	var all map[place]float64
	for n, from := range d.learnt[strings.ToLower(c.Name)] {
		times := len(from)
		if slices.Contains(from, t.Ref()) {
			times-- // it is no witness for itself
		}
		if n.self {
			if t.PrimaryKey == nil || len(t.PrimaryKey.Columns) != 1 {
				continue
			}
			n.target = place{t.Ref(), t.PrimaryKey.Columns[0]}
		}
		if times > 0 {
			if all == nil {
				all = map[place]float64{}
			}
			all[n.target] = max(all[n.target], min(1, 0.5*float64(times)))
		}
	}
	return all
}

// people adds up the probabilities with which columns named after roles refer to tables of
// people: where captains and deputies are keepers, authors are.
func (d *discovery) people(found [][]Reference) map[catalog.Ref]float64 {
	all := map[catalog.Ref]float64{}
	note := func(r Reference, p float64) {
		from, to := d.lookup.Table(r.From()), d.lookup.Table(r.To())
		if from != nil && to != nil && len(r.Columns) == 1 && d.names.people(d.names.tables[to]) && slices.ContainsFunc(d.names.of(from, r.Columns[0]), person) {
			all[r.To()] += p
		}
	}
	for _, r := range d.references {
		note(r, 1)
	}
	for _, list := range found {
		for _, r := range list {
			note(r, r.Score)
		}
	}
	return all
}
