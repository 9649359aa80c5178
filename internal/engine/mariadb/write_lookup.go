package mariadb

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
)

// addLookup makes the table and fills it.
func (w *writer) addLookup(i int, it change.Item, ch change.AddLookupTable) {
	c := &creator{c: &catalog.Catalog{}, several: true, mode: map[*[]string]string{}}
	c.table(ch.Made(Engine{}.Abilities("")))
	w.work.Steps = append(w.work.Steps, engine.Step{Title: ch.Title(), Changes: []int{i}, Answers: it.Answers, Tables: ch.Tables(), Lock: "nothing that others use",
		SQL:     append(c.objects, fmt.Sprintf("INSERT INTO %s VALUES (%s)", relation(ch.Table.Ref()), sqllex.Each(ch.Values, literal, "), ("))),
		CleanUp: "DROP TABLE IF EXISTS " + relation(ch.Table.Ref())})
}

// dropLookup drops the table where it holds what it was made with.
func (w *writer) dropLookup(i int, it change.Item, ch change.Undo[change.AddLookupTable]) {
	on, column := relation(ch.Of.Table.Ref()), ident(ch.Of.Table.Columns[0].Name)
	w.ask(it, fmt.Sprintf("values of %s that were added since it was made", ch.Of.Table.Ref()), fmt.Sprintf("SELECT * FROM %s WHERE %s NOT IN (%s) LIMIT %d", on, column, sqllex.Each(ch.Of.Values, literal, ", "), shownRows))
	w.work.Steps = append(w.work.Steps, engine.Step{Title: ch.Title(), Changes: []int{i}, Answers: it.Answers, Tables: ch.Tables(), Transaction: true, Blocks: engine.BlocksBriefly,
		Lock: "users of the table wait for a moment", SQL: []string{"DROP TABLE " + on}})
}
