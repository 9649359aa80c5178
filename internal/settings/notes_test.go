package settings

import (
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

// TestNotesOn: a note is on the table, or on each of several of the name, where it can be; else on a
// column; with the schema or without; and what is about nothing is stray.
func TestNotesOn(t *testing.T) {
	table := func(schema, name string, columns ...string) *catalog.Table {
		x := &catalog.Table{Schema: schema, Name: name}
		for _, c := range columns {
			x.Columns = append(x.Columns, &catalog.Column{Name: c})
		}
		return x
	}
	c := &catalog.Catalog{Schemas: []*catalog.Schema{
		{Name: "s", Tables: []*catalog.Table{table("s", "station", "id", "code"), table("s", "gauge", "id")}},
		{Name: "gauge", Tables: []*catalog.Table{table("gauge", "id", "station"), table("gauge", "station", "id")}}}}
	for _, x := range []struct{ about, want string }{
		{"station", "s.station: gauge.station:"}, {"s.station", "s.station:"}, {"gauge.station", "gauge.station:"},
		{"station.code", "s.station:code"}, {"s.station.code", "s.station:code"}, {"station.id", "s.station:id gauge.station:id"},
		{"gauge.id", "gauge.id:"}, // a table of that schema goes before a column of that table
		{"s.gauge.id", "s.gauge:id"}, {"pier", ""}, {"station.height", ""}, {"t.station", ""}, {"Station", ""},
	} {
		d := &Decisions{}
		if err := d.PutNote(Note{About: x.about, Text: "n"}); err != nil {
			t.Fatal(err)
		}
		on, stray := d.NotesOn(c)
		var got []string
		for _, tab := range c.Tables() {
			for _, column := range append([]string{""}, names(tab)...) {
				if on.Of(tab.Ref(), column) == "n" {
					got = append(got, tab.Ref().String()+":"+column)
				}
			}
		}
		if strings.Join(got, " ") != x.want || (len(stray) == 1) != (x.want == "") {
			t.Errorf("%s: %q, %d stray", x.about, got, len(stray))
		}
	}
	d := &Decisions{List: []Decision{{About: "key/none s.a"}}}
	for _, n := range []Note{{About: "station", Text: "old"}, {About: "gauge", Text: "other"}, {About: "station", Text: "new"}} {
		if err := d.PutNote(n); err != nil {
			t.Fatal(err)
		}
	}
	if len(d.Notes) != 2 || d.Notes[0].Text != "other" || d.Notes[1].Text != "new" {
		t.Errorf("%+v", d.Notes)
	}
	if d.Withdraw("note pier") || !d.Withdraw("note gauge") || len(d.Notes) != 1 || len(d.List) != 1 || d.Withdraw("gauge") {
		t.Errorf("%+v %+v", d.Notes, d.List)
	}
	for _, n := range []Note{{About: " ", Text: "x"}, {About: "a", Text: " \n"}} {
		if err := d.PutNote(n); err == nil {
			t.Errorf("%+v is kept", n)
		}
	}
	for text, want := range map[string]string{
		"format: 1\nnotes: [{about: a, text: '', by: b, at: 2026-01-01}]":                  "the note on a says nothing",
		"format: 1\nnotes: [{about: '', text: x, by: b, at: 2026-01-01}]":                  "does not say what it is about",
		"format: 1\nnotes: [{about: a, text: x, by: b, at: 2026-01-01, till: 2026-02-02}]": "there is no key till",
		"notes: [{about: a, text: x, by: b, at: 2026-01-01}]":                              "format 0",
		"format: 1\nnotes: [{about: a, text: x, by: b, at: 2026-01-01}]":                   "",
	} {
		_, err := ReadDecisions(strings.NewReader(text))
		if (err == nil) != (want == "") || err != nil && !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v", text, err)
		}
	}
}

func names(t *catalog.Table) []string {
	var all []string
	for _, c := range t.Columns {
		all = append(all, c.Name)
	}
	return all
}
