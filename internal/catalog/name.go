package catalog

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"strings"
	"unicode/utf8"
)

// Names hands out names that nothing in a schema bears yet. Engines fold case
// in different ways, so two names that differ in case alone count as one.
type Names struct {
	max   int
	taken map[string]map[string]bool // by schema, folded
}

// NewNames notes every name of the catalog that a new index, constraint or sequence
// could collide with. maxBytes is the longest name that the engine takes; 0
// stands for 63, the shortest limit in common use.
func NewNames(c *Catalog, maxBytes int) *Names {
	if maxBytes == 0 {
		maxBytes = 63
	}
	n := &Names{maxBytes, map[string]map[string]bool{}}
	for _, s := range c.Schemas {
		for _, v := range s.Views {
			n.Take(s.Name, v.Name)
		}
		for _, q := range s.Sequences {
			n.Take(s.Name, q.Name)
		}
		for _, o := range s.Objects { // foreign tables and types among them
			n.Take(s.Name, o.Name)
		}
		for _, t := range s.Tables {
			n.Take(s.Name, t.Name)
			for _, x := range t.Indexes {
				n.Take(s.Name, x.Name)
			}
			for _, name := range t.ConstraintNames() {
				n.Take(s.Name, name)
			}
		}
	}
	return n
}

// Take notes that a name is in use.
func (n *Names) Take(schema, name string) {
	if n.taken[schema] == nil {
		n.taken[schema] = map[string]bool{}
	}
	n.taken[schema][strings.ToLower(name)] = true
}

// Taken reports whether the name is in use.
func (n *Names) Taken(schema, name string) bool { return n.taken[schema][strings.ToLower(name)] }

// Free makes a name of the parts and the ending, joined by underlines, that is
// short enough and not in use, and takes it. Where the parts are in capitals, so is the ending.
func (n *Names) Free(schema, ending string, parts ...string) string {
	stem := strings.ReplaceAll(strings.Join(parts, "_"), ".", "_") // of paths
	ending = InCaseOf(ending, stem)
	for i := 1; ; i++ {
		end := "_" + ending
		if i > 1 {
			end = fmt.Sprintf("_%s%d", ending, i)
		}
		name := shorten(stem, n.max-len(end)) + end
		if !n.taken[schema][strings.ToLower(name)] {
			n.Take(schema, name)
			return name
		}
	}
}

// InCaseOf is the name in capitals where the other one, which it is to stand beside, is: engines
// that fold names so make a stranger of one in small letters.
func InCaseOf(name, other string) string {
	if strings.ToUpper(other) == other && strings.ToLower(other) != other {
		return strings.ToUpper(name)
	}
	return name
}

// shorten cuts text to at most max bytes, keeping it whole UTF-8 and, by a
// digest of what was cut, telling it from its neighbours.
func shorten(text string, max int) string {
	if len(text) <= max {
		return text
	}
	sum := sha256.Sum256([]byte(text))
	cut := text[:max-7]
	for !utf8.ValidString(cut) && cut != "" {
		cut = cut[:len(cut)-1]
	}
	return cut + "_" + hex.EncodeToString(sum[:3])
}
