package report

import (
	"fmt"
	"io"
	"strings"

	style "github.com/jedib0t/go-pretty/v6/text"

	"nexdal/internal/catalog"
	"nexdal/internal/compare"
	"nexdal/internal/text"
)

var green = style.Colors{style.FgGreen}

// Differences writes what differs between two catalogs, table by table.
func (p *Page) Differences(from, to *catalog.Catalog, found []compare.Difference) {
	p.printf("%s\n%s\n", p.paint(bold, "from  "+p.title(from)), p.paint(bold, "to    "+p.title(to)))
	p.printf("%s\n", tally(found))
	group := "\x00"
	for _, d := range found {
		if at := place(d); at != group {
			group = at
			p.printf("\n%s\n", p.paint(bold, text.Line(at)))
		}
		lead := fmt.Sprintf("  %s  %s", p.paint(colourOfKind(d.Kind), pad(string(d.Kind), 7)), pad(d.Object, 13))
		p.block(lead, text.Line(strings.TrimSpace(d.Name+" "+madeOf(d)+"  "+d.Hint)))
		for _, w := range d.What {
			if d.Kind != compare.Altered {
				break
			}
			p.block(strings.Repeat(" ", 26), text.Line(fmt.Sprintf("%s: %s → %s", w.Name, orNone(w.From), orNone(w.To))))
		}
	}
}

// madeOf says what an object that came or went consists of, unless that is its
// name already.
func madeOf(d compare.Difference) string {
	if d.Kind == compare.Altered || len(d.What) == 0 {
		return ""
	}
	if of := d.What[0].From + d.What[0].To; of != d.Name {
		return of
	}
	return ""
}

func place(d compare.Difference) string {
	switch {
	case d.Table != "":
		return d.Schema + "." + d.Table
	case d.Object == "view":
		return d.Schema + "." + d.Name
	}
	return "schema " + d.Schema
}

func orNone(s string) string {
	if s == "" {
		return "none"
	}
	return s
}

func tally(found []compare.Difference) string {
	if len(found) == 0 {
		return "no differences"
	}
	n := map[compare.Kind]int{}
	for _, d := range found {
		n[d.Kind]++
	}
	var parts []string
	for _, k := range []compare.Kind{compare.Added, compare.Removed, compare.Altered} {
		if n[k] > 0 {
			parts = append(parts, fmt.Sprintf("%s %s", text.Amount(int64(n[k])), k))
		}
	}
	return fmt.Sprintf("%s: %s", text.Plural(int64(len(found)), "difference"), strings.Join(parts, ", "))
}

func colourOfKind(k compare.Kind) style.Colors {
	switch k {
	case compare.Added:
		return green
	case compare.Removed:
		return red
	}
	return yellow
}

type differenceOf struct {
	Kind   string       `json:"kind"`
	Object string       `json:"object"`
	Schema string       `json:"schema"`
	Table  string       `json:"table"`
	Name   string       `json:"name"`
	What   []propertyOf `json:"what"`
	Hint   string       `json:"hint,omitempty"`
}

type propertyOf struct {
	Property string `json:"property"`
	From     string `json:"from"`
	To       string `json:"to"`
}

// DifferencesJSON gives the differences as a value to encode.
func DifferencesJSON(from, to *catalog.Catalog, found []compare.Difference) any {
	out := struct {
		Format      int            `json:"format"`
		From        sourceOf       `json:"from"`
		To          sourceOf       `json:"to"`
		Differences []differenceOf `json:"differences"`
	}{1, sourceJSON(from), sourceJSON(to), []differenceOf{}}
	out.Differences = differencesJSON(found)
	return out
}

func differencesJSON(found []compare.Difference) []differenceOf {
	list := []differenceOf{}
	for _, d := range found {
		j := differenceOf{string(d.Kind), d.Object, d.Schema, d.Table, d.Name, []propertyOf{}, d.Hint}
		for _, w := range d.What {
			j.What = append(j.What, propertyOf{w.Name, w.From, w.To})
		}
		list = append(list, j)
	}
	return list
}

// DifferencesMarkdown writes a table for a wiki.
func DifferencesMarkdown(w io.Writer, from, to *catalog.Catalog, found []compare.Difference) {
	fmt.Fprintf(w, "# %s to %s\n\n%s.\n", markdown(from.Database), markdown(to.Database), tally(found))
	if len(found) == 0 {
		return
	}
	fmt.Fprintf(w, "\n| where | | object | name | what |\n|---|---|---|---|---|\n")
	for _, d := range found {
		var what []string
		if made := madeOf(d); made != "" {
			what = append(what, made)
		}
		for _, x := range d.What {
			if d.Kind != compare.Altered {
				break
			}
			what = append(what, fmt.Sprintf("%s: %s → %s", x.Name, orNone(x.From), orNone(x.To)))
		}
		if d.Hint != "" {
			what = append(what, d.Hint)
		}
		fmt.Fprintf(w, "| %s | %s | %s | %s | %s |\n", markdown(place(d)), d.Kind, d.Object, markdown(d.Name), markdown(strings.Join(what, "; ")))
	}
}

// markdown makes text stand for itself in a cell: no markup, no links, no
// HTML gets through.
func markdown(s string) string {
	var b strings.Builder
	for _, r := range text.Line(s) {
		switch {
		case r == '<':
			b.WriteString("&lt;")
		case r == '>':
			b.WriteString("&gt;")
		case r == '&':
			b.WriteString("&amp;")
		case strings.ContainsRune("\\`*_{}[]()#+-!|~", r):
			b.WriteByte('\\')
			b.WriteRune(r)
		default:
			b.WriteRune(r)
		}
	}
	return b.String()
}
