package catalog

import (
	"fmt"
	"strings"
	"time"
)

// Comparable returns a copy that holds structure alone, without what two
// equal structures may differ in: the date, the engine's own texts, and names
// that the engine picks by itself.
func (c *Catalog) Comparable() *Catalog {
	d := c.Clone()
	d.Surveyed = time.Time{}
	for _, t := range d.Tables() {
		t.Definition = ""
		t.Stats = TableStats{}
		picked := map[string]string{}
		for _, x := range t.Indexes {
			x.Definition = ""
			x.Bytes = nil
			if x.SystemNamed {
				name := fmt.Sprintf("(%s)", strings.Join(x.Columns(), ", "))
				picked[x.Name] = name
				x.Name = name
			}
		}
		for _, k := range t.Keys() {
			if name, ok := picked[k.Index]; ok && k.Index != "" {
				k.Index = name
			}
		}
	}
	d.Sort()
	return d
}
