package draw

import (
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"io"
	"math"

	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/math/fixed"
	"golang.org/x/image/vector"
)

// mostPixels is the largest picture that is painted, some 400 MB.
const mostPixels = 100_000_000

// PNG paints the same scene as SVG does, so many pixels for each of the scene's. A scene
// that would be too large is painted smaller; the scale that was taken is returned.
func (s *Scene) PNG(out io.Writer, t Theme, scale float64) (float64, error) {
	if area := s.W * s.H * scale * scale; area > mostPixels {
		scale *= math.Sqrt(mostPixels / area)
	}
	p := &painter{scale: scale, img: image.NewRGBA(image.Rect(0, 0, int(math.Ceil(s.W*scale)), int(math.Ceil(s.H*scale)))), glyphs: map[glyphKey]*glyph{}}
	p.faces[0], p.faces[1] = p.face(goregular.TTF), p.face(gobold.TTF)
	draw.Draw(p.img, p.img.Bounds(), image.NewUniform(rgb(t.Paper)), image.Point{}, draw.Src)
	if s.Title != "" {
		p.text(Text{margin, margin + 10, s.Title, t.Ink, true, 0, false})
	}
	for _, f := range s.Frames {
		p.outline(f.X, f.Y, f.W, f.H, rgb(t.Edge), true)
		p.text(Text{f.X + 12, f.Y + 18, f.Name, t.Faint, true, 0, false})
	}
	ink := rgb(t.Line)
	for _, l := range s.Lines {
		for i := 1; i < len(l.Points); i++ {
			p.line(l.Points[i-1], l.Points[i], 1.3, ink, l.Dashed)
		}
		for _, end := range l.ends() {
			lines, ring := strokes(end.kind, end.at, end.toward)
			for _, x := range lines {
				p.line(x[0], x[1], 1.3, ink, false)
			}
			if ring != nil {
				p.disc(*ring, ringRadius+0.65, ink)
				p.disc(*ring, ringRadius-0.65, rgb(t.Paper))
			}
		}
	}
	for _, l := range s.Lines {
		if l.Label != "" {
			at := l.label()
			p.fill(at.X-2, at.Y-10, textWidth(l.Label, false)+4, 13, rgb(t.Paper))
			p.text(Text{at.X, at.Y, l.Label, t.Faint, false, 0, false})
		}
	}
	for _, b := range s.Boxes {
		body, head := t.Body, b.H
		if b.Rows != nil {
			head = headHeight
		}
		p.fill(b.X, b.Y, b.W, b.H, rgb(body))
		p.fill(b.X, b.Y, b.W, head, rgb(t.fill(b.Fill)))
		if b.Rows != nil {
			p.fill(b.X, b.Y+head-0.5, b.W, 1, rgb(t.Edge))
		}
		p.outline(b.X, b.Y, b.W, b.H, rgb(t.Edge), false)
		for _, x := range b.Texts(t) {
			p.text(x)
		}
	}
	x := margin
	for _, m := range s.Legend {
		y := s.H - 26
		p.fill(x, y, 14, 14, rgb(t.fill(m.Fill)))
		p.outline(x, y, 14, 14, rgb(t.Edge), false)
		p.text(Text{x + 20, y + 11, m.Says, t.Ink, false, 0, false})
		x += textWidth(m.Says, false) + 34
	}
	e := png.Encoder{CompressionLevel: png.BestSpeed}
	return scale, e.Encode(out, p.img)
}

type painter struct {
	img    *image.RGBA
	scale  float64
	faces  [2]font.Face
	glyphs map[glyphKey]*glyph
}

type glyphKey struct {
	r      rune
	strong bool
}

// A glyph is one letter, painted once.
type glyph struct {
	mask    *image.Alpha
	at      image.Point // of the mask, from the letter's beginning on the line
	advance float64
}

func (p *painter) face(ttf []byte) font.Face {
	f, err := opentype.Parse(ttf)
	if err != nil {
		panic(err) // it is part of the program
	}
	face, err := opentype.NewFace(f, &opentype.FaceOptions{Size: fontSize * p.scale, DPI: 72, Hinting: font.HintingNone})
	if err != nil {
		panic(err)
	}
	return face
}

func (p *painter) fill(x, y, w, h float64, c color.RGBA) {
	r := image.Rect(p.px(x), p.px(y), p.px(x+w), p.px(y+h))
	draw.Draw(p.img, r, image.NewUniform(c), image.Point{}, draw.Src)
}

func (p *painter) px(v float64) int { return int(math.Round(v * p.scale)) }

func (p *painter) outline(x, y, w, h float64, c color.RGBA, dashed bool) {
	corners := []Point{{x, y}, {x + w, y}, {x + w, y + h}, {x, y + h}, {x, y}}
	for i := 1; i < 5; i++ {
		p.line(corners[i-1], corners[i], 1, c, dashed)
	}
}

// line paints a stroke; one that is level or upright is filled, which is fast.
func (p *painter) line(a, b Point, width float64, c color.RGBA, dashed bool) {
	long := math.Hypot(b.X-a.X, b.Y-a.Y)
	if long == 0 {
		return
	}
	if dashed {
		dx, dy := (b.X-a.X)/long, (b.Y-a.Y)/long
		for at := 0.0; at < long; at += 9 {
			to := min(at+5, long)
			p.line(Point{a.X + dx*at, a.Y + dy*at}, Point{a.X + dx*to, a.Y + dy*to}, width, c, false)
		}
		return
	}
	half := max(width*p.scale, 1) / 2
	ax, ay, bx, by := a.X*p.scale, a.Y*p.scale, b.X*p.scale, b.Y*p.scale
	if a.X == b.X || a.Y == b.Y {
		thick := max(1, int(math.Round(2*half)))
		x1, y1 := int(math.Round(min(ax, bx)-half)), int(math.Round(min(ay, by)-half))
		r := image.Rect(x1, y1, int(math.Round(max(ax, bx)-half))+thick, int(math.Round(max(ay, by)-half))+thick)
		draw.Draw(p.img, r, image.NewUniform(c), image.Point{}, draw.Src)
		return
	}
	nx, ny := -(by-ay)/(long*p.scale)*half, (bx-ax)/(long*p.scale)*half
	p.polygon(c, Point{ax + nx, ay + ny}, Point{bx + nx, by + ny}, Point{bx - nx, by - ny}, Point{ax - nx, ay - ny})
}

func (p *painter) disc(at Point, radius float64, c color.RGBA) {
	var points []Point
	for i := range 24 {
		angle := 2 * math.Pi * float64(i) / 24
		points = append(points, Point{(at.X + radius*math.Cos(angle)) * p.scale, (at.Y + radius*math.Sin(angle)) * p.scale})
	}
	p.polygon(c, points...)
}

// polygon fills a shape, in pixels, smoothly.
func (p *painter) polygon(c color.RGBA, points ...Point) {
	left, top, right, bottom := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, q := range points {
		left, top, right, bottom = min(left, q.X), min(top, q.Y), max(right, q.X), max(bottom, q.Y)
	}
	x0, y0 := int(math.Floor(left)), int(math.Floor(top))
	w, h := int(math.Ceil(right))-x0+1, int(math.Ceil(bottom))-y0+1
	z := vector.NewRasterizer(w, h)
	for i, q := range points {
		if x, y := float32(q.X-float64(x0)), float32(q.Y-float64(y0)); i == 0 {
			z.MoveTo(x, y)
		} else {
			z.LineTo(x, y)
		}
	}
	z.ClosePath()
	z.Draw(p.img, image.Rect(x0, y0, x0+w, y0+h), image.NewUniform(c), image.Point{})
}

// text paints letters from their places on the line; each letter is made once.
func (p *painter) text(t Text) {
	x, ink := t.X*p.scale, image.NewUniform(rgb(t.Ink))
	y := p.px(t.Y)
	for _, r := range t.Text {
		g := p.glyph(r, t.Strong)
		if g.mask != nil {
			at := image.Pt(int(math.Round(x))+g.at.X, y+g.at.Y)
			draw.DrawMask(p.img, g.mask.Bounds().Add(at), ink, image.Point{}, g.mask, image.Point{}, draw.Over)
		}
		x += g.advance
	}
}

func (p *painter) glyph(r rune, strong bool) *glyph {
	key := glyphKey{r, strong}
	if g := p.glyphs[key]; g != nil {
		return g
	}
	face := p.faces[0]
	if strong {
		face = p.faces[1]
	}
	rect, mask, from, advance, ok := face.Glyph(fixed.Point26_6{}, r)
	if !ok && r != '\ufffd' {
		g := p.glyph('\ufffd', strong)
		p.glyphs[key] = g
		return g
	}
	g := &glyph{advance: float64(advance) / 64, at: rect.Min}
	if mask != nil && !rect.Empty() {
		g.mask = image.NewAlpha(image.Rect(0, 0, rect.Dx(), rect.Dy()))
		draw.Draw(g.mask, g.mask.Bounds(), mask, from, draw.Src)
	}
	p.glyphs[key] = g
	return g
}
