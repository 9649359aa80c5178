package settings

import (
	"errors"
	"fmt"
	"strings"
	"testing"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
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

// TestStrike: what was refused goes, of what is likely and of what is in doubt, and is counted.
func TestStrike(t *testing.T) {
	ref := func(column string) evidence.Reference {
		return evidence.Reference{Schema: "s", Table: "gauge", Columns: []string{column}, TargetSchema: "s", Target: "station", TargetColumns: []string{"id"}}
	}
	e := &evidence.Evidence{References: []evidence.Reference{ref("a")}, Perhaps: []evidence.Reference{ref("b"), ref("c"), ref("d")}}
	d := &Decisions{List: []Decision{{About: "reference s.gauge (a)*", Verdict: Refuse}, {About: "reference s.gauge (c)*", Verdict: Refuse}, {About: "reference s.gauge (d)*", Verdict: Accept}}}
	if n := d.Strike(e, time.Now()); n != 2 || len(e.References) != 0 || len(e.Perhaps) != 2 || e.Perhaps[1].Columns[0] != "d" {
		t.Errorf("%d are struck: %+v", n, e)
	}
}

// TestFind: a reference of up to eight columns is found by its identifier.
func TestFind(t *testing.T) {
	station, gauge := &catalog.Table{Schema: "s", Name: "station"}, &catalog.Table{Schema: "s", Name: "gauge"}
	for i := range 9 {
		station.Columns = append(station.Columns, &catalog.Column{Name: fmt.Sprint("k", i)})
		gauge.Columns = append(gauge.Columns, &catalog.Column{Name: fmt.Sprint("c", i)})
	}
	c := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "s", Tables: []*catalog.Table{gauge, station}}}}
	for n := 1; n <= 9; n++ {
		id := referenceID(gauge.Ref(), names(gauge)[:n], station.Ref(), names(station)[:n])
		if Named(c, id) != (n <= 8) {
			t.Errorf("of %d columns: %v", n, Named(c, id))
		}
	}
}

// full is a disk that takes so many bytes.
type full struct{ room int }

func (f *full) Write(p []byte) (int, error) {
	if f.room -= len(p); f.room < 0 {
		return 0, errors.New("no space left")
	}
	return len(p), nil
}

// TestWriteFails: what cannot be written whole is an error, wherever it ends.
func TestWriteFails(t *testing.T) {
	d := &Decisions{List: []Decision{{About: "key/none s.a", Verdict: Accept, By: "ada"}}}
	var whole strings.Builder
	if err := d.Write(&whole); err != nil {
		t.Fatal(err)
	}
	for room := 0; room < whole.Len(); room += 20 {
		if err := d.Write(&full{room}); err == nil {
			t.Errorf("%d bytes of %d are enough", room, whole.Len())
		}
	}
	if err := d.Write(&full{whole.Len()}); err != nil {
		t.Error(err)
	}
}
