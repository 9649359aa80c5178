package draw

import (
	"bufio"
	"fmt"
	"io"
	"regexp"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/phrase"
)

// DOT writes the sheet's tables and references in Graphviz's language, with the same
// boxes and ports, for who would have it laid out otherwise.
func (s *Scene) DOT(out io.Writer) error {
	w := bufio.NewWriter(out)
	q := func(t string) string { return `"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`).Replace(t) + `"` }
	fmt.Fprintln(w, "digraph nexdal {\n  rankdir=LR; nodesep=0.3; ranksep=0.6; splines=ortho;\n  node [shape=plain, fontname=\"Helvetica\", fontsize=9];")
	for _, b := range s.Boxes {
		fmt.Fprintf(w, "  %s [width=%.3f, height=%.3f, fixedsize=true, shape=box, label=%s];\n", q(b.ID), b.W/72, b.H/72, q(b.Head))
	}
	for _, l := range s.Lines {
		style := ""
		if l.Dashed {
			style = " [style=dashed]"
		}
		fmt.Fprintf(w, "  %s -> %s%s;\n", q(l.Between[0]), q(l.Between[1]), style)
	}
	fmt.Fprintln(w, "}")
	return w.Flush()
}

var word = regexp.MustCompile(`[^A-Za-z0-9_-]`)

// Mermaid writes the tables as an entity relationship diagram of Mermaid's
// (https://mermaid.js.org/syntax/entityRelationshipDiagram.html). Names keep to its
// letters; each entity's own name stands as its alias.
func Mermaid(out io.Writer, c *catalog.Catalog, s *Scene) error {
	w := bufio.NewWriter(out)
	ids := map[string]string{}
	taken := map[string]bool{}
	id := func(of string) string {
		if known := ids[of]; known != "" {
			return known
		}
		base := word.ReplaceAllString(of, "_")
		name := base
		for i := 2; taken[name]; i++ {
			name = fmt.Sprintf("%s_%d", base, i)
		}
		ids[of], taken[name] = name, true
		return name
	}
	text := func(t string) string { return strings.NewReplacer(`"`, "'", "\n", " ").Replace(phrase.Line(t)) }
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
