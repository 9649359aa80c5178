package report

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/phrase"
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
	p.printf("%s   %s\n", p.paint(bold, phrase.Line(d.Schema+"."+v.Name)), phrase.Line(strings.Join(append([]string{kind}, v.Options...), ", ")))
	if v.Comment != "" {
		p.block("  ", phrase.Line(v.Comment))
	}
	if len(v.Columns) > 0 {
		p.heading("Columns")
		var rows [][]string
		for _, c := range v.Columns {
			rows = append(rows, []string{phrase.Line(c.Name), phrase.Line(c.Type), phrase.Line(c.Comment)})
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
			p.block("  "+pad(phrase.Line(g.Name), 24)+"  ", phrase.Line(fires(g)))
		}
	}
	p.heading("Query")
	for line := range strings.Lines(v.Definition) {
		p.block("  ", phrase.Line(strings.TrimRight(line, "\r\n")))
	}
}
