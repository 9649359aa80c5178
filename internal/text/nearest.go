package text

import "strings"

// Distance is the number of letters to add, take away or change (Levenshtein).
func Distance(a, b string) int {
	x, y := []rune(a), []rune(b)
	row := make([]int, len(y)+1)
	for j := range row {
		row[j] = j
	}
	for i := range x {
		last := row[0]
		row[0] = i + 1
		for j := range y {
			cost := last
			if x[i] != y[j] {
				cost++
			}
			last = row[j+1]
			row[j+1] = min(cost, row[j]+1, row[j+1]+1)
		}
	}
	return row[len(y)]
}

// Nearest is the word of the list that is most like the one given, or "" where
// the list is empty.
func Nearest(word string, list []string) string {
	best, far := "", 1<<30
	for _, w := range list {
		if d := Distance(strings.ToLower(w), strings.ToLower(word)); d < far {
			best, far = w, d
		}
	}
	return best
}
