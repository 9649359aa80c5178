package report

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/text"
)

// ViewDescription is one view in full.
type ViewDescription struct {
	Format int           `json:"format"`
	Source sourceOf      `json:"source"`
	Schema string        `json:"schema"`
	View   *catalog.View `json:"view"`
}

// DescribeView gathers what is known of a view.
func DescribeView(c *catalog.Catalog, schema string, v *catalog.View) *ViewDescription {
	return &ViewDescription{1, sourceJSON(c), schema, v}
}

// View writes a view for people.
func (p *Page) View(d *ViewDescription) {
	v := d.View
	kind := "view"
	if v.Materialised {
		kind = "materialised view"
	}
	p.printf("%s   %s\n", p.paint(bold, text.Line(d.Schema+"."+v.Name)), text.Line(strings.Join(append([]string{kind}, v.Options...), ", ")))
	if v.Comment != "" {
		p.block("  ", text.Line(v.Comment))
	}
	if len(v.Columns) > 0 {
		p.heading("Columns")
		var rows [][]string
		for _, c := range v.Columns {
			rows = append(rows, []string{text.Line(c.Name), text.Line(c.Type), text.Line(c.Comment)})
		}
		p.rows(nil, nil, rows)
	}
	if len(v.Reads) > 0 {
		p.heading("Reads")
		var names []string
		for _, o := range v.Reads {
			names = append(names, o.String())
		}
		p.block("  ", some(names, 40))
	}
	p.indexes(&catalog.Table{Indexes: v.Indexes})
	if len(v.Triggers) > 0 {
		p.heading("Triggers")
		for _, g := range v.Triggers {
			p.block("  "+pad(text.Line(g.Name), 24)+"  ", text.Line(fires(g)))
		}
	}
	p.heading("Query")
	for line := range strings.Lines(v.Definition) {
		p.block("  ", text.Line(strings.TrimRight(line, "\r\n")))
	}
}
