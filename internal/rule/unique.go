package rule

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// Unique is the fix that keeps columns of a table unique: by a constraint, or by
// an index where a constraint would have the engine copy the whole table.
func Unique(p *Pass, t *catalog.Table, columns []string) Fix {
	name := p.Names.Free(t.Schema, "key", append([]string{t.Name}, columns...)...)
	title := fmt.Sprintf("keep (%s) of %s unique", strings.Join(columns, ", "), t.Name)
	if !p.Abilities.ConstraintCopies {
		return Fix{ID: "unique", Title: title, Changes: []change.Change{change.AddKey{Table: t.Ref(), Key: &catalog.Key{Name: name, Columns: columns, Index: name}}}}
	}
	x := &catalog.Index{Name: name, Origin: catalog.ByPerson, Method: "btree", Unique: true}
	for _, c := range columns {
		x.Parts = append(x.Parts, catalog.IndexPart{Column: c})
	}
	return Fix{ID: "unique", Title: title, Changes: []change.Change{change.CreateIndex{Table: t.Ref(), Index: x}}}
}
