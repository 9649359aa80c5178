package report

import (
	"fmt"
	"math"

	"nexdal/internal/draw"
)

// sheetScene is a scene as the page paints it.
type sheetScene struct {
	Name   string      `json:"name,omitempty"`
	W      float64     `json:"w"`
	H      float64     `json:"h"`
	Frames [][]any     `json:"f,omitempty"`
	Boxes  []sheetBox  `json:"b"`
	Lines  []sheetLine `json:"l"`
}

type sheetBox struct {
	ID    string  `json:"i"`
	Tip   string  `json:"t"`
	X     float64 `json:"x"`
	Y     float64 `json:"y"`
	W     float64 `json:"w"`
	H     float64 `json:"h"`
	Fill  string  `json:"f"`
	Rows  bool    `json:"r,omitempty"`
	Texts [][]any `json:"x2"`
}

type sheetLine struct {
	Tip     string   `json:"t"`
	Dashed  bool     `json:"d,omitempty"`
	Points  []string `json:"p"`
	Strokes []string `json:"s"`
	Rings   [][2]any `json:"r,omitempty"`
}

func sceneOf(s *draw.Scene) *sheetScene {
	out := &sheetScene{W: math.Ceil(s.W), H: math.Ceil(s.H), Boxes: []sheetBox{}, Lines: []sheetLine{}}
	if len(s.Legend) > 0 {
		out.H -= 30 // the page has its own
	}
	for _, f := range s.Frames {
		out.Frames = append(out.Frames, []any{f.X, f.Y, f.W, f.H, f.Name})
	}
	for _, b := range s.Boxes {
		x := sheetBox{b.ID, b.Tip, round(b.X), round(b.Y), round(b.W), round(b.H), b.Fill, b.Rows != nil, nil}
		for _, t := range b.Texts(draw.Light) {
			kind := 0
			switch {
			case t.Head:
				kind = 1
			case t.Ink == draw.Light.Faint:
				kind = 2
			}
			x.Texts = append(x.Texts, []any{round(t.X), round(t.Y), t.Text, t.Strong, kind, round(t.Wide)})
		}
		out.Boxes = append(out.Boxes, x)
	}
	for _, l := range s.Lines {
		x := sheetLine{Tip: l.Tip, Dashed: l.Dashed, Strokes: []string{}}
		for _, p := range l.Points {
			x.Points = append(x.Points, fmt.Sprintf("%g %g", round(p.X), round(p.Y)))
		}
		lines, rings := l.Marks()
		for _, m := range lines {
			x.Strokes = append(x.Strokes, fmt.Sprintf("M%g %gL%g %g", round(m[0].X), round(m[0].Y), round(m[1].X), round(m[1].Y)))
		}
		for _, r := range rings {
			x.Rings = append(x.Rings, [2]any{round(r.X), round(r.Y)})
		}
		out.Lines = append(out.Lines, x)
	}
	return out
}

func round(v float64) float64 { return math.Round(v*10) / 10 }
