package mariadb

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/mariadb/traits"
	"nexdal/internal/engine/sqllex"
)

// statements gives routines and triggers the statements that made them, as they were typed,
// in the place of those put together from the views: what is made again is then as it was
// (https://mariadb.com/kb/en/show-create-trigger/).
func (r *reader) statements() {
	for _, s := range r.catalog.Schemas {
		for _, kind := range []string{"FUNCTION", "PROCEDURE"} {
			routines := map[string]*catalog.Routine{}
			var names []string
			for _, f := range s.Routines {
				wrong := strings.Contains(f.Mode, traits.NoBackslashes) && strings.Contains(f.Comment, `\`) // the server doubles them all the same
				if strings.EqualFold(f.Kind, kind) && f.Definition != "" && !wrong {
					routines[f.Name], names = f, append(names, f.Name)
				}
			}
			for name, text := range r.shown(kind, s.Name, names) {
				if typed, ok := undefined(text); ok {
					routines[name].Definition = typed
				}
			}
		}
		triggers := map[string]*catalog.Trigger{}
		var names []string
		for _, t := range s.Tables {
			for _, g := range t.Triggers {
				triggers[g.Name], names = g, append(names, g.Name)
			}
		}
		for name, text := range r.shown("TRIGGER", s.Name, names) {
			g := triggers[name]
			if typed, ok := undefined(text); ok && plainTrigger(typed, g) {
				g.Definition = typed
			}
		}
	}
}

// undefined takes the definer out of a statement, which is kept apart.
func undefined(text string) (string, bool) {
	rest, ok := strings.CutPrefix(text, "CREATE DEFINER=")
	if !ok {
		return text, strings.HasPrefix(text, "CREATE ")
	}
	words := (Engine{}).Dialect().Tokens(rest)
	for i, k := range words {
		if k.Kind == sqllex.Space { // user@host, or a role, holds none outside its quotes
			rest = rest[words[i].End:]
			return "CREATE " + rest, true
		}
	}
	return text, false
}

// plainTrigger reports whether the statement can be sent again as it is: it names no
// database, and no other trigger that may be gone by then.
func plainTrigger(text string, g *catalog.Trigger) bool {
	head, body := traits.TriggerHead(g.Mode, text)
	if body == 0 {
		return false
	}
	for _, k := range head {
		if k.Is(".") || k.Is("exists") {
			return false
		}
	}
	for _, k := range traits.DialectIn(g.Mode).Tokens(text[body:]) {
		if !k.Blank() {
			return !k.Is("follows") && !k.Is("precedes")
		}
	}
	return false
}
