package engine

import (
	"sync"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/sqlexpr"
)

// Refuses says why the change cannot be written, or "": something leans on what it alters, or the
// engine cannot make it. It is asked before the change gets into a plan.
func Refuses(w Writer, c *catalog.Catalog, ch change.Change) string {
	if why := change.Bar(c, ch); why != "" {
		return why
	}
	return w.Refuses(c, ch)
}

// Offers returns why a change is not offered, or "": the engine cannot make it, or a program of
// the catalog would fail afterwards. What somebody asks for by name is up to [Refuses] alone.
func Offers(w Writer, c *catalog.Catalog) func(change.Change) string {
	can := w.Abilities(c.Engine.Version)
	programs := sync.OnceValue(func() map[string][]writes { return writesOf(c, w.Dialect()) })
	emptying := sync.OnceValue(func() []empties { return emptiesOf(c, w.Dialect()) })
	words := sync.OnceValue(func() map[string]catalog.Module { return wordsOf(c, w.Dialect()) })
	acting := sync.OnceValue(func() map[string][]*acts { return actsOf(c, w.Dialect()) })
	counting := sync.OnceValue(func() []counts { return countsOf(c, w.Dialect()) })
	widened := func(by *catalog.Column, t *catalog.Table) string {
		if by.Invisible {
			return ""
		}
		return counted(c, t, counting())
	}
	found := sync.OnceValue(func() *ways { return waysOf(c) })
	unlike := func(t *catalog.Table, columns []string) string {
		into := found().into(t)
		if why := moved(into, columns, programs()); why != "" {
			return why
		}
		return copied(into, acting())
	}
	return func(ch change.Change) string {
		if why := Refuses(w, c, ch); why != "" {
			return why
		}
		t := c.Table(ch.On())
		if t == nil {
			return ""
		}
		if name := gone(ch); name != "" && name != can.PrimaryKeyName {
			if why := spoken(name, words()); why != "" && !borne(c, name) {
				return why
			}
		}
		switch ch := ch.(type) {
		case change.SetNullable:
			if !ch.Nullable && t.Column(ch.Column) != nil {
				return nulled(found().into(t), t.Column(ch.Column), programs())
			}
		case change.AddKey:
			if ch.Key.Deferrable {
				return ""
			}
			return unlike(t, ch.Key.Columns)
		case change.CreateIndex:
			if ch.Index.Unique {
				return unlike(t, ch.Index.Columns())
			}
		case change.AddCheck:
			return barred(c, found().into(t), sqlexpr.Reader{Dialect: w.Dialect()}, ch.Check)
		case change.AddForeignKey:
			to := c.Table(ch.ForeignKey.Target)
			if to == nil {
				return "" // it is made first
			}
			from, into := found().into(t), found().into(to)
			if why := emptied(from, into, emptying()); why != "" {
				return why
			}
			return disordered(can, from, into, ch.ForeignKey, acting())
		case change.SplitSequence: // which takes numbers that are another's then, or asks for one that was not taken
			return spoken(ch.Shared.Table, words())
		case change.AddColumn:
			return widened(ch.Column, t)
		case change.AddSurrogateKey:
			return widened(ch.Column, t)
		}
		return ""
	}
}
