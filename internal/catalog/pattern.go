package catalog

import "strings"

// Fits reports whether the name fits the pattern, in which * stands for any
// letters, also none, and ? for one. Everything else means itself, since names
// hold brackets and backslashes. A name in capitals is fit by small letters as well.
func Fits(pattern, name string) bool {
	p, n := []rune(InCaseOf(pattern, name)), []rune(name)
	star, from := -1, 0 // the last * and where what it stands for ends
	i, j := 0, 0
	for j < len(n) {
		switch {
		case i < len(p) && p[i] == '*':
			star, from = i, j
			i++
		case i < len(p) && (p[i] == '?' || p[i] == n[j]):
			i, j = i+1, j+1
		case star >= 0:
			from++
			i, j = star+1, from
		default:
			return false
		}
	}
	return i == len(p) || strings.Trim(string(p[i:]), "*") == ""
}

// FitsTable reports whether a table or view fits the pattern by its name, or
// by schema.name.
func FitsTable(pattern, schema, name string) bool {
	return Fits(pattern, name) || Fits(pattern, schema+"."+name)
}
