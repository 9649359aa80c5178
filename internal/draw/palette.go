package draw

import "image/color"

// A Theme is the colours of a sheet. Fills carry meaning; they are taken from a palette
// that people who see few colours tell apart (Okabe and Ito 2008), and differ in grey.
type Theme struct {
	Paper, Ink, Faint, Line, Edge, Body, Stripe string
	Fills                                       map[string]string
	HeadInk                                     map[string]string // where it is not Ink
}

// Light is for paper and pages.
var Light = Theme{
	Paper: "#ffffff", Ink: "#1c2430", Faint: "#66707d", Line: "#55606e", Edge: "#8a94a1", Body: "#ffffff", Stripe: "#f4f6f8",
	Fills: map[string]string{"plain": "#dde3ea", "sound": "#dde3ea", "error": "#c2410c", "warning": "#f0a830", "notice": "#a8d4f0",
		"1": "#0072b2", "2": "#e8b13c", "3": "#2a9d78", "4": "#cc79a7", "5": "#d55e00", "6": "#88c7ee", "7": "#b0a8c8", "8": "#c9ccd1",
		"size1": "#e8eef5", "size2": "#c2d6ea", "size3": "#86b2d8", "size4": "#3f83bd", "size5": "#134a80", "yes": "#f0a830", "no": "#dde3ea"},
	HeadInk: map[string]string{"error": "#ffffff", "1": "#ffffff", "3": "#ffffff", "5": "#ffffff", "size4": "#ffffff", "size5": "#ffffff"},
}

// Dark is for screens at night.
var Dark = Theme{
	Paper: "#161b22", Ink: "#e6ebf1", Faint: "#98a3b0", Line: "#9aa6b4", Edge: "#5b6673", Body: "#1f2630", Stripe: "#252d38",
	Fills: map[string]string{"plain": "#364150", "sound": "#364150", "error": "#e05a1a", "warning": "#d99a2b", "notice": "#3a7ca8",
		"1": "#3b93d0", "2": "#d9a63a", "3": "#2f9e7a", "4": "#b4669a", "5": "#d0682c", "6": "#5f9fc4", "7": "#7f789b", "8": "#6b7480",
		"size1": "#2b3542", "size2": "#2f4d69", "size3": "#2f6a99", "size4": "#4190cc", "size5": "#8cc4f0", "yes": "#d99a2b", "no": "#364150"},
	HeadInk: map[string]string{"error": "#161b22", "warning": "#161b22", "2": "#161b22", "5": "#161b22", "size5": "#161b22", "yes": "#161b22"},
}

func (t Theme) fill(key string) string {
	if f, ok := t.Fills[key]; ok {
		return f
	}
	return t.Fills["plain"]
}

func (t Theme) headInk(key string) string {
	if f, ok := t.HeadInk[key]; ok {
		return f
	}
	return t.Ink
}

func rgb(hex string) color.RGBA {
	v := func(i int) uint8 {
		n := uint8(0)
		for _, c := range hex[i : i+2] {
			n <<= 4
			if c >= 'a' {
				n |= uint8(c-'a') + 10
			} else {
				n |= uint8(c - '0')
			}
		}
		return n
	}
	return color.RGBA{v(1), v(3), v(5), 255}
}
