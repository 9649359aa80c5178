package draw

import (
	"bufio"
	"fmt"
	"io"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
	"nexdal/internal/text"
)

// DOT writes the sheet's tables and references in Graphviz's language: the same boxes with
// the same rows, which lines leave and enter, for who would have them laid out otherwise.
func (s *Scene) DOT(out io.Writer) error {
	w := bufio.NewWriter(out)
	id := distinct(text.Line)
	q := func(t string) string { return `"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`).Replace(id(t)) + `"` }
	fmt.Fprintln(w, "digraph nexdal {\n  rankdir=LR; nodesep=0.3; ranksep=0.6;\n  node [shape=plain, fontname=\"Helvetica\", fontsize=9];\n  edge [arrowsize=0.6];")
	port := map[string]map[float64]int{} // of a box, by the height at which a line meets it
	for _, b := range s.Boxes {
		port[b.ID] = map[float64]int{}
		fmt.Fprintf(w, "  %s [label=<<TABLE BORDER=\"1\" CELLBORDER=\"0\" CELLSPACING=\"0\" CELLPADDING=\"0\"><TR><TD PORT=\"head\" FIXEDSIZE=\"TRUE\" WIDTH=\"%.0f\" HEIGHT=\"%.0f\"><B>%s</B></TD></TR>", q(b.ID), b.W, min(headHeight, b.H), escaped(b.Head))
		for i, r := range b.Rows {
			port[b.ID][r.Y] = i
			fmt.Fprintf(w, "<TR><TD PORT=\"r%d\" FIXEDSIZE=\"TRUE\" WIDTH=\"%.0f\" HEIGHT=\"%.0f\">%s</TD></TR>", i, b.W, rowHeight, escaped(strings.TrimSpace(r.Name+"  "+r.Type)))
		}
		fmt.Fprintln(w, "</TABLE>>];")
	}
	at := func(id string, p Point) string {
		if i, ok := port[id][p.Y]; ok {
			return fmt.Sprintf("%s:r%d", q(id), i)
		}
		return q(id) + ":head"
	}
	for _, l := range s.Lines {
		style := ""
		if l.Dashed {
			style = " [style=dashed]"
		}
		fmt.Fprintf(w, "  %s:e -> %s:w%s;\n", at(l.Between[0], l.Points[0]), at(l.Between[1], l.Points[len(l.Points)-1]), style)
	}
	fmt.Fprintln(w, "}")
	return w.Flush()
}

// distinct returns what writes a name, with a number behind it where two names would be
// written alike.
func distinct(write func(string) string) func(string) string {
	ids, taken := map[string]string{}, map[string]bool{}
	return func(of string) string {
		if known := ids[of]; known != "" {
			return known
		}
		base := write(of)
		name := base
		for i := 2; taken[name]; i++ {
			name = fmt.Sprintf("%s_%d", base, i)
		}
		ids[of], taken[name] = name, true
		return name
	}
}

var word = pattern.New(`[^A-Za-z0-9_-]`)

// Mermaid writes the tables as an entity relationship diagram of Mermaid's
// (https://mermaid.js.org/syntax/entityRelationshipDiagram.html). Names keep to its
// letters; each entity's own name stands as its alias.
func Mermaid(out io.Writer, c *catalog.Catalog, s *Scene) error {
	w := bufio.NewWriter(out)
	id := distinct(func(of string) string { return word.ReplaceAllString(of, "_") })
	text := func(t string) string { return strings.NewReplacer(`"`, "'", "\n", " ").Replace(text.Line(t)) }
	fmt.Fprintln(w, "erDiagram")
	for _, b := range s.Boxes {
		fmt.Fprintf(w, "  %s[\"%s\"] {\n", id(b.ID), text(b.Head))
		for _, r := range b.Rows {
			kind := word.ReplaceAllString(r.Type, "_")
			if kind == "" || kind[0] < 'A' {
				kind = "column"
			}
			name := word.ReplaceAllString(r.Name, "_")
			if name == "" || name[0] < 'A' {
				name = "c_" + name
			}
			keys := []string{}
			for _, m := range strings.Fields(r.Mark) {
				switch m {
				case "PK", "FK":
					keys = append(keys, m)
				case "U":
					keys = append(keys, "UK")
				}
			}
			fmt.Fprintf(w, "    %s %s %s\n", kind, name, strings.Join(keys, ", "))
		}
		fmt.Fprintln(w, "  }")
	}
	for _, l := range s.Lines {
		left := map[End]string{EndOne: "||", EndZeroOrOne: "|o"}[l.From]
		right := map[End]string{EndMany: "o{", EndZeroOrOne: "o|"}[l.To]
		if left == "" {
			left, right = "||", "o{"
		}
		line := "--"
		if l.Dashed {
			line = ".."
		}
		_, columns, _ := strings.Cut(l.ID, " ")
		fmt.Fprintf(w, "  %s %s%s%s %s : \"%s\"\n", id(l.Between[0]), left, line, right, id(l.Between[1]), text(columns))
	}
	return w.Flush()
}
