package sequence

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Unused = &rule.Rule{
	ID:          "sequence/unused",
	Title:       "sequence that nothing uses",
	Severity:    rule.Notice,
	Consequence: rule.Untidy,
	Fixes:       []string{"drop"},
	Doc: `No column, trigger, routine or view takes numbers from the sequence. It may be left over from a table that is gone, or programs may ask it for numbers by its name, which the catalog does not show.

A sequence that belongs to a column, that an object leans on, or whose name stands in the text of a routine, trigger, view or default, is not reported. Where some of these texts could not be read, sequences are not judged.

The fix drops it; the reversal makes it again, where its numbers were. A program may still ask for it, so that a script holds the fix only once it was chosen. Where the sequence has never given out a number the finding says so.`,
	Check: func(p *rule.Pass) error {
		texts, whole, unknown := "", true, 0
		each(p, func(s *catalog.Schema, q *catalog.Sequence) {
			if q.OwnedBy != nil || q.Identity || len(q.UsedBy) > 0 || len(q.Dependants) > 0 {
				return
			}
			if texts == "" {
				texts, whole = textsOf(p.Catalog)
			}
			if strings.Contains(texts, strings.ToLower(q.Name)) {
				return
			}
			if !whole {
				unknown++
				return
			}
			found := rule.Finding{Table: catalog.Ref{Schema: s.Name}, Object: q.Name, Message: fmt.Sprintf("nothing in the database takes numbers from sequence \"%s\"", q.Name),
				Fixes: []rule.Fix{{ID: "drop", Title: "drop sequence " + text.Name(q.Name), Ask: true, Changes: []change.Change{change.DropSequence{Schema: s.Name, Sequence: q}}}}}
			if q.Last == nil {
				found.Message += ", and it has given out none"
			}
			p.Report(found)
		})
		if unknown > 0 {
			p.NotJudged("the texts of all routines, views and triggers", "survey as a user who may read them", unknown)
		}
		return nil
	},
}

// textsOf is every text of the catalog in which a sequence could be named, and whether each was read.
func textsOf(c *catalog.Catalog) (texts string, whole bool) {
	var b strings.Builder
	b.WriteByte(' ')
	add := func(s string) { b.WriteString(strings.ToLower(s)); b.WriteByte('\n') }
	whole = true
	module := func(s string) { add(s); whole = whole && s != "" }
	for m := range c.Modules() {
		module(m.Text)
	}
	for _, s := range c.Schemas {
		for _, v := range s.Views {
			module(v.Definition)
		}
		for _, t := range s.Tables {
			for _, col := range t.Columns {
				if col.Default != "" {
					add(col.Default)
				}
			}
			for _, o := range t.Objects {
				add(o.Definition)
			}
		}
	}
	return b.String(), whole
}
