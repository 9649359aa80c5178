package sqlite

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/sqlite/ddltext"
)

// A reference that names a table alone means its primary key, whichever that is
// (https://www.sqlite.org/foreignkeys.html section 5.1: "parent key"). Where
// a plan gives a table another primary key, what refers to it is told the columns
// first.

// rekeyed are the tables to which the plan gives another primary key.
func rekeyed(from, to *catalog.Catalog, rebuilt map[catalog.Ref]bool) map[catalog.Ref]bool {
	all := map[catalog.Ref]bool{}
	for ref, is := range rebuilt {
		if !is {
			continue
		}
		old, new := from.Table(ref), to.Table(ref)
		if old != nil && new != nil && old.PrimaryKey != nil && (new.PrimaryKey == nil || !slices.Equal(old.PrimaryKey.Columns, new.PrimaryKey.Columns)) {
			all[ref] = true
		}
	}
	return all
}

// unspelled is a table that refers to one without a primary key as if it had one;
// nil where there is none.
func unspelled(c *catalog.Catalog, on catalog.Ref) *catalog.Table {
	for _, s := range c.Schemas {
		for _, t := range s.Tables {
			for _, f := range t.ForeignKeys {
				if f.Target == on && len(f.TargetColumns) == 0 {
					return t
				}
			}
		}
	}
	return nil
}

// spelled names, in the text of a table, the columns that its references to those
// tables mean.
func spelled(definition string, t *catalog.Table, tables map[catalog.Ref]bool) (string, error) {
	if len(tables) == 0 {
		return definition, nil
	}
	b, err := ddltext.ParseBody(definition)
	if err != nil {
		return "", err
	}
	var edits []ddltext.Edit
	for _, k := range b.References() {
		r := k.Reference
		if r.TargetColumns != nil {
			continue
		}
		for _, f := range t.ForeignKeys {
			if tables[f.Target] && strings.EqualFold(f.Target.Table, r.Target) && ddltext.SameNames(f.Columns, r.Columns) && len(f.TargetColumns) > 0 {
				edits = append(edits, ddltext.Edit{From: r.End, To: r.End, Text: " (" + ddltext.Idents(f.TargetColumns) + ")"})
				break
			}
		}
	}
	return b.Edited(edits)
}

// spell adds the steps that tell the tables that refer to one, and are not rebuilt
// yet, which columns they mean, and gives them their new texts in the catalog.
func (w *writer) spell(lookup *catalog.Lookup, on catalog.Ref, done map[catalog.Ref]bool) error {
	from := w.Now
	told := map[*catalog.Table]bool{}
	for _, r := range lookup.Referrers(on) {
		t := r.Table
		if t.Ref() == on || done[t.Ref()] || told[t] || t.Definition == "" {
			continue // altered by the script that this one takes back, which told it the columns
		}
		told[t] = true
		text, err := spelled(t.Definition, t, map[catalog.Ref]bool{on: true})
		if err != nil {
			return err
		}
		if text == t.Definition {
			continue
		}
		if from.Table(catalog.Ref{Schema: t.Schema, Table: working + t.Name}) != nil {
			return fmt.Errorf("a table %s is in the way", working+t.Name)
		}
		step := rebuilding(t)
		step.Title = fmt.Sprintf("say in %s which columns of %s it refers to", t.Ref(), on.Table)
		step.Answers = answersOf(w.Plan, on)
		step.Notes = append(step.Notes, fmt.Sprintf("its foreign key names %s alone, which means the primary key, and that is about to be another", on.Table))
		step.SQL = rebuildSQL(from, from, t, t, text, nil, nil)
		w.Work.Steps = append(w.Work.Steps, step)
		t.Definition = text
	}
	return nil
}

// unspell adds the steps that lead back to the texts that named a table alone, once
// that means the same again.
func (w *writer) unspell(others map[catalog.Ref]bool) error {
	to := w.To
	lookup := to.Lookup()
	told := map[*catalog.Table]bool{}
	for _, it := range w.Plan {
		on := it.Change.On()
		if !others[on] {
			continue
		}
		for _, r := range lookup.Referrers(on) {
			t := r.Table
			if told[t] || t.Definition == "" {
				continue
			}
			told[t] = true
			text, err := spelled(t.Definition, t, others)
			if err != nil {
				return err
			}
			meant := func(f *catalog.ForeignKey) bool {
				k := lookup.Table(f.Target).PrimaryKey
				return others[f.Target] && (k == nil || !slices.Equal(k.Columns, f.TargetColumns))
			}
			if text == t.Definition || slices.ContainsFunc(t.ForeignKeys, meant) {
				continue
			}
			step := rebuilding(t)
			step.Title = fmt.Sprintf("write %s as it was", t.Ref())
			step.Answers = answersOf(w.Plan, on)
			step.Notes = append(step.Notes, fmt.Sprintf("its foreign key may name %s alone again", on.Table))
			step.SQL = rebuildSQL(to, to, t, t, t.Definition, nil, nil)
			w.Work.Steps = append(w.Work.Steps, step)
		}
	}
	return nil
}

// answersOf are the findings that the plan's changes of a table answer.
func answersOf(plan change.Plan, on catalog.Ref) []string {
	var answers []string
	for _, it := range plan {
		if it.Change.On() == on {
			answers = append(answers, it.Answers...)
		}
	}
	slices.Sort(answers)
	return slices.Compact(answers)
}
