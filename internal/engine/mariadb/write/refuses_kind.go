package write

import (
	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// refusesKind says why the server has no statement for what others of the family do, or "".
func (e Writer) refusesKind(c *catalog.Catalog, ch change.Change) string {
	f := e.Family()
	switch ch := ch.(type) {
	case change.CreateSequence, change.DropSequence, change.AlterSequence, change.AdvanceSequence:
		if !f.Sequences {
			return f.Title + " has no sequences"
		}
	case change.AddCheck:
		if ch.Check.NotEnforced && !f.NotEnforced {
			return f.Title + " enforces every check"
		}
	case change.CreateIndex:
		if e.Abilities(c.Engine.Version).IndexExpressions {
			return ""
		}
		for _, p := range ch.Index.Parts {
			if p.Column == "" {
				return f.Title + " indexes columns alone"
			}
		}
	}
	return ""
}
