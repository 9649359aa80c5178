package key

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var PairNotUnique = &rule.Rule{
	ID:          "key/pair-not-unique",
	Title:       "linking table that can link the same pair twice",
	Severity:    rule.Warning,
	Consequence: rule.Unprotected,
	Fixes:       []string{"unique"},
	Applies:     uniqueKeys,
	Doc: `A table links rows of other tables: it has two or more foreign keys, a generated key of its own, and next to nothing besides. Nothing keeps the combination of its references unique, so the same pair can be linked twice; counts and joins then come out wrong.

A table is taken for a linking table only if it has nothing besides its key, its references, and stamps of when and by whom a row was made and changed; one column more if it is named after the tables that it links. A date or time among its own columns says that the same pair may well meet again, as does a column that the rows are numbered by; a table that others refer to is a thing of its own, unless it is so named. Such tables are passed over, and so is one where some unique key or unique index holds two of the references.

Leave it alone where repeating a pair has a meaning.

The fix adds a unique key over the references, with a pre-flight query that lists the pairs that are there twice. An index that it makes needless is dropped with it. Whether a pair may be linked twice is up to you, so that a script holds it only once it was chosen.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			if pair := linked(p, t); pair != nil {
				p.Report(pairNotUnique(p, t, pair))
			}
		}
		return nil
	},
}

var (
	// stamp: columns that say when or by whom, not what.
	stamp = pattern.New(`(?i)^(created|updated|changed|modified|inserted|added|entered|deleted|removed|last_?(change|update|modified))(_?(at|on|by|date|time|ts|stamp|user|user_?id|by_?id))?$|^(row_?)?version$`)
	// order: columns that number the rows of a list.
	order = pattern.New(`(?i)(^|_)(position|pos|rank|seq|sequence|sort|sort_?order|line|line_?no|no|number|nr|step)$`)
)

// linked returns the columns that a linking table refers by, or nil where t
// is no linking table or something keeps the combination unique.
func linked(p *rule.Pass, t *catalog.Table) []string {
	if t.PrimaryKey == nil || len(t.PrimaryKey.Columns) != 1 {
		return nil
	}
	own := t.Column(t.PrimaryKey.Columns[0])
	if own == nil || own.Identity == catalog.NoIdentity && own.Default == "" && own.Type.Family != catalog.UUID {
		return nil
	}
	var links, pair []string
	targets := map[catalog.Ref]bool{}
	for _, f := range t.ForeignKeys {
		if slices.Contains(f.Columns, own.Name) || f.Target == t.Ref() {
			return nil // shares its parent's key, or is a tree
		}
		if slices.ContainsFunc(f.Columns, stamp.MatchString) {
			continue
		}
		if p.Lookup.Table(f.Target) == nil {
			return nil // it leads nowhere: fk/target-not-key
		}
		targets[f.Target] = true
		links = append(links, f.Columns...)
	}
	for _, c := range t.Columns {
		if slices.Contains(links, c.Name) {
			pair = append(pair, c.Name)
		}
	}
	named := namedAfter(t.Name, targets)
	if len(targets) < 2 || len(pair) < 2 || len(pair) > 4 || !bare(t, own.Name, pair, named) || kept(t, pair) {
		return nil
	}
	if len(p.Lookup.Referrers(t.Ref())) > 0 && !named {
		return nil
	}
	return pair
}

// bare reports whether the table has nothing besides key, pair and stamps; or,
// if its name says that it is a link, one column more.
func bare(t *catalog.Table, own string, pair []string, named bool) bool {
	more, most := 0, 0
	if named {
		most = 1
	}
	for _, c := range t.Columns {
		if c.Name == own || slices.Contains(pair, c.Name) || stamp.MatchString(c.Name) {
			continue
		}
		switch c.Type.Family {
		case catalog.Date, catalog.Time, catalog.Timestamp:
			return false
		}
		if more++; more > most || order.MatchString(c.Name) || moment.MatchString(c.Name) {
			return false
		}
	}
	return true
}

// moment: names of dates and times in engines that keep them as text.
var moment = pattern.New(`(?i)(^|_)(at|on|date|time|day|since|until|from|to|start|end|begin|valid|year|month)(_|$)|(date|time)$`)

// kept reports whether some unique key or index deals with the combination.
func kept(t *catalog.Table, pair []string) bool {
	deals := func(columns []string) bool {
		n := 0
		for _, c := range columns {
			if slices.Contains(pair, c) {
				n++
			}
		}
		return n > 1 || n == len(columns) && n > 0
	}
	for _, k := range t.UniqueKeys {
		if deals(k.Columns) {
			return true
		}
	}
	return slices.ContainsFunc(t.Indexes, func(x *catalog.Index) bool {
		return x.Unique && x.Origin == catalog.ByPerson && deals(x.Columns())
	})
}

func namedAfter(name string, targets map[catalog.Ref]bool) bool {
	n := 0
	for ref := range targets {
		if strings.Contains(strings.ToLower(name), strings.TrimSuffix(strings.ToLower(ref.Table), "s")) {
			n++
		}
	}
	return n > 1
}

func pairNotUnique(p *rule.Pass, t *catalog.Table, pair []string) rule.Finding {
	found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: pair,
		Message: fmt.Sprintf("the same %s can be linked twice: nothing keeps (%s) unique", things(t, pair), strings.Join(pair, ", "))}
	if t.Kind == catalog.Partitioned && p.Abilities.PartitionedKeyNeedsColumns {
		found.Advice = "a unique key of this partitioned table has to hold its partition columns; decide what is unique within a partition"
		return found
	}
	// The column that nothing finds rows by yet goes first, so that the key's
	// index serves its foreign key as well.
	columns := slices.Clone(pair)
	slices.SortStableFunc(columns, func(a, b string) int {
		return score(t.FindsRows([]string{a}, p.Abilities.Reads())) - score(t.FindsRows([]string{b}, p.Abilities.Reads()))
	})
	fix := rule.Unique(p, t, columns)
	fix.Title = fmt.Sprintf("keep (%s) unique", strings.Join(columns, ", "))
	fix.Ask = true
	found.Fixes = []rule.Fix{fix}
	return found
}

// things names what is linked: "station and keeper".
func things(t *catalog.Table, pair []string) string {
	var names []string
	for _, c := range pair {
		for _, f := range t.ForeignKeys {
			if slices.Contains(f.Columns, c) && !slices.Contains(names, f.Target.Table) {
				names = append(names, f.Target.Table)
			}
		}
	}
	return text.List(names)
}

func score(found bool) int {
	if found {
		return 1
	}
	return 0
}
