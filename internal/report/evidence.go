package report

import (
	"fmt"
	"strings"

	"nexdal/internal/evidence"
	"nexdal/internal/phrase"
)

// Evidence writes what stands out: references and keys that nobody declared,
// and declared references that do not hold.
func (p *Page) Evidence(e *evidence.Evidence) {
	var broken, implied, keys [][]string
	for _, r := range e.References {
		row := []string{phrase.Line(r.Table + " (" + strings.Join(r.Columns, ", ") + ")"), phrase.Line("→ " + r.Target + " (" + strings.Join(r.TargetColumns, ", ") + ")"), coverage(r)}
		if r.Orphans > 0 && len(r.Samples) > 0 {
			row[2] += p.paint(dim, ": "+some(r.Samples, 5))
		}
		switch {
		case r.Declared && r.Orphans > 0:
			broken = append(broken, row)
		case !r.Declared:
			implied = append(implied, row)
		}
	}
	for _, k := range e.Keys {
		if !k.Declared && k.Likely >= 0.5 {
			keys = append(keys, []string{phrase.Line(k.Table), phrase.Line("(" + strings.Join(k.Columns, ", ") + ")"), phrase.Plural(k.Rows, "row") + ", all different"})
		}
	}
	p.printf("%s   %s asked\n", p.paint(bold, phrase.Line(e.Database)), phrase.Plural(int64(e.Questions), "question"))
	for _, s := range []struct {
		title string
		rows  [][]string
	}{{"Declared references that do not hold", broken}, {"References that nothing declares", implied}, {"Unique, though nothing says so", keys}} {
		if len(s.rows) > 0 {
			p.heading(s.title)
			p.rows(nil, nil, s.rows)
		}
	}
	if len(e.Gaps) > 0 {
		p.heading("Not asked")
		for _, g := range e.Gaps {
			p.block("  "+phrase.Line(g.Table)+"  ", phrase.Line(g.What+": "+g.Reason))
		}
	}
}

func coverage(r evidence.Reference) string {
	if r.Orphans == 0 {
		return "all of " + phrase.Plural(r.RowsChecked, "row")
	}
	return fmt.Sprintf("%.2f %% of %s, %s without a parent", 100*r.Coverage, phrase.Plural(r.RowsChecked, "row"), phrase.Amount(r.Orphans))
}
