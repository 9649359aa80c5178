package draw

import (
	"bufio"
	"fmt"
	"io"
	"math"
	"strings"

	"nexdal/internal/text"
)

// strokes are the short lines that an end is made of, and whether a ring stands there:
// at is the end, and toward is where the line comes from.
func strokes(e End, at, toward Point) (lines [][2]Point, ring *Point) {
	dx := 1.0
	if toward.X < at.X {
		dx = -1
	}
	p := func(x, y float64) Point { return Point{at.X + dx*x, at.Y + y} }
	switch e {
	case EndOne:
		return [][2]Point{{p(6, -5), p(6, 5)}, {p(10, -5), p(10, 5)}}, nil
	case EndZeroOrOne:
		c := p(14, 0)
		return [][2]Point{{p(6, -5), p(6, 5)}}, &c
	case EndMany:
		return [][2]Point{{p(0, -6), p(11, 0)}, {p(0, 6), p(11, 0)}}, nil
	case EndArrow:
		return [][2]Point{{p(0, 0), p(10, -5)}, {p(0, 0), p(10, 5)}}, nil
	}
	return nil, nil
}

// ring is half the width of the ring that means none.
const ringRadius = 3.5

// A Text is one piece of a box's text, placed: what SVG, PNG and pages write alike.
type Text struct {
	X, Y   float64 // the baseline's beginning
	Text   string
	Ink    string
	Strong bool
	Wide   float64
	Head   bool // in the box's head
}

// Marks are the short lines and the rings at the ends of a line.
func (l Line) Marks() (lines [][2]Point, rings []Point) {
	for _, end := range l.ends() {
		some, ring := strokes(end.kind, end.at, end.toward)
		lines = append(lines, some...)
		if ring != nil {
			rings = append(rings, *ring)
		}
	}
	return lines, rings
}

// Texts are all that stands in the box.
func (b Box) Texts(t Theme) []Text {
	put := func(x, y float64, s, ink string, strong bool) Text {
		return Text{X: x, Y: y, Text: s, Ink: ink, Strong: strong, Wide: textWidth(s, strong)}
	}
	head := put(b.X+boxPad, b.Y+16, b.Head, t.headInk(b.Fill), true)
	head.Head = true
	if b.Rows == nil {
		head.X = b.X + (b.W-head.Wide)/2
		head.Y = b.Y + b.H/2 + 4
	}
	all := []Text{head}
	if b.Note != "" {
		n := put(0, b.Y+16, b.Note, t.headInk(b.Fill), false)
		n.X, n.Head = b.X+b.W-boxPad-n.Wide, true
		all = append(all, n)
	}
	for _, r := range b.Rows {
		ink := t.Ink
		if r.Faint {
			ink = t.Faint
		}
		y := r.Y + 4
		all = append(all, put(b.X+boxPad, y, r.Name, ink, r.Strong))
		right := b.X + b.W - boxPad
		if r.Mark != "" {
			m := put(0, y, r.Mark, t.Faint, false)
			m.X = right - m.Wide
			right = m.X - 12
			all = append(all, m)
		}
		if r.Type != "" {
			m := put(0, y, r.Type, t.Faint, false)
			m.X = right - m.Wide
			all = append(all, m)
		}
	}
	return all
}

func escaped(s string) string {
	var b strings.Builder
	for _, r := range s {
		switch {
		case r == '&':
			b.WriteString("&amp;")
		case r == '<':
			b.WriteString("&lt;")
		case r == '>':
			b.WriteString("&gt;")
		case r == '"':
			b.WriteString("&quot;")
		case r == '\'':
			b.WriteString("&#39;")
		case text.Hostile(r) || r == 0xfffe || r == 0xffff:
			b.WriteString("�")
		default:
			b.WriteRune(r)
		}
	}
	return b.String()
}

func num(v float64) string {
	s := fmt.Sprintf("%.1f", v)
	return strings.TrimSuffix(s, ".0")
}

// SVG paints the scene. It names no font of its own but the widths of one, to which the
// text is fitted, so that it stays in its box whatever the viewer has.
func (s *Scene) SVG(out io.Writer, t Theme) error {
	w := bufio.NewWriter(out)
	f := func(format string, args ...any) { fmt.Fprintf(w, format, args...) }
	f(`<svg xmlns="http://www.w3.org/2000/svg" width="%s" height="%s" viewBox="0 0 %[1]s %[2]s" font-family="Go, 'DejaVu Sans', 'Segoe UI', Helvetica, sans-serif" font-size="%d" role="img">`+"\n", num(math.Ceil(s.W)), num(math.Ceil(s.H)), fontSize)
	if s.Title != "" {
		f("<title>%s</title>\n", escaped(s.Title))
	}
	f(`<rect width="100%%" height="100%%" fill="%s"/>`+"\n", t.Paper)
	text := func(p Text) {
		weight := ""
		if p.Strong {
			weight = ` font-weight="bold"`
		}
		f(`<text x="%s" y="%s" fill="%s"%s textLength="%s" lengthAdjust="spacingAndGlyphs">%s</text>`+"\n", num(p.X), num(p.Y), p.Ink, weight, num(max(1, p.Wide)), escaped(p.Text))
	}
	if s.Title != "" {
		f(`<text x="%s" y="%s" fill="%s" font-weight="bold" font-size="15">%s</text>`+"\n", num(margin), num(margin+10), t.Ink, escaped(s.Title))
	}
	for _, x := range s.Frames {
		f(`<rect x="%s" y="%s" width="%s" height="%s" rx="8" fill="none" stroke="%s" stroke-dasharray="2 4"/>`+"\n", num(x.X), num(x.Y), num(x.W), num(x.H), t.Edge)
		text(Text{x.X + 12, x.Y + 18, x.Name, t.Faint, true, textWidth(x.Name, true), false})
	}
	for _, l := range s.Lines {
		var path strings.Builder
		for i, p := range l.Points {
			fmt.Fprintf(&path, "%c%s %s", "ML"[min(i, 1)], num(p.X), num(p.Y))
		}
		dash := ""
		if l.Dashed {
			dash = ` stroke-dasharray="5 4"`
		}
		f(`<g class="reference" data-from="%s" data-to="%s" stroke="%s" stroke-width="1.3" fill="none"><title>%s</title><path d="%s"%s/>`, escaped(l.Between[1]), escaped(l.Between[0]), t.Line, escaped(l.Tip), path.String(), dash)
		for _, end := range l.ends() {
			lines, ring := strokes(end.kind, end.at, end.toward)
			for _, x := range lines {
				f(`<path d="M%s %sL%s %s"/>`, num(x[0].X), num(x[0].Y), num(x[1].X), num(x[1].Y))
			}
			if ring != nil {
				f(`<circle cx="%s" cy="%s" r="%s" fill="%s"/>`, num(ring.X), num(ring.Y), num(ringRadius), t.Paper)
			}
		}
		f("</g>\n")
	}
	for _, l := range s.Lines {
		if l.Label != "" {
			at := l.label()
			f(`<rect x="%s" y="%s" width="%s" height="13" fill="%s"/>`, num(at.X-2), num(at.Y-10), num(textWidth(l.Label, false)+4), t.Paper)
			text(Text{at.X, at.Y, l.Label, t.Faint, false, textWidth(l.Label, false), false})
		}
	}
	for _, b := range s.Boxes {
		if b.Link != "" {
			f(`<a href="%s">`, escaped(b.Link))
		}
		f(`<g class="table" data-table="%s"><title>%s</title>`+"\n", escaped(b.ID), escaped(b.Tip))
		f(`<rect x="%s" y="%s" width="%s" height="%s" rx="4" fill="%s" stroke="%s"/>`, num(b.X), num(b.Y), num(b.W), num(b.H), t.Body, t.Edge)
		if b.Rows == nil {
			f(`<rect x="%s" y="%s" width="%s" height="%s" rx="4" fill="%s" stroke="%s"/>`+"\n", num(b.X), num(b.Y), num(b.W), num(b.H), t.fill(b.Fill), t.Edge)
		} else {
			f(`<path d="M%s %sv-%sa4 4 0 0 1 4 -4h%sa4 4 0 0 1 4 4v%sz" fill="%s" stroke="%s"/>`+"\n", num(b.X), num(b.Y+headHeight-1), num(headHeight-5), num(b.W-8), num(headHeight-5), t.fill(b.Fill), t.Edge)
		}
		for _, p := range b.Texts(t) {
			text(p)
		}
		f("</g>")
		if b.Link != "" {
			f("</a>")
		}
		f("\n")
	}
	x := margin
	for _, m := range s.Legend {
		y := s.H - 26
		f(`<rect x="%s" y="%s" width="14" height="14" rx="2" fill="%s" stroke="%s"/>`+"\n", num(x), num(y), t.fill(m.Fill), t.Edge)
		text(Text{x + 20, y + 11, m.Says, t.Ink, false, textWidth(m.Says, false), false})
		x += textWidth(m.Says, false) + 34
	}
	f("</svg>\n")
	return w.Flush()
}

type lineEnd struct {
	kind       End
	at, toward Point
}

// ends are both ends of the line, the table referred to first.
func (l Line) ends() []lineEnd {
	n := len(l.Points)
	if n < 2 {
		return nil
	}
	return []lineEnd{{l.From, l.Points[0], l.Points[1]}, {l.To, l.Points[n-1], l.Points[n-2]}}
}

// label is where a line's label begins: beside the end of who refers.
func (l Line) label() Point {
	n := len(l.Points)
	p, q := l.Points[n-1], l.Points[n-2]
	if q.X < p.X {
		return Point{p.X - 16 - textWidth(l.Label, false), p.Y - 4}
	}
	return Point{p.X + 16, p.Y - 4}
}
