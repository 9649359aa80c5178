package upkeep

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// noValues says why no part for one value can be made of a table that is partitioned by
// lists; "": one can be.
func (m Pattern) noValues(all bool) string {
	switch {
	case Method(m.t) != "list":
		return "it is not partitioned by lists of values"
	case !all:
		return "the bounds of some partitions are not understood"
	case len(m.t.PartitionBy.Columns) != 1 || m.t.Column(m.t.PartitionBy.Columns[0]) == nil || m.in.Abilities.ListBounds == nil:
		return "it is partitioned by more than the values of one column"
	}
	return m.Whole(true)
}

// Column is the one that a list is of.
func (t Table) Column() *catalog.Column { return t.t.Column(t.t.PartitionBy.Columns[0]) }

// HasRest reports whether some partition takes what no other does.
func (t Table) HasRest() bool { return Open(t.list) }

// Untaken are the values that no list names.
func (t Table) Untaken(values []string) []string {
	return slices.DeleteFunc(slices.Clone(values), func(v string) bool {
		return slices.ContainsFunc(t.list, func(x Partition) bool {
			return slices.ContainsFunc(x.Bounds.Values, func(b catalog.Bound) bool { return b.Text == v })
		})
	})
}

// Holds is the condition that a row has the value.
func (t Table) Holds(value string) string {
	_, condition := t.in.Abilities.ListBounds(t.t, value)
	return condition
}

// forValue makes the part for one value, named as those for one value are.
func (t Table) forValue(value string) change.AddPartition {
	before, behind := t.t.Name+"_", ""
	if !t.in.Abilities.PartsAreTables {
		before = catalog.InCaseOf("p_", t.t.Name)
	}
	counts := map[[2]string]int{}
	for _, x := range t.list {
		if len(x.Bounds.Values) != 1 {
			continue
		}
		word := inName(x.Bounds.Values[0].Text)
		if i := strings.LastIndex(x.Name, word); i >= 0 && word != "" {
			way := [2]string{x.Name[:i], x.Name[i+len(word):]}
			if counts[way]++; counts[way] > counts[[2]string{before, behind}] {
				before, behind = way[0], way[1]
			}
		}
	}
	bounds, condition := t.in.Abilities.ListBounds(t.t, value)
	ch := t.Add(t.notTaken(before+catalog.InCaseOf(inName(value), before)+behind), bounds, NoEnd).(change.AddPartition)
	if d := t.Default(); d != nil {
		ch.From, ch.Where = d.Name, condition
	}
	return ch
}

// notTaken is the name, or one that no part bears, where parts are no tables.
func (t Table) notTaken(name string) string {
	// Of two values that differ in signs or capitals alone each gets a part.
	for !t.in.Abilities.PartsAreTables && (t.in.Names.Taken(t.t.Schema, name) || slices.ContainsFunc(t.list, func(x Partition) bool { return strings.EqualFold(x.Name, name) })) {
		name += "_"
	}
	return name
}

// inName is a value as part of a name: small letters and digits.
func inName(value string) string {
	word := strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9':
			return r
		case r >= 'A' && r <= 'Z':
			return r - 'A' + 'a'
		}
		return '_'
	}, value)
	return word[:min(len(word), 40)]
}
