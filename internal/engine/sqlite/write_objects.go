package sqlite

import (
	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/sqlite/ddltext"
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
		return "DROP VIEW " + ddltext.Ident(m.Name)
	}
	return ""
}
