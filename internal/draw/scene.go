// Package draw lays the tables of a catalog out as a diagram: a scene of boxes and lines,
// which is painted as SVG and PNG alike. The layout is layered (cycles broken, layers by
// network simplex, order by medians and exchanges, heights by isotonic regression, lines
// routed in channels), and parts that do not hang together are packed side by side.
package draw

// A Point on a sheet, in pixels from its upper left corner.
type Point struct{ X, Y float64 }

// A Scene is what is painted.
type Scene struct {
	Title  string
	W, H   float64
	Frames []Frame
	Boxes  []Box
	Lines  []Line
	Legend []Mark
	// Lacking is how many names hold letters that the picture's font has not.
	Lacking int
}

// A Frame stands round the tables of a schema.
type Frame struct {
	X, Y, W, H float64
	Name       string
}

// A Box is a table, or a sheet on the index of sheets.
type Box struct {
	ID         string // schema.table
	X, Y, W, H float64
	Head       string
	Note       string // beside the head: how many partitions
	Tip, Link  string
	Fill       string // a key of the palette
	Rows       []Row
}

// A Row is a column of a table.
type Row struct {
	Name, Type, Mark string
	Y                float64 // its middle, from the sheet's top
	Strong           bool    // part of the primary key
	Faint            bool    // may be null
}

// An End is what stands at the end of a line.
type End int

// The ends, as crow's feet draw them.
const (
	EndOne End = iota
	EndZeroOrOne
	EndMany
	EndArrow
	EndNone
)

// A Line is a reference, from the table referred to towards the one that refers.
type Line struct {
	ID, Tip  string
	Points   []Point
	From, To End
	Dashed   bool
	Label    string
	// Between are the boxes that it joins.
	Between [2]string
}

// A Mark is one entry of the legend.
type Mark struct{ Fill, Says string }
