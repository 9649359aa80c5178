package sqllex

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// Names finds mentions of known objects in texts whose language is not
// understood: a word, or two with a dot between, that names one.
type Names struct {
	fold   func(string) string
	quoted func(string) string
	things map[string][]catalog.ObjectRef // by name, folded
}

// NewNames makes an empty set. Bare and quoted fold a name that is written
// without and with quotes, so that it meets what was added.
func NewNames(bare, quoted func(string) string) *Names {
	return &Names{bare, quoted, map[string][]catalog.ObjectRef{}}
}

// AsIs leaves a name as it is.
func AsIs(name string) string { return name }

// Add makes the object known under the name, folded.
func (n *Names) Add(o catalog.ObjectRef, folded string) {
	n.things[folded] = append(n.things[folded], o)
}

// In lists the objects that the text mentions, in order. A bare word means what the text's own
// schema, home, has of that name; else it counts where only one schema has it. Home is empty where
// the engine does not look there first.
func (n *Names) In(d Dialect, text, home string) []catalog.ObjectRef {
	var found []catalog.ObjectRef
	words := n.words(d, text)
	for i, w := range words {
		list := n.things[w.name]
		switch {
		case w.name == "" || len(list) == 0:
		case i > 1 && words[i-1].dot && words[i-2].name != "":
			for _, o := range list {
				if o.Schema == words[i-2].name {
					found = append(found, o)
				}
			}
		default:
			if i := slices.IndexFunc(list, func(o catalog.ObjectRef) bool { return home != "" && o.Schema == home }); i >= 0 {
				found = append(found, list[i])
			} else if len(list) == 1 {
				found = append(found, list[0])
			}
		}
	}
	slices.SortFunc(found, catalog.ObjectRef.Compare)
	return slices.Compact(found)
}

type word struct {
	name string
	dot  bool
}

// words cuts a text; a routine's body is itself a string, and is cut too.
func (n *Names) words(d Dialect, text string) []word {
	var all []word
	for _, t := range Inner(d, text) {
		switch {
		case t.Kind == Word:
			all = append(all, word{name: n.fold(t.Text)})
		case t.Kind == Quoted:
			all = append(all, word{name: n.quoted(t.Name())})
		case t.Text == ".":
			all = append(all, word{dot: true})
		default:
			all = append(all, word{})
		}
	}
	return all
}

// Inner cuts a text into what means something. Behind each string stand the tokens within it, which
// may be a routine's body or a name, and the string again.
func Inner(d Dialect, text string) []Token { return inner(d, text, 0) }

func inner(d Dialect, text string, depth int) []Token {
	var all []Token
	for _, t := range d.Tokens(text) {
		if t.Blank() {
			continue
		}
		all = append(all, t)
		if t.Kind != String || depth > 1 {
			continue
		}
		within, ok := t.InDollars()
		if !ok {
			_, quoted, _ := strings.Cut(t.Text, "'") // N and E may stand in front
			within = strings.TrimSuffix(quoted, "'")
		}
		all = append(append(all, inner(d, within, depth+1)...), t)
	}
	return all
}

// Mentions reports whether the text holds the name, bare or quoted.
func (d Dialect) Mentions(text, name string) bool {
	found := false
	d.Each(text, func(t Token) bool {
		found = t.Names(name)
		return !found
	})
	return found
}
