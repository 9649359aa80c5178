package mariadb

import (
	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
)

// setTrigger drops one, or makes it again by its own text under the mode that it was
// written under: MariaDB has no switch for triggers.
func (w *writer) setTrigger(ch change.SetTrigger) {
	g := ch.Trigger
	s := engine.Step{Title: ch.Title(), Tables: []catalog.Ref{ch.Table}, Lock: "writers of the table wait for a moment", Blocks: engine.BlocksBriefly}
	if ch.Off {
		s.SQL = []string{"DROP TRIGGER " + relation(catalog.Ref{Schema: ch.Table.Schema, Table: g.Name})}
	} else {
		mode := g.Mode
		if mode == "" {
			mode = plainMode
		}
		s.SQL = []string{"USE " + ident(ch.Table.Schema), "SET SESSION sql_mode = '" + mode + "'", defined(g.Definition, g.Definer), strictMode}
	}
	w.Add(s)
}
