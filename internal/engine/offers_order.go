package engine

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// acts is a program of the catalog and what it writes, in its order.
type acts struct {
	catalog.Module
	writes []sqllex.Write
}

// actsOf are those of the catalog by the names, in small letters, of the tables that they write.
func actsOf(c *catalog.Catalog, d sqllex.Dialect) map[string][]*acts {
	of := map[string][]*acts{}
	for m := range c.Modules() {
		a := &acts{m, sqllex.Writes(d, m.Text)}
		for _, w := range a.writes {
			if name := strings.ToLower(w.Table.Name()); !slices.Contains(of[name], a) {
				of[name] = append(of[name], a)
			}
		}
	}
	return of
}

// on are those that write one of the tables.
func on(programs map[string][]*acts, tables ...*catalog.Table) []*acts {
	var all []*acts
	for _, t := range tables {
		for _, a := range programs[strings.ToLower(t.Name)] {
			if !slices.Contains(all, a) {
				all = append(all, a)
			}
		}
	}
	return all
}

// first is the statement that first does it to one of the tables; -1: none does.
func (a *acts) first(verb string, tables []*catalog.Table) int {
	for _, w := range a.writes {
		if w.Verb == verb && isOne(w.Table, tables) {
			return w.Statement
		}
	}
	return -1
}

// before reports whether it does the one thing, and in a later statement the other.
func (a *acts) before(verb string, tables, than []*catalog.Table) bool {
	i, j := a.first(verb, tables), a.first(verb, than)
	return i >= 0 && j > i
}

// does reports whether it does so to one of the tables; of an update, to one of the columns.
func (a *acts) does(verb string, tables []*catalog.Table, columns []string) bool {
	return slices.ContainsFunc(a.writes, func(w sqllex.Write) bool {
		return w.Verb == verb && isOne(w.Table, tables) && (verb != "update" || slices.ContainsFunc(w.Columns, func(s sqllex.Token) bool {
			return slices.ContainsFunc(columns, func(c string) bool { return strings.EqualFold(s.Name(), c) })
		}))
	})
}

// disordered says which program writes rows in an order that the foreign key would refuse: it is
// looked at behind each statement, and on most engines before what triggers do afterwards.
func disordered(can catalog.Abilities, intoFrom, intoTo []*catalog.Table, f *catalog.ForeignKey, all map[string][]*acts) string {
	from, to := intoFrom[0], intoTo[0]
	if to == from || f.Deferred || can.KeysUnenforced {
		return ""
	}
	programs := on(all, slices.Concat(intoFrom, intoTo)...)
	leaves := f.OnDelete == "" || f.OnDelete == catalog.NoAction || f.OnDelete == catalog.Restrict
	moves := f.OnUpdate == "" || f.OnUpdate == catalog.NoAction || f.OnUpdate == catalog.Restrict
	for _, by := range programs {
		switch {
		case by.before("insert", intoFrom, intoTo):
			return fmt.Sprintf("%s %s adds rows to %s before those of %s that they refer to: it would fail", by.Kind, by.Name, from.Name, to.Name)
		case leaves && by.before("delete", intoTo, intoFrom):
			return fmt.Sprintf("%s %s removes rows of %s before those of %s that refer to them: it would fail", by.Kind, by.Name, to.Name, from.Name)
		case moves && by.does("update", intoTo, f.TargetColumns) && by.does("update", intoFrom, f.Columns):
			return fmt.Sprintf("%s %s alters what %s refers to, and then the references: it would fail", by.Kind, by.Name, from.Name)
		}
	}
	if can.ReferencesAtEnd {
		return ""
	}
	for _, by := range programs { // a rule goes on once the insert is done
		if by.Kind == "rule" && by.does("insert", intoTo, nil) && slices.ContainsFunc(from.Objects, func(o *catalog.Object) bool { return o.Kind == by.Kind && o.Name == by.Name }) {
			return fmt.Sprintf("rule %s adds rows to %s only once those of %s that refer to them are there: every insert would fail", by.Name, to.Name, from.Name)
		}
	}
	fired := func(t *catalog.Table, event string, too bool, does func(*acts) bool) string {
		for _, g := range t.Triggers {
			if g.Enabled == "disabled" || !slices.Contains(g.Events, event) || g.Timing != "after" && !too {
				continue
			}
			for _, by := range programs {
				if runsFor(by.Module, g) && does(by) {
					return g.Name
				}
			}
		}
		return ""
	}
	if by := fired(from, "insert", false, func(a *acts) bool { return a.does("insert", intoTo, nil) }); by != "" {
		return fmt.Sprintf("trigger %s adds rows to %s only once those of %s that refer to them are there: every insert would fail", by, to.Name, from.Name)
	}
	if by := fired(to, "delete", false, func(a *acts) bool {
		return a.does("delete", intoFrom, nil) || a.does("update", intoFrom, f.Columns)
	}); leaves && by != "" {
		return fmt.Sprintf("trigger %s sees to the rows of %s only once those of %s that they refer to are gone: the delete would fail", by, from.Name, to.Name)
	}
	if by := fired(to, "update", true, func(a *acts) bool { return a.does("update", intoFrom, f.Columns) }); moves && by != "" {
		return fmt.Sprintf("trigger %s alters the references of %s with what they refer to: the update would fail", by, from.Name)
	}
	return ""
}

// copied says which program adds rows to the table that it reads from there: they may be alike in the key.
func copied(into []*catalog.Table, programs map[string][]*acts) string {
	for _, by := range on(programs, into...) {
		if slices.ContainsFunc(by.writes, func(w sqllex.Write) bool { return w.Copies && isOne(w.Table, into) }) {
			return fmt.Sprintf("%s %s adds copies of rows to %s, and may meet those that are there", by.Kind, by.Name, into[0].Name)
		}
	}
	return ""
}

// runsFor reports whether the program is what runs when the trigger fires.
func runsFor(m catalog.Module, g *catalog.Trigger) bool {
	if g.Calls == "" {
		return m.Kind == "trigger" && m.Name == g.Name
	}
	called, _, _ := strings.Cut(g.Calls, "(")
	return strings.HasSuffix(called, "."+m.Name)
}
