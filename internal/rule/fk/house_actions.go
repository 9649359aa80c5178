package fk

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var everyAction = []string{string(catalog.NoAction), string(catalog.Restrict), string(catalog.Cascade), string(catalog.SetNull), string(catalog.SetDefault)}

var HouseActions = &rule.Rule{
	ID:          "fk/house-actions",
	Title:       "action on delete or update that the house does not allow",
	Severity:    rule.Off,
	Consequence: rule.Untidy,
	Fixes:       []string{"action"},
	Options: []rule.Option{
		{Name: "on-delete", Default: everyAction, Choices: everyAction, Doc: "actions allowed when a row referred to is deleted"},
		{Name: "on-update", Default: everyAction, Choices: everyAction, Doc: "actions allowed when its key changes"},
	},
	Doc: `The foreign key does something, when the row referred to is deleted or its key changes, that the house does not allow: a list in the settings says which actions it allows (house: on-delete, on-update). Without such a list the rule is off.

A foreign key that was declared without an action has the engine's plain one, NO ACTION or RESTRICT; each of the two is allowed where the other is.

The fix re-creates the foreign key with the first action of the list. SET NULL and SET DEFAULT are proposed only where the columns allow it.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			onDelete, onUpdate := p.Words(t, "on-delete"), p.Words(t, "on-update")
			for _, f := range t.ForeignKeys {
				if !f.Inherited {
					houseActions(p, t, f, onDelete, onUpdate)
				}
			}
		}
		return nil
	},
}

func houseActions(p *rule.Pass, t *catalog.Table, f *catalog.ForeignKey, onDelete, onUpdate []string) {
	altered, says := f.Clone(), ""
	if !allowed(onDelete, f.OnDelete) {
		says = fmt.Sprintf("on delete %s", f.OnDelete)
		altered.OnDelete = first(t, f, onDelete)
	}
	if !allowed(onUpdate, f.OnUpdate) {
		if says != "" {
			says += " and "
		}
		says += fmt.Sprintf("on update %s", f.OnUpdate)
		altered.OnUpdate = first(t, f, onUpdate)
	}
	if says == "" {
		return
	}
	found := rule.Finding{Table: t.Ref(), Object: f.Label(), Columns: f.Columns, Message: fmt.Sprintf("%s says %s, which the house does not allow", f.Label(), says)}
	if altered.OnDelete == "" || altered.OnUpdate == "" {
		found.Advice = "no action that the house allows suits its columns"
	} else {
		found.Fixes = []rule.Fix{{ID: "action", Title: fmt.Sprintf("on delete %s, on update %s", altered.OnDelete, altered.OnUpdate),
			Changes: []change.Change{change.AlterForeignKey{Table: t.Ref(), Old: f, New: altered}}}}
	}
	p.Report(found)
}

// allowed: what does nothing is written in two ways.
func allowed(list []string, a catalog.Action) bool {
	plain := a == catalog.NoAction || a == catalog.Restrict
	return slices.Contains(list, string(a)) || plain && (slices.Contains(list, string(catalog.NoAction)) || slices.Contains(list, string(catalog.Restrict)))
}

// first is the first action of the list that the columns allow, or "".
func first(t *catalog.Table, f *catalog.ForeignKey, list []string) catalog.Action {
	for _, s := range list {
		switch a := catalog.Action(s); a {
		case catalog.SetNull:
			if !slices.ContainsFunc(f.Columns, func(name string) bool { return t.NotNull([]string{name}) }) {
				return a
			}
		case catalog.SetDefault:
		default:
			return a
		}
	}
	return ""
}
