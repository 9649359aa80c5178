package draw

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/text"
)

// Content is what stands in a table's box.
type Content string

// The contents.
const (
	Names   Content = "names"
	Keys    Content = "keys"
	Columns Content = "columns"
)

// A Reference is one that nothing declares and that the data shows, drawn dashed.
type Reference struct {
	From, To             catalog.Ref
	Columns, TargetNames []string
	Coverage             float64 // of the rows, 0 to 1
}

// Options of a diagram.
type Options struct {
	Title      string
	Content    Content
	Arrows     bool // in place of crow's feet
	Undeclared []Reference
	Lookup     *catalog.Lookup // of the catalog, where it is at hand
	// Fill is the palette's key for a table, and Says what that means in its tip; both
	// may be nil.
	Fill func(*catalog.Table) string
	Says func(*catalog.Table) string
	Link func(catalog.Ref) string
	// Notes are what people know of tables and columns: those of tables stand in the box, those
	// of columns in its tip.
	Notes catalog.Notes
	// Legend are the marks that the fills stand for.
	Legend []Mark
	// Ratio is the sheet's width to its height that parts are packed to.
	Ratio float64
	// Most rows of one box; the rest are counted. 0: all.
	MostRows int
}

// How things are spaced in a box.
const (
	headHeight = 24.0
	rowHeight  = 17.0
	boxPad     = 8.0
	widestBox  = 420.0
	margin     = 24.0
)

// mostApart is up to how many tables on a sheet the two kinds of end stand apart.
const mostApart = 40

// sheet is a diagram in the making.
type sheet struct {
	c      *catalog.Catalog
	lookup *catalog.Lookup
	o      Options
	on     map[catalog.Ref]bool
	tables []*catalog.Table
	boxes  map[catalog.Ref]*drawn
	refs   []*drawnReference
	scene  *Scene
}

type drawn struct {
	t    *catalog.Table
	n    *node
	box  Box
	port map[string]float64 // a column's middle, from the box's top
}

type drawnReference struct {
	child, parent *drawn
	line          Line
	e             *edge
	fromY, toY    float64
}

// New draws the tables: those that partition another are part of its box.
func New(c *catalog.Catalog, tables []catalog.Ref, o Options) *Scene {
	if o.Content == "" {
		o.Content = Columns
	}
	if o.Ratio == 0 {
		o.Ratio = 1.6
	}
	if o.Lookup == nil {
		o.Lookup = c.Lookup()
	}
	s := &sheet{c: c, lookup: o.Lookup, o: o, on: map[catalog.Ref]bool{}, boxes: map[catalog.Ref]*drawn{}, scene: &Scene{Title: o.Title}}
	for _, ref := range tables {
		if t := s.lookup.Table(ref); t != nil && t.PartitionOf == nil && !s.on[ref] {
			s.on[ref] = true
			s.tables = append(s.tables, t)
		}
	}
	slices.SortFunc(s.tables, func(a, b *catalog.Table) int { return a.Ref().Compare(b.Ref()) })
	for _, t := range s.tables {
		s.box(t)
	}
	for _, t := range s.tables {
		s.references(t)
	}
	s.apart()
	s.layout()
	s.finish()
	return s.scene
}

// several reports whether more than one schema is on the sheet.
func (s *sheet) several() bool {
	return slices.ContainsFunc(s.tables, func(t *catalog.Table) bool { return t.Schema != s.tables[0].Schema })
}

// box measures a table's box and places its rows.
func (s *sheet) box(t *catalog.Table) {
	d := &drawn{t: t, port: map[string]float64{}}
	b := Box{ID: t.Ref().String(), Head: text.Line(t.Name), Fill: "plain"}
	if s.o.Fill != nil {
		b.Fill = s.o.Fill(t)
	}
	b.Tip = b.ID
	if t.Stats.Rows != nil {
		b.Tip += ", " + text.Rows(t.Stats.Rows, t.Stats.Exact)
	}
	if s.o.Says != nil {
		if says := s.o.Says(t); says != "" {
			b.Tip += ": " + says
		}
	}
	note := text.Line(s.o.Notes.Of(t.Ref(), ""))
	for _, c := range t.Columns {
		if on := s.o.Notes.Of(t.Ref(), c.Name); on != "" {
			b.Tip += "; " + c.Name + ": " + on
		}
	}
	if note != "" {
		b.Tip += "; " + note
	}
	b.Tip = text.Line(b.Tip)
	if s.o.Link != nil {
		b.Link = s.o.Link(t.Ref())
	}
	if n := len(s.lookup.Partitions(t.Ref())) + len(t.Partitions); n > 0 {
		b.Note = text.Plural(int64(n), "part")
	}
	names, types, marks := 0.0, 0.0, 0.0
	y := headHeight
	if note != "" {
		r := Row{Name: clipped(note), Y: y + rowHeight/2, Faint: true}
		names = textWidth(r.Name, false)
		b.Rows = append(b.Rows, r)
		y += rowHeight
	}
	for i, c := range s.shown(t) {
		if s.o.MostRows > 0 && i == s.o.MostRows {
			b.Rows = append(b.Rows, Row{Name: fmt.Sprintf("… %d more", len(s.shown(t))-i), Y: y + rowHeight/2, Faint: true})
			y += rowHeight
			break
		}
		r := Row{Name: text.Line(c.Name), Mark: s.mark(t, c), Strong: t.PrimaryKey != nil && slices.Contains(t.PrimaryKey.Columns, c.Name), Faint: c.Nullable, Y: y + rowHeight/2}
		if s.o.Content == Columns {
			r.Type = text.Line(c.Type.Native)
		}
		names, types, marks = max(names, textWidth(r.Name, r.Strong)), max(types, textWidth(r.Type, false)), max(marks, textWidth(r.Mark, false))
		d.port[c.Name] = r.Y
		b.Rows = append(b.Rows, r)
		y += rowHeight
	}
	b.H = y + 6
	if len(b.Rows) == 0 {
		b.H = headHeight + 4
	}
	inner := names
	if types > 0 {
		inner += 14 + types
	}
	if marks > 0 {
		inner += 12 + marks
	}
	head := textWidth(b.Head, true)
	if b.Note != "" {
		head += 10 + textWidth(b.Note, false)
	}
	b.W = math.Ceil(min(widestBox, max(inner, head, 60)+2*boxPad))
	d.box = b
	d.n = &node{w: b.W, h: b.H}
	s.boxes[t.Ref()] = d
}

// longestNote is how many letters of a note stand in a box; the tip has all of it.
const longestNote = 48

func clipped(note string) string {
	letters := []rune(note)
	if len(letters) <= longestNote {
		return "“" + note + "”"
	}
	return "“" + string(letters[:longestNote-1]) + "…”"
}

// shown lists the columns that stand in the box.
func (s *sheet) shown(t *catalog.Table) []*catalog.Column {
	switch s.o.Content {
	case Names:
		return nil
	case Columns:
		return t.Columns
	}
	return slices.DeleteFunc(slices.Clone(t.Columns), func(c *catalog.Column) bool { return s.mark(t, c) == "" })
}

// mark says which keys a column is part of, and what it refers to elsewhere.
func (s *sheet) mark(t *catalog.Table, c *catalog.Column) string {
	var marks []string
	if t.PrimaryKey != nil && slices.Contains(t.PrimaryKey.Columns, c.Name) {
		marks = append(marks, "PK")
	}
	for _, f := range append(slices.Clone(t.ForeignKeys), t.Accepted...) {
		if !slices.Contains(f.Columns, c.Name) {
			continue
		}
		if s.on[f.Target] {
			marks = append(marks, "FK")
		} else {
			marks = append(marks, "→ "+text.Line(f.Target.Table))
		}
		break
	}
	if slices.ContainsFunc(t.UniqueKeys, func(k *catalog.Key) bool { return slices.Contains(k.Columns, c.Name) }) {
		marks = append(marks, "U")
	}
	return strings.Join(marks, " ")
}

// at is the height at which a line meets the box for a column.
func (d *drawn) at(column string) float64 {
	if y, ok := d.port[column]; ok {
		return y
	}
	return headHeight / 2
}

func (s *sheet) references(t *catalog.Table) {
	child := s.boxes[t.Ref()]
	add := func(columns []string, to catalog.Ref, target []string, label, tip string, dashed bool) {
		if p := s.lookup.Table(to); p != nil && p.PartitionOf != nil {
			to = *p.PartitionOf
		}
		parent := s.boxes[to]
		if parent == nil || len(columns) == 0 || len(target) == 0 {
			return
		}
		l := Line{ID: fmt.Sprintf("%s (%s)", t.Ref(), strings.Join(columns, ", ")), Tip: text.Line(tip), Dashed: dashed, Label: label, From: EndOne, To: EndMany, Between: [2]string{parent.box.ID, child.box.ID}}
		if slices.ContainsFunc(columns, func(name string) bool { c := t.Column(name); return c != nil && c.Nullable }) {
			l.From = EndZeroOrOne
		}
		if t.UniqueOn(columns) {
			l.To = EndZeroOrOne
		}
		if s.o.Arrows {
			l.From, l.To = EndArrow, EndNone
		}
		s.refs = append(s.refs, &drawnReference{child: child, parent: parent, line: l, fromY: parent.at(target[0]), toY: child.at(columns[0])})
	}
	says := func(f *catalog.ForeignKey) string {
		return fmt.Sprintf("%s.%s refers to %s.%s", t.Name, strings.Join(f.Columns, ", "), f.Target.Table, strings.Join(f.TargetColumns, ", "))
	}
	for _, f := range t.ForeignKeys {
		if !f.Inherited {
			add(f.Columns, f.Target, f.TargetColumns, "", says(f)+", "+f.Label(), false)
		}
	}
	for _, f := range t.Accepted {
		add(f.Columns, f.Target, f.TargetColumns, "", says(f)+"; accepted, and nothing declares it", true)
	}
	for _, r := range s.o.Undeclared {
		known := func(f *catalog.ForeignKey) bool { return slices.Equal(f.Columns, r.Columns) && f.Target == r.To }
		if r.From == t.Ref() && !slices.ContainsFunc(t.ForeignKeys, known) && !slices.ContainsFunc(t.Accepted, known) {
			share := fmt.Sprintf("%.4g %%", 100*r.Coverage)
			add(r.Columns, r.To, r.TargetNames, share, fmt.Sprintf("%s.%s is found in %s.%s in %s of the rows; nothing declares it", t.Name, strings.Join(r.Columns, ", "), r.To.Table, strings.Join(r.TargetNames, ", "), share), true)
		}
	}
}

// apart gives the references that need a row of the table referred to, and those that may
// be empty, an end each beside one another, where both lead to the same column. On a
// large sheet the second bundle of lines would cross more than it tells.
func (s *sheet) apart() {
	if len(s.tables) > mostApart {
		return
	}
	type row struct {
		d *drawn
		y float64
	}
	kinds := map[row]map[End]bool{}
	for _, r := range s.refs {
		at := row{r.parent, r.fromY}
		if kinds[at] == nil {
			kinds[at] = map[End]bool{}
		}
		kinds[at][r.line.From] = true
	}
	for _, r := range s.refs {
		if len(kinds[row{r.parent, r.fromY}]) < 2 {
			continue
		}
		if r.line.From == EndOne {
			r.fromY -= rowHeight / 3
		} else {
			r.fromY += rowHeight / 3
		}
	}
}

// layout places the boxes: each part that hangs together by itself, then the parts side
// by side, by schema where there are several.
func (s *sheet) layout() {
	groups := map[string][]*drawn{}
	var schemas []string
	for _, t := range s.tables {
		key := ""
		if s.several() {
			key = t.Schema
		}
		if groups[key] == nil {
			schemas = append(schemas, key)
		}
		groups[key] = append(groups[key], s.boxes[t.Ref()])
	}
	var frames []*part
	for _, joined := range s.joined(schemas) {
		if len(joined) > 1 {
			frames = append(frames, s.banded(joined, groups))
			continue
		}
		key := joined[0]
		var parts []*part
		for _, members := range s.connected(groups[key]) {
			parts = append(parts, s.layered(members))
		}
		p := pack(parts, s.o.Ratio)
		if key != "" {
			p = framed(p, key)
		}
		frames = append(frames, p)
	}
	whole := pack(frames, s.o.Ratio)
	top := margin
	if s.o.Title != "" {
		top += 26
	}
	whole.shift(margin, top)
	s.scene.W, s.scene.H = whole.w+2*margin, whole.h+top+margin
	for _, d := range whole.boxes {
		d.box.X, d.box.Y = d.n.x, d.n.y
		for i := range d.box.Rows {
			d.box.Rows[i].Y += d.n.y
		}
		s.scene.Boxes = append(s.scene.Boxes, d.box)
	}
	s.scene.Lines = whole.lines
	s.scene.Frames = whole.frames
	slices.SortFunc(s.scene.Boxes, func(a, b Box) int { return cmp.Compare(a.ID, b.ID) })
}

// connected groups boxes that lines join.
func (s *sheet) connected(members []*drawn) [][]*drawn {
	inside := map[*drawn]bool{}
	for _, d := range members {
		inside[d] = true
	}
	next := map[*drawn][]*drawn{}
	for _, r := range s.refs {
		if inside[r.child] && inside[r.parent] {
			next[r.child], next[r.parent] = append(next[r.child], r.parent), append(next[r.parent], r.child)
		}
	}
	seen := map[*drawn]bool{}
	var groups [][]*drawn
	for _, d := range members {
		if seen[d] {
			continue
		}
		var group []*drawn
		stack := []*drawn{d}
		seen[d] = true
		for len(stack) > 0 {
			x := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			group = append(group, x)
			for _, y := range next[x] {
				if !seen[y] {
					seen[y] = true
					stack = append(stack, y)
				}
			}
		}
		slices.SortFunc(group, func(a, b *drawn) int { return a.t.Ref().Compare(b.t.Ref()) })
		groups = append(groups, group)
	}
	return groups
}
