package upkeep

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/text"
)

// A Task is upkeep that a table needs, and why.
type Task struct {
	Tend   change.Maintain
	Reason string
	Takes  time.Duration // a rough guess, by the bytes that it reads and writes
	Gain   float64       // the bytes that later searches need not read, or that they are planned by
}

// perSecond is how many bytes upkeep gets through in a second, roughly.
const perSecond = 50 << 20

// Maintenance lists what the tables need by their figures, the greatest gain for its time
// first. Tables below so many rows are left alone.
func Maintenance(c *catalog.Catalog, can catalog.Abilities, least int64) []Task {
	var tasks []Task
	for _, t := range c.Tables() {
		rows := t.Stats.Rows
		if !t.IsOwn() || t.PartitionBy != nil && can.PartsAreTables || rows == nil || *rows < least {
			continue
		}
		bytes := int64(8192)
		if t.Stats.Bytes != nil {
			bytes = max(bytes, *t.Stats.Bytes)
		}
		add := func(what change.Maintenance, gain float64, share float64, reason string, args ...any) {
			tasks = append(tasks, Task{change.Maintain{Table: t.Ref(), What: what}, fmt.Sprintf(reason, args...), time.Duration(max(1, share*float64(bytes)/perSecond) * float64(time.Second)), gain})
		}
		if dead := t.Stats.DeadRows; dead != nil && *dead > 0 {
			if part := float64(*dead) / float64(*dead+*rows); part > 0.1 {
				add(change.ReclaimSpace, part*float64(bytes), 2, "%s are gone and take room, %.0f %% of the table", text.Plural(*dead, "row"), 100*part)
			}
		}
		if u := t.Stats.Unsorted; u != nil && *u > 0.05 {
			add(change.SortRows, *u*float64(bytes), 2**u+0.1, "%.0f %% of the rows are out of order", 100**u)
		}
		switch stale := t.Stats.Stale; {
		case stale != nil && *stale > 0.05:
			add(change.Analyze, *stale*float64(bytes)/2, 0.2, "the engine's figures are off by %.0f %%", 100**stale)
		case stale == nil && t.Stats.Analysed == nil && can.CountsReads:
			add(change.Analyze, float64(bytes)/2, 0.2, "the engine has never looked at its values")
		case stale == nil && t.Stats.Analysed != nil && c.Surveyed.Sub(*t.Stats.Analysed) > 30*24*time.Hour:
			add(change.Analyze, float64(bytes)/4, 0.2, "the engine looked at its values %s ago", text.Plural(int64(c.Surveyed.Sub(*t.Stats.Analysed)/(24*time.Hour)), "day"))
		}
		if air, of := bloat(t, can); air > 0.5*float64(of) && of > 1<<20 {
			add(change.RebuildIndexes, air, 2, "its indexes take %s, of which about %s are air", text.Size(of), text.Size(int64(air)))
		}
	}
	slices.SortStableFunc(tasks, func(a, b Task) int {
		return cmp.Or(cmp.Compare(b.Gain/b.Takes.Seconds(), a.Gain/a.Takes.Seconds()), a.Tend.Table.Compare(b.Tend.Table), strings.Compare(string(a.Tend.What), string(b.Tend.What)))
	})
	return tasks
}

// bloat guesses the air in a table's indexes, of those whose columns have a fixed width.
func bloat(t *catalog.Table, can catalog.Abilities) (air float64, of int64) {
	if can.IndexEntry == 0 {
		return 0, 0
	}
	for _, x := range t.Indexes {
		width := int64(0)
		for _, part := range x.Parts {
			c := t.Column(part.Column)
			if c == nil || c.Type.Family != catalog.Integer && c.Type.Family != catalog.Timestamp && c.Type.Family != catalog.Date && c.Type.Family != catalog.UUID {
				width = 0
				break
			}
			width += 8
		}
		if width == 0 || x.Bytes == nil || x.Predicate != "" || x.Invalid {
			continue
		}
		need := float64(*t.Stats.Rows*(width+can.IndexEntry)) * 10 / 9
		of += *x.Bytes
		air += max(0, float64(*x.Bytes)-need)
	}
	return air, of
}

// Within keeps the tasks that fit into the time, in their order.
func Within(tasks []Task, time time.Duration) []Task {
	if time == 0 {
		return tasks
	}
	var fit []Task
	left := time
	for _, t := range tasks {
		if t.Takes <= left {
			fit, left = append(fit, t), left-t.Takes
		}
	}
	return fit
}
