package upkeep

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// A length is one that a table may be partitioned in.
type length struct {
	name   string
	stride stride
	layout string // of the parts' names
}

var lengths = []length{{"day", stride{days: 1}, "2006_01_02"}, {"week", stride{days: 7}, "2006_01_02"}, {"month", stride{months: 1}, "2006_01"}, {"quarter", stride{months: 3}, "2006_01"}, {"year", stride{months: 12}, "2006"}}

// A Partitioning is how a plain table is to be partitioned.
type Partitioning struct {
	Column string
	Every  string    // "day", "week", "month", "quarter", "year"
	From   time.Time // where the first partition, which takes the rows that are there, ends; zero: at the next period but one
	Until  time.Time // up to where partitions are made
	Ahead  int       // or so many periods ahead of the survey
	Rest   bool      // one for what no other takes
	Most   int
	// Zone is where days begin; nil: UTC.
	Zone *time.Location
	// Without lets foreign keys go, of the table and to it, where the engine has none on
	// partitioned tables.
	Without bool
}

// start is the beginning of the period that the moment lies in.
func (s stride) start(at time.Time) time.Time {
	at = day(at, at.Location())
	switch {
	case s.months > 0:
		return time.Date(at.Year(), at.Month()-time.Month((int(at.Month())-1)%s.months), 1, 0, 0, 0, 0, at.Location())
	case s.days == 7:
		return at.AddDate(0, 0, -(int(at.Weekday())+6)%7) // Monday
	}
	return at
}

func (w Partitioning) zone() *time.Location {
	if w.Zone == nil {
		return time.UTC
	}
	return w.Zone
}

func (w Partitioning) each() (length, bool) {
	for _, l := range lengths {
		if l.name == w.Every {
			return l, true
		}
	}
	return length{}, false
}

// Periods are the beginnings of the periods from the one of a moment to that of another.
func (w Partitioning) Periods(from, to time.Time) []time.Time {
	each, _ := w.each()
	var all []time.Time
	for at := each.stride.start(from.In(w.zone())); !at.After(to); at = each.stride.after(at) {
		all = append(all, at)
	}
	return all
}

// Condition is what the rows of the period that begins then have in common.
func (w Partitioning) Condition(t *catalog.Table, can catalog.Abilities, at time.Time) string {
	each, _ := w.each()
	cutUp := t.Clone()
	if can.RangeKey == nil {
		after := each.stride.after(at)
		return can.InRange(w.Column, catalog.Bound{At: &at}, catalog.Bound{At: &after})
	}
	var like catalog.Bound
	cutUp.PartitionBy, like = can.RangeKey(t, w.Column)
	return can.InRange(w.Column, can.BoundAt(cutUp, at, like), can.BoundAt(cutUp, each.stride.after(at), like))
}

// Plan is what partitions the table, or why it cannot be.
func (w Partitioning) Plan(c *catalog.Catalog, can catalog.Abilities, names *catalog.Names, t *catalog.Table) ([]change.Change, error) {
	each, ok := w.each()
	if !ok {
		return nil, fmt.Errorf("a table is partitioned by day, week, month, quarter or year, not by %q", w.Every)
	}
	col := t.Column(w.Column)
	switch {
	case t.Kind != catalog.Ordinary || t.PartitionBy != nil || t.PartitionOf != nil:
		return nil, fmt.Errorf("%s is no plain table", t.Ref())
	case col == nil:
		return nil, fmt.Errorf("%s has no column %s", t.Ref(), w.Column)
	case can.PartitionEvery != nil:
		return w.made(can, t)
	case can.RangeKey == nil:
		return nil, fmt.Errorf("tables of this engine are not partitioned")
	}
	by, like := can.RangeKey(t, w.Column)
	if by == nil {
		return nil, fmt.Errorf("%s is a %s: ranges of time need a day or a moment", w.Column, col.Type.Native)
	}
	for _, k := range t.UniqueKeys {
		if !slices.Contains(k.Columns, w.Column) {
			return nil, fmt.Errorf("unique key %s (%s) does not hold %s: over several partitions nothing could keep it", k.Name, strings.Join(k.Columns, ", "), w.Column)
		}
	}
	for _, x := range t.Indexes {
		if x.Unique && x.Origin == catalog.ByPerson && !slices.Contains(x.Columns(), w.Column) {
			return nil, fmt.Errorf("unique index %s does not hold %s: over several partitions nothing could keep it", x.Name, w.Column)
		}
	}
	var changes []change.Change
	if col.Nullable {
		changes = append(changes, change.SetNullable{Table: t.Ref(), Column: w.Column})
	}
	cut := change.PartitionTable{Table: t.Ref(), By: by, AsTables: can.PartsAreTables}
	if k := t.PrimaryKey; k != nil && !slices.Contains(k.Columns, w.Column) {
		key := *k
		key.Columns = append(slices.Clone(k.Columns), w.Column)
		cut.Key = &key
	}
	more, err := w.references(c, can, names, t, &cut)
	if err != nil {
		return nil, err
	}
	changes = append(changes, more...)
	cutUp := t.Clone()
	cutUp.PartitionBy = by
	like.At = &time.Time{}
	surveyed := c.Surveyed.In(w.zone())
	at := day(w.From, w.zone())
	if at.IsZero() {
		at = each.stride.after(each.stride.after(each.stride.start(surveyed)))
	}
	name := func(of string) string {
		if !can.PartsAreTables {
			if of[0] < '0' || of[0] > '9' {
				return catalog.InCaseOf(of, t.Name)
			}
			return catalog.InCaseOf("p", t.Name) + of
		}
		of = t.Name + "_" + of
		if names.Taken(t.Schema, of) || len(of) > can.MaxName {
			return names.Free(t.Schema, "part", of)
		}
		names.Take(t.Schema, of)
		return of
	}
	first := can.BoundAt(cutUp, at, like)
	ends := []string{first.Text}
	cut.Parts = append(cut.Parts, change.Part{Name: name("until_" + at.Format(each.layout)), Bounds: can.RangeBounds(cutUp, catalog.Bound{Text: "MINVALUE", Least: true}, first)})
	until := day(w.Until, w.zone())
	ahead := surveyed
	for range w.Ahead {
		ahead = each.stride.after(ahead)
	}
	if w.Ahead > 0 && ahead.After(until) {
		until = ahead
	}
	for at.Before(until) {
		if len(cut.Parts) > w.Most {
			return nil, fmt.Errorf("up to %s it would take more than %d partitions; say so if they are meant (--limit)", until.Format(time.DateOnly), w.Most)
		}
		next := each.stride.after(at)
		cut.Parts = append(cut.Parts, change.Part{Name: name(at.Format(each.layout)), Bounds: can.RangeBounds(cutUp, can.BoundAt(cutUp, at, like), can.BoundAt(cutUp, next, like))})
		ends = append(ends, can.BoundAt(cutUp, next, like).Text)
		at = next
	}
	if w.Rest && can.Boundaries == nil {
		cut.Parts = append(cut.Parts, change.Part{Name: name("rest"), Bounds: can.RestBounds(cutUp)})
	}
	if can.Boundaries != nil {
		shared := can.Boundaries(c, cutUp)
		if shared.Refused != "" {
			return nil, fmt.Errorf("%s", shared.Refused)
		}
		changes = append(changes, w.function(shared, &cut, ends))
	}
	return append(changes, cut), nil
}

// function makes the function that cuts the table up at those values, what places its parts, and
// lets these be the parts: they have numbers for names, and the last takes what no other does.
func (w Partitioning) function(shared *catalog.Boundaries, cut *change.PartitionTable, ends []string) change.Change {
	definition, parts := shared.At(ends)
	cut.Parts, cut.Place = nil, shared.Place
	for _, p := range parts {
		cut.Parts = append(cut.Parts, change.Part{Name: p.Name, Bounds: p.Bounds})
	}
	objects := shared.Objects
	objects[0].Definition = definition
	return change.CreateObjects{What: &catalog.Catalog{Objects: objects}}
}

// made is what partitions the table where the engine makes the parts as rows come.
func (w Partitioning) made(can catalog.Abilities, t *catalog.Table) ([]change.Change, error) {
	if w.Rest || w.Ahead > 0 || !w.Until.IsZero() || !w.From.IsZero() {
		return nil, fmt.Errorf("the engine makes the partitions as rows come: there are none to be made ahead, and there is no rest")
	}
	by := can.PartitionEvery(t, w.Column, w.Every)
	if by == nil {
		return nil, fmt.Errorf("%s is a %s: partitions are by day, month or year, of a day or a moment", w.Column, t.Column(w.Column).Type.Native)
	}
	return []change.Change{change.PartitionTable{Table: t.Ref(), By: by}}, nil
}

// references moves the foreign keys of others to the key that holds the column, or lets
// go those that the engine cannot have.
func (w Partitioning) references(c *catalog.Catalog, can catalog.Abilities, names *catalog.Names, t *catalog.Table, cut *change.PartitionTable) ([]change.Change, error) {
	var changes []change.Change
	referrers := c.Lookup().Referrers(t.Ref())
	if can.PartitionedReferences && !can.PartsAreTables {
		if cut.Key != nil && len(referrers) > 0 {
			return nil, fmt.Errorf("foreign key %s of %s refers to the primary key, which would have to hold %s", referrers[0].ForeignKey.Label(), referrers[0].Table.Ref(), w.Column)
		}
		return nil, nil
	}
	if !can.PartsAreTables {
		if n := len(referrers) + len(t.ForeignKeys); n > 0 && !w.Without {
			return nil, fmt.Errorf("this engine has no foreign keys of or to partitioned tables; %d would have to go (--without-references)", n)
		}
		for _, f := range t.ForeignKeys {
			changes = append(changes, change.DropForeignKey{Table: t.Ref(), ForeignKey: f, Early: true})
		}
		for _, r := range referrers {
			changes = append(changes, change.DropForeignKey{Table: r.Table.Ref(), ForeignKey: r.ForeignKey, Early: true})
		}
		return changes, nil
	}
	for _, r := range referrers {
		child, f := r.Table, r.ForeignKey
		if slices.Contains(f.TargetColumns, w.Column) {
			return nil, fmt.Errorf("foreign key %s of %s refers to %s already, by a key of its own; see to it by hand", f.Label(), child.Ref(), w.Column)
		}
		if cut.Key == nil || !catalog.SameColumns(f.TargetColumns, t.PrimaryKey.Columns) || child.Kind != catalog.Ordinary || child.PartitionOf != nil || child == t {
			return nil, fmt.Errorf("foreign key %s of %s refers to what nothing keeps unique over the parts", f.Label(), child.Ref())
		}
		name := w.Column
		if child.Column(name) != nil { // then it takes the table's name in front
			name = t.Name + "_" + w.Column
		}
		if child.Column(name) != nil {
			return nil, fmt.Errorf("%s has a column %s already", child.Ref(), name)
		}
		moved := f.Clone()
		moved.Name = names.Free(child.Schema, "fkey", append([]string{child.Name}, append(slices.Clone(f.Columns), name)...)...)
		moved.Columns, moved.TargetColumns = append(slices.Clone(f.Columns), name), append(slices.Clone(f.TargetColumns), w.Column)
		if f.OnDelete == catalog.SetNull || f.OnDelete == catalog.SetDefault {
			moved.SetColumns = nil
		}
		changes = append(changes, change.AddColumn{Table: child.Ref(), Column: &catalog.Column{Name: name, Type: t.Column(w.Column).Type, Nullable: true}},
			change.BackfillColumn{Table: child.Ref(), Column: name, Via: f, From: w.Column})
		if !slices.ContainsFunc(child.Indexes, func(x *catalog.Index) bool { return x.FindsRows(moved.Columns, can.Reads()) }) {
			x := &catalog.Index{Name: names.Free(child.Schema, "idx", append([]string{child.Name}, moved.Columns...)...), Origin: catalog.ByPerson, Method: "btree"}
			for _, part := range moved.Columns {
				x.Parts = append(x.Parts, catalog.IndexPart{Column: part})
			}
			changes = append(changes, change.CreateIndex{Table: child.Ref(), Index: x})
		}
		cut.Moved = append(cut.Moved, change.Repointed{Table: child.Ref(), Old: f, New: moved})
	}
	return changes, nil
}
