package fk

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/evidence"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Missing = &rule.Rule{
	ID:          "fk/missing",
	Title:       "reference that no foreign key declares",
	Severity:    rule.Warning,
	Consequence: rule.Unprotected,
	Fixes:       []string{"foreign-key"},
	Needs:       []rule.Need{rule.Evidence},
	Doc: `The values of a column, or of several together, are found among the key of another table, and its name says what it refers to; but no foreign key says so. Nothing keeps a row from losing its parent, and neither the planner nor a reader of the catalog knows of the reference.

It needs the data (nexdal probe, then --evidence). The finding says how many rows were looked at and how many have no parent. A column that is named after another table and holds no value yet is reported as a notice.

Whether a reference is meant is up to you: nexdal decide accept makes it an accepted reference, which is judged also without evidence, and nexdal decide refuse ends the matter. Leave it alone where rows are kept on purpose that outlive their parents, as in logs.

Once it is accepted, the fix declares the foreign key, without an action on delete or update, and the index that it needs. Where the engine has no foreign keys, it is a notice: accepted, the reference is drawn, and fk/not-indexed and fk/orphaned judge it. Where rows have no parent, or the types differ in kind, or no key of the other table is there, or a default or a program of the database writes a value that stands for no row (0, say), nothing is offered before that is put right.`,
	Suspects: true,
	Check:    checkMissing,
}

func checkMissing(p *rule.Pass) error {
	unasked := 0
	suspects := map[catalog.Ref][]*evidence.Reference{}
	all := p.Suspects()
	for i := range all {
		suspects[all[i].From()] = append(suspects[all[i].From()], &all[i])
	}
	for _, t := range p.Roots {
		var known []*evidence.Reference
		if p.Data != nil {
			known = p.Data.References(t)
		} else {
			known = suspects[t.Ref()]
			unasked++
		}
		for _, f := range t.Accepted {
			if !declared(t, f) && !p.Abilities.NoForeignKeys { // where none can be, it is as good as it gets
				p.Report(accepted(p, t, f, proof(known, f)))
			}
		}
		for _, r := range known {
			f := &catalog.ForeignKey{Columns: r.Columns, Target: r.To(), TargetColumns: r.TargetColumns}
			if r.Declared || p.Lookup.Table(f.Target) == nil || declared(t, f) || slices.ContainsFunc(t.Accepted, func(l *catalog.ForeignKey) bool { return alike(l, f) }) {
				continue
			}
			p.Report(suspected(p, t, f, r))
		}
	}
	p.Unasked(unasked)
	return nil
}

func alike(a, b *catalog.ForeignKey) bool {
	return slices.Equal(a.Columns, b.Columns) && a.Target == b.Target && slices.Equal(a.TargetColumns, b.TargetColumns)
}

func declared(t *catalog.Table, f *catalog.ForeignKey) bool {
	return slices.ContainsFunc(t.ForeignKeys, func(d *catalog.ForeignKey) bool { return alike(d, f) })
}

// proof is what the data says of the reference, or nil.
func proof(known []*evidence.Reference, f *catalog.ForeignKey) *evidence.Reference {
	for _, r := range known {
		if slices.Equal(r.Columns, f.Columns) && r.To() == f.Target && slices.Equal(r.TargetColumns, f.TargetColumns) {
			return r
		}
	}
	return nil
}

// suspected is a finding about a reference that nobody decided about.
func suspected(p *rule.Pass, t *catalog.Table, f *catalog.ForeignKey, r *evidence.Reference) rule.Finding {
	found := rule.Finding{Table: t.Ref(), Object: f.Label(), Columns: f.Columns, Certainty: rule.CertaintyOf(r.Verified)}
	found.Advice = "accept it as a reference, or refuse it"
	if p.Abilities.NoForeignKeys {
		found.Severity, found.Consequence = rule.Notice, rule.Untidy
	}
	found.Command = rule.Command{"decide", "accept", t.Ref().String() + "." + strings.Join(f.Columns, ","), rule.TheEvidence}
	if r.RowsChecked == 0 {
		found.Severity, found.Certainty = rule.Notice, rule.ByStructure
		held := ", and holds nothing yet"
		if known := p.Data; known != nil {
			if c := known.Column(t, f.Columns[0]); c != nil && c.Filled() > 0 {
				held = ", and holds one value alone, which tells nothing"
			}
		}
		if p.Data == nil {
			held, found.Advice, found.Command = "", "ask the data whether it does", rule.Probe
		}
		found.Message = fmt.Sprintf("%s is named as if it referred to \"%s\" (%s)%s; no foreign key says so", text.Names(f.Columns), p.Called(f.Target), strings.Join(f.TargetColumns, ", "), held)
		return found
	}
	if p.Abilities.NoForeignKeys {
		found.Message = fmt.Sprintf("%s \"%s\" (%s) %s, which nobody has decided about", refer(f.Columns), p.Called(f.Target), strings.Join(f.TargetColumns, ", "), covered(r))
		return found
	}
	target := p.Lookup.Table(f.Target)
	if r.Verified && r.Orphans == 0 && exactKey(target, f.TargetColumns) && unlike(p, t, target, f) == "" {
		if why := stranger(p, t, target, f); why != "" {
			found.Advice = "not scripted: " + why
		} else {
			found.Fixes = []rule.Fix{{ID: "foreign-key", Title: declaring(p), Ask: true, Changes: declare(p, t, f)}}
		}
	}
	found.Message = fmt.Sprintf("%s \"%s\" (%s) %s, and no foreign key says so", refer(f.Columns), p.Called(f.Target), strings.Join(f.TargetColumns, ", "), covered(r))
	return found
}

// covered says how many rows have a parent.
func covered(r *evidence.Reference) string {
	if r.Orphans == 0 {
		return "in all of " + text.Plural(r.RowsChecked, "row")
	}
	says := fmt.Sprintf("in all but %s of %s", text.Amount(r.Orphans), text.Plural(r.RowsChecked, "row"))
	if len(r.Samples) > 0 {
		says += " (without a parent: " + strings.Join(r.Samples[:min(3, len(r.Samples))], ", ") + ")"
	}
	return says
}

// accepted is a finding about a reference that was accepted.
func accepted(p *rule.Pass, t *catalog.Table, f *catalog.ForeignKey, r *evidence.Reference) rule.Finding {
	found := rule.Finding{Table: t.Ref(), Object: f.Label(), Columns: f.Columns}
	found.Message = fmt.Sprintf("%s \"%s\" (%s), as was decided, and no foreign key says so", refer(f.Columns), p.Called(f.Target), strings.Join(f.TargetColumns, ", "))
	if r != nil && r.RowsChecked > 0 {
		found.Certainty = rule.CertaintyOf(r.Verified)
		found.Message = fmt.Sprintf("%s \"%s\" (%s) %s, as was decided, and no foreign key says so", refer(f.Columns), p.Called(f.Target), strings.Join(f.TargetColumns, ", "), covered(r))
	}
	target := p.Lookup.Table(f.Target)
	switch {
	case target == nil:
		found.Advice = "the table referred to is not among those that were read"
	case r != nil && r.Orphans > 0:
		found.Advice = fmt.Sprintf("not scripted: %s without a parent would be refused; put them right first", text.Plural(r.Orphans, "row"))
	case !exactKey(target, f.TargetColumns):
		found.Advice = fmt.Sprintf("not scripted: no key of \"%s\" is (%s); add one first", p.Called(f.Target), strings.Join(f.TargetColumns, ", "))
	default:
		if why := unlike(p, t, target, f); why != "" {
			found.Advice = "not scripted: " + why
			break
		}
		if why := stranger(p, t, target, f); why != "" {
			found.Advice = "not scripted: " + why
			break
		}
		found.Fixes = []rule.Fix{{ID: "foreign-key", Title: declaring(p), Changes: declare(p, t, f)}}
	}
	return found
}

// exactKey reports whether a key, or a whole unique index, is these columns.
func exactKey(t *catalog.Table, columns []string) bool {
	_, ok := t.KeyOn(columns)
	return ok
}

// unlike says which columns cannot be compared as they are.
func unlike(p *rule.Pass, t, target *catalog.Table, f *catalog.ForeignKey) string {
	for i, name := range f.Columns {
		a, b := t.Column(name), target.Column(f.TargetColumns[i])
		if gap, words := a.Type.GapTo(b.Type); gap == catalog.TypeUnlike {
			return fmt.Sprintf("\"%s\" and \"%s.%s\" are of different types (%s); give them one first", name, p.Called(f.Target), b.Name, words)
		}
	}
	return ""
}

// declare makes the index, where none serves, and the foreign key.
func declare(p *rule.Pass, t *catalog.Table, f *catalog.ForeignKey) []change.Change {
	made := f.Clone()
	made.OnDelete = cmp.Or(p.Abilities.PlainAction, catalog.NoAction)
	made.OnUpdate = made.OnDelete
	made.Name = p.Names.Free(t.Schema, "fkey", append([]string{t.Name}, f.Columns...)...)
	var changes []change.Change
	if !p.Abilities.Indexless && !p.Abilities.ReferencesBuild && !leads(p, t, f.Columns) {
		x := &catalog.Index{Name: p.Names.Free(t.Schema, "idx", append([]string{t.Name}, f.Columns...)...), Origin: catalog.ByPerson, Method: "btree"}
		for _, name := range f.Columns {
			x.Parts = append(x.Parts, catalog.IndexPart{Column: name})
		}
		changes = append(changes, change.CreateIndex{Table: t.Ref(), Index: x})
	}
	return append(changes, change.AddForeignKey{Table: t.Ref(), ForeignKey: made})
}

func declaring(p *rule.Pass) string {
	if p.Abilities.Indexless || p.Abilities.ReferencesBuild {
		return "declare the foreign key"
	}
	return "declare the foreign key, with the index that it needs"
}

// leads reports whether an index begins with the columns in their order: some
// engines take no other for a foreign key.
func leads(p *rule.Pass, t *catalog.Table, columns []string) bool {
	if k := t.PrimaryKey; k != nil && k.Index == "" && len(k.Columns) >= len(columns) && slices.Equal(k.Columns[:len(columns)], columns) {
		return true
	}
	return slices.ContainsFunc(t.Indexes, func(x *catalog.Index) bool {
		return x.FindsRows(columns, p.Abilities.Reads()) && slices.Equal(x.Columns()[:len(columns)], columns)
	})
}
