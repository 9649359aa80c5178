package rule

import (
	"fmt"
	"slices"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
)

// Data is what the data said, by table.
type Data struct {
	probed     time.Time
	columns    map[catalog.Ref]map[string]*evidence.Column
	references map[catalog.Ref][]*evidence.Reference
	referred   map[catalog.Ref]bool
	promises   map[catalog.Ref][]*evidence.Promise
	keys       map[catalog.Ref][]*evidence.Key
	counters   []evidence.Counter
}

func dataOf(e *evidence.Evidence) *Data {
	if e == nil {
		return nil
	}
	d := &Data{e.Probed, map[catalog.Ref]map[string]*evidence.Column{}, map[catalog.Ref][]*evidence.Reference{}, map[catalog.Ref]bool{}, map[catalog.Ref][]*evidence.Promise{}, map[catalog.Ref][]*evidence.Key{}, e.Counters}
	for i := range e.Keys {
		k := &e.Keys[i]
		ref := catalog.Ref{Schema: k.Schema, Table: k.Table}
		d.keys[ref] = append(d.keys[ref], k)
	}
	for i := range e.Columns {
		c := &e.Columns[i]
		ref := catalog.Ref{Schema: c.Schema, Table: c.Table}
		if d.columns[ref] == nil {
			d.columns[ref] = map[string]*evidence.Column{}
		}
		d.columns[ref][c.Column] = c
	}
	for i := range e.References {
		r := &e.References[i]
		d.references[r.From()] = append(d.references[r.From()], r)
		d.referred[r.To()] = true
	}
	for i := range e.Promises {
		x := &e.Promises[i]
		ref := catalog.Ref{Schema: x.Schema, Table: x.Table}
		d.promises[ref] = append(d.promises[ref], x)
	}
	return d
}

// Keys are what is unique in the table, declared or not.
func (d *Data) Keys(t *catalog.Table) []*evidence.Key { return d.keys[t.Ref()] }

// Promises are what the table's data was tried against.
func (d *Data) Promises(t *catalog.Table) []*evidence.Promise { return d.promises[t.Ref()] }

// Behind are the counters whose next number is in use.
func (d *Data) Behind() []evidence.Counter {
	return slices.DeleteFunc(slices.Clone(d.counters), func(k evidence.Counter) bool { return !k.Behind })
}

// Column is what is known of a column, or nil.
func (d *Data) Column(t *catalog.Table, name string) *evidence.Column {
	return d.columns[t.Ref()][name]
}

// References are those of the table, declared or not.
func (d *Data) References(t *catalog.Table) []*evidence.Reference { return d.references[t.Ref()] }

// ReferredTo reports whether a reference leads to the table.
func (d *Data) ReferredTo(t *catalog.Table) bool { return d.referred[t.Ref()] }

// age says how old the evidence is where it was gathered apart from the survey.
func (d *Data) age(surveyed time.Time) string {
	apart := surveyed.Sub(d.probed)
	switch {
	case apart > 48*time.Hour:
		return fmt.Sprintf(" (asked %d days before this survey, on %s)", int(apart.Hours())/24, d.probed.Format(time.DateOnly))
	case apart > time.Hour:
		return fmt.Sprintf(" (asked %d hours before this survey)", int(apart.Hours()))
	case apart < -time.Hour:
		return fmt.Sprintf(" (asked on %s, after this survey)", d.probed.Format(time.DateOnly))
	}
	return ""
}

// CertaintyOf says what a finding rests on that leans on rows that were looked
// at.
func CertaintyOf(verified bool) Certainty {
	if verified {
		return Verified
	}
	return Sampled
}
