package write

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/postgres/traits"
)

// setNotNull declares first and has the rows checked afterwards, under a weak lock
// (https://www.postgresql.org/docs/18/sql-altertable.html, "NOT VALID"): from version 18 on
// no check is needed for that.
func (w *writer) setNotNull(ch change.SetNullable, can catalog.Abilities) {
	t := w.Now.Table(ch.Table)
	col := t.Column(ch.Column)
	drop := dialect.Alter(ch.Table, "ALTER COLUMN "+traits.Ident(ch.Column)+" DROP NOT NULL")
	was := ""
	if col.ForbidsNull() {
		was = w.Now.Lookup().NotNullName(t, col, can)
	}
	n := ch.Named(t, can)
	switch {
	case n != nil && n.NotValidated:
		var sql []string
		if was != "" {
			sql = append(sql, drop)
		}
		w.Step(ch.Title()+", for what is written from now on", lockExclusive, append(sql, w.declareNotNull(ch, n, can)...)...)
	case ch.Nullable:
		w.Step(ch.Title(), lockExclusive, drop)
	case was != "":
		w.AskNulls(ch.Table, ch.Column)
		w.Step(ch.Title(), w.Sized(lockNone, ch.Table), dialect.Alter(ch.Table, "VALIDATE CONSTRAINT "+traits.Ident(was)))
	default:
		w.AskNulls(ch.Table, ch.Column)
		name := can.NotNullName(t.Name, ch.Column)
		if n != nil && n.Name != "" {
			name = n.Name
		}
		w.validated(ch.Title(), lockExclusive, ch.Table, traits.Ident(name), w.declareNotNull(ch, n, can))
	}
}

// declareNotNull adds the constraint without a look at the rows.
func (w *writer) declareNotNull(ch change.SetNullable, n *catalog.NotNull, can catalog.Abilities) []string {
	name, more, comment := can.NotNullName(ch.Table.Table, ch.Column), "", ""
	if n != nil {
		if n.Name != "" {
			name = n.Name
		}
		if n.NoInherit {
			more = " NO INHERIT"
		}
		comment = n.Comment
	}
	sql := []string{dialect.Alter(ch.Table, fmt.Sprintf("ADD CONSTRAINT %s NOT NULL %s%s NOT VALID", traits.Ident(name), traits.Ident(ch.Column), more))}
	if comment != "" {
		sql = append(sql, fmt.Sprintf("COMMENT ON CONSTRAINT %s ON %s IS %s", traits.Ident(name), traits.Relation(ch.Table), traits.Literal(comment)))
	}
	return sql
}
