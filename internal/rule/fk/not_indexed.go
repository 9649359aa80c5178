// Package fk holds the rules on references between tables.
package fk

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var NotIndexed = &rule.Rule{
	ID:          "fk/not-indexed",
	Title:       "foreign key without an index",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"index"},
	Uses:        []rule.Need{rule.Evidence},
	Options: []rule.Option{
		{Name: "large", Default: int64(1_000_000), Doc: "rows from which it is an error"},
		{Name: "small", Default: int64(100), Doc: "rows below which it is a notice, unless the table is empty"},
		{Name: "skipped", Default: int64(50), Doc: "different values of an index's first column that are few enough to be skipped through, where the engine can"},
	},
	Doc: `No index begins with the columns of the foreign key, in whatever order.

Each time a row of the table referred to is deleted, or its key changes, the engine looks for rows that refer to it. Without an index it reads the whole referring table, and holds its locks for as long. Joins from parent to child scan likewise.

A partial index counts only if it leaves out nothing but nulls; an index that is not valid, or of a kind that cannot search by equality, does not count. On a table of 1,000,000 rows or more the finding is an error, on one that the engine counts to fewer than 100, and that is not empty, a notice.

Where the engine can skip through an index, one whose first column holds at most 50 different values serves a search on those behind it as well, though less well than an index of its own: then it is a notice.

Where the engine has no foreign keys, references count that were accepted, and with evidence (nexdal probe, then --evidence) those that names and values speak for.

Leave it alone where the parent's rows are never deleted, its keys never change, and nobody joins from parent to child.

The fix creates the index, without blocking writes where the engine can. On a partitioned table it is built partition by partition and attached.`,
	Check: checkNotIndexed,
}

func checkNotIndexed(p *rule.Pass) error {
	if p.Abilities.Indexless {
		return nil
	}
	unread := 0
	for _, t := range p.Owned {
		if p.Abilities.NoForeignKeys {
			if p.Unread(t, "indexes") {
				unread += len(meant(p, t))
				continue
			}
			for _, m := range meant(p, t) {
				if !t.FindsRows(m.key.Columns, p.Abilities.Reads()) {
					p.Report(lookedUp(p, t, m.key))
				}
			}
			continue
		}
		for _, f := range t.ForeignKeys {
			if f.Inherited || p.Lookup.Table(f.Target) == nil || t.FindsRows(f.Columns, p.Abilities.Reads()) {
				continue // of no table nothing is ever deleted
			}
			if n := len(f.Columns) - 1; f.Period && n > 0 { // rows of the others are few, and looked through
				if t.FindsRows(f.Columns[:n], p.Abilities.Reads()) || slices.ContainsFunc(t.Indexes, func(x *catalog.Index) bool {
					return x.Method == "gist" && !x.Invalid && x.Predicate == "" && x.LeadsWith(f.Columns)
				}) {
					continue
				}
				f = f.Clone()
				f.Columns = f.Columns[:n]
			}
			p.Report(notIndexed(p, t, f))
		}
	}
	p.NotJudged("the indexes", "", unread)
	return nil
}

// lookedUp is a reference by which no rows are found but by a look at all of them.
func lookedUp(p *rule.Pass, t *catalog.Table, f *catalog.ForeignKey) rule.Finding {
	found := notIndexed(p, t, f)
	found.Message = fmt.Sprintf("finding the rows of \"%s\" that refer to one of \"%s\" reads all of them: no index starts with %s", t.Name, p.Called(f.Target), text.Names(f.Columns))
	return found
}

func notIndexed(p *rule.Pass, t *catalog.Table, f *catalog.ForeignKey) rule.Finding {
	rows := text.Rows(t.Stats.Rows, t.Stats.Exact)
	if rows != "" {
		rows = " (" + rows + ")"
	}
	found := rule.Finding{
		Table: t.Ref(), Object: f.Label(), Columns: f.Columns,
		Message: fmt.Sprintf("deleting from \"%s\", or changing its key, scans all of \"%s\"%s: no index starts with %s",
			p.Called(f.Target), t.Name, rows, text.Names(f.Columns)),
	}
	if p.Abilities.ChildrenLocked {
		found.Message = fmt.Sprintf("deleting from \"%s\", or changing its key, locks all of \"%s\"%s against writes, and scans it: no index starts with %s",
			p.Called(f.Target), t.Name, rows, text.Names(f.Columns))
	}
	if n := t.Stats.Rows; n != nil && *n > 0 {
		switch {
		case *n >= p.Count(t, "large"):
			found.Severity, found.Certainty = rule.Error, rule.ByStatistics
		case *n < p.Count(t, "small"):
			found.Severity, found.Certainty = rule.Notice, rule.ByStatistics
		}
	}
	skipsThrough(p, t, f.Columns, &found)
	x := &catalog.Index{Name: p.Names.Free(t.Schema, "idx", append([]string{t.Name}, f.Columns...)...), Origin: catalog.ByPerson, Method: "btree"}
	for _, name := range f.Columns {
		x.Parts = append(x.Parts, catalog.IndexPart{Column: name})
	}
	create := change.CreateIndex{Table: t.Ref(), Index: x}
	if held := shares(p, t, x.Name, f.Columns, &create.Partitions); held != "" {
		found.Advice = fmt.Sprintf("partition %s has an index of its own on these columns: create the index on only \"%s\", then attach the partitions' indexes to it", held, t.Name)
		return found
	}
	found.Fixes = []rule.Fix{{ID: "index", Title: "create index " + text.Name(x.Name), Changes: []change.Change{create}}}
	return found
}

// skipsThrough looks for an index in which another column stands in front of these: the
// engine may go through it value by value of that.
func skipsThrough(p *rule.Pass, t *catalog.Table, columns []string, found *rule.Finding) {
	if !p.Abilities.SkipsColumns {
		return
	}
	for _, x := range t.Indexes {
		if len(x.Parts) <= len(columns) || x.Parts[0].Column == "" {
			continue
		}
		behind := *x
		behind.Parts = x.Parts[1:]
		first := t.Column(x.Parts[0].Column)
		if first == nil || x.Method != "btree" || !behind.FindsRows(columns, p.Abilities.Reads()) {
			continue
		}
		if first.Stats.Distinct == nil {
			found.Message += fmt.Sprintf("; index \"%s\" may serve, if \"%s\" holds few values", x.Name, first.Name)
			return
		}
		if n := int64(*first.Stats.Distinct + 0.5); n <= p.Count(t, "skipped") {
			found.Severity, found.Certainty = rule.Notice, rule.ByStatistics
			found.Message = fmt.Sprintf("no index starts with %s; index \"%s\" is searched in its place, once for each of %s of \"%s\"", text.Names(columns), x.Name, text.Plural(n, "value"), first.Name)
			return
		}
	}
}

// shares lists the index's share in every partition below t. It stops and
// names the partition where one has a matching index already.
func shares(p *rule.Pass, t *catalog.Table, parent string, columns []string, into *[]change.PartitionIndex) (held string) {
	for _, part := range p.Lookup.Partitions(t.Ref()) {
		if part.FindsRows(columns, p.Abilities.Reads()) || part.Kind == catalog.Foreign {
			return part.Name
		}
		name := p.Names.Free(part.Schema, "idx", append([]string{part.Name}, columns...)...)
		*into = append(*into, change.PartitionIndex{Table: part.Ref(), Name: name, Parent: parent})
		if held := shares(p, part, name, columns, into); held != "" {
			return held
		}
	}
	return ""
}
