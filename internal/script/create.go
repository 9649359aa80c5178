package script

import (
	"nexdal/internal/catalog"
	"nexdal/internal/engine"
)

// Create makes the script that builds the whole catalog in an empty database.
// Losses are those of a translation that led to the catalog; what the engine
// cannot write out comes on top.
func Create(e engine.Creator, c *catalog.Catalog, losses []engine.Loss) *Script {
	work, more := e.Create(c)
	s := &Script{Kind: "Creating script", Engine: c.Engine, Database: c.Database, Surveyed: c.Surveyed, Dialect: e.Dialect(), Work: *work}
	s.Losses = append(append(s.Losses, losses...), more...)
	for _, g := range c.Gaps { // what was not read cannot be written
		if !g.Figures {
			s.Losses = append(s.Losses, engine.Loss{What: catalog.ObjectRef{Kind: g.What, Schema: g.Schema, Name: g.Table}, Why: "it was not read: " + g.Reason})
		}
	}
	for _, t := range c.Tables() {
		if t.Extension == "" && t.Kind != catalog.Shadow {
			s.Tables = append(s.Tables, t.Ref())
		}
	}
	// None of the tables may be there yet: that is the structure it fits.
	s.Structure = exact + (&catalog.Catalog{}).Fingerprint(s.Tables)
	return s
}
