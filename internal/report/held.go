package report

import (
	"fmt"
	"strings"
	"time"

	"nexdal/internal/evidence"
	"nexdal/internal/text"
)

// Hold adds what the rows of the table were found to hold.
func (d *Description) Hold(e *evidence.Evidence) {
	if e == nil {
		return
	}
	for _, c := range d.Table.Columns {
		for i := range e.Columns {
			if h := &e.Columns[i]; h.Schema == d.Schema && h.Table == d.Table.Name && h.Column == c.Name {
				d.Held = append(d.Held, *h)
			}
		}
	}
	d.probed = e.Probed
}

// held shows of each column how many values differ, how long they are, and which they are or
// between which they lie.
func (p *Page) held(d *Description) {
	if len(d.Held) == 0 {
		return
	}
	of := text.Plural(d.Held[0].Rows, "row")
	if d.Held[0].Sampled {
		of = "a sample of " + of
	}
	p.heading(fmt.Sprintf("What they hold   in %s, probed on %s", of, d.probed.Format(time.DateOnly)))
	var rows [][]string
	for i := range d.Held {
		h := &d.Held[i]
		rows = append(rows, []string{text.Line(h.Column), p.paint(dim, missing(h)), differing(h), lengths(h), text.Line(between(h))})
	}
	p.rows(nil, nil, rows)
}

// missing is the share of the rows without a value.
func missing(h *evidence.Column) string {
	if h.Nulls == 0 || h.Rows == 0 {
		return ""
	}
	return "null in " + text.Portion(float64(h.Nulls)/float64(h.Rows))
}

func differing(h *evidence.Column) string {
	switch {
	case h.Distinct == nil || h.Filled() == 0:
		return ""
	case *h.Distinct == h.Filled() && h.Filled() > 1:
		return "all differ"
	case *h.Distinct == 1:
		return "1 value"
	}
	return text.Amount(*h.Distinct) + " values"
}

func lengths(h *evidence.Column) string {
	switch {
	case h.Shortest == nil || h.Longest == nil:
		return ""
	case *h.Shortest == *h.Longest:
		return text.Plural(*h.Longest, "letter")
	}
	return fmt.Sprintf("%s to %s", text.Amount(*h.Shortest), text.Plural(*h.Longest, "letter"))
}

// between lists the values, where they are few, or else tells the least and the greatest.
func between(h *evidence.Column) string {
	if len(h.Values) > 0 {
		return strings.Join(h.Values, ", ")
	}
	if h.Distinct == nil || h.Least == nil || h.Greatest == nil { // what is not compared has no order that means something
		return ""
	}
	if *h.Least == *h.Greatest {
		return *h.Least
	}
	return *h.Least + " … " + *h.Greatest
}
