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
	d := w.Dialect()
	o := &offers{c: c, can: w.Abilities(c.Engine.Version), reads: sqlexpr.Reader{Dialect: d},
		writes:  sync.OnceValue(func() map[string][]writes { return writesOf(c, d) }),
		empties: sync.OnceValue(func() []empties { return emptiesOf(c, d) }),
		words:   sync.OnceValue(func() map[string]catalog.Module { return wordsOf(c, d) }),
		acts:    sync.OnceValue(func() map[string][]*acts { return actsOf(c, d) }),
		counts:  sync.OnceValue(func() []counts { return countsOf(c, d) }),
		ways:    sync.OnceValue(func() *ways { return waysOf(c) }),
	}
	return func(ch change.Change) string {
		if why := Refuses(w, c, ch); why != "" {
			return why
		}
		if t := c.Table(ch.On()); t != nil {
			return o.fails(t, ch)
		}
		return ""
	}
}

// offers is what the programs of a catalog do, found out once it is asked for.
type offers struct {
	c       *catalog.Catalog
	can     catalog.Abilities
	reads   catalog.Expressions
	writes  func() map[string][]writes
	empties func() []empties
	words   func() map[string]catalog.Module
	acts    func() map[string][]*acts
	counts  func() []counts
	ways    func() *ways
}

// fails says which program would fail once the table is changed, or "".
func (o *offers) fails(t *catalog.Table, ch change.Change) string {
	if name := gone(ch); name != "" && name != o.can.PrimaryKeyName {
		if why := spoken(name, o.words()); why != "" && !borne(o.c, name) {
			return why
		}
	}
	switch ch := ch.(type) {
	case change.SetNullable:
		if c := t.Column(ch.Column); !ch.Nullable && c != nil {
			return nulled(o.ways().into(t), c, o.writes())
		}
	case change.AddKey:
		if !ch.Key.Deferrable {
			return o.unlike(t, ch.Key.Columns)
		}
	case change.CreateIndex:
		if ch.Index.Unique {
			return o.unlike(t, ch.Index.Columns())
		}
	case change.AddCheck:
		if open := o.together(t, ch.Check); open != nil {
			return halved(o.ways().into(t), open, o.writes())
		}
		return barred(o.c, o.ways().into(t), o.reads, ch.Check)
	case change.AddForeignKey:
		return o.refers(t, ch.ForeignKey)
	case change.AlterForeignKey:
		if ch.Old.Disabled && !ch.New.Disabled {
			return o.refers(t, ch.New)
		}
		if ch.Old.Match != ch.New.Match && ch.New.Match == "full" {
			return halved(o.ways().into(t), nullable(t, ch.New), o.writes())
		}
	case change.SplitSequence: // which takes numbers that are another's then, or asks for one that was not taken
		return spoken(ch.Shared.Table, o.words())
	case change.AddColumn:
		return o.wider(t, ch.Column)
	case change.AddSurrogateKey:
		return o.wider(t, ch.Column)
	}
	return ""
}

// unlike says what fails once the rows have to differ in the columns.
func (o *offers) unlike(t *catalog.Table, columns []string) string {
	into := o.ways().into(t)
	if why := moved(into, columns, o.writes()); why != "" {
		return why
	}
	return copied(into, o.acts())
}

// refers says what fails once the foreign key is kept.
func (o *offers) refers(t *catalog.Table, f *catalog.ForeignKey) string {
	to := o.c.Table(f.Target)
	if to == nil {
		return "" // it is made first
	}
	from, into := o.ways().into(t), o.ways().into(to)
	if why := emptied(from, into, o.empties()); why != "" {
		return why
	}
	return disordered(o.can, from, into, f, o.acts())
}

// wider says what fails once the table has the column more.
func (o *offers) wider(t *catalog.Table, by *catalog.Column) string {
	if by.Invisible {
		return ""
	}
	return counted(o.c, t, o.counts())
}

// together are the columns of a foreign key that the check keeps null together, or filled together;
// nil: it is another check.
func (o *offers) together(t *catalog.Table, k *catalog.Check) []*catalog.Column {
	if o.can.Condition == nil {
		return nil
	}
	for _, f := range t.ForeignKeys {
		open := nullable(t, f)
		names := make([]string, len(open))
		for i, c := range open {
			names[i] = c.Name
		}
		if len(open) > 1 && k.Expression == o.can.Condition(t, catalog.Condition{Together: names}) {
			return open
		}
	}
	return nil
}

// nullable are the columns of the foreign key that take null.
func nullable(t *catalog.Table, f *catalog.ForeignKey) (open []*catalog.Column) {
	for _, name := range f.Columns {
		if c := t.Column(name); c != nil && c.Nullable {
			open = append(open, c)
		}
	}
	return open
}
