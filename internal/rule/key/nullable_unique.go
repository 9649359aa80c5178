package key

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var NullableUnique = &rule.Rule{
	ID:          "key/nullable-unique",
	Title:       "unique key on nullable columns",
	Severity:    rule.Warning,
	Consequence: rule.Unprotected,
	Fixes:       []string{"not-null", "nulls-alike", "leave-nulls-out"},
	Uses:        []rule.Need{rule.Evidence},
	Applies:     uniqueKeys,
	Doc: `A unique key holds a column that may be null. Nulls are not equal to each other, so that rows with a null there are never held to be alike: of a key of several columns, the others can repeat as often as they like.

That is a warning where the key has several columns of which some are required: it was meant to keep these apart. A key of a single column that may be null mostly means "unique, where there is one", and a column that refers to another table "at most one row for each"; the first is a notice, the second is passed over. A column in which a check forbids null is required. Passed over as well is a key that is declared NULLS NOT DISTINCT, and one beside which a unique index deals with the nulls.

Where the engine takes nulls for alike in a unique key, it is the other way about: a key of one column that may be null takes a single row without a value, and the next is refused. That is a notice; the fix, once it was chosen, is a unique index that leaves the nulls out.

With evidence (nexdal probe, then --evidence) the finding says whether there are nulls.

Where the evidence knows of no null, a fix forbids it; where the engine can, another declares the key NULLS NOT DISTINCT, after a question to the data. Both refuse what was taken so far, so that a script holds one only once it was chosen. A unique index of its own for the rows without a value is a third way.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			if p.Abilities.NullsAlike {
				oneNull(p, t)
				continue
			}
			for _, k := range t.UniqueKeys {
				if !k.NullsNotDistinct && !k.WithoutOverlaps && open(p, t, k.Columns) {
					nullableUnique(p, t, label(t, k), k.Columns, k)
				}
			}
			for _, x := range t.Indexes {
				if x.Unique && x.Origin == catalog.ByPerson && x.Predicate == "" && !x.NullsNotDistinct && !x.Inherited && whole(t, x) && open(p, t, x.Columns()) {
					nullableUnique(p, t, x.Name, x.Columns(), nil)
				}
			}
		}
		return nil
	},
}

// open reports whether rows without a value in one of the columns get through: where an index
// leaves out none but those that are null in all of it, all have to be able to be.
func open(p *rule.Pass, t *catalog.Table, columns []string) bool {
	return !p.Abilities.AllNullsLeftOut || !slices.ContainsFunc(columns, func(name string) bool { c := t.Column(name); return c != nil && !c.Nullable })
}

// oneNull is about engines in which nulls are alike: a second row without a value is refused.
func oneNull(p *rule.Pass, t *catalog.Table) {
	for _, k := range t.UniqueKeys {
		if len(k.Columns) != 1 {
			continue
		}
		c := t.Column(k.Columns[0])
		if c == nil || !c.Nullable || checked(p, t, c.Name) {
			continue
		}
		x := t.Index(k.Index).Clone()
		found := rule.Finding{Severity: rule.Notice, Table: t.Ref(), Object: label(t, k), Columns: k.Columns, Part: c.Name,
			Message: fmt.Sprintf("\"%s\" is unique but nullable, and nulls are alike: only one row can be without a value", c.Name)}
		if x != nil && p.Abilities.Condition != nil && !x.Clustered {
			x.Origin, x.Predicate = catalog.ByPerson, p.Abilities.Condition(t, catalog.Condition{Filled: c.Name})
			found.Fixes = []rule.Fix{{ID: "leave-nulls-out", Title: "keep it unique where there is a value, by an index that leaves the nulls out", Ask: true, Changes: []change.Change{
				change.ReplaceKey{Table: t.Ref(), From: change.Uniqueness{Key: k}, To: change.Uniqueness{Index: x}}}}}
		}
		p.Report(found)
	}
}

// whole reports whether the index is on columns alone.
func whole(t *catalog.Table, x *catalog.Index) bool {
	for _, part := range x.Parts {
		if t.Column(part.Column) == nil {
			return false
		}
	}
	return true
}

func nullableUnique(p *rule.Pass, t *catalog.Table, object string, columns []string, k *catalog.Key) {
	var open []string
	for _, name := range columns {
		if c := t.Column(name); c != nil && c.Nullable && c.Identity == catalog.NoIdentity && !checked(p, t, name) {
			open = append(open, name)
		}
	}
	if len(open) == 0 || dealtWith(t, columns, open) || len(open) == len(columns) && t.Refers(open[0]) {
		return
	}
	found := rule.Finding{Table: t.Ref(), Object: object, Columns: columns, Part: strings.Join(columns, ", ")}
	switch {
	case len(columns) == 1:
		found.Severity = rule.Notice
		found.Message = fmt.Sprintf("\"%s\" is unique but nullable: any number of rows can have a null there", open[0])
	case len(open) == len(columns):
		found.Severity = rule.Notice
		found.Message = fmt.Sprintf("unique (%s) is not checked where one of them is null, and all may be", strings.Join(columns, ", "))
	default:
		found.Message = fmt.Sprintf("unique (%s) is not checked where %s is null: the rest can repeat", strings.Join(columns, ", "), text.Name(strings.Join(open, `" or "`)))
	}
	nulls, known := nullsIn(p, t, open)
	switch {
	case known && nulls == 0:
		found.Message += "; no row has a null there so far"
		found.Certainty = rule.Verified
	case known:
		found.Message += "; so it is in " + text.Plural(nulls, "row")
		found.Certainty = rule.Verified
	}
	if known && nulls == 0 && !slices.ContainsFunc(open, t.SetToNull) {
		fix := rule.Fix{ID: "not-null", Title: "forbid null in " + text.Names(open), Ask: true}
		for _, name := range open {
			fix.Changes = append(fix.Changes, change.SetNullable{Table: t.Ref(), Column: name})
		}
		found.Fixes = append(found.Fixes, fix)
	}
	if k != nil && p.Abilities.NullsNotDistinct && len(columns) > 1 && !k.Deferrable && t.Kind != catalog.Partitioned {
		strict := *k
		strict.NullsNotDistinct = true
		found.Fixes = append(found.Fixes, rule.Fix{ID: "nulls-alike", Title: "let two nulls count as alike", Ask: true, Changes: []change.Change{
			change.ReplaceKey{Table: t.Ref(), From: change.Uniqueness{Key: k}, To: change.Uniqueness{Key: &strict}}}})
	}
	if len(found.Fixes) == 0 {
		found.Advice = "forbid the null, or say by a unique index of its own what holds for the rows without a value"
	}
	p.Report(found)
}

// checked reports whether a check forbids null in the column, as NOT NULL would.
func checked(p *rule.Pass, t *catalog.Table, column string) bool {
	return slices.ContainsFunc(t.Checks, func(k *catalog.Check) bool {
		return !k.NotValidated && strings.EqualFold(p.Requires(k), column)
	})
}

// dealtWith reports whether a partial or computed unique index looks after the
// rows without a value.
func dealtWith(t *catalog.Table, columns, open []string) bool {
	rest := map[string]bool{}
	for _, name := range columns {
		rest[name] = true
	}
	for _, name := range open {
		delete(rest, name)
	}
	for _, x := range t.Indexes {
		if !x.Unique || x.Origin != catalog.ByPerson || x.Predicate == "" && whole(t, x) {
			continue
		}
		covers := 0
		for _, part := range x.Parts {
			if rest[part.Column] {
				covers++
			}
		}
		if covers == len(rest) {
			return true
		}
	}
	return false
}

// nullsIn is how many rows have a null in one of the columns, at least; known
// only where all rows were looked at.
func nullsIn(p *rule.Pass, t *catalog.Table, columns []string) (n int64, known bool) {
	if p.Data == nil {
		return 0, false
	}
	for _, name := range columns {
		f := p.Data.Column(t, name)
		if f == nil || f.Sampled {
			return 0, false
		}
		n = max(n, f.Nulls)
	}
	return n, true
}
