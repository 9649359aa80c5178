package postgres

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
)

// addLookup makes the table with its values in one transaction.
func (w *writer) addLookup(ch change.AddLookupTable) {
	c := creator{sequences: map[catalog.Ref]*catalog.Sequence{}, lookup: w.now.Lookup()}
	c.table(ch.Made(Engine{}.Abilities("")), false)
	s := w.step(ch.Title(), lock{"nothing that others use", engine.BlocksNobody}, append(slices.Concat(c.objects, c.later, c.indexes), fmt.Sprintf("INSERT INTO %s VALUES (%s)", relation(ch.Table.Ref()), sqllex.Each(ch.Values, literal, "), (")))...)
	s.Tables = ch.Tables()
}

// dropLookup drops the table where it holds what it was made with.
func (w *writer) dropLookup(ch change.Undo[change.AddLookupTable]) {
	on, column := relation(ch.Of.Table.Ref()), ident(ch.Of.Table.Columns[0].Name)
	w.ask(fmt.Sprintf("values of %s that were added since it was made", ch.Of.Table.Ref()), fmt.Sprintf("SELECT * FROM %s WHERE %s NOT IN (%s) LIMIT %d", on, column, sqllex.Each(ch.Of.Values, literal, ", "), shownRows))
	s := w.step(ch.Title(), lock{"ACCESS EXCLUSIVE on the table for a moment", engine.BlocksBriefly}, "DROP TABLE "+on)
	s.Tables = ch.Tables()
}
