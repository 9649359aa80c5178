package sqllex

import (
	"slices"
	"strings"
)

// The ways in which a statement calls for an index by its name.
const (
	IndexedBy = "indexed by" // INDEXED BY name
	UseIndex  = "use index"  // USE, FORCE or IGNORE INDEX (names), or KEY
	WithIndex = "with index" // WITH (INDEX (names)), WITH (INDEX = name)
	ByIndex   = "index"      // REINDEX INDEX name and the like, CLUSTER ... USING name
)

// Hinted are the indexes that the statements of a text, also those in its strings, call for, each
// once.
func Hinted(d Dialect, text string) []string {
	// Most texts hold no such word at all, and need not be cut.
	if large := strings.ToUpper(text); d.Hints == "" || !strings.Contains(large, "INDEX") && !strings.Contains(large, "KEY") && !strings.Contains(large, "CLUSTER") {
		return nil
	}
	var names []string
	words := Inner(d, text)
	is := func(i int, any ...string) bool {
		return i >= 0 && i < len(words) && slices.ContainsFunc(any, words[i].Is)
	}
	add := func(i int) {
		if i >= len(words) {
			return
		}
		name := words[i].Name()
		switch words[i].Kind {
		case Word, Quoted:
		case String: // which SQLite takes for a name
			name = strings.Trim(words[i].Text, "'")
		default:
			return
		}
		if !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	// list takes the names of a list that begins there.
	list := func(i int) {
		for i++; i < len(words) && !is(i, ")"); i++ {
			add(i)
		}
	}
	for i := range words {
		switch d.Hints {
		case IndexedBy:
			if is(i, "INDEXED") && is(i+1, "BY") {
				add(i + 2)
			}
		case UseIndex:
			if !is(i, "INDEX", "KEY") || !is(i-1, "USE", "FORCE", "IGNORE") {
				continue
			}
			at := i + 1
			for ; at < i+4 && is(at, "FOR", "JOIN", "ORDER", "GROUP", "BY"); at++ {
			}
			if is(at, "(") {
				list(at)
			}
		case ByIndex:
			at := i + 1
			switch {
			case is(i, "INDEX") && !is(i-1, "CREATE", "UNIQUE"):
				for ; is(at, "CONCURRENTLY", "IF", "EXISTS", "ONLY"); at++ {
				}
			case !is(i, "USING") || !is(i-2, "CLUSTER", ".") && !is(i-2, "VERBOSE"):
				continue
			}
			if is(at+1, ".") {
				at += 2
			}
			add(at)
		case WithIndex:
			switch {
			case !is(i, "INDEX") || !is(i-1, "(", ","):
			case is(i+1, "("):
				list(i + 1)
			case is(i+1, "="):
				if add(i + 2); is(i+2, "(") {
					list(i + 2)
				}
			}
		}
	}
	return names
}

// Says reports whether the text, or a string in it, holds the name.
func Says(d Dialect, text, name string) bool {
	return slices.ContainsFunc(Inner(d, text), func(t Token) bool { return t.Names(name) })
}
