package sqlite

import (
	"fmt"

	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
)

// addLookup makes the table with its values in one transaction.
func addLookup(w *engine.Work, i int, it change.Item, ch change.AddLookupTable) {
	w.Steps = append(w.Steps, engine.Step{Title: ch.Title(), Changes: []int{i}, Answers: it.Answers, Tables: ch.Tables(), Transaction: true,
		Lock: "writers of the database wait for a moment", Blocks: engine.BlocksBriefly,
		SQL: []string{"BEGIN IMMEDIATE", tableText(ch.Made(Engine{}.Abilities(""))), fmt.Sprintf("INSERT INTO %s VALUES (%s)", ident(ch.Table.Name), sqllex.Each(ch.Values, literal, "), (")), "COMMIT"}})
}

// dropLookup drops the table where it holds what it was made with.
func dropLookup(w *engine.Work, step *engine.Step, it change.Item, ch change.Undo[change.AddLookupTable]) {
	on, column := ident(ch.Of.Table.Name), ident(ch.Of.Table.Columns[0].Name)
	w.Preflight = append(w.Preflight, engine.Question{Title: fmt.Sprintf("values of %s that were added since it was made", ch.Of.Table.Ref()), Step: len(w.Steps) + 1, Answers: it.Answers,
		SQL: fmt.Sprintf("SELECT * FROM %s WHERE %s NOT IN (%s) LIMIT %d", on, column, sqllex.Each(ch.Of.Values, literal, ", "), shownRows)})
	step.Tables, step.SQL = ch.Tables(), []string{"DROP TABLE " + on}
	step.Lock, step.Blocks = "writers of the database wait for a moment", engine.BlocksBriefly
}
