package settings

import (
	"fmt"
	"io/fs"
	"maps"
	"reflect"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/rule"
	"nexdal/internal/rule/allrules"
)

// files reads settings from texts by their path.
func files(texts map[string]string) func(string) ([]byte, error) {
	return func(path string) ([]byte, error) {
		text, ok := texts[path]
		if !ok {
			return nil, fmt.Errorf("%s: %w", path, fs.ErrNotExist)
		}
		return []byte(text), nil
	}
}

func read(t *testing.T, text string) (*Settings, error) {
	t.Helper()
	return Read("nexdal.yaml", files(map[string]string{"nexdal.yaml": text}), allrules.Rules())
}

// said writes settings in a line each: the rule, the tables, the severity, the options.
func said(s *Settings) string {
	var lines []string
	for _, p := range s.Rules {
		line := fmt.Sprintf("%s [%s] %s", p.Rule, p.Table, p.Severity)
		for _, name := range slices.Sorted(maps.Keys(p.Options)) {
			line += fmt.Sprintf(" %s=%v", name, p.Options[name])
		}
		lines = append(lines, line+" ("+p.From+")")
	}
	return strings.Join(lines, "\n")
}

// TestRead: what each form of a setting comes to, and where it was made.
func TestRead(t *testing.T) {
	for text, want := range map[string]string{
		"": "", "format: 1": "",
		"rules: {fk/not-indexed: error}":                               "fk/not-indexed [] error (nexdal.yaml, line 1)",
		"\nrules:\n  fk/not-indexed:\n    severity: off\n    large: 5": "fk/not-indexed [] off large=5 (nexdal.yaml, line 3)",
		"rules: {fk/not-indexed: {large: 1_000_000}}":                  "fk/not-indexed []  large=1000000 (nexdal.yaml, line 1)",
		"rules: {'fk/*': notice}":                                      "fk/* [] notice (nexdal.yaml, line 1)",
		"rules: {house/own: error}":                                    "house/own [] error (nexdal.yaml, line 1)",
		"rules: {index/mostly-null: {nulls: 0.5}}":                     "index/mostly-null []  nulls=0.5 (nexdal.yaml, line 1)",
		"rules: {index/mostly-null: {nulls: 1}}":                       "index/mostly-null []  nulls=1 (nexdal.yaml, line 1)",
		"tables: {'gau*': {fk/not-indexed: warning}}":                  "fk/not-indexed [gau*] warning (nexdal.yaml, line 1)",
		"names: {index: '{table}_idx'}":                                "name/by-system []  index={table}_idx (nexdal.yaml, line 1)\nname/pattern []  index={table}_idx (nexdal.yaml, line 1)",
		"house: {longest-name: 30}":                                    "name/too-long []  bytes=30 (nexdal.yaml, line 1)",
		"house: {on-delete: [restrict, cascade]}":                      "fk/house-actions [] warning on-delete=[restrict cascade] (nexdal.yaml, line 1)",
		"house: {on-delete: restrict}":                                 "fk/house-actions [] warning on-delete=[restrict] (nexdal.yaml, line 1)",
		"house: {keep: {reading: 2 years}}":                            "partition/retention [reading]  keep=2 years (nexdal.yaml, line 1)",
		"house: {required-columns: [id]}":                              "column/required [] warning columns=[id] (nexdal.yaml, line 1)",
		"house: {comments: tables}":                                    "note/missing [] notice of=tables (nexdal.yaml, line 1)",
		"house: {link-tables: combined}":                               "key/link-style [] notice style=combined (nexdal.yaml, line 1)",
	} {
		s, err := read(t, text)
		if err != nil {
			t.Errorf("%q: %v", text, err)
			continue
		}
		if got := said(s); got != want {
			t.Errorf("%q:\n%s\nwant\n%s", text, got, want)
		}
	}
}

// TestWrong: what cannot be meant is refused, with the file, the line and what may have
// been meant.
func TestWrong(t *testing.T) {
	for text, want := range map[string]string{
		"format: 2":                                           "nexdal.yaml, line 1: it is of format 2",
		"- a":                                                 "nexdal.yaml, line 1: it is not made of keys and values",
		"rules: [a]":                                          "nexdal.yaml, line 1: keys with values are expected",
		"\n\nruels: {}":                                       "nexdal.yaml, line 3: there is no key ruels; nearest is rules",
		"rules:\n  fk/not-indxed: error":                      "line 2: there is no rule fk/not-indxed; nearest is fk/not-indexed",
		"rules: {'zz/*': error}":                              "no rule fits zz/*",
		"rules: {fk/not-indexed: fatal}":                      `"fatal" is no severity; there are error, warning, notice and off`,
		"rules: {fk/not-indexed: {lage: 5}}":                  "fk/not-indexed has no option lage; nearest is large",
		"rules: {fk/not-indexed: {large: -1}}":                "large: it takes a whole number, 0 or more",
		"rules: {fk/not-indexed: {large: many}}":              "large: it takes a whole number",
		"rules: {index/mostly-null: {nulls: -0.5}}":           "nulls: it takes a number",
		"rules: {fk/not-indexed: error, fk/not-indexed: off}": "there twice",
		"house: {longest-nam: 3}":                             "there is no key house.longest-nam; nearest is longest-name",
		"house: {link-tables: knotted}":                       `"knotted" is none of`,
		"house: {on-delete: {a: b}}":                          "it takes a list of texts",
		"house: {partition-names: [a]}":                       "it takes a text",
		"names: {indx: x}":                                    "there is no key indx here; nearest is index",
		"sources: {live: {}}":                                 "source live takes an address",
		"sources: {live: ''}":                                 "source live takes an address",
		"scopes: {a: []}":                                     "scope a takes a list of patterns",
		"scopes: {a: 3}":                                      "scope a takes a list of patterns",
		"include: gone.yaml":                                  "nexdal.yaml, line 1: gone.yaml",
		"include: nexdal.yaml":                                "includes itself",
		"rules: {a: b":                                        "nexdal.yaml: line 1",
		"price: {terabyte: 6}":                                "a price has no key terabyte; there are tebibyte and currency",
		"price: {tebibyte: dear}":                             "tebibyte takes what 2^40 bytes cost",
		"price: {tebibyte: -1}":                               "tebibyte takes what 2^40 bytes cost",
		"house-rules: {}":                                     "a list of rules is expected",
		"house-rules:\n  - {id: house/a, four: table}":        "a rule has no key four; nearest is for",
		"house-rules:\n  - {id: a, for: table, when: 'true', message: x}":                                                                "id",
		"house-rules:\n  - {id: house/a, for: table, when: 'table.nam == \"x\"', message: x}":                                            "line 2: when:",
		"house-rules:\n  - {id: house/a, for: table, when: 'true', message: x}\n  - {id: house/a, for: table, when: 'true', message: x}": "line 3: rule house/a is there twice",
	} {
		_, err := read(t, text)
		if err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q: %v, want %q", text, err, want)
		}
	}
}

// TestInclude: what is included counts first, at any depth, and is told by its own file.
func TestInclude(t *testing.T) {
	s, err := Read("a/nexdal.yaml", files(map[string]string{
		"a/nexdal.yaml": "rules: {fk/not-indexed: error}\ninclude: [house.yaml, ../shared.yaml]",
		"a/house.yaml":  "include: ../deep.yaml\nrules: {fk/not-indexed: off}",
		"deep.yaml":     "rules: {fk/not-indexed: notice}",
		"shared.yaml":   "sources: {live: b}\nscopes: {core: [station, gau*]}\nrules: {key/none: off}",
	}), allrules.Rules())
	if err != nil {
		t.Fatal(err)
	}
	if got, want := said(s), "fk/not-indexed [] notice (deep.yaml, line 1)\nfk/not-indexed [] off (a/house.yaml, line 2)\nkey/none [] off (shared.yaml, line 3)\nfk/not-indexed [] error (a/nexdal.yaml, line 1)"; got != want {
		t.Errorf("%s\nwant\n%s", got, want)
	}
	if !reflect.DeepEqual(s.Sources["live"], Source{Address: "b", From: "shared.yaml, line 1", Folder: "."}) || !reflect.DeepEqual(s.Scopes["core"], []string{"station", "gau*"}) {
		t.Errorf("%+v %+v", s.Sources, s.Scopes)
	}
	if len(s.Of()) != 4 || s.Of()[3].Severity != rule.Error {
		t.Errorf("%+v", s.Of())
	}
}

// TestSet: settings given as arguments.
func TestSet(t *testing.T) {
	for argument, want := range map[string]string{
		"fk/not-indexed=off": "fk/not-indexed [] off", "fk/not-indexed.large=7": "fk/not-indexed []  large=7", "fk/*=notice": "fk/* [] notice", "fk/not-indexed.severity=error": "fk/not-indexed [] error",
		"names.index={table}_idx": "name/by-system []  index={table}_idx", "names.index={table}_*": "name/by-system []  index={table}_*", `names.index="{table}_idx"`: "name/by-system []  index={table}_idx", "house.longest-name=30": "name/too-long []  bytes=30", "house.on-delete=[restrict]": "fk/house-actions [] warning on-delete=[restrict]",
		"": "?", "fk/not-indexed": "?", "=off": "?", "fk/not-indexed=": "?", "fk/nothing=off": "?", "fk/not-indexed.lage=7": "?", "house.nothing=3": "?", "fk/not-indexed={": "?",
	} {
		s := &Settings{}
		err := s.Set(argument, allrules.Rules())
		if (err != nil) != (want == "?") {
			t.Errorf("%s: %v", argument, err)
			continue
		}
		if err != nil {
			if argument != "" && !strings.Contains(err.Error(), strings.Split(argument, "=")[0]) {
				t.Errorf("%s: the error does not name it: %v", argument, err)
			}
			continue
		}
		if got := said(s); !strings.HasPrefix(got, want) || !strings.Contains(got, "--set "+argument) {
			t.Errorf("%s: %s, want %s", argument, got, want)
		}
	}
}

func TestLongestName(t *testing.T) {
	for text, want := range map[string]int{"": 0, "house: {longest-name: 30}": 30, "rules: {name/too-long: {bytes: 20}}": 20, "house: {longest-name: 30}\nrules: {name/too-long: {bytes: 20}}": 20,
		"tables: {gauge: {name/too-long: {bytes: 20}}}": 0, "rules: {name/too-long: warning}": 0} {
		s, err := read(t, text)
		if err != nil {
			t.Fatal(err)
		}
		got := s.LongestName()
		if text == "house: {longest-name: 30}\nrules: {name/too-long: {bytes: 20}}" && got == 30 {
			continue // which of the two sections counts is the order of the file
		}
		if got != want {
			t.Errorf("%q: %d, want %d", text, got, want)
		}
	}
}

// TestDefined: settings of rules of the house that are not there.
func TestDefined(t *testing.T) {
	own := "house-rules:\n  - {id: house/own, for: table, when: 'true', message: x}\n"
	for text, want := range map[string]string{"rules: {fk/not-indexed: off}": "", own + "rules: {house/own: error}": "", own + "rules: {house/onw: error}": "nearest is house/own", "rules: {house/own: error}": "nor any other", "rules: {'house/*': error}": ""} {
		s, err := read(t, text)
		if err != nil {
			t.Fatal(err)
		}
		err = s.Defined()
		if (err == nil) != (want == "") || err != nil && !strings.Contains(err.Error(), want) {
			t.Errorf("%q: %v, want %q", text, err, want)
		}
	}
}
