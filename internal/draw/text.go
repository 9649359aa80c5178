package draw

import (
	"sync"

	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"
)

// fontSize is in pixels; the Go fonts come with the program, so that text has the same
// width everywhere.
const fontSize = 12

type typeface struct {
	face   font.Face
	widths map[string]float64
	lacks  map[rune]bool
}

var (
	fontsOnce     sync.Once
	regular, bold *typeface
	fontsMutex    sync.Mutex // faces are for one at a time
)

func fonts() {
	fontsOnce.Do(func() {
		load := func(ttf []byte) *typeface {
			f, err := opentype.Parse(ttf)
			if err != nil {
				panic(err) // it is part of the program
			}
			face, err := opentype.NewFace(f, &opentype.FaceOptions{Size: fontSize, DPI: 72, Hinting: font.HintingNone})
			if err != nil {
				panic(err)
			}
			return &typeface{face, map[string]float64{}, map[rune]bool{}}
		}
		regular, bold = load(goregular.TTF), load(gobold.TTF)
	})
}

// textWidth is how wide a text is, in pixels.
func textWidth(s string, strong bool) float64 {
	fonts()
	fontsMutex.Lock()
	defer fontsMutex.Unlock()
	f := regular
	if strong {
		f = bold
	}
	if w, ok := f.widths[s]; ok {
		return w
	}
	w := 0.0
	for _, r := range s {
		w += f.advance(r)
	}
	f.widths[s] = w
	return w
}

// advance is a letter's width; one that the font lacks is as wide as its box.
func (f *typeface) advance(r rune) float64 {
	a, ok := f.face.GlyphAdvance(r)
	if !ok || a == 0 && r >= ' ' {
		a, _ = f.face.GlyphAdvance('\ufffd')
	}
	return float64(a) / 64
}

// lacking reports whether the font has not all the letters.
func lacking(s string) bool {
	fonts()
	fontsMutex.Lock()
	defer fontsMutex.Unlock()
	for _, r := range s {
		if r < 0x7f {
			continue
		}
		missing, known := regular.lacks[r]
		if !known {
			_, ok := regular.face.GlyphAdvance(r)
			missing = !ok
			regular.lacks[r] = missing
		}
		if missing {
			return true
		}
	}
	return false
}

// fitted is the text, cut where it is wider than that.
func fitted(s string, width float64, strong bool) string {
	if textWidth(s, strong) <= width {
		return s
	}
	runes := []rune(s)
	low, high := 0, len(runes)
	for low < high {
		mid := (low + high + 1) / 2
		if textWidth(string(runes[:mid])+"…", strong) <= width {
			low = mid
		} else {
			high = mid - 1
		}
	}
	return string(runes[:low]) + "…"
}
