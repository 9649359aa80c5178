package draw

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"image/png"
	"io"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/test/sample"
)

// sound says what is wrong with a scene, as a reader would see it.
func sound(s *Scene) error {
	boxes := map[string]Box{}
	for i, a := range s.Boxes {
		boxes[a.ID] = a
		if a.X < 0 || a.Y < 0 || a.X+a.W > s.W || a.Y+a.H > s.H {
			return fmt.Errorf("%s leaves the sheet", a.ID)
		}
		for _, b := range s.Boxes[i+1:] {
			if a.X < b.X+b.W && b.X < a.X+a.W && a.Y < b.Y+b.H && b.Y < a.Y+a.H {
				return fmt.Errorf("%s and %s overlap", a.ID, b.ID)
			}
		}
		for _, t := range a.Texts(Light) {
			if t.X < a.X-0.5 || t.X+t.Wide > a.X+a.W+0.5 || t.Y > a.Y+a.H+0.5 {
				return fmt.Errorf("%q leaves the box of %s", t.Text, a.ID)
			}
		}
	}
	for _, l := range s.Lines {
		if len(l.Points) < 2 {
			return fmt.Errorf("%s has no line", l.ID)
		}
		for i := 1; i < len(l.Points); i++ {
			p, q := l.Points[i-1], l.Points[i]
			if p.X != q.X && p.Y != q.Y {
				return fmt.Errorf("%s leads aslant from %v to %v", l.ID, p, q)
			}
			for _, b := range s.Boxes {
				if min(p.X, q.X) < b.X+b.W-0.5 && max(p.X, q.X) > b.X+0.5 && min(p.Y, q.Y) < b.Y+b.H-0.5 && max(p.Y, q.Y) > b.Y+0.5 {
					return fmt.Errorf("%s crosses the box of %s", l.ID, b.ID)
				}
			}
		}
		for i, end := range []Point{l.Points[0], l.Points[len(l.Points)-1]} {
			b := boxes[l.Between[i]]
			if end.Y < b.Y || end.Y > b.Y+b.H || end.X != b.X && end.X != b.X+b.W {
				return fmt.Errorf("%s does not end at the box of %s", l.ID, b.ID)
			}
		}
	}
	return nil
}

// TestScenes: every table and reference is there, nothing overlaps, no line crosses a box,
// and text stays in its box.
func TestScenes(t *testing.T) {
	for seed := range uint64(40) {
		n := []int{1, 2, 5, 12, 30, 60}[seed%6]
		c, refs := sample.Catalog(seed, n)
		o := Options{Content: []Content{Columns, Keys, Names}[seed%3], Title: "Saltmere", Legend: []Mark{{"error", "an error"}}}
		s := New(c, refs, o)
		if len(s.Boxes) != n {
			t.Errorf("seed %d: %d boxes of %d tables", seed, len(s.Boxes), n)
		}
		want := 0
		for _, x := range c.Tables() {
			want += len(x.ForeignKeys)
		}
		if len(s.Lines) != want {
			t.Errorf("seed %d: %d lines for %d references", seed, len(s.Lines), want)
		}
		if err := sound(s); err != nil {
			t.Errorf("seed %d, %d tables: %v", seed, n, err)
		}
	}
}

// TestSchemas: frames hold the tables of their schema and no others, do not overlap, and
// references lead from one to another.
func TestSchemas(t *testing.T) {
	for seed, schemas := range [][]string{{"shop", "<weather>"}, {"tide", "gauge", "staff", "feed"}, {"a", "b", "c", "d", "e", "f"}} {
		c, refs := sample.Catalog(uint64(seed), 10+10*seed, schemas...)
		s := New(c, refs, Options{})
		if err := sound(s); err != nil {
			t.Error(err)
		}
		want := 0
		for _, x := range c.Tables() {
			want += len(x.ForeignKeys)
		}
		if len(s.Lines) != want {
			t.Errorf("%v: %d lines for %d references", schemas, len(s.Lines), want)
		}
		if len(s.Frames) != len(schemas) {
			t.Fatalf("%d frames for %v", len(s.Frames), schemas)
		}
		for i, f := range s.Frames {
			for _, o := range s.Frames[i+1:] {
				if f.X < o.X+o.W && o.X < f.X+f.W && f.Y < o.Y+o.H && o.Y < f.Y+f.H {
					t.Errorf("the frames of %s and %s overlap", f.Name, o.Name)
				}
			}
			if f.X < 0 || f.Y < 0 || f.X+f.W > s.W || f.Y+f.H > s.H {
				t.Errorf("the frame of %s leaves the sheet", f.Name)
			}
			for _, b := range s.Boxes {
				inside := b.X >= f.X && b.X+b.W <= f.X+f.W && b.Y >= f.Y && b.Y+b.H <= f.Y+f.H
				if inside != strings.HasPrefix(b.ID, f.Name+".") {
					t.Errorf("%s, in the frame of %s: %v", b.ID, f.Name, inside)
				}
			}
		}
	}
}

// TestPaint: the SVG is well-formed and names every table, the PNG is as large as the
// scene, and the same scene gives the same bytes.
func TestPaint(t *testing.T) {
	c, refs := sample.Catalog(7, 30)
	var first []byte
	for _, theme := range []Theme{Light, Dark} {
		s := New(c, refs, Options{Undeclared: []Reference{{From: refs[0], To: refs[1], Columns: []string{"id"}, TargetNames: []string{"id"}, Coverage: 0.5}}})
		var svg, picture bytes.Buffer
		if err := s.SVG(&svg, theme); err != nil {
			t.Fatal(err)
		}
		d := xml.NewDecoder(bytes.NewReader(svg.Bytes()))
		tables := 0
		for {
			token, err := d.Token()
			if errors.Is(err, io.EOF) {
				break
			}
			if err != nil {
				t.Fatalf("the SVG is not well-formed: %v", err)
			}
			if e, ok := token.(xml.StartElement); ok {
				for _, a := range e.Attr {
					if a.Name.Local == "class" && a.Value == "table" {
						tables++
					}
				}
			}
		}
		if tables != len(refs) {
			t.Errorf("%d tables in the SVG", tables)
		}
		if !strings.Contains(svg.String(), "stroke-dasharray") {
			t.Error("what nothing declares is not dashed")
		}
		if _, err := s.PNG(&picture, theme, 1); err != nil {
			t.Fatal(err)
		}
		img, err := png.Decode(&picture)
		if err != nil {
			t.Fatal(err)
		}
		if b := img.Bounds(); float64(b.Dx()) < s.W || float64(b.Dx()) > s.W+1 || float64(b.Dy()) < s.H {
			t.Errorf("%v for a scene of %.0f by %.0f", b, s.W, s.H)
		}
		// Where the scene has a box's head, the picture has its colour.
		for _, b := range s.Boxes {
			r, g, bl, _ := img.At(int(b.X+3), int(b.Y+3)).RGBA()
			if want := rgb(theme.fill(b.Fill)); uint8(r>>8) != want.R || uint8(g>>8) != want.G || uint8(bl>>8) != want.B {
				t.Fatalf("%s is not where the scene has it", b.ID)
			}
		}
		if first == nil {
			var again bytes.Buffer
			New(c, refs, Options{Undeclared: []Reference{{From: refs[0], To: refs[1], Columns: []string{"id"}, TargetNames: []string{"id"}, Coverage: 0.5}}}).SVG(&again, theme)
			if first = svg.Bytes(); !bytes.Equal(first, again.Bytes()) {
				t.Error("the same scene gives other bytes")
			}
		}
	}
}

// TestSplit: every table is on one sheet, none is too full, and tables that hang together
// mostly share one.
func TestSplit(t *testing.T) {
	c, refs := sample.Catalog(9, 300)
	seen := map[catalog.Ref]int{}
	sheets := Split(c, refs, 40)
	for i, s := range sheets {
		if len(s) > 40 {
			t.Errorf("sheet %d holds %d tables", i, len(s))
		}
		for _, ref := range s {
			seen[ref]++
		}
	}
	for _, ref := range refs {
		if seen[ref] != 1 {
			t.Errorf("%s is on %d sheets", ref, seen[ref])
		}
	}
	if s := Index(c, sheets, "Saltmere", func(i int) string { return fmt.Sprint(i) }); len(s.Boxes) != len(sheets) {
		t.Errorf("%d boxes for %d sheets", len(s.Boxes), len(sheets))
	}
}

// TestSplitClosest: the groups are those that come of joining the closest two again and
// again, looked for among all.
func TestSplitClosest(t *testing.T) {
	for seed := range uint64(12) {
		c, refs := sample.Catalog(seed, 60)
		group := map[catalog.Ref]int{} // by the first of its tables
		for i, ref := range refs {
			group[ref] = i
		}
		const most = 9
		for {
			size, shared := map[int]int{}, map[[2]int]int{}
			for _, g := range group {
				size[g]++
			}
			for _, ref := range refs {
				for _, f := range c.Table(ref).ForeignKeys {
					if to, ok := group[f.Target]; ok && to != group[ref] {
						shared[[2]int{min(to, group[ref]), max(to, group[ref])}]++
					}
				}
			}
			best := [2]int{-1, -1}
			for p, n := range shared {
				if size[p[0]]+size[p[1]] > most {
					continue
				}
				x, y := n*size[best[0]]*size[best[1]], shared[best]*size[p[0]]*size[p[1]]
				if best[0] < 0 || x > y || x == y && (p[0] < best[0] || p[0] == best[0] && p[1] < best[1]) {
					best = p
				}
			}
			if best[0] < 0 {
				break
			}
			for ref, g := range group {
				if g == best[1] {
					group[ref] = best[0]
				}
			}
		}
		sheet := map[catalog.Ref]int{}
		for i, s := range Split(c, refs, most) {
			for _, ref := range s {
				sheet[ref] = i
			}
		}
		for _, a := range refs {
			for _, b := range refs {
				if group[a] == group[b] && sheet[a] != sheet[b] {
					t.Fatalf("seed %d: %s and %s hang together, and are on sheets %d and %d", seed, a, b, sheet[a], sheet[b])
				}
			}
		}
	}
}

// TestOdd: nothing at all, a table of very many columns, names in a script that the font
// lacks.
func TestOdd(t *testing.T) {
	wide := &catalog.Table{Schema: "public", Name: strings.Repeat("w", 128), Kind: catalog.Ordinary}
	for i := range 500 {
		wide.Columns = append(wide.Columns, &catalog.Column{Name: fmt.Sprintf("列%d", i), Type: catalog.Type{Native: strings.Repeat("t", 60)}})
	}
	c := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "public", Tables: []*catalog.Table{wide}}}}
	s := New(c, []catalog.Ref{wide.Ref()}, Options{MostRows: 40})
	if err := sound(s); err != nil {
		t.Error(err)
	}
	if s.Lacking != 1 || len(s.Boxes[0].Rows) != 41 {
		t.Errorf("%d names lack letters, %d rows", s.Lacking, len(s.Boxes[0].Rows))
	}
	var b bytes.Buffer
	if _, err := s.PNG(&b, Light, 1); err != nil {
		t.Error(err)
	}
	if err := Mermaid(&b, c, s); err != nil {
		t.Error(err)
	}
	if err := s.DOT(&b); err != nil {
		t.Error(err)
	}
}

func BenchmarkNew(b *testing.B) {
	c, refs := sample.Catalog(3, 300)
	for b.Loop() {
		New(c, refs, Options{})
	}
}
