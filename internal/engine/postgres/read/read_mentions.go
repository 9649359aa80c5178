package read

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
)

// mentions notes what a routine's text, of which the engine keeps no record, asks of the tables
// that it names: columns of just their types, and rows whose columns it counts.
func (r *reader) mentions(oid uint32, f *catalog.Routine, tables map[catalog.ObjectRef]uint32, y *typist) {
	schema := r.things[object{class: classProc, oid: oid}].Schema
	words := sqllex.Inner(Reader{}.Dialect(), f.Definition)
	says := catalog.Dependant{Kind: catalog.TextOf + f.Kind, Name: schema + "." + f.Signature()}
	fired := y.fires[says.Name]
	for _, at := range fired {
		if t := r.tables[at]; t != nil {
			r.typed(at, says, y.given(words, t))
		}
	}
	for _, ref := range f.Touches {
		at, ok := tables[ref]
		t := r.tables[at]
		if !ok || t == nil {
			continue
		}
		if !slices.Contains(fired, at) {
			r.typed(at, says, y.columns(words, t, f))
		}
		if countsColumns(words, t, f) {
			said := says
			said.Kind = "whole rows in " + said.Kind
			r.lean(at, 0, said)
		}
	}
}

// typed notes that the text rests on the types of columns.
func (r *reader) typed(at uint32, says catalog.Dependant, columns []string) {
	t := r.tables[at]
	if t == nil {
		return
	}
	for _, c := range t.Columns {
		if slices.Contains(columns, c.Name) {
			says.Columns = append(slices.Clip(says.Columns), c.Name)
		}
	}
	if len(says.Columns) > 0 {
		t.Dependants = append(t.Dependants, says)
	}
}

// spoken is the name that a bare or quoted word is.
func spoken(w sqllex.Token) string {
	if w.Kind == sqllex.Quoted {
		return w.Name()
	}
	return strings.ToLower(w.Text)
}

// countsColumns reports whether a text breaks, or does another thing, once the table has a further
// column: it inserts whole rows as it read them, or returns rows of it whose columns it lists.
func countsColumns(words []sqllex.Token, t *catalog.Table, f *catalog.Routine) bool {
	lists := engine.ReturnsRowsOf(f.Returns, t.Schema, t.Name)
	for i := range words {
		switch {
		case words[i].Is("insert") && i+2 < len(words) && words[i+1].Is("into"):
			at := i + 2
			if at+2 < len(words) && words[at+1].Is(".") {
				at += 2
			}
			if spoken(words[at]) == t.Name && at+1 < len(words) && !words[at+1].Is("(") && star(words[at+1:]) {
				return true
			}
		case lists && words[i].Is("select") && i > 0 && i+1 < len(words) && (words[i-1].Is("query") || f.Language == "sql"):
			// All columns are as many only where they are its own.
			if len(f.Touches) > 1 || !words[i+1].Is("*") && !star(words[i+1:min(i+5, len(words))]) {
				return true
			}
		}
	}
	return false
}

// star reports whether all columns are meant before the statement ends.
func star(words []sqllex.Token) bool {
	for i, w := range words {
		if w.Is(";") {
			return false
		}
		if w.Is("*") && i > 0 && (words[i-1].Is(".") || words[i-1].Is("select")) {
			return true
		}
	}
	return false
}
