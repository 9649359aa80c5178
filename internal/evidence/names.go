package evidence

import (
	"slices"
	"strings"
	"unicode"
)

// words cuts a name at underscores and changes of case, in small letters and
// the singular: GaugeModels gives gauge, model.
func words(name string) []string {
	var all []string
	var word []rune
	put := func() {
		if len(word) > 0 {
			all = append(all, singular(strings.ToLower(string(word))))
		}
		word = nil
	}
	runes := []rune(name)
	for i, r := range runes {
		switch {
		case !unicode.IsLetter(r) && !unicode.IsDigit(r):
			put()
			continue
		case unicode.IsUpper(r) && i > 0 && (unicode.IsLower(runes[i-1]) || i+1 < len(runes) && unicode.IsUpper(runes[i-1]) && unicode.IsLower(runes[i+1])):
			put()
		}
		word = append(word, r)
	}
	put()
	return all
}

func singular(w string) string {
	switch {
	case len(w) > 4 && strings.HasSuffix(w, "ies"):
		return w[:len(w)-3] + "y"
	case len(w) > 4 && (strings.HasSuffix(w, "sses") || strings.HasSuffix(w, "xes") || strings.HasSuffix(w, "ches") || strings.HasSuffix(w, "shes")):
		return w[:len(w)-2]
	case len(w) > 3 && strings.HasSuffix(w, "s") && !strings.HasSuffix(w, "ss") && !strings.HasSuffix(w, "us") && !strings.HasSuffix(w, "is"):
		return w[:len(w)-1]
	}
	return w
}

// handles are words that a key's or reference's name ends in, and that say
// nothing of what it refers to.
var handles = strings.Fields("id ids key no nr num number code fk ref uuid guid pk name oid uid")

// speaks tells how much a column's name speaks of the key of a table, from 0
// to 1. Prefix is what all tables' names begin with.
func speaks(column, table, key, prefix string) float64 {
	col, tab, k := words(column), words(strings.TrimPrefix(table, prefix)), words(key)
	if len(col) == 0 || len(tab) == 0 {
		return 0
	}
	stem := col
	if last := col[len(col)-1]; len(col) > 1 && slices.Contains(handles, last) {
		stem = col[:len(col)-1]
		// The handle of the one is the key's of the other: station_code, code.
		if len(k) > 0 && slices.Contains(handles, k[len(k)-1]) && k[len(k)-1] != last && last != "fk" && last != "ref" {
			return 0.6 * ends(stem, tab)
		}
	} else if len(col) == 1 && !slices.Contains(handles, col[0]) {
		// stationid, in one word
		for _, h := range handles {
			if rest := strings.TrimSuffix(col[0], h); len(rest) > 2 && rest != col[0] && strings.Join(tab, "") == singular(rest) {
				return 0.95
			}
		}
	}
	score := ends(stem, tab)
	// The very name of the key, where that says something: station_no in both.
	if strings.EqualFold(column, key) && len(k) > 0 && !(len(k) == 1 && slices.Contains(handles, k[0])) {
		score = max(score, 0.9)
	}
	if slices.Equal(stem, []string{"parent"}) {
		score = max(score, 0.3) // of whatever table it is in; see self
	}
	return score
}

// ends compares the end of a column's stem with a table's words.
func ends(stem, tab []string) float64 {
	join := strings.Join
	switch n := len(tab); {
	case slices.Equal(stem, tab) || join(stem, "") == join(tab, ""):
		return 1
	case len(stem) > n && slices.Equal(stem[len(stem)-n:], tab):
		return 0.9 // a role in front: replaced_by_station
	case len(stem) < n && slices.Equal(stem, tab[n-len(stem):]):
		return 0.75 // model for gauge_model
	case len(stem) == n && slices.EqualFunc(stem, tab, abbreviates):
		return 0.7
	case n > 1 && len(stem) == 1 && stem[0] == initials(tab):
		return 0.6
	}
	if last := stem[len(stem)-1]; len(tab) == 1 && abbreviates(last, tab[0]) {
		return 0.65
	}
	return 0
}

func initials(tab []string) string {
	s := ""
	for _, w := range tab {
		s += w[:1]
	}
	return s
}

// abbreviates reports whether the first is a beginning of the second, or its
// letters in order from the first on: stn for station.
func abbreviates(short, long string) bool {
	if short == long {
		return true
	}
	if len(short) < 3 || len(short) >= len(long) {
		return false
	}
	if strings.HasPrefix(long, short) {
		return true
	}
	if short[0] != long[0] {
		return false
	}
	at := 0
	for i := 0; i < len(long) && at < len(short); i++ {
		if long[i] == short[at] {
			at++
		}
	}
	return at == len(short) && len(short) <= 4 && !strings.ContainsAny(short[1:], "aeiou")
}

// commonPrefix is what nearly all tables' names begin with, up to an
// underscore: "sm_".
func commonPrefix(tables []string) string {
	count := map[string]int{}
	for _, t := range tables {
		if i := strings.IndexByte(t, '_'); i > 0 {
			count[t[:i+1]]++
		}
	}
	for p, n := range count {
		if len(tables) > 3 && n*10 >= len(tables)*8 {
			return p
		}
	}
	return ""
}
