package evidence

import (
	"fmt"
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

// TestWords: names are cut at signs and at changes of case, and their words are in the singular.
func TestWords(t *testing.T) {
	for name, want := range map[string]string{
		"gauge": "gauge", "gauge_models": "gauge model", "GaugeModels": "gauge model", "gaugeModelID": "gauge model id", "HTTPServer": "http server", "XMLId": "xml id", "ID": "id", "tide-table.no": "tide table no",
		"__a__b__": "a b", "": "", "_": "", "a1b2": "a1b2", "level2m": "level2m", "ÄrzteListe": "ärzte liste", "straße": "straße", "STATION_ID": "station id", "stationID2": "station id2", "A": "a", "aB": "a b", "ABc": "a bc",
		"people": "person", "children": "child", "indices": "index", "series": "series", "news": "news", "aliases": "alias", "alias": "alias", "buses": "bus", "categories": "category", "ties": "tie", "dies": "die",
		"classes": "class", "boxes": "box", "branches": "branch", "dishes": "dish", "statuses": "status", "class": "class", "status": "status", "basis": "basis", "gas": "gas", "gauges": "gauge", "yes": "yes", "ids": "id", "abuses": "abus", "uses": "use",
	} {
		if got := strings.Join(words(name), " "); got != want {
			t.Errorf("%q: %q, want %q", name, got, want)
		}
	}
}

// TestTerms: the handle at either end, in the middle, or in one word with the thing; and plurals.
func TestTerms(t *testing.T) {
	for name, want := range map[string]string{
		"station_id": "station + id", "id_station": "station + id in front", "fk_station": "station + fk in front", "station": "station", "stations": "station, many", "station_ids": "station + id, many", "id": "id", "name": "name",
		"station_name": "station + name", "name_station": "name station", "station_id_home": "station home + id in front", "station_no_home": "station home + no in front", "station_code_home": "station code home",
		"stationid": "station + id", "stationcode": "station + code", "stationsid": "station + id", "idstation": "station + id", "idea": "idea", "ident": "ident", "noid": "noid", "valid": "val + id", "gauge_stationid": "gauge station + id",
		"triggerid_up": "trigger up + id in front", "valid_from": "valid from", "idle_at": "idle at", "station_uuid": "station + uuid", "uuid_of": "of + uuid in front", "gas": "gas", "aliases": "alias, many", "address": "address", "status": "status",
		"a_b_id_c_d": "a b c d + id in front", "xno": "xno", "boatno": "boat + no", "piano": "pia + no", "": "",
	} {
		x := termOf(name, words(name))
		got := strings.Join(x.stem, " ")
		if x.handle != "" {
			got += " + " + x.handle
		}
		if x.front {
			got += " in front"
		}
		if x.many {
			got += ", many"
		}
		if got != want {
			t.Errorf("%q: %q, want %q", name, got, want)
		}
	}
}

// TestLeading: a word that nearly all columns of a table begin with says nothing of any.
func TestLeading(t *testing.T) {
	table := func(columns ...string) *catalog.Table {
		t := &catalog.Table{Name: "station", Schema: "tide"}
		for _, c := range columns {
			t.Columns = append(t.Columns, &catalog.Column{Name: c})
		}
		return t
	}
	for columns, want := range map[string]string{
		"st_id st_name st_code": "st", "st_id st_name st_code st_kind other": "st", "st_id st_name st_code a b": "", "st_id st_name": "", "id_a id_b id_c": "", "a b c": "", "x st_id st_name st_code st_kind": "st", "st_a xx_b st_c xx_d": "",
	} {
		at := table(strings.Fields(columns)...)
		n := namesOf([]*catalog.Table{at})
		var alone [][]term
		for _, c := range at.Columns {
			alone = append(alone, n.alone[c.Name])
		}
		if got := leading(alone); got != want {
			t.Errorf("%s: %q, want %q", columns, got, want)
		}
		if of := n.of(at, at.Columns[len(at.Columns)-1].Name); (len(of) == 2) != (want != "" && strings.HasPrefix(at.Columns[len(at.Columns)-1].Name, want+"_")) {
			t.Errorf("%s: the last column has %d terms", columns, len(of))
		}
	}
}

// TestEnds: how much the stem of a column is a table's name, by each of the ways in which it may be.
func TestEnds(t *testing.T) {
	for _, c := range []struct {
		stem, tab, own string
		want           float64
	}{
		{"station", "station", "gauge", 1}, {"stationpier", "station pier", "gauge", 1}, {"station pier", "stationpier", "gauge", 1}, {"home station", "station", "gauge", 0.9}, {"home gauge model", "gauge model", "x", 0.9},
		{"homestation", "station", "gauge", 0.8}, {"astation", "station", "gauge", 0}, {"xxpier", "pier", "gauge", 0.8}, {"xxbay", "bay", "gauge", 0}, {"station by", "station", "gauge", 0.8}, {"station parent", "station", "gauge", 0.8}, {"station from", "station", "gauge", 0.8}, {"station type", "station", "gauge", 0.4},
		{"model", "gauge model", "visit", 0.75}, {"type", "artist type", "artist", 0.85}, {"user", "auth user", "auth group", 0.85}, {"user", "auth user", "group", 0.75}, {"line", "ol line", "order", 0.75},
		{"stn", "station", "gauge", 0.7}, {"stat", "station", "gauge", 0.8}, {"sta", "station", "gauge", 0.7}, {"stn mod", "station model", "gauge", 0.7}, {"ol", "order line", "x", 0.6}, {"mod", "gauge model", "x", 0.6}, {"repl stn", "station", "x", 0.6},
		{"part", "part master", "x", 0.75}, {"part", "part price", "x", 0}, {"s", "station", "x", 0}, {"", "station", "x", 0}, {"usermodified", "user", "x", 0.7}, {"userowner", "user", "x", 0.7}, {"usermode", "user", "x", 0}, {"boat", "station", "x", 0},
	} {
		if got := ends(strings.Fields(c.stem), strings.Fields(c.tab), strings.Fields(c.own)); got != c.want {
			t.Errorf("%s in %s of %s: %v, want %v", c.stem, c.own, c.tab, got, c.want)
		}
	}
}

// TestAbbreviates: a beginning of three letters and more, or letters in order from the first on.
func TestAbbreviates(t *testing.T) {
	for pair, want := range map[string]bool{
		"stn station": true, "sta station": true, "st station": false, "station station": true, "ston station": true, "tat station": false, "xyz station": false, "stations station": false, "nts station": false, "add address": true, "adr address": true, "lang language": true,
	} {
		var short, long string
		fmt.Sscan(pair, &short, &long)
		if got := abbreviates(short, long); got != want {
			t.Errorf("%s: %v", pair, got)
		}
	}
	for pair, want := range map[string]bool{"lang language": true, "lan language": false, "langu language": true, "lang lang": false, "cate categorisation": false, "stat station": true, "ngua language": false} {
		var short, long string
		fmt.Sscan(pair, &short, &long)
		if got := shortened([]string{short}, []string{long}); got != want {
			t.Errorf("%s shortened: %v", pair, got)
		}
	}
	if shortened([]string{"lang"}, []string{"language", "text"}) || shortened([]string{"my", "lang"}, []string{"language"}) {
		t.Error("more words than one are shortened")
	}
}
