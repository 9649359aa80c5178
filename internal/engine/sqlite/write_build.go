package sqlite

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
)

// build makes what is not there yet, by the texts that a whole structure is made
// by.
func (e Engine) build(w *engine.Work, i int, it change.Item, ch change.CreateObjects) {
	bare := *ch.What
	bare.Settings = nil
	work, _ := e.Create(&bare)
	for _, st := range work.Steps {
		st.Changes, st.Answers, st.Tables = []int{i}, it.Answers, ch.Tables()
		w.Steps = append(w.Steps, st)
	}
}

// raze takes away in one transaction, what leans on others first.
func (e Engine) raze(w *engine.Work, step *engine.Step, it change.Item, ch change.DropObjects) {
	step.Tables = ch.Tables()
	step.Lock, step.Blocks = "writers of the database wait for a moment", engine.BlocksBriefly
	sql := []string{"PRAGMA foreign_keys = OFF", "BEGIN IMMEDIATE"}
	members := ch.What.Members()
	slices.Reverse(members)
	for _, m := range members {
		switch {
		case m.View != nil:
			sql = append(sql, "DROP VIEW "+ident(m.Name))
		case m.Table != nil && m.Table.Kind != catalog.Shadow:
			sql = append(sql, "DROP TABLE "+ident(m.Name))
			if ch.Empty {
				w.Preflight = append(w.Preflight, engine.Question{Title: fmt.Sprintf("rows of %s, which was made for none yet", m.Table.Ref()), Step: len(w.Steps) + 1, Answers: it.Answers,
					SQL: fmt.Sprintf("SELECT * FROM %s LIMIT 20", ident(m.Name))})
			}
		}
	}
	step.SQL = append(sql, "COMMIT", "PRAGMA foreign_keys = ON")
	if !ch.Empty && len(step.Tables) > 0 {
		step.Notes = append(step.Notes, "the rows are lost: the reversal makes the tables again, empty")
	}
}

// columnLine is a column as it is declared, but for what numbers it.
func columnLine(c *catalog.Column) string {
	text := strings.TrimSpace(ident(c.Name) + " " + c.Type.Native)
	if c.Identity != catalog.NoIdentity {
		return text
	}
	if !c.Nullable {
		text += " NOT NULL"
	}
	switch {
	case c.Generated != "":
		text += " GENERATED ALWAYS AS (" + c.Generated + ")"
		if c.Stored {
			text += " STORED"
		}
	case c.Default != "":
		text += " DEFAULT " + c.Default
	}
	if c.Type.Collation != "" {
		text += " COLLATE " + collation(c.Type.Collation)
	}
	return text
}
