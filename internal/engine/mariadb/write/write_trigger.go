package write

import (
	"cmp"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/mariadb/traits"
)

// setTrigger drops one, or makes it again by its own text under the mode that it was
// written under: MariaDB has no switch for triggers.
func (w *writer) setTrigger(ch change.SetTrigger) {
	if !ch.Off {
		w.makeTrigger(ch.Title(), ch.Table, ch.Trigger, ch.Trigger.Definer)
		return
	}
	w.dropTrigger(ch.Title(), ch.Table, ch.Trigger)
}

func (w *writer) replaceTrigger(ch change.ReplaceTrigger) {
	if ch.New == nil {
		w.dropTrigger(ch.Title(), ch.Table, ch.Old)
		return
	}
	by := ch.New.Definer
	if by == "" && ch.Old != nil {
		by = ch.Old.Definer
	}
	w.makeTrigger(ch.Title(), ch.Table, ch.New, by)
}

func (w *writer) dropTrigger(title string, on catalog.Ref, g *catalog.Trigger) {
	w.Add(engine.Step{Title: title, Tables: []catalog.Ref{on}, Lock: "writers of the table wait for a moment", Blocks: engine.BlocksBriefly,
		Transaction: true, SQL: []string{"DROP TRIGGER " + traits.Relation(catalog.Ref{Schema: on.Schema, Table: g.Name})}})
}

// makeTrigger makes it at its place among those of the same event
// (https://mariadb.com/kb/en/create-trigger/, FOLLOWS).
func (w *writer) makeTrigger(title string, on catalog.Ref, g *catalog.Trigger, by string) {
	text := g.Definition
	if _, body := traits.TriggerHead(g.Mode, text); body > 0 {
		text = text[:body] + w.placeOf(on, g) + text[body:]
	}
	w.text(title, on.Schema, g.Mode, text, by, "TRIGGER "+traits.Relation(catalog.Ref{Schema: on.Schema, Table: g.Name}), on)
}

// placeOf names the trigger that is there and that it follows in the end, or goes before.
func (w *writer) placeOf(on catalog.Ref, g *catalog.Trigger) string {
	there := func(name string) bool {
		return slices.ContainsFunc(w.Now.Table(on).Triggers, func(x *catalog.Trigger) bool { return x.Name == name })
	}
	var others []*catalog.Trigger
	if t := w.To.Table(on); t != nil {
		for _, x := range t.Triggers {
			if x.Name != g.Name && x.SameEvent(g) && there(x.Name) {
				others = append(others, x)
			}
		}
	}
	slices.SortFunc(others, func(a, b *catalog.Trigger) int { return cmp.Compare(a.Order, b.Order) })
	after := slices.IndexFunc(others, func(x *catalog.Trigger) bool { return x.Order > g.Order })
	switch {
	case len(others) == 0:
		return ""
	case after == 0:
		return "PRECEDES " + traits.Ident(others[0].Name) + " "
	case after < 0:
		after = len(others)
	}
	return "FOLLOWS " + traits.Ident(others[after-1].Name) + " "
}
