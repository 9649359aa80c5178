package report

import (
	"nexdal/internal/text"
)

// Decision writes one decision, and what is the matter with it.
func (p *Page) Decision(about, says, state string) {
	p.printf("%s\n", p.paint(bold, text.Line(about)))
	p.block("  ", text.Line(says))
	if state != "" {
		p.block("  ", p.paint(yellow, text.Line(state)))
	}
}

// Undecided lists what nobody has decided about.
func (p *Page) Undecided(ids []string) {
	if len(ids) == 0 {
		return
	}
	p.heading("Undecided")
	for _, id := range ids {
		p.block("  ", text.Line(id))
	}
}
