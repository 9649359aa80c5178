package sqlite

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// createObjects makes what is not there yet, by the texts that a whole structure is made
// by.
func (w *writer) createObjects(ch change.CreateObjects) {
	bare := *ch.What
	bare.Settings = nil
	work, _ := Engine{}.Create(&bare)
	for _, st := range work.Steps {
		st.Tables = ch.Tables()
		w.Add(st)
	}
}

// dropObject drops what is no table.
func dropObject(m *catalog.Member) string {
	if m.View != nil {
		return "DROP VIEW " + ident(m.Name)
	}
	return ""
}

// columnLine is a column as it is declared, without what numbers it.
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
