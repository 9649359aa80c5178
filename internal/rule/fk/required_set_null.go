package fk

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var RequiredSetNull = &rule.Rule{
	ID:          "fk/required-set-null",
	Title:       "action that sets a required column to null",
	Severity:    rule.Error,
	Consequence: rule.FailsNow,
	Fixes:       []string{"nullable", "restrict"},
	Doc: `The foreign key says SET NULL, but one of its columns may not be null; or it says SET DEFAULT, and the column has neither a default nor may it be null.

Deleting a parent row that has children then always fails, with an error about the child that surprises whoever deletes. The two declarations contradict each other, and nobody knows which was meant.

The proposed fix keeps what happens today and says so: RESTRICT (NO ACTION where the engine has no RESTRICT), the parent cannot be deleted while rows refer to it. The alternative lets the column be null; it is offered where no key needs the column.`,
	Check: checkRequiredSetNull,
}

func checkRequiredSetNull(p *rule.Pass) error {
	for _, t := range p.Owned {
		for _, f := range t.ForeignKeys {
			if f.Inherited {
				continue
			}
			if found, ok := requiredSetNull(p, t, f); ok {
				p.Report(found)
			}
		}
	}
	return nil
}

func requiredSetNull(p *rule.Pass, t *catalog.Table, f *catalog.ForeignKey) (rule.Finding, bool) {
	mended, refuses := f.Clone(), catalog.Restrict
	if p.Abilities.NoRestrict {
		refuses = catalog.NoAction
	}
	var events, stuck []string
	for _, e := range []struct {
		name   string
		action catalog.Action
		set    *catalog.Action
		on     []string
	}{{"deleting", f.OnDelete, &mended.OnDelete, f.Touched()}, {"changing the key of", f.OnUpdate, &mended.OnUpdate, f.Columns}} {
		refused := refusedBy(t, e.action, e.on)
		if len(refused) == 0 {
			continue
		}
		*e.set = refuses
		events = append(events, e.name)
		for _, name := range refused {
			if !slices.Contains(stuck, name) {
				stuck = append(stuck, name)
			}
		}
	}
	if len(events) == 0 {
		return rule.Finding{}, false
	}
	if mended.OnDelete == refuses {
		mended.SetColumns = nil
	}
	action, state := "SET NULL", "may not be null"
	if f.OnDelete == catalog.SetDefault || f.OnUpdate == catalog.SetDefault {
		action, state = "SET DEFAULT", "has no default and may not be null"
	}
	found := rule.Finding{
		Table: t.Ref(), Object: f.Label(), Columns: stuck,
		Message: fmt.Sprintf("%s a referenced row of \"%s\" always fails: %s says %s, but %s %s",
			strings.Join(events, " or "), p.Called(f.Target), f.Label(), action, text.Names(stuck), state),
		Fixes: []rule.Fix{{ID: "restrict", Title: "declare it " + strings.ToUpper(string(refuses)) + ", which is what happens today",
			Changes: []change.Change{change.AlterForeignKey{Table: t.Ref(), Old: f, New: mended}}}},
	}
	if free := nullable(t, stuck); free != nil {
		found.Fixes = append(found.Fixes, rule.Fix{ID: "nullable", Title: "allow null in " + text.Names(stuck), Changes: free})
	}
	return found, true
}

// refusedBy returns the columns that the action would have to empty against
// their NOT NULL.
func refusedBy(t *catalog.Table, a catalog.Action, columns []string) []string {
	var refused []string
	for _, name := range columns {
		if c := t.Column(name); c != nil && c.ForbidsNull() && t.Nulls(a, columns, name) {
			refused = append(refused, name)
		}
	}
	return refused
}

// nullable returns the changes that let the columns be null, or nil where one
// is part of the primary key or comes from a parent table.
func nullable(t *catalog.Table, columns []string) []change.Change {
	var changes []change.Change
	for _, name := range columns {
		if t.PrimaryKey != nil && slices.Contains(t.PrimaryKey.Columns, name) || t.PartitionOf != nil || t.Column(name).Inherited {
			return nil
		}
		changes = append(changes, change.SetNullable{Table: t.Ref(), Column: name, Nullable: true})
	}
	return changes
}
