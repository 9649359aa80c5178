package write

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/postgres/traits"
)

// notNull forbids null in a column where it is defined
// (https://www.postgresql.org/docs/current/sql-createtable.html, "NOT NULL").
func (w *creator) notNull(t *catalog.Table, c *catalog.Column) string {
	text := " NOT NULL"
	if w.can.NotNullName != nil {
		if name := w.lookup().NotNullName(t, c, w.can); w.named || name != w.can.NotNullName(t.Name, c.Name) {
			text = " CONSTRAINT " + traits.Ident(name) + text
		}
	}
	if n := c.NotNull; n != nil {
		if n.NoInherit {
			text += " NO INHERIT"
		}
		w.notNullComment(t, c)
	}
	return text
}

// notNullOn is the constraint as it is added to a table that is there.
func (w *creator) notNullOn(t *catalog.Table, c *catalog.Column) string {
	text := fmt.Sprintf("CONSTRAINT %s NOT NULL %s", traits.Ident(w.lookup().NotNullName(t, c, w.can)), traits.Ident(c.Name))
	if c.NotNull != nil && c.NotNull.NoInherit {
		text += " NO INHERIT"
	}
	return text
}

// validatedHere reports whether what forbids null comes from a parent alone, whose rows were
// never checked, though the table's were.
func (w *creator) validatedHere(t *catalog.Table, c *catalog.Column) bool {
	if w.can.NotNullName == nil || !c.Inherited || c.Nullable || forbiddenHere(t, c) {
		return false
	}
	return slices.ContainsFunc(t.Parents(), func(ref catalog.Ref) bool {
		p := w.lookup().Table(ref)
		if p == nil {
			return false
		}
		above := p.Column(c.Name)
		return above != nil && above.NotNull != nil && above.NotNull.NotValidated && !above.NotNull.NoInherit
	})
}

// forbiddenHere reports whether an inherited column has a constraint that forbids null of
// the table's own; a part has none but the whole's.
func forbiddenHere(t *catalog.Table, c *catalog.Column) bool {
	n := c.NotNull
	return t.PartitionOf == nil && (n != nil && n.Local || c.Local && (n == nil || !n.Inherited))
}

func (w *creator) notNullComment(t *catalog.Table, c *catalog.Column) {
	if c.NotNull.Comment != "" {
		w.comment(fmt.Sprintf("CONSTRAINT %s ON %s", traits.Ident(w.lookup().NotNullName(t, c, w.can)), traits.Relation(t.Ref())), c.NotNull.Comment)
	}
}

// notNullLater adds what was never validated: to those that inherit from the table as well,
// as the engine wants it, and so once all are there.
func (w *creator) notNullLater(t *catalog.Table, c *catalog.Column) {
	if w.validatedHere(t, c) {
		w.later = append(w.later, fmt.Sprintf("ALTER TABLE %s VALIDATE CONSTRAINT %s", traits.Relation(t.Ref()), traits.Ident(w.lookup().NotNullName(t, c, w.can))))
	}
	if c.NotNull == nil || w.can.NotNullName == nil {
		return
	}
	if c.NotNull.NotValidated && (!c.Inherited || forbiddenHere(t, c)) {
		w.later = append(w.later, fmt.Sprintf("ALTER TABLE %s ADD %s NOT VALID", traits.Relation(t.Ref()), w.notNullOn(t, c)))
		w.notNullComment(t, c)
	} else if c.Inherited && (!c.Local || c.NotNull.Inherited) {
		w.notNullComment(t, c)
	}
}
