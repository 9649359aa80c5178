// Package key holds the rules on primary and unique keys.
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

var None = &rule.Rule{
	ID:          "key/none",
	Title:       "table without a primary key",
	Severity:    rule.Error,
	Consequence: rule.Unprotected,
	Fixes:       []string{"columns", "number", "numbered", "period", "promote"},
	Uses:        []rule.Need{rule.Evidence},
	Doc: `The table has no primary key. Two rows can be alike in every column, and then neither can be changed or deleted alone; nothing can refer to a row; replication and change capture have nothing to tell rows apart by.

A partition is judged with the table that it is a part of. Tables of an extension, on another server, or of a module are not judged.

The proposed fix, where there is one: promote what keeps columns unique already and lets none of them be null: before others what the engine numbers, then what other tables refer to. Otherwise, a generated column is added as the last one and becomes the key. That suits programs that name their columns; an insert without a column list may have to be changed, and on a large table the rewrite takes its time, so read the step's comment first. With the data (nexdal probe, then --evidence), columns that are different in all rows and never empty are offered as well, for you to choose. So are, where the engine has keys of periods, columns among which rows may not overlap already.

No fix is offered for a partitioned table whose key would have to hold the partition columns, nor for one that other tables inherit from.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			if t.PrimaryKey == nil {
				p.Report(none(p, t))
			}
		}
		return nil
	},
}

func none(p *rule.Pass, t *catalog.Table) rule.Finding {
	found := rule.Finding{Table: t.Ref(), Object: t.Name}
	if p.Abilities.KeysUnenforced {
		found.Severity = rule.Notice // it would tell the planner alone
	}
	found.Fixes = promotions(p, t)
	counted := numberedColumn(p, t)
	if list := promotable(p, t); len(found.Fixes) > 0 && len(list) > 0 {
		found.Message = "has no primary key, though " + list[0].says() + " would serve"
	} else if counted != nil {
		found.Message = fmt.Sprintf("has no primary key, though \"%s\", which the engine numbers, would serve", counted.Name)
	} else if k := withNulls(t); k != nil {
		found.Message = fmt.Sprintf("has no primary key; the unique key (%s) lets nulls in, and so rows that are alike", strings.Join(k.Columns, ", "))
		found.Columns = k.Columns
	} else {
		found.Message = "has no primary key: two rows can be alike, and nothing can refer to one of them"
	}
	switch {
	case p.Abilities.AddedKeyType.Native == "":
		found.Fixes = append(found.Fixes, shown(p, t)...)
	case t.PartitionBy != nil && p.Abilities.PartitionedKeyNeedsColumns:
		if len(found.Fixes) == 0 {
			found.Advice = "a key of this partitioned table has to hold its partition columns; choose one that does"
		}
	case len(p.Lookup.Heirs(t.Ref())) > 0 || len(t.Inherits) > 0:
		found.Advice = "the table takes part in inheritance, and a key binds one table alone; choose keys for all of them together"
	case counted != nil:
		found.Fixes = append(append(found.Fixes, rule.Fix{ID: "numbered", Title: fmt.Sprintf("make (%s), which the engine numbers, the primary key", counted.Name),
			Changes: []change.Change{change.AddKey{Table: t.Ref(), Key: primaryKey(p, t, []string{counted.Name}), Primary: true}}}), shown(p, t)...)
	default:
		found.Fixes = append(append(found.Fixes, generated(p, t)), shown(p, t)...)
	}
	found.Fixes = append(found.Fixes, periods(p, t)...)
	return found
}

// shown offers columns that the data shows to be different in every row, and never
// empty: whether they are meant to stay so is up to you.
func shown(p *rule.Pass, t *catalog.Table) []rule.Fix {
	if p.Data == nil {
		return nil
	}
	var fixes []rule.Fix
	for _, k := range p.Data.Keys(t) {
		if k.Declared || !k.Verified || k.Rows < 20 || k.Likely < 0.6 || t.UniqueOn(k.Columns) || slices.ContainsFunc(k.Columns, t.SetToNull) {
			continue
		}
		fix := rule.Fix{ID: "columns", Ask: true, Title: fmt.Sprintf("make (%s) the primary key: all of %s differ, and none is empty", strings.Join(k.Columns, ", "), text.Plural(k.Rows, "row"))}
		if len(fixes) > 0 {
			fix.ID = fmt.Sprintf("columns%d", len(fixes)+1)
		}
		for _, name := range k.Columns {
			if c := t.Column(name); c != nil && c.Nullable && !p.Abilities.RequiredAtBirth {
				fix.Changes = append(fix.Changes, change.SetNullable{Table: t.Ref(), Column: name})
			}
		}
		fix.Changes = append(fix.Changes, change.AddKey{Table: t.Ref(), Key: primaryKey(p, t, k.Columns), Primary: true})
		fixes = append(fixes, fix)
	}
	return fixes
}

// periods offers as a key what may not overlap already: by an exclusion constraint, or a
// unique key of a period.
func periods(p *rule.Pass, t *catalog.Table) []rule.Fix {
	if p.Abilities.Overlaps == nil || t.Kind != catalog.Ordinary || len(p.Lookup.Heirs(t.Ref()))+len(t.Inherits) > 0 {
		return nil
	}
	var lists [][]string
	for _, k := range t.UniqueKeys {
		if k.WithoutOverlaps {
			lists = append(lists, k.Columns)
		}
	}
	for _, e := range t.Exclusions {
		if columns := ofPeriod(t, e, p.Abilities); columns != nil && !slices.ContainsFunc(lists, func(l []string) bool { return slices.Equal(l, columns) }) {
			lists = append(lists, columns)
		}
	}
	var fixes []rule.Fix
	for i, columns := range lists {
		last := len(columns) - 1
		fix := rule.Fix{ID: "period", Ask: true, Title: fmt.Sprintf("make (%s) the primary key, of periods that do not overlap, as they may not already", strings.Join(columns, ", "))}
		if i > 0 {
			fix.ID = fmt.Sprintf("period%d", i+1)
		}
		for _, name := range columns {
			if t.Column(name).Nullable {
				fix.Changes = append(fix.Changes, change.SetNullable{Table: t.Ref(), Column: name})
			}
		}
		k := primaryKey(p, t, columns)
		k.WithoutOverlaps = last > 0
		fix.Changes = append(fix.Changes, change.AddKey{Table: t.Ref(), Key: k, Primary: true})
		fixes = append(fixes, fix)
	}
	return fixes
}

// ofPeriod are the columns of a key that says what the exclusion constraint does, the range
// last; nil where none does.
func ofPeriod(t *catalog.Table, e *catalog.Exclusion, can catalog.Abilities) []string {
	x := t.Index(e.Index)
	if x == nil || x.Predicate != "" || e.Deferrable || len(x.Parts) < 2 || len(e.Operators) != len(x.Parts) || len(x.NamedColumns()) != len(x.Parts) {
		return nil
	}
	var alike, span []string
	for i, name := range x.Columns() {
		switch c := t.Column(name); {
		case c == nil:
			return nil
		case e.Operators[i] == "=":
			alike = append(alike, name)
		case e.Operators[i] == "&&" && can.Overlaps(c.Type):
			span = append(span, name)
		default:
			return nil
		}
	}
	if len(alike) == 0 || len(span) != 1 {
		return nil
	}
	return append(alike, span[0])
}

// numberedColumn is a required column that the engine numbers, which a second number would
// only repeat; nil where there is none, or the data holds one of its numbers twice.
func numberedColumn(p *rule.Pass, t *catalog.Table) *catalog.Column {
	for _, c := range t.Columns {
		if c.Nullable || c.Inherited || c.Identity != catalog.IdentityAlways && c.Identity != catalog.IdentityByDefault && c.Identity != catalog.IdentitySequence {
			continue
		}
		if p.Data == nil {
			return c
		}
		if f := p.Data.Column(t, c.Name); f == nil || f.Distinct == nil || *f.Distinct >= f.Rows {
			return c
		}
	}
	return nil
}

// withNulls returns a unique key that would serve except for its nullable
// columns, or nil.
func withNulls(t *catalog.Table) *catalog.Key {
	for _, k := range t.UniqueKeys {
		if !t.NotNull(k.Columns) && !k.NullsNotDistinct {
			return k
		}
	}
	for _, x := range t.Indexes {
		if x.Unique && x.Origin == catalog.ByPerson && plain(t, x) && !t.NotNull(x.Columns()) && !x.NullsNotDistinct {
			return &catalog.Key{Name: x.Name, Columns: x.Columns()}
		}
	}
	return nil
}

// A candidate is what could be promoted to primary key.
type candidate struct{ change.Uniqueness }

func (c candidate) columns() []string {
	if c.Key != nil {
		return c.Key.Columns
	}
	return c.Index.Columns()
}

func (c candidate) says() string {
	what := "unique index"
	if c.Key != nil {
		what = "unique key"
	}
	return fmt.Sprintf("the %s (%s), which lets no null in,", what, strings.Join(c.columns(), ", "))
}

// promotable lists what keeps whole rows apart already: what the engine numbers first, then
// what other tables refer to, then that of the fewest columns, numbers before texts, and
// constraints before indexes.
func promotable(p *rule.Pass, t *catalog.Table) []candidate {
	var all []candidate
	for _, k := range t.UniqueKeys {
		x := t.Index(k.Index)
		if t.NotNull(k.Columns) && !k.Deferrable && !k.WithoutOverlaps && (x == nil || !x.Invalid) {
			all = append(all, candidate{change.Uniqueness{Key: k}})
		}
	}
	for _, x := range t.Indexes {
		if x.Unique && x.Origin == catalog.ByPerson && (plain(t, x) || ordered(t, x)) && t.NotNull(x.Columns()) {
			all = append(all, candidate{change.Uniqueness{Index: x}})
		}
	}
	referred := p.Lookup.Referrers(t.Ref())
	weight := func(c candidate) []int {
		first := t.Column(c.columns()[0])
		return []int{
			below(len(c.columns()) == 1 && first.Identity != catalog.NoIdentity),
			below(slices.ContainsFunc(referred, func(r catalog.Referrer) bool {
				return catalog.SameColumns(r.ForeignKey.TargetColumns, c.columns())
			})),
			len(c.columns()),
			below(first.Type.Family == catalog.Integer),
		}
	}
	slices.SortStableFunc(all, func(a, b candidate) int { return slices.Compare(weight(a), weight(b)) })
	return all
}

// below sorts what is so before what is not.
func below(so bool) int {
	if so {
		return 0
	}
	return 1
}

// plain reports whether the index could stand behind a constraint: whole,
// ascending, on columns alone, in their own collation.
func plain(t *catalog.Table, x *catalog.Index) bool {
	return sortedBy(t, x, func(p catalog.IndexPart) catalog.IndexPart { return catalog.IndexPart{Column: p.Column} })
}

// ordered reports whether the index keeps its columns unique as well, though no
// constraint can stand on it for the order that it is in.
func ordered(t *catalog.Table, x *catalog.Index) bool {
	return !plain(t, x) && sortedBy(t, x, func(p catalog.IndexPart) catalog.IndexPart {
		return catalog.IndexPart{Column: p.Column, Descending: p.Descending, Nulls: p.Nulls}
	})
}

func sortedBy(t *catalog.Table, x *catalog.Index, as func(catalog.IndexPart) catalog.IndexPart) bool {
	return !x.Invalid && !x.Inherited && x.Predicate == "" && x.Method == "btree" &&
		!slices.ContainsFunc(x.Parts, func(p catalog.IndexPart) bool { return p != as(p) || t.Column(p.Column) == nil })
}

func promotions(p *rule.Pass, t *catalog.Table) []rule.Fix {
	if t.Kind == catalog.Partitioned {
		return nil // the partitions' keys would have to be swapped together
	}
	var fixes []rule.Fix
	for i, c := range promotable(p, t) {
		id := "promote"
		if i > 0 {
			id = fmt.Sprintf("promote%d", i+1)
		}
		k := primaryKey(p, t, c.columns())
		var ch change.Change = change.ReplaceKey{Table: t.Ref(), From: c.Uniqueness, To: change.Uniqueness{Primary: true, Key: k}}
		if c.Index != nil && !plain(t, c.Index) {
			ch = change.AddKey{Table: t.Ref(), Key: k, Primary: true} // beside it
		}
		fixes = append(fixes, rule.Fix{ID: id, Title: fmt.Sprintf("make (%s) the primary key", strings.Join(k.Columns, ", ")), Changes: []change.Change{ch}})
	}
	return fixes
}

func primaryKey(p *rule.Pass, t *catalog.Table, columns []string) *catalog.Key {
	name := p.Abilities.PrimaryKeyName
	if name == "" {
		name = p.Names.Free(t.Schema, "pkey", t.Name)
	}
	return &catalog.Key{Name: name, Columns: columns, Index: name}
}

// generated adds a numbered column and makes it the key.
func generated(p *rule.Pass, t *catalog.Table) rule.Fix {
	name := numberName(p, t)
	col := &catalog.Column{Name: name, Type: p.Abilities.AddedKeyType, Identity: p.Abilities.AddedKeyIdentity, Invisible: p.Abilities.InvisibleColumns}
	k := primaryKey(p, t, []string{name})
	return rule.Fix{ID: "number", Title: "add the generated column " + name + " as primary key", Changes: []change.Change{
		change.AddColumn{Table: t.Ref(), Column: col},
		change.AddKey{Table: t.Ref(), Key: k, Primary: true},
	}}
}

// numbered makes a number the primary key in place of the columns that are it.
func numbered(p *rule.Pass, t *catalog.Table) change.AddSurrogateKey {
	name := numberName(p, t)
	unique := p.Names.Free(t.Schema, "key", append([]string{t.Name}, t.PrimaryKey.Columns...)...)
	key := &catalog.Key{Name: t.PrimaryKey.Name, Columns: []string{name}, Index: t.PrimaryKey.Name} // whose name is free once it is gone
	if key.Name == "" || p.Abilities.PrimaryKeyName != "" {
		key = primaryKey(p, t, key.Columns)
	}
	return change.AddSurrogateKey{Table: t.Ref(), Column: &catalog.Column{Name: name, Type: p.Abilities.AddedKeyType, Identity: p.Abilities.AddedKeyIdentity, Invisible: p.Abilities.InvisibleColumns}, Key: key,
		From: t.PrimaryKey, Unique: &catalog.Key{Name: unique, Columns: t.PrimaryKey.Columns, Index: unique}}
}

// numberable reports whether a table stands by itself, so that its key can give way.
func numberable(p *rule.Pass, t *catalog.Table) bool {
	return t.Kind == catalog.Ordinary && t.IsOwn() && t.PartitionOf == nil && t.PartitionBy == nil && len(p.Lookup.Heirs(t.Ref()))+len(t.Inherits) == 0
}

// numberName calls the new column as its siblings are called: by what the
// generated keys of the catalog are mostly named, id or table_id.
func numberName(p *rule.Pass, t *catalog.Table) string {
	short, full := catalog.InCaseOf("id", t.Name), catalog.InCaseOf(t.Name+"_id", t.Name)
	names := []string{short, full}
	if p.KeysNameTables() {
		names = []string{full, short}
	}
	for i := 2; ; i++ {
		for _, name := range names {
			if !slices.ContainsFunc(t.Columns, func(c *catalog.Column) bool { return strings.EqualFold(c.Name, name) }) && (p.Abilities.MaxName == 0 || len(name) <= p.Abilities.MaxName) {
				return name
			}
		}
		names = []string{catalog.InCaseOf(fmt.Sprintf("row_id%d", i), t.Name)}
	}
}
