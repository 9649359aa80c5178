package main

import (
	"bufio"
	"bytes"
	"fmt"
	"io"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/draw"
	"nexdal/test/sample"
)

// drawings times diagrams, and compares their lines with what Graphviz makes of the same
// boxes. Surveys are of further structures.
func drawings(folder string, surveys ...string) error {
	fmt.Println("diagrams, against dot on the same boxes: lines that cross, area, time")
	type subject struct {
		name string
		c    *catalog.Catalog
		refs []catalog.Ref
	}
	var all []subject
	for _, n := range []int{20, 50, 100, 300} {
		c, refs := sample.Catalog(uint64(n), n)
		all = append(all, subject{fmt.Sprintf("%d made-up tables", n), c, refs})
	}
	for _, path := range surveys {
		f, err := os.Open(path)
		if err != nil {
			return err
		}
		c, err := catalog.Read(f)
		f.Close()
		if err != nil {
			return err
		}
		var refs []catalog.Ref
		for _, t := range c.Tables() {
			if t.PartitionOf == nil {
				refs = append(refs, t.Ref())
			}
		}
		all = append(all, subject{filepath.Base(path), c, refs})
	}
	for _, x := range all {
		var took []float64
		var s *draw.Scene
		for range 3 {
			began := time.Now()
			s = draw.New(x.c, x.refs, draw.Options{})
			took = append(took, time.Since(began).Seconds())
		}
		slices.Sort(took)
		theirs, err := witness(s)
		if err != nil {
			fmt.Printf("  %-22s %s: not compared: %v\n", x.name, fmt.Sprintf("%.0f ms", 1000*took[1]), err)
			continue
		}
		var lines [][]draw.Point
		for _, l := range s.Lines {
			lines = append(lines, l.Points)
		}
		mine := crossing(lines)
		fmt.Printf("  %-22s crossings %d / %d = %.2f (at most 1.2)   area %.2f (1.3)   time %.0f ms / %.0f ms = %.2f (0.33 at 300)\n", x.name, mine, theirs.crossings, float64(mine)/float64(max(1, theirs.crossings)),
			area(s)/theirs.area, 1000*took[1], 1000*theirs.took, took[1]/theirs.took)
	}
	c, _ := sample.Catalog(1, 1000)
	survey := filepath.Join(folder, "thousand.json")
	if err := save(c, survey); err != nil {
		return err
	}
	sheets, _, err := inTurn(3, []string{program, "draw", survey, "-o", filepath.Join(folder, "thousand.svg")}, nil)
	if err != nil {
		return err
	}
	row("  1,000 tables in sheets", "%.0f ms", "under 2000 ms", ms(sheets))
	c, _ = sample.Catalog(2, 300)
	if err := save(c, survey); err != nil {
		return err
	}
	one, _, err := inTurn(3, []string{program, "draw", survey, "--sheet", "300", "-o", filepath.Join(folder, "one.svg")}, nil)
	if err != nil {
		return err
	}
	row("  300 tables on one", "%.0f ms", "under 500 ms", ms(one))
	c, _ = sample.Catalog(3, 2000)
	if err := save(c, survey); err != nil {
		return err
	}
	page := filepath.Join(folder, "page.html")
	report, _, err := inTurn(3, []string{program, "report", survey, "-o", page}, nil)
	if err != nil {
		return err
	}
	row("  report of 2,000 tables", "%.0f ms", "under 5000 ms", ms(report))
	if info, err := os.Stat(page); err == nil {
		row("  its size", "%.1f MB", "under 15 MB", float64(info.Size())/1e6)
	}
	return nil
}

// area is of what is drawn, without margins and title, as dot tells its own.
func area(s *draw.Scene) float64 {
	left, top, right, bottom := s.W, s.H, 0.0, 0.0
	meet := func(x, y float64) {
		left, top, right, bottom = min(left, x), min(top, y), max(right, x), max(bottom, y)
	}
	for _, b := range s.Boxes {
		meet(b.X, b.Y)
		meet(b.X+b.W, b.Y+b.H)
	}
	for _, l := range s.Lines {
		for _, p := range l.Points {
			meet(p.X, p.Y)
		}
	}
	return (right - left) * (bottom - top)
}

func save(c *catalog.Catalog, path string) error {
	c.Surveyed = time.Date(2026, 11, 25, 8, 0, 0, 0, time.UTC)
	f, err := os.Create(path)
	if err != nil {
		return err
	}
	c.Sort()
	if err := c.Write(f, true); err != nil {
		return err
	}
	return f.Close()
}

type witnessed struct {
	crossings  int
	area, took float64
}

// witness lets Graphviz lay out the same boxes and joins.
func witness(s *draw.Scene) (witnessed, error) {
	var text bytes.Buffer
	if err := s.DOT(&text); err != nil {
		return witnessed{}, err
	}
	dot := exec.Command("dot", "-Gsplines=spline", "-Tplain")
	dot.Stdin = &text
	began := time.Now()
	out, err := dot.Output()
	w := witnessed{took: time.Since(began).Seconds()}
	if err != nil {
		return w, err
	}
	var lines [][]draw.Point
	in := bufio.NewReader(bytes.NewReader(out))
	for {
		line, err := in.ReadString('\n')
		f := fields(line)
		if len(f) > 3 && f[0] == "graph" {
			w.area = number(f[2]) * number(f[3]) * 72 * 72
		}
		if len(f) > 3 && f[0] == "edge" {
			n := int(number(f[3]))
			var control []draw.Point
			for i := range n {
				control = append(control, draw.Point{X: number(f[4+2*i]) * 72, Y: number(f[5+2*i]) * 72})
			}
			lines = append(lines, bezier(control))
		}
		if err == io.EOF {
			break
		}
	}
	w.crossings = crossing(lines)
	return w, nil
}

// fields cuts at blanks outside quotes.
func fields(line string) []string {
	var all []string
	for line = strings.TrimSpace(line); line != ""; line = strings.TrimLeft(line, " ") {
		if line[0] == '"' {
			end := 1
			for end < len(line) && (line[end] != '"' || line[end-1] == '\\') {
				end++
			}
			all, line = append(all, line[:min(end+1, len(line))]), line[min(end+1, len(line)):]
			continue
		}
		word, rest, _ := strings.Cut(line, " ")
		all, line = append(all, word), rest
	}
	return all
}

func number(s string) float64 { n, _ := strconv.ParseFloat(s, 64); return n }

// bezier makes short straight pieces of a curve.
func bezier(c []draw.Point) []draw.Point {
	if len(c) == 0 {
		return nil
	}
	points := []draw.Point{c[0]}
	for i := 0; i+3 < len(c); i += 3 {
		for k := 1; k <= 8; k++ {
			t := float64(k) / 8
			u := 1 - t
			at := func(a, b, c, d float64) float64 { return u*u*u*a + 3*u*u*t*b + 3*u*t*t*c + t*t*t*d }
			points = append(points, draw.Point{X: at(c[i].X, c[i+1].X, c[i+2].X, c[i+3].X), Y: at(c[i].Y, c[i+1].Y, c[i+2].Y, c[i+3].Y)})
		}
	}
	return points
}

// crossing counts how often two lines cross that do not end at the same place; lines that
// run together and part again do not.
func crossing(lines [][]draw.Point) int {
	n := 0
	for i, a := range lines {
		for _, b := range lines[i+1:] {
			if len(a) < 2 || len(b) < 2 {
				continue
			}
			if near(a[0], b[0]) || near(a[len(a)-1], b[len(b)-1]) || near(a[0], b[len(b)-1]) || near(a[len(a)-1], b[0]) {
				continue
			}
			for k := 1; k < len(a); k++ {
				for m := 1; m < len(b); m++ {
					if cross(a[k-1], a[k], b[m-1], b[m]) {
						n++
					}
				}
			}
		}
	}
	return n
}

func near(a, b draw.Point) bool { return math.Abs(a.X-b.X)+math.Abs(a.Y-b.Y) < 24 }

func cross(a, b, c, d draw.Point) bool {
	side := func(p, q, r draw.Point) float64 { return (q.X-p.X)*(r.Y-p.Y) - (q.Y-p.Y)*(r.X-p.X) }
	return side(a, b, c)*side(a, b, d) < 0 && side(c, d, a)*side(c, d, b) < 0
}
